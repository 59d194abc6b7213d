"""The one place that knows which formats there are."""

from collections.abc import Callable
from pathlib import Path

from even_beam.formats import delimited, spectra_json
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum, read_bytes

__all__ = ["SPECTRUM_SUFFIXES", "NamedSpectrum", "read_spectra"]

_BY_SUFFIX: dict[str, Callable[[bytes, str], list[NamedSpectrum]]] = {
    ".json": spectra_json.read,
    ".csv": delimited.read,
    ".tsv": delimited.read,
    ".txt": delimited.read,
    ".dat": delimited.read,
}

SPECTRUM_SUFFIXES = tuple(_BY_SUFFIX)


def read_spectra(path: Path) -> list[NamedSpectrum]:
    """All spectra of a file, wavelengths increasing in nm. Raises `FormatError`.

    The suffix decides the reader; an unknown one is tried as delimited text. Values are not yet validated as
    spectra: a file may hold one that is cut off, and its neighbours are still good.
    """
    data = read_bytes(path)
    reader = _BY_SUFFIX.get(path.suffix.lower(), delimited.read)
    spectra = reader(data, path.stem)
    if not spectra:
        raise FormatError(f"{path.name}: no spectrum was found")
    return spectra
