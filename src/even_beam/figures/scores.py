"""Pictures of colour rendering: sample lollipops, and the hue-shift graphic of TM-30."""

import math
from collections.abc import Sequence

import numpy as np

from even_beam.bench import notation
from even_beam.figures.chart import Axis, Chart, Line, Mark, Points, Rule, Sticks, Text, Tone
from even_beam.light import FloatArray
from even_beam.light.tm30 import HUE_BINS

Rgb = tuple[int, int, int]


def rgb_of(colours: FloatArray) -> tuple[Rgb, ...]:
    """Display colours 0-1, shape (k, 3), as triples of 0-255."""
    return tuple((int(r), int(g), int(b)) for r, g, b in np.round(255.0 * np.clip(colours, 0.0, 1.0)))


def lollipop_chart(scores: Sequence[float], colours: tuple[Rgb, ...], names: Sequence[str], title: str) -> Chart:
    """Scores as deviations from a perfect 100, each headed by its sample's colour under this light."""
    known = [s for s in scores if math.isfinite(s)]
    if not known:
        return Chart(title, Axis("", 0, 1), Axis("", 0, 100), (), "No scores: the light is coloured.")
    low = min(*known, 80.0) - 4.0
    step = 10 if low > 40 else 25 if low > -60 else 100
    ticks = tuple((float(s), notation.number(float(s))) for s in range(100, int(low) - 1, -step))
    x = [float(i) for i in range(len(scores))]
    every = 1 if len(scores) <= 20 else 10
    labels = tuple((x[i], names[i]) for i in range(len(x)) if i % every == 0)
    hints = tuple(f"{name}: {notation.number(score, 1)}" for name, score in zip(names, scores, strict=True))
    marks: list[Mark] = [
        Rule("y", 100.0),
        Sticks(x=x, y=list(scores), base=100.0, colours=colours, hints=hints, label=title),
    ]
    worst = int(np.nanargmin(np.asarray(scores)))
    if len(scores) <= 20:
        marks.append(Text(x[worst] + 0.2, scores[worst], notation.score(scores[worst]), Tone.PLAIN, above=False))
    summary = (
        f"Lowest: {names[worst]} {notation.number(scores[worst], 1)}; {sum(s < 90 for s in known)} of {len(known)}"
        " below 90."
    )
    return Chart(title, Axis("", -0.8, len(x) - 0.2, labels), Axis("", low, 103.0, ticks), tuple(marks), summary)


def vector_chart(chroma_shift_pct: Sequence[float], hue_shift_rad: Sequence[float]) -> Chart:
    """The colour-shift graphic of TM-30: the reference as a circle, the lamp as what becomes of it in sixteen hues."""
    centre = (np.arange(HUE_BINS) + 0.5) * 2.0 * np.pi / HUE_BINS
    radial, around = np.asarray(chroma_shift_pct) / 100.0, np.asarray(hue_shift_rad)
    if not np.isfinite(radial).all():
        return Chart("hue by hue", Axis("", -1.4, 1.4), Axis("", -1.4, 1.4), (), "No shifts: the light is coloured.")
    x = (1.0 + radial) * np.cos(centre) - around * np.sin(centre)
    y = (1.0 + radial) * np.sin(centre) + around * np.cos(centre)
    circle = np.linspace(0.0, 2.0 * np.pi, 120)
    marks: list[Mark] = [
        Line(np.cos(circle).tolist(), np.sin(circle).tolist(), tone=Tone.QUIET, dashed=True, label="reference"),
        Line([*x.tolist(), float(x[0])], [*y.tolist(), float(y[0])], tone=Tone.PLAIN, label="lamp"),
    ]
    for i in range(HUE_BINS):
        start = (float(np.cos(centre[i])), float(np.sin(centre[i])))
        marks.append(Line([start[0], float(x[i])], [start[1], float(y[i])], tone=Tone.ACCENT))
        marks.append(
            Text(1.2 * start[0], 1.2 * start[1], str(i + 1), Tone.QUIET, anchor="centre", above=start[1] > 0.0)
        )
    hints = tuple(
        f"hue {i + 1}: chroma {notation.number(100 * float(radial[i]), 1, signed=True)} %, hue"
        f" {notation.number(math.degrees(float(around[i])), 1, signed=True)}°"
        for i in range(HUE_BINS)
    )
    marks.append(Points(x.tolist(), y.tolist(), hints=hints, label="lamp"))
    most = int(np.argmax(np.abs(radial)))
    summary = (
        f"Largest chroma shift {notation.number(100 * float(radial[most]), 1, signed=True)} % in hue {most + 1} of 16."
    )
    return Chart(
        "colour shift, hue by hue (dashed: reference)",
        Axis("", -1.5, 1.5),
        Axis("", -1.55, 1.55),
        tuple(marks),
        summary,
    )
