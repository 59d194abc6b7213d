"""A fixture over the years, and two units of one model: what changed, and which meter read it then."""

import itertools
from collections.abc import Mapping, Sequence
from datetime import timedelta

import numpy as np

from even_beam.bench import notation
from even_beam.bench.findings.finding import Evidence, Finding, at, full_level, grouped, ids, level_mean, value_of
from even_beam.bench.measured import Measured
from even_beam.bench.records import Session

LEAST_APART = timedelta(days=30)
"""Two evenings of one week say nothing of ageing."""


def ageing(evidence: Evidence, sessions: Mapping[str, Session]) -> tuple[Finding, ...]:
    """Level and white at the same terms in the first session and in the last, with the meters between."""
    found: list[Finding] = []
    for readings in grouped(evidence.lit, lambda m: m.terms).values():
        by_session = sorted(grouped(readings, lambda m: m.reading.session_id).values(), key=lambda ms: ms[0].reading.at)
        apart = by_session[-1][0].reading.at - by_session[0][0].reading.at
        if apart >= LEAST_APART and readings[0].terms.distance_m is not None:
            found += _between(evidence, by_session[0], by_session[-1], sessions)
    return tuple(found)


def _between(
    evidence: Evidence, first: Sequence[Measured], last: Sequence[Measured], sessions: Mapping[str, Session]
) -> list[Finding]:
    then, now = level_mean(evidence, first), level_mean(evidence, last)
    meters = [evidence.meter_of(ms[0]) for ms in (first, last)]
    same = first[0].reading.meter_id == last[0].reading.meter_id
    relative = (
        float(np.hypot(then.ratio, now.ratio) / np.sqrt(2.0)) if same else float(np.hypot(then.absolute, now.absolute))
    )
    change = float(np.log2(now.value / then.value))
    terms = at(first[0].terms)
    since = f"{first[0].reading.at:%B %Y}"
    between = "" if same else f"; read with {meters[0].nickname} then and {meters[1].nickname} now"
    told = "" if abs(change) > np.log2(1.0 + relative) else ", less than these meters can tell"
    both = ids([*first, *last])
    open_ = () if same else ("a bridge between the two meters",)
    found = [
        Finding(
            "years",
            "level since the first session",
            change,
            "stops",
            f"{notation.stops(change)} stop since {since}{told}{between}, at {terms}.",
            terms,
            both,
            None,
            float(np.log2(1.0 + relative)),
            None,
            open_,
        )
    ]
    white = [[1e6 / value_of(m, "cct") for m in ms if m.value("cct")] for ms in (first, last)]
    if white[0] and white[1]:
        shift = float(np.mean(white[1]) - np.mean(white[0]))
        found.append(
            Finding(
                "years",
                "white since the first session",
                shift,
                "mired",
                f"{notation.number(shift, 1, signed=True)} mired since {since}{between}, at {terms}.",
                terms,
                both,
                None,
                None,
                None,
                open_,
            )
        )
    return found


def meter_changes(evidence: Evidence) -> tuple[Finding, ...]:
    """When another meter was taken up: figures of the two are never mixed silently."""
    ordered = sorted(evidence.readings, key=lambda m: (m.reading.at, m.reading.sequence))
    found = []
    for before, now in itertools.pairwise(ordered):
        if before.reading.meter_id != now.reading.meter_id:
            names = [evidence.meter_of(m).nickname for m in (before, now)]
            sentence = f"Read with {names[1]} instead of {names[0]} from {now.reading.at:%-d %B %Y} on."
            found.append(Finding("years", "meter change", None, "", sentence, "", ids([before, now])))
    return tuple(found)


def unit_to_unit(ours: Evidence, others: Sequence[Evidence]) -> tuple[Finding, ...]:
    """How far this unit lies from others of its model at full level and the same terms, in stops."""
    found = []
    ours_full = grouped(full_level(ours.lit), lambda m: (m.terms, m.reading.meter_id))
    for other in others:
        theirs = grouped(full_level(other.lit), lambda m: (m.terms, m.reading.meter_id))
        for key, readings in ours_full.items():
            if key not in theirs:
                continue
            mine, its = level_mean(ours, readings), level_mean(other, theirs[key])
            relative = float(np.hypot(mine.ratio, its.ratio) / np.sqrt(2.0))
            off = float(np.log2(mine.value / its.value))
            terms = at(readings[0].terms)
            found.append(
                Finding(
                    "years",
                    f"level against {other.name}",
                    off,
                    "stops",
                    f"{notation.stops(off)} stop against {other.name}, the same model, at {terms}.",
                    terms,
                    ids([*readings, *theirs[key]]),
                    None,
                    float(np.log2(1.0 + relative)),
                )
            )
    return tuple(found)
