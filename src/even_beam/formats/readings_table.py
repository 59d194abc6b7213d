"""The flat table of past readings, CSV or XLSX (columns in docs/file-format.md).

One row a figure; rows that share session, fixture, setting, place and time belong to one reading. Any subset of the
columns will do but `quantity` and `value`; other tables are read by a mapping of their columns (`columns.py`), also
such as have a column a quantity. Texts stay as they were typed; nothing is computed here.
"""

import csv
import io
import itertools
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from even_beam.files.reading import shown_name
from even_beam.formats import columns, spreadsheet
from even_beam.formats.columns import COLUMNS, FURTHER_COLUMNS
from even_beam.formats.errors import FormatError
from even_beam.formats.sheet_layout import HEADER_ROWS, Layout, LeftOut, Place, Row, laid_out
from even_beam.formats.spectrum_file import decode, read_bytes

_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f]")

MAX_ROWS = 200_000
MAX_CELLS, MAX_COLUMNS = 4_000_000, 5000
_ROUND = 3
"""So many round whites are no accident."""


@dataclass(frozen=True, slots=True)
class PastFigure:
    """One row: where it stands, for messages, and its cells by column, empty where there is none."""

    where: Place
    cells: dict[str, str]

    def __getitem__(self, column: str) -> str:
        """The text of a column, empty when the table has none."""
        return self.cells.get(column, "")


@dataclass(frozen=True, slots=True)
class Table:
    """A table's headings and rows, each with where it stands, before anything is understood; `left_out` is what of it
    no row holds."""

    name: str
    headings: tuple[str, ...]
    rows: tuple[Row, ...]
    left_out: tuple[LeftOut, ...] = ()

    @property
    def shape(self) -> str:
        """What files of this shape have in common: their headings."""
        return "readings " + "|".join(text.strip().lower() for text in self.headings)

    def headed(self, names: Sequence[str]) -> "Table":
        """The same table under other headings, in their order, each with the terms that stand in its own unless it says
        some; what is past them is left out. Raises `FormatError`."""
        if len(names) > len(self.headings):
            raise FormatError(f"{self.name} has {len(self.headings)} columns: {', '.join(self.headings)}")
        named = [*names, *[""] * (len(self.headings) - len(names))]
        return replace(self, headings=tuple(map(_renamed, named, self.headings)))


def _renamed(name: str, before: str) -> str:
    """A heading's new name, at the terms of the old one where it says none itself; empty for a column left out."""
    given = name.strip()
    at = columns.heading(before).at
    if given in {"", "-"} or not at or columns.heading(given).at:
        return "" if given == "-" else given
    return f"{given} @ {', '.join(text for _, text in at)}"


class UnknownColumnsError(FormatError):
    """A table whose columns have to be explained once; `table` holds it, `guess` what they probably are."""

    def __init__(self, table: Table, guess: dict[str, str]) -> None:
        strange = [text for text, target in guess.items() if target == columns.IGNORED and text.strip()]
        what = f"unknown column {', '.join(strange)}" if strange else f"the columns {', '.join(table.headings)}"
        super().__init__(
            f"{table.name}: the first line must name the columns, quantity and value among them; {what}. Known are:"
            f" {', '.join((*COLUMNS, *FURTHER_COLUMNS))}. Dropped on the Bench, it is asked once what each column is"
        )
        self.table, self.guess = table, guess


def load(path: Path) -> Table:
    """The headings and rows of a CSV or XLSX file, however it is laid out. Raises `FormatError`."""
    name = shown_name(path)
    filled = [(title, kept) for title, rows in _sheets(path) if (kept := list(_limited(rows, name)))]
    sheets = [(title, laid_out(_placed(rows, title if len(filled) > 1 else ""))) for title, rows in filled]
    told = [(title, one) for title, one in sheets if any(one.headings)]
    if not told:
        raise FormatError(f"{name} is empty")
    layout = _a_lamp_a_sheet(told) if len(told) > 1 else told[0][1]
    rows = [(where, tuple(_from_text(cell) for cell in row)) for where, row in layout.rows]
    if not rows:
        raise FormatError(f"{name} has column names but no rows")
    return Table(name, layout.headings, tuple(rows), layout.left_out)


