"""Which readings of a lamp are in doubt, judged together: walks by their law, repeats by their spread, the end by the
beginning.

The same question as the second look asks at the bench, asked of readings that are all there: a spreadsheet of old
tests, or a session that is over. Nothing is changed; a suggestion is a figure that one slip would explain.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from even_beam.bench import terms
from even_beam.bench.judging import slips
from even_beam.bench.judging.control import session_drift
from even_beam.bench.judging.expectation import Expected, curves_elsewhere
from even_beam.bench.judging.laws import (
    LEAST_STOPS,
    Law,
    Odd,
    along_dimmer,
    along_distance,
    falls_short,
    foreseen,
    oddest,
)
from even_beam.bench.judging.second_look import LOOKED_AT, TOLD_LITTLE_STOPS, asking, likelier
from even_beam.bench.judging.slips import Slip
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin
from even_beam.known.choice import Entrant
from even_beam.light import FloatArray
from even_beam.words import notation

CANDIDATE_STOPS = 0.3
"""A candidate lies within this of what was expected."""

NEAR_FIELD_LIMIT_STOPS = 0.8
"""The nearest mark of a walk, short of the law by no more than this, is more likely a near field than a slip."""

SPREADS = 3.0
"""A repeat is off the others beyond this many of their robust spreads."""

_ROBUST_SIGMA = 1.4826

_CAUSE_OF_SLIP = {Slip.FACTOR_OF_TEN: "factor_of_ten", Slip.WRONG_UNIT: "wrong_unit"}
_SLIPPED_DIGIT = "slipped_digit"


@dataclass(frozen=True, slots=True)
class Flag:
    """A reading in doubt: what was expected, how far off it is, the likeliest cause, and what it may have been."""

    reading_id: str
    fixture: str
    configuration: tuple[str, ...]
    distance_m: float | None
    quantity: str
    value: float
    expected: float
    stops_off: float
    cause: str
    suggestion: float | None
    candidates: tuple[float, ...]
    reason: str = ""

    @property
    def sentence(self) -> str:
        """The flag in words: what was said at the bench where it was doubted there, which need not be its level."""
        if self.cause == TOLD_LITTLE:
            return f"{self.fixture}: {self.reason}"
        if self.reason:
            return f"{self.fixture}: kept in doubt: {self.reason}"
        causes = {
            "factor_of_ten": "a factor of ten",
            "wrong_unit": "the wrong unit",
            _SLIPPED_DIGIT: "a slipped digit",
            "near_field": "too near for the law, or a meter off the beam",
            "disagreeing_repeats": "repeats that disagree",
            "drift": "drift since the first reading",
            "off_the_law": "off the law of the other marks",
        }
        size = abs(self.stops_off)
        off = f"{size:.2f} {notation.stop_word(size)} {'high' if self.stops_off > 0 else 'low'}"
        text = (
            f"{self.fixture}: {notation.light(self.value)} where {notation.light(self.expected)} was expected ({off};"
            f" {causes.get(self.cause, self.cause.replace('_', ' '))})"
        )
        return text + (f"; it may have been {notation.light(self.suggestion)}" if self.suggestion is not None else "")


TOLD_LITTLE = "told_little"
"""Nothing rules the figure out, but one digit would bring it far nearer to what the others tell: a weak doubt."""

SLIPS = frozenset({"factor_of_ten", "wrong_unit", _SLIPPED_DIGIT})
"""Causes for which a reading that came in from a table counts in nothing until someone has looked at it."""


def flags(entrant: Entrant) -> tuple[Flag, ...]:
    """Every reading of a lamp that is in doubt, each once, in the order of reading."""
    found: dict[str, Flag] = {}
    usable = [m for m in entrant.readings if (m.value("illuminance") or 0.0) > 0.0]
    for judge in (_repeats, _walks, _sweeps, _drift, _kept):
        for flag in judge(entrant, usable):
            found.setdefault(flag.reading_id, flag)
    order = {m.reading.id: m.reading.sequence for m in usable}
    return tuple(sorted(found.values(), key=lambda f: order[f.reading_id]))


LEAST_LEVELS = 4
"""Of a sweep that is all there so many levels are needed: of three that stand apart the others tell too little."""


def asked_about(entrant: Entrant) -> tuple[Flag, ...]:
    """Weak doubts about levels of a dimmer that nobody has looked at yet; such readings count all the same."""
    found = []
    usable = [m for m in entrant.readings if (m.value("illuminance") or 0.0) > 0.0 and _stated(m, "level")]
    for own in terms.grouped(usable, "level").values():
        groups = list(terms.by_value(own, "level").values())
        stops = np.array([np.median([_log_level(m) for m in group]) for group in groups])
        for place in _off_a_straight_line(np.array([_stated(group[0], "level") for group in groups]), stops):
            seen = foreseen(_law("level", usable, groups), stops, place)
            expected = Expected(2.0**seen.centre, seen.below, "the other levels", above_stops=seen.above)
            found += [flag for m in groups[place] if (flag := _asked(entrant, m, expected)) is not None]
    return tuple(found)


def _off_a_straight_line(levels: FloatArray, stops: FloatArray) -> list[int]:
    """The places of a sweep worth a closer look: far from the line between their neighbours, and from proportion at the
    ends."""
    if levels.size < LEAST_LEVELS:
        return []
    found = []
    for place in range(levels.size):
        others = np.delete(np.arange(levels.size), place)
        order = others[np.argsort(levels[others])]
        x, y = np.log2(levels[order]), stops[order]
        here = float(np.log2(levels[place]))
        line = float(np.interp(here, x, y)) + min(here - float(x[0]), 0.0) + max(here - float(x[-1]), 0.0)
        if abs(stops[place] - line) >= TOLD_LITTLE_STOPS / 2.0:
            found.append(place)
    return found


def _asked(entrant: Entrant, measured: Measured, expected: Expected) -> Flag | None:
    figure, level = measured.figure("illuminance"), measured.value("illuminance") or 0.0
    looked_at = any(note.startswith(LOOKED_AT) for note in measured.state.notes)
    if figure is None or figure.origin is not Origin.TYPED or looked_at or measured.state.doubt:
        return None
    meant = likelier(level, expected)
    if not meant:
        return None
    flag = _flag(entrant, measured, expected.centre, expected.stops_off(level), TOLD_LITTLE)
    reason = asking(level, meant[0].value, "the other levels").rstrip(".")
    return replace(flag, reason=reason, candidates=tuple(one.value for one in meant))


def _log_level(measured: Measured) -> float:
    return float(np.log2(measured.value("illuminance") or np.nan))


def _spread(values: np.ndarray) -> float:
    """The robust standard deviation: 1.4826 times the median absolute deviation."""
    return _ROBUST_SIGMA * float(np.median(np.abs(values - np.median(values))))


def _walks(entrant: Entrant, usable: Sequence[Measured]) -> list[Flag]:
    """Marks without which the others of their walk follow a law."""
    return _off_the_law(entrant, usable, "distance")


def _sweeps(entrant: Entrant, usable: Sequence[Measured]) -> list[Flag]:
    """Levels without which the others follow a law of dimmers, or the lamp's own curve elsewhere."""
    alone = {flag.reading_id for flag in _off_the_law(entrant, usable, "level")}
    sound = [m for m in usable if m.reading.id not in alone]  # a slip in one curve must not accuse another
    return _off_the_law(entrant, usable, "level", sound)


