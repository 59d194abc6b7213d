"""Spectra in spreadsheets: the first sheet, read as if it were delimited text."""

import io
import zipfile
from collections.abc import Iterator

from even_beam.formats import delimited
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum

MAX_CELLS = 1_000_000
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
    from openpyxl import load_workbook

    cells = 0
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(_unpacked(packed, entry) for entry in packed.infolist()) > MAX_UNPACKED_BYTES:
                raise FormatError(f"{name}: unpacked it would be larger than any sheet that is read here")
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        for row in book.worksheets[0].iter_rows(values_only=True):
            cells += len(row)
            if cells > MAX_CELLS:
                raise FormatError(f"{name}: the sheet has more than {MAX_CELLS} cells")
            yield row
        book.close()
    except FormatError:
        raise
    except Exception as error:  # the package raises whatever its parsers meet in a broken file
        raise FormatError(f"{name} is not a readable spreadsheet: {error}") from error


def _unpacked(packed: zipfile.ZipFile, entry: zipfile.ZipInfo) -> int:
    """What a member unpacks to, counted and not believed; no more than the bound is unpacked."""
    size = 0
    with packed.open(entry) as member:
        while size <= MAX_UNPACKED_BYTES and (part := member.read(1024 * 1024)):
            size += len(part)
    return size


def _text(cell: object) -> str:
    return repr(cell) if isinstance(cell, float) else str(cell)
