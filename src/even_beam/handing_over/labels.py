"""What stands on a lamp's label: dialled against real white, what to dial, tint, the true minimum, its modifiers."""

from collections.abc import Mapping, Sequence
from datetime import timedelta

from even_beam.answers.findings.glance import AtWhite, Glance
from even_beam.answers.findings.glance_words import gel_of
from even_beam.bench import terms as sameness
from even_beam.bench import terms_in_words
from even_beam.bench.dial_steps import DialSteps, dial_of
from even_beam.bench.measured import Measured
from even_beam.bench.records import SOURCE_KINDS
from even_beam.handing_over.material import Material
from even_beam.known import trust
from even_beam.known.choice import WORKING_WHITES_K, Entrant
from even_beam.known.evidence import is_near
from even_beam.known.findings.finding import Finding
from even_beam.known.in_words import tint_side
from even_beam.light.photometry import stops
from even_beam.paper.label import Label, LabelContent, LabelSize, laid_out
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

CHECK_AGAIN = timedelta(days=365)
"""A lamp of a store is read again within a year (common practice, no source)."""
MOST_WHITES, MOST_DIALS, MOST_SCORES, MOST_MODIFIERS = 4, 3, 3, 4

Own = Mapping[str, Measured]
"""The readings of a lamp by their ids."""


def labels_of(material: Material, size: LabelSize) -> list[Label]:
    """A label a lamp, those of lamps alone: nobody labels the sun."""
    lamps = [entrant for entrant in material.entrants if material.witness.evidence(entrant).is_fixture]
    return [laid_out(content_of(material, entrant), size) for entrant in lamps]


def left_off_words(labels: Sequence[Label]) -> list[str]:
    """What did not fit, a line a label: nothing is left off silently."""
    lines = []
    for label in labels:
        if label.left_off:
            lines.append(f"{label.content.name}: left off for want of room: {'; '.join(label.left_off)}")
        if label.code is None:
            lines.append(f"{label.content.name}: no code, which would be too small to be read")
        elif label.left_off_code:
            lines.append(f"{label.content.name}: the code has not: {'; '.join(label.left_off_code)}")
    return lines


def content_of(material: Material, entrant: Entrant) -> LabelContent:
    """All that a label may say of a lamp: what to do with it first, then what it gives; of one set-up, which it names.
    What kind it is and what its modifiers do come last."""
    glance = material.glance(entrant)
    first, main, own, same = glance.foremost, glance.main, glance.own, glance.same
    if first is None or main is None:
        return LabelContent(entrant.name, "nothing read that a label could say", ())
    lines = [
        *_dials(same, dial_of(material.witness.evidence(entrant).gear)),
        *_gel(glance),
        *_whites(glance),
        *_minimum(glance),
        *_level(glance),
        *_scores(same),
        f"check again by {main.reading.at + CHECK_AGAIN:%b %Y}",
        *([entrant.kind] if entrant.kind not in SOURCE_KINDS else []),
        *_modifiers(glance),
    ]
    behind = [own[i] for f in same for i in f.readings]
    return LabelContent(entrant.name, _read(material, glance, main, behind), tuple(lines))


def _whites(glance: Glance) -> list[str]:
    """Each white in use as dialled and as it came, with its tint where that can be seen; the white of a lamp without a
    dial."""
    rows = [row for row in glance.whites if row.cct_k is not None]
    kept = sorted(rows, key=lambda row: (not _is_working(row), row.dialled_k or 0.0))[:MOST_WHITES]
    return [_gives(row) for row in sorted(kept, key=lambda row: row.dialled_k or 0.0)]


def _is_working(row: AtWhite) -> bool:
    return any(is_near(row.dialled_k, white) for white in WORKING_WHITES_K)


def _gives(row: AtWhite) -> str:
    dialled = f"{notation.dialled(row.dialled_k)} gives " if row.dialled_k is not None else ""
    tint = f", {notation.number(abs(row.off), 3)} {tint_side(row.off)}" if row.is_tinted and row.off is not None else ""
    return f"{dialled}{notation.white(row.cct_k)} K{tint}"


