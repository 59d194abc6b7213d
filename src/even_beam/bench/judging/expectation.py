"""What a reading should be, from those that stand beside it: repeats, the walk, the dimming curve, other whites."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from even_beam.bench import fields
from even_beam.bench import terms as sameness
from even_beam.bench.judging.laws import LEAST_STOPS, Law, along_dimmer, along_distance, foreseen
from even_beam.bench.measured import Measured
from even_beam.bench.records import Terms
from even_beam.light import FloatArray

REPEAT_STOPS = 0.12
"""Two readings of the same thing lie closer than this; a handheld meter repeats within 1-2 % (common practice, no
source)."""

KIN_STOPS = 0.8
"""Two units of one model differ by less than this (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Expected:
    """An illuminance that would fit, how far below and above it others would, and in plain words where it comes from.

    `above_stops` is None where it may lie as far above as below.
    """

    centre: float
    tolerance_stops: float
    basis: str
    firm: bool = True
    above_stops: float | None = None

    @property
    def above(self) -> float:
        """How far above the centre others would fit, in stops."""
        return self.tolerance_stops if self.above_stops is None else self.above_stops

    def fits(self, illuminance: float) -> bool:
        """Whether an illuminance lies within the bounds."""
        return -self.tolerance_stops <= self.stops_off(illuminance) <= self.above

    @property
    def low(self) -> float:
        """Lowest illuminance that fits."""
        return self.centre * float(np.exp2(-self.tolerance_stops))

    @property
    def high(self) -> float:
        """Highest illuminance that fits."""
        return self.centre * float(np.exp2(self.above))

    def nearest(self, low: float | None, high: float | None) -> float:
        """What comes nearest to it of all that a bound or a range leaves open."""
        above_low = self.centre if low is None else max(self.centre, low)
        return above_low if high is None else min(above_low, high)

    def stops_off(self, illuminance: float) -> float:
        """How far an illuminance lies from the centre, in stops."""
        return float(np.log2(illuminance / self.centre))


def like(
    others: Sequence[Measured], source_id: str | None, terms: Terms, *, but: frozenset[str] = frozenset()
) -> list[Measured]:
    """The readings with an illuminance of the same source at the same terms, the fields of `Terms` in `but`
    excepted."""
    ignored = ("plane", *(fields.BY_STORED[name] for name in sorted(but)))
    wanted, choose = sameness.stated(terms, *ignored), sameness.choosing(*ignored, *sameness.READ)
    return [
        other
        for other in others
        if choose(other.key) == wanted and other.source_id == source_id and (other.value("illuminance") or 0.0) > 0.0
    ]


def expected_illuminance(
    others: Sequence[Measured], source_id: str | None, terms: Terms, kin: frozenset[str] = frozenset()
) -> Expected | None:
    """The tightest expectation that the other readings support; None when nothing can be said.

    Without a named source two readings may be of two lamps, and nothing is expected. `kin` are other lamps of the
    same model, asked last of all.
    """
    return None if source_id is None else _expected(tuple(others), source_id, terms, kin)


@lru_cache(maxsize=16)
def _expected(others: tuple[Measured, ...], source_id: str, terms: Terms, kin: frozenset[str]) -> Expected | None:
    """Kept, since each letter of a figure that is typed asks anew, and the second look after it."""
    found = _from_repeats(others, source_id, terms)
    if found is not None:
        return found
    rules = (_from_walk, _from_dimming, _from_other_white)
    known = [found for rule in rules if (found := rule(others, source_id, terms)) is not None]
    if known:
        return min(known, key=lambda one: one.tolerance_stops + one.above)
    return _from_kin(others, kin, terms)


def _from_kin(others: Sequence[Measured], kin: frozenset[str], terms: Terms) -> Expected | None:
    """Another unit of the same model at the same terms: units differ, but seldom by a stop."""
    same = [v for lamp in sorted(kin) for m in like(others, lamp, terms) if (v := m.value("illuminance"))]
    return Expected(float(np.median(same)), KIN_STOPS, "Another lamp of this model", firm=False) if same else None


def _from_repeats(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    same = [value for other in like(others, source_id, terms) if (value := other.value("illuminance"))]
    if not same:
        return None
    count = {1: "The first reading here", 2: "Both readings here"}.get(len(same), f"{len(same)} readings here")
    return Expected(float(np.median(same)), REPEAT_STOPS, count)


@dataclass(frozen=True, eq=False, slots=True)
class Series:
    """Readings that differ in one term alone, by its value: the law that holds along it, and their levels in stops."""

    law: Law
    stops: FloatArray
    groups: tuple[tuple[Measured, ...], ...]


def series(others: Sequence[Measured], source_id: str | None, terms: Terms, along: str) -> Series | None:
    """What a reading at `terms` stands in, along `distance_m` or `level_pct`, with a place of its own that is last.

    None where the terms do not state that, or nothing else was read along it.
    """
    return _series(tuple(others), source_id, terms, along) if getattr(terms, along) else None


@lru_cache(maxsize=16)
def _series(others: tuple[Measured, ...], source_id: str | None, terms: Terms, along: str) -> Series | None:
    """Kept for the questions of one look."""
    here = getattr(terms, along)
    by_value: dict[float, list[Measured]] = {}
    for other in like(others, source_id, terms, but=frozenset({along})):
        value = getattr(other.terms, along)
        if value and value != here:
            by_value.setdefault(value, []).append(other)
    if not by_value:
        return None
    values = np.array([*by_value, here], dtype=np.float64)
    stops = [float(np.median([np.log2(m.value("illuminance") or np.nan) for m in own])) for own in by_value.values()]
    law = (
        along_distance(values)
        if along == "distance_m"
        else along_dimmer(values, curves_elsewhere(others, source_id, terms))
    )
    return Series(law, np.array([*stops, np.nan]), tuple(map(tuple, by_value.values())))


def curves_elsewhere(
    others: Sequence[Measured], source_id: str | None, terms: Terms
) -> list[tuple[FloatArray, FloatArray]]:
    """How this lamp dims elsewhere: in other whites, on other optics, at other marks; of three levels and more."""
    here = sameness.stated(terms, "level")
    return [(levels, stops) for key, levels, stops in _curves(tuple(others), source_id) if key != here]


@lru_cache(maxsize=8)
def _curves(others: tuple[Measured, ...], source_id: str | None) -> tuple[tuple[Hashable, FloatArray, FloatArray], ...]:
    """Every curve of a lamp's levels by its terms; kept for the questions of one look, which all ask for the same."""
    own = [m for m in others if m.source_id == source_id and m.terms.level_pct and m.value("illuminance")]
    found = []
    for curve in sameness.grouped(own, "level").values():
        levels = {m.terms.level_pct: np.log2(m.value("illuminance") or np.nan) for m in curve}
        if len(levels) > 2:
            key = sameness.key(curve[0], "level", *sameness.READ)
            found.append((key, np.array(list(levels), dtype=np.float64), np.array(list(levels.values()))))
    return tuple(found)


def _along(
    others: Sequence[Measured], source_id: str | None, terms: Terms, along: str, basis: tuple[str, str]
) -> Expected | None:
    found = series(others, source_id, terms, along)
    if found is None:
        return None
    seen = foreseen(found.law, found.stops, found.stops.size - 1)
    count = found.stops.size - 1
    counted = {1: "The", 2: "Two", 3: "Three", 4: "Four", 5: "Five"}.get(count, str(count))
    return Expected(
        float(np.exp2(seen.centre)), seen.below, f"{counted} other {basis[count > 1]}", count > 1, seen.above
    )


def _from_walk(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    """The law of distance with a source of unknown place and size, by the other marks."""
    return _along(others, source_id, terms, "distance_m", ("mark of this walk", "marks of this walk"))


def _from_dimming(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    """The laws that dimmers have, by the other levels, and by how this lamp dims elsewhere."""
    return _along(others, source_id, terms, "level_pct", ("level of this dimmer", "levels of this dimmer"))


def _from_other_white(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    """The same level in another white, scaled by what the two whites differ elsewhere."""
    if terms.cct_k is None:
        return None
    shared = like(others, source_id, terms, but=frozenset({"cct_k", "level_pct", "mode"}))
    here = {r.terms.level_pct: r.value("illuminance") for r in shared if r.terms.cct_k == terms.cct_k}
    for white in dict.fromkeys(r.terms.cct_k for r in reversed(shared) if r.terms.cct_k != terms.cct_k):
        there = {r.terms.level_pct: r.value("illuminance") for r in shared if r.terms.cct_k == white}
        at_level = there.get(terms.level_pct)
        ratios = [a / b for level, a in here.items() if a and (b := there.get(level))]
        if at_level is None:
            continue
        if ratios:
            return Expected(at_level * float(np.median(ratios)), LEAST_STOPS, f"The same level at {white:.0f} K")
        return Expected(at_level, 1.2, f"The same level at {white:.0f} K", firm=False)
    return None


def expected_cct(others: Sequence[Measured], source_id: str | None, terms: Terms) -> float | None:
    """The white that this lamp gave at this setting at other levels and distances; None when not yet read."""
    same = like(others, source_id, terms, but=frozenset({"level_pct", "distance_m", "angle_deg", "placement"}))
    found = [value for other in same if (value := other.value("cct"))]
    return float(np.median(found)) if found else None
