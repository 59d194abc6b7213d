"""Sections on a lamp's colour: its whites and bands, its scores and samples."""

from collections.abc import Callable

from even_beam.answers.compare.questions import Ask
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.rows import (
    NOTHING,
    charts_named,
    filled,
    found_named,
    numbers_of,
    place_of,
    says_more_than_one_figure,
    table_of,
)
from even_beam.known.choice import Entrant
from even_beam.known.findings.colour import WEAK
from even_beam.known.findings.finding import Finding
from even_beam.paper.document import Cell, Section, Table
from even_beam.words import notation


def whites(material: Material, entrant: Entrant) -> Section:
    """Where each white lands beside what was dialled, and means by bands."""
    tables = []
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
    charts = charts_named(material, entrant, Ask.WHITE, "miss", "dimming")
    drawn = tuple(one for one in charts if says_more_than_one_figure(one))
    return Section("whites", "White, dialled and dimmed", tables=tuple(tables), charts=drawn)


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


def samples(material: Material, entrant: Entrant) -> Section:
    """The score of each test colour at every set of terms where all were read."""
    found = [f for f in found_named(material, entrant, "weakest sample") if f.series]
    if len(found) < 2:  # the strip of the page has the one
        return Section("samples", "Each test colour")
    numbers = sorted({number for one in found for number in numbers_of(one, "sample")})
    scores = [dict(zip(numbers_of(one, "sample"), numbers_of(one, "R"), strict=True)) for one in found]
    rows = [
        (
            Cell(place_of(material, entrant, one) or "at the terms above"),
            *(Cell(notation.score(own.get(number)), marked=own.get(number, WEAK) < WEAK) for number in numbers),
        )
        for one, own in zip(found, scores, strict=True)
    ]
    table = filled(["", *(f"R{number:.0f}" for number in numbers)], rows, [one.readings for one in found])
    return Section("samples", "Each test colour", tables=(table,) if table is not None else ())
