"""Reference light: Planckian radiators, CIE daylight, and blends of the two."""

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.spectra import WAVELENGTH_NM, FloatArray
from even_beam.light.tables import table

SECOND_RADIATION_CONSTANT_M_K = 1.4388e-2
"""c2 as CIE 15 and CIE 13.3 fix it for illuminants; the newest value of 1.438777e-2 would move CCT by 0.1 K at 5600
K."""


def planckian(cct: ArrayLike) -> FloatArray:
    """Relative spectral radiance of black bodies at `cct` kelvin, shape (...) to (..., 401), one at 560 nm.

    Source: Planck's law; CIE 15:2018, clause 4.2.
    """
    temperature = np.asarray(cct, dtype=np.float64)[..., None]
    wavelength_m = WAVELENGTH_NM * 1e-9
    exponent = SECOND_RADIATION_CONSTANT_M_K / temperature
    at_560_nm = np.expm1(exponent / 560e-9)
    ratio: FloatArray = (560e-9 / wavelength_m) ** 5 * at_560_nm / np.expm1(exponent / wavelength_m)
    return ratio


def daylight_chromaticity(cct: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """CIE 1931 x, y of CIE daylight of nominal `cct` kelvin, each shape (...).

    Stated by the CIE for 4000-25 000 K; below and beyond, the same polynomials are continued.
    Source: CIE 15:2018, clause 4.1.2, equations 4.2-4.4.
    """
    t = np.asarray(cct, dtype=np.float64)
    low = -4.6070e9 / t**3 + 2.9678e6 / t**2 + 0.09911e3 / t + 0.244063
    high = -2.0064e9 / t**3 + 1.9018e6 / t**2 + 0.24748e3 / t + 0.237040
    x = np.where(t <= 7000.0, low, high)
    return x, -3.000 * x**2 + 2.870 * x - 0.275


def daylight_weights(cct: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """M1 and M2, the weights of the second and third daylight component, each shape (...).

    Not rounded to three decimals, so that the illuminant is a smooth function of its temperature.
    Source: CIE 15:2018, equation 4.5.
    """
    x, y = daylight_chromaticity(cct)
    divisor = 0.0241 + 0.2562 * x - 0.7341 * y
    return (-1.3515 - 1.7703 * x + 5.9114 * y) / divisor, (0.0300 - 31.4424 * x + 30.0717 * y) / divisor


def daylight(cct: ArrayLike) -> FloatArray:
    """Relative spectral power of CIE daylight of nominal `cct` kelvin, shape (...) to (..., 401), one at 560 nm.

    Components interpolated linearly between 5 nm, as the CIE prescribes. Source: CIE 15:2018, clause 4.1.2.
    """
    m1, m2 = daylight_weights(cct)
    wavelength, columns = table("cie-daylight-components")
    s0, s1, s2 = (np.interp(WAVELENGTH_NM, wavelength, column) for column in columns.T)
    relative = s0 + m1[..., None] * s1 + m2[..., None] * s2
    at_560_nm = int(560 - WAVELENGTH_NM[0])
    spectrum: FloatArray = relative / relative[..., at_560_nm, None]
    return spectrum
