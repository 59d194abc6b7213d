"""Every lamp of a store in a line: what it gives, how far its white is off, and what makes it agree with the others."""

from even_beam.answers.match.agree import agree_cells, agree_lines, gel_spread, notes_on_all
from even_beam.answers.match.desk import Matched
from even_beam.bench.target import matches, off_words
from even_beam.figures.matching import matching_chart
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.page import off_cell, tint_cell
from even_beam.handing_over.sections.rows import MOST_LAMPS_IN_CHART, NOTHING, filled
from even_beam.known.choice import Entrant
from even_beam.known.matching.answer import Answer
from even_beam.paper.document import Cell, Said, Section
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

_COLUMNS = ("dial", "gels", "then")
"""What makes a lamp agree, and how far it is off then."""


def store(material: Material) -> Section:
    """All lamps, one below the other, against the white that most are asked for."""
    found = material.matched(material.common_white)
    matched = {} if found is None else {one.name: one for one in found.answers}
    level = f"light, {notation.light_unit()}"
    head = (
        "lamp",
        level,
        "at",
        "white, K",
        "off its dial",
        "tint, Duv",
        QUANTITIES["ra"].label,
        *_COLUMNS,
        "last read",
    )
    rows = [_row(material, entrant, matched.get(entrant.name)) for entrant in material.entrants]
    behind = [tuple(m.reading.id for m in entrant.readings) for entrant in material.entrants]
    table = filled(head, rows, behind)
    return Section(
        "store",
        "Every lamp, and what makes them agree",
        () if found is None else _said(found),
        (table,) if table is not None else (),
        (matching_chart(found.answers, found.target, material.scene().places),)
        if found is not None and len(found.answers) <= MOST_LAMPS_IN_CHART
        else (),
    )


def _said(found: Matched) -> tuple[Said, ...]:
    lines = [line.plain for line in agree_lines(found)[:1]]
    return tuple(map(Said, (f"Target: {found.target.words}.", *lines, *notes_on_all(found))))


def _row(material: Material, entrant: Entrant, matched: Answer | None) -> tuple[Cell, ...]:
    """A lamp as it usually stands, and what a match says of it."""
    row = material.glance(entrant).at
    days, metres = [m.reading.at for m in entrant.readings], None
    known = [NOTHING] * 6
    if row is not None and row.repeats:
        metres = row.repeats[0].terms.distance_m
        known = [
            Cell(notation.level_alone(row.lux)),
            Cell(notation.distance(metres) if row.lux and metres is not None else notation.NONE),
            Cell(notation.white(row.cct_k)),
            NOTHING if row.error_mired is None else off_cell(row.error_mired, row.is_off, row.cct_k or 0.0),
            NOTHING if row.off is None else tint_cell(row.off, row.is_tinted),
            Cell(notation.score(row.scores.get("ra"))),
        ]
    return (Cell(entrant.name), *known, *_agreed(matched), Cell(f"{max(days):%-d %b %Y}" if days else "never"))


def _agreed(matched: Answer | None) -> list[Cell]:
    if matched is None:
        return [NOTHING] * len(_COLUMNS)
    _, dial, gels, _, _ = (Cell(cell.text, cell.marked, cell.quiet) for cell in agree_cells(matched))
    stray = gel_spread(matched)
    if matches(*matched.left):
        return [dial, gels, Cell(f"agrees{stray}", quiet=matched.leaves)]
    return [dial, gels, Cell(f"{off_words(*matched.left, short=True)}{stray}", marked=True)]
