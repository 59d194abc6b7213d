"""What is given up where time is short: what tells least for the time it takes goes first.

A step counts one. A value between others of its axis counts by how much of the axis is left without it, for its
neighbours tell the rest; the ends of an axis, and what the first step of a lamp is read at, always stay. The weights of
repeats and controls are judgement (common practice, no source).
"""

import math
from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from even_beam.bench.fields import FIELDS, key_of_terms
from even_beam.bench.planning.run_sheet import Bench, GivenUp, Plan
from even_beam.bench.records import Step

REPEAT, CHECK, CONTROL = "repeat", "check", "control"
"""One reading less of each step that has most; the first step again in between; the first step again at the end."""

THIRD, SECOND = 0.1, 0.4
"""What a reading beyond the second tells (a sixth less scatter), and the second (whether they agree at all)."""

IN_BETWEEN, AT_THE_END = 0.5, 2.0
"""What a control tells: one of several, and the last, without which nobody knows that the bench held."""

HARDLY_MORE = 1.5
"""What tells up to so many times as much goes together with what tells least."""

AXES: dict[str, tuple[Callable[[float], float], float]] = {
    "distance_m": (math.log2, 3.0),
    "level_pct": (lambda level: math.log2(max(level, 0.1)), 1.0),
    "cct_k": (lambda kelvin: 1e6 / kelvin, 1.0),
    "angle_deg": (float, 1.0),
    "hue_deg": (float, 1.0),
}
"""The axes of which values may go, on the scale on which they are even (stops, mired, degrees), and what one of their
values counts: marks more than others, for few of them hold a law with two unknowns."""


@dataclass(frozen=True, slots=True)
class _Offer:
    """Something that may go: `gone` are the places of its steps, none where each of `count` is read once less."""

    kind: str
    value: float | str
    worth: float
    count: int
    gone: frozenset[int] = frozenset()


def shortened(plan: Plan, seconds: float, bench: Bench, kept: Collection[str] = ()) -> Plan:
    """The plan in at most so many seconds, as far as that goes, with what was given up in that order.

    `kept` are kinds of which nothing goes, whatever it costs.
    """
    steps, given_up = list(plan.steps), []
    now = bench.seconds(steps)
    while now > seconds:
        offers = [(one, _saved(one, steps, bench)) for one in _offers(steps) if one.kind not in kept]
        offers = [(one, saved) for one, saved in offers if saved > 0.0]
        if not offers:
            break
        going = _together(sorted(offers, key=lambda each: each[0].worth / each[1]), now - seconds)
        given_up += [GivenUp(one.kind, one.value, one.count, saved) for one, saved in going]
        steps = _after([one for one, _ in going], steps)
        now = bench.seconds(steps)
    numbered = tuple(replace(step, position=float(place + 1)) for place, step in enumerate(steps))
    return replace(plan, steps=numbered, seconds=now, given_up=tuple(given_up))


def _saved(offer: _Offer, steps: Sequence[Step], bench: Bench) -> float:
    """The seconds that an offer saves: only what stands beside a step that goes is looked at."""
    if not offer.gone:
        return sum(bench.reading_seconds(step) for step in steps if step.repeats == offer.value)
    saved = 0.0
    for place in sorted(offer.gone):
        if place - 1 in offer.gone:
            continue
        end = next(after for after in range(place + 1, len(steps) + 1) if after not in offer.gone)
        ahead, behind = steps[:place][-1:], steps[end : end + 1]
        saved += bench.seconds([*ahead, *steps[place:end], *behind]) - bench.seconds([*ahead, *behind])
    return saved


def _together(offers: Sequence[tuple[_Offer, float]], seconds: float) -> list[tuple[_Offer, float]]:
    """The first of the offers and, as long as time is short, those of its axis that tell hardly more and whose
    neighbours stay: of a hundred whites every second one goes at once."""
    (first, saved), *others = offers
    going, left = [(first, saved)], seconds - saved
    values = sorted(float(one.value) for one, _ in offers if one.kind == first.kind and first.kind in AXES)
    for offer, more in others:
        if left <= 0.0 or offer.kind != first.kind or first.kind not in AXES:
            break
        place = values.index(float(offer.value))
        beside = {*values[max(0, place - 1) : place + 2]}
        if offer.worth / more <= HARDLY_MORE * first.worth / saved and not beside & {one.value for one, _ in going}:
            going.append((offer, more))
            left -= more
    return going


