"""Light levels: units, stops, the distance law and exposure."""

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.spectra import FloatArray

LUX_PER_FOOTCANDLE = 1.0 / 0.3048**2
"""10.7639: one lumen on a square foot."""

METRES_PER_FOOT = 0.3048

FLAT_CONSTANT = 250.0
DOME_CONSTANT = 340.0
"""Calibration constants C for a flat and a dome receptor, lx s (ISO 2720 gives ranges; the meter's own value rules)."""


def stops(ratio: ArrayLike) -> FloatArray:
    """log2 of a ratio of levels; NaN for ratios that are not positive."""
    value = np.asarray(ratio, dtype=np.float64)
    return np.log2(np.where(value > 0.0, value, np.nan))


def ratio_of_stops(stop: ArrayLike) -> FloatArray:
    """The ratio that `stop` stops stand for: 2**stop."""
    return np.exp2(np.asarray(stop, dtype=np.float64))


def at_distance(illuminance: ArrayLike, distance: ArrayLike, target: ArrayLike) -> FloatArray:
    """Illuminance at `target` from one at `distance` (same unit) by the inverse-square law, far from the lamp."""
    ratio = np.asarray(distance, dtype=np.float64) / np.asarray(target, dtype=np.float64)
    return np.asarray(illuminance, dtype=np.float64) * ratio**2


def luminous_intensity(illuminance: ArrayLike, distance_m: ArrayLike) -> FloatArray:
    """Candela from lx at a distance in metres: E d^2. Holds only where the inverse-square law does."""
    return np.asarray(illuminance, dtype=np.float64) * np.asarray(distance_m, dtype=np.float64) ** 2


def exact_f_number(nominal: ArrayLike, tenths: ArrayLike = 0.0) -> FloatArray:
    """The f-number of a full stop written as `nominal` and `tenths` of a stop: f/16 and 8 tenths is f/21.1.

    Full stops are powers of the square root of two: f/22 is 22.63, f/5.6 is 5.657.
    """
    steps = np.round(2.0 * np.log2(np.asarray(nominal, dtype=np.float64)))
    return np.exp2((steps + np.asarray(tenths, dtype=np.float64) / 10.0) / 2.0)


def illuminance_from_exposure(
    f_number: ArrayLike, iso: ArrayLike, shutter_s: ArrayLike, constant: ArrayLike = FLAT_CONSTANT
) -> FloatArray:
    """Illuminance in lx that an incident meter shows as `f_number` at `iso` and `shutter_s`: N^2 C / (S t).

    Source: ISO 2720:1974, exposure equation for incident light.
    """
    n, s, t = (np.asarray(value, dtype=np.float64) for value in (f_number, iso, shutter_s))
    return n**2 * np.asarray(constant, dtype=np.float64) / (s * t)
