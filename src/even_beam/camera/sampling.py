"""The patches of a chart in a photograph: averaged inside their middle, with what speaks against each of them."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from even_beam.camera.chart import ColourChart, Patch
from even_beam.camera.errors import CameraError
from even_beam.camera.photo import Photograph, Stored, luminance
from even_beam.light import FloatArray

MIDDLE = 0.5
"""The share of a patch's sides that is averaged: edges blur and corners are never quite where they were placed."""

TRIMMED = 0.1
"""The share of pixels left out at either end of each channel: dust, scratches, hot pixels."""

MOST_PIXELS = 20_000
"""Of larger patches every so-manieth pixel is taken: more of them say no more."""

CLIPPED_SHARE, NOISE_SHARE, STEP_SHARE, LEAST_PIXELS = 0.02, 0.35, 0.12, 16
"""A patch is left out when so many pixels are clipped, when their scatter is so much of the mean, when a shadow or a
reflection of so much crosses it, or when there are fewer pixels (common practice, no source)."""

Corners = Sequence[tuple[float, float]]


@dataclass(frozen=True, eq=False, slots=True)
class Sampled:
    """What a chart shows in a photograph: linear sRGB, shape (k, 3), its standard error, (k, 3), and why a patch is
    left out, empty for one that counts."""

    linear: FloatArray
    error: FloatArray
    skipped: tuple[str, ...]

    @property
    def good(self) -> NDArray[np.bool_]:
        """Which patches count."""
        return np.array([not why for why in self.skipped])


def made_small(photo: Photograph, longest: int) -> tuple[FloatArray, float]:
    """Linear sRGB of a photograph made small, its longer side so many pixels, shape (h, w, 3), and its scale."""
    width, height = photo.size
    scale = min(longest / max(width, height), 1.0)
    if scale == 1.0:
        return photo.decode(photo.pixels), 1.0
    size = round(width * scale), round(height * scale)
    return photo.decode(cv2.resize(photo.pixels, size, interpolation=cv2.INTER_AREA)), size[0] / width


def homography(corners: Corners) -> FloatArray:
    """From shares of the field, (0, 0) to (1, 1), to pixels: the outer corners clockwise from that of the first patch.

    Raises `CameraError` for corners that no flat chart can have.
    """
    quad = np.asarray(corners, np.float32)
    if quad.shape != (4, 2) or not np.isfinite(quad).all():
        raise CameraError("a chart has four corners, each with x and y in pixels")
    edges = np.roll(quad, -1, axis=0) - quad
    following = np.roll(edges, -1, axis=0)
    turns = edges[:, 0] * following[:, 1] - edges[:, 1] * following[:, 0]
    if not (turns > 1.0).all():  # y runs downwards: positive is clockwise
        raise CameraError("these corners do not go round a chart: place them in order, clockwise from the first patch")
    unit = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], np.float32)
    return np.asarray(cv2.getPerspectiveTransform(unit, quad), np.float64)


def project(matrix: FloatArray, points: FloatArray) -> FloatArray:
    """Points, shape (..., 2), through a homography."""
    moved = np.concatenate([points, np.ones((*points.shape[:-1], 1))], axis=-1) @ matrix.T
    flat: FloatArray = moved[..., :2] / moved[..., 2:]
    return flat


def box(x: float, y: float, width: float, height: float) -> FloatArray:
    """The corners of a box about a point, clockwise, shape (4, 2)."""
    return np.array([x, y]) + np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * np.array([width, height]) / 2.0


def pixels_in(photo: Photograph, matrix: FloatArray, area: FloatArray) -> tuple[Stored, FloatArray]:
    """The stored pixels whose centres lie in an area of the field, shape (n, 3), and where they are, (n, 2) in pixels;
    none where it lies outside the photograph."""
    quad = project(matrix, area)
    width, height = photo.size
    left, top = np.floor(quad.min(axis=0)).astype(int)
    right, bottom = np.ceil(quad.max(axis=0)).astype(int) + 1
    left, top, right, bottom = max(left, 0), max(top, 0), min(right, width), min(bottom, height)
    if right <= left or bottom <= top or quad.min() < -1.0 or (quad.max(axis=0) > [width, height]).any():
        return np.empty((0, 3), photo.pixels.dtype), np.empty((0, 2))
    mask = np.zeros((bottom - top, right - left), np.uint8)
    cv2.fillConvexPoly(mask, np.round(quad - [left, top] - 0.5).astype(np.int32), 1)
    rows, columns = np.nonzero(mask)
    few = len(rows) // MOST_PIXELS + 1
    rows, columns = rows[::few], columns[::few]
    return photo.pixels[top + rows, left + columns], np.stack([columns + left, rows + top], axis=1).astype(np.float64)


def trimmed_mean(values: FloatArray) -> FloatArray:
    """The mean of each column without the outermost tenths, shape (n, c) to (c,)."""
    cut = int(TRIMMED * len(values))
    ordered = np.sort(values, axis=0)
    mean: FloatArray = ordered[cut : len(values) - cut].mean(axis=0)
    return mean


def sample(photo: Photograph, chart: ColourChart, corners: Corners) -> Sampled:
    """The patches of a chart whose outer corners are given. Raises `CameraError`."""
    matrix = homography(corners)
    found = [_patch(photo, matrix, patch) for patch in chart.patches]
    return Sampled(
        np.array([one[0] for one in found]), np.array([one[1] for one in found]), tuple(one[2] for one in found)
    )


def _patch(photo: Photograph, matrix: FloatArray, patch: Patch) -> tuple[FloatArray, FloatArray, str]:
    area = box(patch.x, patch.y, MIDDLE * patch.width, MIDDLE * patch.height)
    stored, where = pixels_in(photo, matrix, area)
    if len(stored) < LEAST_PIXELS:
        return np.full(3, np.nan), np.full(3, np.nan), "too small, or outside the photograph"
    linear = photo.decode(stored)
    mean = trimmed_mean(linear)
    scatter = 1.4826 * np.median(np.abs(linear - np.median(linear, axis=0)), axis=0)
    error = scatter / np.sqrt(len(stored))
    if photo.clipped(stored).mean() > CLIPPED_SHARE:
        return mean, error, "clipped: too bright for this exposure"
    y = luminance(linear)
    level = float(luminance(mean))
    if level <= 0.0 or float(luminance(scatter)) > NOISE_SHARE * level:
        return mean, error, "noisy: too dark for this exposure"
    if _step(y, where) > STEP_SHARE:
        return mean, error, "uneven: a shadow or a reflection crosses it"
    return mean, error, ""


def _step(y: FloatArray, where: FloatArray) -> float:
    """How far nine parts of a patch depart from a plane, as a share of the mean."""
    low, high = where.min(axis=0), where.max(axis=0)
    place = np.minimum(((where - low) / np.maximum(high - low, 1e-9) * 3.0).astype(int), 2)
    part = place[:, 0] * 3 + place[:, 1]
    counts = np.bincount(part, minlength=9)
    if (counts < 8).any():
        return 0.0
    means = np.array([np.median(y[part == i]) for i in range(9)])
    across = np.array([[1.0, i // 3 - 1.0, i % 3 - 1.0] for i in range(9)])
    plane, *_ = np.linalg.lstsq(across, means, rcond=None)
    noise = 4.0 * float(np.std(y)) / np.sqrt(counts.min()) / max(float(means.mean()), 1e-12)
    return float(np.ptp(means - across @ plane) / max(float(means.mean()), 1e-12)) - noise
