"""Sections on a lamp's colour: its whites and bands, its scores and samples."""

from collections.abc import Callable

from even_beam.answers.compare.questions import Ask
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.rows import (
    MOST_SAID,
    NOTHING,
    charts_named,
    found_named,
    numbers_of,
    of_findings,
    said_of,
    table_of,
)
from even_beam.known.choice import Entrant
from even_beam.known.findings.colour import WEAK
from even_beam.known.findings.finding import Finding
from even_beam.paper.document import Cell, Section, Table
from even_beam.words import notation


def whites(material: Material, entrant: Entrant) -> Section:
    """Each white dialled against what came, and by bands."""
    found, said = of_findings(material, entrant, ("white error", "own white", "share of the way", "white of most"))
    tables = []
    for one in (f for f in found if f.name == "white error" and f.series):
        rows = list(
            zip(
                *(
                    numbers_of(one, name)
                    for name in ("dialled_k", "measured_k", "mired", "mired_half_width", "kelvin", "duv")
                ),
                strict=True,
            )
        )
        columns: list[tuple[str, Callable[..., Cell]]] = [
            ("dialled", lambda r: Cell(f"{notation.dialled(r[0])} K")),
            ("gives", lambda r: Cell(f"{notation.white(r[1])} K")),
            (
                "off, mired",
                lambda r: Cell(
                    f"{notation.number(r[2], 1, signed=True)} ±{notation.number(r[3], 1)}", abs(r[2]) > r[3]
                ),
            ),
            ("off, K", lambda r: Cell(notation.number(r[4], signed=True))),
            ("Duv", lambda r: NOTHING if r[5] is None else Cell(notation.duv(r[5]))),
        ]
        table = table_of(columns, rows)
        if table is not None:
            tables.append(Table(table.columns, table.rows, (), f"At {one.terms}."))
    bands = found_named(material, entrant, *(f"{metric} " for metric in _BANDED))
    by_band: dict[tuple[str, str], dict[str, Finding]] = {}
    for one in (f for f in bands if " to " in f.name and f.name.endswith(" K")):
        metric = next(m for m in _BANDED if one.name.startswith(f"{m} "))
        by_band.setdefault((one.name.removeprefix(f"{metric} "), one.terms), {})[metric] = one
    columns_of_bands: list[tuple[str, Callable[..., Cell]]] = [
        ("band", lambda r: Cell(f"{r[0][0]}, {r[0][1]}")),
        *((_BANDED[m], lambda r, m=m: _band(r[1].get(m), m)) for m in _BANDED),
    ]
    banded = table_of(columns_of_bands, list(by_band.items()))
    if banded is not None:
        tables.append(Table(banded.columns, banded.rows, (), "Means over the whites read in each band."))
    charts = charts_named(material, entrant, Ask.WHITE, "miss", "white-error")
    return Section("whites", "White", said, tuple(tables), charts if tables else ())


_BANDED = {
    "white error": "mired",
    "Duv": "Duv",
    "Ra": "Ra",
    "R9": "R9",
    "Rf": "Rf",
    "Rg": "Rg",
    "SSI": "SSI*",
    "TLCI": "TLCI",
}


def _band(finding: Finding | None, metric: str) -> Cell:
    if finding is None or finding.value is None:
        return NOTHING
    if metric == "white error":
        return Cell(notation.number(finding.value, 1, signed=True))
    return Cell(notation.duv(finding.value) if metric == "Duv" else notation.score(finding.value))


def colours(material: Material, entrant: Entrant) -> Section:
    """Scores against white, and the samples behind the weakest."""
    names = ("Ra", "R9", "Rf", "Rg", "SSI", "TLCI", "TLMF", "weakest", "skin", "R1", "mean of 15")
    found, _ = of_findings(material, entrant, names, "colour")
    said = said_of(material, entrant, [f for f in found if f.weight > 0 or "skin" in f.name])
    tables = []
    for one in (f for f in found if f.name == "weakest sample" and f.series):
        numbers, scores = numbers_of(one, "sample"), numbers_of(one, "R")
        head = tuple(f"R{number:.0f}" for number in numbers)
        row = tuple(Cell(notation.score(score), marked=score < WEAK) for score in scores)
        tables.append(Table(("at", *head), ((Cell(one.terms), *row),), (one.readings,)))
    charts = charts_named(material, entrant, Ask.COLOURS, "spectra", "samples")
    return Section("colours", "Colours", said[:MOST_SAID], tuple(tables), charts)
