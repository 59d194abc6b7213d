"""The charts of lamps by their names, as pictures for films and articles."""

from pathlib import Path

from even_beam.answers.compare.pictures import pictures_of
from even_beam.answers.compare.questions import Ask
from even_beam.figures.chart import Chart
from even_beam.figures.picture_renderer import picture
from even_beam.files.writing import write
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections import light
from even_beam.handing_over.sections.store_list import store
from even_beam.paper.document import Section
from even_beam.paper.errors import ReportError
from even_beam.words import notation


class NoChartError(ReportError):
    """A chart for which nothing was read; the message says which there are."""


def charts_of(material: Material) -> dict[str, Chart]:
    """The charts that can be drawn of a material, by their names."""
    found: dict[str, Chart] = {}
    for ask in Ask if material.entrants else ():
        for picture_ in pictures_of(ask, material.scene()):
            found.setdefault(picture_.name, picture_.chart)  # of several of a name the first
    return {**found, **_beside(material)}


def _beside(material: Material) -> dict[str, Chart]:
    """What Compare does not draw: the match, and of each lamp its beam."""
    found: dict[str, Chart] = {}
    if match := _drawn(store(material)):
        found["match"] = match[0]
    for entrant in material.entrants:
        name = "beam" if len(material.entrants) == 1 else f"beam {entrant.name}"
        charts = _drawn(light.beam(material, entrant))
        found.update({name if not n else f"{name} {n + 1}": chart for n, chart in enumerate(charts)})
    return found


def _drawn(section: Section) -> list[Chart]:
    return [chart for chart in section.charts if isinstance(chart, Chart)]


def terms_of(material: Material) -> str:
    """The terms that are burnt in: what the lamps share and what differs, and whether anything is simulated."""
    parts = [notation.sentence(note.text) for note in material.comparison.notes]
    return ". ".join([*parts, *(["Simulated readings"] * bool(material.simulated))])


def write_picture(
    material: Material, name: str, width: int, height: int, ground: str, path: Path, *, over_others: bool = False
) -> None:
    """A chart as a PNG or, by the file's suffix, SVG. Raises `NoChartError`, `OutputError`, and `ValueError` for a size
    or a ground that there is not."""
    charts = charts_of(material)
    if name not in charts:
        there = ", ".join(charts) or "none at all"
        raise NoChartError(f"nothing was read for the chart “{name}”; there are: {there}")
    form = "svg" if path.suffix.lower() == ".svg" else "png"
    made = picture(charts[name], terms_of(material), width, height, ground=ground, form=form)
    write(path, made, over_others=over_others)
