"""Lamps against each other: the answer, what is alike and what is not, ranked bars, one table with the best in bold,
where each white lands and which colours suffer, and what each is good for, with the reason."""

from collections.abc import Callable, Mapping
from dataclasses import replace

from even_beam.answers.compare.in_short import alike_of, in_short
from even_beam.answers.compare.judged import judged_of
from even_beam.answers.compare.pictures import patches_of, pictures_of, priced, strip_of
from even_beam.answers.compare.questions import Ask
from even_beam.answers.spectrum.patches import Against, Seen
from even_beam.bench import terms_in_words
from even_beam.bench.tolerances import is_of_a_place
from even_beam.figures.chart import Chart
from even_beam.figures.ranking import ranked_bars
from even_beam.figures.strip import Strip
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.page import off_cell, tint_cell
from even_beam.handing_over.sections.rows import MOST_LAMPS_IN_CHART, NOTHING, filled
from even_beam.known.comparison import Entry
from even_beam.known.findings.electrical import watts_of
from even_beam.known.findings.tint import off_reference
from even_beam.paper.document import Cell, Said, Section, Setting, Table
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

Build = Callable[[Material], Section]


def answer(material: Material) -> Section:
    """Which is brightest, whose white and tint are off."""
    glances = [material.glance(entrant) for entrant in material.entrants]
    said = tuple(Said(text, readings) for text, readings in in_short(material.scene(), glances))
    return Section("in-short", "", said, setting=Setting.ANSWER)


def alike(material: Material) -> Section:
    """What is alike for all, and what is not, once."""
    if len(material.entrants) < 2:
        return Section("alike", "", setting=Setting.TERMS)
    said = tuple(Said(text, (), heading) for heading, text in alike_of(material.comparison))
    return Section("alike", "", said, setting=Setting.TERMS)


def ranked(material: Material) -> Section:
    """How bright, a bar a lamp on a grid of stops."""
    chart = ranked_bars(material.comparison, material.scene().places)
    return Section("ranked", "", charts=() if chart.empty else (chart,))


def side_by_side(material: Material) -> Section:
    """One table: level, white, tint, scores, dimmer, price and power, the best of each in bold."""
    found = material.comparison
    prices = {one.name: one for one in priced(material.scene())}
    where = f" at {notation.distance(found.distance_m)}" if found.distance_m is not None else ""
    scores = [n for n in score_names(Use.TABLED) if any(n in e.figures for e in found.entries)]
    dimmed = {g.entrant.key: g.dimmed for g in map(material.glance, material.entrants)}
    lowest = {key: None if one is None else float(f"{one.gives_pct:.2g}") for key, one in dimmed.items()}
    watts = {e.key: _watts(material, e) for e in found.entries}
    columns: list[tuple[str, Callable[[Entry], Cell], Callable[[Entry], float | None]]] = [
        ("lamp", lambda e: Cell(_named(e)), lambda e: None),
        (
            f"{notation.light_unit()}{where}",
            lambda e: Cell(notation.level_alone(e.illuminance)) if e.illuminance else NOTHING,
            lambda e: e.illuminance,
        ),
        (f"stops from {_reference(material)}", lambda e: _stops(e, found.reference), lambda e: None),
        ("white, mired", _white, lambda e: None),
        ("tint, Duv", _tint, lambda e: None),
        *(
            (
                QUANTITIES[n].label,
                lambda e, n=n: Cell(notation.score(e.figures.get(n))),
                lambda e, n=n: _printed(e.figures.get(n)),
            )
            for n in scores
        ),
        (
            "dims to",
            lambda e: _percent(lowest[e.key]),
            lambda e: None if (share := lowest[e.key]) is None else -share,
        ),
        (
            "price",
            lambda e: Cell(f"{notation.plain(p.price, 0)} {p.currency}") if (p := prices.get(e.name)) else NOTHING,
            lambda e: -p.price if (p := prices.get(e.name)) else None,
        ),
        (
            "draws",
            lambda e: Cell(f"{w:.0f} W") if (w := watts[e.key]) else NOTHING,
            lambda e: -w if (w := watts[e.key]) else None,
        ),
    ]
    entries = sorted(found.entries, key=lambda e: -(e.illuminance or 0.0))
    best = [_best([by(e) for e in entries]) for _, _, by in columns]
    cells = [
        tuple(
            replace(make(e), strong=top is not None and by(e) == top)
            for top, (_, make, by) in zip(best, columns, strict=True)
        )
        for e in entries
    ]
    behind = [tuple(m.reading.id for m in (*e.readings, *e.colour)) for e in entries]
    table = filled([head for head, _, _ in columns], cells, behind)
    note = "The best of each is bold."
    return Section("side-by-side", "Side by side", tables=(replace(table, note=note),) if table is not None else ())


