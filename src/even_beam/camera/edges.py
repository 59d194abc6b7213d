"""What a line across a photograph shows of a shadow or of the edge of a beam, and how evenly a wall is lit."""

from dataclasses import dataclass

import cv2
import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.camera.photo import Photograph, luminance
from even_beam.light import FloatArray
from even_beam.light.adaptation import SRGB_TO_XYZ

ACROSS_PX = 9
"""So many pixels beside one another are averaged at each point of a line."""

STEP_SHARE = 0.12
"""A step of an edge is so much of its whole change at least (common practice, no source)."""

FRINGE_FROM = 0.05
"""Colours are told where the light is so much of the brightest at least."""


@dataclass(frozen=True, eq=False, slots=True)
class Edge:
    """What a line across an edge shows: `place` in pixels from its start and `level` over the brightest, shape (n,).

    `width_px` from 10 to 90 % of the change; `steps` the number of separate falls: a double shadow has two; `fringe_uv`
    the greatest distance in CIE 1976 u', v' from the colour of the bright side, `fringe_at` where that is, in pixels,
    `fringe` its direction in words. `contrast_stops` from the dark side to the bright one.
    """

    place: FloatArray
    level: FloatArray
    width_px: float
    steps: int
    fringe_uv: float
    fringe_at: float
    fringe: str
    contrast_stops: float


def edge_along(photo: Photograph, start: tuple[float, float], end: tuple[float, float]) -> Edge:
    """The edge that a line from `start` to `end`, in pixels, crosses. Raises `CameraError`."""
    line = _along(photo, start, end)
    y = luminance(line)
    few = max(3, y.size // 10)
    first, last = float(np.median(y[:few])), float(np.median(y[-few:]))
    if first < last:
        line, y, first, last = line[::-1], y[::-1], last, first
        start, end = end, start
    if first <= 0.0 or first - last < 0.1 * first:
        raise CameraError("the light is as good as the same at both ends of the line: draw it across an edge")
    share = np.clip((y - last) / (first - last), -1.0, 2.0)
    place = np.arange(y.size, dtype=np.float64)
    fringe = _fringe(line, y, few)
    where = int(fringe[0].argmax())
    return Edge(
        place=place,
        level=y / first,
        width_px=_crossing(share, 0.1, last_one=True) - _crossing(share, 0.9, last_one=False),
        steps=_falls(share),
        fringe_uv=float(fringe[0][where]),
        fringe_at=float(where),
        fringe=_direction(fringe[1][where]),
        contrast_stops=float(np.log2(first / max(last, 1e-4 * first))),
    )


def _along(photo: Photograph, start: tuple[float, float], end: tuple[float, float]) -> FloatArray:
    """Linear sRGB at every pixel's distance along a line, the mean of some pixels across it, shape (n, 3)."""
    a, b = np.array(start, np.float64), np.array(end, np.float64)
    length = float(np.hypot(*(b - a)))
    width, height = photo.size
    if not np.isfinite(length) or length < 20.0:
        raise CameraError("the line is too short: draw it over 20 pixels or more")
    if min(*a, *b) < 0.0 or max(a[0], b[0]) > width - 1 or max(a[1], b[1]) > height - 1:
        raise CameraError("the line leaves the photograph")
    along = (b - a) / length
    beside = np.array([-along[1], along[0]])
    steps, shifts = np.arange(int(length) + 1), np.arange(ACROSS_PX) - ACROSS_PX // 2
    points = a + steps[:, None, None] * along + shifts[None, :, None] * beside
    points = np.clip(points, 0.0, [width - 1, height - 1])
    left, top = np.floor(points.min(axis=(0, 1))).astype(int)
    right, bottom = np.ceil(points.max(axis=(0, 1))).astype(int) + 1
    linear = photo.decode(photo.pixels[top:bottom, left:right]).astype(np.float32)
    x, y = (points - [left, top]).astype(np.float32).transpose(2, 0, 1)
    seen = cv2.remap(linear, x, y, cv2.INTER_LINEAR)
    return np.asarray(seen.mean(axis=1), np.float64)


def _crossing(share: FloatArray, at: float, *, last_one: bool) -> float:
    """Where the light of a line that darkens is at a share: between the pixels about it."""
    above = np.flatnonzero(share >= at)
    place = int(above[-1]) if last_one else int(np.flatnonzero(share <= at)[0]) - 1
    after = min(place + 1, share.size - 1)
    fall = share[place] - share[after]
    return place + float((share[place] - at) / fall if fall > 0.0 else 0.0)


def _falls(share: FloatArray) -> int:
    """The number of separate falls, each at least a share of the whole, parted by light that holds."""
    few = max(3, share.size // 60) | 1
    smooth = np.convolve(np.pad(share, few // 2, mode="edge"), np.ones(few) / few, mode="valid")
    fall = np.maximum(-np.diff(smooth), 0.0)
    falling = fall > 0.25 * float(fall.max())
    edges = np.flatnonzero(np.diff(np.concatenate([[0], falling.astype(int), [0]])))
    return sum(float(smooth[a] - smooth[b]) >= STEP_SHARE for a, b in zip(edges[::2], edges[1::2], strict=True))


def _fringe(line: FloatArray, y: FloatArray, few: int) -> tuple[FloatArray, FloatArray]:
    """The distance in u', v' from the bright side at each point, shape (n,), and its parts, (n, 2)."""
    xyz = line @ SRGB_TO_XYZ.T
    down = np.maximum(xyz @ np.array([1.0, 15.0, 3.0]), 1e-9)
    uv = np.stack([4.0 * xyz[:, 0] / down, 9.0 * xyz[:, 1] / down], axis=1)
    smooth = np.stack([np.convolve(np.pad(c, 2, mode="edge"), np.ones(5) / 5.0, mode="valid") for c in uv.T], axis=1)
    off = smooth - np.median(smooth[:few], axis=0)
    distance = np.where(y >= FRINGE_FROM * float(y.max()), np.hypot(*off.T), 0.0)
    return distance, off


def _direction(off: FloatArray) -> str:
    """The colour of a step in u', v', in words."""
    turn = float(np.degrees(np.arctan2(off[1], off[0]))) % 360.0
    names = ("red", "orange", "yellow", "green", "green", "cyan", "blue", "violet", "magenta")
    return names[int(turn // 40.0)]


@dataclass(frozen=True, eq=False, slots=True)
class Wall:
    """A wall as a photograph shows it: `stops` over its brightest part, shape (rows, columns), and the least light as
    a share of the greatest."""

    stops: FloatArray
    share: float


def wall_of(photo: Photograph, columns: int = 96) -> Wall:
    """How evenly a plain wall is lit: means over fields of a picture that is shot straight on and fills it.

    The lens's own fall-off is in it. Raises `CameraError` for a picture that is clipped or dark.
    """
    width, height = photo.size
    rows = max(2, round(columns * height / width))
    linear = photo.decode(cv2.resize(photo.pixels, (columns * 4, rows * 4), interpolation=cv2.INTER_AREA))
    y = luminance(linear).reshape(rows, 4, columns, 4).mean(axis=(1, 3))
    if float(photo.clipped(photo.pixels[::4, ::4]).mean()) > 0.01:
        raise CameraError(f"{photo.name} is clipped: expose it less, so that its brightest part can be told")
    if float(y.max()) <= 0.0:
        raise CameraError(f"{photo.name} is black")
    stops = np.log2(np.maximum(y, 1e-4 * y.max()) / y.max())
    return Wall(stops, float(y.min() / y.max()))
