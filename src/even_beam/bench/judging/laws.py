"""What the levels of a lamp may look like along its distance and along its dimmer, and which reading fits no such law.

A law is a family of shapes with a prior: sources that stand behind or in front of their plane and have a size of their
own; dimmers in proportion, of any power, S-shaped, logarithmic, with a floor. How bright the lamp is stays free. The
families are wide where few readings narrow them, so that an odd lamp is not called a slip. All in stops (log2 of lx).
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from statistics import NormalDist

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

ODDS = 1e-2
"""How rare a slip is thought to be before anything was looked at."""

SLIP_STOPS = 8.0
"""A slipped figure may lie anywhere within so many stops."""

LEAST_STOPS = 0.3
"""Nothing is odd for less than this."""

SHORT_STOPS, SHORT_ODDS = 0.25, 2.5
"""The nearest mark of a walk falls short for a reason of its own beyond both: its stops, and the log of the odds."""

_TAIL, _WIDE = 0.003, 3.3

SMOOTH_ODDS = -1.0
"""Log of how likely a dimmer follows none of the laws, but some other smooth curve, against all of them."""

POWER, POWER_SPREAD, STOPS_SPREAD, BEND_STOPS, BEND_OCTAVES = 1.4, 0.7, 4.0, 0.45, 1.2
"""What such curves are like: a power and its spread, further stops over the dial, and bends of so many stops over so
many halvings of it (common practice, no source)."""


@dataclass(frozen=True, eq=False, slots=True)
class Smooth:
    """Any smooth curve: its mean, (n,), and covariance, (n, n), by place and without its gain, with the log of what is
    thought of it beforehand. Rasmussen and Williams, Gaussian Processes for Machine Learning (2006), chapter 2."""

    mean: FloatArray
    covariance: FloatArray
    log_prior: float


@dataclass(frozen=True, eq=False, slots=True)
class Law:
    """Shapes by place, (p, n), each without its gain, with the log of what is thought of each beforehand, (p,); and
    what else it may be that is `smooth`."""

    shapes: FloatArray
    log_prior: FloatArray
    noise: FloatArray
    smooth: Smooth | None = None

    @property
    def log_total(self) -> float:
        """Log of all that is thought beforehand."""
        shapes = float(_log_sum(self.log_prior))
        return shapes if self.smooth is None else float(np.logaddexp(shapes, self.smooth.log_prior))


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
    before = [-0.46, -0.4, -0.35, -0.3, -0.25, -0.2, -0.15, -0.1, -0.05]
    offsets = np.array([*before, 0.0, 0.05, 0.1, 0.2, 0.3, 0.45, 0.6, 0.8, 1.0, 1.3, 1.6, 2.0, 2.5, 3.0])
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
    smooth = _smooth(x, of_the_laws + SMOOTH_ODDS)
    return Law(every, np.concatenate([prior_of_all, np.array(priors)]), noise, smooth)


def _smooth(dial: FloatArray, log_prior: float) -> Smooth:
    """Any smooth dimmer at these settings, 0 to 1, (n,): a power, stops along the dial, and bends."""
    octaves = np.log2(dial)
    apart = octaves[:, None] - octaves[None, :]
    covariance = (
        POWER_SPREAD**2 * np.outer(octaves, octaves)
        + STOPS_SPREAD**2 * np.outer(dial - 1.0, dial - 1.0)
        + BEND_STOPS**2 * np.exp(-0.5 * (apart / BEND_OCTAVES) ** 2)
    )
    return Smooth(POWER * octaves, covariance, log_prior)


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
    for knee in (0.08, 0.15, 0.25, 0.35, 0.5):
        for low_power, high_power in itertools.product((1.5, 2.2, 3.0), (0.6, 0.85, 1.2)):
            below = knee**high_power * (x / knee) ** low_power
            found.append((np.log2(np.where(x < knee, below, x**high_power)), -4.0))
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
    others = 1.0 - here[None, :]
    log_weight, gain, variance = _fitted(law, np.where(here, 0.0, stops), others)
    means, logs = [gain[:, 0] + law.shapes[:, place]], [log_weight[:, 0] + float(_normal(law, others, variance)[0])]
    if law.smooth is not None:
        at, spread, log_likely = _smooth_at(law, stops, place)
        means.append(at + spread * _NORMAL_QUANTILES)
        logs.append(np.full(_NORMAL_QUANTILES.size, log_likely - np.log(_NORMAL_QUANTILES.size)))
    mean, log_all = np.concatenate(means), np.concatenate(logs)
    weight = np.exp(log_all - log_all.max())
    reach = _WIDE * float(np.sqrt(variance[0] + law.noise[place] ** 2))
    order = np.argsort(mean)
    share = np.cumsum(weight[order]) / weight.sum()
    low, centre, high = (
        float(mean[order][min(int(np.searchsorted(share, part)), mean.size - 1)]) for part in (_TAIL, 0.5, 1.0 - _TAIL)
    )
    return Foreseen(centre, low - reach, high + reach)


_NORMAL_QUANTILES = np.array([NormalDist().inv_cdf((place + 0.5) / 60.0) for place in range(60)])


def _smooth_at(law: Law, stops: FloatArray, place: int) -> tuple[float, float, float]:
    """What any smooth curve through the others gives at a place, its spread, and the log of how likely it is with all
    that was thought of it (equations 2.23, 2.24 and 2.41 of Rasmussen and Williams, a constant of free size added)."""
    smooth = law.smooth
    if smooth is None:
        raise ValueError("no smooth curve is thought of")
    keep = np.arange(stops.size) != place
    inverse, of_gain, gain = _solved(law, stops, keep)
    left = stops[keep] - smooth.mean[keep] - gain
    across = smooth.covariance[place, keep]
    mean = smooth.mean[place] + gain + across @ inverse @ left
    missing = 1.0 - (across @ inverse).sum()
    variance = smooth.covariance[place, place] - across @ inverse @ across + missing**2 * of_gain
    return float(mean), float(np.sqrt(max(variance, 0.0))), smooth.log_prior + _smooth_evidence(law, stops, keep)


def _solved(law: Law, stops: FloatArray, keep: FloatArray) -> tuple[FloatArray, float, float]:
    """The inverse of the covariance of some readings, the variance of their gain, and the gain."""
    smooth = law.smooth
    if smooth is None:
        raise ValueError("no smooth curve is thought of")
    inverse = np.linalg.inv(smooth.covariance[np.ix_(keep, keep)] + np.diag(law.noise[keep] ** 2))
    of_gain = 1.0 / float(inverse.sum())
    return inverse, of_gain, of_gain * float((inverse @ (stops[keep] - smooth.mean[keep])).sum())


def _smooth_evidence(law: Law, stops: FloatArray, keep: FloatArray) -> float:
    """Log of how likely some readings are by any smooth curve, whatever the gain (flat in stops)."""
    if law.smooth is None:
        raise ValueError("no smooth curve is thought of")
    inverse, of_gain, gain = _solved(law, stops, keep)
    left = stops[keep] - law.smooth.mean[keep] - gain
    _, log_size = np.linalg.slogdet(inverse)
    count = int(np.count_nonzero(keep))
    constant = -0.5 * (count - 1) * np.log(2.0 * np.pi)
    return float(constant + 0.5 * log_size + 0.5 * np.log(of_gain) - 0.5 * left @ inverse @ left)


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
    of_the_laws = _log_sum(log_weight) + _normal(law, use, variance)
    if law.smooth is None:
        return of_the_laws - law.log_total
    otherwise = np.array([law.smooth.log_prior + _smooth_evidence(law, stops, row > 0.0) for row in use])
    return np.logaddexp(of_the_laws, otherwise) - law.log_total


def _normal(law: Law, use: FloatArray, variance: FloatArray) -> FloatArray:
    """Log of what a normal density has before its exponent, the gain taken out, (m,)."""
    return np.asarray(-(use @ np.log(np.sqrt(2.0 * np.pi) * law.noise)) + 0.5 * np.log(2.0 * np.pi * variance))
