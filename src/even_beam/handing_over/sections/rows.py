"""What sections of a lamp are made with: tables without empty columns, and the findings of a subject."""

from collections.abc import Callable, Sequence

from even_beam.answers.compare.pictures import pictures_of
from even_beam.answers.compare.questions import Ask
from even_beam.answers.findings import told
from even_beam.figures.chart import Chart, Line, Points
from even_beam.handing_over.material import Material
from even_beam.known.choice import Entrant
from even_beam.known.findings.finding import Finding
from even_beam.known.summary import SummaryRow
from even_beam.paper.document import Cell, Said, Section, Table
from even_beam.words import notation

Build = Callable[[Material, Entrant], Section]

MOST_LAMPS_IN_CHART = 12
"""Beyond so many lamps a chart of curves on paper cannot be read; the table tells."""

NOTHING = Cell(notation.NONE, quiet=True)

BY_EYE = "By eye and ear: an opinion, no measurement"

MOST_SAID = 8
"""So many sentences of one subject; the command line tells all."""


def figure_of(row: SummaryRow, name: str, say: Callable[[float], str]) -> Cell:
    """A figure of a lamp at one set of terms, or the bound that was typed."""
    if name in row.texts:
        return Cell(row.texts[name])
    value = row.figures.get(name)
    return NOTHING if value is None else Cell(say(value))


def table_of(
    columns: Sequence[tuple[str, Callable[..., Cell]]], rows: Sequence[object], behind: Sequence[tuple[str, ...]] = ()
) -> Table | None:
    """A table without the columns that no row has a figure for; None without any figure."""
    return filled([name for name, _ in columns], [tuple(make(row) for _, make in columns) for row in rows], behind)


def filled(
    columns: Sequence[str], rows: Sequence[tuple[Cell, ...]], behind: Sequence[tuple[str, ...]] = ()
) -> Table | None:
    """Rows as a table without the columns in which no row has a figure; None without any figure."""
    kept = [
        place
        for place in range(len(columns))
        if place == 0 or any(row[place].text not in {"", notation.NONE} for row in rows)
    ]
    if len(kept) < 2 or not rows:
        return None
    return Table(
        tuple(columns[place] for place in kept),
        tuple(tuple(row[place] for place in kept) for row in rows),
        tuple(behind),
    )


def of_findings(
    material: Material, entrant: Entrant, names: Sequence[str], question: str = ""
) -> tuple[list[Finding], tuple[Said, ...]]:
    """The findings whose names begin so, and the sentences of the weightiest, each once."""
    found = [
        f
        for f in material.witness.findings(entrant)
        if f.question == (question or f.question) and (not names or f.name.startswith(tuple(names)))
    ]
    return found, said_of(material, entrant, sorted(found, key=lambda f: -f.weight))[:MOST_SAID]


def said_of(material: Material, entrant: Entrant, findings: Sequence[Finding]) -> tuple[Said, ...]:
    """The sentences of findings, each once, as they stand below the terms of the lamp's page."""
    found = told.as_one(told.told_of(material.witness, entrant, findings))
    return tuple({one.in_block: Said(one.in_block, one.readings) for one in found}.values())


def place_of(material: Material, entrant: Entrant, finding: Finding) -> str:
    """What differs of a finding's terms from those of the lamp's page: at 3200 K; empty for none."""
    return told.told_of(material.witness, entrant, [finding])[0].differs


def charts_named(material: Material, entrant: Entrant, ask: Ask, *names: str) -> tuple[Chart, ...]:
    """The charts of a lamp alone that a question of Compare draws, by their names."""
    return tuple(p.chart for p in pictures_of(ask, material.scene(entrant)) if p.name in names)


def says_more_than_one_figure(chart: Chart) -> bool:
    """A single mark is a figure, not a picture."""
    return any(len(mark.x) > 1 for mark in chart.marks if isinstance(mark, Line | Points) and mark.series is not None)


def found_named(material: Material, entrant: Entrant, *names: str) -> list[Finding]:
    """The findings whose names begin so, in their order."""
    return [f for f in material.witness.findings(entrant) if f.name.startswith(names)]


def numbers_of(finding: Finding, name: str) -> tuple[float, ...]:
    """A series of figures behind a finding."""
    return finding.series.get(name, ())  # type: ignore[return-value]
