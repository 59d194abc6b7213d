"""Repeats of a step: how far they lie apart, their mean and range, and whether one more is wanted."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from even_beam.bench.measured import Measured
from even_beam.bench.run import StepState


class Repeats(NamedTuple):
    """The accepted illuminances of a step: their number, mean and range in lx, and the spread in stops."""

    readings: int
    mean: float
    low: float
    high: float

    @property
    def spread_stops(self) -> float:
        """How far the highest lies above the lowest."""
        return float(np.log2(self.high / self.low))


def repeats_of(state: StepState, measured_of: Callable[[str], Measured]) -> Repeats | None:
    """The accepted readings of a step together; None when none has an illuminance above zero."""
    levels = [measured_of(s.reading.id).value("illuminance") for s in state.readings if s.counts]
    found = [level for level in levels if level is not None and level > 0.0]
    return Repeats(len(found), float(np.mean(found)), min(found), max(found)) if found else None


def repeats_too_far_apart(state: StepState, measured_of: Callable[[str], Measured]) -> float | None:
    """The spread in stops of a finished step that calls for one more reading; None when it does not.

    One more is asked for only once: what still disagrees then is the lamp's or the bench's own spread, and is kept.
    """
    if state.step.spread_stops is None or not state.done or state.taken != max(state.step.repeats, 2):
        return None
    repeats = repeats_of(state, measured_of)
    if repeats is None or repeats.spread_stops <= state.step.spread_stops:
        return None
    return repeats.spread_stops
