"""The sources about a target white: mired across, Duv up, the target in the middle, what passes for it as a ring."""

from collections.abc import Sequence

from even_beam.bench.measured import Measured
from even_beam.bench.target import MATCH_DUV, MATCH_MIRED, Distance, Target
from even_beam.figures import axes
from even_beam.figures.chart import Chart, Mark, Points, Ring, Rule, Text, Tone
from even_beam.words import notation

_RINGS = (1.0, 2.0)
_NAME_PLACES = (("left", True), ("left", False), ("right", True), ("right", False))
"""Where a name stands about its mark; marks that crowd take the next place."""

_ROOM_FOR_NAMES = 1.25
"""The axis goes on beyond the outermost mark, whose name stands above or below it."""

_CROWD_MIRED, _CROWD_DUV = 40.0, 0.002


def target_chart(
    found: Sequence[Distance], names: Sequence[str], aim: Target, current: Measured | None = None
) -> Chart:
    """One mark a source, named; the newest hollow and lit. A source without a tint lies on the middle line."""
    mired = [d.mired for d in found]
    duv = [d.duv or 0.0 for d in found]
    x = axes.nice(
        "mired from the target",
        mired,
        least=6.0 * MATCH_MIRED,
        signed=True,
        around=(-2.0 * MATCH_MIRED, 2.0 * MATCH_MIRED),
    )
    y = axes.nice(
        "Duv from the target",
        [_ROOM_FOR_NAMES * one for one in duv],
        least=6.0 * MATCH_DUV,
        decimals=3,
        signed=True,
        around=(-2.0 * MATCH_DUV, 2.0 * MATCH_DUV),
    )
    marks: list[Mark] = [Rule("x", 0.0, dashed=True), Rule("y", 0.0, dashed=True)]
    marks += [Ring(0.0, 0.0, 2.0 * r * MATCH_MIRED, 2.0 * r * MATCH_DUV) for r in _RINGS]
    marks += [
        Text(x.low, y.high, " to green", above=False),
        Text(x.low, y.low, " to magenta"),
        Text(x.high, 0.0, "warmer ", anchor="right"),
        Text(x.low, 0.0, " cooler"),
    ]
    placed: list[tuple[float, float]] = []
    for one, name, right, up in zip(found, names, mired, duv, strict=True):
        here = current is not None and one.measured.reading.id == current.reading.id
        tone = Tone.ACCENT if here else Tone.PLAIN
        hint = f"{name}: {one.words}"
        marks.append(
            Points([right], [up], tone=tone, hollow=here, keys=(one.measured.reading.id,), hints=(hint,), label=name)
        )
        near = sum(abs(right - px) < _CROWD_MIRED and abs(up - py) < _CROWD_DUV for px, py in placed)
        anchor, above = _NAME_PLACES[near % len(_NAME_PLACES)]
        marks.append(Text(right, up, f" {name} ", tone=tone, anchor=anchor, above=above))
        placed.append((right, up))
    matching = sum(d.matches for d in found)
    summary = (
        f"{len(found)} sources about {aim.words}; {matching} of them pass for it, within {notation.number(MATCH_MIRED)}"
        f" mired and {MATCH_DUV} Duv."
    )
    return Chart(f"about the target, {aim.words}", x, y, tuple(marks), summary)
