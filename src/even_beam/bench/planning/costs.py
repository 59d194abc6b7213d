"""What each change costs at the bench, in seconds: usual figures, the user's own, or learned from earlier sessions."""

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, fields, replace

import numpy as np

from even_beam.bench.fields import FIELDS, KNOB
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Step, Terms


@dataclass(frozen=True, slots=True)
class Costs:
    """Seconds a change takes; `by_key_s` and `by_hand_s` are one reading. Common practice, no source."""

    knob_s: float = 2.0
    zoom_s: float = 5.0
    aim_s: float = 15.0
    distance_s: float = 60.0
    modifier_s: float = 180.0
    lamp_s: float = 60.0
    by_key_s: float = 6.0
    by_hand_s: float = 30.0
    warm_up_s: float = 900.0

    def with_own(self, own: Mapping[str, float]) -> "Costs":
        """These costs with a person's own figures. Raises `ValueError` for an unknown name or a negative figure."""
        known = {field.name for field in fields(self)}
        for name, value in own.items():
            if name not in known or not 0.0 <= value <= 86_400.0:
                raise ValueError(f"{name} = {value:g} is no cost; there are {', '.join(sorted(known))}, in seconds")
        return replace(self, **own)

    def reading(self, by_key: bool) -> float:
        """What one reading takes."""
        return self.by_key_s if by_key else self.by_hand_s

    def change(self, before: Terms | None, now: Terms, same_lamp: bool = True) -> float:
        """What it takes to get from one setting to the next."""
        if before is None or not same_lamp:
            return self.lamp_s
        changed = [one.cost for one in FIELDS if one.cost and getattr(before, one.stored) != getattr(now, one.stored)]
        turned = changed.count(KNOB)  # each knob is turned; all else is moved once
        return self.knob_s * turned + sum(getattr(self, cost) for cost in {*changed} - {KNOB})


def seconds_needed(steps: Sequence[Step], meters: Mapping[str, Meter], costs: Costs | None = None) -> float:
    """The time the steps take, with every change, wait and reading."""
    return seconds_of([(step, step.repeats) for step in steps], meters, costs or Costs())


def seconds_of(steps: Iterable[tuple[Step, int]], meters: Mapping[str, Meter], costs: Costs) -> float:
    """The time that steps take when each is read so often."""
    by_key = {meter.id for meter in meters.values() if meter.is_spectrometer}
    total, before = 0.0, None
    for step, repeats in steps:
        total += repeats * costs.reading(step.meter_id in by_key)
        same_lamp = before is not None and before.source_ids == step.source_ids
        total += max(costs.change(before.terms if before is not None else None, step.terms, same_lamp), step.wait_s)
        before = step
    return total


LEAST_OBSERVED = 5
"""A cost is learned from at least so many changes of its kind."""

LONGEST_S = 1800.0
"""A longer gap between two readings was a break, not a change."""


@dataclass(frozen=True, slots=True)
class Learned:
    """Costs with those replaced that earlier sessions tell; `observed` says from how many changes each comes."""

    costs: Costs
    observed: Mapping[str, int]


def learned(sessions: Iterable[Sequence[Measured]], meters: Mapping[str, Meter], costs: Costs) -> Learned:
    """Medians of the gaps between readings of earlier sessions, by the dearest change in each gap.

    `sessions` are readings in the order taken. Repeats tell what a reading costs; it is taken off the other gaps.
    Imported readings, which share one moment, tell nothing.
    """
    gaps: dict[str, list[tuple[float, bool]]] = {}
    for readings in sessions:
        for before, now in itertools.pairwise(readings):
            seconds = (now.reading.at - before.reading.at).total_seconds()
            if 1.0 <= seconds <= LONGEST_S:
                meter = meters.get(now.reading.meter_id or "")
                by_key = meter is not None and meter.is_spectrometer
                gaps.setdefault(_kind(before, now, by_key), []).append((seconds, by_key))
    found: dict[str, float] = {}
    for name in ("by_key_s", "by_hand_s"):
        if len(gaps.get(name, ())) >= LEAST_OBSERVED:
            found[name] = float(np.median([seconds for seconds, _ in gaps[name]]))
    read = replace(costs, **found)
    for name, observed in gaps.items():
        if name in found or name in {"by_key_s", "by_hand_s"} or len(observed) < LEAST_OBSERVED:
            continue
        alone = [seconds - (read.by_key_s if by_key else read.by_hand_s) for seconds, by_key in observed]
        found[name] = max(float(np.median(alone)), 0.5)
    return Learned(replace(costs, **found), {name: len(gaps[name]) for name in found})


def _kind(before: Measured, now: Measured, by_key: bool) -> str:
    """The dearest change between two readings."""
    old, new = before.terms, now.terms
    if before.reading.source_ids != now.reading.source_ids:
        return "lamp_s"
    changed = {one.cost for one in FIELDS if one.cost and getattr(old, one.stored) != getattr(new, one.stored)}
    for cost in ("modifier_s", "distance_s", "aim_s", "zoom_s"):
        if cost in changed:
            return cost
    if old != new:
        return KNOB
    return "by_key_s" if by_key else "by_hand_s"