def _after(going: Sequence[_Offer], steps: Sequence[Step]) -> list[Step]:
    """The steps that stay; none twice in a row, for a control that nothing lies before controls nothing."""
    gone = frozenset[int]().union(*(offer.gone for offer in going))
    if not gone:
        most = going[0].value
        return [replace(step, repeats=step.repeats - 1) if step.repeats == most else step for step in steps]
    left = [step for place, step in enumerate(steps) if place not in gone]
    twice = {b.id for a, b in pairwise(left) if _repeats(b, a)}
    return [step for step in left if step.id not in twice]


def _repeats(step: Step, before: Step) -> bool:
    """Whether a step reads once more what another read: by the same meter, and not to watch a lamp warm."""
    read = ((one.source_ids, one.terms, one.meter_id, one.quantities) for one in (step, before))
    return len({*read}) == 1 and not step.wait_s


def _offers(steps: Sequence[Step]) -> Iterator[_Offer]:
    yield from _fewer_repeats(steps)
    yield from _fewer_controls(steps)
    for axis in AXES:
        yield from _fewer_values(steps, axis)


def _fewer_repeats(steps: Sequence[Step]) -> Iterator[_Offer]:
    most = max((step.repeats for step in steps), default=1)
    if most > 1:
        count = sum(step.repeats == most for step in steps)
        yield _Offer(REPEAT, float(most), count * (THIRD if most > 2 else SECOND), count)


def _fewer_controls(steps: Sequence[Step]) -> Iterator[_Offer]:
    """Steps at which a lamp's first terms come back."""
    of_lamp: dict[tuple[str, ...], list[int]] = {}
    for place, step in enumerate(steps):
        of_lamp.setdefault(step.source_ids, []).append(place)
    for lamp, (first, *others) in of_lamp.items():
        again = [place for place in others if _repeats(steps[place], steps[first])]
        if len(again) > 1:
            yield _Offer(CHECK, "+".join(lamp), IN_BETWEEN * (len(again) - 1), len(again) - 1, frozenset(again[:-1]))
        elif again:
            yield _Offer(CONTROL, "+".join(lamp), AT_THE_END, 1, frozenset(again))


def _fewer_values(steps: Sequence[Step], axis: str) -> Iterator[_Offer]:
    """The values of an axis that stand between two others at whatever else they are read at."""
    scale, weight = AXES[axis]
    series: dict[object, dict[float, list[int]]] = {}
    values = [getattr(step.terms, axis) for step in steps]
    every = {value for value in values if value is not None}
    if len(every) < 3:
        return
    span = abs(scale(max(every)) - scale(min(every)))
    for place, (step, value) in enumerate(zip(steps, values, strict=True)):
        if value is not None:
            known = zip(key_of_terms(step.terms), _STORED, strict=True)
            other = tuple(value for value, stored in known if stored != axis)
            series.setdefault((step.source_ids, step.meter_id, other), {}).setdefault(value, []).append(place)
    worth: dict[float, float] = dict.fromkeys(every, 0.0)
    places: dict[float, set[int]] = {value: set() for value in every}
    stays = {getattr(step.terms, axis) for step in {s.source_ids: s for s in reversed(steps)}.values()}
    for row in series.values():
        ordered = sorted(row)
        stays |= {ordered[0], ordered[-1]}
        for below, value, above in zip(ordered, ordered[1:], ordered[2:], strict=False):
            worth[value] += weight * abs(scale(above) - scale(below)) / span
            places[value].update(row[value])
    for value in sorted(every - stays):
        yield _Offer(axis, value, worth[value], len(places[value]), frozenset(places[value]))


_STORED = tuple(one.stored for one in FIELDS if one.stored)
