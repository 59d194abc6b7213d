"""Which law a dimmer follows, where its levels tell: a law is named when it explains them and no other does.

Each law is fitted by least squares in stops to the levels below the highest, and held against their scatter: one that
chance would explain in less than one case in a hundred is ruled out (chi-squared; JCGM 100 has no test of its own).
Of those that are left a law without a free constant goes before its own generalisations; several of one kind cannot be
told apart, and are said to be so. `benchmarks/dimming_laws.py` measures how often a wrong law is named.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from even_beam.light import FloatArray
from even_beam.words import notation

SET_ANEW_STOPS = 0.03
"""A level that is dialled again comes back to this (one standard deviation; common practice, no source)."""

UNLIKELY = 0.01
"""A law is ruled out when chance explains its departures in a smaller share of cases."""

NEAR_STOPS = 0.15
"""A dimmer that follows no law closely is still near one within this on the mean (common practice, no source)."""

WORTH_A_CONSTANT = 0.02
"""A law with a constant must come nearer by so many stops to be called the nearest."""

LEAST_BELOW = 3
"""Levels below the highest that a law with a constant of its own needs, so that one is left to contradict it."""


@dataclass(frozen=True, slots=True)
class Law:
    """A law fitted to levels: what it is in words after *follows* or *is*, its constant, and what is left in stops."""

    words: str
    constants: int
    residual: FloatArray
    kind: str

    @property
    def departure(self) -> float:
        """The mean distance of the levels from it, in stops."""
        return float(np.abs(self.residual).mean())


@dataclass(frozen=True, slots=True)
class Told:
    """What can be said of the law, in words after *The dimmer*, and the law where one is told."""

    words: str
    law: Law | None = None


def told(stops_set: FloatArray, stops_got: FloatArray, scatter: FloatArray) -> Told:
    """The law of a dimmer. All in stops below the highest level read, shapes (n,), rising; `scatter` is the standard
    deviation of each level."""
    below = stops_set < 0.0
    x, y = stops_set[below], stops_got[below]
    spread = np.hypot(scatter[below], SET_ANEW_STOPS)
    laws = _fitted(x, y)
    left = [law for law in laws if _explains(law, spread)]
    plain = [law for law in left if law.constants == 0]
    if plain:
        best = min(plain, key=lambda law: law.departure)
        return Told(f"follows {best.words}", best)
    if len(left) == 1 and x.size >= LEAST_BELOW:
        return Told(f"follows {left[0].words}", left[0])
    if left:
        names = " or ".join(law.words for law in left)
        what = "which" if len(left) > 1 else "that"
        return Told(f"may follow {names}: these {x.size + 1} levels cannot tell {what}")
    nearest = min(laws, key=lambda law: law.departure + WORTH_A_CONSTANT * law.constants)
    if x.size >= LEAST_BELOW and _is_s_shaped(stops_set, stops_got):
        return Told("follows an S")
    if nearest.departure <= NEAR_STOPS:
        off = notation.number(nearest.departure, 2)
        return Told(f"follows no law closely; nearest is {nearest.words}, {off} stop off on the mean")
    if x.size < LEAST_BELOW:
        return Told(f"follows none of the laws that are looked for at these {x.size + 1} levels")
    return Told("follows no simple law")


def _explains(law: Law, spread: FloatArray) -> bool:
    free = max(1, law.residual.size - law.constants)
    return float(np.sum((law.residual / spread) ** 2)) <= _limit(free)


@cache
def _limit(freedom: int) -> float:
    from scipy.special import chdtri

    return float(chdtri(freedom, UNLIKELY))


def _fitted(x: FloatArray, y: FloatArray) -> list[Law]:
    """Every law that is known, fitted."""
    exponent = float(x @ y / (x @ x))
    dial = np.exp2(x)
    base = _best(lambda b: _above(b, dial) - y, 1e-4, 0.5)
    floor = _best(lambda f: np.log2(np.maximum(dial, f)) - y, float(dial.min()) / 2.0, 0.7)
    knee = f"the dial in proportion down to {100.0 * floor:.0f} %, then a floor of {_percent(floor)}"
    each = float((dial - 1.0) @ y / ((dial - 1.0) @ (dial - 1.0)))
    laws = [
        Law("a linear law", 0, y - x, "linear"),
        Law("a square law", 0, y - 2.0 * x, "square"),
        Law(f"a power of the dial (exponent {exponent:.2f})", 1, y - exponent * x, "power"),
        Law(f"the dial in proportion above a floor of {_percent(base)}", 1, _above(base, dial) - y, "base"),
        Law("equal stops for equal steps of the dial", 1, y - each * (dial - 1.0), "even"),
    ]
    kept, moving = int((dial <= floor * 1.02).sum()), int((dial > floor * 1.02).sum())
    if kept >= 2 and moving >= 1:  # the highest stands on the far side of the knee as well
        laws.append(Law(knee, 1, np.log2(np.maximum(dial, floor)) - y, "floor"))
    return laws


def _above(base: float, dial: FloatArray) -> FloatArray:
    """Stops of a dimmer in proportion to what lies above a floor."""
    return np.log2(base + (1.0 - base) * dial)


def _best(residual: Callable[[float], FloatArray], low: float, high: float) -> float:
    """The constant that leaves least, on the scale of its logarithm."""
    from scipy.optimize import minimize_scalar  # not at start-up

    def left(log: float) -> float:
        return float(np.sum(residual(float(np.exp(log))) ** 2))

    return float(np.exp(minimize_scalar(left, bounds=(np.log(low), np.log(high)), method="bounded").x))


def _percent(share: float) -> str:
    return f"{notation.percent(100.0 * share)} %"


def _is_s_shaped(stops_set: FloatArray, stops_got: FloatArray) -> bool:
    """Whether the slope rises and falls again by half."""
    dial, output = np.exp2(stops_set), np.exp2(stops_got)
    rise: Sequence[float] = (np.diff(output) / np.diff(dial)).tolist()
    steepest = int(np.argmax(rise))
    return rise[steepest] > 1.5 * max(rise[0], rise[-1])
