"""Several lights on one spot: the sum of weighted spectra."""

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.colorimetry import illuminance
from even_beam.light.spectra import FloatArray, SpectrumError


def mixed(spectra: FloatArray, weights: ArrayLike) -> FloatArray:
    """The sum of spectra, shape (..., k, n), by weights that broadcast to (..., k): shape (..., n).

    Raises `SpectrumError` for negative weights: light can only be added.
    """
    factors = np.asarray(weights, np.float64)
    if (factors < 0.0).any():
        raise SpectrumError("a light cannot be mixed in with a negative weight")
    total: FloatArray = (spectra * factors[..., None]).sum(axis=-2)
    return total


def at_illuminance(spectra: FloatArray, lux: ArrayLike) -> FloatArray:
    """Spectra on the working grid, shape (..., 401), scaled to illuminances that broadcast to (...)."""
    factor = np.asarray(lux, np.float64) / illuminance(spectra)
    scaled: FloatArray = spectra * factor[..., None]
    return scaled
