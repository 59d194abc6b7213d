"""Traces: a quantity against time, such as warm-up, a power log or a fade, and when it has settled."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from even_beam.bench.records import Origin, Value
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

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

    @property
    def least(self) -> float:
        """The least value."""
        return float(self.values.min())

    @property
    def peak(self) -> float:
        """The greatest value: of a power log what a circuit must bear."""
        return float(self.values.max())

    @property
    def mean(self) -> float:
        """The mean over time, also of samples that stand unevenly."""
        length = float(self.seconds[-1] - self.seconds[0])
        return float(np.trapezoid(self.values, self.seconds)) / length if length > 0.0 else float(self.values.mean())


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


def ends_of(traces: Sequence[Trace]) -> tuple[Value, ...]:
    """The figure that a trace ends on, between its least and its peak, for each of them."""
    return tuple(
        Value(
            t.quantity,
            t.end,
            Origin.DEVICE,
            t.least,
            t.peak,
            text=f"{t.end:.4g}, the end of a trace from {t.least:.4g} to {t.peak:.4g}, mean {t.mean:.4g}",
            unit=QUANTITIES[t.quantity].unit,
            qualifier="trace",
        )
        for t in traces
    )


def settled_sentence(trace: Trace) -> str:
    """How long the trace is, where it ends, its peak, mean and least, and when it had settled, in words."""
    quantity = QUANTITIES[trace.quantity]
    length = duration(float(trace.seconds[-1]))
    decimals = 0 if trace.end >= 100.0 else 2
    end, peak, mean, least = (
        f"{notation.number(value, decimals)} {quantity.unit}".rstrip()
        for value in (trace.end, trace.peak, trace.mean, trace.least)
    )
    end = (
        f"{notation.sentence(quantity.label)} over {length}, ending on {end} (peak {peak}, mean {mean}, least {least})"
    )
    settled = settled_after_s(trace)
    if settled is None:
        return f"{end}: it had not settled."
    return f"{end}: within {100.0 * SETTLED_SHARE:.0f} % from {duration(settled)} on." if settled else f"{end}: steady."


def duration(seconds: float) -> str:
    """Seconds below two minutes, then minutes."""
    return f"{notation.number(seconds)} s" if seconds < 120.0 else f"{notation.number(seconds / 60.0, 1)} min"
