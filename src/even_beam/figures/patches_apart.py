"""How far the patches of a photographed chart are from a benchmark, each headed by its colour."""

import math

from even_beam.camera.chart_comparison import ChartDifference
from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Mark, Rule, Sticks, Text, Tone
from even_beam.figures.scores import rgb_of
from even_beam.light.adaptation import srgb_of_linear
from even_beam.light.subjects import in_order

JUST_SEEN = 1.0
"""CIEDE2000 of one: about what is just seen side by side (common practice, no source)."""


_ORDER = "skins, reds, yellows, greens, blues, violets, greys"


def apart_chart(one: ChartDifference, *, balanced: bool) -> Chart:
    """How far each patch is from the benchmark, headed by its colour under the lamp."""
    off = one.balanced if balanced else one.as_shot
    how = "once greys agree" if balanced else "as shot"
    title = f"{one.reading.name}: patches apart from the benchmark, {how}"
    names = [patch.name for patch in one.reading.chart.patches]
    order = in_order(names)
    at = {k: float(place) for place, k in enumerate(order)}
    known = [k for k in order if math.isfinite(off[k])]
    if not known:
        return Chart(title, Axis("", 0, 1), Axis("", 0, 1), (), "No patch counts in both photographs.")
    colours = rgb_of(srgb_of_linear(one.colours[1 if balanced else 0]))
    y = axes.nice("CIEDE2000", [float(off[k]) for k in known], least=4.0, around=(0.0,))
    x = Axis(_ORDER, -0.8, len(names) - 0.2)
    worst = max(known, key=lambda k: off[k])
    marks: list[Mark] = [
        Rule("y", JUST_SEEN, dashed=True),
        Sticks(
            x=[at[k] for k in known],
            y=[float(off[k]) for k in known],
            base=0.0,
            colours=tuple(colours[k] for k in known),
            hints=tuple(f"{names[k]}: {off[k]:.1f}" for k in known),
            label=title,
        ),
        Text(at[worst] + 0.3, float(off[worst]), f"{names[worst]} {off[worst]:.1f}", Tone.PLAIN, above=False),
    ]
    over = sum(off[k] > JUST_SEEN for k in known)
    return Chart(title, x, y, tuple(marks), f"{over} of {len(known)} patches are further off than is just seen.")
