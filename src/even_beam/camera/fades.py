"""Fades: how long one really took, by which law, in which steps, and where it fell off at the bottom."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.light import FloatArray

LEAST_SAMPLES = 40
EDGE_SHARE = 0.0002
"""A fade has begun when this share of its change is done, or what noise cannot do, and ends when as much is left
(common practice, no source)."""

NOISY_SHARE = 0.001
"""From this much noise on, as a share of the change, begin and end are those of the law that comes nearest: the samples
there are lost in it."""

OF_THE_NOISE = 4.0
"""So far off the law the noise alone takes the farthest of some hundred samples, in its standard deviations."""

LEAST_CHANGE_STOPS = 0.25
"""What changes by less from end to end is no fade."""

DARK_SHARE = 0.001
"""Below this share of the brightest a lamp is out."""

JUMP_OVER_NOISE, JUMP_OVER_SLOPE = 6.0, 5.0
"""A jump between samples is so many times the noise, and so many times the mean change about it."""

LEAST_STEPS = 3

BESIDE = 4
"""So many samples before and after a jump, and one more, say between which levels it leads."""


@dataclass(frozen=True, eq=False, slots=True)
class Step:
    """A jump of the light at a time in seconds, from one level to another (shares of the brightest)."""

    at_s: float
    before: float
    after: float

    @property
    def stops(self) -> float:
        """Its size in stops, without a sign; infinite to or from the dark."""
        low, high = sorted((self.before, self.after))
        return float(np.log2(high / low)) if low > 0.0 else float("inf")


@dataclass(frozen=True, eq=False, slots=True)
class Fade:
    """A fade as it was recorded.

    `real_s` from the first to the last of its change, `lag_s` from the beginning of the recording to that; `law` by
    name, its exponent (of the time from the dark end, for a power; decades, where it is even in stops) and how far the
    level is from it at the most, as a share of the change; `steps` its jumps, empty for a smooth one; `falls_from` the
    share of the brightest from which it goes out at once (or comes on at), None for one that does not; `longest_hold_s`
    the longest time at one level; `back` how far it went against its own direction, as a share of the change. `moments`
    and `levels` are the fade itself, from 0 to 1.
    """

    rising: bool
    real_s: float
    lag_s: float
    change_stops: float | None
    law: str
    exponent: float
    off_law: float
    steps: tuple[Step, ...]
    falls_from: float | None
    longest_hold_s: float
    back: float
    moments: FloatArray
    levels: FloatArray

    @property
    def stepped(self) -> bool:
        """Whether it went in steps."""
        return len(self.steps) >= LEAST_STEPS

    @property
    def largest_step(self) -> Step | None:
        """The largest of its steps in stops, of those that neither begin nor end in the dark."""
        lit = [step for step in self.steps if np.isfinite(step.stops)]
        return max(lit, key=lambda step: step.stops, default=None)


def fade_of(seconds: FloatArray, level: FloatArray) -> Fade:
    """What a recording of a fade shows; times and levels of shape (n,), a level in any unit.

    Raises `CameraError` for what is no fade.
    """
    if level.size < LEAST_SAMPLES:
        raise CameraError(f"{level.size} samples are too few for a fade: {LEAST_SAMPLES} or more")
    if not (np.isfinite(level).all() and np.isfinite(seconds).all() and (np.diff(seconds) > 0.0).all()):
        raise CameraError("a fade is levels against times that go on, all of them numbers")
    few = max(3, level.size // 50)
    first, last = float(np.median(level[:few])), float(np.median(level[-few:]))
    top = max(first, last)
    change = last - first
    noise = _noise(level)
    if top <= 0.0 or abs(change) <= max(6.0 * noise, top * (1.0 - 2.0**-LEAST_CHANGE_STOPS)):
        raise CameraError("the level at the end is that of the beginning: this is no fade")
    share = (level - first) / change
    begin, end = _ends(share, noise / abs(change))
    own = slice(begin, end + 1)
    span = float(seconds[end] - seconds[begin])
    moments = (seconds[own] - seconds[begin]) / span
    rising = change > 0.0
    is_noisy = noise > NOISY_SHARE * abs(change)
    seen = _about(begin, end, share.size) if is_noisy else own  # what lies beside it tells where it goes under
    times = (seconds[seen] - seconds[begin]) / span
    dark_end = (times, share[seen]) if rising else (1.0 - times, 1.0 - share[seen])
    lit = (level[seen] > DARK_SHARE * top) | is_noisy
    low = min(first, last)
    decades = float(np.log10(top / low)) if low > DARK_SHARE * top else 0.0
    found = _law(*dark_end, lit.astype(np.float64), decades if is_noisy else None)
    law, exponent = found.name, found.exponent
    off = max(0.0, found.off - OF_THE_NOISE * noise / abs(change)) if is_noisy else found.off
    starts, stops = (found.begin, found.end) if rising else (1.0 - found.end, 1.0 - found.begin)
    real_s = span * (stops - starts) if is_noisy else span
    lag_s = float(seconds[begin] - seconds[0]) + (span * starts if is_noisy else 0.0)
    steps = _steps(seconds, level, noise, begin, end, top)
    highest = np.maximum.accumulate(share)
    return Fade(
        rising=rising,
        real_s=real_s,
        lag_s=max(0.0, lag_s),
        change_stops=float(np.log2(top / low)) if low > DARK_SHARE * top else None,
        law=law,
        exponent=exponent,
        off_law=off,
        steps=steps,
        falls_from=_falls_from(steps),
        longest_hold_s=_longest_hold(seconds[own], steps),
        back=max(0.0, float((highest - share).max()) - 6.0 * noise / abs(change)),
        moments=moments,
        levels=share[own],
    )


def _about(begin: int, end: int, count: int) -> slice:
    """A fade with a third of its length before it and behind it, as far as that was recorded."""
    beside = max(3, (end - begin) // 3)
    return slice(max(0, begin - beside), min(count, end + 1 + beside))


def _noise(level: FloatArray) -> float:
    second = level[:-2] - 2.0 * level[1:-1] + level[2:]
    return float(1.4826 * np.median(np.abs(second - np.median(second))) / np.sqrt(6.0))


def _ends(share: FloatArray, noise: float) -> tuple[int, int]:
    """The last sample before the change is under way, and the first that stays within its end; where there is noise, of
    means over a two-hundredth of the recording."""
    few = max(1, share.size // 200) if noise > EDGE_SHARE / 10.0 else 1
    smooth = np.convolve(np.pad(share, few // 2, mode="edge"), np.ones(few) / few, mode="valid")[: share.size]
    edge = max(EDGE_SHARE, 6.0 * noise / np.sqrt(few))
    begin = max(int(np.flatnonzero(smooth > edge)[0]) - 1, 0)
    end = min(int(np.flatnonzero(smooth < 1.0 - edge)[-1]) + 1, share.size - 1)
    return begin, max(end, begin + 1)


_FITTED = 500


def _power(t: FloatArray, exponent: float) -> FloatArray:
    curve: FloatArray = t**exponent
    return curve


def _even_in_stops(t: FloatArray, decades: float) -> FloatArray:
    curve: FloatArray = (10.0 ** (decades * t) - 1.0) / (10.0**decades - 1.0)
    return curve


def _s_curve(t: FloatArray, _: float) -> FloatArray:
    return t * t * (3.0 - 2.0 * t)


_Candidate = tuple[str, Callable[[FloatArray, float], FloatArray], tuple[float, float] | None, tuple[float, ...]]

_LAWS: tuple[_Candidate, ...] = (
    ("power", _power, (0.1, 8.0), (0.5, 1.0, 2.0, 3.0)),
    ("even in stops", _even_in_stops, (0.3, 5.0), (1.0, 2.5)),
    ("S-curve", _s_curve, (0.9, 1.1), (1.0,)),
)
"""Names, curves from 0 to 1, the bounds of their exponents and where the search for them begins."""


class _Nearest(NamedTuple):
    """The nearest law: its name and exponent, the greatest distance from it, and where it begins and ends."""

    name: str
    exponent: float
    off: float
    begin: float
    end: float


def _law(moments: FloatArray, level: FloatArray, weights: FloatArray, decades: float | None) -> _Nearest:
    """The nearest law of a fade from its dark end, begin and end free; even in stops over the `decades` between the
    levels at its ends, where noise hides how it begins."""
    from scipy.optimize import least_squares  # takes a moment to import, and only fades need it

    few = np.unique(np.linspace(0, moments.size - 1, min(moments.size, _FITTED)).astype(int))
    t, y, w = moments[few], level[few], weights[few]
    best: tuple[float, _Nearest] | None = None
    for name, curve, bounds, starts in _laws(decades):
        for start in starts:

            def off(p: FloatArray, curve: Callable[[FloatArray, float], FloatArray] = curve) -> FloatArray:
                return (curve(np.clip((t - p[1]) / (1.0 + p[2] - p[1]), 0.0, 1.0), float(p[0])) - y) * w

            low, high = bounds or (0.98 * start, 1.02 * start)
            found = least_squares(off, [start, 0.0, 0.0], bounds=([low, -0.5, -0.3], [high, 0.3, 0.3]))
            if best is None or found.cost < best[0] * 0.98:
                exponent, begin, end = (float(value) for value in found.x)
                far = float(np.abs(found.fun).max())
                best = float(found.cost), _Nearest(name, exponent, far, begin, 1.0 + end)
    assert best is not None
    return best[1]


def _laws(decades: float | None) -> tuple[_Candidate, ...]:
    """The laws to be tried: where noise hides how a fade begins (`decades` known), plain ones before others, for a free
    exponent and a free begin make up for each other."""
    if decades is None:
        return _LAWS
    plain: tuple[_Candidate, ...] = (("power", _power, None, (1.0, 2.0, 3.0)), ("S-curve", _s_curve, None, (1.0,)))
    stops: tuple[_Candidate, ...] = (("even in stops", _even_in_stops, None, (decades,)),) if decades > 0.0 else ()
    return (*plain, *stops, *(law for law in _LAWS if law[1] is not _even_in_stops or not stops))


def _steps(seconds: FloatArray, level: FloatArray, noise: float, begin: int, end: int, top: float) -> tuple[Step, ...]:
    """The jumps, each between the mean levels before and after it."""
    moved = np.diff(level)
    reach = max(5, (end - begin) // 12)
    around = np.convolve(np.abs(moved), np.ones(2 * reach + 1) / (2 * reach + 1), mode="same")
    limit = np.maximum(JUMP_OVER_NOISE * np.sqrt(2.0) * noise, JUMP_OVER_SLOPE * around)
    is_jump = (np.abs(moved) > limit) & (np.abs(moved) > 1e-4 * top)
    is_jump[: max(begin - 1, 0)] = False
    is_jump[end + 1 :] = False
    places = np.flatnonzero(is_jump)
    if not places.size:
        return ()
    runs = np.split(places, np.flatnonzero(np.diff(places) > 2) + 1)
    found = []
    for k, run in enumerate(runs):
        left = max(int(runs[k - 1][-1]) + 1 if k else 0, int(run[0]) - BESIDE)
        right = min(int(runs[k + 1][0]) if k + 1 < len(runs) else level.size - 1, int(run[-1]) + 1 + BESIDE)
        before = float(np.median(level[left : int(run[0]) + 1]))
        after = float(np.median(level[int(run[-1]) + 1 : right + 1]))
        dark = DARK_SHARE * top
        found.append(
            Step(
                float(seconds[int(run[0])]),
                0.0 if before < dark else before / top,
                0.0 if after < dark else after / top,
            )
        )
    return tuple(found)


def _falls_from(steps: tuple[Step, ...]) -> float | None:
    dark = [max(s.before, s.after) for s in steps if min(s.before, s.after) == 0.0 and max(s.before, s.after) > 0.0]
    return dark[-1] if dark else None


def _longest_hold(seconds: FloatArray, steps: tuple[Step, ...]) -> float:
    if len(steps) < LEAST_STEPS:
        return 0.0
    times = [float(seconds[0]), *(step.at_s for step in steps), float(seconds[-1])]
    return float(np.diff(times).max())


def apart(up: Fade, down: Fade) -> float:
    """How far a fade up and one down, run backwards, are from each other at the most, as a share of the change."""
    u = np.linspace(0.0, 1.0, 200)
    first = np.interp(u, up.moments, up.levels)
    second = 1.0 - np.interp(1.0 - u, down.moments, down.levels)
    return float(np.abs(first - second).max())
