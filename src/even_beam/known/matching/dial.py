"""What to dial for a white: from a lamp's own readings at one set of terms, in mired and Duv, refined as readings come.

The lamp is taken to answer its dials as a smooth surface does: near a reading the answer moves in proportion to the
dials. How much, the nearest readings say (the secant through them), and what they leave open is taken as the dial says:
a mired for a mired.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from even_beam.bench.dial_steps import DialSteps
from even_beam.bench.measured import Measured
from even_beam.bench.target import MATCH_DUV, MATCH_MIRED, Target
from even_beam.light.spectra import FloatArray

PLAY_MIRED = 1.0
"""A white this far beyond the last one read is still taken as reached."""

WALKED = 3
"""From so many whites on, those read are taken as the range of the dial; with fewer it may well go on."""

SAME_DUV = 0.0003
"""A tint so near to the target's is left as it is."""

TRIED_MIRED = 40.0
"""No dial is named farther than this from what was read; within it, beyond the readings, it is one to try."""

_STEEPEST, _FLATTEST = 3.0, 0.2
"""Mired a mired: a secant beyond these is scatter, or a dial that does nothing."""

_CURVED = 0.05
"""The share of a move that a lamp's own curve may add to it (common practice, no source)."""


USUAL = DialSteps()


@dataclass(frozen=True, eq=False, slots=True)
class DialPoint:
    """One setting that was read: the dials, and what the light was. `half_` are 95 % half widths.

    `tint` and `duv` are None where none was dialled, or none read; `level_stops` is log2 of its illuminance.
    """

    dial_k: float
    tint: float | None
    mired: float
    duv: float | None
    half_mired: float
    half_duv: float
    level_stops: float | None
    repeats: tuple[Measured, ...]


@dataclass(frozen=True, eq=False, slots=True)
class DialAnswer:
    """What to dial and what is expected then; `exact_k` is the dial before it is rounded to what a dial can do.

    `tint` is None where the lamp has no tint dial, or none that was read at two settings. `reachable` is False where
    the target lies beyond what was read: the dial is then the nearest. `tried` where it lies a little beyond, or in a
    wide gap: such a dial is worth trying, and reading. `unread` where the dial may well reach the target, and nothing
    was read near enough to say. `level_stops` is against `nearest`, the reading
    that lies nearest to the target. `half_` are 95 % half widths of what is expected.
    """

    dial_k: float
    exact_k: float
    tint: float | None
    mired: float
    duv: float | None
    half_mired: float
    half_duv: float | None
    level_stops: float | None
    reachable: bool
    nearest: DialPoint
    rests_on: tuple[DialPoint, ...]
    steps: DialSteps = USUAL
    tried: bool = False
    unread: bool = False


def dial_answer(points: Sequence[DialPoint], target: Target, steps: DialSteps = USUAL) -> DialAnswer | None:
    """What to dial for a target from the readings of one lamp that differ in its white and tint dials alone, at the
    settings that its dial has.

    None without a reading.
    """
    if not points:
        return None
    wanted = 1e6 / target.cct_k
    by_tint = _tint_dial(points)
    if by_tint and (untouched := _without_tint(points, target, steps)) is not None:
        return untouched
    whole = [p for p in points if p.duv is not None and p.tint is not None] if by_tint else list(points)
    ordered = sorted(whole, key=lambda p: _far(p, wanted, target.duv if by_tint else None))
    nearest = ordered[0]
    slopes, used = _slopes(ordered, by_tint)
    move: FloatArray = np.linalg.solve(slopes, _missing(nearest, wanted, target.duv, by_tint)).astype(np.float64)
    if by_tint:
        move = _within_the_tints_read(move, slopes, nearest, points, wanted)
    least, most = min(p.mired for p in points), max(p.mired for p in points)
    walked = len({p.dial_k for p in points}) >= WALKED
    beyond_read = max(least - wanted, wanted - most)
    if beyond_read > (PLAY_MIRED if walked else TRIED_MIRED):
        end = min(points, key=lambda p: abs(p.mired - wanted))
        reachable = abs(end.mired - wanted) <= MATCH_MIRED
        return replace(_as_it_is(end, reachable=reachable), unread=not walked and not reachable)
    exact = 1e6 / (1e6 / nearest.dial_k + float(move[0]))
    tint = nearest.tint + float(move[1]) if by_tint and nearest.tint is not None else None
    low, high = _tints_read(points) if tint is not None else (0.0, 0.0)
    far = beyond_read > PLAY_MIRED or _gap_about(points, wanted) > TRIED_MIRED
    dial_k = steps.nearest(exact)
    moved = np.array([1e6 / dial_k - 1e6 / nearest.dial_k, *move[1:]])
    got = slopes @ moved
    beyond = _CURVED * abs(float(moved[0]))
    duv = nearest.duv + float(got[1]) if by_tint and nearest.duv is not None else _between(ordered, dial_k)
    return DialAnswer(
        tried=far or (tint is not None and not low <= tint <= high),
        dial_k=dial_k,
        exact_k=exact,
        tint=tint,
        mired=nearest.mired + float(got[0]),
        duv=duv,
        half_mired=float(np.hypot(nearest.half_mired, beyond)),
        half_duv=None if duv is None else nearest.half_duv,
        level_stops=_level(ordered, dial_k, nearest),
        reachable=True,
        nearest=nearest,
        rests_on=used,
        steps=steps,
    )


