"""What Compare shows, worked out without an interface: the table, and the pictures of each view."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

from even_beam.bench import compare, notation
from even_beam.bench.compare import At, Comparison, Entrant, Entry
from even_beam.bench.records import Meter
from even_beam.bench.words import white_tolerance_mired
from even_beam.figures.chart import Chart
from even_beam.figures.comparison import dimmer_chart, stop_ladder
from even_beam.figures.spectrum import Curve, Scaling, overlay_chart
from even_beam.light.photometry import stops

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


class View(StrEnum):
    """The pictures that Compare has."""

    OUTPUT = "output"
    DIMMER = "white, tint and score"
    SPECTRA = "spectra"


@dataclass(frozen=True, slots=True)
class Cell:
    """One cell of the table; `marked` for what stands out, `quiet` for what is only context."""

    text: str
    marked: bool = False
    quiet: bool = False


@dataclass(frozen=True, slots=True)
class TableRow:
    """One row: its name, and a cell a lamp."""

    name: str
    cells: tuple[Cell, ...]


MARKED_MIRED = 6.5
"""About 200 K at 5600 K: a white further off than this is marked, where the meter can tell."""
MARKED_DUV = 0.005
MARKED_RA = 90.0


def table(comparison: Comparison, entrants: Sequence[Entrant], meters: Mapping[str, Meter], unit: str) -> tuple[TableRow, ...]:  # fmt: skip
    """The figures of every lamp at the common terms."""
    entries = comparison.entries
    reference = next((e.name for e in entries if e.source_id == comparison.reference), "")
    asked = f"dialled {notation.dialled(comparison.at.cct_k)} K gives" if comparison.at.cct_k else "white"
    return (
        TableRow(
            f"illuminance, {unit}",
            tuple(Cell("ratios only" if e.ratios_only else notation.illuminance(e.illuminance, unit)) for e in entries),
        ),
        TableRow(f"against {reference}", tuple(_ratio_cell(e, comparison) for e in entries)),
        TableRow(asked, tuple(_white_cell(e, comparison, meters) for e in entries)),
        TableRow("tint, Duv", tuple(_tint_cell(e) for e in entries)),
        TableRow("Ra · R9", tuple(_scores_cell(e, "ra", "r9") for e in entries)),
        TableRow("Rf · SSI matched", tuple(_scores_cell(e, "rf", "ssi") for e in entries)),
        TableRow("lowest level read", tuple(_lowest_cell(e, comparison.at) for e in entrants)),
        TableRow("readings", tuple(Cell(_readings_text(e), quiet=True) for e in entries)),
    )


def _ratio_cell(entry: Entry, comparison: Comparison) -> Cell:
    if entry.source_id == comparison.reference:
        return Cell("reference", quiet=True)
    if entry.ratio is None or entry.ratio_stops is None:
        return Cell("not comparable" if entry.readings else notation.NONE, marked=bool(entry.readings))
    if entry.tie:
        return Cell(f"a tie ({notation.stops(entry.ratio_stops)})")
    return Cell(f"{notation.stops(entry.ratio_stops)} stop{'' if abs(entry.ratio_stops) < 1 else 's'} · {notation.times(entry.ratio)}× · {notation.percent(100.0 * entry.ratio)} %")  # fmt: skip


def _white_cell(entry: Entry, comparison: Comparison, meters: Mapping[str, Meter]) -> Cell:
    if entry.cct_k is None:
        return Cell(notation.NONE, quiet=True)
    if entry.white is None:
        return Cell(f"{notation.kelvin(entry.cct_k)} K, fixed")
    error = entry.white
    meter = meters.get(entry.readings[0].reading.meter_id or "")
    marked = error.certain and abs(error.mired) > max(MARKED_MIRED, white_tolerance_mired(entry.cct_k, meter))
    return Cell(f"{notation.kelvin(entry.cct_k)} K  {notation.number(error.mired, 1, signed=True)} mired", marked)


def _tint_cell(entry: Entry) -> Cell:
    duv = entry.figures.get("duv")
    return Cell(notation.duv(duv), marked=duv is not None and abs(duv) > MARKED_DUV, quiet=duv is None)


def _scores_cell(entry: Entry, first: str, second: str) -> Cell:
    a, b = entry.figures.get(first), entry.figures.get(second)
    return Cell(
        f"{notation.score(a)} · {notation.score(b)}",
        marked=first == "ra" and a is not None and a < MARKED_RA,
        quiet=a is None,
    )


def _lowest_cell(entrant: Entrant, at: At) -> Cell:
    series = compare.against_dimmer([entrant], at, "stops")[0]
    if len(set(series.levels_pct)) < 2:
        return Cell("not measured", quiet=True)
    level, value = min(zip(series.levels_pct, series.values, strict=True))
    asked = stops(level / max(series.levels_pct))
    text = f"{notation.percent(level)} % gives {notation.stops(value)} stops"
    return Cell(text, marked=value - float(asked) > 1.0)


def _readings_text(entry: Entry) -> str:
    if not entry.readings:
        return "none at these terms"
    when = max(m.reading.at for m in entry.readings)
    return f"{len(entry.readings)}, {when:%-d %b %Y}"


def charts(view: View, comparison: Comparison, entrants: Sequence[Entrant], logbook: "Logbook", scaling: Scaling) -> tuple[Chart, ...]:  # fmt: skip
    """The pictures of a view."""
    at = comparison.at
    if view is View.OUTPUT:
        return stop_ladder(comparison), dimmer_chart(compare.against_dimmer(entrants, at, "stops"), "stops")
    if view is View.DIMMER:
        return tuple(dimmer_chart(compare.against_dimmer(entrants, at, q), q) for q in ("mired", "duv", "ra"))
    first = {e.source_id: e.readings[0].reading.id for e in comparison.entries if e.readings}
    spectra = logbook.spectra(first.values())
    order = {e.source_id: i for i, e in enumerate(comparison.entries)}
    names = {e.source_id: e.name for e in comparison.entries}
    curves = [Curve(spectra[r], order[s], names[s]) for s, r in first.items() if r in spectra]
    return (overlay_chart(curves, scaling),)