def _placed(rows: Iterable[list[str]], sheet: str = "") -> list[Row]:
    """The rows of a sheet, each with where it stands."""
    return [(Place(sheet, line), tuple(cell.strip() for cell in row)) for line, row in enumerate(rows, start=1)]


def _a_lamp_a_sheet(sheets: Sequence[tuple[str, Layout]]) -> Layout:
    """Sheets of one shape as one table, each under its lamp's name unless a column names the lamps; sheets of another
    shape are left out, and it is said."""
    first = sheets[0][1]
    alike = [(title, one) for title, one in sheets if one.headings == first.headings]
    why = "are other columns than those of the first sheet: bring it in alone"
    others = [(title, one) for title, one in sheets if one.headings != first.headings]
    left = tuple(LeftOut(Place(title, 1), " · ".join(one.headings), why) for title, one in others)
    named = "fixture" in columns.guess(first.headings).values()
    if len(alike) == 1:
        return replace(first, left_out=(*first.left_out, *left))
    head = first.headings if named else ("lamp", *first.headings)
    rows = tuple((where, cells if named else (title, *cells)) for title, one in alike for where, cells in one.rows)
    sums = tuple(out for _, one in alike for out in one.left_out)
    return Layout(head, rows, (*sums, *left))


def guess_of(table: Table) -> dict[str, str]:
    """What each column probably is, by its heading and what stands in it.

    A colour temperature that is a whole hundred in every row was dialled: no meter reads like that (common practice, no
    source).
    """
    guess = columns.guess(table.headings)
    for text, target in guess.items():
        cells = [row[place] for _, row in table.rows for place in [table.headings.index(text)] if place < len(row)]
        for column, quantity, pattern in _TOLD_BY_CELLS:
            said = [cell for cell in cells if cell]
            if target == column and said and all(pattern.fullmatch(cell) for cell in said):
                guess[text] = f"{columns.MEASURED}{quantity}"
    read = next((text for text, target in guess.items() if target == f"{columns.MEASURED}cct"), None)
    if read is None or "cct_k" in guess.values():
        return guess
    place = table.headings.index(read)
    cells = [row[place] for _, row in table.rows if place < len(row) and row[place]]
    numbers = [re.fullmatch(r"\d+00 ?[kK]?", cell) for cell in cells]
    return {**guess, read: "cct_k"} if len(cells) >= _ROUND and all(numbers) else guess


def headings_of(path: Path) -> tuple[str, ...]:
    """The cells of the line that names the columns alone. Raises `FormatError`."""
    name, (_, rows) = shown_name(path), next(iter(_sheets(path)), ("", iter(())))
    first = itertools.islice(_of_bearable_width(rows, name), HEADER_ROWS)
    return laid_out(_placed(first)).headings


def _sheets(path: Path) -> Iterator[tuple[str, Iterator[list[str]]]]:
    """The sheets of a file with their titles; text has one."""
    data, name = read_bytes(path), shown_name(path)
    if path.suffix.lower() == ".xlsx":
        yield from spreadsheet.sheets_of(data, name)
    else:
        yield name, _csv_rows(data, name)


def _limited(rows: Iterator[list[str]], name: str) -> Iterator[list[str]]:
    cells = 0
    for line, row in enumerate(_of_bearable_width(rows, name), start=1):
        cells += len(row)
        if line > MAX_ROWS or cells > MAX_CELLS:
            raise FormatError(f"{name} has more than {MAX_ROWS} rows or {MAX_CELLS} cells; split it")
        yield row


def _of_bearable_width(rows: Iterator[list[str]], name: str) -> Iterator[list[str]]:
    for row in rows:
        if len(row) > MAX_COLUMNS:
            raise FormatError(f"{name}: a line of {len(row)} cells is no row of a table")
        yield row