def _off_the_law(
    entrant: Entrant, usable: Sequence[Measured], name: str, elsewhere: Sequence[Measured] = ()
) -> list[Flag]:
    """Readings off the law of the others, `elsewhere` what else is known of how the lamp dims."""
    found: list[Flag] = []
    for own in terms.grouped([m for m in usable if _stated(m, name)], name).values():
        left = list(terms.by_value(own, name).values())
        while len(left) > 2:  # one after the other: two slips in one walk hide each other
            law = _law(name, elsewhere, left)
            stops = np.array([np.median([_log_level(m) for m in group]) for group in left])
            odd = oddest(law, stops) or (_short(law, stops, left) if name == "distance" else None)
            if odd is None or len(found) > len(own) // 2:
                break
            group = left.pop(odd.place)
            level = 2.0**odd.foreseen.centre
            for measured in group:
                off = _log_level(measured) - odd.foreseen.centre
                nearest = name == "distance" and all(_stated(measured, name) <= _stated(g[0], name) for g in left)
                near = nearest and -NEAR_FIELD_LIMIT_STOPS <= off < 0.0
                found.append(_flag(entrant, measured, level, off, "near_field" if near else "off_the_law"))
    return found


def _short(law: Law, stops: np.ndarray, groups: Sequence[Sequence[Measured]]) -> Odd | None:
    """The nearest mark, where it falls short of the others."""
    place = min(range(len(groups)), key=lambda i: _stated(groups[i][0], "distance"))
    short = falls_short(law, stops, place)
    return None if short is None else Odd(place, short, 0.0)


