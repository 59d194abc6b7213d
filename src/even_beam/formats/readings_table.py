"""The flat table of past readings, CSV or XLSX (columns in docs/file-format.md).

One row a figure; rows that share session, fixture, setting, place and time belong to one reading. Any subset of the
columns will do but `quantity` and `value`. Texts stay as they were typed; nothing is computed here.
"""

import csv
import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import decode, read_bytes

COLUMNS = (
    "session", "fixture", "mode", "cct_k", "tint", "dimmer_pct", "configuration", "distance", "position", "quantity",
    "value", "unit", "meter", "time", "note",
)  # fmt: skip
FURTHER_COLUMNS = (
    "hue", "saturation", "zoom", "iso", "shutter", "receptor_c", "ssi_reference", "reference_plane", "fan", "power_source",
    "qualifier",
    "origin",
)  # fmt: skip

MAX_ROWS = 500_000


@dataclass(frozen=True, slots=True)
class PastFigure:
    """One row: its line number for messages, and its cells by column, empty where there is none."""

    line: int
    cells: dict[str, str]

    def __getitem__(self, column: str) -> str:
        """The text of a column, empty when the table has none."""
        return self.cells.get(column, "")


def is_table(path: Path) -> bool:
    """Whether a file looks like this table rather than like spectra: a spreadsheet, or columns named by the format."""
    if path.suffix.lower() == ".xlsx":
        return True
    if path.suffix.lower() == ".json":
        return False
    with path.open("rb") as file:
        first = file.read(2000).decode("utf-8", errors="replace").lstrip("\ufeff").partition("\n")[0].lower()
    return "quantity" in first and "value" in first


def read(path: Path) -> list[PastFigure]:
    """The rows of a table. Raises `FormatError` when the columns are not those of the format."""
    data = read_bytes(path)
    rows = _xlsx_rows(path) if path.suffix.lower() == ".xlsx" else _csv_rows(data)
    try:
        header = [cell.strip().lower().replace(" ", "_") for cell in next(rows)]
    except StopIteration:
        raise FormatError(f"{path.name} is empty") from None
    known = {*COLUMNS, *FURTHER_COLUMNS}
    missing = [name for name in ("quantity", "value") if name not in header]
    if missing:
        raise FormatError(
            f"{path.name}: the first line must name the columns, {' and '.join(missing)} among them. It has: {', '.join(header)}"
        )
    strangers = [name for name in header if name and name not in known]
    if strangers:
        raise FormatError(
            f"{path.name}: unknown column {', '.join(strangers)}. Known are: {', '.join((*COLUMNS, *FURTHER_COLUMNS))}"
        )
    figures = []
    for line, row in enumerate(rows, start=2):
        cells = {name: cell.strip() for name, cell in zip(header, row, strict=False) if name and cell.strip()}
        if cells:
            figures.append(PastFigure(line, cells))
        if line > MAX_ROWS:
            raise FormatError(f"{path.name} has more than {MAX_ROWS} rows; split it")
    if not figures:
        raise FormatError(f"{path.name} has column names but no rows")
    return figures


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
    columns = [*COLUMNS, *FURTHER_COLUMNS]
    sheet.append(columns)
    for number, row in enumerate(rows, start=2):
        for place, name in enumerate(columns, start=1):
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
