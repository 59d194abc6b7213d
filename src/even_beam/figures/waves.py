"""Light against time: the cycles of a waveform, the parts it is made of, fades."""

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from even_beam.camera.fades import Fade
from even_beam.camera.waveform import Waveform
from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Line, Mark, Rule, Text, Tone
from even_beam.light import FloatArray
from even_beam.words import notation

MOST_POINTS = 2000
CYCLES = 3.0

_TICKS_HZ = (10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 50_000)


def cycles_chart(waveform: Waveform, hz: float | None) -> Chart:
    """The first cycles of a waveform, over the mean of the light where it is known."""
    length = min(CYCLES / hz if hz else waveform.seconds, waveform.seconds)
    count = max(2, min(int(length * waveform.rate_hz) + 1, waveform.light.size))
    mean = float(waveform.light.mean()) if waveform.steady_part else 1.0
    light = [float(v) / mean for v in _few(waveform.light[:count])]
    times = [float(t) for t in _few(np.arange(count) * (1000.0 / waveform.rate_hz))]
    what = "light over its mean" if waveform.steady_part else "change of light"
    title = f"{waveform.name}: {'three cycles' if hz else 'light against time'}".lstrip(": ")
    marks: list[Mark] = [Rule("y", 1.0 if waveform.steady_part else 0.0), Line(times, light, label=title)]
    around = (0.0,) if waveform.steady_part else ()
    y = axes.nice(what, light, least=0.2, decimals=1, around=around)
    summary = f"Light runs from {min(light):.2f} to {max(light):.2f} of its mean."
    return Chart(title, axes.nice("time, ms", times, least=0.1), y, tuple(marks), summary)


def parts_chart(parts: Sequence[tuple[float, float]], *, relative: bool) -> Chart:
    """The sines that a waveform is made of, by their frequency."""
    of = "of the strongest" if relative else "of the mean"
    title = f"What it is made of: amplitude of each part, % {of}"
    if not parts:
        return Chart(title, Axis("", 0, 1), Axis("", 0, 1), (), "No part stands out.")
    x = [math.log2(hz) for hz, _ in parts]
    y = [100.0 * amplitude for _, amplitude in parts]
    ticks = tuple((math.log2(hz), notation.number(hz)) for hz in _TICKS_HZ)
    low, high = min(x) - 1.0, max(x) + 1.0
    names = [f"{notation.number(hz)} Hz" for hz, _ in parts]
    marks: list[Mark] = [Line([a, a], [0.0, b], label=name) for a, b, name in zip(x, y, names, strict=True)]
    strongest = max(range(len(y)), key=lambda i: y[i])
    marks.append(Text(x[strongest] + 0.05, y[strongest], names[strongest], Tone.PLAIN, above=False))
    return Chart(
        title,
        Axis("frequency, Hz", low, high, tuple(t for t in ticks if low <= t[0] <= high)),
        axes.nice("amplitude, %", y, least=1.0, around=(0.0,)),
        tuple(marks),
        "; ".join(f"{notation.number(hz)} Hz {100.0 * a:.1f} %" for hz, a in parts),
    )


def fade_chart(
    name: str, fade: Fade, seconds: FloatArray, level: FloatArray, asked_s: float | None, what: str = "level"
) -> Chart:
    """A fade against time, its begin and end marked, and the straight line it would be if `what` fades went with
    time."""
    first, last = float(level[0]), float(level[-1])
    scale = 100.0 / float(level.max()) if what == "level" else 1.0
    y = [scale * float(v) for v in _few(level)]
    x = [float(t) for t in _few(seconds)]
    begin = float(seconds[0]) + fade.lag_s
    ends = ((0.0, 100.0) if fade.rising else (100.0, 0.0)) if what == "level" else (first, last)
    marks: list[Mark] = [
        Line([begin, begin + fade.real_s], list(ends), tone=Tone.QUIET, dashed=True, label=f"{what} with time"),
        Line(x, y, label=name),
        Rule("x", begin, dashed=True),
        Rule("x", begin + fade.real_s, dashed=True),
    ]
    if asked_s is not None:
        marks.append(Text(begin + asked_s, sum(ends) / 2.0, f"asked: {notation.plain(asked_s, 1)} s", Tone.ACCENT))
        marks.append(Rule("x", begin + asked_s, tone=Tone.ACCENT))
    return Chart(
        f"{name}: {what} against time; the dashed line is {what} going with time",
        axes.nice("time, s", x, least=0.5, decimals=1),
        axes.nice("level, %", y, least=10.0, around=(0.0, 100.0))
        if what == "level"
        else axes.nice(what, y, least=0.5, decimals=1),
        tuple(marks),
        f"{'Up' if fade.rising else 'Down'} in {fade.real_s:.2f} s, {len(fade.steps)} jumps.",
    )


def level_chart(name: str, seconds: FloatArray, level: FloatArray) -> Chart:
    """A recording of light against time, as it is."""
    top = max(float(np.abs(level).max()), 1e-12)
    x, y = [float(t) for t in _few(seconds)], [100.0 * float(v) / top for v in _few(level)]
    return Chart(
        f"{name}: level against time",
        axes.nice("time, s", x, least=0.5, decimals=1),
        axes.nice("level, %", y, least=10.0, around=(0.0, 100.0)),
        (Line(x, y, label=name),),
        f"Level over {notation.plain(x[-1], 1)} s.",
    )


def _few(values: NDArray[np.floating[Any]]) -> NDArray[np.floating[Any]]:
    """As many as a picture can show, evenly spread."""
    return values[:: max(1, -(-values.size // MOST_POINTS))]
