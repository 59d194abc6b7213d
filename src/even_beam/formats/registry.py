"""The one place that knows which formats there are."""

from collections.abc import Callable, Sequence
from pathlib import Path

from even_beam.files.reading import shown_name, shown_stem
from even_beam.files.writing import write
from even_beam.formats import cgats, delimited, spectra_json, spreadsheet, tm27
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum, read_bytes

Reader = Callable[[bytes, str], list[NamedSpectrum]]
KnownMappings = Callable[[str], delimited.Mapping | None]
"""The mapping kept for a shape of file, None when there is none."""

_READERS: dict[str, Reader] = {
    ".json": spectra_json.read,
    ".xml": tm27.read,
    ".spdx": tm27.read,
}
_TABLES = frozenset({".csv", ".tsv", ".txt", ".dat", ".xlsx"})

SPECTRUM_SUFFIXES = (*_READERS, *sorted(_TABLES), ".cgats", ".sp")

WRITERS: dict[str, Callable[[Sequence[NamedSpectrum]], str]] = {
    ".json": spectra_json.write,
    ".xml": tm27.write,
    ".cgats": cgats.write,
}


def read_spectra(path: Path, known: KnownMappings = lambda shape: None) -> list[NamedSpectrum]:
    """All spectra of a file, wavelengths increasing in nm. Raises `FormatError`.

    The suffix decides the reader, and the content where it is plain; an unknown file is tried as delimited text, by
    the mapping kept for files of its shape. Values are not yet validated as spectra: a file may hold one that is cut
    off, and its neighbours are still good.
    """
    data = read_bytes(path)
    reader = _READERS.get(path.suffix.lower())
    if reader is None and data.lstrip()[:5] == b"<?xml":
        reader = tm27.read
    if reader is None and cgats.is_cgats(data):
        reader = cgats.read
    if reader is not None:
        spectra = reader(data, shown_stem(path))
    else:
        lines = table_lines(path, data)
        mapping = delimited.guess(lines, shown_stem(path))
        spectra = delimited.read_lines(lines, shown_stem(path), known(delimited.shape_of(lines, mapping)) or mapping)
    if not spectra:
        raise FormatError(f"{shown_name(path)}: no spectrum was found")
    return spectra


def is_table(path: Path) -> bool:
    """Whether a file is read by a mapping, which a user may look at and change."""
    return path.suffix.lower() in _TABLES


def table_lines(path: Path, data: bytes | None = None) -> list[str]:
    """The lines of a delimited text or a spreadsheet. Raises `FormatError`."""
    content = read_bytes(path) if data is None else data
    if path.suffix.lower() == ".xlsx":
        return spreadsheet.lines_of(content, shown_name(path))
    return delimited.text_lines(content, shown_name(path))


def write_spectra(path: Path, spectra: Sequence[NamedSpectrum], *, over_others: bool = False) -> None:
    """Write spectra in the format of the suffix. Raises `FormatError` and `OutputError`."""
    writer = WRITERS.get(path.suffix.lower())
    if writer is None:
        raise FormatError(f"spectra are written as {', '.join(WRITERS)}, not as “{path.suffix}”")
    write(path, writer(spectra).encode("utf-8"), over_others=over_others)
