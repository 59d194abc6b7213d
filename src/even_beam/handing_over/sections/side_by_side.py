"""Sections on lamps side by side: the answers of Compare and Match, with their charts and sheets."""

from collections.abc import Callable, Mapping, Sequence

from even_beam.answers.compare.headline import lines_of
from even_beam.answers.compare.pictures import pictures_of, priced
from even_beam.answers.compare.questions import Ask, missing_of
from even_beam.answers.compare.sheet import sheet_of
from even_beam.answers.match.agree import agree_lines, agree_notes, agree_sheet, notes_on_all, pair_sheet
from even_beam.bench.measured import Measured
from even_beam.figures.chart import Chart
from even_beam.figures.matching import matching_chart
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.page import claim_row
from even_beam.handing_over.sections.rows import MOST_LAMPS_IN_CHART, filled
from even_beam.handing_over.sections.store_list import store
from even_beam.handing_over.sections.versus import VERSUS
from even_beam.known.choice import along
from even_beam.known.evidence import full_level, mean_of
from even_beam.known.findings.claims import Holds, figure_claimed
from even_beam.known.value import Priced
from even_beam.paper.document import Cell, Said, Section, Table
from even_beam.shell.sheet import NOTHING as BLANK
from even_beam.shell.sheet import Sheet
from even_beam.words import notation

Build = Callable[[Material], Section]

MOST_LINES = 8
"""So many lines answer a question on paper; the table below has the others."""


def _table(sheet: Sheet, behind: Mapping[str, Sequence[Measured]] | None = None) -> tuple[Table, ...]:
    """A sheet as a table of a report, with the readings behind each row."""
    rows = [tuple(Cell(cell.text, cell.marked, cell.quiet) for cell in cells) for _, _, cells in sheet.rows]
    readings = [tuple(m.reading.id for m in (behind or {}).get(key, ())) for key, _, _ in sheet.rows]
    table = filled(sheet.columns, rows, readings)
    if table is None:
        return ()
    if len(table.columns) <= MOST_COLUMNS:
        return (table,)
    return (_turned(table),) if len(rows) <= MOST_TURNED else _cut(table)


MOST_COLUMNS = 8
"""Beyond so many columns a table does not fit on a page in print that can be read: then lamps stand side by side, or it
is cut into several."""
MOST_TURNED = 5


def _cut(table: Table) -> tuple[Table, ...]:
    """The same in several, each with the lamps in its first column and without those that it says nothing of."""
    places = range(1, len(table.columns))
    found = []
    for start in range(0, len(places), MOST_COLUMNS - 1):
        own = (0, *places[start : start + MOST_COLUMNS - 1])
        rows = [tuple(row[place] for place in own) for row in table.rows]
        told = [row for row in rows if any(cell.text not in {"", notation.NONE} for cell in row[1:])]
        found.append(Table(tuple(table.columns[place] for place in own), tuple(told), (), "", set_left=True))
    return tuple(found)


def _turned(table: Table) -> Table:
    """The same with a column a lamp; the readings behind them stand with the other tables."""
    head = (table.columns[0], *(row[0].text for row in table.rows))
    rows = tuple(
        (Cell(name, quiet=True), *(row[place] for row in table.rows))
        for place, name in enumerate(table.columns)
        if place > 0
    )
    return Table(head, rows, (), table.note, set_left=True)


def _asked(key: str, ask: Ask, order: Callable[[Sheet], Sheet] = lambda sheet: sheet) -> Build:
    """A question of Compare: its answer, its charts, its sheet; nothing where it has no answer."""

    def build(material: Material) -> Section:
        scene = material.scene()
        if ask in missing_of(scene.comparison, [one.name for one in priced(scene)] if ask is Ask.WORTH else ()):
            return Section(key, str(ask))
        lines = tuple(Said(line.plain) for line in lines_of(ask, material.told(), MOST_LINES))
        behind = {e.key: (*e.readings, *e.colour) for e in scene.comparison.entries}
        sheet = order(sheet_of(ask, material.figures()))
        return Section(key, str(ask), lines, _table(sheet, behind), _charts(material, ask))

    return build


def _charts(material: Material, ask: Ask) -> tuple[Chart, ...]:
    """The charts of a question that can be read on paper with so many lamps."""
    charts = [picture.chart for picture in pictures_of(ask, material.scene())]
    few = len(material.entrants) <= MOST_LAMPS_IN_CHART
    return tuple(chart for chart in charts if few or chart.rows)[:MOST_CHARTS]


MOST_CHARTS = 4


def _by_score(sheet: Sheet) -> Sheet:
    """The best first, by the first score that there is; what has none last."""
    place = next((i for i, name in enumerate(sheet.columns) if name in {"Ra", "mean of 15", "Rf", "TLCI"}), None)
    if place is None:
        return sheet

    def rank(row: tuple[object, ...]) -> tuple[bool, float]:
        by = row[2][place].by  # type: ignore[index]
        return not isinstance(by, float), -by if isinstance(by, float) else 0.0

    return Sheet(sheet.columns, tuple(sorted(sheet.rows, key=rank)))


