"""Traces: a quantity against time, such as warm-up, a power log or a fade, and when it has settled."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

SETTLED_SHARE = 0.01
"""A lamp has settled when what follows stays within this share of the end (common practice, no source)."""


@dataclass(frozen=True, eq=False, slots=True)
class Trace:
    """`values` of a quantity in its stored unit at `seconds` from the start, both of shape (n,), times increasing."""

    quantity: str
    seconds: NDArray[np.float64]
    values: NDArray[np.float64]

    @property
    def end(self) -> float:
        """The mean of the last tenth of the time."""
        last = self.seconds >= self.seconds[-1] - 0.1 * (self.seconds[-1] - self.seconds[0])
        return float(np.mean(self.values[last]))


def settled_after_s(trace: Trace, share: float = SETTLED_SHARE) -> float | None:
    """Seconds until the trace stays within `share` of its end; None when it never does, or ends still moving.

    A trace that only reaches its end in the last tenth has not been watched long enough.
    """
    if trace.values.size < 3 or trace.end == 0.0:
        return None
    outside = np.flatnonzero(np.abs(trace.values / trace.end - 1.0) > share)
    if outside.size == 0:
        return 0.0
    place = int(outside[-1]) + 1
    length = trace.seconds[-1] - trace.seconds[0]
    if place >= trace.values.size or trace.seconds[place] - trace.seconds[0] > 0.9 * length:
        return None
    return float(trace.seconds[place] - trace.seconds[0])
