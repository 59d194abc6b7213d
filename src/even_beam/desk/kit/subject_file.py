"""Reflectances out of files: what light falls on, measured elsewhere."""

from collections.abc import Sequence
from pathlib import Path

import numpy as np

from even_beam.bench.records import Subject, new_id
from even_beam.desk.kit.form_error import FormError
from even_beam.formats import FormatError, NamedSpectrum, read_spectra

MUST_COVER_NM = (410.0, 690.0)
"""A reflectance that ends inside this says too little of a colour (common practice, no source)."""

WIDEST_STEP_NM = 20.0
IN_PER_CENT = 3.0
"""A reflectance that passes this is written in per cent: nothing gives back three times what falls on it."""

LEAST = -0.02


def subjects_in(path: Path, taken: Sequence[str]) -> list[Subject]:
    """Every reflectance of a file, as shares; names that are `taken` get a number. Raises `FormError`."""
    try:
        found = read_spectra(path)
    except FormatError as error:
        raise FormError("line", str(error)) from error
    names = {name.casefold() for name in taken}
    subjects = []
    for one in found:
        shares = _shares(one, path.name)
        name = _free(one.name.strip() or path.stem, names)
        names.add(name.casefold())
        subjects.append(Subject(new_id(), name, tuple(map(float, one.wavelength_nm)), tuple(map(float, shares))))
    return subjects


def _free(name: str, taken: set[str]) -> str:
    return next(n for n in (name, *(f"{name} {k}" for k in range(2, 10_000))) if n.casefold() not in taken)


def _shares(one: NamedSpectrum, file: str) -> np.ndarray:
    wavelength, values = np.asarray(one.wavelength_nm), np.asarray(one.values, dtype=np.float64)
    where = f"{one.name or file}: "
    if not (np.isfinite(wavelength).all() and np.isfinite(values).all()):
        raise FormError("line", f"{where}a reflectance holds something that is no number. Nothing was taken in")
    if wavelength.size < 2 or wavelength[0] > MUST_COVER_NM[0] or wavelength[-1] < MUST_COVER_NM[1]:
        reach = f"{wavelength[0]:.0f} to {wavelength[-1]:.0f} nm" if wavelength.size else "no wavelength"
        raise FormError(
            "line",
            f"{where}it reaches from {reach}; a subject is told from {MUST_COVER_NM[0]:.0f} to"
            f" {MUST_COVER_NM[1]:.0f} nm. Nothing was taken in",
        )
    if float(np.diff(wavelength).max()) > WIDEST_STEP_NM:
        raise FormError("line", f"{where}its steps are wider than {WIDEST_STEP_NM:.0f} nm. Nothing was taken in")
    shares = values / 100.0 if float(values.max()) > IN_PER_CENT else values
    if float(shares.min()) < LEAST or float(shares.max()) > IN_PER_CENT or float(shares.max()) <= 0.0:
        raise FormError("line", f"{where}its values are no shares of light, 0 to 1 or 0 to 100 %. Nothing was taken in")
    return np.maximum(shares, 0.0)
