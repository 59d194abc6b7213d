"""The flat table of past readings, CSV or XLSX (columns in docs/file-format.md).

One row a figure; rows that share session, fixture, setting, place and time belong to one reading. Any subset of the
columns will do but `quantity` and `value`; other tables are read by a mapping of their columns (`columns.py`), also
such
as have a column a quantity. Texts stay as they were typed; nothing is computed here.
"""

import csv
import io
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

from even_beam.formats import columns
from even_beam.formats.columns import COLUMNS, FURTHER_COLUMNS
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import decode, read_bytes

MAX_ROWS = 500_000


@dataclass(frozen=True, slots=True)
class PastFigure:
    """One row: its line number for messages, and its cells by column, empty where there is none."""

    line: int
    cells: dict[str, str]

    def __getitem__(self, column: str) -> str:
        """The text of a column, empty when the table has none."""
        return self.cells.get(column, "")


@dataclass(frozen=True, slots=True)
class Table:
    """A table's headings and rows, each with its line number, before anything is understood."""

    name: str
    headings: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]

    @property
    def shape(self) -> str:
        """What files of this shape have in common: their headings."""
        return "readings " + "|".join(text.strip().lower() for text in self.headings)


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
    """The headings and rows of a CSV or XLSX file. Raises `FormatError`."""
    data = read_bytes(path)
    rows = _xlsx_rows(path) if path.suffix.lower() == ".xlsx" else _csv_rows(data)
    headings = tuple(cell.strip() for cell in next(rows, []))
    if not any(headings):
        raise FormatError(f"{path.name} is empty")
    kept = []
    for line, row in enumerate(rows, start=2):
        if line > MAX_ROWS:
            raise FormatError(f"{path.name} has more than {MAX_ROWS} rows; split it")
        if any(cell.strip() for cell in row):
            kept.append((line, tuple(cell.strip() for cell in row)))
    if not kept:
        raise FormatError(f"{path.name} has column names but no rows")
    return Table(path.name, headings, tuple(kept))


def headings_of(path: Path) -> tuple[str, ...]:
    """The cells of the first line alone. Raises `FormatError`."""
    if path.suffix.lower() == ".xlsx":
        return tuple(cell.strip() for cell in next(_xlsx_rows(path), []))
    try:
        with path.open("rb") as file:
            head = file.read(8000)
    except OSError as error:
        raise FormatError(f"{path.name} cannot be read: {error.strerror}") from error
    return tuple(cell.strip() for cell in next(_csv_rows(head), []))


def figures_of(table: Table, mapping: Mapping[str, str] | None = None) -> list[PastFigure]:
    """The figures of a table: one a row, or several where a row holds a column a quantity.

    Without a mapping the columns must be those of the format. Raises `UnknownColumnsError`.
    """
    if mapping is None:
        if not columns.is_known(table.headings):
            raise UnknownColumnsError(table, columns.guess(table.headings))
        mapping = columns.guess(table.headings)
    targets = [columns.checked(mapping).get(text, columns.IGNORED) for text in table.headings]
    units = [columns.heading(text).unit for text in table.headings]
    found: list[PastFigure] = []
    for line, row in table.rows:
        found += _figures(line, list(zip(targets, units, row, strict=False)))
    return found


def _figures(line: int, cells: Sequence[tuple[str, str, str]]) -> list[PastFigure]:
    common = {
        target: _with_unit(text, unit) if target == "distance" else text
        for target, unit, text in cells
        if text and target and not target.startswith(columns.MEASURED)
    }
    wide = [
        PastFigure(line, {**common, "quantity": target.removeprefix(columns.MEASURED), "value": text, "unit": unit})
        for target, unit, text in cells
        if text and target.startswith(columns.MEASURED)
    ]
    return wide + ([PastFigure(line, common)] if (common.get("quantity") and common.get("value")) or not wide else [])


def _with_unit(text: str, unit: str) -> str:
    """A bare number with the unit of its heading."""
    return f"{text} {unit}" if unit and _is_number(text.replace(",", ".")) else text


def _csv_rows(data: bytes) -> Iterator[list[str]]:
    text = decode(data)
    first = text.partition("\n")[0]
    delimiter = max(",;\t", key=first.count)
    try:
        yield from csv.reader(io.StringIO(text), delimiter=delimiter)
    except csv.Error as error:
        raise FormatError(f"not a readable table: {error}") from error


def _xlsx_rows(path: Path) -> Iterator[list[str]]:
    import zipfile

    from openpyxl import load_workbook

    try:
        book = load_workbook(path, read_only=True, data_only=True)
        sheet = book.worksheets[0]
        for row in sheet.iter_rows(values_only=True):
            yield ["" if cell is None else _cell_text(cell) for cell in row]
        book.close()
    except (zipfile.BadZipFile, KeyError, ValueError, OSError, EOFError) as error:
        raise FormatError(f"{path.name} is not a readable spreadsheet: {error}") from error


def _cell_text(cell: object) -> str:
    if isinstance(cell, float):
        return f"{cell:.12g}"
    isoformat = getattr(cell, "isoformat", None)
    return str(isoformat() if isoformat is not None else cell)


def write_csv(rows: Sequence[dict[str, str]]) -> str:
    """The text of a table with all columns of the format."""
    text = io.StringIO()
    writer = csv.DictWriter(text, [*COLUMNS, *FURTHER_COLUMNS], restval="", lineterminator="\n")
    writer.writeheader()
    writer.writerows(rows)
    return text.getvalue()


def write_xlsx(rows: Sequence[dict[str, str]], path: Path) -> None:
    """A workbook with one sheet; a text that begins with “=” stays text. Raises `FormatError`."""
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
                cell.value = text
                cell.data_type = "s"
    sheet.freeze_panes = "A2"
    try:
        book.save(path)
    except OSError as error:
        raise FormatError(f"{path.name} cannot be written: {error.strerror}") from error


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True