def _without_tint(points: Sequence[DialPoint], target: Target, steps: DialSteps) -> DialAnswer | None:
    """The answer of the white's dial alone, with the tint untouched, where that has the target's tint already."""
    plain = [p for p in points if not p.tint]
    found = dial_answer(plain, target, steps)
    if found is None or not found.reachable or found.duv is None:
        return None
    is_there = abs(found.duv - target.duv) <= SAME_DUV
    return replace(found, tint=0.0) if is_there and not found.tried else None


def _within_the_tints_read(
    move: FloatArray, slopes: FloatArray, nearest: DialPoint, points: Sequence[DialPoint], wanted: float
) -> FloatArray:
    """A move that takes the tint dial at most half as far again as it was read, its white made up for."""
    low, high = _tints_read(points)
    here, more = nearest.tint or 0.0, (high - low) / 2.0
    tint = float(np.clip(here + move[1], low - more, high + more)) - here
    if tint == float(move[1]):
        return move
    white = (wanted - nearest.mired - slopes[0, 1] * tint) / slopes[0, 0]
    return np.array([white, tint], dtype=np.float64)


def _tints_read(points: Sequence[DialPoint]) -> tuple[float, float]:
    """The ends of the tint dial as far as it was read."""
    tints = [p.tint for p in points if p.tint is not None]
    return min(tints), max(tints)


def _gap_about(points: Sequence[DialPoint], wanted: float) -> float:
    """How far the nearest reading lies from a white, in mired."""
    return min(abs(p.mired - wanted) for p in points)


def _as_it_is(point: DialPoint, *, reachable: bool) -> DialAnswer:
    """The end of a dial beyond which nothing was read, as it was read there; it may pass for the target."""
    return DialAnswer(
        dial_k=point.dial_k,
        exact_k=point.dial_k,
        tint=point.tint,
        mired=point.mired,
        duv=point.duv,
        half_mired=point.half_mired,
        half_duv=None if point.duv is None else point.half_duv,
        level_stops=0.0 if point.level_stops is not None else None,
        reachable=reachable,
        nearest=point,
        rests_on=(point,),
    )


def _tint_dial(points: Sequence[DialPoint]) -> bool:
    """Whether the tint dial was read at two settings or more."""
    return len({p.tint for p in points if p.tint is not None and p.duv is not None}) > 1


MIRED_TO_DUV = MATCH_DUV / MATCH_MIRED
"""What a mired weighs beside Duv: both limits of a match count the same."""


def _far(point: DialPoint, wanted: float, duv: float | None) -> float:
    white = MIRED_TO_DUV * (point.mired - wanted)
    return float(np.hypot(white, (point.duv - duv) if duv is not None and point.duv is not None else 0.0))


def _missing(nearest: DialPoint, wanted: float, duv: float, by_tint: bool) -> FloatArray:
    white = wanted - nearest.mired
    return np.array([white, duv - (nearest.duv or 0.0)] if by_tint else [white])


