"""Colour fidelity Rf, gamut Rg and local shifts (ANSI/IES TM-30-20 and -24; Rf as in CIE 224:2017)."""

from functools import cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from even_beam.light.colorimetry import observer
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray
from even_beam.light.tables import table
from even_beam.light.temperature_table import TemperatureTable

SAMPLES = 99
HUE_BINS = 16
BLEND_K = (4000.0, 5000.0)
"""Planckian below, CIE daylight above, a blend in proportion between (TM-30-20, clause 3.3)."""

_FIDELITY_SLOPE = 6.73


class Fidelity(NamedTuple):
    """Rf, Rg, shape (n,); per hue bin, shape (n, 16), fidelity, chroma shift in % and hue shift in radians.

    Further the colour difference of each sample in CAM02-UCS, shape (n, 99), and the mean a', b' of each bin under lamp
    and reference, shape (n, 16, 2)."""

    Rf: FloatArray
    Rg: FloatArray
    Rf_h: FloatArray
    Rcs_h: FloatArray
    Rhs_h: FloatArray
    delta_e: FloatArray
    bin_test: FloatArray
    bin_reference: FloatArray


@cache
def _sample_weights() -> FloatArray:
    """Spectrum to the cone-like RGB' (before compression) of the white and the 99 samples, shape (401, 300).

    X, Y, Z to CAT02 sharpened sensors; adaptation divides those by the white's, so it stays outside.
    """
    samples = np.vstack([np.ones(WAVELENGTH_NM.size), table("cie-224-samples")[1].T])
    sensors = observer(10) @ _CAT02.T
    weights = sensors[:, :, None] * samples.T[:, None, :]
    return np.ascontiguousarray(weights.reshape(WAVELENGTH_NM.size, -1))


_CAT02 = np.array([[0.7328, 0.4296, -0.1624], [-0.7036, 1.6975, 0.0061], [0.0030, 0.0136, 0.9834]])
_HUNT_POINTER_ESTEVEZ = np.array([[0.38971, 0.68898, -0.07868], [-0.22981, 1.18340, 0.04641], [0.0, 0.0, 1.0]])
_CONES = _HUNT_POINTER_ESTEVEZ @ np.linalg.inv(_CAT02)

# Viewing conditions of TM-30: adapting luminance 100 cd/m2, background 20, average surround, full adaptation.
_ADAPTING_LUMINANCE = 100.0
_BACKGROUND = 0.2
_K4 = (1.0 / (5.0 * _ADAPTING_LUMINANCE + 1.0)) ** 4
_FL = 0.2 * _K4 * 5.0 * _ADAPTING_LUMINANCE + 0.1 * (1.0 - _K4) ** 2 * np.cbrt(5.0 * _ADAPTING_LUMINANCE)
_NBB = 0.725 * (1.0 / _BACKGROUND) ** 0.2
_CZ = 0.69 * (1.48 + np.sqrt(_BACKGROUND))
_CHROMA_SCALE = (1.64 - 0.29**_BACKGROUND) ** 0.73
_COLOURFULNESS_SCALE = _FL**0.25


