"""Sections on one lamp: what was found of it, question by question, with the tables and charts that prove it."""

from collections.abc import Callable, Mapping
from dataclasses import replace

from even_beam.bench.observations import Observation
from even_beam.bench.run import CORRECTED, KEPT_IN_DOUBT, SUSPECT
from even_beam.bench.tolerances import is_of_a_place
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections import colour, light, page, topics
from even_beam.handing_over.sections.page import told_of
from even_beam.handing_over.sections.rows import (
    BY_EYE,
    NOTHING,
    Build,
    figure_of,
    filled,
    table_of,
)
from even_beam.known import summary
from even_beam.known.choice import Entrant
from even_beam.known.summary import SummaryRow
from even_beam.known.verdict_words import failing_words, figure_words
from even_beam.known.verdicts import Answer, Judgement, Verdict
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
    """For each purpose a word, what surely speaks for the lamp and what against, and what was not read."""
    judged = [v for v in material.witness.verdicts(entrant) if not is_of_a_place(v.limits)]
    rows = [
        (Cell(one.purpose), told_of(one)[0], *(_limits(one, side) for side in _SIDES))
        for one in judged
        if any(j.value is not None for j in one.judgements)
    ]
    table = filled(["for", "", "speaks for it", "against it", "cannot be told", "not read"], rows)
    return Section("sides", "For and against", tables=(replace(table, set_left=True),) if table is not None else ())


_SIDES = (Answer.WITHIN, Answer.OUTSIDE, None, Answer.NOT_MEASURED)
"""The sides: met, not met, what the meter cannot tell, and what was not read."""


def _side(judged: Judgement) -> Answer | None:
    return judged.answer if judged.certain or judged.answer is Answer.NOT_MEASURED else None


def _limits(verdict: Verdict, side: Answer | None) -> Cell:
    """The limits on one side, each with its figure; those that are not met with the limit too."""
    own = [judged for judged in verdict.judgements if _side(judged) is side]
    if side is Answer.NOT_MEASURED:
        return Cell(", ".join(judged.label for judged in own), quiet=True)
    say = failing_words if side is Answer.OUTSIDE else _met
    return Cell(", ".join(map(say, own)), marked=side is Answer.OUTSIDE)


def _met(judged: Judgement) -> str:
    return f"{judged.label} {figure_words(judged)}"


def handling(material: Material, entrant: Entrant) -> Section:
    """What eye and ear said."""
    said = [
        Said(f"{_beside(material, entrant, seen)}{seen.sentence}.")
        for seen in material.observations
        if entrant.source_id in seen.source_ids
    ]
    return Section("handling", BY_EYE, tuple(dict.fromkeys(said)), setting=Setting.OPINION, narrow=True)


def _beside(material: Material, entrant: Entrant, seen: Observation) -> str:
    """The lamp that was looked at side by side with this one, before what was seen; empty for one that was alone."""
    others = [i for i in seen.source_ids if i != entrant.source_id]
    return f"Beside {material.collection.names_of(others)}: " if others else ""


BY_LAMP: Mapping[str, tuple[str, Build]] = {
    **page.PAGE,
    "figures": ("figures", figures),
    "output": ("output", light.output),
    "distance": ("a distance walk", light.walk),
    "dimming": ("dimming", light.dimming),
    "whites": ("white", colour.whites),
    "samples": ("each test colour", colour.samples),
    "modifiers": ("modifiers and gels", light.modifiers),
    "beam": ("the beam off its axis", light.beam),
    "repeats": ("repeats", topics.repeats),
    "topics": ("what else was found", topics.topics),
    "sides": ("for and against", sides),
    "handling": ("eye and ear", handling),
}
"""The sections on a lamp by their keys: what each is called where it has nothing to say, and what builds it."""
