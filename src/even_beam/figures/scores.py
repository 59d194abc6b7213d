"""Pictures of colour rendering: sample lollipops, several lamps on one axis, and the hues of TM-30 in a row."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.figures.chart import (
    Axis,
    Chart,
    Line,
    Mark,
    Places,
    Points,
    Rule,
    Sticks,
    Text,
    Tone,
    behind_first,
    series_of,
)
from even_beam.light import FloatArray
from even_beam.light.tm30 import HUE_BINS
from even_beam.words import notation

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
    return Chart(
        title, Axis("sample", -0.8, len(x) - 0.2, labels), Axis("score", low, 103.0, ticks), tuple(marks), summary
    )


@dataclass(frozen=True, slots=True)
class Sampled:
    """One lamp's scores by sample (NaN where there is none), and the reading behind them."""

    name: str
    scores: tuple[float, ...]
    reading_id: str


def samples_chart(
    lamps: Sequence[Sampled], names: Sequence[str], colours: tuple[Rgb, ...], places: Places | None = None
) -> Chart:
    """The scores of several lamps on one axis, sample by sample, with the samples' colours at the foot."""
    known = [s for lamp in lamps for s in lamp.scores if math.isfinite(s)]
    title = f"{names[0]} to {names[-1]}, all lamps on one axis"
    if not known:
        return Chart(title, Axis("", 0, 1), Axis("", 0, 100), (), "No scores: the light is coloured, or not read.")
    low = max(min(*known, 80.0) - 4.0, -110.0)
    step = 10 if low > 40 else 25 if low > -60 else 100
    foot = low - 0.09 * (103.0 - low)
    ticks = tuple((float(s), notation.number(float(s))) for s in range(100, int(low) - 1, -step))
    x = np.arange(len(names), dtype=float)
    marks: list[Mark] = [Rule("y", at) for at, _ in ticks]
    if colours:
        middle = [(low + foot) / 2.0] * len(names)
        marks.append(Sticks(x=x.tolist(), y=middle, base=middle[0], colours=colours, label="samples"))
    numbers = series_of([lamp.name for lamp in lamps], places)
    for order, (number, lamp) in enumerate(behind_first(numbers, lamps)):
        shift = 0.5 * ((order + 0.5) / len(lamps) - 0.5)  # beside each other within a sample
        own = [(at + shift, score, name) for at, score, name in zip(x, lamp.scores, names, strict=True)]
        own = [(at, max(score, low), name) for at, score, name in own if math.isfinite(score)]
        scores = dict(zip(names, lamp.scores, strict=True))
        marks.append(
            Points(
                [at for at, _, _ in own],
                [score for _, score, _ in own],
                number,
                Tone.QUIET,
                keys=(lamp.reading_id,) * len(own),
                hints=tuple(f"{lamp.name}, {name}: {notation.number(scores[name], 1)}" for _, _, name in own),
                label=lamp.name,
            )
        )
    lowest = []
    for lamp in lamps:
        finite = [(score, name) for score, name in zip(lamp.scores, names, strict=True) if math.isfinite(score)]
        if finite:
            score, name = min(finite)
            lowest.append(f"{lamp.name} lowest in {name}, {notation.number(score, 1)}")
    return Chart(
        title=title,
        x=Axis("sample", -0.8, len(names) - 0.2, tuple(zip(x.tolist(), names, strict=True))),
        y=Axis("score", foot, 103.0, ticks),
        marks=tuple(marks),
        summary="; ".join(lowest) + ".",
        legend=tuple((i, lamp.name) for i, lamp in zip(numbers, lamps, strict=True) if i is not None),
    )


def hue_strip_chart(
    chroma_shift_pct: Sequence[float], hue_shift_rad: Sequence[float], colours: tuple[Rgb, ...], title: str
) -> Chart:
    """Sixteen hues in a row (the bins of TM-30): up is more vivid, down less, a lean to the right turns towards the
    next hue. The colour of each hue stands at its foot.

    A column leans by its hue shift, so that 22.5 degrees, the width of a hue, reaches the next column.
    """
    chroma, around = np.asarray(chroma_shift_pct, dtype=float), np.asarray(hue_shift_rad, dtype=float)
    if not np.isfinite(chroma).all():
        return Chart(title, Axis("", 0, 1), Axis("", -1, 1), (), "No shifts: the light is coloured.")
    reach = max(10.0, 5.0 * math.ceil(float(np.abs(chroma).max()) / 5.0))
    step = 10.0 if reach > 10.0 else 5.0
    ticks = tuple((t, f"{notation.number(t, signed=True)} %") for t in np.arange(-reach, reach + 1e-6, step).tolist())
    foot = -1.22 * reach
    x = np.arange(HUE_BINS, dtype=float)
    lean = around / (2.0 * np.pi / HUE_BINS)
    hints = tuple(
        f"hue {i + 1}: chroma {notation.number(float(chroma[i]), 1, signed=True)} %, hue"
        f" {notation.number(math.degrees(float(around[i])), 1, signed=True)}°"
        for i in range(HUE_BINS)
    )
    marks: list[Mark] = [Rule("y", 0.0)]
    marks += [
        Line([float(i), float(i + lean[i])], [0.0, float(chroma[i])], label=f"hue {i + 1}") for i in range(HUE_BINS)
    ]
    marks.append(Points((x + lean).tolist(), chroma.tolist(), hints=hints, label="lamp"))
    marks.append(Sticks(x=x.tolist(), y=[foot] * HUE_BINS, base=foot, colours=colours, label="hue"))
    most = int(np.argmax(np.abs(chroma)))
    summary = (
        f"Largest chroma shift {notation.number(float(chroma[most]), 1, signed=True)} % in hue {most + 1} of 16;"
        f" largest turn {notation.number(math.degrees(float(np.abs(around).max())), 1)}°."
    )
    names = tuple((float(i), str(i + 1)) for i in range(0, HUE_BINS, 3))
    return Chart(
        title,
        Axis("hue", -0.9, HUE_BINS - 0.1, names),
        Axis("chroma", 1.1 * foot, 1.1 * reach, ticks),
        tuple(marks),
        summary,
    )
