"""Whether light stands still after a change: the straight line through the last looks has no slope that could be told
from none, and would be told if there were one that matters."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

SPANS_S = (0.5, 1.0, 2.0, 4.0, 8.0)
"""Looks of so long are judged together; a meter that scatters, or is slow, needs the longer ones."""
LEAST_LOOKS, LEAST_SEEN = 4, 0.8
"""Looks that a busy machine had come in a burst see too little of the time to say anything."""
LEVEL_LIMIT, WHITE_LIMIT_MIRED = 0.0025, 0.5
"""Over its span the line moves by no more than this share, and this much white, or than twice its standard error."""
LEVEL_OPEN, WHITE_OPEN_MIRED = 0.007, 1.5
"""Looks that leave more open than this say nothing yet."""
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
    for span in SPANS_S:
        own = [one for one in looks if one.at_s >= looks[-1].at_s - span]
        seen = own[-1].at_s - own[0].at_s
        if len(own) < LEAST_LOOKS or seen < LEAST_SEEN * span:
            continue
        at = np.array([one.at_s for one in own])
        levels = np.log(np.maximum([one.level for one in own], 1e-12))
        whites = np.array([np.nan if one.mired is None else one.mired for one in own])
        if _stands(at, levels, LEVEL_LIMIT, LEVEL_OPEN) and _stands(at, whites, WHITE_LIMIT_MIRED, WHITE_OPEN_MIRED):
            return True
    return False


def _stands(at: np.ndarray, values: np.ndarray, limit: float, open_: float) -> bool:
    """Whether a line through values has no slope; what was not read cannot have one."""
    known = np.isfinite(values)
    at, values = at[known], values[known]
    if at.size < LEAST_LOOKS:
        return True
    span = float(at[-1] - at[0])
    spread = at - at.mean()
    slope = float(spread @ values / (spread @ spread))
    residual = values - values.mean() - slope * spread
    half = 2.0 * span * float(np.sqrt(residual @ residual / (at.size - 2) / (spread @ spread)))
    return half <= open_ and abs(slope) * span <= max(limit, half)


def has_moved(before: Look, now: Look) -> bool:
    """Whether level or white moved from one light to another by more than a meter's scatter."""
    ratio = abs(float(np.log(max(now.level, 1e-12) / max(before.level, 1e-12))))
    mired = abs((now.mired or 0.0) - (before.mired or 0.0)) if now.mired and before.mired else 0.0
    return ratio > GONE_ON or mired > GONE_ON_MIRED
