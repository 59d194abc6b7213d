"""Control points: readings that repeat an earlier one, and what they say of the bench between the two."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.words import notation

CONTROL_STOPS = 0.1
"""A repeat agrees with its reference within this (common practice, no source)."""


class Drift(NamedTuple):
    """A reading, its repeat, and how far the repeat lies from it."""

    first: Measured
    again: Measured
    stops: float

    @property
    def agrees(self) -> bool:
        """Whether the bench stood still between the two, as far as the level tells."""
        return abs(self.stops) <= CONTROL_STOPS


def reference_of(control: Measured, earlier: Sequence[Measured]) -> Measured | None:
    """The latest trustworthy reading that `control` repeats after other terms were read; None when it repeats none."""
    others_between = False
    for measured in reversed(earlier):
        same = _point(measured) == _point(control)
        if same and others_between and not measured.state.suspect and _level(measured) > 0.0:
            return measured
        others_between = others_between or not same
    return None


def compared(control: Measured, earlier: Sequence[Measured]) -> Drift | None:
    """How far a control reading lies from its reference; None for a reading that is no control."""
    reference = reference_of(control, earlier)
    if reference is None or _level(control) <= 0.0:
        return None
    return Drift(reference, control, _stops(control, reference))


def last_agreeing(readings: Sequence[Measured]) -> int:
    """Place of the newest control point that agrees, with its own repeats; the first reading stands for itself."""
    place = next((p for p in range(len(readings) - 1, 0, -1) if _agrees(compared(readings[p], readings[:p]))), 0)
    while place + 1 < len(readings) and _repeats(readings[place + 1], readings[place]):
        place += 1
    return place


def _agrees(drift: Drift | None) -> bool:
    return drift is not None and drift.agrees


def _repeats(reading: Measured, before: Measured) -> bool:
    if _point(reading) != _point(before) or _level(reading) <= 0.0 or _level(before) <= 0.0:
        return False
    return abs(_stops(reading, before)) <= CONTROL_STOPS


def suspect_stretch(readings: Sequence[Measured]) -> Sequence[Measured]:
    """What may have been read after something moved: all since the last control point that agrees, at least the
    newest."""
    return readings[min(last_agreeing(readings) + 1, len(readings) - 1) :]


def session_drift(readings: Sequence[Measured]) -> Drift | None:
    """From a session's first reading to its last repeat, with other terms between; None when it was never repeated."""
    readings = [m for m in readings if m.terms.mode != OFF]  # the room is read before the first lamp
    if not readings or _level(readings[0]) <= 0.0:
        return None
    first = readings[0]
    other = next((i for i, m in enumerate(readings) if _point(m) != _point(first)), len(readings))
    repeats = [m for m in readings[other:] if _point(m) == _point(first) and _level(m) > 0.0]
    if not repeats:
        return None
    return Drift(first, repeats[-1], _stops(repeats[-1], first))


def drift_words(drift: Drift | None) -> str:
    """What the end of a run says of a lamp, after its name: whether it held from its first reading to its repeat."""
    if drift is None:
        return "not repeated"
    stops = f"{notation.number(drift.stops, 2, signed=True)} stop"
    cct, again = drift.first.value("cct"), drift.again.value("cct")
    mired = f", {notation.number(1e6 / again - 1e6 / cct, 1, signed=True)} mired" if cct and again else ""
    return f"held ({stops}{mired})" if drift.agrees else f"moved {stops}{mired}: doubt what lies between"


def _point(measured: Measured) -> tuple[object, ...]:
    return terms.key(measured, "plane", "session"), measured.reading.source_ids


def _stops(again: Measured, first: Measured) -> float:
    return float(np.log2(_level(again) / _level(first)))


def _level(measured: Measured) -> float:
    return measured.value("illuminance") or 0.0
