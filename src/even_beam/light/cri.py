"""CIE colour rendering indices Ra and R1-R15 (CIE 13.3-1995; sample 15 of JIS Z 8726).

Ra is the mean of R1-R8 and may be negative, as may any of the fifteen. The samples, tabulated at 5 nm, are
brought to 1 nm by Sprague's method; linear interpolation would move R9 of narrow-band lamps by up to 0.9.
"""

from functools import cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from even_beam.light.colorimetry import observer, tristimulus, uv_1960, xy
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.spectra import FloatArray, resample
from even_beam.light.tables import table
from even_beam.light.temperature_table import TemperatureTable

REFERENCE_CHANGE_K = 5000.0
"""Planckian below, CIE daylight from here on (CIE 13.3-1995, clause 5.3)."""

CHROMATICITY_DIFFERENCE_LIMIT = 5.4e-3
"""Beyond this distance in CIE 1960 u, v from the reference the standard calls its figures inaccurate (clause 5.3)."""


class ColourRendering(NamedTuple):
    """Ra, shape (n,); the special indices R1-R15 and the colour differences behind them, shape (n, 15)."""

    Ra: FloatArray
    R: FloatArray
    delta_e: FloatArray
    chromaticity_difference: FloatArray


@cache
def _sample_weights() -> FloatArray:
    """Spectrum to X, Y, Z of the fifteen samples: shape (401, 45)."""
    wavelength, samples = table("cie-13.3-samples")
    reflectance = resample(wavelength, samples.T)
    weights = reflectance[:, :, None] * observer()[None, :, :]
    return np.ascontiguousarray(weights.transpose(1, 0, 2).reshape(observer().shape[0], -1))


def _samples_uvy(spectra: FloatArray, white: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray]:
    xyz = (spectra @ _sample_weights()).reshape(*spectra.shape[:-1], 15, 3)
    u, v = uv_1960(*xy(xyz))
    return u, v, 100.0 * xyz[..., 1] / white[..., 1, None]


def _uvw(u: FloatArray, v: FloatArray, luminance: FloatArray, white_u: FloatArray, white_v: FloatArray) -> FloatArray:
    """CIE 1964 U* V* W*, shape (n, 3, 15) (CIE 13.3-1995, clause 5.6)."""
    colour = np.empty((u.shape[0], 3, u.shape[1]))
    w = 25.0 * np.cbrt(luminance) - 17.0
    colour[:, 0] = 13.0 * w * (u - white_u[:, None])
    colour[:, 1] = 13.0 * w * (v - white_v[:, None])
    colour[:, 2] = w
    return colour


def _reference(cct: FloatArray, inside: float) -> FloatArray:
    """White u, v and the samples' U* V* W* under the reference, flattened to shape (n, 2 + 45)."""
    spectra = (planckian if inside < REFERENCE_CHANGE_K else daylight)(cct)
    white = tristimulus(spectra)
    white_u, white_v = uv_1960(*xy(white))
    samples = _uvw(*_samples_uvy(spectra, white), white_u, white_v)
    return np.concatenate([white_u[:, None], white_v[:, None], samples.reshape(cct.size, -1)], axis=-1)


_REFERENCE = TemperatureTable(_reference)


def _cd(u: FloatArray, v: FloatArray) -> tuple[FloatArray, FloatArray]:
    """The functions c and d of the von Kries adaptation (CIE 13.3-1995, clause 5.7)."""
    return (4.0 - u - 10.0 * v) / v, (1.708 * v + 0.404 - 1.481 * u) / v


def colour_rendering(spectra: FloatArray, cct: FloatArray) -> ColourRendering:
    """Rendering indices of spectra on the working grid, shape (n, 401), with `cct` in K, shape (n,).

    NaN where `cct` is NaN. Source: CIE 13.3-1995, clauses 5.3-5.9.
    """
    reference = _REFERENCE.at(cct)
    reference_u, reference_v = reference[:, 0], reference[:, 1]
    reference_samples = reference[:, 2:].reshape(-1, 3, 15)
    white = tristimulus(spectra)
    white_u, white_v = uv_1960(*xy(white))
    u, v, luminance = _samples_uvy(spectra, white)
    c_white, d_white = _cd(white_u, white_v)
    c_reference, d_reference = _cd(reference_u, reference_v)
    c, d = _cd(u, v)
    c *= (c_reference / c_white)[:, None]
    d *= (d_reference / d_white)[:, None]
    divisor = 16.518 + 1.481 * c - d
    adapted = _uvw((10.872 + 0.404 * c - 4.0 * d) / divisor, 5.520 / divisor, luminance, reference_u, reference_v)
    delta_e = np.sqrt(((adapted - reference_samples) ** 2).sum(axis=1))
    special = 100.0 - 4.6 * delta_e
    return ColourRendering(
        special[:, :8].mean(axis=-1), special, delta_e, np.hypot(white_u - reference_u, white_v - reference_v)
    )


def mean_of_fifteen(special: FloatArray) -> FloatArray:
    """The mean of R1-R15, shape (..., 15) to (...). It is published as CRI by some; it is not Ra, which is R1-R8."""
    mean: FloatArray = special.mean(axis=-1)
    return mean


def beyond_standard(chromaticity_difference: FloatArray) -> NDArray[np.bool_]:
    """Whether the lamp is too far from its reference for the standard to call the indices accurate (CIE 13.3-1995,
    5.3)."""
    return chromaticity_difference > CHROMATICITY_DIFFERENCE_LIMIT
