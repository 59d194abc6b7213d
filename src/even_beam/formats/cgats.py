"""Spectra as CGATS text (ISO 28178): fields that end in a wavelength, one spectrum a row."""

import re
import shlex
from collections.abc import Sequence

import numpy as np

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum, decode

_FIELD = re.compile(r"(?:SPECTRAL_NM|SPECTRAL|SPECT|SPEC|NM|R)_?(\d{3,4}(?:[._]\d+)?)", re.IGNORECASE)
_NAMES = ("SAMPLE_NAME", "SAMPLE_LOC", "SAMPLE_ID")


def is_cgats(data: bytes) -> bool:
    """Whether a text has the marks of the format."""
    head = data[:20_000]
    return b"BEGIN_DATA_FORMAT" in head and b"BEGIN_DATA" in head


def read(data: bytes, name: str) -> list[NamedSpectrum]:
    """Every row with spectral fields. Raises `FormatError`."""
    text = decode(data)
    fields = _between(text, "BEGIN_DATA_FORMAT", "END_DATA_FORMAT", name).split()
    places = [(float(m[1].replace("_", ".")), i) for i, field in enumerate(fields) if (m := _FIELD.fullmatch(field))]
    if len(places) < 2:
        raise FormatError(f"{name}: none of its {len(fields)} fields is a wavelength (such as SPECTRAL_NM380)")
    places.sort()
    wavelength = np.array([nm for nm, _ in places])
    if np.any(np.diff(wavelength) <= 0.0):
        raise FormatError(f"{name}: a wavelength stands twice")
    label = next((fields.index(field) for field in _NAMES if field in fields), None)
    spectra = []
    body = _between(text, "BEGIN_DATA\n", "END_DATA", name)
    for number, line in enumerate(body.splitlines(), start=1):
        cells = _split(line, name, number)
        if not cells:
            continue
        if len(cells) != len(fields):
            raise FormatError(f"{name}: row {number} has {len(cells)} cells for {len(fields)} fields")
        try:
            values = np.array([float(cells[i]) for _, i in places])
        except ValueError as error:
            raise FormatError(f"{name}: row {number} has letters in a number ({error})") from error
        title = cells[label] if label is not None else str(number)
        spectra.append(NamedSpectrum(f"{name} {title}", wavelength.copy(), values, False, "CGATS, relative values"))
    return spectra


def _between(text: str, start: str, end: str, name: str) -> str:
    normal = text.replace("\r\n", "\n").replace("\r", "\n")
    begin = normal.find(start)
    finish = normal.find(end, begin + len(start))
    if begin < 0 or finish < 0:
        raise FormatError(f"{name}: {start.strip()} without {end}; the file is cut off or no CGATS text")
    return normal[begin + len(start) : finish]


def _split(line: str, name: str, number: int) -> list[str]:
    try:
        return shlex.split(line, comments=True)
    except ValueError as error:
        raise FormatError(f"{name}: row {number} has a quotation mark that is not closed") from error


def write(spectra: Sequence[NamedSpectrum]) -> str:
    """The text of a file with one row a spectrum. Raises `FormatError` unless all share one grid."""
    first = spectra[0].wavelength_nm
    if any(not np.array_equal(s.wavelength_nm, first) for s in spectra):
        raise FormatError("CGATS holds spectra of one wavelength grid; write them apart")
    fields = ["SAMPLE_ID", "SAMPLE_NAME", *(f"SPECTRAL_NM{nm:g}" for nm in first)]
    rows = [
        " ".join([str(i), shlex.quote(s.name) if " " not in s.name else f'"{s.name}"', *map(repr, s.values.tolist())])
        for i, s in enumerate(spectra, start=1)
    ]
    lines = [
        "CGATS.17", 'ORIGINATOR "Even Beam"', f"NUMBER_OF_FIELDS {len(fields)}", "BEGIN_DATA_FORMAT", " ".join(fields),
        "END_DATA_FORMAT", f"NUMBER_OF_SETS {len(rows)}", "BEGIN_DATA", *rows, "END_DATA", "",
    ]  # fmt: skip
    return "\n".join(lines)
