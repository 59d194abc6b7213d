"""Quantities that depend on a colour temperature alone, tabulated once and interpolated.

What a reference illuminant does to the samples of a metric is a smooth function of its temperature, the same for
every lamp of that temperature. Computing it once on a fine grid in mired makes a batch of spectra several times
faster; the error of the interpolation (below 1e-7 of a score, held by a test) is far below any meter's.
"""

from collections.abc import Callable
from functools import cached_property
from typing import NamedTuple

import numpy as np

from even_beam.light.colorimetry import CCT_RANGE_K
from even_beam.light.spectra import FloatArray

_STEP_MIRED = 1.0


class _Segment(NamedTuple):
    """Values at nodes that are evenly spaced in mired, from the coolest light on."""

    first_mired: float
    step_mired: float
    values: FloatArray


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
    def _segments(self) -> list[_Segment]:
        """The nodes between each two edges, the warmest first."""
        segments = []
        for low, high in zip(self._edges[:-1], self._edges[1:], strict=True):
            warm, cool = 1e6 / low, 1e6 / high
            count = max(8, int(np.ceil((warm - cool) / _STEP_MIRED)) + 1)
            nodes = np.linspace(cool, warm, count)
            values = np.ascontiguousarray(self._compute(1e6 / nodes, 2e6 / (warm + cool)))
            segments.append(_Segment(cool, (warm - cool) / (count - 1), values))
        return segments

    def at(self, cct: FloatArray) -> FloatArray:
        """Values at `cct`, shape (n,) to (n, ...), by cubic Lagrange interpolation; NaN where `cct` is NaN."""
        segments = self._segments
        which = np.searchsorted(self._edges[1:-1], cct, side="right")  # NaN falls into the last segment, and stays NaN
        if (which == which[0]).all():
            return _interpolate(segments[which[0]], cct)
        result = np.empty((cct.size, *segments[0].values.shape[1:]))
        for k, segment in enumerate(segments):
            rows = np.flatnonzero(which == k)
            if rows.size:
                result[rows] = _interpolate(segment, cct[rows])
        return result


def _interpolate(segment: _Segment, cct: FloatArray) -> FloatArray:
    """Four nodes a temperature, weighted by Lagrange's polynomials."""
    values = segment.values
    position = (1e6 / cct - segment.first_mired) / segment.step_mired
    i = np.minimum(np.maximum(position.astype(np.intp) - 1, 0), values.shape[0] - 4)  # where NaN, any: t stays NaN
    t = position - i
    a, b, c = t - 1.0, t - 2.0, t - 3.0
    weights = np.empty((cct.size, 1, 4))
    weights[:, 0, 0], weights[:, 0, 1] = a * b * c / -6.0, t * b * c / 2.0
    weights[:, 0, 2], weights[:, 0, 3] = t * a * c / -2.0, t * a * b / 6.0
    nodes = values.reshape(values.shape[0], -1)[i[:, None] + np.arange(4)]
    return (weights @ nodes).reshape(cct.size, *values.shape[1:])
