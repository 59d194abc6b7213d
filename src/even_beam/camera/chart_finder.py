"""Where a chart lies in a photograph: squares that stand in a grid, turned so that its colours fit."""

from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np

from even_beam.camera.chart import PATCH_OF_PITCH, ColourChart
from even_beam.camera.errors import CameraError
from even_beam.camera.photo import Photograph, Stored
from even_beam.camera.sampling import Corners, box, homography, made_small, project
from even_beam.light import FloatArray
from even_beam.light.adaptation import srgb_of_linear

LONG_SIDE = 1200
"""A photograph is looked through at so many pixels of its longer side."""

LEAST_SIDE, LEAST_SQUARES, LEAST_LIKENESS = 7.0, 8, 0.8
"""The smallest patch in pixels, the fewest of a chart that must be seen, and how like its colours
must be (correlation)."""


@dataclass(frozen=True, eq=False, slots=True)
class _Square:
    centre: FloatArray
    across: FloatArray
    down: FloatArray

    @property
    def side(self) -> float:
        return float(np.sqrt(np.hypot(*self.across) * np.hypot(*self.down)))


def find_corners(photo: Photograph, chart: ColourChart) -> tuple[tuple[float, float], ...]:
    """The outer corners of the field of patches in pixels, clockwise from the first patch.

    Raises `CameraError` where none is found, or where the chart's patches do not stand in a grid.
    """
    if chart.columns < 3 or chart.rows < 2:
        raise CameraError(f"the chart “{chart.name}” cannot be found by its grid: place its corners")
    small, scale = _small(photo)
    squares = _squares(small)
    best: tuple[float, Corners] | None = None
    for grid in _grids(squares):
        for corners in _placements(grid, squares, chart):
            likeness = _likeness(small, chart, corners)
            if best is None or likeness > best[0]:
                best = likeness, corners
    if best is None or best[0] < LEAST_LIKENESS:
        raise CameraError(
            f"{photo.name}: no chart of {chart.columns} by {chart.rows} patches was found; place its corners"
        )
    return tuple((float(x) / scale, float(y) / scale) for x, y in best[1])


def _small(photo: Photograph) -> tuple[FloatArray, float]:
    """The photograph made small, as sRGB 0 to 1 with its brightest parts near 1, and its scale."""
    linear, scale = made_small(photo, LONG_SIDE)
    return srgb_of_linear(linear / max(float(np.quantile(linear, 0.98)), 1e-6)), scale


def _squares(small: FloatArray) -> list[_Square]:
    """What has four corners and sides alike, whatever its colour, seen at several thresholds in every channel."""
    picture = np.round(255.0 * small).astype(np.uint8)
    picture = np.asarray(cv2.bilateralFilter(picture, 5, 30, 5))
    reach = max(picture.shape[:2]) // 24 * 2 + 1
    found: list[_Square] = []
    for channel in (*cv2.split(picture), cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)):
        edges = cv2.dilate(cv2.Canny(channel, 12, 36), np.ones((3, 3), np.uint8))
        around = cv2.adaptiveThreshold(channel, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY, reach, -3)
        inside = cv2.erode(around, np.ones((3, 3), np.uint8))
        for mask in (255 - edges, inside):
            contours, _ = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_SIMPLE)
            found += [square for contour in contours if (square := _square(contour)) is not None]
    return _apart(found)


def _square(contour: Stored) -> _Square | None:
    area = cv2.contourArea(contour)
    if area < LEAST_SIDE**2:
        return None
    quad = cv2.approxPolyDP(contour, 0.09 * cv2.arcLength(contour, True), True)[:, 0].astype(np.float64)
    if len(quad) != 4 or not cv2.isContourConvex(quad.astype(np.float32)):
        return None
    sides = [float(np.hypot(*(b - a))) for a, b in pairwise([*quad, quad[0]])]
    if max(sides) > 2.2 * min(sides) or area < 0.7 * cv2.contourArea(quad.astype(np.float32)):
        return None
    moments = cv2.moments(contour)
    centre = np.array([moments["m10"], moments["m01"]]) / moments["m00"]
    first = (quad[1] - quad[0] + quad[2] - quad[3]) / 2.0
    second = (quad[2] - quad[1] + quad[3] - quad[0]) / 2.0
    if abs(first[0]) < abs(second[0]):
        first, second = second, first
    return _Square(centre, first * np.sign(first[0] or 1.0), second * np.sign(second[1] or 1.0))


