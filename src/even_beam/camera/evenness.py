"""How evenly a chart was lit, from the frame between its patches and from its greys."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from even_beam.camera.chart import PATCH_OF_PITCH, ColourChart
from even_beam.camera.photo import Photograph, luminance
from even_beam.camera.sampling import Corners, Sampled, box, homography, pixels_in, trimmed_mean
from even_beam.light import FloatArray

ROUGH_STOPS = 0.06
"""A frame whose level departs by more from a smooth surface is no measure of the light (common practice, no source)."""

SHADOW_STOPS = 0.4
"""A patch whose surroundings lie so far below that surface stands in a shadow (common practice, no source)."""

SIDE = 0.45
"""The side of what is sampled between patches, as a share of the gap."""


@dataclass(frozen=True, eq=False, slots=True)
class Evenness:
    """The light over the field as a surface of second order in log2, `terms` for 1, x, y, x², xy, y² from its centre.

    `share` is the least of the light at the patches as a share of the greatest. `from_frame` when the frame told it;
    else it is a slope along the greys alone, and nothing is corrected by it. `shadowed` are the patches in a shadow.
    """

    terms: FloatArray
    share: float
    from_frame: bool
    shadowed: tuple[int, ...] = ()

    def at(self, places: FloatArray) -> FloatArray:
        """The light at places of the field, shape (n, 2), over that at its centre, shape (n,)."""
        light: FloatArray = np.exp2(_surface(places)[:, 1:] @ self.terms[1:])
        return light


def _surface(places: FloatArray) -> FloatArray:
    x, y = places[:, 0] - 0.5, places[:, 1] - 0.5
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=1)


def evenness(photo: Photograph, chart: ColourChart, corners: Corners, sampled: Sampled) -> Evenness | None:
    """How evenly it was lit; None where neither frame nor greys tell."""
    places = np.array([[p.x, p.y] for p in chart.patches])
    found = _of_frame(photo, chart, corners, places) if chart.columns > 1 and chart.rows > 1 else None
    return found if found is not None else _of_greys(chart, sampled, places)


def corrected(sampled: Sampled, chart: ColourChart, light: Evenness | None) -> Sampled:
    """The patches as if all had the light of the centre, where the frame told how it falls; what stands in a shadow is
    left out."""
    if light is None or not light.from_frame:
        return sampled
    scale = light.at(np.array([[p.x, p.y] for p in chart.patches]))[:, None]
    skipped = list(sampled.skipped)
    for place in light.shadowed:
        skipped[place] = skipped[place] or "in a shadow"
    return replace(sampled, linear=sampled.linear / scale, error=sampled.error / scale, skipped=tuple(skipped))


def _of_frame(photo: Photograph, chart: ColourChart, corners: Corners, patches: FloatArray) -> Evenness | None:
    """By what lies between four patches, and between two: all of one material."""
    matrix = homography(corners)
    gap = (1.0 - PATCH_OF_PITCH) * SIDE
    across, down = chart.columns - 1 + PATCH_OF_PITCH, chart.rows - 1 + PATCH_OF_PITCH
    steps = [(i, j) for i in range(1, 2 * chart.columns) for j in range(1, 2 * chart.rows) if i % 2 == 0 or j % 2 == 0]
    # in half pitches from the edge of the field, a node between patches at even numbers
    places = np.array(
        [
            ((i / 2.0 - (1.0 - PATCH_OF_PITCH) / 2.0) / across, (j / 2.0 - (1.0 - PATCH_OF_PITCH) / 2.0) / down)
            for i, j in steps
        ]
    )
    level = np.full(len(places), np.nan)
    for k, (x, y) in enumerate(places):
        stored, _ = pixels_in(photo, matrix, box(x, y, gap / across, gap / down))
        if len(stored) >= 4 and not photo.clipped(stored).any():
            level[k] = float(luminance(trimmed_mean(photo.decode(stored))))
    good = np.isfinite(level) & (level > 0.0)
    if good.sum() < len(places) // 2:
        return None
    stops = np.full(len(places), np.nan)
    stops[good] = np.log2(level[good])
    terms, kept = _fitted(places, stops, good)
    off = stops - _surface(places) @ terms
    if kept.sum() < 0.7 * len(places) or float(np.std(off[kept])) > ROUGH_STOPS:
        return None
    light = np.exp2(_surface(patches) @ terms)
    return Evenness(terms, float(light.min() / light.max()), True, _shadowed(places, off, patches, across, down))


def _fitted(places: FloatArray, stops: FloatArray, good: NDArray[np.bool_]) -> tuple[FloatArray, NDArray[np.bool_]]:
    """The surface by iterated weights (Cauchy), so that a shadow does not bend it, and the places that bear it."""
    weights = good.astype(np.float64)
    known = np.where(good, stops, 0.0)
    surface = _surface(places)
    terms, off, limit = np.zeros(6), np.zeros(len(places)), 0.0
    for _ in range(30):
        root = np.sqrt(weights)[:, None]
        terms, *_ = np.linalg.lstsq(root * surface, root[:, 0] * known, rcond=None)
        off = np.abs(known - surface @ terms)
        scale = max(1.4826 * float(np.median(off[good])), 0.003)
        weights = good / (1.0 + (off / scale) ** 2) ** 2
        limit = max(4.0 * scale, 0.02)
    return terms, good & (off <= limit)


def _shadowed(places: FloatArray, off: FloatArray, patches: FloatArray, across: float, down: float) -> tuple[int, ...]:
    """The patches of whose surroundings most lie far below the surface."""
    found = []
    for k, patch in enumerate(patches):
        near = np.hypot((places[:, 0] - patch[0]) * across, (places[:, 1] - patch[1]) * down) < 0.75
        known = off[near & np.isfinite(off)]
        if known.size and float(np.median(known)) < -SHADOW_STOPS:
            found.append(k)
    return tuple(found)


def _of_greys(chart: ColourChart, sampled: Sampled, places: FloatArray) -> Evenness | None:
    """A slope along the greys: what is not in line with their reflectances."""
    own = [i for i in chart.greys if not sampled.skipped[i]]
    if len(own) < 4:
        return None
    stops = np.log2(luminance(sampled.linear[own]) / luminance(chart.linear[own]))
    direction = places[own[-1]] - places[own[0]]
    axis = 0 if abs(direction[0]) >= abs(direction[1]) else 1
    slope, level = np.polyfit(places[own, axis] - 0.5, stops, 1)
    terms = np.zeros(6)
    terms[0], terms[1 + axis] = level, slope
    light = np.exp2(slope * (places[own, axis] - 0.5))
    return Evenness(terms, float(light.min() / light.max()), False)
