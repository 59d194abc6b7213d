"""A fixture over the years, and two units of one model: what changed, and which meter read it then."""

import itertools
from collections.abc import Mapping, Sequence
from datetime import timedelta

from even_beam.bench import fields, terms
from even_beam.bench.estimate import Estimate
from even_beam.bench.measured import Measured
from even_beam.bench.records import Session
from even_beam.known import evenings
from even_beam.known.evenings import levels_in_words
from even_beam.known.evidence import Evidence, ids, usual
from even_beam.known.findings.finding import Finding
from even_beam.words import notation

LEAST_APART = timedelta(days=30)
"""Two evenings of one week say nothing of ageing."""


def ageing(evidence: Evidence, sessions: Mapping[str, Session]) -> tuple[Finding, ...]:
    """Level and white at the same terms in the first session and in the last, with the meters between."""
    found: list[Finding] = []
    for readings in terms.grouped(evidence.lit, "session", "meter").values():
        by_session = sorted(terms.grouped(readings).values(), key=lambda ms: ms[0].reading.at)
        first, last = _pair(by_session)
        if first is not None and readings[0].terms.distance_m is not None:
            found += _between(evidence, first, last)
    return tuple(found)


def _pair(groups: Sequence[list[Measured]]) -> tuple[list[Measured] | None, list[Measured]]:
    """The two to be compared: the earliest and the latest far enough apart, of one meter where there are such."""
    for same_meter in (True, False):
        for first, last in ((a, b) for a in groups for b in reversed(groups)):
            apart = last[0].reading.at - first[0].reading.at >= LEAST_APART
            if apart and (not same_meter or first[0].reading.meter_id == last[0].reading.meter_id):
                return first, last
    return None, []


def _between(evidence: Evidence, first: Sequence[Measured], last: Sequence[Measured]) -> list[Finding]:
    then, now = evidence.level_of(first), evidence.level_of(last)
    change = now.less(then)
    meters = [evidence.meter_of(ms[0]) for ms in (first, last)]
    same = first[0].reading.meter_id == last[0].reading.meter_id
    said = evidence.at(first[0], "session", "meter")
    since = f"{first[0].reading.at:%B %Y}"
    between = "" if same else f"; read with {meters[0].nickname} then and {meters[1].nickname} now"
    both = ids([*first, *last])
    open_ = ("how far the meter itself drifted since",) if same else ("a bridge between the two meters",)
    found = [
        Finding(
            question="years", name="level since the first session", value=change.value, unit="stops",
            words=f"{_changed(change, 'level', 'darker', 'brighter', 'stop', 2)} since {since}{between}", terms=said,
            readings=both,
            axis=("session", "meter"), uncertainty=change.half_width, not_covered=open_, rests_on=change, weight=31,
        )
    ]  # fmt: skip
    white = [[m for m in ms if m.value("cct")] for ms in (first, last)]
    if white[0] and white[1]:
        shift = evidence.white_of(white[1]).less(evidence.white_of(white[0]))
        found.append(
            Finding(
                question="years",
                name="white since the first session",
                value=shift.value,
                unit="mired",
                words=f"{_changed(shift, 'white', 'cooler', 'warmer', 'mired', 1)} since {since}{between}",
                terms=said,
                readings=both,
                axis=("session", "meter"),
                uncertainty=shift.half_width,
                not_covered=open_,
                rests_on=shift,
                weight=21,
            )
        )
    return found


def sessions_apart(evidence: Evidence) -> tuple[Finding, ...]:
    """Two evenings that give one lamp at one setting levels too far apart to be published side by side, also where
    they were measured from other planes, or by other meters."""
    found = []
    for readings in terms.grouped(evidence.full, *evenings.NOT_OF_THE_LEVEL).values():
        apart = evenings.levels_apart(readings, evidence.level_of)
        if apart is None:
            continue
        said = evidence.at(apart.then[0], "session", "meter", "plane")
        both = levels_in_words(apart, evidence.level_of)
        sentence = f"Two evenings disagree: {both}, {apart.size:.1f} {notation.stop_word(apart.size)} apart"
        found.append(
            Finding(
                question="output",
                name="evenings that disagree",
                value=apart.size,
                unit="stops",
                words=sentence,
                aside="Read it once more before either is published.",
                terms=said,
                readings=ids([*apart.then, *apart.now]),
                axis=("session", "meter", "plane"),
                uncertainty=apart.change.half_width,
                rests_on=apart.change,
                weight=69 + usual(apart.then[0]),
            )
        )
    return tuple(found)