def _gel(glance: Glance) -> list[str]:
    """The gel that puts its tint right at the white that stands for it."""
    gel = gel_of(glance.at) if glance.at is not None else None
    return [f"clip on {gel[0]}"] if gel is not None and gel[1] else []


def _dials(same: Sequence[Finding], steps: DialSteps) -> list[str]:
    """The corrections: dial 5240 for 5600 K, at settings that the dial has."""
    asked = [f for f in same if f.name.startswith("what to dial for ") and f.value is not None]
    found = {f.name.removeprefix("what to dial for "): steps.nearest(f.value or 0.0) for f in asked}
    verb = "dial" if steps.numbered else "turn to"
    return [f"{verb} {steps.words(dial)} for {wanted}" for wanted, dial in found.items()][:MOST_DIALS]


def _minimum(glance: Glance) -> list[str]:
    """What the lowest level that was read gives: dims to 1 %, or at 1 % gives 11 % of full."""
    dimmed = glance.dimmed
    if dimmed is None:
        return []
    dial, gives = notation.percent(dimmed.lowest_pct), notation.percent(float(f"{dimmed.gives_pct:.2g}"))
    return [f"dims to {dial} %" if dimmed.is_in_proportion else f"at {dial} % gives {gives} % of full"]


def _level(glance: Glance) -> list[str]:
    found = [f for f in glance.same if f.name == "illuminance" and f.value is not None]
    if not found:
        return []
    best = max(found, key=glance.order)
    terms = glance.own[best.readings[0]].terms
    where = terms_in_words.placement(terms), terms_in_words.stated_white(terms)
    return [f"{notation.level(best.value)} at {', '.join(filter(None, where))}"]


def _scores(same: Sequence[Finding]) -> list[str]:
    """The weightiest scores in a line: Ra 96.8, TLCI 95.1."""
    labels = [QUANTITIES[name].label for name in sorted(score_names(Use.FOUND), key=lambda n: -QUANTITIES[n].weight)]
    found = {f.name: f.value for f in reversed(same) if f.question == "colour" and f.value is not None}
    said = [f"{label} {notation.score(found[label])}" for label in labels if label in found]
    return [", ".join(said[:MOST_SCORES])] if said else []


def _modifiers(glance: Glance) -> list[str]:
    """What else its modifiers do to light and to white, at the usual terms of each."""
    effects: dict[str, dict[str, Finding]] = {}
    for finding in sorted(glance.findings, key=glance.order, reverse=True):
        name, _, what = finding.name.rpartition(", ")
        if finding.question == "modifiers" and what in {"level", "white"} and finding.value is not None:
            effects.setdefault(name, {}).setdefault(what, finding)
    lines = []
    for name, found in effects.items():
        level, white = found.get("level"), found.get("white")
        parts = [f"{notation.stops(float(stops(level.value)))} stops"] if level is not None and level.value else []
        parts += [f"{notation.number(white.value, signed=True)} mired"] if white is not None and _is_told(white) else []
        if parts:
            lines.append(f"{name}: {', '.join(parts)}")
    return lines[:MOST_MODIFIERS]


def _is_told(shift: Finding) -> bool:
    """Whether a shift can be told from none."""
    return abs(shift.value or 0.0) > (shift.uncertainty or 0.0)


def _read(material: Material, glance: Glance, main: Measured, behind: Sequence[Measured]) -> str:
    """Its terms but for the white, level, day and meter: what all of it holds for."""
    meter = material.collection.meters.get(main.reading.meter_id or "")
    doubts = glance.doubtful or trust.doubts_of(behind)
    parts = [
        sameness.said_of(main.terms, "distance", *(("cct",) if main.terms.cct_k is not None else ())),
        f"checked {main.reading.at:%-d %b %Y}",
        meter.nickname if meter is not None else "meter not named",
        "simulated" if meter is not None and meter.simulated else "",
        f"rests on {doubts}" if doubts else "",
    ]
    return " · ".join(part for part in parts if part)
