"""Open formats in and out, one module a format, all found through one registry."""

from even_beam.formats.errors import FormatError
from even_beam.formats.registry import NamedSpectrum, read_spectra

__all__ = ["FormatError", "NamedSpectrum", "read_spectra"]