def whites_apart(evidence: Evidence) -> tuple[Finding, ...]:
    """Two sources of one lamp's white at one setting (meters, evenings, a file) that do not agree: both are shown."""
    lit = [m for m in evidence.readings if m.value("cct") and m.terms.angle_deg == 0.0 and evidence.is_bright(m)]
    top = max((m.terms.level_pct or 0.0 for m in lit), default=0.0)
    full = [m for m in lit if (m.terms.level_pct or top) == top]
    found = []
    for readings in terms.grouped(full, *evenings.NOT_OF_THE_WHITE, "level").values():
        apart = evenings.whites_apart(readings, evidence.white_of)
        if apart is None:
            continue
        said = evidence.at(apart.then[0], *evenings.NOT_OF_THE_WHITE, "level")
        whose = [
            f"{_kelvin(evidence, ms)} by {evidence.meter_of(ms[0]).nickname} on {_day(ms)}"
            for ms in (apart.then, apart.now)
        ]
        found.append(
            Finding(
                question="white",
                name="sources that disagree",
                value=apart.change.value,
                unit="mired",
                words=f"Two sources disagree: {whose[0]}, {whose[1]}, {apart.size:.0f} mired apart",
                aside="Nothing here tells which is right.",
                terms=said,
                readings=ids([*apart.then, *apart.now]),
                axis=("session", "meter", "distance", "level"),
                uncertainty=apart.change.half_width,
                rests_on=apart.change,
                weight=57 + usual(apart.then[0]),
            )
        )
    return tuple(found)


def _kelvin(evidence: Evidence, repeats: Sequence[Measured]) -> str:
    return f"{notation.white(1e6 / (evidence.white_of(repeats).value or 1.0))} K"


def _day(repeats: Sequence[Measured]) -> str:
    return f"{repeats[0].reading.at:%-d %b %Y}"


def _changed(change: Estimate, what: str, less: str, more: str, unit: str, decimals: int) -> str:
    """How a level or a white changed: to `less` or `more`, or not as far as can be told."""
    half = notation.number(change.half_width, decimals)
    if abs(change.value or 0.0) <= change.tells:
        return f"Its {what} is as before, as far as can be told (±{half} {unit}),"
    side = more if (change.value or 0.0) > 0.0 else less
    word = notation.stop_word(change.value or 0.0) if unit == "stop" else unit
    return f"It is {notation.number(abs(change.value or 0.0), decimals)} {word} {side} (±{half})"


def meter_changes(evidence: Evidence) -> tuple[Finding, ...]:
    """When another meter was taken up for the light: figures of the two are never mixed silently."""
    lit = [m for m in evidence.readings if m.figure("illuminance") is not None or m.figure("cct") is not None]
    ordered = sorted(lit, key=lambda m: (m.reading.at, m.reading.sequence))
    found = []
    for before, now in itertools.pairwise(ordered):
        if before.reading.meter_id != now.reading.meter_id and before.reading.session_id != now.reading.session_id:
            names = [evidence.meter_of(m).nickname for m in (before, now)]
            sentence = f"Read with {names[1]} instead of {names[0]} from {now.reading.at:%-d %B %Y} on"
            found.append(
                Finding(
                    question="years",
                    name="meter change",
                    value=None,
                    unit="",
                    words=sentence,
                    terms="",
                    readings=ids([before, now]),
                    axis=fields.NAMES,
                )
            )
    return tuple(found)


def unit_to_unit(ours: Evidence, others: Sequence[Evidence]) -> tuple[Finding, ...]:
    """How far this unit lies from others of its model at full level and the same terms in one session, in stops."""
    found = []
    ours_full = terms.grouped(ours.full)
    for other in others:
        theirs = terms.grouped(other.full)
        for key, readings in ours_full.items():
            if key not in theirs:
                continue
            off, said = ours.level_of(readings).less(other.level_of(theirs[key])), ours.at(readings[0])
            told = abs(off.value or 0.0) > off.half_width
            words = (
                f"It is {notation.stops_told(off.value or 0.0, off.half_width)}"
                f" {'brighter' if (off.value or 0.0) > 0.0 else 'darker'} than {other.name} (±{off.half_width:.2f})"
                if told
                else f"It is as bright as {other.name}, as far as can be told (±{off.half_width:.2f} stop)"
            )
            found.append(
                Finding(
                    question="years",
                    name=f"level against {other.name}",
                    value=off.value,
                    unit="stops",
                    words=f"{words}, the same model",
                    terms=said,
                    readings=ids([*readings, *theirs[key]]),
                    uncertainty=off.half_width,
                    rests_on=off,
                    weight=23,
                )
            )
    return tuple(found)
