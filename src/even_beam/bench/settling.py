"""Whether the light has settled, from looks at it while one waits: what is still to come, with its uncertainty.

A lamp that warms approaches its end ever more slowly, so the present rate never tells too little of what is to come in
the next minutes. Looks scatter, so the rate has an uncertainty of its own, and that counts against it.
"""

from collections.abc import Sequence

import numpy as np

from even_beam.bench.traces import SETTLED_SHARE

LOOK_EVERY_S = 15.0
WINDOW_S = 360.0
"""Looks of the last six minutes count: fewer do not tell a slow drift from the meter's own scatter."""

AHEAD_S = 600.0
"""Settled light moves by no more than `traces.SETTLED_SHARE` in so long."""

FEWEST = 8


def has_settled(seconds: Sequence[float], levels: Sequence[float]) -> bool:
    """Whether looks at a light (rising `seconds`, `levels` in any unit) say that it no longer moves.

    The straight line through the last `WINDOW_S` of them, carried on for `AHEAD_S`, with twice its standard error.
    """
    at, level = np.asarray(seconds, dtype=float), np.asarray(levels, dtype=float)
    recent = at >= (at[-1] - WINDOW_S if at.size else 0.0)
    at, level = at[recent], level[recent]
    if at.size < FEWEST or not np.all(level > 0.0) or at[-1] - at[0] < 0.5 * WINDOW_S:
        return False
    if np.ptp(level) == 0.0:
        return True  # a meter of few digits shows the same each time: no line has an error then
    (slope, _), covariance = np.polyfit((at - at.mean()) / AHEAD_S, level / level.mean(), 1, cov=True)
    return bool(abs(slope) + 2.0 * float(np.sqrt(covariance[0, 0])) <= SETTLED_SHARE)
