"""The charts of lamps by their names, as pictures for films and articles."""

from collections.abc import Callable, Mapping
from pathlib import Path

from even_beam.figures.chart import Chart
from even_beam.figures.picture_renderer import picture
from even_beam.reports.page import write_bytes
from even_beam.workspace.compare.pictures import pictures_of
from even_beam.workspace.compare.questions import Ask
from even_beam.workspace.report.material import Material

_NAMES: Mapping[str, tuple[Ask, Callable[[Chart], bool]]] = {
    "levels": (Ask.BRIGHT, lambda chart: "each line one stop" in chart.title),
    "dimmer": (Ask.BRIGHT, lambda chart: chart.title.startswith("output against dimmer")),
    "distance": (Ask.BRIGHT, lambda chart: chart.title.startswith("distance")),
    "beam": (Ask.BRIGHT, lambda chart: "angle" in chart.x.label),
    "miss": (Ask.WHITE, lambda chart: chart.title.startswith("miss plot")),
    "chromaticity": (Ask.WHITE, lambda chart: chart.title.startswith("chromaticity")),
    "white-error": (Ask.WHITE, lambda chart: chart.title.startswith("mired off")),
    "tint": (Ask.WHITE, lambda chart: chart.title.startswith("tint, Duv")),
    "white-dimmer": (Ask.WHITE, lambda chart: chart.title.startswith("error against")),
    "tint-dimmer": (Ask.WHITE, lambda chart: chart.title.startswith("tint against")),
    "spectra": (Ask.COLOURS, lambda chart: chart.title.startswith("spectra")),
    "samples": (Ask.COLOURS, lambda chart: chart.title.startswith("R1")),
    "hues": (Ask.COLOURS, lambda chart: "hue by hue" in chart.title),
    "value": (Ask.WORTH, lambda chart: chart.title.startswith("candela")),
    "quality": (Ask.WORTH, lambda chart: chart.title.startswith("Ra against")),
}

CHARTS = tuple(_NAMES)
"""The names of all charts."""


class NoChartError(ValueError):
    """A chart for which nothing was read; the message says which there are."""


def charts_of(material: Material) -> dict[str, Chart]:
    """The charts that can be drawn of a material, by their names."""
    drawn = {ask: [p.chart for p in pictures_of(ask, material.scene())] for ask in Ask} if material.entrants else {}
    found = {}
    for name, (ask, is_it) in _NAMES.items():
        chart = next((one for one in drawn.get(ask, ()) if is_it(one)), None)
        if chart is not None:
            found[name] = chart
    return found


def terms_of(material: Material) -> str:
    """The terms that are burnt in: what the lamps share and what differs, and whether anything is simulated."""
    notes = [note.text for note in material.comparison.notes]
    parts = [note[:1].upper() + note[1:] for note in notes]
    simulated = {meter.id for meter in material.collection.meters.values() if meter.simulated}
    if any(m.reading.meter_id in simulated for entrant in material.entrants for m in entrant.readings):
        parts.append("Simulated readings")
    return ". ".join(parts)


def write_picture(material: Material, name: str, width: int, height: int, ground: str, path: Path) -> None:
    """A chart as a PNG or, by the file's suffix, SVG. Raises `NoChartError`, `ReportError`, and `ValueError` for a size
    or a ground that there is not."""
    charts = charts_of(material)
    if name not in charts:
        there = ", ".join(charts) or "none at all"
        raise NoChartError(f"nothing was read for the chart “{name}”; there are: {there}")
    form = "svg" if path.suffix.lower() == ".svg" else "png"
    write_bytes(path, picture(charts[name], terms_of(material), width, height, ground=ground, form=form))
