"""Lamps on even terms: each at its chosen readings, brought to one distance, and set against the reference."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import replace

from even_beam.bench import estimate, fields, terms
from even_beam.bench.estimate import Estimate
from even_beam.bench.fields import UNSTATED
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter
from even_beam.bench.walks import Brought, NotBroughtError, Walk
from even_beam.known import evenings
from even_beam.known import in_words as words
from even_beam.known.choice import ELSEWHERE, Chosen, Entrant, along, choose, coloured
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.even_terms import notes_on
from even_beam.known.evidence import Evidence, mean_figure, mean_of
from even_beam.known.joining import anchor_of, bridging, join, parts_of
from even_beam.known.published import sentences_of
from even_beam.known.trust import doubts_of, trusted
from even_beam.words.quantities import Use, score_names

_SCORES = score_names(Use.COMPARED)
FIGURES = ("duv", "cc", *_SCORES, "hue", "saturation")


def chosen_at(
    entrants: Sequence[Entrant],
    asked: Mapping[str, Hashable],
    meters: Mapping[str, Meter],
    reference: str = "",
    skip: frozenset[fields.Key] = frozenset(),
) -> tuple[tuple[Chosen, ...], float | None]:
    """Each lamp's readings, and the distance at which their levels are compared.

    Where none is asked it is the mark that most lamps have, or can be brought to outward; among those one that most
    were read at, and the reference's own before another's.
    """
    found = choose(entrants, asked, skip)
    if "distance" in asked:
        wanted = asked["distance"]
        return found, None if wanted is UNSTATED else float(str(wanted))
    walks = {c.entrant.key: _walk(c, c.entrant.evidence(meters)) for c in found if c.first is not None}
    marks = sorted({d for walk in walks.values() for d in walk.distances_m})
    if not marks:
        return found, None
    own = walks.get(reference)

    def worth(distance: float) -> tuple[int, int, bool, int, float]:
        reached = [here for walk in walks.values() if (here := _reach(walk, distance)) is not None]
        there = sum(_count_at(walk, distance) for walk in walks.values())
        at_reference = own is not None and _count_at(own, distance) > 0
        return len(reached), sum(reached), at_reference, there, -distance

    best = max(marks, key=worth)
    return choose(entrants, {**asked, "distance": terms.value_of("distance_m", best)}, skip), best


def _count_at(walk: Walk, distance: float) -> int:
    return sum(len(m) for d, m in zip(walk.distances_m, walk.marks, strict=True) if abs(d - distance) < 0.002)


def _reach(walk: Walk, distance: float) -> bool | None:
    """Whether a level was read at a distance rather than brought there; None where it cannot be had."""
    try:
        return walk.at(distance)[2] is None
    except NotBroughtError:
        return None


def _walk(chosen: Chosen, evidence: Evidence) -> Walk:
    """The readings that differ from the chosen ones in their distance alone."""
    first = chosen.readings[0]
    own = along(evidence.readings, first, "distance")
    return Walk.of(own, evidence.meter_of(first), evidence.beam_angles.of(first))


def needed(chosen: Chosen) -> list[Measured]:
    """The readings whose figures a comparison rests on: those chosen, those that differ in one axis alone, its
    colours; of other evenings what may contradict."""
    first, readings = chosen.first, chosen.entrant.readings
    if first is None:
        return []
    every = [(*axes, *chosen.joined) for axes in _NEEDED]
    near = along(readings, first, *{name for axes in every for name in axes})
    keys = {axes: terms.key(first, *axes) for axes in every}
    found = [m for m in near if any(terms.key(m, *axes) == wanted for axes, wanted in keys.items())]
    spans = bridging(readings) if "meter" in chosen.joined else []
    beside = along(chosen.entrant.beside, first, *evenings.NOT_OF_THE_WHITE)
    return [*found, *(m for group in spans for m in group), *beside]


def compare(
    entrants: Sequence[Entrant],
    asked: Mapping[str, Hashable],
    reference: str,
    meters: Mapping[str, Meter],
) -> Comparison:
    """Compare lamps at the terms asked; `reference` is the key of the entrant that the others are set against."""
    entrants = [replace(e, readings=trusted(e.readings)) for e in entrants]
    chosen, common = chosen_at(entrants, asked, meters, reference)
    return of_chosen(chosen, common, reference, meters)


def of_chosen(
    chosen: Sequence[Chosen], common: float | None, reference: str, meters: Mapping[str, Meter]
) -> Comparison:
    """Compare lamps by the readings chosen, their levels at one distance."""
    entries = [_entry(one, chosen, common, meters) for one in chosen]
    base = next((e for e in entries if e.key == reference), None)
    entries = [_against(entry, base, meters) for entry in entries]
    notes = tuple(notes_on(chosen, entries, common, meters))
    at = _shared(chosen)
    return Comparison(
        at=at,
        distance_m=common,
        reference=reference,
        notes=notes,
        entries=tuple(entries),
        said=tuple(sentences_of(entries, reference)),
    )


def _shared(chosen: Sequence[Chosen]) -> dict[str, Hashable]:
    """The fields that have one value for all, distance apart."""
    firsts = [c.first for c in chosen if c.first is not None]
    values = {one.name: {terms.value(m, one.name) for m in firsts} for one in fields.FIELDS if one.name != "distance"}
    for name in {name for c in chosen for name in c.joined}:
        values[name] = {terms.value(m, name) for c in chosen for m in c.readings}
    return {name: next(iter(found)) for name, found in values.items() if len(found) == 1}


# --- one lamp

_NEEDED = (
    ("level",),
    ("cct",),
    ("distance",),
    ("angle",),
    ELSEWHERE,
    evenings.NOT_OF_THE_LEVEL,
    evenings.NOT_OF_THE_WHITE,
)
"""Along any one of these a comparison looks beyond the readings chosen."""


def _entry(chosen: Chosen, every: Sequence[Chosen], common: float | None, meters: Mapping[str, Meter]) -> Entry:
    if not chosen.joined or chosen.first is None:
        return _part(chosen, common, meters)
    parts = [_part(one, common, meters) for one in parts_of(chosen)]
    anchor = anchor_of(every, meters) if "meter" in chosen.joined else chosen.first.reading.meter_id
    return join(parts, [one.entrant for one in every], anchor, meters)


def _part(chosen: Chosen, common: float | None, meters: Mapping[str, Meter]) -> Entry:
    """The entry of readings of one session and one meter."""
    entrant, first = chosen.entrant, chosen.first
    if first is None:
        nothing = "nothing was read at these terms"
        return Entry(entrant.key, entrant.name, (), entrant.is_fixture, why_not=nothing, also=chosen.nearest)
    place = _own_distance(entrant) or common
    evidence = entrant.evidence(meters)
    meter = evidence.meter_of(first)
    level, rests_on, how, why_not = _level(chosen, place, evidence)
    colour = coloured(entrant.readings, chosen.readings)
    colour_meter = evidence.meter_of(colour[0]) if colour else meter
    estimates = _estimates(colour, evidence)
    cct = 1e6 / float(estimates["cct"].value or 1.0) if "cct" in estimates else None
    asked = first.terms.cct_k
    figures, texts = _figures(colour)
    return Entry(
        key=entrant.key,
        name=entrant.name,
        readings=chosen.readings,
        is_fixture=entrant.is_fixture,
        level=level,
        as_read=mean_of(chosen.readings, "illuminance"),
        read_at_m=first.terms.distance_m,
        at_m=place if entrant.is_fixture and first.terms.distance_m else None,
        rests_on=rests_on,
        how=how,
        why_not=why_not,
        white=words.white_error(cct, asked, colour_meter) if cct and asked else None,
        cct_k=cct,
        colour=colour,
        figures=figures,
        texts=texts,
        half_widths={name: one.half_width for name, one in estimates.items() if name != "cct"},
        estimates=estimates,
        ratios_only=meter.for_ratios_only,
        doubtful=_doubtful(chosen, [*(rests_on or chosen.readings), *colour], evidence),
        unstated=chosen.unstated,
        also=chosen.nearest,
    )


def _doubtful(chosen: Chosen, rests_on: Sequence[Measured], evidence: Evidence) -> str:
    """What is in doubt of what a lamp's figures rest on, and which other evening or meter contradicts them."""
    return "; ".join(part for part in (doubts_of(rests_on), *_contradicted(chosen, evidence)) if part)


