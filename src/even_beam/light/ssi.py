"""Spectral similarity index (SMPTE ST 2122): how like a stated reference a spectrum is, 100 being the same.

The index knows no observer and no camera, and needs a reference: the two belong together wherever it is quoted.
"""

from functools import cache

import numpy as np

from even_beam.light.illuminants import daylight, planckian
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray
from even_beam.light.temperature_table import TemperatureTable

MATCHED_CHANGE_K = 4000.0
"""The CCT-matched reference is Planckian below and CIE daylight from here on."""

_BINS = 30
_BIN_WEIGHTS = np.concatenate(
    [np.array([12.0, 22.0, 32.0, 40.0, 44.0]) / 45.0, np.ones(_BINS - 7), np.array([11.0, 3.0]) / 15.0]
)
_SMOOTHING = (0.22, 0.56)
"""Share of either neighbour and of the bin itself."""


@cache
def _bin_matrix() -> FloatArray:
    """Spectrum to thirty bins of 10 nm, 375-675 nm, by the trapezium rule: shape (401, 30).

    The working grid begins at 380 nm: the first bin holds its upper half, for test and reference alike.
    """
    edges = 375.0 + 10.0 * np.arange(_BINS)
    offset = WAVELENGTH_NM[:, None] - edges
    inside = (offset >= 0.0) & (offset <= 10.0)
    return np.where(inside, np.where((offset == 0.0) | (offset == 10.0), 0.5, 1.0), 0.0)


def binned(spectra: FloatArray) -> FloatArray:
    """Share of the power in each bin, shape (..., 401) to (..., 30), summing to one."""
    bins = spectra @ _bin_matrix()
    share: FloatArray = bins / bins.sum(axis=-1, keepdims=True)
    return share


def similarity(test: FloatArray, reference: FloatArray, measured: FloatArray | None = None) -> FloatArray:
    """SSI of spectra on the working grid; shapes (..., 401) broadcast to (...), not rounded.

    `measured`, shape (401,), is one where the test was measured and zero elsewhere: both are cut to it, since what
    was not measured must not count as missing light. Source: SMPTE ST 2122:2020, clause 5.
    """
    if measured is not None:
        test, reference = test * measured, reference * measured
    return _similarity_of_bins(binned(test), binned(reference))


def _similarity_of_bins(test: FloatArray, reference: FloatArray) -> FloatArray:
    weighted = _BIN_WEIGHTS * (test - reference) / (reference + 1.0 / _BINS)
    side, middle = _SMOOTHING
    smooth = np.zeros((*weighted.shape[:-1], _BINS + 2))  # one bin of zeros at either end, smoothed as well
    smooth[..., 1:-1] = middle * weighted
    smooth[..., :-2] += side * weighted
    smooth[..., 2:] += side * weighted
    index: FloatArray = 100.0 - 32.0 * np.sqrt((smooth**2).sum(axis=-1))
    return index


def matched_reference(cct: FloatArray) -> FloatArray:
    """The reference at the lamp's own temperature: shape (n,) in K to (n, 401). Below 4000 K Planckian, else
    daylight."""
    return np.where((cct < MATCHED_CHANGE_K)[..., None], planckian(cct), daylight(cct))


_MATCHED = TemperatureTable(
    lambda cct, inside: (planckian if inside < MATCHED_CHANGE_K else daylight)(cct) @ _bin_matrix()
)


def similarity_to_matched(test: FloatArray, cct: FloatArray, measured: FloatArray | None = None) -> FloatArray:
    """SSI against the CCT-matched reference, shapes (n, 401) and (n,) to (n,); NaN where `cct` is NaN."""
    if measured is not None and not measured.all():
        return similarity(test, matched_reference(cct), measured)
    reference = _MATCHED.at(cct)
    return _similarity_of_bins(binned(test), reference / reference.sum(axis=-1, keepdims=True))