def distances(material: Material) -> Section:
    """Level of each lamp at every distance and white that were read, at the configuration they are compared in."""
    rows: list[tuple[str, str, float, dict[float | None, list[Measured]]]] = []
    for entrant in material.entrants:
        entry = material.comparison.entry(entrant.key)
        if entry is None or entry.first is None or entry.ratios_only:
            continue
        own = full_level([m for m in along(entrant.readings, entry.first, "distance", "cct") if m.value("illuminance")])
        by_distance: dict[float, dict[float | None, list[Measured]]] = {}
        for m in own:
            if m.terms.distance_m is not None:
                by_distance.setdefault(m.terms.distance_m, {}).setdefault(m.terms.cct_k, []).append(m)
        terms = material.witness.evidence(entrant).at(entry.first, "distance", "cct", "level")
        rows += [(entrant.name, terms, metres, found) for metres, found in sorted(by_distance.items())]
    whites = sorted({white for *_, found in rows for white in found if white is not None})
    own_white = any(None in found for *_, found in rows)
    if len(rows) < 2:
        return Section("distances", "Distances and whites")
    head = ("lamp", "distance", *(f"{notation.dialled(w)} K" for w in whites), *(("its own white",) * own_white))
    asked = [*whites, *([None] * own_white)]
    table = Table(
        head,
        tuple(
            (Cell(f"{name}, {terms}"), Cell(notation.distance(metres)), *(_mean(found.get(w, [])) for w in asked))
            for name, terms, metres, found in rows
        ),
        tuple(tuple(m.reading.id for ms in found.values() for m in ms) for *_, found in rows),
        f"{notation.light_unit()} at the highest level read there; means of repeats.",
    )
    return Section("distances", "Distances and whites", tables=(table,))


def _mean(readings: Sequence[Measured]) -> Cell:
    level = mean_of(readings, "illuminance")
    return Cell(notation.NONE, quiet=True) if level is None else Cell(notation.level_alone(level))


def gear(material: Material) -> Section:
    """What they are and cost, and what the difference in price is for."""
    known = priced(material.scene())
    sheet = sheet_of(Ask.WORTH, material.figures())
    if not known and not any(material.witness.evidence(entrant).claims for entrant in material.entrants):
        return Section("gear", "What they are and what they cost")
    charts = _charts(material, Ask.WORTH) if len(known) > 1 else ()
    said = tuple(Said(text) for text in price_sentences(known))
    return Section("gear", "What they are and what they cost", said, _table(sheet), charts[:2])


def price_sentences(known: Sequence[Priced]) -> list[str]:
    """Who gives most light and who least for a unit of price, each with what it needs."""
    told = sorted((worth, one.name, one.currency) for one in known if (worth := one.candela_per_price) is not None)
    if len(told) < 2:
        return []
    (least, dear, currency), (most, cheap, _) = told[0], told[-1]
    each = [f"{notation.significant(worth, 2)} cd" for worth in (most, least)]
    return [f"Per {currency} {cheap} gives most light ({each[0]}), {dear} least ({each[1]})."]


def claims(material: Material) -> Section:
    """Every claim that was checked, a row each: claimed, measured, mark; the others in a line a lamp."""
    rows, behind, said = [], [], []
    for entrant in material.entrants:
        judged = material.witness.claims(entrant)
        checked = [one for one in judged if one.value is not None or one.holds is not Holds.CANNOT_TELL]
        rows += [(Cell(entrant.name), *claim_row(one)) for one in checked]
        behind += [one.readings for one in checked]
        if unchecked := [figure_claimed(one.claim) for one in judged if one not in checked]:
            said.append(Said(f"Not checked of {entrant.name}: {notation.listed(unchecked)}."))
    table = (Table(("lamp", "claimed", "measured", ""), tuple(rows), tuple(behind)),) if rows else ()
    return Section("claims-table", "What is claimed and what holds", tuple(said), tables=table)


# --- matched


def corrections(material: Material) -> Section:
    """How far each source is off the target of the room, and what brings it there."""
    found = material.matched(material.target)
    if found is None:
        return Section("corrections", "Corrections")
    numbers = material.scene().places
    chart = matching_chart(found.answers, found.target, numbers)
    said = [Said(f"Target: {found.target.words}."), *(Said(line.plain) for line in agree_lines(found)[:1])]
    few = len(found.answers) <= MOST_LAMPS_IN_CHART
    said += [Said(text) for text in (agree_notes if few else notes_on_all)(found)]
    behind = {one.name: one.repeats for one in found.answers}
    sheet = agree_sheet(found, numbers)
    return Section("corrections", "Corrections", tuple(said), _table(sheet, behind), (chart,) if few else ())


def clashes(material: Material) -> Section:
    """The pairs that are farthest apart, as they are and after that."""
    found = material.matched(material.target)
    sheet = pair_sheet(found.pairs) if found is not None else Sheet()
    return Section("pairs", "In pairs", tables=_table(sheet))


def sources(material: Material) -> Section:
    """Every source as it was read: level, white and tint."""
    bright, white = (sheet_of(ask, material.figures()) for ask in (Ask.BRIGHT, Ask.WHITE))
    place = next((i for i, name in enumerate(bright.columns) if name.startswith(notation.light_unit())), None)
    if place is None:
        sheet = white
    else:
        levels = {key: cells[place] for key, _, cells in bright.rows}
        rows = tuple((key, n, (cells[0], levels.get(key, BLANK), *cells[1:])) for key, n, cells in white.rows)
        sheet = Sheet((white.columns[0], bright.columns[place], *white.columns[1:]), rows)
    behind = {e.key: (*e.readings, *e.colour) for e in material.comparison.entries}
    return Section("sources", "Sources", tables=_table(sheet, behind))


TOGETHER: Mapping[str, tuple[str, Build]] = {
    **VERSUS,
    "distances": ("several distances or whites", distances),
    "white": ("white", _asked("white", Ask.WHITE)),
    "colour": ("colours", _asked("colour", Ask.COLOURS, _by_score)),
    "gear": ("prices", gear),
    "claims-table": ("claims", claims),
    "sources": ("sources", sources),
    "store": ("lamps of the store", store),
    "corrections": ("whites to correct", corrections),
    "pairs": ("pairs of spectra", clashes),
}
"""The sections on lamps side by side by their keys: what each is called where it has nothing to say, and what builds
it."""
