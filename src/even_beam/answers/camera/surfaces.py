"""Edges of shadows and beams, and walls, in photographs: what is said of them, and as plain values."""

from pathlib import Path
from typing import Any

import numpy as np

from even_beam.camera.edges import Edge, Wall, edge_along, wall_of
from even_beam.formats.errors import FormatError
from even_beam.formats.photo_file import read_photograph

Point = tuple[float, float]

FRINGE_LEAST = 0.004
"""A fringe of less in u', v' is none that anybody sees (common practice, no source)."""


def line_in(text: str) -> tuple[Point, Point]:
    """A line as `x,y;x,y` in pixels. Raises `FormatError`."""
    try:
        (a, b), (c, d) = ((float(part) for part in point.split(",")) for point in text.split(";"))
    except ValueError as error:
        raise FormatError(f"“{text}” is no line; write x,y;x,y in pixels") from error
    return (a, b), (c, d)


def edge_file(path: Path, line: tuple[Point, Point]) -> Edge:
    """The edge that a line crosses in a photograph. Raises `FormatError` and `CameraError`."""
    return edge_along(read_photograph(path), *line)


def wall_file(path: Path) -> Wall:
    """The wall of a photograph. Raises `FormatError` and `CameraError`."""
    return wall_of(read_photograph(path))


def edge_json(one: Edge) -> dict[str, Any]:
    """An edge as plain values (docs/file-format.md)."""
    return {
        "width_px": one.width_px,
        "steps": one.steps,
        "fringe_uv": one.fringe_uv,
        "fringe_colour": one.fringe if one.fringe_uv >= FRINGE_LEAST else None,
        "contrast_stops": one.contrast_stops,
        "place_px": [float(v) for v in one.place],
        "level": [float(v) for v in one.level],
    }


def edge_sentences(one: Edge) -> tuple[str, ...]:
    """What an edge says, the most important first."""
    steps = "in one go" if one.steps <= 1 else f"in {one.steps} steps: a shadow of more than one edge"
    found = [f"The light falls by {one.contrast_stops:.1f} stops over {one.width_px:.0f} pixels (10 to 90 %), {steps}."]
    if one.fringe_uv >= FRINGE_LEAST:
        found.append(f"A fringe towards {one.fringe}: {one.fringe_uv:.3f} in u', v' from the bright side.")
    else:
        found.append("No colour fringe that anybody sees.")
    return tuple(found)


def wall_json(one: Wall) -> dict[str, Any]:
    """A wall as plain values (docs/file-format.md)."""
    return {"evenness_pct": 100.0 * one.share, "stops": [[float(v) for v in row] for row in one.stops]}


def wall_sentences(one: Wall) -> tuple[str, ...]:
    """What a wall says."""
    rows, columns = one.stops.shape
    row, column = np.unravel_index(int(one.stops.argmax()), one.stops.shape)
    across = ("left", "middle", "right")[min(int(3 * column / columns), 2)]
    down = ("upper", "middle", "lower")[min(int(3 * row / rows), 2)]
    where = "the middle" if across == down == "middle" else f"the {down} {across}"
    return (
        f"The darkest part has {100.0 * one.share:.0f} % of the light of the brightest, {-float(one.stops.min()):.1f}"
        f" stops below it; the brightest is {where}. The lens's own fall-off is in it.",
    )
