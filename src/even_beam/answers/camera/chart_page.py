"""Photographs of a chart as the station shows them, as plain values. May take a moment: ask in a worker."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from even_beam.answers.camera import charts
from even_beam.camera.chart import ColourChart, chart_24
from even_beam.camera.chart_comparison import ChartDifference, ChartReading, difference, read_chart
from even_beam.camera.errors import CameraError
from even_beam.camera.photo import Photograph
from even_beam.camera.sampling import Corners, made_small
from even_beam.figures.chart import Chart
from even_beam.figures.patches import PatchPair
from even_beam.figures.patches_apart import apart_chart
from even_beam.figures.scores import rgb_of
from even_beam.formats.photo_file import read_photograph
from even_beam.light.adaptation import srgb_of_linear
from even_beam.light.subjects import in_order
from even_beam.shell.line import Line
from even_beam.shell.sheet import NOTHING, Cell, Sheet, figure_cell
from even_beam.words import notation

PREVIEW_PX = 1200


@dataclass(frozen=True, eq=False, slots=True)
class Shot:
    """A photograph of a chart: a small one to look at, shape (h, w, 3), its scale, and the chart, or why it is not
    there."""

    path: Path
    photo: Photograph
    preview: NDArray[np.uint8]
    scale: float
    reading: ChartReading | None
    problem: str = ""

    @property
    def name(self) -> str:
        """What it is called."""
        return self.path.name

    @property
    def corners(self) -> Corners:
        """Where the chart is, or the middle of the picture, to be moved from there."""
        if self.reading is not None:
            return self.reading.corners
        width, height = self.photo.size
        return [(width * x, height * y) for x, y in ((0.25, 0.25), (0.75, 0.25), (0.75, 0.75), (0.25, 0.75))]


def read_shot(path: Path, chart: ColourChart | None = None) -> Shot:
    """A photograph with its chart, where one is found. Raises `FormatError`."""
    return shot_of(path, read_photograph(path), chart)


def shot_of(path: Path, photo: Photograph, chart: ColourChart | None = None) -> Shot:
    """A photograph that was read, with its chart, where one is found."""
    linear, scale = made_small(photo, PREVIEW_PX)
    preview = np.round(255.0 * srgb_of_linear(linear)).astype(np.uint8)
    return placed(Shot(path, photo, preview, scale, None), None, chart)


def placed(shot: Shot, corners: Corners | None, chart: ColourChart | None = None) -> Shot:
    """The same photograph with its corners placed, or found where there are none."""
    try:
        return replace(shot, reading=read_chart(shot.photo, chart or chart_24(), corners), problem="")
    except CameraError as error:
        return replace(shot, reading=None, problem=str(error))


@dataclass(frozen=True, eq=False, slots=True)
class ChartPage:
    """What is said of photographs against their benchmark, the one under the cursor in detail."""

    lines: tuple[Line, ...] = ()
    sheet: Sheet = field(default_factory=Sheet)
    pairs: tuple[PatchPair, ...] = ()
    chart: Chart | None = None
    notes: tuple[str, ...] = ()
    difference: ChartDifference | None = None

    @property
    def plain(self) -> str:
        """The answer as it is copied."""
        return "\n".join([*(line.plain for line in self.lines), *self.notes, "", self.sheet.plain])


def chart_page(
    shots: Sequence[Shot], benchmark: Path | None, at: Path | None, *, balanced: bool, repeats: bool = False
) -> ChartPage:
    """Photographs against the benchmark among them."""
    known = next((shot for shot in shots if shot.path == benchmark), None)
    here = next((shot for shot in shots if shot.path == at), None)
    if known is None:
        return ChartPage(
            (Line("Open a photograph of a colour chart under a benchmark, and others under lamps."),),
            notes=(
                "O opens them, or drop them here. Flash, sun or tungsten serve. Lock exposure and balance; keep chart"
                " and camera where they are.",
            ),
        )
    if known.reading is None:
        return ChartPage((Line(f"{notation.sentence(known.problem)}."),), notes=("C places the corners by hand.",))
    others = [shot for shot in shots if shot.reading is not None and shot is not known]
    found = {}
    problems = [shot.problem for shot in shots if shot.reading is None]
    readings = [shot.reading for shot in others if shot.reading is not None]
    for shot in others:
        assert shot.reading is not None
        rest = [one for one in readings if repeats and one is not shot.reading]
        try:
            found[shot.path] = difference(shot.reading, known.reading, rest)
        except CameraError as error:
            problems.append(str(error))
    one = found.get(here.path) if here is not None else None
    one = one if one is not None else next(iter(found.values()), None)
    lines = _chart_lines(one, known, here)
    return ChartPage(
        lines=lines,
        sheet=_chart_sheet(list(found.values())),
        pairs=_pairs(one, balanced=balanced) if one is not None else (),
        chart=apart_chart(one, balanced=balanced) if one is not None else None,
        notes=tuple(f"Note: {note}." for note in (*(one.warnings if one is not None else ()), *problems)),
        difference=one,
    )


def _chart_lines(one: ChartDifference | None, known: Shot, here: Shot | None) -> tuple[Line, ...]:
    if one is None:
        return (Line(f"{known.name} is the benchmark.", "Open photographs of the same chart under lamps."),)
    if here is known:
        return (Line(f"{known.name} is the benchmark.", "↓ goes to the photographs under lamps."),)
    first, *rest = charts.sentences_of(one, known.name)
    return (Line(first), *((Line(rest[0], " ".join(rest[1:])),) if rest else ()))


def _chart_sheet(found: Sequence[ChartDifference]) -> Sheet:
    rows = []
    for place, one in enumerate(sorted(found, key=lambda d: d.mean_balanced)):
        skin, worst = one.of_skin(), one.worst
        light = one.reading.light
        rows.append(
            (
                one.reading.name,
                None,
                (
                    Cell(one.reading.name, by=str(place)),
                    figure_cell(f"{one.mean_balanced:.1f}", one.mean_balanced),
                    figure_cell(f"{one.mean_as_shot:.1f}", one.mean_as_shot),
                    figure_cell(f"{skin[0]:.1f}", skin[1]) if skin is not None else NOTHING,
                    Cell(f"{worst[0]} {worst[1]:.1f}", by=worst[1]) if worst is not None else NOTHING,
                    NOTHING if one.level_stops is None else Cell(notation.stops(one.level_stops), by=one.level_stops),
                    figure_cell(f"{100.0 * light.share:.0f} %", light.share) if light is not None else NOTHING,
                    Cell(str(sum(map(bool, one.reading.sampled.skipped))), quiet=True),
                ),
            )
        )
    columns = ("photograph", "balanced", "as shot", "skin", "furthest", "stops", "darkest part", "left out")
    return Sheet(columns, tuple(rows)) if rows else Sheet()


def _pairs(one: ChartDifference, *, balanced: bool) -> tuple[PatchPair, ...]:
    """The patches of both photographs at equal exposure, as a display shows them, in the order of subjects."""
    place = 1 if balanced else 0
    lamp, known = (rgb_of(srgb_of_linear(np.nan_to_num(side[place]))) for side in (one.colours, one.benchmark))
    off = one.balanced if balanced else one.as_shot
    names = [patch.name for patch in one.reading.chart.patches]
    return tuple(
        PatchPair(names[k], known[k], lamp[k], float(np.nan_to_num(off[k])), left_out=not np.isfinite(off[k]))
        for k in in_order(names)
    )
