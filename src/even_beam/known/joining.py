"""Readings of several sessions or meters as one figure, where somebody chose to join them.

Each session and meter gives its own estimate first, so that what is theirs alone (its marks, its calibration) stays
theirs; the joined figure is the mean of these. Where two meters read the same light in one session, that is a bridge
between them: the one is brought to the other by their difference, which takes its own calibration out exactly.
"""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from statistics import fmean

from even_beam.bench import estimate, terms
from even_beam.bench.estimate import UNKNOWN_METER, Estimate
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter
from even_beam.known import in_words as words
from even_beam.known.choice import Chosen, Entrant
from even_beam.known.comparison import Entry


@dataclass(frozen=True, eq=False, slots=True)
class Bridge:
    """What one meter reads above another: of `pairs` lights that both read, in stops and, where they read it, mired."""

    pairs: int
    stops: Estimate
    mired: Estimate | None


def bridging(readings: Iterable[Measured]) -> list[list[Measured]]:
    """Readings of one lamp, session and set of terms that more than one meter took."""
    groups = terms.grouped(readings, "meter").values()
    return [group for group in groups if len({m.reading.meter_id for m in group}) > 1]


def bridge(entrants: Sequence[Entrant], above: str | None, below: str | None, meters: Mapping[str, Meter]) -> Bridge:
    """What the meter `above` reads above the meter `below`, by every light that both read; no pairs where none was."""
    levels: list[Estimate] = []
    whites: list[Estimate] = []
    for group, known in (
        (group, entrant.evidence(meters)) for entrant in entrants for group in bridging(entrant.readings)
    ):
        both = terms.by_value(group, "meter")
        if above not in both or below not in both:
            continue
        ours, theirs = ([m for m in both[i] if (m.value("illuminance") or 0.0) > 0.0] for i in (above, below))
        if ours and theirs:
            levels.append(known.level_of(ours).less(known.level_of(theirs)))
        ours, theirs = ([m for m in both[i] if m.value("cct")] for i in (above, below))
        if ours and theirs:
            whites.append(known.white_of(ours).less(known.white_of(theirs)))
    nothing = Estimate(0.0)
    return Bridge(
        len(levels),
        estimate.mean_of(levels) if levels else nothing,
        estimate.mean_of(whites) if whites else None,
    )


def parts_of(chosen: Chosen) -> list[Chosen]:
    """The readings of each session and meter by themselves, those with most readings first."""
    groups = terms.by_value_of(chosen.readings, lambda m: (m.reading.session_id, m.reading.meter_id)).values()
    ordered = sorted(groups, key=lambda group: -len(group))
    return [replace(chosen, readings=tuple(group)) for group in ordered]


def anchor_of(chosen: Sequence[Chosen], meters: Mapping[str, Meter]) -> str | None:
    """The meter that the others are brought to: the one that most of all lamps' readings were taken with."""
    count = Counter(m.reading.meter_id for one in chosen for m in one.entrant.readings)
    able = [i for i in count if not meters.get(i or "", UNKNOWN_METER).for_ratios_only] or list(count)
    return max(able, key=lambda i: (count[i], i is not None, i or ""), default=None)


def join(
    entries: Sequence[Entry], entrants: Sequence[Entrant], anchor: str | None, meters: Mapping[str, Meter]
) -> Entry:
    """One entry of those of several sessions and meters, brought to the meter `anchor` where a light ties them to it.

    Half widths of scores are those of the parts on the mean: what one meter gets wrong it gets wrong every time, and of
    several that is a little too wide.
    """
    first = entries[0]
    usable = [one for one in entries if one.level is not None and one.level.value is not None and _in_lux(one)]
    usable = [one for one in usable if not one.ratios_only or all(other.ratios_only for other in usable)]
    spans = {i: bridge(entrants, i, anchor, meters) for i in {_id(one) for one in entries} - {anchor}}
    levels = [_brought(one.level, spans.get(_id(one))) for one in usable if one.level is not None]
    whites = [_white_brought(one, spans.get(_id(one))) for one in entries if one.cct_k]
    rests_on = tuple(m for one in usable for m in one.rests_on) if usable else first.rests_on
    cct = 1e6 / float(estimate.mean_of(whites).value or 1.0) if whites else None
    asked = first.readings[0].terms.cct_k
    return replace(
        next((one for one in usable), first),
        readings=tuple(m for one in entries for m in one.readings),
        level=estimate.mean_of(levels) if levels else first.level,
        as_read=fmean(reads) if (reads := [one.as_read for one in usable if one.as_read is not None]) else None,
        rests_on=rests_on,
        how=next((one.how for one in usable if one.how is not None), None),
        why_not="" if usable else first.why_not,
        white=words.white_error(cct, asked, meters.get(anchor or "", UNKNOWN_METER)) if cct and asked else None,
        cct_k=cct,
        colour=tuple(m for one in entries for m in one.colour),
        figures=_means(one.figures for one in entries),
        half_widths=_means(one.half_widths for one in entries),
        estimates=_estimates(entries),
        doubtful="; ".join(dict.fromkeys(one.doubtful for one in entries if one.doubtful)),
        joined=_words(entries, anchor, spans, meters),
    )


def _in_lux(entry: Entry) -> bool:
    """f-numbers without ISO and shutter have a zero of their own in each session."""
    return any(m.figure("illuminance") is not None for m in entry.rests_on)


def _id(entry: Entry) -> str | None:
    return entry.readings[0].reading.meter_id


def _brought(level: Estimate, span: Bridge | None) -> Estimate:
    return level.less(span.stops) if span is not None and span.pairs else level


def _white_brought(entry: Entry, span: Bridge | None) -> Estimate:
    own = entry.estimates["cct"]
    return own.less(span.mired) if span is not None and span.mired is not None else own


def _means(each: Iterable[Mapping[str, float]]) -> dict[str, float]:
    found: dict[str, list[float]] = {}
    for figures in each:
        for name, value in figures.items():
            found.setdefault(name, []).append(value)
    return {name: fmean(values) for name, values in found.items()}


def _estimates(entries: Sequence[Entry]) -> dict[str, Estimate]:
    """Those of all entries on the mean, each by its name."""
    found: dict[str, list[Estimate]] = {}
    for one in entries:
        for name, own in one.estimates.items():
            found.setdefault(name, []).append(own)
    return {name: estimate.mean_of(own) for name, own in found.items() if all(one.value is not None for one in own)}


def _words(
    entries: Sequence[Entry], anchor: str | None, spans: Mapping[str | None, Bridge], meters: Mapping[str, Meter]
) -> str:
    """What was joined, and whether a light that both meters read ties them together."""
    sessions = len({one.readings[0].reading.session_id for one in entries})
    used = len({_id(one) for one in entries})
    parts = [f"{sessions} sessions"] if sessions > 1 else []
    parts += [f"{used} meters"] if used > 1 else []
    mean = f"the mean of {' and '.join(parts)}" if parts else ""
    tied = "; ".join(_span_words(i, anchor, spans[i], meters) for i in spans)
    return f"{mean} ({tied})" if mean and tied else mean or tied


def _span_words(of: str | None, to: str | None, span: Bridge, meters: Mapping[str, Meter]) -> str:
    ours, theirs = (meters.get(i or "", UNKNOWN_METER).nickname for i in (of, to))
    if not span.pairs:
        return f"no light was read with both {ours} and {theirs}"
    lights = "one light" if span.pairs == 1 else f"{span.pairs} lights"
    return f"{ours} brought to {theirs} by {lights} that both read"
