"""What a reading should be, from those that stand beside it: repeats, the walk, the dimming curve, other whites."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench import fields
from even_beam.bench import terms as sameness
from even_beam.bench.measured import Measured
from even_beam.bench.records import Terms

REPEAT_STOPS = 0.10
"""Two readings of the same thing lie closer than this; a handheld meter repeats within 1-2 % (common practice, no
source)."""

LEAST_STOPS = 0.3
"""No reading is doubted for less than this against a law or a curve."""

KIN_STOPS = 0.8
"""Two units of one model differ by less than this (common practice, no source)."""

SPREADS = 3.0
"""... nor for less than this many robust spreads of the readings the expectation rests on."""

_ROBUST_SIGMA = 1.4826


@dataclass(frozen=True, slots=True)
class Expected:
    """An illuminance that would fit, with its bounds in lx and in plain words where it comes from."""

    centre: float
    tolerance_stops: float
    basis: str
    firm: bool = True

    @property
    def low(self) -> float:
        """Lowest illuminance that fits."""
        return self.centre * float(np.exp2(-self.tolerance_stops))

    @property
    def high(self) -> float:
        """Highest illuminance that fits."""
        return self.centre * float(np.exp2(self.tolerance_stops))

    def stops_off(self, illuminance: float) -> float:
        """How far an illuminance lies from the centre, in stops."""
        return float(np.log2(illuminance / self.centre))


def like(
    others: Sequence[Measured], source_id: str | None, terms: Terms, *, but: frozenset[str] = frozenset()
) -> list[Measured]:
    """The readings with an illuminance of the same source at the same terms, the fields of `Terms` in `but`
    excepted."""
    ignored = ("plane", *(fields.BY_STORED[name] for name in sorted(but)))
    wanted = sameness.stated(terms, *ignored)
    return [
        other
        for other in others
        if other.source_id == source_id
        and sameness.stated(other.terms, *ignored) == wanted
        and (other.value("illuminance") or 0.0) > 0.0
    ]


def expected_illuminance(
    others: Sequence[Measured], source_id: str | None, terms: Terms, kin: frozenset[str] = frozenset()
) -> Expected | None:
    """The tightest expectation that the other readings support; None when nothing can be said.

    Without a named source two readings may be of two lamps, and nothing is expected. `kin` are other lamps of the
    same model, asked last of all.
    """
    if source_id is None:
        return None
    for rule in (_from_repeats, _from_walk, _from_dimming, _from_other_white, _from_single_mark, _from_single_level):
        expected = rule(others, source_id, terms)
        if expected is not None:
            return expected
    return _from_kin(others, kin, terms)


def _from_kin(others: Sequence[Measured], kin: frozenset[str], terms: Terms) -> Expected | None:
    """Another unit of the same model at the same terms: units differ, but seldom by a stop."""
    same = [v for lamp in sorted(kin) for m in like(others, lamp, terms) if (v := m.value("illuminance"))]
    return Expected(float(np.median(same)), KIN_STOPS, "Another lamp of this model", firm=False) if same else None


def _levels(readings: Sequence[Measured], of: Callable[[Terms], float | None]) -> tuple[np.ndarray, np.ndarray]:
    """log2 of a positive term and of the illuminance, one point a value of the term (the median of its repeats)."""
    points: dict[float, list[float]] = {}
    for reading in readings:
        key, value = of(reading.terms), reading.value("illuminance")
        if key and value:
            points.setdefault(key, []).append(value)
    keys = np.array(sorted(points))
    values = np.array([np.median(points[key]) for key in keys])
    return np.log2(keys), np.log2(values)


def _from_repeats(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    same = [value for other in like(others, source_id, terms) if (value := other.value("illuminance"))]
    if not same:
        return None
    count = {1: "The first reading here", 2: "Both readings here"}.get(len(same), f"{len(same)} readings here")
    return Expected(float(np.median(same)), REPEAT_STOPS, count)


def _walk(others: Sequence[Measured], source_id: str | None, terms: Terms) -> np.ndarray:
    """log2 of the intensity in cd at every other distance of the walk."""
    along = like(others, source_id, terms, but=frozenset({"distance_m"}))
    distance, level = _levels(along, lambda t: t.distance_m)
    return level + 2.0 * distance


def _from_walk(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    if not terms.distance_m:
        return None
    intensity = _walk(others, source_id, terms)
    if intensity.size < 2:
        return None
    centre = float(np.median(intensity))
    spread = _ROBUST_SIGMA * float(np.median(np.abs(intensity - centre)))
    level = float(np.exp2(centre)) / terms.distance_m**2
    marks = {2: "Two", 3: "Three", 4: "Four", 5: "Five"}.get(intensity.size, str(intensity.size))
    return Expected(level, max(LEAST_STOPS, SPREADS * spread), f"{marks} other marks of this walk")


def _from_dimming(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    """Interpolated between levels, or continued from the nearest two with a margin that grows with the way."""
    if not terms.level_pct:
        return None
    level, output = _levels(like(others, source_id, terms, but=frozenset({"level_pct"})), lambda t: t.level_pct)
    if level.size < 2:
        return None
    target = float(np.log2(terms.level_pct))
    nearest = np.sort(np.argsort(np.abs(level - target))[:2])
    (x0, x1), (y0, y1) = level[nearest], output[nearest]
    slope = float(np.clip((y1 - y0) / (x1 - x0), 0.3, 2.5))
    base = nearest[int(np.argmin(np.abs(level[nearest] - target)))]
    way = float(np.min(np.abs(level - target)))
    inside = x0 <= target <= x1
    centre = y0 + slope * (target - x0) if inside else output[base] + slope * (target - level[base])
    margin = LEAST_STOPS + (0.15 if inside else 0.4) * way
    return Expected(float(np.exp2(centre)), margin, "The curve so far")


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


def _from_single_mark(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    if not terms.distance_m:
        return None
    intensity = _walk(others, source_id, terms)
    if intensity.size != 1:
        return None
    level = float(np.exp2(intensity[0])) / terms.distance_m**2
    return Expected(level, 0.5, "The other mark of this walk", firm=False)


def _from_single_level(others: Sequence[Measured], source_id: str | None, terms: Terms) -> Expected | None:
    """One other level: few dimmers stray further from proportion than this at a first step."""
    if not terms.level_pct:
        return None
    level, output = _levels(like(others, source_id, terms, but=frozenset({"level_pct"})), lambda t: t.level_pct)
    if level.size != 1:
        return None
    way = float(np.log2(terms.level_pct)) - float(level[0])
    proportional = float(np.exp2(output[0] + way))
    return Expected(proportional, 0.4 + 0.6 * abs(way), "In proportion to the other level", firm=False)


def expected_cct(others: Sequence[Measured], source_id: str | None, terms: Terms) -> float | None:
    """The white that this lamp gave at this setting at other levels and distances; None when not yet read."""
    same = like(others, source_id, terms, but=frozenset({"level_pct", "distance_m", "angle_deg", "placement"}))
    found = [value for other in same if (value := other.value("cct"))]
    return float(np.median(found)) if found else None
