"""Open formats in and out, one module a format, all found through one registry."""

from even_beam.formats.errors import FormatError
from even_beam.formats.registry import read_spectra, write_spectra
from even_beam.formats.spectrum_file import NamedSpectrum

__all__ = ["FormatError", "NamedSpectrum", "read_spectra", "write_spectra"]