def _contradicted(chosen: Chosen, evidence: Evidence) -> list[str]:
    """The levels and whites of one light at one setting that do not agree, those chosen among them."""
    every = (*chosen.entrant.readings, *chosen.entrant.beside)
    said = (
        evenings.level_contradicted(every, chosen.readings, evidence.level_of),
        evenings.white_contradicted(every, chosen.readings, evidence.white_of),
    )
    return [one for one in said if one]


def _own_distance(entrant: Entrant) -> float | None:
    """The distance that is asked of a lamp alone: it is not brought to where the others stand."""
    own = entrant.own.get("distance")
    return None if own is None else float(str(own))


def _level(
    chosen: Chosen, common: float | None, evidence: Evidence
) -> tuple[Estimate | None, tuple[Measured, ...], Brought | None, str]:
    """The level at the common distance, what it rests on, how it was had, or why it cannot be had."""
    lit = [m for m in chosen.readings if m.figure("illuminance") is not None]
    first = chosen.readings[0]
    exposed = [m for m in chosen.readings if m.value("f_stop")]
    if not lit and exposed:
        return evidence.exposure_of(exposed), tuple(exposed), None, ""
    if common is None or not first.terms.distance_m or not chosen.entrant.is_fixture:
        dark = not lit or all(m.value("illuminance") == 0.0 for m in lit)
        return (None, (), None, "no level was read") if dark else (evidence.level_of(lit), tuple(lit), None, "")
    walk = _walk(chosen, evidence)
    if not walk.marks:
        return None, (), None, "no level was read"
    try:
        level, rests_on, how = walk.at(common)
    except NotBroughtError as error:
        return None, (), None, str(error)
    return level, rests_on, how, ""


