"""Quantities that depend on a colour temperature alone, tabulated once and interpolated.

What a reference illuminant does to the samples of a metric is a smooth function of its temperature, the same for
every lamp of that temperature. Computing it once on a fine grid in mired makes a batch of spectra several times
faster; the error of the interpolation (below 1e-7 of a score, held by a test) is far below any meter's.
"""

from collections.abc import Callable
from functools import cache, cached_property, lru_cache
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from even_beam.light.colorimetry import CCT_RANGE_K
from even_beam.light.spectra import FloatArray

_STEP_MIRED = 1.0


BREAKS_K = (3400.0, 4000.0, 5000.0)
"""Where some standard changes the kind of its reference; a temperature at a break belongs to the segment above it."""

_EDGES_K = np.array([CCT_RANGE_K[0] * 0.99, *BREAKS_K, CCT_RANGE_K[1] * 1.01])


class _Nodes(NamedTuple):
    """The nodes of one segment, evenly spaced in mired from the coolest light on."""

    cct: FloatArray
    first_mired: float
    step_mired: float
    inside_k: float


@cache
def _segments() -> tuple[_Nodes, ...]:
    """The nodes between each two edges, the warmest segment first. Every table has the same."""
    found = []
    for low, high in pairwise(_EDGES_K):
        warm, cool = 1e6 / low, 1e6 / high
        count = max(8, int(np.ceil((warm - cool) / _STEP_MIRED)) + 1)
        found.append(
            _Nodes(1e6 / np.linspace(cool, warm, count), cool, (warm - cool) / (count - 1), 2e6 / (warm + cool))
        )
    return tuple(found)


class _Located(NamedTuple):
    """Where temperatures lie: the rows in one segment, the four nodes of each (rows, 4), and their weights (rows, 1,
    4)."""

    segment: int
    rows: NDArray[np.intp] | slice
    nodes: NDArray[np.intp]
    weights: FloatArray


@lru_cache(maxsize=8)
def _located(cct_bytes: bytes) -> tuple[_Located, ...]:
    """All tables of one evaluation ask for the same temperatures: found once, remembered by their bytes."""
    cct = np.frombuffer(cct_bytes)
    which = np.searchsorted(_EDGES_K[1:-1], cct, side="right")  # NaN falls into the last segment, and stays NaN
    if (which == which[0]).all():
        return (_in_segment(int(which[0]), slice(None), cct),)
    parts = [(k, np.flatnonzero(which == k)) for k in range(len(_EDGES_K) - 1)]
    return tuple(_in_segment(k, rows, cct[rows]) for k, rows in parts if rows.size)


def _in_segment(segment: int, rows: NDArray[np.intp] | slice, cct: FloatArray) -> _Located:
    """The nodes about each temperature and the weights of cubic Lagrange interpolation."""
    nodes = _segments()[segment]
    position = (1e6 / cct - nodes.first_mired) / nodes.step_mired
    i = np.minimum(np.maximum(position.astype(np.intp) - 1, 0), nodes.cct.size - 4)  # where NaN, any: t stays NaN
    t = position - i
    a, b, c = t - 1.0, t - 2.0, t - 3.0
    weights = np.empty((cct.size, 1, 4))
    weights[:, 0, 0], weights[:, 0, 1] = a * b * c / -6.0, t * b * c / 2.0
    weights[:, 0, 2], weights[:, 0, 3] = t * a * c / -2.0, t * a * b / 6.0
    return _Located(segment, rows, i[:, None] + np.arange(4), weights)


class TemperatureTable:
    """`compute` (temperatures (n,) in K, and one inside their segment, to values (n, ...)) over 1000-50 000 K.

    `compute` continues its formula smoothly to the segment's ends; the temperature inside tells which formula it is.
    """

    def __init__(self, compute: Callable[[FloatArray, float], FloatArray]) -> None:
        self._compute = compute

    @cached_property
    def _values(self) -> list[FloatArray]:
        return [np.ascontiguousarray(self._compute(nodes.cct, nodes.inside_k)) for nodes in _segments()]

    def at(self, cct: FloatArray) -> FloatArray:
        """Values at `cct`, shape (n,) to (n, ...), by cubic Lagrange interpolation in mired; NaN where `cct` is NaN."""
        located = _located(cct.tobytes())
        shape = (cct.size, *self._values[0].shape[1:])
        if len(located) == 1:
            return self._interpolated(located[0]).reshape(shape)
        result = np.empty((cct.size, self._values[0][0].size))
        for part in located:
            result[part.rows] = self._interpolated(part)
        return result.reshape(shape)

    def _interpolated(self, part: _Located) -> FloatArray:
        values = self._values[part.segment]
        interpolated: FloatArray = part.weights @ values.reshape(values.shape[0], -1)[part.nodes]
        return interpolated[:, 0, :]
