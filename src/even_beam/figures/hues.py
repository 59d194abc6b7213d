"""Display colours that stand for spectral hues, muted so that they throw no coloured light."""

from functools import lru_cache

import numpy as np

from even_beam.light import WAVELENGTH_NM
from even_beam.light.colorimetry import observer

_XYZ_TO_SRGB = np.array([[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]])


@lru_cache(maxsize=8)
def spectral_colours(low_nm: float, high_nm: float, count: int) -> tuple[tuple[int, int, int], ...]:
    """`count` sRGB colours from `low_nm` to `high_nm`: the hue of each wavelength, brought into the display's gamut."""
    wavelength = np.linspace(low_nm, high_nm, count)
    xyz = np.stack([np.interp(wavelength, WAVELENGTH_NM, column) for column in observer().T], axis=-1)
    linear = xyz @ _XYZ_TO_SRGB.T
    linear -= np.minimum(linear.min(axis=-1, keepdims=True), 0.0)
    visible = linear.max(axis=-1, keepdims=True)
    linear = linear / np.maximum(visible, 1e-9) * np.clip(visible * 6.0, 0.25, 1.0)
    coded = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * np.power(np.maximum(linear, 0.0), 1 / 2.4) - 0.055)
    rgb = np.round(255.0 * 0.62 * coded).astype(int)
    return tuple((int(r), int(g), int(b)) for r, g, b in rgb)
