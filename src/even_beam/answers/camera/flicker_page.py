"""A waveform as the station shows it, as plain values. May take a moment: ask in a worker."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from even_beam.answers.camera import films, flickering
from even_beam.answers.camera.flickering import Flickering
from even_beam.bench.planning.cautions import FLASHING
from even_beam.camera.shutter import CameraSees, FilmExposure
from even_beam.figures.chart import Chart
from even_beam.figures.waves import cycles_chart, level_chart, parts_chart
from even_beam.formats.errors import FormatError
from even_beam.formats.frames import is_film, rate_of
from even_beam.shell.line import Line
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class GridCell:
    """What one exposure shows: the greater of both per cents, its verdict and what is seen; all empty where it was not
    asked."""

    text: str = ""
    verdict: str = ""
    shows: str = ""


@dataclass(frozen=True, eq=False, slots=True)
class FlickerPage:
    """What is said of a waveform. `grid` is a row a frame rate and a column an exposure time, `cameras` the same; `at`
    is the place that is asked for: one's own camera, else the worst."""

    lines: tuple[Line, ...] = ()
    cycles: Chart | None = None
    parts: Chart | None = None
    rows: tuple[str, ...] = ()
    columns: tuple[str, ...] = ()
    grid: tuple[tuple[GridCell, ...], ...] = ()
    cameras: tuple[tuple[CameraSees | None, ...], ...] = ()
    at: tuple[int, int] = (0, 0)
    notes: tuple[str, ...] = ()
    found: Flickering | None = None

    @property
    def plain(self) -> str:
        """The answer as it is copied."""
        table = ["\t".join(("", *self.columns))]
        table += [
            "\t".join((name, *(f"{c.shows} {c.text}".strip() for c in cells)))
            for name, cells in zip(self.rows, self.grid, strict=True)
        ]
        return "\n".join([*(line.plain for line in self.lines), *self.notes, "", *table])


def flicker_page(path: Path | None, own: Sequence[FilmExposure] = (), mean: float | None = None) -> FlickerPage:
    """The waveform of a file, with the usual exposures and those that are asked. Raises `FormatError` and
    `CameraError`."""
    if path is None:
        return FlickerPage(
            (Line("Open a waveform of light: a table of time and light, a WAV file of a photodiode, or a film."),),
            notes=(
                flickering.mains_words(),
                FLASHING,
                "By eye: V keeps what you saw at a frame rate, a shutter and a level.",
            ),
        )
    if is_film(path):
        return _of_film(path, own[0].fps if own else rate_of(path))
    return page_of(flickering.flicker_file(path, (), mean), own)


def _of_film(path: Path, fps: float | None) -> FlickerPage:
    """A film: how its level beats from frame to frame, and its bands by row."""
    if fps is None:
        raise FormatError(f"{path.name}: how many frames a second? X says it, such as 25 fps; then open it again")
    seen = films.film_file(path, fps)
    first, *rest = films.sentences_of(seen)
    return FlickerPage(
        lines=(Line(f"{path.name}: {first}"), *(Line(one) for one in rest)),
        cycles=level_chart(path.name, np.arange(seen.levels.size) / fps, seen.levels),
        notes=(f"Taken as {notation.plain(fps, 3)} frames a second. {flickering.NOT_HEALTH}",),
    )


def page_of(found: Flickering, own: Sequence[FilmExposure] = ()) -> FlickerPage:
    """The page of a waveform. Raises `CameraError` for an exposure of one's own that it is too short for."""
    more = flickering.flickering(found.waveform, own).cameras if own and found.cameras else ()
    first, *rest = [*(flickering.one_camera(c, found.hz) for c in more), *flickering.sentences_of(found)]
    usual = found.cameras
    found = replace(found, cameras=(*more, *usual))
    readouts = sorted({c.exposure.fps for c in found.cameras})
    shutters = sorted({round(c.exposure.shutter_s, 9) for c in found.cameras}, reverse=True)
    by_place = {(c.exposure.fps, round(c.exposure.shutter_s, 9)): c for c in reversed(found.cameras)}
    cameras = tuple(tuple(by_place.get((fps, shutter)) for shutter in shutters) for fps in readouts)
    return FlickerPage(
        lines=(Line(first), *(Line(one) for one in rest)),
        cycles=cycles_chart(found.waveform, found.hz),
        parts=parts_chart(found.flicker.parts, relative=not found.waveform.steady_part),
        rows=tuple(f"{notation.plain(fps, 3)} fps" for fps in readouts),
        columns=tuple(flickering.shutter_words(shutter) for shutter in shutters),
        grid=tuple(tuple(_grid_cell(c) for c in row) for row in cameras),
        cameras=cameras,
        at=_asked_for(cameras, (*more, *usual)[: len(more) or None]),
        notes=(*(f"Note: {one}." for one in found.flicker.warnings), flickering.NOT_HEALTH),
        found=found,
    )


def _asked_for(grid: Sequence[Sequence[CameraSees | None]], asked: Sequence[CameraSees]) -> tuple[int, int]:
    """Where the worst of the exposures asked for stands."""
    places = {id(one): (i, j) for i, row in enumerate(grid) for j, one in enumerate(row)}
    worst = max((one for one in asked if id(one) in places), key=_worst, default=None)
    return places[id(worst)] if worst is not None else (0, 0)


def _worst(one: CameraSees) -> float:
    return max(one.band_depth_pct, one.frame_to_frame_pct)


def _grid_cell(one: CameraSees | None) -> GridCell:
    if one is None:
        return GridCell()
    worst = _worst(one)
    return GridCell(f"{worst:.1f}" if worst < 10.0 else f"{worst:.0f}", one.verdict, one.shows)
