"""Where a white lies: between the Planckian and the daylight curve, near which named white, and its tint in gel
terms."""

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from even_beam.light.colorimetry import cct_and_duv, uv_1960, uv_1976, uv_at, xy_from_uv_1960
from even_beam.light.illuminants import daylight_chromaticity
from even_beam.light.spectra import FloatArray

_DAYLIGHT_RANGE_K = (4000.0, 25_000.0)


@cache
def _daylight_locus() -> tuple[FloatArray, FloatArray]:
    """Nominal temperatures and u + iv of CIE daylight, evenly spaced in mired."""
    cct = 1e6 / np.linspace(1e6 / _DAYLIGHT_RANGE_K[1], 1e6 / _DAYLIGHT_RANGE_K[0], 2101)
    u, v = uv_1960(*daylight_chromaticity(cct))
    return cct, u + 1j * v


def daylight_distance(u: ArrayLike, v: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Signed distance from the CIE daylight locus in CIE 1960 u, v, and the nominal temperature of its nearest point.

    Positive on the green side. NaN where the nearest point is an end of the locus (4000 and 25 000 K): the CIE states
    no daylight beyond. A perfect D55 has distance zero here and Duv +0.0033 from the Planckian: it is not green.
    Source: CIE 15:2018, clause 4.1.2 (the locus).
    """
    target = np.asarray(u, np.float64) + 1j * np.asarray(v, np.float64)
    cct, points = _daylight_locus()
    nearest = np.argmin(np.abs(target[..., None] - points), axis=-1)
    i = np.clip(nearest, 1, cct.size - 2)
    tangent = (points[i + 1] - points[i - 1]) / 2.0
    offset = target - points[i]
    along = (offset * tangent.conj()).real / np.abs(tangent) ** 2
    across = (offset * tangent.conj()).imag / np.abs(tangent)
    inside = (nearest > 0) & (nearest < cct.size - 1)
    step = 1e6 / cct[1] - 1e6 / cct[0]
    nominal = 1e6 / (1e6 / cct[i] + along * step)
    return np.where(inside, across, np.nan), np.where(inside, nominal, np.nan)


def daylight_white(nominal_k: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """CCT and Duv of CIE daylight of a nominal temperature, 4000 to 25 000 K; shapes are kept.

    Source: CIE 15:2018, clause 4.1.2.
    """
    return cct_and_duv(*uv_1960(*daylight_chromaticity(np.asarray(nominal_k, np.float64))))


def share_between_curves(u: ArrayLike, v: ArrayLike) -> FloatArray:
    """How far a white lies from the Planckian towards the daylight curve: 0 on the first, 1 on the second.

    Half-way is what some aim for; below 0 it is magenta of both, above 1 green of both. NaN where there is no daylight.
    """
    _, duv = cct_and_duv(u, v)
    from_daylight, _ = daylight_distance(u, v)
    return duv / (duv - from_daylight)


@dataclass(frozen=True, slots=True)
class NamedWhite:
    """A target that people name: a chromaticity with a name."""

    name: str
    x: float
    y: float


@cache
def named_whites() -> tuple[NamedWhite, ...]:
    """Whites of the trade: Planckian at 2700, 3200 and 4300 K, CIE daylights D50 to D75 (common practice, no
    source)."""
    found = []
    for cct in (2700.0, 3200.0, 4300.0):
        x, y = xy_from_uv_1960(*uv_at(cct))
        found.append(NamedWhite(f"Planckian {cct:.0f} K", float(x), float(y)))
    for hundreds in (50, 55, 56, 60, 65, 75):
        x, y = daylight_chromaticity(hundreds * 100.0 * 1.4388 / 1.4380)
        found.append(NamedWhite("daylight 5600 K" if hundreds == 56 else f"D{hundreds}", float(x), float(y)))
    return tuple(found)


def nearest_named_white(x: ArrayLike, y: ArrayLike) -> tuple[NDArray[np.intp], FloatArray]:
    """Index into `named_whites` of the nearest one and its distance in CIE 1976 u', v'; shapes broadcast."""
    whites = named_whites()
    own = np.stack(np.broadcast_arrays(*uv_1976(x, y)), axis=-1)
    theirs = np.stack(uv_1976(np.array([w.x for w in whites]), np.array([w.y for w in whites])), axis=-1)
    distance = np.sqrt(((own[..., None, :] - theirs) ** 2).sum(axis=-1))
    index = np.argmin(distance, axis=-1)
    return index, np.take_along_axis(distance, index[..., None], axis=-1)[..., 0]


TINT_REFERENCE_K = (4000.0, 5000.0)
"""Below the first a tint is held against the Planckian, from the second on against daylight, between against a blend
(common practice, no source: people switch at 5000 K)."""


@cache
def _daylight_duv() -> tuple[FloatArray, FloatArray]:
    """Mired, rising, and Duv of the daylight curve."""
    nominal = 1e6 / np.linspace(1e6 / _DAYLIGHT_RANGE_K[1], 1e6 / _DAYLIGHT_RANGE_K[0], 801)
    cct, duv = daylight_white(nominal)
    return 1e6 / cct, duv


def daylight_duv(cct: ArrayLike) -> FloatArray:
    """The Duv of the daylight curve at a correlated colour temperature; its ends are held. Shapes are kept."""
    mired, duv = _daylight_duv()
    return np.asarray(np.interp(1e6 / np.asarray(cct, np.float64), mired, duv), np.float64)


def off_neutral(cct: ArrayLike, duv: ArrayLike) -> FloatArray:
    """How far a tint lies beyond what is neutral at its white: positive greener, negative more magenta.

    Zero between the Planckian and the daylight curve, where there is one, and on the Planckian below 4000 K. An exact
    Planckian and an exact CIE daylight are both neutral: which of them somebody wants is a matter of the target
    (`reference_duv`). Shapes broadcast.
    """
    kelvin, tint = np.broadcast_arrays(np.asarray(cct, np.float64), np.asarray(duv, np.float64))
    top = np.where(kelvin >= TINT_REFERENCE_K[0], np.maximum(daylight_duv(kelvin), 0.0), 0.0)
    return tint - np.clip(tint, 0.0, top)


def reference_duv(cct: ArrayLike) -> FloatArray:
    """The Duv that a white without tint has: zero below 4000 K, that of CIE daylight from 5000 K on, blended between.

    A perfect D55 is at +0.0033 and is not green. Beyond 25 000 K the curve's end is held. Shapes are kept.
    """
    kelvin = np.asarray(cct, np.float64)
    low, high = TINT_REFERENCE_K
    share = np.clip((kelvin - low) / (high - low), 0.0, 1.0)
    return share * daylight_duv(kelvin)
