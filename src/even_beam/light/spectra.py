"""Spectra: the working grid, validation and resampling."""

from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import ArrayLike, NDArray

from even_beam.errors import TellableError

if TYPE_CHECKING:
    from scipy.interpolate import CubicSpline

FloatArray = NDArray[np.float64]

WAVELENGTH_NM: FloatArray = np.arange(380.0, 781.0).astype(np.float64)
"""The working grid: 380-780 nm in steps of 1 nm, 401 points."""

MINIMUM_POINTS = 8
REQUIRED_RANGE_NM = (400.0, 700.0)
LARGEST = 1e30
"""Beyond it sums over a spectrum are infinite; the sun's surface is within by some twenty powers of ten."""

NOISE_FRACTION = 0.02
"""A value may lie below zero by this share of the peak: a dark-subtracted sensor scatters about zero."""


class SpectrumError(TellableError, ValueError):
    """A spectrum that no figure can be computed from; the message says why in plain words."""


def validate(wavelength_nm: ArrayLike, spectra: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Check a spectrum or a batch and return it as float arrays.

    `wavelength_nm` has shape (n,), `spectra` (..., n). Raises `SpectrumError` when the wavelengths do not
    increase, there are fewer than 8 of them, they cover less than 400-700 nm, or a value is not a number,
    infinite, negative beyond noise (2 % of the spectrum's peak), or a whole spectrum is zero.
    """
    wavelength = np.asarray(wavelength_nm, dtype=np.float64)
    values = np.asarray(spectra, dtype=np.float64)
    _validate_wavelengths(wavelength)
    if values.ndim == 0 or values.shape[-1] != wavelength.size:
        got = values.shape[-1] if values.ndim else 1
        raise SpectrumError(f"{wavelength.size} wavelengths but {got} values")
    _reject(~np.isfinite(values), "has values that are not numbers", wavelength)
    _reject(np.abs(values) > LARGEST, "has values that no light has", wavelength)
    peak = values.max(axis=-1, initial=0.0)
    _reject(np.broadcast_to((peak <= 0.0)[..., None], values.shape), "is zero or negative throughout", None)
    _reject(values < -NOISE_FRACTION * peak[..., None], "has negative values beyond noise", wavelength)
    return wavelength, values


def _validate_wavelengths(wavelength: FloatArray) -> None:
    if wavelength.ndim != 1 or wavelength.size < MINIMUM_POINTS:
        raise SpectrumError(f"{wavelength.size} points; at least {MINIMUM_POINTS} are needed")
    if not np.all(np.isfinite(wavelength)):
        raise SpectrumError("a wavelength is not a number")
    if not np.all(np.diff(wavelength) > 0.0):
        first = int(np.argmin(np.diff(wavelength) > 0.0))
        raise SpectrumError(
            f"wavelengths must increase, but {wavelength[first + 1]:g} nm follows {wavelength[first]:g} nm"
        )
    low, high = REQUIRED_RANGE_NM
    if wavelength[0] > low or wavelength[-1] < high:
        raise SpectrumError(
            f"covers {wavelength[0]:g}-{wavelength[-1]:g} nm; colour figures need at least {low:g}-{high:g} nm"
        )


def _reject(bad: NDArray[np.bool_], what: str, wavelength: FloatArray | None) -> None:
    if not bad.any():
        return
    where = np.argwhere(bad)[0]
    subject = (
        "the spectrum"
        if bad.ndim == 1
        else f"spectrum {int(np.ravel_multi_index(tuple(where[:-1]), bad.shape[:-1])) + 1}"
    )
    place = "" if wavelength is None else f" (first at {wavelength[where[-1]]:g} nm)"
    raise SpectrumError(f"{subject} {what}{place}")


def resample(wavelength_nm: FloatArray, spectra: FloatArray) -> FloatArray:
    """Bring validated spectra, shape (..., n), to the working grid, shape (..., 401). Memory grows with n alone.

    A regular grid of 1 nm or coarser is interpolated by Sprague's method (CIE 167:2005, as recommended for regular
    grids), an irregular one by a cubic spline, and one finer than 1 nm is averaged over each 1 nm so that narrow
    lines keep their energy. Zero outside what was measured. What interpolation makes negative beside a narrow line is
    kept: it balances what it makes too high, and cutting it moves such a lamp by 10 K.
    """
    if np.array_equal(wavelength_nm, WAVELENGTH_NM):
        return spectra
    steps = np.diff(wavelength_nm)
    step = float(np.median(steps))
    if step < 0.99:
        found = _averaged(wavelength_nm, spectra)
    elif np.allclose(steps, step, rtol=0.0, atol=1e-6 * step):
        found = spectra @ _sprague_matrix(wavelength_nm.tobytes())
    else:
        found = _spline(wavelength_nm, spectra)(WAVELENGTH_NM)
    return np.where(_outside(wavelength_nm), 0.0, found)


def resample_linearly(wavelength_nm: FloatArray, spectra: FloatArray) -> FloatArray:
    """Spectra, shape (..., n), on the working grid, (..., 401), by straight lines between their points; zero outside.

    For SSI alone, whose reference implementations take their input so; finer grids than 1 nm are averaged.
    """
    if np.array_equal(wavelength_nm, WAVELENGTH_NM):
        return spectra
    if float(np.median(np.diff(wavelength_nm))) < 0.99:
        return resample(wavelength_nm, spectra)
    left = np.clip(np.searchsorted(wavelength_nm, WAVELENGTH_NM, side="right") - 1, 0, wavelength_nm.size - 2)
    share = (WAVELENGTH_NM - wavelength_nm[left]) / (wavelength_nm[left + 1] - wavelength_nm[left])
    found = spectra[..., left] * (1.0 - share) + spectra[..., left + 1] * share
    return np.where(_outside(wavelength_nm), 0.0, found)


def _outside(wavelength: FloatArray) -> NDArray[np.bool_]:
    """Where on the working grid nothing was measured, shape (401,)."""
    tolerance = 1e-9
    return (WAVELENGTH_NM < wavelength[0] - tolerance) | (WAVELENGTH_NM > wavelength[-1] + tolerance)


def _spline(wavelength: FloatArray, spectra: FloatArray) -> "CubicSpline":
    from scipy.interpolate import CubicSpline  # not at start-up: scipy takes longer than the rest together

    return CubicSpline(wavelength, spectra, axis=-1)


def _averaged(wavelength: FloatArray, spectra: FloatArray) -> FloatArray:
    """The mean over each 1 nm of the spline through the points."""
    integral = _spline(wavelength, spectra).antiderivative()
    upper = np.clip(WAVELENGTH_NM + 0.5, wavelength[0], wavelength[-1])
    lower = np.clip(WAVELENGTH_NM - 0.5, wavelength[0], wavelength[-1])
    width = np.where(upper > lower, upper - lower, 1.0)
    mean: FloatArray = (integral(upper) - integral(lower)) / width
    return mean


# CIE 167:2005, the coefficients of Sprague's fifth-order polynomial between the middle two of six points ...
_SPRAGUE = (
    np.array(
        [
            [0, 0, 24, 0, 0, 0],
            [2, -16, 0, 16, -2, 0],
            [-1, 16, -30, 16, -1, 0],
            [-9, 39, -70, 66, -33, 7],
            [13, -64, 126, -124, 61, -12],
            [-5, 25, -50, 50, -25, 5],
        ],
        dtype=np.float64,
    )
    / 24.0
)
# ... and those that extend the data by two points beyond either end.
_SPRAGUE_EXTENSION = (
    np.array(
        [
            [884, -1960, 3033, -2648, 1080, -180],
            [508, -540, 488, -367, 144, -24],
        ],
        dtype=np.float64,
    )
    / 209.0
)


@lru_cache(maxsize=32)
def _sprague_matrix(wavelength_bytes: bytes) -> FloatArray:
    """Sprague's method is linear in the values: one matrix a regular grid, shape (n, 401)."""
    wavelength = np.frombuffer(wavelength_bytes, dtype=np.float64)
    step = float(np.median(np.diff(wavelength)))
    n = wavelength.size
    extension = np.zeros((n + 4, n))
    extension[2 : n + 2] = np.eye(n)
    extension[:2, :6] = _SPRAGUE_EXTENSION
    extension[n + 2 :, n - 6 :] = _SPRAGUE_EXTENSION[::-1, ::-1]
    position = (WAVELENGTH_NM - wavelength[0]) / step
    interval = np.clip(np.floor(position + 1e-9).astype(int), 0, n - 2)
    t = position - interval
    weights = (t[:, None] ** np.arange(6)) @ _SPRAGUE
    matrix = np.zeros((WAVELENGTH_NM.size, n + 4))
    rows = np.arange(WAVELENGTH_NM.size)[:, None]
    matrix[rows, interval[:, None] + np.arange(6)] = weights
    return np.ascontiguousarray((matrix @ extension).T)
