"""What the levels of a lamp may look like along its distance and along its dimmer, and which reading fits no such law.

A law is a family of shapes with a prior: sources that stand behind or in front of their plane and have a size of their
own; dimmers in proportion, of any power, S-shaped, logarithmic, with a floor. How bright the lamp is stays free. The
families are wide where few readings narrow them, so that an odd lamp is not called a slip. All in stops (log2 of lx).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from even_beam.light import FloatArray

METER_STOPS = 0.026
"""Repeatability of a hand meter with its aim: 1.5 % and 1 % (common practice, no source)."""

MARK_M = 0.01
"""A mark is good for this (common practice, no source)."""

DIMMER_STOPS = 0.07
"""How far a dimmer strays from the nearest of these laws: steps of its dial, warmth (common practice, no source)."""

LIKE_ITSELF = 1.0
"""Log of how much likelier a lamp dims as it did elsewhere than by any other of the laws."""

ODDS = 5e-3
"""How rare a slip is thought to be before anything was looked at."""

SLIP_STOPS = 8.0
"""A slipped figure may lie anywhere within so many stops."""

LEAST_STOPS = 0.3
"""Nothing is odd for less than this."""

SHORT_STOPS, SHORT_ODDS = 0.25, 2.5
"""The nearest mark of a walk falls short for a reason of its own beyond both: its stops, and the log of the odds."""

_TAIL, _WIDE = 0.003, 3.3


@dataclass(frozen=True, eq=False, slots=True)
class Law:
    """Shapes by place, (p, n), each without its gain, with the log of what is thought of each beforehand, (p,)."""

    shapes: FloatArray
    log_prior: FloatArray
    noise: FloatArray


@dataclass(frozen=True, slots=True)
class Foreseen:
    """What a law leaves possible for a further reading: the likeliest, and the ends, in stops."""

    centre: float
    low: float
    high: float

    @property
    def below(self) -> float:
        """How far below the likeliest it may lie; never less than what is odd at all."""
        return max(LEAST_STOPS, self.centre - self.low)

    @property
    def above(self) -> float:
        """How far above the likeliest it may lie."""
        return max(LEAST_STOPS, self.high - self.centre)


@dataclass(frozen=True, slots=True)
class Odd:
    """The place of the reading that fits least, what the others leave possible there, and by how much it is the
    oddest: the log of the odds against the next."""

    place: int
    foreseen: Foreseen
    lead: float


def along_distance(distance_m: FloatArray) -> Law:
    """Laws of a walk, (n,) distances in m: from a point some way behind or before its plane, of some size.

    A source of radius r lights an axis point at d as 1 / (d^2 + r^2) (Lambertian disc, closed form).
    """
    offset, size, log_prior = _sources()
    d = np.maximum(distance_m[None, :] + offset[:, None], 0.15 * distance_m[None, :])
    shapes = -np.log2(d**2 + size[:, None] ** 2)
    noise = np.sqrt(METER_STOPS**2 + (2.0 * MARK_M / distance_m / np.log(2.0)) ** 2 + 0.015**2)
    return Law(shapes, log_prior, noise)


@lru_cache
def _sources() -> tuple[FloatArray, FloatArray, FloatArray]:
    offsets = np.array([-0.3, -0.2, -0.1, -0.05, 0.0, 0.05, 0.1, 0.2, 0.3, 0.45, 0.6, 0.9, 1.3, 2.0, 3.0])
    sizes = np.array([0.0, 0.2, 0.35, 0.5, 0.7, 1.0])
    offset, size = (grid.ravel() for grid in np.meshgrid(offsets, sizes, indexing="ij"))
    likely = (offset > -0.06) | (size < 0.3)  # what is large does not light from before its own front
    return offset[likely], size[likely], (-np.abs(offset) / 0.35 - size / 0.3)[likely]


def along_dimmer(level_pct: FloatArray, known: Sequence[tuple[FloatArray, FloatArray]] = ()) -> Law:
    """Laws of a dimmer, (n,) levels in per cent: powers with and without a floor, S-shaped, logarithmic, offset.

    `known` are curves of the same lamp elsewhere, each as levels in per cent and stops: it may well do that again.
    """
    x = np.clip(level_pct / 100.0, 1e-4, 1.0)
    of_all, prior_of_all = _dimmers(tuple(x.tolist()))
    of_the_laws = float(_log_sum(prior_of_all))
    shapes, priors = [], []
    for levels, stops in known:
        order = np.argsort(levels)
        shapes.append(np.interp(np.log2(x), np.log2(levels[order] / 100.0), stops[order]))
        priors.append(of_the_laws + LIKE_ITSELF)
    noise = np.full(x.shape, np.hypot(METER_STOPS, DIMMER_STOPS))
    every = np.concatenate([of_all, np.array(shapes)]) if shapes else of_all
    return Law(every, np.concatenate([prior_of_all, np.array(priors)]), noise)


_FLOORS = (0.0, 1e-5, 1e-4, 0.001, 0.002, 0.004, 0.008, 0.013, 0.02, 0.03, 0.04, 0.05, 0.065, 0.08, 0.1, 0.13, 0.16)


@lru_cache(maxsize=256)
def _dimmers(dial: tuple[float, ...]) -> tuple[FloatArray, FloatArray]:
    """Every shape at these settings, 0 to 1, shape (p, n), with its log prior; lamps are mostly read at the same
    ones."""
    x = np.array(dial)
    found: list[tuple[FloatArray, float]] = []
    for power in np.arange(0.4, 4.05, 0.15):
        dearness = -abs(np.log2(power)) * 1.5
        for floor in _FLOORS:
            prior = dearness - (2.5 if floor else 0.0)
            found.append((np.log2(np.maximum(x**power, floor)), prior))
            if floor:
                found.append((np.log2(floor + (1.0 - floor) * x**power), prior))
    for base in (3.0, 10.0, 30.0, 100.0, 300.0, 1000.0):
        found.append((np.log2((base**x - 1.0) / (base - 1.0)), -2.0))
        found.append((np.log2(np.log1p((base - 1.0) * x) / np.log(base)), -2.0))
    for steep in (1.4, 1.7, 2.0, 2.5, 3.0):
        s = x**steep / (x**steep + (1.0 - x) ** steep)
        found += [(np.log2(np.maximum(s, floor)), -2.5) for floor in (1e-4, 0.003, 0.01)]
    for steep in (6.0, 8.0, 10.0):
        low, high = 1.0 / (1.0 + np.exp(steep / 2.0)), 1.0 / (1.0 + np.exp(-steep / 2.0))
        logistic = (1.0 / (1.0 + np.exp(-steep * (x - 0.5))) - low) / (high - low)
        found += [(np.log2(logistic + floor), -2.5) for floor in (1e-5, 0.001, 0.003)]
    cosine = 0.5 * (1.0 - np.cos(np.pi * x))
    found += [(np.log2(cosine + floor), -2.5) for floor in (1e-4, 0.001, 0.002, 0.005, 0.01)]
    return np.array([shape for shape, _ in found]), np.array([prior for _, prior in found])


def _fitted(law: Law, stops: FloatArray, use: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Log weight of each shape by the readings in use, its gain, both (p, m), and the variance of the gain, (m,);
    `use` is (m, n)."""
    weight = (use / law.noise**2).T
    total = weight.sum(axis=0)
    off = stops - law.shapes
    middle = off.mean(axis=1, keepdims=True)  # about it squares are small, and so is what their difference loses
    off = off - middle
    gain = off @ weight / total
    squares = off**2 @ weight - total * gain**2
    return law.log_prior[:, None] - 0.5 * squares, gain + middle, 1.0 / total


