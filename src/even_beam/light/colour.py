"""Coloured light: hue and saturation against a stated white, dominant wavelength and purity, and a spectrum's own
figures."""

from functools import cache

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.adaptation import XYZ_TO_SRGB
from even_beam.light.colorimetry import LUMINOUS_EFFICACY_LM_PER_W, observer, uv_1960, xy
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray

_SRGB_WHITE = (0.3127, 0.3290)


def hue_and_saturation(
    x: ArrayLike, y: ArrayLike, white_x: float = _SRGB_WHITE[0], white_y: float = _SRGB_WHITE[1]
) -> tuple[FloatArray, FloatArray]:
    """Hue in degrees and saturation in % on the protractor of dials, with red, green and blue at 0, 120 and 240
    degrees.

    Space: linear light of the ITU-R BT.709 primaries, balanced so that the stated white is neutral; colours outside
    that gamut are brought to its edge by adding white. Meters use protractors of their own that they do not state: a
    meter's typed hue is kept as it is, and not compared with this one. Source: the hexcone model, Smith (1978).
    """
    x, y = np.broadcast_arrays(np.asarray(x, np.float64), np.asarray(y, np.float64))
    rgb = np.stack([x / y, np.ones_like(x), (1.0 - x - y) / y], axis=-1) @ XYZ_TO_SRGB.T
    neutral = np.array([white_x / white_y, 1.0, (1.0 - white_x - white_y) / white_y]) @ XYZ_TO_SRGB.T
    rgb = rgb / neutral
    rgb = rgb - np.minimum(rgb.min(axis=-1, keepdims=True), 0.0)
    highest, lowest = rgb.max(axis=-1), rgb.min(axis=-1)
    spread = highest - lowest
    red, green, blue = np.moveaxis(rgb, -1, 0)
    with np.errstate(invalid="ignore", divide="ignore"):
        sixth = np.where(
            highest == red,
            (green - blue) / spread,
            np.where(highest == green, 2.0 + (blue - red) / spread, 4.0 + (red - green) / spread),
        )
        hue = np.where(spread > 1e-12, (60.0 * sixth) % 360.0, np.nan)
        saturation = 100.0 * spread / highest
    return hue, saturation


def hue_difference(measured: ArrayLike, asked: ArrayLike) -> FloatArray:
    """Measured less asked hue the short way round, in degrees, -180 to 180."""
    difference = np.asarray(measured, np.float64) - np.asarray(asked, np.float64)
    return (difference + 180.0) % 360.0 - 180.0


@cache
def _spectral_locus() -> FloatArray:
    """x, y of monochromatic light, shape (k, 2), up to 700 nm, where it ends in practice."""
    cmfs = observer()[: int(700 - WAVELENGTH_NM[0]) + 1]
    return np.stack(xy(cmfs), axis=-1)


def dominant_wavelength(
    x: ArrayLike, y: ArrayLike, white_x: float = 1.0 / 3.0, white_y: float = 1.0 / 3.0
) -> tuple[FloatArray, FloatArray]:
    """Dominant wavelength in nm and excitation purity (0-1) against a stated white; shapes broadcast.

    For purples the wavelength is the complementary one, given negative. NaN at the white itself.
    Source: CIE 15:2018, clause 8.
    """
    point = np.stack(np.broadcast_arrays(np.asarray(x, np.float64), np.asarray(y, np.float64)), axis=-1)
    white = np.array([white_x, white_y])
    direction = point - white
    locus = _spectral_locus()
    wavelength, reach = _meets(direction, locus[:-1] - white, locus[1:] - white)
    complement, _ = _meets(-direction, locus[:-1] - white, locus[1:] - white)
    _, purple_reach = _meets(direction, (locus[:1] - white), (locus[-1:] - white))
    is_purple = np.isnan(wavelength)
    dominant = np.where(is_purple, -complement, wavelength)
    purity = 1.0 / np.where(is_purple, purple_reach, reach)
    at_white = np.hypot(direction[..., 0], direction[..., 1]) < 1e-9
    return np.where(at_white, np.nan, dominant), np.where(at_white, 0.0, purity)


def _meets(direction: FloatArray, start: FloatArray, end: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Where a ray from the origin meets a chain of segments: wavelength (380 nm plus the place) and length in units of
    the ray."""
    edge = end - start
    cross = direction[..., None, 0] * edge[:, 1] - direction[..., None, 1] * edge[:, 0]
    with np.errstate(invalid="ignore", divide="ignore"):
        length = (start[:, 0] * edge[:, 1] - start[:, 1] * edge[:, 0]) / cross
        place = (start[:, 0] * direction[..., None, 1] - start[:, 1] * direction[..., None, 0]) / cross
    hit = (length > 0.0) & (place >= 0.0) & (place <= 1.0)
    first = np.argmax(hit, axis=-1)
    found = hit.any(axis=-1)
    at = np.take_along_axis(place, first[..., None], -1)[..., 0] + first + WAVELENGTH_NM[0]
    reach = np.take_along_axis(length, first[..., None], -1)[..., 0]
    return np.where(found, at, np.nan), np.where(found, reach, np.nan)


def centroid_wavelength(spectra: FloatArray) -> FloatArray:
    """The power-weighted mean wavelength in nm, shape (..., 401) to (...)."""
    mean: FloatArray = (spectra @ WAVELENGTH_NM) / spectra.sum(axis=-1)
    return mean


def luminous_efficacy(spectra: FloatArray) -> FloatArray:
    """Luminous efficacy of radiation in lm/W, within 380-780 nm, shape (..., 401) to (...).

    Of the light alone: what the lamp draws from the mains does not enter. Source: CIE S 017, term 17-21-090.
    """
    lumens: FloatArray = LUMINOUS_EFFICACY_LM_PER_W * (spectra @ observer()[:, 1]) / spectra.sum(axis=-1)
    return lumens


def chromaticity_difference(x1: ArrayLike, y1: ArrayLike, x2: ArrayLike, y2: ArrayLike) -> FloatArray:
    """Distance in CIE 1976 u', v' between chromaticities; shapes broadcast."""
    (u1, v1), (u2, v2) = uv_1960(x1, y1), uv_1960(x2, y2)
    return np.hypot(u1 - u2, 1.5 * (v1 - v2))
