"""What a meter answered, as figures in the units of the logbook: garbage is told, never kept."""

import math
import re

import numpy as np

from even_beam.bench.records import Spectrum
from even_beam.instruments.protocols import BrokenOffError, InstrumentError
from even_beam.light import SpectrumError
from even_beam.light.spectra import validate
from even_beam.words.quantities import QUANTITIES

NO_ANSWER = 9.0e37
"""From here on a figure is “not a number” (SCPI-1999, volume 1, 7.2.1.5: 9.91E+37)."""

SPECTRAL_UNITS = {
    "w m-2 nm-1": 1.0,
    "mw m-2 nm-1": 1e-3,
    "uw cm-2 nm-1": 1e-2,
    "w m-2 um-1": 1e-3,
    "relative": None,
}
"""Units of spectral irradiance, each as a factor to W m-2 nm-1; of a relative one nothing is known."""

_FIGURE = re.compile(
    r"\s*(?P<number>[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?|nan|[-+]?inf)\s*(?P<unit>[^\d\s,;]*)\s*", re.I
)


def factor_of(quantity: str, unit: str, where: str) -> float:
    """From a unit to that of the logbook. Raises `InstrumentError` for a quantity or unit that there is not."""
    if quantity not in QUANTITIES:
        raise InstrumentError(
            f"{where}: there is no quantity “{quantity}”; such are illuminance, cct, duv, ra, power_w"
        )
    known = QUANTITIES[quantity]
    if not unit or unit.casefold() == known.unit.casefold():
        return 1.0
    if unit.casefold() not in known.units:
        there = ", ".join(dict.fromkeys((known.unit, *known.units)))
        raise InstrumentError(f"{where}: {known.label} has no unit “{unit}”; there are {there}")
    return known.units[unit.casefold()]


def figure_of(text: str, quantity: str, unit: str, asked: str) -> float | None:
    """A figure from an answer; None where the meter has none. Raises `BrokenOffError` for what is no figure, and
    `InstrumentError` for one in another unit than was said."""
    said = _FIGURE.fullmatch(text)
    if said is None:
        shown = text.strip()[:40] or "nothing"
        raise BrokenOffError(f"It answered “{shown}” to {asked}, which is no figure.")
    told = said["unit"].strip()
    if told and unit and told.casefold() != unit.casefold():
        raise InstrumentError(f"It answers {asked} in {told}, and the bench file says {unit}: one of them is wrong.")
    number = float(said["number"])
    if not math.isfinite(number) or abs(number) >= NO_ANSWER:
        return None
    return number * factor_of(quantity, told or unit, asked)


def spectrum_of(values: np.ndarray, wavelength_nm: np.ndarray, unit: str, where: str) -> Spectrum:
    """A spectrum from its values. Raises `BrokenOffError` for one that is cut off or cannot be."""
    if unit.casefold() not in SPECTRAL_UNITS:
        raise InstrumentError(f"{where}: there is no unit “{unit}”; there are {', '.join(SPECTRAL_UNITS)}")
    factor = SPECTRAL_UNITS[unit.casefold()]
    if values.size != wavelength_nm.size or values.size < 2:
        raise BrokenOffError(f"Its spectrum has {values.size} values for {wavelength_nm.size} wavelengths.")
    found = Spectrum(wavelength_nm.astype(float), values.astype(float) * (factor or 1.0), factor is not None)
    try:
        validate(found.wavelength_nm, found.values)
    except SpectrumError as error:
        raise BrokenOffError(f"Its spectrum cannot be used: {error}") from error
    return found
