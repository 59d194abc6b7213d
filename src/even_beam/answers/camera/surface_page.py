"""A wall, and edges across it, as the station shows them, as plain values. May take a moment: ask in a worker."""

from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from even_beam.answers.camera.chart_page import PREVIEW_PX
from even_beam.answers.camera.surfaces import edge_sentences, wall_sentences
from even_beam.camera.edges import Edge, edge_along, wall_of
from even_beam.camera.errors import CameraError
from even_beam.camera.photo import Photograph
from even_beam.camera.sampling import Corners, made_small
from even_beam.figures.chart import Axis, Chart, Line, Rule
from even_beam.figures.scores import Rgb
from even_beam.figures.wall_picture import legend, wall_picture
from even_beam.formats.photo_file import read_photograph
from even_beam.light.adaptation import srgb_of_linear
from even_beam.shell import line

WALL_PX = 720


@dataclass(frozen=True, eq=False, slots=True)
class SurfacePage:
    """What is said of a photograph of a wall: how even it is, and of the edge that a line crosses.

    `preview` is a small one, `wall` the same in false colour, both of shape (h, w, 3), `bands` what its colours are.
    """

    lines: tuple[line.Line, ...] = ()
    notes: tuple[str, ...] = ()
    path: Path | None = None
    photo: Photograph | None = None
    preview: NDArray[np.uint8] | None = None
    wall: NDArray[np.uint8] | None = None
    bands: tuple[tuple[Rgb, str], ...] = ()
    across: Corners = ()
    profile: Chart | None = None
    of_wall: tuple[str, ...] = ()
    of_edge: tuple[str, ...] = ()

    @property
    def plain(self) -> str:
        """The answer as it is copied."""
        return "\n".join([*(one.plain for one in self.lines), *self.notes])


NOTHING = SurfacePage(
    (line.Line("Open a photograph of a plain wall, shot straight on, that one lamp lights."),),
    ("O opens it, or drop it here. E draws a line across a shadow or the cut of a door: its width, steps and fringe.",),
)


def surface_page(path: Path) -> SurfacePage:
    """A photograph of a wall. Raises `FormatError`."""
    photo = read_photograph(path)
    linear, _ = made_small(photo, PREVIEW_PX)
    width, height = photo.size
    page = SurfacePage(
        path=path,
        photo=photo,
        preview=np.round(255.0 * srgb_of_linear(linear)).astype(np.uint8),
        across=((0.3 * width, 0.5 * height), (0.7 * width, 0.5 * height)),
    )
    try:
        wall = wall_of(photo)
    except CameraError as error:
        return _told(replace(page, of_wall=(f"{str(error).removesuffix('.')}.",)))
    picture, bands = wall_picture(wall.stops, WALL_PX), legend(wall.stops)
    return _told(replace(page, wall=picture, bands=bands, of_wall=wall_sentences(wall)))


def edge_across(page: SurfacePage, across: Corners) -> SurfacePage:
    """The same with the edge that a line crosses. Raises `CameraError`."""
    if page.photo is None:
        raise CameraError("open a photograph first")
    (start, end) = across
    found = edge_along(page.photo, start, end)
    return _told(replace(page, across=tuple(across), profile=_profile(found), of_edge=edge_sentences(found)))


def _told(page: SurfacePage) -> SurfacePage:
    first, rest = (page.of_edge, page.of_wall) if page.of_edge else (page.of_wall, ())
    name = (page.path.name,) if page.path is not None else ()
    return replace(page, lines=tuple(line.Line(words) for words in first), notes=(*rest, *name))


def _profile(edge: Edge) -> Chart:
    top = max(1.05, 1.05 * float(edge.level.max()))
    length = float(edge.place[-1])
    ticks = tuple((length * n / 4.0, f"{length * n / 4.0:.0f}") for n in range(5))
    x = Axis("along the line, pixels", 0.0, length, ticks)
    y = Axis("light over the bright side", 0.0, top, ((0.0, "0"), (0.5, "0.5"), (1.0, "1")))
    dark = float(edge.level[-max(3, edge.level.size // 10) :].mean())
    marks = [Rule("y", dark + share * (1.0 - dark), dashed=True) for share in (0.1, 0.9)]
    summary = f"The light along the line: from 90 to 10 % of its fall over {edge.width_px:.0f} pixels."
    return Chart(
        "along the line, from the bright side; dashed: 10 and 90 % of the fall", x, y,
        (*marks, Line(edge.place.tolist(), edge.level.tolist())), summary,
    )  # fmt: skip
