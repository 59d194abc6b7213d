"""The beam of a lamp from its side, to scale, with what it gives at each mark of a walk."""

import math
from collections.abc import Sequence

from even_beam.figures.chart import Axis, Chart, Line, Mark, Text, Tone
from even_beam.words import notation

NEAR = 0.09
"""Marks nearer to each other than this share of the way have one breadth between them."""


def cone_chart(marks: Sequence[tuple[float, str]], beam_deg: float) -> Chart:
    """The cone within which half of the level on the axis is left; `marks` are distances in metres, each with the words
    of what it gives there."""
    slope = math.tan(math.radians(beam_deg) / 2.0)
    far = max(metres for metres, _ in marks)
    reach = far * slope
    found: list[Mark] = [
        Line((0.0, 1.06 * far), (0.0, 1.06 * reach), 0, label="half of the axis"),
        Line((0.0, 1.06 * far), (0.0, -1.06 * reach), 0, label="half of the axis"),
        Line((0.0, 1.06 * far), (0.0, 0.0), tone=Tone.QUIET, dashed=True),
    ]
    told = -far
    for metres, words in marks:
        across = metres * slope
        found.append(Line((metres, metres), (-across, across), tone=Tone.PLAIN, label=words))
        if metres - told >= NEAR * far:
            found.append(Text(metres, across, notation.breadth(2.0 * across), Tone.PLAIN, "centre"))
            told = metres
    high = max(1.3 * reach, 0.18 * far)
    ticks = tuple((metres, notation.distance(metres)) for metres, _ in marks)
    return Chart(
        title=f"the beam to scale \N{MIDDLE DOT} {notation.plain(beam_deg, 0)}° to half of the axis",
        x=Axis("", 0.0, 1.12 * far, ((0.0, "lamp"), *ticks)),
        y=Axis("", -high, high),
        marks=tuple(found),
        summary="; ".join(
            f"{notation.distance(metres)}: {words}, {notation.breadth(2.0 * metres * slope)} wide"
            for metres, words in marks
        ),
        to_scale=True,
    )
