"""Spectra in spreadsheets: the first sheet, read as if it were delimited text."""

import io
import zipfile

from even_beam.formats import delimited
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum

MAX_CELLS = 2_000_000
MAX_UNPACKED_BYTES = 256 * 1024 * 1024


def read(data: bytes, name: str, mapping: delimited.Mapping | None = None) -> list[NamedSpectrum]:
    """All spectra of the first sheet. Raises `FormatError`."""
    return delimited.read_lines(lines_of(data, name), name, mapping)


def lines_of(data: bytes, name: str) -> list[str]:
    """The first sheet as tab-separated lines, within a bound on what it unpacks to. Raises `FormatError`."""
    from openpyxl import load_workbook

    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(entry.file_size for entry in packed.infolist()) > MAX_UNPACKED_BYTES:
                raise FormatError(f"{name}: unpacked it would be larger than any sheet of spectra; it was not read")
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        lines, cells = [], 0
        for row in book.worksheets[0].iter_rows(values_only=True):
            cells += len(row)
            if cells > MAX_CELLS:
                raise FormatError(f"{name}: the sheet has more than {MAX_CELLS} cells")
            lines.append("\t".join("" if cell is None else _text(cell) for cell in row))
        book.close()
    except FormatError:
        raise
    except Exception as error:  # the package raises whatever its parsers meet in a broken file
        raise FormatError(f"{name} is not a readable spreadsheet: {error}") from error
    return lines


def _text(cell: object) -> str:
    return repr(cell) if isinstance(cell, float) else str(cell)
