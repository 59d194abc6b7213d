"""A lamp on one page: its answer, the terms once, five figures, four pictures, each white, what is claimed and what it
is good for."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from even_beam.answers.compare.pictures import pictures_of, strip_of
from even_beam.answers.compare.questions import Ask
from even_beam.answers.findings import glance_words
from even_beam.answers.findings.glance import AtWhite, Glance
from even_beam.bench.tolerances import is_of_a_place
from even_beam.figures.chart import Chart
from even_beam.figures.cone import cone_chart
from even_beam.figures.strip import Strip
from even_beam.figures.whites import landing_chart
from even_beam.handing_over.material import Material, exposed_at
from even_beam.handing_over.sections.rows import (
    NOTHING,
    Build,
    figure_of,
    found_named,
    says_more_than_one_figure,
    table_of,
)
from even_beam.known import summary
from even_beam.known.choice import Entrant, along
from even_beam.known.evidence import mean_of
from even_beam.known.findings.claims import ClaimVerdict, Even, Holds, figure_claimed
from even_beam.known.in_words import tint_side, white_side
from even_beam.known.summary import SummaryRow
from even_beam.known.verdict_words import reason_of
from even_beam.known.verdicts import Answer, Verdict
from even_beam.light.photometry import f_number_from_illuminance
from even_beam.paper.document import Cell, Number, Said, Section, Setting, Table
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

MOST_ROWS, MOST_OTHERS = 14, 6
"""So many whites and other settings have room on one page."""

MARKED_MIRED = 10.0
"""A white farther off than this is marked, where the meter can tell (common practice, no source)."""


def answer(material: Material, entrant: Entrant) -> Section:
    """What it is, in a few sentences."""
    said = [Said(text, readings) for text, readings in glance_words.sentences(material.glance(entrant))]
    return Section("answer", "", tuple(said), setting=Setting.ANSWER)


def terms(material: Material, entrant: Entrant) -> Section:
    """The terms that all of the page holds for, and what the meter can tell there."""
    glance = material.glance(entrant)
    line, tells = glance_words.terms_line(glance), glance_words.what_it_can_tell(glance)
    if not line:
        return Section("terms", "", setting=Setting.TERMS)
    said = [Said(f"{line}.", (), "Unless a line says otherwise")]
    said += [Said(f"{tells}.", (), "What the meter can tell")] if tells else []
    return Section("terms", "", tuple(said), setting=Setting.TERMS)


def numbers(material: Material, entrant: Entrant) -> Section:
    """Light, white, tint, colour and dimmer as five large figures."""
    found = glance_words.figures(material.glance(entrant), exposed_at(material.settings))
    return Section("numbers", "", numbers=tuple(Number(one.label, one.value, one.unit, one.lines) for one in found))


def charts(material: Material, entrant: Entrant) -> Section:
    """Where its whites land, what the dimmer does, what is in its light, how it renders the samples; its walk where one
    of them was not read."""
    glance = material.glance(entrant)
    scene = replace(material.scene(entrant), places={entrant.name: 0})
    landed = [
        (row.dialled_k, row.cct_k, row.error_mired)
        for row in glance.whites
        if row.dialled_k is not None and row.cct_k is not None and row.error_mired is not None
    ]
    drawn: list[Chart | Strip] = [landing_chart(entrant.name, landed[:MOST_LANDED])] if len(landed) > 1 else []
    named = {p.name: p.chart for ask in (Ask.BRIGHT, Ask.COLOURS) for p in pictures_of(ask, scene)}
    drawn += [
        replace(named[name], title=title)
        for name, title in _TITLES.items()
        if name in named and says_more_than_one_figure(named[name])
    ]
    strip = strip_of(scene, "how it renders the samples \N{MIDDLE DOT} R1 to R15")
    drawn += [strip] if not strip.empty else []
    return Section("charts", "", charts=tuple(one for one in drawn if not one.empty)[:MOST_CHARTS])


MOST_LANDED, MOST_CHARTS = 9, 4

_TITLES: Mapping[str, str] = {
    "dimmer": "what the dimmer does \N{MIDDLE DOT} stops below full level",
    "spectra": "what is in the light \N{MIDDLE DOT} relative to its peak",
    "distance": "how it falls off \N{MIDDLE DOT} lx times m\N{SUPERSCRIPT TWO}; level where the inverse square holds",
}


def each_white(material: Material, entrant: Entrant, most: int = MOST_ROWS) -> Section:
    """A row a white: what it gives there, how far off it is, and what to dial instead."""
    rows = material.glance(entrant).whites
    if len(rows) < 2 and not any(row.scores for row in rows):
        return Section("each-white", "At each white")
    scores = score_names(Use.TABLED)
    columns: list[tuple[str, Callable[[AtWhite], Cell]]] = [
        ("dialled", lambda r: Cell(f"{notation.dialled(r.dialled_k)} K" if r.dialled_k else "its own")),
        (f"light, {notation.light_unit()}", lambda r: Cell(notation.level_alone(r.lux))),
        ("white, K", lambda r: Cell(notation.white(r.cct_k))),
        ("off, mired", _off),
        ("tint, Duv", _tint),
        *((QUANTITIES[n].label, lambda r, n=n: Cell(notation.score(r.scores.get(n)))) for n in scores),
        ("dial this instead", lambda r: Cell(r.dial, marked=r.dial not in {"", "leave"}, quiet=r.dial == "leave")),
    ]
    table = table_of(columns, rows[:most], [row.readings for row in rows[:most]])
    if table is None:
        return Section("each-white", "At each white")
    left = len(rows) - most
    note = f"{left} more white{'s' * (left > 1)} were read: the full review has them." if left > 0 else ""
    return Section("each-white", "At each white", tables=(replace(table, note=note),))


def off_cell(mired: float | None, is_told: bool, cct_k: float) -> Cell:
    """How far a white is off what was dialled, as far as that can be told; the white itself where nothing was."""
    if mired is None:
        return Cell(f"{notation.white(cct_k)} K")
    if not is_told:
        return Cell("right")
    return Cell(f"{abs(mired):.0f} {white_side(mired)}", marked=abs(mired) > MARKED_MIRED)


def tint_cell(off: float, is_told: bool) -> Cell:
    """A tint and to which side, as far as that can be told."""
    if not is_told:
        return Cell("none to see")
    return Cell(f"{notation.number(abs(off), 3)} {tint_side(off)}", marked=True)


def _off(row: AtWhite) -> Cell:
    return NOTHING if row.cct_k is None else off_cell(row.error_mired, row.is_off, row.cct_k)


def _tint(row: AtWhite) -> Cell:
    return NOTHING if row.off is None else tint_cell(row.off, row.is_tinted)


def every_white(material: Material, entrant: Entrant) -> Section:
    """All of them."""
    return replace(each_white(material, entrant, len(material.glance(entrant).whites)), key="every-white")


def elsewhere(material: Material, entrant: Entrant, most: int = MOST_OTHERS) -> Section:
    """What else was read of it at full level: in another mode, with something on it, at another mark or evening."""
    glance, evidence = material.glance(entrant), material.witness.evidence(entrant)
    base = glance.base
    if base is None:
        return Section("elsewhere", "Otherwise")
    told = {i for row in glance.whites for i in row.readings}
    rows = [
        (row, evidence.apart(glance.own[row.readings[0]], base))
        for row in summary.headline_rows(entrant, material.collection.meters)
        if not told & set(row.readings) and row.readings[0] in glance.own
    ]
    rows = [(row, at) for row, at in rows if at and (row.figures or row.texts) and row.terms.level_pct in _full(glance)]
    columns: list[tuple[str, Callable[[tuple[SummaryRow, str]], Cell]]] = [
        ("", lambda r: Cell(r[1].removeprefix("at "))),
        (f"light, {notation.light_unit()}", lambda r: figure_of(r[0], "illuminance", notation.level_alone)),
        ("white, K", lambda r: figure_of(r[0], "cct", notation.white)),
        ("off, mired", _error_cell),
        *((QUANTITIES[n].label, lambda r, n=n: figure_of(r[0], n, notation.score)) for n in score_names(Use.TABLED)),
    ]
    table = table_of(columns, rows[:most], [row.readings for row, _ in rows[:most]])
    left = len(rows) - most
    note = f"{left} more setting{'s' * (left > 1)} in the full review." if left > 0 else ""
    return Section("elsewhere", "Otherwise", tables=(replace(table, note=note),) if table is not None else ())


def all_else(material: Material, entrant: Entrant) -> Section:
    """Every other setting that was read at full level."""
    return replace(elsewhere(material, entrant, len(entrant.readings)), key="all-else")


def _full(glance: Glance) -> set[float | None]:
    """The level that stands for the lamp, and none stated."""
    return {glance.base.terms.level_pct if glance.base is not None else None, None}


def _error_cell(pair: tuple[SummaryRow, str]) -> Cell:
    white = pair[0].white
    return NOTHING if white is None else off_cell(white.mired, white.certain, 0.0)


@dataclass(frozen=True, slots=True)
class _Mark:
    """What a lamp gives at a distance; `number` is the aperture that exposes by it."""

    metres: float
    lux: float
    number: float


def _marks(material: Material, entrant: Entrant) -> list[_Mark]:
    """The marks of its walk, as it usually stands; none for a lamp that was read at one."""
    row = material.glance(entrant).at
    if row is None or not row.lux:
        return []
    own = along(material.witness.evidence(entrant).readings, row.repeats[0], "distance")
    metres = sorted({m.terms.distance_m for m in own if m.terms.distance_m and m.value("illuminance")})
    settings, meter = material.settings, material.witness.evidence(entrant).meter_of(row.repeats[0])
    found = []
    for mark in metres[:MOST_MARKS] if len(metres) > 1 else []:
        lux = mean_of([m for m in own if m.terms.distance_m == mark], "illuminance")
        if lux:
            number = f_number_from_illuminance(lux, settings.iso, settings.shutter_s, meter.constant)
            found.append(_Mark(mark, lux, float(number)))
    return found


def distances(material: Material, entrant: Entrant) -> Section:
    """Its level along a walk, in lx, fc and stops of exposure."""
    units = ("fc", "lx") if notation.light_unit() == "fc" else ("lx", "fc")
    rows = tuple(
        (
            Cell(notation.distance(mark.metres)),
            *(Cell(notation.illuminance(mark.lux, unit)) for unit in units),
            Cell(notation.f_thirds(mark.number)),
        )
        for mark in _marks(material, entrant)
    )
    settings = material.settings
    head = ("distance", *units, f"stop at ISO {settings.iso}, {notation.seconds(settings.shutter_s)}")
    return Section("walked", "At each distance", tables=(Table(head, rows),) if rows else (), narrow=True)


def cone(material: Material, entrant: Entrant) -> Section:
    """Its beam from the side, to scale, where its angle was read."""
    marks = _marks(material, entrant)
    angle = next((f.value for f in found_named(material, entrant, "beam angle") if f.value), None)
    if not marks or angle is None:
        return Section("cone", "", narrow=True)
    told = [(mark.metres, notation.level(mark.lux)) for mark in marks]
    return Section("cone", "", charts=(cone_chart(told, angle),), narrow=True)


MOST_MARKS = 8


def claims(material: Material, entrant: Entrant) -> Section:
    """Each claim beside what was read, and what follows."""
    judged = material.witness.claims(entrant)
    rows = tuple(map(claim_row, judged))
    table = Table(("claimed", "measured", ""), rows)
    return Section("claims-in-short", "What is claimed", tables=(table,) if rows else (), narrow=True)


def claim_row(one: ClaimVerdict) -> tuple[Cell, ...]:
    """What is claimed, what was measured, and whether it holds."""
    claimed = " ".join(part for part in (notation.sentence(figure_claimed(one.claim)), one.claim.condition) if part)
    return (
        Cell(claimed),
        Cell(_measured(one), quiet=one.value is None),
        Cell(_HELD[one.holds], marked=one.holds is Holds.NO, quiet=one.holds is Holds.CANNOT_TELL),
    )


_HELD: Mapping[Holds, str] = {Holds.YES: "holds", Holds.NO: "fails", Holds.CANNOT_TELL: "open"}


def _measured(one: ClaimVerdict) -> str:
    if one.value is None:
        return _WHY_OPEN.get(one.even, "no single figure")
    half = f" ±{notation.half(one.uncertainty)}" if one.uncertainty else ""
    match one.claim.quantity:
        case "illuminance":
            return notation.level(one.value)
        case "cct":
            return f"{notation.white(one.value)} K"
        case name if name in score_names(Use.CLAIMED):
            decimals = 0 if (one.uncertainty or 0.0) >= 0.5 else 1
            return f"{notation.number(one.value, decimals)} ±{notation.number(one.uncertainty, decimals)}"
        case _:
            return f"{notation.significant(one.value)}{half} {one.claim.unit}".rstrip()


_WHY_OPEN: Mapping[Even, str] = {Even.NOT_MEASURED: "not read", Even.NOT_EQUAL: "not read at its terms"}


def purposes(material: Material, entrant: Entrant) -> Section:
    """What it is good for: yes, no or cannot tell, with the reason."""
    judged = [v for v in material.witness.verdicts(entrant) if not is_of_a_place(v.limits)]
    rows = tuple((Cell(v.purpose), *told_of(v)) for v in judged if any(j.value is not None for j in v.judgements))
    table = Table(("purpose", "", "why"), rows)
    return Section("purposes-in-short", "What it is good for", tables=(table,) if rows else (), narrow=True)


def told_of(verdict: Verdict) -> tuple[Cell, Cell]:
    """A word and the reason."""
    reason = reason_of(verdict)
    if verdict.answer is Answer.OUTSIDE and verdict.certain:
        return Cell("no", marked=True), Cell(reason)
    if reason:
        return Cell("open", quiet=True), Cell(reason, quiet=True)
    return Cell("yes"), Cell(f"all {len(verdict.judgements)} limits met")


PAGE: Mapping[str, tuple[str, Build]] = {
    "answer": ("what matters most", answer),
    "terms": ("the terms", terms),
    "numbers": ("five figures", numbers),
    "charts": ("pictures", charts),
    "each-white": ("each white", each_white),
    "every-white": ("each white", every_white),
    "all-else": ("other settings", all_else),
    "walked": ("other distances", distances),
    "elsewhere": ("other settings", elsewhere),
    "cone": ("the beam to scale", cone),
    "claims-in-short": ("claims", claims),
    "purposes-in-short": ("purposes", purposes),
}
"""The sections of a lamp's page by their keys."""
