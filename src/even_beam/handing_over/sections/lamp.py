"""Sections on one lamp: what was found of it, question by question, with the tables and charts that prove it."""

from collections.abc import Callable, Mapping

from even_beam.bench.observations import Observation
from even_beam.bench.run import CORRECTED, KEPT_IN_DOUBT, SUSPECT
from even_beam.bench.tolerances import is_of_a_place
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections import colour, light, page
from even_beam.handing_over.sections.rows import (
    BY_EYE,
    MOST_SAID,
    NOTHING,
    Build,
    figure_of,
    sentences,
    table_of,
)
from even_beam.known import summary
from even_beam.known.choice import Entrant
from even_beam.known.findings.claims import Holds
from even_beam.known.summary import SummaryRow
from even_beam.known.verdicts import Answer
from even_beam.paper.document import Cell, Said, Section, Setting, Table
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

MOST_ROWS = 9
"""So many rows of figures fit on a lamp's page beside all else."""


def figures(material: Material, entrant: Entrant) -> Section:
    """Full level at each white, configuration and place, and the lowest level: with the terms of each."""
    rows = summary.headline_rows(entrant, material.collection.meters)
    evidence = material.witness.evidence(entrant)
    by_id = {m.reading.id: m for m in entrant.readings}
    columns: list[tuple[str, Callable[[SummaryRow], Cell]]] = [
        ("terms", lambda r: Cell(_terms_of(r, evidence.at(by_id[r.readings[0]], "meter")))),
        ("meter, readings", lambda r: Cell(_meter_of(r), quiet=True)),
        (notation.light_unit(), lambda r: figure_of(r, "illuminance", notation.illuminance)),
        ("K", lambda r: figure_of(r, "cct", notation.kelvin)),
        ("off, mired", _white_cell),
        ("Duv", lambda r: figure_of(r, "duv", notation.duv)),
        ("CC", lambda r: figure_of(r, "cc", lambda v: notation.number(v, 1, signed=True))),
        *((_heading(name), lambda r, n=name: figure_of(r, n, notation.score)) for name in score_names(Use.TABLED)),
    ]
    table = table_of(columns, rows[:MOST_ROWS], [row.readings for row in rows[:MOST_ROWS]])
    left = len(rows) - MOST_ROWS
    if table is not None and left > 0:
        table = Table(
            table.columns, table.rows, table.readings, f"{left} more set{'s' * (left > 1)} of terms were read."
        )
    return Section("figures", "Figures and the terms of each", tables=(table,) if table is not None else ())


def _heading(score: str) -> str:
    """A score over its column; SSI with the mark of a note, for it means nothing without its reference."""
    return f"{QUANTITIES[score].label}{'*' * (score == 'ssi')}"


def _terms_of(row: SummaryRow, at: str) -> str:
    marks = ((KEPT_IN_DOUBT, row.in_doubt), (SUSPECT, row.suspect), (CORRECTED, row.corrected))
    return ", ".join([at, *(words for words, is_so in marks if is_so)])


def _meter_of(row: SummaryRow) -> str:
    spread = f", spread {notation.number(row.spread_pct, 1)} %" if row.spread_pct is not None else ""
    return f"{row.meter}, {row.count}{spread}"


def _white_cell(row: SummaryRow) -> Cell:
    if row.white is None:
        return NOTHING
    half = notation.number(row.white.tolerance_mired, 1)
    return Cell(f"{notation.number(row.white.mired, 1, signed=True)} ±{half}", marked=row.white.certain)


def sides(material: Material, entrant: Entrant) -> Section:
    """What surely speaks for it and what against, each with its number and the purposes it was judged for."""
    found: dict[str, dict[str, list[str]]] = {"for": {}, "against": {}}
    for verdict in material.witness.verdicts(entrant):
        for judged in verdict.judgements if not is_of_a_place(verdict.limits) else ():
            if judged.certain and judged.answer in _SIDES:
                found[_SIDES[judged.answer]].setdefault(judged.sentence, []).append(verdict.purpose)
    said = [
        Said(f"{sentence} ({notation.listed(purposes)})", (), heading)
        for heading, sentences in found.items()
        for sentence, purposes in list(sentences.items())[:MOST_SAID]
    ]
    return Section("sides", "For and against", tuple(said))


_SIDES = {Answer.WITHIN: "for", Answer.OUTSIDE: "against"}


def claims(material: Material, entrant: Entrant) -> Section:
    """Each claim beside what was read."""
    judged = material.witness.claims(entrant)
    said = tuple(Said(one.sentence, one.readings, "", one.holds is Holds.NO) for one in judged)
    return Section("claims", "What is claimed", said)


def handling(material: Material, entrant: Entrant) -> Section:
    """What eye and ear said."""
    said = [
        Said(f"{_beside(material, entrant, seen)}{seen.sentence}.")
        for seen in material.observations
        if entrant.source_id in seen.source_ids
    ]
    return Section("handling", BY_EYE, tuple(dict.fromkeys(said)), setting=Setting.OPINION)


def _beside(material: Material, entrant: Entrant, seen: Observation) -> str:
    """The lamp that was looked at side by side with this one, before what was seen; empty for one that was alone."""
    others = [i for i in seen.source_ids if i != entrant.source_id]
    return f"Beside {material.collection.names_of(others)}: " if others else ""


_POWER = ("most power", "power", "apparent power", "current", "power factor", "lux per watt", "run time", "standby")

BY_LAMP: Mapping[str, tuple[str, Build]] = {
    **page.PAGE,
    "figures": ("figures", figures),
    "output": ("output", light.output),
    "distance": ("a distance walk", light.walk),
    "dimming": ("dimming", light.dimming),
    "whites": ("white", colour.whites),
    "tint": ("tint", sentences("tint", "Tint", "tint", "Duv per step", "CC")),
    "dial": ("what to dial", sentences("dial", "What to dial", "what to dial", "what to try", "dial slope")),
    "colours": ("colours", colour.colours),
    "hues": ("hues", sentences("hues", "Hues and saturation", "hue error", "saturation error", "desaturated white")),
    "modifiers": ("modifiers and gels", light.modifiers),
    "beam": ("the beam off its axis", light.beam),
    "power": ("power", sentences("power", "Power", *_POWER, question="electrical")),
    "flicker": ("flicker", sentences("flicker", "Flicker", "flicker", "flicker depth")),
    "camera": ("chart photographs and fades", sentences("camera", "What a camera saw", "chart photograph", "fade")),
    "noise": ("noise", sentences("noise", "Noise", question="noise")),
    "repeats": ("repeats", sentences("repeats", "Repeatability", question="repeats")),
    "years": ("other years, other units", sentences("years", "Over the years, unit to unit", question="years")),
    "sides": ("for and against", sides),
    "claims": ("claims", claims),
    "handling": ("eye and ear", handling),
}
"""The sections on a lamp by their keys: what each is called where it has nothing to say, and what builds it."""