def _appearance(spectra: FloatArray) -> FloatArray:
    """CAM02-UCS J', a', b' of the 99 samples, shape (n, 401) to (n, 3, 99).

    Source: CIE 159:2004 (CIECAM02); Luo, Cui and Li (2006), Color Res. Appl. 31(4) (the uniform space).
    """
    sensors = (spectra @ _sample_weights()).reshape(-1, 3, SAMPLES + 1)
    sensors /= sensors[:, :, :1]  # full adaptation: the white becomes 100, here 1
    cones = _CONES @ sensors
    magnitude = np.abs(cones)
    magnitude *= _FL
    np.power(magnitude, 0.42, out=magnitude)
    response = np.copysign(400.0 * magnitude / (magnitude + 27.13), cones)
    red, green, blue = response[:, 0], response[:, 1], response[:, 2]
    # CIECAM02 adds 0.1 to each response; it cancels in a, b and A, and leaves 0.305 in the divisor of t
    achromatic = (2.0 * red + green + blue / 20.0) * _NBB
    root_lightness = (achromatic[:, 1:] / achromatic[:, :1]) ** (0.5 * _CZ)
    lightness = 100.0 * root_lightness * root_lightness
    red, green, blue = red[:, 1:], green[:, 1:], blue[:, 1:]
    a = red - 12.0 * green / 11.0 + blue / 11.0
    b = (red + green - 2.0 * blue) / 9.0
    radius = np.sqrt(a * a + b * b)
    cos_hue, sin_hue = a / radius, b / radius
    eccentricity = 0.25 * (cos_hue * np.cos(2.0) - sin_hue * np.sin(2.0) + 3.8)
    t = (50_000.0 / 13.0 * _NBB) * eccentricity * radius / (red + green + 1.05 * blue + 0.305)
    chroma = t**0.9 * root_lightness * _CHROMA_SCALE
    colourfulness = np.log1p(0.0228 * chroma * _COLOURFULNESS_SCALE) / 0.0228
    appearance = np.empty((spectra.shape[0], 3, SAMPLES))
    appearance[:, 0] = 1.7 * lightness / (1.0 + 0.007 * lightness)
    appearance[:, 1] = colourfulness * cos_hue
    appearance[:, 2] = colourfulness * sin_hue
    return appearance


def reference_illuminant(cct: FloatArray, inside: float | None = None) -> FloatArray:
    """The reference spectra of TM-30 at `cct` K, shape (n,) to (n, 401); `inside` fixes the segment at a border.

    The two parts of a blend are scaled to equal luminance for the 10 degree observer. Source: TM-30-20, clause 3.3.
    """
    low, high = BLEND_K
    share = np.clip((high - cct) / (high - low), 0.0, 1.0)[:, None]
    if inside is not None and not low < inside < high:
        share = np.full_like(share, 1.0 if inside < low else 0.0)
    luminance = observer(10)[:, 1]
    black_body, day = planckian(cct), daylight(cct)
    blend: FloatArray = share * black_body / (black_body @ luminance)[:, None]
    return blend + (1.0 - share) * day / (day @ luminance)[:, None]


_REFERENCE = TemperatureTable(lambda cct, inside: _appearance(reference_illuminant(cct, inside)))


def fidelity_scale(mean_difference: FloatArray) -> FloatArray:
    """Mean colour difference to a score that never falls below zero (TM-30-20, equation 19)."""
    scaled: FloatArray = 10.0 * np.logaddexp((100.0 - _FIDELITY_SLOPE * mean_difference) / 10.0, 0.0)
    return scaled


def colour_fidelity(spectra: FloatArray, cct: FloatArray) -> Fidelity:
    """TM-30 figures of spectra on the working grid, shape (n, 401), with `cct` in K, shape (n,).

    Samples belong to the bin of their hue under the reference. NaN where `cct` is NaN.
    Source: ANSI/IES TM-30-20, clauses 3-4.
    """
    test = _appearance(spectra)
    reference = _REFERENCE.at(cct)
    difference = np.sqrt(((test - reference) ** 2).sum(axis=1))
    hue_bin = _hue_bins(reference[:, 1], reference[:, 2])
    test_a, test_b, reference_a, reference_b, bin_difference = _bin_means(
        hue_bin, np.stack([test[:, 1], test[:, 2], reference[:, 1], reference[:, 2], difference])
    )
    chroma = np.sqrt(reference_a**2 + reference_b**2)
    shift_a, shift_b = (test_a - reference_a) / chroma, (test_b - reference_b) / chroma
    return Fidelity(
        Rf=fidelity_scale(difference.mean(axis=-1)),
        Rg=100.0 * _polygon_area(test_a, test_b) / _polygon_area(reference_a, reference_b),
        Rf_h=fidelity_scale(bin_difference),
        Rcs_h=100.0 * (shift_a * _COS_CENTRE + shift_b * _SIN_CENTRE),
        Rhs_h=shift_b * _COS_CENTRE - shift_a * _SIN_CENTRE,
        delta_e=difference,
        bin_test=np.stack([test_a, test_b], axis=-1),
        bin_reference=np.stack([reference_a, reference_b], axis=-1),
    )