def _reference(material: Material) -> str:
    entry = material.comparison.entry(material.comparison.reference)
    return entry.name if entry is not None else "the first"


def _white(entry: Entry) -> Cell:
    if entry.cct_k is None:
        return NOTHING
    error = entry.white
    return off_cell(error.mired if error is not None else None, error is not None and error.certain, entry.cct_k)


def _tint(entry: Entry) -> Cell:
    duv = entry.figures.get("duv")
    if duv is None or entry.cct_k is None:
        return NOTHING
    off = off_reference(duv, entry.cct_k)
    return tint_cell(off, abs(off) > entry.half_widths.get("duv", 0.0))


def _printed(score: float | None) -> float | None:
    """A score as it is printed, so that two that look alike are both the best."""
    return None if score is None else round(score)


def _best(values: list[float | None]) -> float | None:
    """The best of several, none where there is nothing to be better than."""
    known = [value for value in values if value is not None]
    return max(known) if len(known) > 1 and len(set(known)) > 1 else None


def _named(entry: Entry) -> str:
    on_it = terms_in_words.configuration(entry.first.terms) if entry.first is not None and entry.is_fixture else ""
    return ", ".join(part for part in (entry.name, on_it) if part)


def _percent(share: float | None) -> Cell:
    return NOTHING if share is None else Cell(f"{notation.percent(share)} %")


def _stops(entry: Entry, reference: str) -> Cell:
    if entry.key == reference:
        return Cell("reference", quiet=True)
    if entry.ratio_stops is None:
        return NOTHING
    if entry.tie:
        return Cell("level" if entry.level_with else "cannot tell")
    return Cell(notation.number(entry.ratio_stops, 1, signed=True))


def _watts(material: Material, entry: Entry) -> float | None:
    entrant = next(e for e in material.entrants if e.key == entry.key)
    return max((w for m in entrant.readings if (w := watts_of(m)) is not None), default=None)


def landed_and_colours(material: Material) -> Section:
    """Where each white lands, and which samples suffer."""
    if not material.entrants:
        return Section("landed", "")
    scene = material.scene()
    plots = [p.chart for p in pictures_of(Ask.WHITE, scene) if p.name == "miss"]
    title = "where each white lands \N{MIDDLE DOT} inside the ring: 10 mired and 0.003"
    few = len(material.entrants) <= MOST_LAMPS_IN_CHART
    drawn: list[Chart | Strip] = [replace(chart, title=title) for chart in plots if few]
    strip = strip_of(scene, "which colours suffer \N{MIDDLE DOT} R1 to R15")
    drawn += [strip] if not strip.empty else []
    return Section("landed", "", charts=tuple(one for one in drawn if not one.empty))


def purposes(material: Material) -> Section:
    """Good enough for what, with the reason in the cell."""
    if not material.entrants:
        return Section("purposes", "Good enough?")
    names = [one.name for one in material.witness.tolerance_sets() if not is_of_a_place(one.limits)]
    judged = [judged_of(material.witness, material.entrants, name, material.comparison) for name in names]
    asked = [one for one in judged if any(lamp.word != "not measured" for lamp in one.lamps)]
    if not asked:
        return Section("purposes", "Good enough?")
    cells = [[_cell_of(lamp.word, lamp.reason) for lamp in one.lamps] for one in asked]
    lamps, wanted = [e.name for e in material.entrants], [one.purpose for one in asked]
    if len(lamps) <= MOST_ACROSS:
        rows = tuple((Cell(name), *own) for name, own in zip(wanted, cells, strict=True))
        table = Table(("for", *lamps), rows, set_left=True)
    else:
        rows = tuple((Cell(name), *own) for name, own in zip(lamps, zip(*cells, strict=True), strict=True))
        table = Table(("lamp", *wanted), rows, set_left=True)
    return Section("purposes", "Good enough?", tables=(table,))


MOST_ACROSS = 4
"""So many lamps stand side by side; more stand one below the other."""


def _cell_of(word: str, reason: str) -> Cell:
    if word == "yes":
        return Cell("yes")
    if word == "no":
        return Cell(f"no: {reason}", marked=True)
    return Cell(reason or word, quiet=True)


def patches(material: Material) -> Section:
    """Subjects under each lamp beside the same under its own reference light, as an eye used to both sees them."""
    sets = patches_of(material.scene(), Against.OWN_REFERENCE, Seen.EYE)
    return Section("patches", "As an eye sees them", charts=sets)


VERSUS: Mapping[str, tuple[str, Build]] = {
    "patches": ("split patches", patches),
    "in-short": ("what matters most", answer),
    "alike": ("what is alike", alike),
    "ranked": ("level", ranked),
    "side-by-side": ("figures", side_by_side),
    "landed": ("whites and colours", landed_and_colours),
    "purposes": ("a purpose", purposes),
}
"""The sections on lamps against each other by their keys."""
