"""What colours look like to an adapted observer, as CIELAB and as display colours."""

import numpy as np

from even_beam.light.spectra import FloatArray

_BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
_FROM_BRADFORD = np.linalg.inv(_BRADFORD)
D65_WHITE = np.array([0.95047, 1.0, 1.08883])
_XYZ_TO_SRGB = np.array(
    [[3.2404542, -1.5371385, -0.4985314], [-0.9692660, 1.8760108, 0.0415560], [0.0556434, -0.2040259, 1.0572252]]
)


def adapted_to_d65(xyz: FloatArray, white: FloatArray) -> FloatArray:
    """X, Y, Z as seen after full adaptation from `white` to D65, shapes (..., k, 3) and (..., 3).

    Source: the linearised Bradford transform, ICC.1:2010, annex E.
    """
    scale = (D65_WHITE @ _BRADFORD.T) / (white @ _BRADFORD.T)
    adapted: FloatArray = (xyz @ _BRADFORD.T * scale[..., None, :]) @ _FROM_BRADFORD.T
    return adapted


def lab(relative_xyz: FloatArray) -> FloatArray:
    """CIELAB of X/Xn, Y/Yn, Z/Zn, shape (..., 3) (ISO/CIE 11664-4)."""
    f = np.where(relative_xyz > (6.0 / 29.0) ** 3, np.cbrt(relative_xyz), relative_xyz * (841.0 / 108.0) + 4.0 / 29.0)
    colour = np.empty_like(f)
    colour[..., 0] = 116.0 * f[..., 1] - 16.0
    colour[..., 1] = 500.0 * (f[..., 0] - f[..., 1])
    colour[..., 2] = 200.0 * (f[..., 1] - f[..., 2])
    return colour


def srgb(xyz: FloatArray) -> FloatArray:
    """Display colours 0-1 of X, Y, Z relative to D65, shape (..., 3); outside the gamut they are cut.

    Source: IEC 61966-2-1.
    """
    linear = np.clip(xyz @ _XYZ_TO_SRGB.T, 0.0, 1.0)
    return np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1.0 / 2.4) - 0.055)