def _figures(colour: Sequence[Measured]) -> tuple[dict[str, float], dict[str, str]]:
    """Figures as plain means, or as the text of a bound."""
    figures: dict[str, float] = {}
    texts: dict[str, str] = {}
    for name in FIGURES:
        found = [figure for m in colour if (figure := estimate.figure_of(m, name)) is not None]
        plain = [f.value for f in found if f.value is not None]
        if plain:
            figures[name] = mean_figure(plain, name)
        elif found:
            texts[name] = found[0].text
    return figures, texts


def _estimates(colour: Sequence[Measured], evidence: Evidence) -> dict[str, Estimate]:
    """White in mired, tint and scores with what they are uncertain by."""
    found: dict[str, Estimate] = {}
    if white := [m for m in colour if m.value("cct")]:
        found["cct"] = evidence.white_of(white)
    for name in _SCORES:
        if any(estimate.figure_of(m, name) is not None for m in colour):
            found[name] = evidence.score_of(colour, name)
    if tinted := [m for m in colour if m.value("duv") is not None]:
        found["duv"] = evidence.tint_of(tinted)
    return found


# --- against the reference


def _against(entry: Entry, base: Entry | None, meters: Mapping[str, Meter]) -> Entry:
    if base is not None and entry.key != base.key:
        shared = entry.estimates.keys() & base.estimates.keys()
        beyond = {name: entry.estimates[name].less(base.estimates[name]) for name in sorted(shared)}
        entry = replace(entry, beyond=beyond)
    if base is None or base.level is None or entry.level is None or entry.first is None or base.first is None:
        return replace(
            entry, why_not=entry.why_not or ("the reference has no level to compare with" if entry.first else "")
        )
    why_not = _why_not(entry, base, meters)
    if why_not:
        return replace(entry, why_not=why_not)
    found = entry.level.less(base.level) if entry.key != base.key else Estimate(0.0)
    return replace(entry, comparable=True, ratio_estimate=found)


def _why_not(entry: Entry, base: Entry, meters: Mapping[str, Meter]) -> str:
    ours, theirs = entry.first, base.first
    if ours is None or theirs is None:
        return "nothing was read at these terms"
    if entry.key == base.key:
        return ""
    used = [meters.get(m.reading.meter_id or "") for m in (ours, theirs)]
    if any(meter is not None and meter.for_ratios_only for meter in used) and used[0] != used[1]:
        return "its meter is for ratios only, and the other was read with another"
    if entry.is_fixture and base.is_fixture and (ours.terms.distance_m is None or theirs.terms.distance_m is None):
        both_equal = ours.terms.placement == theirs.terms.placement == "equal"
        if not both_equal or ours.terms.distance_m or theirs.terms.distance_m:
            return "its distance was not noted"
    if _scale(entry) != _scale(base):
        return "one is in lx and the other in f-stops without ISO and shutter"
    return ""


def _scale(entry: Entry) -> Hashable:
    """Levels of one scale can be compared: all in lx; f-stops of one session and meter among themselves."""
    first = entry.first
    if first is None or not entry.in_f_stops:
        return "lx"
    return first.reading.session_id, first.reading.meter_id
