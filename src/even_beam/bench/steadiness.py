"""Whether light stands still after a change: two windows of looks that agree within the meter's own scatter."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

WINDOW_S = 0.25
"""So long is a window, or two looks of a slow meter: a lamp that takes a second to come still moves within it."""

LEAST_LOOKS = 2
LEVEL_LIMIT = 0.0025
"""The means of both windows lie within this share of each other, or within twice what scatter leaves open."""
WHITE_LIMIT_MIRED = 0.5
GONE_ON = 0.03
"""A level that moved by less than this share, and a white by less than `GONE_ON_MIRED`, did not move."""
GONE_ON_MIRED = 2.0


@dataclass(frozen=True, slots=True)
class Look:
    """A look at the light: seconds, level in any unit, white in mired where one was read."""

    at_s: float
    level: float
    mired: float | None = None


def is_steady(looks: Sequence[Look]) -> bool:
    """Whether the last looks say that level and white no longer move."""
    windows = _windows(looks)
    if windows is None:
        return False
    before, now = windows
    stands = _agree(_levels(before), _levels(now), LEVEL_LIMIT)
    return stands and _agree(_whites(before), _whites(now), WHITE_LIMIT_MIRED)


def _levels(looks: Sequence[Look]) -> list[float]:
    """Natural logarithms: a difference is a share."""
    return [float(np.log(max(one.level, 1e-12))) for one in looks]


def _whites(looks: Sequence[Look]) -> list[float]:
    return [one.mired for one in looks if one.mired is not None]


def _windows(looks: Sequence[Look]) -> tuple[Sequence[Look], Sequence[Look]] | None:
    """The last two windows, each of at least `WINDOW_S` and `LEAST_LOOKS`."""
    found, end = [], len(looks)
    for _ in range(2):
        start = end - LEAST_LOOKS
        while start > 0 and looks[end - 1].at_s - looks[start].at_s < WINDOW_S:
            start -= 1
        if start < 0 or looks[end - 1].at_s - looks[start].at_s < WINDOW_S:
            return None
        found.append(looks[start:end])
        end = start
    return found[1], found[0]


def _agree(before: Sequence[float], now: Sequence[float], limit: float) -> bool:
    if len(before) < LEAST_LOOKS or len(now) < LEAST_LOOKS:
        return True  # what is not read cannot disagree
    scatter = float(np.sqrt(np.var(before, ddof=1) / len(before) + np.var(now, ddof=1) / len(now)))
    return bool(abs(np.mean(now) - np.mean(before)) <= max(limit, 2.0 * scatter)) and _is_flat(now, limit)


def _is_flat(now: Sequence[float], limit: float) -> bool:
    """Whether there is no slope within a window: scatter that is one would hide behind itself."""
    if len(now) < 4:
        return True
    halves = len(now) // 2
    early, late = now[:halves], now[halves:]
    scatter = float(np.sqrt(np.var(early, ddof=1) / len(early) + np.var(late, ddof=1) / len(late)))
    return bool(abs(np.mean(late) - np.mean(early)) <= max(limit, 2.5 * scatter))


def has_moved(before: Look, now: Look) -> bool:
    """Whether level or white moved from one light to another by more than a meter's scatter."""
    ratio = abs(float(np.log(max(now.level, 1e-12) / max(before.level, 1e-12))))
    mired = abs((now.mired or 0.0) - (before.mired or 0.0)) if now.mired and before.mired else 0.0
    return ratio > GONE_ON or mired > GONE_ON_MIRED