def _log_sum(values: FloatArray) -> FloatArray:
    """Log of the sum of what these are the logs of, along the first axis."""
    top = values.max(axis=0)
    return np.asarray(top + np.log(np.exp(values - top).sum(axis=0)))


def foreseen(law: Law, stops: FloatArray, place: int) -> Foreseen:
    """What the others leave possible at a place. `stops` (n,); what stands at the place is not looked at."""
    here = np.arange(stops.size) == place
    log_weight, gain, variance = _fitted(law, np.where(here, 0.0, stops), 1.0 - here[None, :])
    weight = np.exp(log_weight[:, 0] - log_weight.max())
    mean = gain[:, 0] + law.shapes[:, place]
    reach = _WIDE * float(np.sqrt(variance[0] + law.noise[place] ** 2))
    order = np.argsort(mean)
    share = np.cumsum(weight[order]) / weight.sum()
    low, centre, high = (
        float(mean[order][min(int(np.searchsorted(share, part)), mean.size - 1)]) for part in (_TAIL, 0.5, 1.0 - _TAIL)
    )
    return Foreseen(centre, low - reach, high + reach)


def oddest(law: Law, stops: FloatArray) -> Odd | None:
    """The reading without which the others follow a law, when together they do not; None when they do.

    Of three readings or more, (n,). The odds are those of one slip anywhere against none.
    """
    n = stops.size
    if n < 3:
        return None
    together, *each_left_out = evidence(law, stops, np.vstack([np.ones(n), 1.0 - np.eye(n)]))
    without = np.array(each_left_out)
    slip = np.log(ODDS / n / SLIP_STOPS)
    order = np.argsort(without)[::-1]
    first = int(order[0])
    if without[first] + slip <= together:
        return None
    found = foreseen(law, stops, first)
    if -found.below <= stops[first] - found.centre <= found.above:
        return None
    return Odd(first, found, float(without[first] - without[order[1]]))


def falls_short(law: Law, stops: FloatArray, place: int) -> Foreseen | None:
    """What the inverse square of the others puts at the nearest mark, when it falls short; None when it does not.

    A meter off the beam, or too near for the law, takes less than a slip does, and is likelier: so less is needed.
    """
    if stops.size < 4:
        return None
    if stops[place] - foreseen(law, stops, place).centre >= -SHORT_STOPS:
        return None
    all_of_them = np.ones_like(stops)
    together, without = evidence(law, stops, np.vstack([all_of_them, all_of_them - (np.arange(stops.size) == place)]))
    if without - together <= SHORT_ODDS:
        return None
    plain = law.shapes[int(np.argmax(law.log_prior))]  # a point at the plane
    others = np.delete(stops - plain, place)
    centre = float(np.median(others) + plain[place])
    return Foreseen(centre, centre - SHORT_STOPS, centre + SHORT_STOPS)


def evidence(law: Law, stops: FloatArray, use: FloatArray) -> FloatArray:
    """Log of how likely the readings in use are whatever the gain (flat in stops), (m,): `use` is (m, n), ones and
    noughts, one row a choice of readings."""
    log_weight, _, variance = _fitted(law, stops, use)
    normal = -(use @ np.log(np.sqrt(2.0 * np.pi) * law.noise)) + 0.5 * np.log(2.0 * np.pi * variance)
    return _log_sum(log_weight) - _log_sum(law.log_prior) + normal