def _slopes(ordered: Sequence[DialPoint], by_tint: bool) -> tuple[FloatArray, tuple[DialPoint, ...]]:
    """Answer over dials near the first reading, shape (n, n), and the readings that say so.

    What the readings span is the secant through the nearest of them; the rest stays as the dials say.
    """
    first, size = ordered[0], 1 + by_tint
    slopes = np.eye(size)
    if by_tint:
        slopes[1, 1] = _tint_by_dial(ordered)
    steps: list[FloatArray] = []
    answers: list[FloatArray] = []
    used = [first]
    tint_size = _tint_span(ordered) if by_tint else 1.0
    for other in ordered[1:]:
        step = _step(first, other, by_tint)
        scaled = step / np.array([100.0, tint_size][:size])
        if not _is_new(scaled, [s / np.array([100.0, tint_size][:size]) for s in steps]):
            continue
        steps.append(step)
        answers.append(_answer(first, other, by_tint))
        used.append(other)
        if len(steps) == size:
            break
    if steps:
        x, y = np.stack(steps, axis=-1), np.stack(answers, axis=-1)
        scale = np.array([100.0, tint_size][:size])[:, None]
        slopes = slopes + (y - slopes @ x) @ np.linalg.pinv(x / scale) / scale.T
    return _kept_sane(slopes), tuple(used)


def _step(first: DialPoint, other: DialPoint, by_tint: bool) -> FloatArray:
    white = 1e6 / other.dial_k - 1e6 / first.dial_k
    return np.array([white, (other.tint or 0.0) - (first.tint or 0.0)] if by_tint else [white])


def _answer(first: DialPoint, other: DialPoint, by_tint: bool) -> FloatArray:
    white = other.mired - first.mired
    return np.array([white, (other.duv or 0.0) - (first.duv or 0.0)] if by_tint else [white])


def _is_new(step: FloatArray, known: Sequence[FloatArray]) -> bool:
    """Whether a step leads in a direction that the known ones do not span; both scaled to what is usual of a dial."""
    size = float(np.linalg.norm(step))
    if size < 1e-3:
        return False
    if not known:
        return True
    area = abs(float(np.linalg.det(np.stack([known[0], step]))))
    return area > 0.1 * size * float(np.linalg.norm(known[0]))


def _tint_span(points: Sequence[DialPoint]) -> float:
    tints = [p.tint for p in points if p.tint is not None]
    return max(tints) - min(tints)


def _tint_by_dial(points: Sequence[DialPoint]) -> float:
    """Duv for one of the tint dial, by all readings: what two settings of it at any whites say on the mean."""
    dialled = np.array([[p.tint or 0.0, 1.0, 1e6 / p.dial_k / 100.0] for p in points])
    duv = np.array([p.duv or 0.0 for p in points])
    weight = np.array([1.0, 1.0, 1.0 if len({p.dial_k for p in points}) > 1 else 0.0])
    return float(np.linalg.lstsq(dialled * weight, duv, rcond=None)[0][0])


def _kept_sane(slopes: FloatArray) -> FloatArray:
    """A dial that seems to do nothing, or wonders, is taken at its word."""
    if _FLATTEST <= slopes[0, 0] <= _STEEPEST and abs(np.linalg.det(slopes)) > 1e-9:
        return slopes
    sane = slopes.copy()
    sane[0, 0] = 1.0
    if sane.shape[0] > 1:
        sane[0, 1] = sane[1, 0] = 0.0
    return sane


def _between(ordered: Sequence[DialPoint], dial_k: float) -> float | None:
    """The tint at a dial between the readings about it, in mired; held at the ends. None where none was read."""
    return _interpolated([(p.dial_k, p.duv) for p in ordered], dial_k)


def _level(ordered: Sequence[DialPoint], dial_k: float, nearest: DialPoint) -> float | None:
    """What the dial costs or gives in level against the nearest reading, in stops."""
    level = _interpolated([(p.dial_k, p.level_stops) for p in ordered], dial_k)
    return None if level is None or nearest.level_stops is None else level - nearest.level_stops


def _interpolated(pairs: Sequence[tuple[float, float | None]], dial_k: float) -> float | None:
    known = sorted((1e6 / dial, value) for dial, value in pairs if value is not None)
    if not known:
        return None
    mired, values = zip(*known, strict=True)
    return float(np.interp(1e6 / dial_k, mired, values))
