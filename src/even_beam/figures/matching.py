"""What dial and gels do to each source: from where it was read to where it comes, about the target."""

from collections.abc import Sequence

from even_beam.bench.target import MATCH_DUV, MATCH_MIRED, Target, off_words
from even_beam.figures import axes
from even_beam.figures.chart import Chart, Line, Mark, Places, Points, Ring, Rule, Text
from even_beam.known.matching.answer import Answer
from even_beam.words import notation

_ROOM_FOR_NAMES = 1.25
"""The axis goes on beyond the outermost mark, whose name stands above or below it."""


def matching_chart(answers: Sequence[Answer], aim: Target, places: Places) -> Chart:
    """A filled mark where a source was read, a hollow one where the answer brings it, and a line between; the ring is
    what passes for the target. A source without a tint lies on the middle line."""
    off = [(one.off[0], one.off[1] or 0.0) for one in answers]
    left = [(one.left[0], one.left[1] or 0.0) for one in answers]
    x = axes.nice(
        "mired from the target",
        [mired for mired, _ in (*off, *left)],
        least=6.0 * MATCH_MIRED,
        signed=True,
        around=(-2.0 * MATCH_MIRED, 2.0 * MATCH_MIRED),
    )
    y = axes.nice(
        "Duv from the target",
        [_ROOM_FOR_NAMES * duv for _, duv in (*off, *left)],
        least=6.0 * MATCH_DUV,
        decimals=3,
        signed=True,
        around=(-2.0 * MATCH_DUV, 2.0 * MATCH_DUV),
    )
    marks: list[Mark] = [Rule("x", 0.0, dashed=True), Rule("y", 0.0, dashed=True)]
    marks.append(Ring(0.0, 0.0, 2.0 * MATCH_MIRED, 2.0 * MATCH_DUV))
    marks += [Text(x.low, y.high, " to green", above=False), Text(x.low, y.low, " to magenta")]
    marks += [Text(x.high, 0.0, "warmer ", anchor="right"), Text(x.low, 0.0, " cooler")]
    for one, (mired, duv), (to_mired, to_duv) in zip(answers, off, left, strict=True):
        series = places.get(one.name)
        hint = f"{one.name}: {off_words(*one.off)}"
        if (mired, duv) != (to_mired, to_duv):
            marks.append(Line([mired, to_mired], [duv, to_duv], series=series))
            after = f"{one.name}, {one.does}: {off_words(*one.left)}"
            marks.append(Points([to_mired], [to_duv], series=series, hollow=True, hints=(after,)))
        marks.append(Points([mired], [duv], series=series, keys=one.readings[:1], hints=(hint,), label=one.name))
        marks.append(Text(mired, duv, f" {one.name} ", anchor="right" if mired > 0.5 * x.high else "left"))
    agree = sum(one.leaves for one in answers)
    summary = (
        f"{len(answers)} sources about {aim.words}; {agree} agree as they were read, within"
        f" {notation.number(MATCH_MIRED)} mired and {MATCH_DUV} Duv. Hollow marks are after dial and gels."
    )
    return Chart(f"about {aim.words}; hollow: after dial and gels", x, y, tuple(marks), summary)
