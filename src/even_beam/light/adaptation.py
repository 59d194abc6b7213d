"""What colours look like to an adapted observer, as CIELAB and as display colours."""

import numpy as np

from even_beam.light.spectra import FloatArray

_BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
_FROM_BRADFORD = np.linalg.inv(_BRADFORD)
D65_WHITE = np.array([0.95047, 1.0, 1.08883])
SRGB_TO_XYZ = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)
"""Linear sRGB to X, Y, Z on D65 (IEC 61966-2-1)."""

XYZ_TO_SRGB = np.linalg.inv(SRGB_TO_XYZ)


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


def xyz_of_lab(colour: FloatArray) -> FloatArray:
    """X, Y, Z relative to D65 of CIELAB, shape (..., 3) (ISO/CIE 11664-4)."""
    y = (colour[..., 0] + 16.0) / 116.0
    f = np.stack([y + colour[..., 1] / 500.0, y, y - colour[..., 2] / 200.0], axis=-1)
    xyz: FloatArray = np.where(f > 6.0 / 29.0, f**3, (f - 4.0 / 29.0) * 108.0 / 841.0) * D65_WHITE
    return xyz


def srgb(xyz: FloatArray) -> FloatArray:
    """Display colours 0-1 of X, Y, Z relative to D65, shape (..., 3); outside the gamut they are cut."""
    return srgb_of_linear(xyz @ XYZ_TO_SRGB.T)


def srgb_of_linear(linear: FloatArray) -> FloatArray:
    """Display colours 0-1 of linear light; what is outside is cut (IEC 61966-2-1, 5.2)."""
    cut = np.clip(linear, 0.0, 1.0)
    return np.where(cut <= 0.0031308, 12.92 * cut, 1.055 * cut ** (1.0 / 2.4) - 0.055)
