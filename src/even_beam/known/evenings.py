"""Two evenings or two meters that do not agree on one light: neither figure may be published until it was read again.

One rule for every door: the pair that lies farthest apart, beyond what chance makes of so many pairs.
"""

import itertools
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from even_beam.bench import estimate, terms
from even_beam.bench.estimate import Estimate
from even_beam.bench.measured import Measured
from even_beam.known.choice import along
from even_beam.words import notation

PLANES_M = 0.3
"""Reference planes of a lamp lie within so much of each other: its front, its yoke, the end of what sits on it."""

WANDERS_STOPS = 0.1
"""A lamp's level from evening to evening, by its warmth and the mains (common practice, no source)."""

WANDERS_MIRED = 3.0
"""A lamp's white from evening to evening, and from mark to mark (common practice, no source)."""

NOT_OF_THE_LEVEL = ("session", "meter", "plane", "placement")
"""What leaves a lamp's level on the axis at a mark what it is."""

NOT_OF_THE_WHITE = (*NOT_OF_THE_LEVEL, "distance")
"""What leaves a lamp's white what it is."""

Take = Callable[[Sequence[Measured]], Estimate]
"""From repeats to what they give."""


@dataclass(frozen=True, slots=True)
class Apart:
    """The earlier and the later of two that disagree, and what the later is more than the earlier."""

    then: tuple[Measured, ...]
    now: tuple[Measured, ...]
    change: Estimate

    @property
    def size(self) -> float:
        """How far they are apart."""
        return abs(self.change.value or 0.0)


def levels_apart(readings: Sequence[Measured], level_of: Take) -> Apart | None:
    """Evenings that give one light levels too far apart, in stops; `readings` differ in `NOT_OF_THE_LEVEL` alone."""
    evenings = [own for own in terms.grouped(readings).values() if own[0].terms.distance_m]
    return _farthest(evenings, level_of, _on_two_days, _of_the_evening)


def whites_apart(readings: Sequence[Measured], white_of: Take) -> Apart | None:
    """Meters or evenings that give one light whites too far apart, in mired; `readings` differ in `NOT_OF_THE_WHITE`
    alone."""
    sources = terms.by_value_of(readings, lambda m: (m.reading.meter_id, m.reading.session_id)).values()
    return _farthest(list(sources), white_of, lambda one, other: True, lambda one, other: WANDERS_MIRED)


def level_contradicted(readings: Sequence[Measured], own: Sequence[Measured], level_of: Take) -> str:
    """What contradicts the level of some repeats among all readings of their lamp, in words; empty where nothing
    does."""
    alike = along(readings, own[0], *NOT_OF_THE_LEVEL)
    apart = levels_apart([m for m in alike if (m.value("illuminance") or 0.0) > 0.0], level_of)
    if apart is None or not _is_of(apart, own):
        return ""
    return f"one of two evenings that disagree ({levels_in_words(apart, level_of)})"


def white_contradicted(readings: Sequence[Measured], own: Sequence[Measured], white_of: Take) -> str:
    """The same of their white."""
    alike = along(readings, own[0], *NOT_OF_THE_WHITE)
    apart = whites_apart([m for m in alike if m.value("cct")], white_of)
    if apart is None or not _is_of(apart, own):
        return ""
    return f"one of two whites that disagree ({whites_in_words(apart, white_of)})"


def _is_of(apart: Apart, own: Sequence[Measured]) -> bool:
    return bool({m.reading.id for m in own} & {m.reading.id for m in (*apart.then, *apart.now)})


def levels_in_words(apart: Apart, level_of: Take) -> str:
    """Both levels, each with its day."""
    return " and ".join(
        f"{notation.level(2.0 ** (level_of(own).value or 0.0))} on {own[0].reading.at:%-d %b %Y}"
        for own in (apart.then, apart.now)
    )


def whites_in_words(apart: Apart, white_of: Take) -> str:
    """Both whites, each with its day."""
    return " and ".join(
        f"{notation.white(1e6 / (white_of(own).value or 1.0))} K on {own[0].reading.at:%-d %b %Y}"
        for own in (apart.then, apart.now)
    )


def _farthest(
    groups: Sequence[list[Measured]],
    take: Take,
    may_disagree: Callable[[Sequence[Measured], Sequence[Measured]], bool],
    allowed: Callable[[Sequence[Measured], Sequence[Measured]], float],
) -> Apart | None:
    if len(groups) < 2:
        return None
    found = [take(own) for own in groups]
    by = max(estimate.TELLS, estimate.picked(len(groups)))
    pairs = ((a, b) for a, b in itertools.combinations(range(len(groups)), 2) if may_disagree(groups[a], groups[b]))
    told: list[Apart] = []
    for pair in pairs:
        then, now = sorted(pair, key=lambda i: groups[i][0].reading.at)
        one = Apart(tuple(groups[then]), tuple(groups[now]), found[now].less(found[then]))
        if one.size > by * one.change.half_width + allowed(one.then, one.now):
            told.append(one)
    return max(told, key=lambda one: one.size, default=None)


def _on_two_days(one: Sequence[Measured], other: Sequence[Measured]) -> bool:
    return one[0].reading.session_id != other[0].reading.session_id


def _of_the_evening(one: Sequence[Measured], other: Sequence[Measured]) -> float:
    """What the evening itself, and measuring from another plane or from one not stated, may make of a level, in
    stops."""
    if terms.value(one[0], "plane") == terms.value(other[0], "plane"):
        return WANDERS_STOPS
    return WANDERS_STOPS + 2.0 * math.log2(1.0 + PLANES_M / (one[0].terms.distance_m or PLANES_M))
