"""What a report says of each lamp in a few rows, and what was not measured."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench import terms as sameness
from even_beam.bench.measured import Measured
from even_beam.bench.records import SOURCE_KINDS, Meter, Source, Terms
from even_beam.bench.seen import SEEN
from even_beam.known import in_words as words
from even_beam.known.choice import Entrant
from even_beam.known.evidence import mean_of
from even_beam.words import notation
from even_beam.words.quantities import Use, score_names

SUMMARY_FIGURES = ("illuminance", "cct", "duv", "cc", *score_names(Use.TABLED), "hue", "saturation", "f_stop")


@dataclass(frozen=True, eq=False, slots=True)
class SummaryRow:
    """One lamp at one set of terms: means, how many readings, how far they spread, and what they carry."""

    name: str
    terms: Terms
    meter: str
    count: int
    figures: Mapping[str, float]
    texts: Mapping[str, str]
    spread_pct: float | None
    white: words.WhiteError | None
    tint: str
    corrected: bool
    in_doubt: bool
    suspect: bool
    readings: tuple[str, ...] = ()


def rows_of(entrant: Entrant, meters: Mapping[str, Meter]) -> tuple[SummaryRow, ...]:
    """One row for every set of terms, in the order of reading."""
    return tuple(_row(entrant.name, group, meters) for group in groups_of(entrant))


def groups_of(entrant: Entrant) -> list[list[Measured]]:
    """The readings at each set of terms, in the order of reading."""
    return list(sameness.grouped(entrant.readings).values())


def headline_rows(entrant: Entrant, meters: Mapping[str, Meter]) -> tuple[SummaryRow, ...]:
    """The rows for a single page: full level at each white, configuration and place, and the lowest level once."""
    return tuple(_row(entrant.name, group, meters) for group in _headline(groups_of(entrant)))


def _headline(groups: Sequence[list[Measured]]) -> Sequence[list[Measured]]:
    levels = [group[0].terms.level_pct for group in groups if group[0].terms.level_pct is not None]
    if not levels:
        return groups
    top, bottom = max(levels), min(levels)
    full = [group for group in groups if group[0].terms.level_pct in (top, None)]
    lowest = [group for group in groups if group[0].terms.level_pct == bottom and bottom < top][:1]
    return [*full, *lowest]


def _texts(readings: Sequence[Measured]) -> dict[str, str]:
    """Figures that are only bounded, as they were typed, and levels that disagree."""
    levels = [lux for m in readings if (lux := m.value("illuminance"))]
    disagree = (
        {"illuminance": f"{notation.lux(min(levels))} to {notation.lux(max(levels))}, disagree"} if levels else {}
    )
    return disagree | {
        quantity: figure.text
        for quantity in SUMMARY_FIGURES
        for m in readings
        if (figure := m.figure(quantity)) is not None and figure.value is None
    }


def _row(name: str, group: Sequence[Measured], meters: Mapping[str, Meter]) -> SummaryRow:
    terms, meter = group[0].terms, meters.get(group[0].reading.meter_id or "")
    for_ratios = meter is not None and meter.for_ratios_only
    asked = [q for q in SUMMARY_FIGURES if not (for_ratios and q == "illuminance")]  # such a level is never published
    figures = {q: value for q in asked if (value := mean_of(group, q)) is not None}
    levels = np.array([v for m in group if (v := m.value("illuminance"))])
    spread = 100.0 * float(np.ptp(levels) / np.median(levels)) if levels.size > 1 else None
    cct = figures.get("cct")
    return SummaryRow(
        name=name,
        terms=terms,
        meter=meter.nickname if meter is not None else "meter not named",
        count=len(group),
        figures=figures,
        texts={q: text for q, text in _texts(group).items() if q not in figures},
        spread_pct=spread,
        white=words.white_error(cct, terms.cct_k, meter) if cct and terms.cct_k else None,
        tint=words.tint_words(figures["duv"], cct, meter) if cct and "duv" in figures else "",
        corrected=any(m.state.corrections for m in group),
        in_doubt=any(m.state.doubt for m in group),
        suspect=any(m.state.suspect for m in group),
        readings=tuple(m.reading.id for m in group),
    )


def gaps(entrants: Sequence[Entrant], sources: Mapping[str, Source]) -> tuple[str, ...]:
    """What was not measured, in plain sentences: a report that is silent on it misleads."""
    found: list[str] = []
    terms = [(entrant.name, {m.terms for m in entrant.readings}) for entrant in entrants]
    every_white = sorted({t.cct_k for _, ts in terms for t in ts if t.cct_k is not None})
    for name, own in terms:
        whites = {t.cct_k for t in own} - {None}
        missing = [w for w in every_white if w not in whites]
        if missing and whites:  # of what nobody dialled nobody knows that it can be
            found.append(f"{name} at {', '.join(notation.dialled(w) for w in missing)} K")
    one_level = [
        e.name
        for e in entrants
        if len({m.terms.level_pct for m in e.readings}) < 2 and e.kind not in SOURCE_KINDS[1:]  # nobody dims the sun
    ]
    if one_level:
        found.append(f"{notation.listed(one_level)} at more than one level")
    unseen = [e.name for e in entrants if all(m.computed is None for m in e.readings)]
    if unseen:
        found.append(f"the spectrum of {notation.listed(unseen)}")
    once = {e.name: count for e in entrants if (count := sum(size == 1 for size in _groups(e)))}
    if once:
        most = max(once.values())
        alike = len(set(once.values())) == 1
        at = f"{'' if alike else 'up to '}{most} setting{'s' * (most > 1)}{' each' * (alike and len(once) > 1)}"
        found.append(f"repeats of {notation.listed(list(once))} at {at}")
    if all(t.angle_deg == 0.0 for _, ts in terms for t in ts):
        found.append("beam angle and evenness")
    if all(len({t.distance_m for t in ts if t.distance_m}) < 3 for _, ts in terms):
        found.append("other distances")
    quantities = {v.quantity for e in entrants for m in e.readings for v in m.reading.values}
    if not quantities & {"power_w", "power_va", "current_a"}:
        found.append("power")
    if "flicker_hz" not in quantities:
        found.append("flicker on camera")
    if "sound_db" not in quantities:
        found.append("noise")
    return tuple(found)


def _groups(entrant: Entrant) -> list[int]:
    read = [m for m in entrant.readings if not m.reading.values or not _only_seen(m)]
    return [len(group) for group in sameness.grouped(read, "plane").values()]


def _only_seen(measured: Measured) -> bool:
    return all(value.quantity in SEEN for value in measured.reading.values)
