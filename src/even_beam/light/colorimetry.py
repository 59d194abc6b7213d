"""From spectra to chromaticity, correlated colour temperature and distance from the Planckian locus."""

from functools import cache
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from even_beam.light.illuminants import SECOND_RADIATION_CONSTANT_M_K
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray
from even_beam.light.tables import table

ComplexArray = NDArray[np.complex128]

LUMINOUS_EFFICACY_LM_PER_W = 683.0
"""Km of the photopic system, SI (the CIE's 683.002 differs by 3 parts in a million)."""

CCT_RANGE_K = (1000.0, 50_000.0)
WHITE_DUV_LIMIT = 0.05
"""Beyond this distance from the Planckian locus a light is coloured, not white (CIE 15:2018, clause 9.5)."""


class Chromaticity(NamedTuple):
    """A pair of chromaticity coordinates, each shape (...)."""

    first: FloatArray
    second: FloatArray


def observer(degrees: int = 2) -> FloatArray:
    """Colour-matching functions on the working grid, shape (401, 3): CIE 1931 (2 degrees) or CIE 1964 (10 degrees)."""
    return _observer(degrees)


@cache
def _observer(degrees: int) -> FloatArray:
    name = {2: "cie-1931-2-degree-observer", 10: "cie-1964-10-degree-observer"}[degrees]
    wavelength, columns = table(name)
    return np.ascontiguousarray(columns[np.isin(wavelength, WAVELENGTH_NM)])


def tristimulus(spectra: FloatArray, degrees: int = 2) -> FloatArray:
    """X, Y, Z of spectra on the working grid, shape (..., 401) to (..., 3), as plain sums over 1 nm.

    Source: CIE 15:2018, clause 7.1.
    """
    xyz: FloatArray = spectra @ observer(degrees)
    return xyz


def illuminance(irradiance: FloatArray) -> FloatArray:
    """Illuminance in lx of spectral irradiance in W m-2 nm-1 on the working grid, shape (..., 401) to (...)."""
    lux: FloatArray = LUMINOUS_EFFICACY_LM_PER_W * (irradiance @ observer()[:, 1])
    return lux


def xy(xyz: FloatArray) -> Chromaticity:
    """CIE 1931 x, y of tristimulus values, shape (..., 3)."""
    total = xyz.sum(axis=-1)
    return Chromaticity(xyz[..., 0] / total, xyz[..., 1] / total)


def uv_1960(x: ArrayLike, y: ArrayLike) -> Chromaticity:
    """CIE 1960 u, v from CIE 1931 x, y; shapes broadcast."""
    x, y = np.asarray(x, dtype=np.float64), np.asarray(y, dtype=np.float64)
    divisor = -2.0 * x + 12.0 * y + 3.0
    return Chromaticity(4.0 * x / divisor, 6.0 * y / divisor)


def xy_from_uv_1960(u: ArrayLike, v: ArrayLike) -> Chromaticity:
    """CIE 1931 x, y from CIE 1960 u, v; shapes broadcast."""
    u, v = np.asarray(u, dtype=np.float64), np.asarray(v, dtype=np.float64)
    divisor = 2.0 * u - 8.0 * v + 4.0
    return Chromaticity(3.0 * u / divisor, 2.0 * v / divisor)


def uv_1976(x: ArrayLike, y: ArrayLike) -> Chromaticity:
    """CIE 1976 u', v' from CIE 1931 x, y; shapes broadcast."""
    u, v = uv_1960(x, y)
    return Chromaticity(u, 1.5 * v)


class _Locus(NamedTuple):
    """The Planckian locus against mired, as complex numbers u + iv of CIE 1960: nodes and first derivatives, shape
    (n,)."""

    mired: FloatArray
    point: ComplexArray
    slope: ComplexArray


_LOCUS_STEP_MIRED = 1.0
_COARSE = 16
_NEWTON_STEPS = 3
"""From a node at most eight mireds away, within |Duv| 0.05: leaves 1e-8 of the temperature, 1e-13 of Duv. Finer nodes
with fewer steps left more, and took six times as long for many lights at once."""


@cache
def _locus() -> _Locus:
    """Tabulated a little beyond the stated range, so that the nearest point of a border case lies inside.

    The standard locus, over all of the CIE 1931 observer (360-830 nm), whatever range an instrument has: a correlated
    colour temperature is a property of x and y. Source: CIE 15:2018, clause 9.5.
    """
    wavelength, observer_ = table("cie-1931-2-degree-observer")
    mired = np.arange(5.0, 1100.0 + _LOCUS_STEP_MIRED, _LOCUS_STEP_MIRED).astype(np.float64)
    exponent = SECOND_RADIATION_CONSTANT_M_K * mired[:, None] * 1e-6 / (wavelength * 1e-9)
    # d/dm of 1/(exp(cm) - 1) is -c exp(cm)/(exp(cm) - 1)^2 = -c (1 + r) r with r the function itself
    inverse = 1.0 / np.expm1(exponent)
    radiance = wavelength**-5.0 * 1e12 * inverse
    derivative = -radiance * (1.0 + inverse) * exponent / mired[:, None]
    xyz, dxyz = radiance @ observer_, derivative @ observer_
    weights = np.array([1.0, 15.0, 3.0])
    divisor, ddivisor = xyz @ weights, dxyz @ weights
    point = (4.0 * xyz[:, 0] + 6.0j * xyz[:, 1]) / divisor
    slope = (4.0 * dxyz[:, 0] + 6.0j * dxyz[:, 1] - point * ddivisor) / divisor
    return _Locus(mired, point, slope)