def _stated(measured: Measured, name: str) -> float:
    return (measured.terms.distance_m if name == "distance" else measured.terms.level_pct) or 0.0


def _law(name: str, elsewhere: Sequence[Measured], groups: Sequence[Sequence[Measured]]) -> Law:
    places = np.array([_stated(group[0], name) for group in groups])
    if name == "distance":
        return along_distance(places)
    first = groups[0][0]
    return along_dimmer(places, curves_elsewhere(elsewhere, first.source_id, first.terms))


def _repeats(entrant: Entrant, usable: Sequence[Measured]) -> list[Flag]:
    """Among repeats that spread over more than 0.3 stop, those off the others; at least the one farthest off."""
    found = []
    for group in terms.grouped(usable).values():
        levels = np.array([_log_level(m) for m in group])
        if levels.size < 2 or np.ptp(levels) <= LEAST_STOPS:
            continue
        off = np.array([levels[i] - np.median(np.delete(levels, i)) for i in range(levels.size)])
        limits = [max(LEAST_STOPS, SPREADS * _spread(np.delete(levels, i))) for i in range(levels.size)]
        doubted = [i for i in range(levels.size) if abs(off[i]) > limits[i]] or [int(np.argmax(np.abs(off)))]
        if levels.size == 2:
            doubted = [0, 1]  # which of two is wrong, nothing tells
        for i in doubted:
            expected = 2.0 ** float(levels[i] - off[i])
            found.append(_flag(entrant, group[i], expected, float(off[i]), "disagreeing_repeats"))
    return found


def _drift(entrant: Entrant, usable: Sequence[Measured]) -> list[Flag]:
    """The last reading at the first terms of a session, when others lie between and it has moved."""
    found = []
    for session in terms.by_value(usable, "session").values():
        drift = session_drift(sorted(session, key=lambda m: m.reading.sequence))
        if drift is not None and not drift.agrees:
            found.append(_flag(entrant, drift.again, 2.0 ** _log_level(drift.first), drift.stops, "drift"))
    return found


def _kept(entrant: Entrant, usable: Sequence[Measured]) -> list[Flag]:
    """Readings that were doubted at the bench and kept on purpose, beside the median of the lamp's others at these
    terms. What was doubted of them was said there, and need not be the level."""
    found = []
    for measured in usable:
        if measured.state.doubt and measured.state.counts:
            others = [_log_level(m) for m in usable if terms.key(m) == terms.key(measured) and m is not measured]
            expected = float(np.median(others)) if others else _log_level(measured)
            off = _log_level(measured) - expected
            reason = measured.state.doubt.partition(". ")[0].rstrip(".")
            found.append(replace(_flag(entrant, measured, 2.0**expected, off, "kept_in_doubt"), reason=reason))
    return found


def _flag(entrant: Entrant, measured: Measured, expected: float, off: float, cause: str) -> Flag:
    """A flag with its candidates; only a figure that somebody typed can have slipped."""
    level = measured.value("illuminance") or 0.0
    figure = measured.figure("illuminance")
    typed = figure is not None and figure.origin is Origin.TYPED
    reach = 2.0**CANDIDATE_STOPS
    found = slips.candidates(level, expected / reach, expected * reach, centre=expected) if typed else ()
    suggestion = None
    if found and cause in {"off_the_law", "disagreeing_repeats"}:
        suggestion = found[0].value
        if cause == "off_the_law":
            cause = _CAUSE_OF_SLIP.get(found[0].slip, _SLIPPED_DIGIT)
    return Flag(
        reading_id=measured.reading.id,
        fixture=entrant.name,
        configuration=measured.terms.configuration,
        distance_m=measured.terms.distance_m,
        quantity="illuminance",
        value=level,
        expected=expected,
        stops_off=off,
        cause=cause,
        suggestion=suggestion,
        candidates=tuple(c.value for c in found),
    )
