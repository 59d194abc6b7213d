"""Axes with sensible ends and ticks."""

import math
from collections.abc import Iterable, Sequence

from even_beam.figures.chart import Axis
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

_AS_WRITTEN = {"duv": "Duv"}


def heading(quantity: str) -> str:
    """What stands along the axis of a quantity: its label, or the name of a change as it is."""
    known = QUANTITIES.get(quantity)
    return _AS_WRITTEN.get(quantity, quantity if known is None else known.label)


def nice(
    label: str,
    values: Iterable[float],
    *,
    least: float,
    decimals: int = 0,
    signed: bool = False,
    around: Sequence[float] = (),
) -> Axis:
    """A linear axis over the values and over `around`, at least `least` wide, with four to seven round ticks."""
    known = [v for v in (*values, *around) if math.isfinite(v)] or [0.0]
    low, high = min(known), max(known)
    if high - low < least:
        middle = (low + high) / 2.0
        low, high = middle - least / 2.0, middle + least / 2.0
    margin = 0.08 * (high - low)
    low, high = low - margin, high + margin
    rough = (high - low) / 5.0
    power = 10.0 ** math.floor(math.log10(rough))
    step = next(f * power for f in (1.0, 2.0, 2.5, 5.0, 10.0) if f * power >= rough)
    first = math.ceil(low / step) * step
    count = int((high - first) / step + 1e-9) + 1
    needed = next(p for p in range(12) if abs(step * 10.0**p - round(step * 10.0**p)) < 1e-6)
    places = max(decimals, needed)  # a tick at 97.5 must not be called 98
    ticks = tuple((first + i * step, notation.number(first + i * step, places, signed=signed)) for i in range(count))
    return Axis(label, low, high, ticks)


DIMMER_TICKS = (0.5, 1.0, 2.0, 5.0, 10.0, 25.0, 50.0, 100.0)


def dimmer(levels: Iterable[float]) -> Axis:
    """Dimmer setting on a log2 axis, from the lowest level (at most 1 %) to full."""
    known = [level for level in levels if level > 0.0]
    low = min([1.0, *known])
    start = math.log2(low) - 0.25
    ticks = tuple((math.log2(t), notation.percent(t)) for t in DIMMER_TICKS if t >= low * 0.99)
    return Axis("dimmer setting, %", start, math.log2(100.0) + 0.5, ticks)


def distance(metres: Sequence[float], unit: str) -> Axis:
    """Distance on a log2 axis with the marks of the walk as ticks."""
    marks = sorted(set(metres))
    ticks = tuple((math.log2(m), notation.distance(m, unit)) for m in marks)
    return Axis("distance", math.log2(marks[0]) - 0.35, math.log2(marks[-1]) + 0.35, ticks)
