"""CIE illuminants and lamp spectra of the reference libraries, as plain arrays: an open data set to compare on."""

from functools import cache

import colour
import numpy as np

from even_beam.light import WAVELENGTH_NM
from even_beam.light.spectra import resample


@cache
def illuminants() -> dict[str, tuple[np.ndarray, np.ndarray]]:
    """Every CIE illuminant that covers the visible range, on its own grid (5 nm for most)."""
    return {
        name: (sd.wavelengths.copy(), sd.values.copy())
        for name, sd in colour.SDS_ILLUMINANTS.items()
        if sd.wavelengths[0] <= 380.0 and sd.wavelengths[-1] >= 780.0
    }


NAMES = tuple(illuminants())


def at_1_nm(name: str) -> np.ndarray:
    """A lamp at 380-780 nm in 1 nm, shape (401,): the same for us and for the library.

    Cut at zero here, so that all are given the very same light; interpolation, which is not cut, is compared apart.
    """
    return np.maximum(resample(*illuminants()[name]), 0.0)


def distribution(name: str) -> colour.SpectralDistribution:
    """The same as a spectral distribution of the library."""
    return colour.SpectralDistribution(dict(zip(WAVELENGTH_NM, at_1_nm(name), strict=True)), name=name)