_CENTRE = (np.arange(HUE_BINS) + 0.5) * 2.0 * np.pi / HUE_BINS
_COS_CENTRE, _SIN_CENTRE = np.cos(_CENTRE), np.sin(_CENTRE)


def _hue_bins(a: FloatArray, b: FloatArray) -> NDArray[np.intp]:
    """Flat index (spectrum, bin) of each sample, shape (n, 99). Bin -1 is bin 15; where there is no hue any will do."""
    hue_bin = np.floor(np.arctan2(b, a) * (HUE_BINS / (2.0 * np.pi))).astype(np.intp) & (HUE_BINS - 1)
    flat: NDArray[np.intp] = hue_bin + HUE_BINS * np.arange(a.shape[0])[:, None]
    return flat


def _bin_means(hue_bin: NDArray[np.intp], values: FloatArray) -> FloatArray:
    """Means over the samples of each bin, shape (k, n, 99) to (k, n, 16)."""
    kinds, n, _ = values.shape
    size = n * HUE_BINS
    count = np.bincount(hue_bin.ravel(), minlength=size)
    every = hue_bin + size * np.arange(kinds)[:, None, None]
    summed = np.bincount(every.ravel(), values.ravel(), minlength=kinds * size).reshape(kinds, size)
    mean: FloatArray = summed / count
    return mean.reshape(kinds, n, HUE_BINS)


def _polygon_area(x: FloatArray, y: FloatArray) -> FloatArray:
    """Area of closed polygons with corners x, y, each shape (..., k)."""
    cross = (x[..., :-1] * y[..., 1:] - y[..., :-1] * x[..., 1:]).sum(axis=-1)
    closing = x[..., -1] * y[..., 0] - y[..., -1] * x[..., 0]
    return 0.5 * np.abs(cross + closing)


SKIN_SAMPLES = (14, 17)
"""Samples 15 and 18 (counted from one), the skin complexions of the set."""


def sample_fidelity(delta_e: FloatArray) -> FloatArray:
    """Rf of each sample, shape (..., 99) (TM-30-20, equation 19, for one sample)."""
    return fidelity_scale(delta_e)


def skin_fidelity(delta_e: FloatArray) -> FloatArray:
    """Mean Rf of the two skin samples, shape (..., 99) to (...) (TM-30-20, clause 4.6)."""
    mean: FloatArray = fidelity_scale(delta_e)[..., SKIN_SAMPLES].mean(axis=-1)
    return mean


def design_intent(rf: float, rg: float, rf_h1: float, rcs_h1: float) -> dict[str, str]:
    """The design-intent categories of ANSI/IES TM-30 Annex E: the best priority level met for each intent, else a dash.

    `rcs_h1` in %. The limits are from memory: P1-P3 preference, V1-V3 vividness, F1-F3 fidelity.
    """
    limits = {
        "preference": (
            ("P1", rf >= 78 and rg >= 95 and -1 <= rcs_h1 <= 15),
            ("P2", rf >= 75 and rg >= 92 and -7 <= rcs_h1 <= 19),
            ("P3", rf >= 70 and rg >= 89 and -12 <= rcs_h1 <= 23),
        ),
        "vividness": (
            ("V1", rg >= 118 and rcs_h1 >= 15),
            ("V2", rg >= 110 and rcs_h1 >= 6),
            ("V3", rg >= 100 and rcs_h1 >= 0),
        ),
        "fidelity": (
            ("F1", rf >= 95),
            ("F2", rf >= 90 and rf_h1 >= 90),
            ("F3", rf >= 85 and rf_h1 >= 85),
        ),
    }
    return {intent: next((name for name, met in levels if met), "\u2013") for intent, levels in limits.items()}
