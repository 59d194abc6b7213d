"""Spectra as JSON, documented in docs/file-format.md: `{"spectra": [{"name", "unit", "wavelength_nm", "values"}]}`."""

import json
from collections.abc import Sequence
from typing import Any

import numpy as np

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum, decode

ABSOLUTE_UNIT = "W/m2/nm"


def read(data: bytes, name: str) -> list[NamedSpectrum]:
    """All spectra of a JSON text. Raises `FormatError`."""
    try:
        content = json.loads(decode(data))
    except (ValueError, RecursionError) as error:
        raise FormatError(f"{name}: not valid JSON ({error})") from error
    entries = content.get("spectra") if isinstance(content, dict) else None
    if not isinstance(entries, list):
        raise FormatError(f"{name}: expected an object with a list named “spectra”")
    return [_spectrum(entry, f"{name} {index + 1}") for index, entry in enumerate(entries)]


def _spectrum(entry: Any, fallback: str) -> NamedSpectrum:
    try:
        wavelength = np.asarray(entry["wavelength_nm"], dtype=np.float64)
        values = np.asarray(entry["values"], dtype=np.float64)
    except (KeyError, TypeError, ValueError, OverflowError) as error:
        raise FormatError(f"{fallback}: needs number lists “wavelength_nm” and “values”") from error
    if wavelength.ndim != 1 or wavelength.shape != values.shape:
        raise FormatError(f"{fallback}: {wavelength.size} wavelengths but {values.size} values")
    absolute = entry.get("unit") == ABSOLUTE_UNIT
    return NamedSpectrum(str(entry.get("name") or fallback), wavelength, values, absolute, "JSON")


def write(spectra: Sequence[NamedSpectrum]) -> str:
    """The text of a file that `read` understands, figures exact."""
    entries = [
        {
            "name": spectrum.name,
            "unit": ABSOLUTE_UNIT if spectrum.absolute else "relative",
            "wavelength_nm": spectrum.wavelength_nm.tolist(),
            "values": spectrum.values.tolist(),
        }
        for spectrum in spectra
    ]
    return json.dumps({"spectra": entries}, indent=1, ensure_ascii=False)