def figures_of(table: Table, mapping: Mapping[str, str] | None = None) -> list[PastFigure]:
    """The figures of a table: one a row, or several where a row holds a column a quantity.

    Without a mapping the columns must be those of the format. Raises `UnknownColumnsError`.
    """
    if mapping is None:
        if not columns.is_known(table.headings):
            raise UnknownColumnsError(table, columns.guess(table.headings))
        mapping = columns.guess(table.headings)
    targets = [columns.checked(mapping).get(text, columns.IGNORED) for text in table.headings]
    headings = [columns.heading(text) for text in table.headings]
    found: list[PastFigure] = []
    for where, row in table.rows:
        found += _figures(where, list(zip(targets, headings, row, strict=False)))
    return found


_TOLD_BY_CELLS = (
    ("tint", "cc", re.compile(r"[+-]?\d{1,2}(?:\.\d)?\s*[MG]|[MG]\s*\d{1,2}(?:\.\d)?")),
    ("tint", "duv", re.compile(r"[+\-−]?0?[.,]0\d{1,4}")),
)
"""A column of tint that no dial can have: what a meter shows in CC, and Duv."""


def _figures(where: Place, cells: Sequence[tuple[str, columns.Heading, str]]) -> list[PastFigure]:
    common = {
        target: _with_unit(text, one.unit) if target == "distance" else text
        for target, one, text in cells
        if text and target and not target.startswith(columns.MEASURED)
    }
    wide = [
        PastFigure(where, {**common, **_own(target, one), "value": text})
        for target, one, text in cells
        if text and target.startswith(columns.MEASURED)
    ]
    if not wide and len(common) < 2:
        return []  # a remark, or the name of a section
    return wide + ([PastFigure(where, common)] if (common.get("quantity") and common.get("value")) or not wide else [])


def _own(target: str, one: columns.Heading) -> dict[str, str]:
    """What a column says of its figures: their quantity, their unit, and the terms that its heading names."""
    own = {"quantity": target.removeprefix(columns.MEASURED), "unit": one.unit}
    return {**own, **dict(one.at)}


def _with_unit(text: str, unit: str) -> str:
    """A bare number with the unit of its heading."""
    return f"{text} {unit}" if unit and _is_number(text.replace(",", ".")) else text


def _csv_rows(data: bytes, name: str) -> Iterator[list[str]]:
    text = decode(data)
    first = text.partition("\n")[0]
    delimiter = max(",;\t", key=first.count)
    try:
        yield from csv.reader(io.StringIO(text), delimiter=delimiter)
    except csv.Error as error:
        raise FormatError(f"{name} is not a readable table: its text does not come in lines and columns") from error


def write_csv(rows: Sequence[dict[str, str]]) -> str:
    """The text of a table with all columns of the format."""
    text = io.StringIO()
    writer = csv.DictWriter(text, [*COLUMNS, *FURTHER_COLUMNS], restval="", lineterminator="\n")
    writer.writeheader()
    writer.writerows({name: _as_text(cell) for name, cell in row.items()} for row in rows)
    return text.getvalue()


_FORMULA = ("=", "+", "-", "@")
"""What a spreadsheet takes for a formula at the beginning of a cell."""


def _as_text(cell: str) -> str:
    """A text that a spreadsheet shows and does not work out; numbers stay as they are."""
    return f"'{cell}" if cell.startswith(_FORMULA) and not _is_number(cell) else cell


def _from_text(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(_FORMULA) else cell


def workbook(rows: Sequence[dict[str, str]]) -> bytes:
    """A workbook with one sheet; a text that begins with “=” stays text."""
    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active
    sheet.title = "readings"
    names = [*COLUMNS, *FURTHER_COLUMNS]
    sheet.append(names)
    for number, row in enumerate(rows, start=2):
        for place, name in enumerate(names, start=1):
            text = row.get(name, "")
            if not text:
                continue
            cell = sheet.cell(number, place)
            if name in {"value", "cct_k", "dimmer_pct"} and _is_number(text):
                cell.value = float(text)
            else:
                cell.value = _CONTROL.sub("\N{REPLACEMENT CHARACTER}", text)  # a sheet cannot hold them
                cell.data_type = "s"
    sheet.freeze_panes = "A2"
    made = io.BytesIO()
    book.save(made)
    return made.getvalue()


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True
