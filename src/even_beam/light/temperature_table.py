"""Quantities that depend on a colour temperature alone, tabulated once and interpolated.

What a reference illuminant does to the samples of a metric is a smooth function of its temperature, the same for
every lamp of that temperature. Computing it once on a fine grid in mired makes a batch of spectra several times
faster; the error of the interpolation (below 1e-7 of a score, held by a test) is far below any meter's.
"""

from collections.abc import Callable
from functools import cached_property

import numpy as np

from even_beam.light.colorimetry import CCT_RANGE_K
from even_beam.light.spectra import FloatArray

_STEP_MIRED = 1.0


class TemperatureTable:
    """`compute` (temperatures (n,) in K to values (n, ...)) over 1000-50 000 K, with steps allowed at `breaks_k`.

    A break is where a standard changes the kind of its reference; a temperature equal to a break belongs to the
    segment above it. `compute` is told the segment by a temperature strictly inside it, and must continue its
    formula smoothly to the segment's ends: it receives (temperatures, inside).
    """

    def __init__(self, compute: Callable[[FloatArray, float], FloatArray], breaks_k: tuple[float, ...] = ()) -> None:
        self._compute = compute
        self._edges = np.array([CCT_RANGE_K[0] * 0.99, *breaks_k, CCT_RANGE_K[1] * 1.01])

    @cached_property
    def _segments(self) -> list[tuple[float, float, FloatArray]]:
        """(first mired, step, values at the nodes) for each segment, coolest last."""
        segments = []
        for low, high in zip(self._edges[:-1], self._edges[1:], strict=True):
            warm, cool = 1e6 / low, 1e6 / high
            count = max(8, int(np.ceil((warm - cool) / _STEP_MIRED)) + 1)
            nodes = np.linspace(cool, warm, count)
            values = self._compute(1e6 / nodes, 2e6 / (warm + cool))
            segments.append((cool, (warm - cool) / (count - 1), values))
        return segments

    def at(self, cct: FloatArray) -> FloatArray:
        """Values at `cct`, shape (n,) to (n, ...), by cubic Lagrange interpolation; NaN where `cct` is NaN."""
        known = np.isfinite(cct)
        safe = np.where(known, cct, self._edges[1] if self._edges.size > 2 else 5000.0)
        which = np.searchsorted(self._edges[1:-1], safe, side="right")
        shape = self._segments[0][2].shape[1:]
        result = np.empty((safe.size, *shape))
        for k, (first, step, values) in enumerate(self._segments):
            rows = np.flatnonzero(which == k)
            if rows.size:
                result[rows] = _interpolate(values, (1e6 / safe[rows] - first) / step)
        result[~known] = np.nan
        return result


def _interpolate(values: FloatArray, position: FloatArray) -> FloatArray:
    i = np.clip(np.floor(position).astype(int) - 1, 0, values.shape[0] - 4)
    t = position - i
    weights = (
        -(t - 1.0) * (t - 2.0) * (t - 3.0) / 6.0,
        t * (t - 2.0) * (t - 3.0) / 2.0,
        -t * (t - 1.0) * (t - 3.0) / 2.0,
        t * (t - 1.0) * (t - 2.0) / 6.0,
    )
    column = (slice(None),) + (None,) * (values.ndim - 1)
    total = weights[0][column] * values[i]
    for k in (1, 2, 3):
        total += weights[k][column] * values[i + k]
    return total
