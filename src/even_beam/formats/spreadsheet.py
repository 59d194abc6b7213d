"""Spreadsheets: their sheets as texts, and spectra in the first of them, read as if it were delimited text."""

import io
import zipfile
from collections.abc import Iterator, Sequence
from datetime import datetime, time
from typing import Any

from even_beam.formats import delimited
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum
from even_beam.words.decimal_sign import with_points

MAX_CELLS = 1_000_000
MAX_MERGED_BYTES = 2 * 1024 * 1024
"""Packed; what people lay out by hand is far smaller."""
MAX_UNPACKED_BYTES = 64 * 1024 * 1024


def read(data: bytes, name: str, mapping: delimited.Mapping | None = None) -> list[NamedSpectrum]:
    """All spectra of the first sheet. Raises `FormatError`."""
    return delimited.read_lines(lines_of(data, name), name, mapping)


def lines_of(data: bytes, name: str) -> list[str]:
    """The first sheet as tab-separated lines, within a bound on what it unpacks to. Raises `FormatError`."""
    return ["\t".join("" if cell is None else _text(cell) for cell in row) for row in rows_of(data, name)]


def rows_of(data: bytes, name: str) -> Iterator[tuple[object, ...]]:
    """The rows of the first sheet, within bounds on what it unpacks to and how many cells it has.

    Raises `FormatError` while it is read.
    """
    for _, rows in _opened(data, name):
        yield from ([cell.value for cell in row] for row in rows)  # type: ignore[misc]
        return


def sheets_of(data: bytes, name: str) -> Iterator[tuple[str, Iterator[list[str]]]]:
    """Every sheet that is shown, with its title, as texts: a per cent as one, a merged cell over all that it covers.

    Raises `FormatError` while it is read.
    """
    merged = _merged(data, name)
    for place, (title, rows) in enumerate(_opened(data, name)):
        yield title, _filled(rows, merged.get(place, []))


def _filled(rows: "Iterator[tuple[Any, ...]]", merged: Sequence[tuple[int, int, int, int]]) -> Iterator[list[str]]:
    """Rows of cells as texts, with what merged cells say wherever they lie (rows and columns counted from one)."""
    said: dict[tuple[int, int, int, int], str] = {}
    for number, row in enumerate(rows, start=1):
        texts = [_shown(cell) for cell in row]
        for area in merged:
            left, top, right, bottom = area
            if not top <= number <= bottom or left > len(texts):
                continue
            if number == top:
                said[area] = texts[left - 1]
            for place in range(left - 1, min(right, len(texts))):
                texts[place] = said.get(area, "")
        yield texts


def _shown(cell: Any) -> str:
    """A cell as people see it: 50 % where 0.5 is kept, a day without the midnight it begins at."""
    value = cell.value
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.isoformat() if value.time() != time() else value.date().isoformat()
    if isinstance(value, int | float) and not isinstance(value, bool):
        if "%" in str(getattr(cell, "number_format", "")):
            return f"{100.0 * value:.10g} %"
        return with_points(f"{value:.12g}", ".") if isinstance(value, float) else str(value)
    return str(value)


def _opened(data: bytes, name: str) -> "Iterator[tuple[str, Iterator[tuple[Any, ...]]]]":
    """The sheets that are shown, with their rows of cells, within the bounds."""
    from openpyxl import load_workbook

    try:
        _within_bounds(data, name)
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        for sheet in book.worksheets:
            if sheet.sheet_state == "visible":
                yield sheet.title, _bounded(sheet.iter_rows(), name)
        book.close()
    except FormatError:
        raise
    except Exception as error:  # the package raises whatever its parsers meet in a broken file
        raise FormatError(f"{name} is not a readable spreadsheet: {error}") from error


def _bounded(rows: "Iterator[tuple[Any, ...]]", name: str) -> "Iterator[tuple[Any, ...]]":
    cells = 0
    try:
        for row in rows:
            cells += len(row)
            if cells > MAX_CELLS:
                raise FormatError(f"{name}: the sheet has more than {MAX_CELLS} cells")
            yield row
    except FormatError:
        raise
    except Exception as error:  # as above
        raise FormatError(f"{name} is not a readable spreadsheet: {error}") from error


def _within_bounds(data: bytes, name: str) -> None:
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        if sum(_unpacked(packed, entry) for entry in packed.infolist()) > MAX_UNPACKED_BYTES:
            raise FormatError(f"{name}: unpacked it would be larger than any sheet that is read here")


def _merged(data: bytes, name: str) -> dict[int, list[tuple[int, int, int, int]]]:
    """The merged areas of each sheet that is shown, by its place: reading them takes the whole book, so only small ones
    are looked at."""
    from openpyxl import load_workbook

    if len(data) > MAX_MERGED_BYTES:
        return {}
    try:
        _within_bounds(data, name)
        book = load_workbook(io.BytesIO(data), data_only=True)
    except FormatError:
        raise
    except Exception as error:  # as above
        raise FormatError(f"{name} is not a readable spreadsheet: {error}") from error
    shown = [sheet for sheet in book.worksheets if sheet.sheet_state == "visible"]
    return {place: [area.bounds for area in sheet.merged_cells.ranges] for place, sheet in enumerate(shown)}


def _unpacked(packed: zipfile.ZipFile, entry: zipfile.ZipInfo) -> int:
    """What a member unpacks to, counted and not believed; no more than the bound is unpacked."""
    size = 0
    with packed.open(entry) as member:
        while size <= MAX_UNPACKED_BYTES and (part := member.read(1024 * 1024)):
            size += len(part)
    return size


def _text(cell: object) -> str:
    return repr(cell) if isinstance(cell, float) else str(cell)
