"""Timing: the best of several runs, since only disturbances are added to it."""

import time
from collections.abc import Callable


def best_of(call: Callable[[], object], repeats: int) -> float:
    """The shortest of `repeats` times of a call, in seconds."""
    times = []
    for _ in range(repeats):
        start = time.perf_counter()
        call()
        times.append(time.perf_counter() - start)
    return min(times)