def _locus_at(mired: FloatArray) -> tuple[ComplexArray, ComplexArray, ComplexArray]:
    """Point, first and second derivative of the locus, each shape (...), by cubic Hermite interpolation."""
    locus = _locus()
    position = (mired - locus.mired[0]) / _LOCUS_STEP_MIRED
    i = np.minimum(position.astype(np.intp), locus.mired.size - 2)
    t = position - i
    p0, p1 = locus.point[i], locus.point[i + 1]
    d0, d1 = locus.slope[i] * _LOCUS_STEP_MIRED, locus.slope[i + 1] * _LOCUS_STEP_MIRED
    c2 = 3.0 * (p1 - p0) - 2.0 * d0 - d1
    c3 = 2.0 * (p0 - p1) + d0 + d1
    point = p0 + t * (d0 + t * (c2 + t * c3))
    first = (d0 + t * (2.0 * c2 + t * 3.0 * c3)) / _LOCUS_STEP_MIRED
    second = (2.0 * c2 + 6.0 * t * c3) / _LOCUS_STEP_MIRED**2
    return point, first, second


def _dot(a: ComplexArray, b: ComplexArray) -> FloatArray:
    """The scalar product of two directions in the chromaticity plane."""
    return a.real * b.real + a.imag * b.imag


def cct_and_duv(u: ArrayLike, v: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Correlated colour temperature in K and Duv of CIE 1960 u, v; shapes broadcast.

    The nearest point of the Planckian locus, found by Newton's method on a table of the locus in mired. Duv is
    positive on the green side and negative on the magenta side. Both are NaN outside 1000-50 000 K; a
    temperature is given for any distance, and it is for the caller to call a light coloured beyond |Duv| 0.05.
    Source: CIE 15:2018, clause 9.5 (CCT); ANSI/NEMA C78.377 (Duv and its sign).
    """
    target = np.asarray(u, np.float64) + 1j * np.asarray(v, np.float64)
    locus = _locus()
    coarse = locus.point[::_COARSE]
    # |a - b|^2 without |a|^2, which is the same for every node
    squared = _dot(coarse, coarse) - 2.0 * (target.real[..., None] * coarse.real + target.imag[..., None] * coarse.imag)
    mired = locus.mired[::_COARSE][np.argmin(squared, axis=-1)]
    for _ in range(_NEWTON_STEPS):
        point, first, second = _locus_at(mired)
        offset = target - point
        speed = _dot(first, first)
        curvature = np.maximum(speed - _dot(offset, second), 0.1 * speed)
        step = _dot(offset, first) / curvature
        mired = np.minimum(np.maximum(mired + step, locus.mired[0]), locus.mired[-1])
    point, first, _ = _locus_at(mired)
    offset = target - point
    # Mired grows towards orange, where u grows; green lies to the left of that direction (towards larger v).
    side = first.real * offset.imag - first.imag * offset.real
    duv = np.copysign(np.abs(offset), side)
    cct = 1e6 / mired
    low, high = CCT_RANGE_K
    slack = 1e-6
    known = (cct >= low * (1.0 - slack)) & (cct <= high * (1.0 + slack))
    return np.where(known, cct, np.nan), np.where(known, duv, np.nan)


def uv_at(cct: ArrayLike, duv: ArrayLike = 0.0) -> Chromaticity:
    """CIE 1960 u, v of the point at `duv` from the Planckian locus at `cct` kelvin; shapes broadcast.

    The inverse of `cct_and_duv` for 1000-50 000 K.
    """
    point, first, _ = _locus_at(1e6 / np.asarray(cct, np.float64))
    there = point + 1j * np.asarray(duv, np.float64) * first / np.abs(first)
    return Chromaticity(there.real, there.imag)


def is_white(duv: ArrayLike) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Whether a light is near enough to the Planckian locus for a colour temperature to mean something."""
    return np.abs(np.asarray(duv, np.float64)) <= WHITE_DUV_LIMIT


def mired(cct: ArrayLike) -> FloatArray:
    """Reciprocal megakelvin of `cct` kelvin."""
    return 1e6 / np.asarray(cct, dtype=np.float64)


def mired_error(measured_cct: ArrayLike, asked_cct: ArrayLike) -> FloatArray:
    """Measured less asked white in mired: positive is warmer than asked."""
    return mired(measured_cct) - mired(asked_cct)