def _apart(squares: list[_Square]) -> list[_Square]:
    """One of those that were found more than once: the largest."""
    kept: list[_Square] = []
    for square in sorted(squares, key=lambda s: -s.side):
        if all(np.hypot(*(square.centre - other.centre)) > 0.5 * square.side for other in kept):
            kept.append(square)
    return kept


Cells = dict[tuple[int, int], int]


def _grids(squares: list[_Square]) -> list[Cells]:
    """Squares that follow one another like the patches of a chart: from cell to the number of its square."""
    found: list[Cells] = []
    seen: set[int] = set()
    centres = np.array([s.centre for s in squares]).reshape(-1, 2)
    for start in range(len(squares)):
        if start in seen:
            continue
        cells: Cells = {(0, 0): start}
        waiting = [(0, 0)]
        while waiting:
            cell = waiting.pop(0)
            own = squares[cells[cell]]
            for step, side in (((1, 0), own.across), ((-1, 0), -own.across), ((0, 1), own.down), ((0, -1), -own.down)):
                beside = cell[0] + step[0], cell[1] + step[1]
                if beside in cells:
                    continue
                off = np.hypot(*(centres - own.centre - side / PATCH_OF_PITCH).T)
                near = int(off.argmin())
                if (
                    off[near] < 0.3 * own.side
                    and 0.6 < squares[near].side / own.side < 1.6
                    and near not in cells.values()
                ):
                    cells[beside] = near
                    waiting.append(beside)
        if len(cells) >= LEAST_SQUARES:
            seen |= set(cells.values())
            found.append(cells)
    return sorted(found, key=len, reverse=True)[:4]


def _placements(cells: Cells, squares: list[_Square], chart: ColourChart) -> list[Corners]:
    """The corners for every place and turn of the chart at which it covers the squares that were found."""
    places = np.array(list(cells), np.float64)
    centres = np.array([squares[i].centre for i in cells.values()])
    matrix, _ = cv2.findHomography(places, centres, cv2.RANSAC, 0.25 * float(np.median([s.side for s in squares])))
    if matrix is None:
        return []
    columns, rows = (np.ptp(places, axis=0) + 1).astype(int)
    left, top = places.min(axis=0)
    side = PATCH_OF_PITCH
    found: list[Corners] = []
    for across, down, turns in ((chart.columns, chart.rows, (0, 2)), (chart.rows, chart.columns, (1, 3))):
        if columns > across or rows > down:
            continue
        for i in range(across - columns + 1):
            for j in range(down - rows + 1):
                x, y = left - i, top - j
                ring = box(x + (across - 1) / 2.0, y + (down - 1) / 2.0, across - 1 + side, down - 1 + side)
                quad = project(np.asarray(matrix, np.float64), ring)
                found += [tuple(map(tuple, np.roll(quad, -turn, axis=0))) for turn in turns]
    return found


def _likeness(small: FloatArray, chart: ColourChart, corners: Corners) -> float:
    """How the colours of the patches go with those of the chart: correlation over all channels, each balanced."""
    try:
        matrix = homography(corners)
    except CameraError:
        return -1.0
    height, width = small.shape[:2]
    seen = np.empty((len(chart.patches), 3))
    for k, patch in enumerate(chart.patches):
        points = project(matrix, box(patch.x, patch.y, 0.4 * patch.width, 0.4 * patch.height))
        points = np.vstack([points, project(matrix, np.array([[patch.x, patch.y]]))])
        x, y = np.round(points - 0.5).astype(int).T
        if x.min() < 0 or y.min() < 0 or x.max() >= width or y.max() >= height:
            return -1.0
        seen[k] = np.median(small[y, x], axis=0)
    own, known = _centred(seen), _centred(srgb_of_linear(chart.linear))
    size = float(np.linalg.norm(own) * np.linalg.norm(known))
    return float(own @ known) / size if size > 0.0 else -1.0


def _centred(colours: FloatArray) -> FloatArray:
    """Each channel without its mean, so that a cast does not count."""
    flat: FloatArray = (colours - colours.mean(axis=0)).ravel()
    return flat
