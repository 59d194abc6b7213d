"""What a typed line is typed into: what the session asks, what it knows by name, and what would fit."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from even_beam.bench.exposure import Exposure
from even_beam.bench.judging.expectation import expected_illuminance
from even_beam.bench.measured import Measured
from even_beam.bench.records import EventKind
from even_beam.said import Situation
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.desk.session.desk import SessionDesk

_A_HABIT = 5
"""So many readings in a row are a habit (common practice, no source)."""
_ROOM = 8.0
"""Levels so many times more or less are still of the same kind: three stops."""

_OF_A_TARGET = ("cct", "duv", "illuminance")
"""What is read of a source that shall have a target white."""


def situation_of(desk: "SessionDesk", of: Measured | None = None, asked: tuple[str, ...] = ()) -> Situation:
    """The situation of the next line; or of one that corrects a reading, whose quantities are `asked` then."""
    terms = [measured.terms for measured in desk.measured]
    is_target = desk.target is not None and desk.step is None
    return Situation(
        asked=asked or (_OF_A_TARGET if is_target else desk.asked),
        terms=of.terms if of is not None else desk.next_terms,
        firm=desk.step is not None or is_target or of is not None,
        expected=_expected(desk) if of is None else None,
        lately=_lately(desk.counted),
        level_unit=notation.light_unit(),
        whites=frozenset(t.cct_k for t in terms if t.cct_k is not None),
        zooms=frozenset(t.zoom for t in terms if t.zoom),
        fitted=tuple(dict.fromkeys([*desk.modifiers, *(name for t in terms for name in t.configuration)])),
        cri=_cri(desk.measured),
        exposure=exposure_of(desk),
        lamps={
            one.nickname: one.id
            for one in desk.sources.values()
            if not one.retired and any(map(str.isalpha, one.nickname))
        }
        if of is None
        else {},
    )


def _expected(desk: "SessionDesk") -> tuple[float, float] | None:
    found = expected_illuminance(desk.counted, desk.next_source, desk.next_terms)
    return None if found is None else (found.low, found.high)


def _lamps(desk: "SessionDesk") -> dict[str, str]:
    """The lamps that a line may name; one that is called by a number alone is named with L."""
    known = (source for source in desk.sources.values() if not source.retired)
    return {source.nickname: source.id for source in known if any(map(str.isalpha, source.nickname))}


def _lately(readings: Sequence[Measured]) -> tuple[float, float] | None:
    """The span of the last levels, with room on both sides, where numbers without a unit were levels all along."""
    figures = [value for one in readings[-_A_HABIT:] for value in one.reading.values if value.text]
    levels = [value.value for value in figures if value.quantity == "illuminance" and value.value]
    bare = len(levels) == len(figures) >= _A_HABIT and not any(letter.isalpha() for v in figures for letter in v.text)
    return (min(levels) / _ROOM, max(levels) * _ROOM) if bare else None


def _cri(measured: tuple[Measured, ...]) -> str:
    """Which of the two CRI means in this session, once somebody has said so."""
    for one in reversed(measured):
        for value in one.reading.values:
            if value.quantity in {"ra", "re"} and "cri" in value.text.casefold():
                return value.quantity
    return ""


def exposure_of(desk: "SessionDesk") -> Exposure | None:
    """What f-numbers stand for from here on."""
    stated = [e for e in desk.state.live_events if e.kind is EventKind.EXPOSURE_STATED and e.reading_id is None]
    return Exposure.of_text(stated[-1].new) if stated else None
