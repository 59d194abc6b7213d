"""Pictures of what a camera sees: patches apart from a benchmark, light against time, its parts, a fade, a film."""

import math
from collections.abc import Sequence

import numpy as np

from even_beam.bench import notation
from even_beam.camera.chart_comparison import ChartDifference
from even_beam.camera.fades import Fade
from even_beam.camera.photo import srgb_of_linear
from even_beam.camera.waveform import Waveform, evenly
from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Line, Mark, Rule, Sticks, Text, Tone
from even_beam.figures.scores import rgb_of
from even_beam.light import FloatArray

MOST_POINTS = 2000
CYCLES = 3.0

_TICKS_HZ = (10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 50_000)

JUST_SEEN = 1.0
"""CIEDE2000 of one: about what is just seen side by side (common practice, no source)."""


def apart_chart(one: ChartDifference, *, balanced: bool) -> Chart:
    """How far each patch is from the benchmark, headed by its colour under the lamp."""
    off = one.balanced if balanced else one.as_shot
    how = "once greys agree" if balanced else "as shot"
    title = f"{one.reading.name}: patches apart from the benchmark, {how}"
    names = [patch.name for patch in one.reading.chart.patches]
    known = [k for k in range(len(names)) if math.isfinite(off[k])]
    if not known:
        return Chart(title, Axis("", 0, 1), Axis("", 0, 1), (), "No patch counts in both photographs.")
    colours = rgb_of(srgb_of_linear(one.colours[1 if balanced else 0]))
    y = axes.nice("CIEDE2000", [float(off[k]) for k in known], least=4.0, around=(0.0,))
    x = Axis("patch", -0.8, len(names) - 0.2, tuple((float(i), str(i + 1)) for i in range(0, len(names), 3)))
    worst = max(known, key=lambda k: off[k])
    marks: list[Mark] = [
        Rule("y", JUST_SEEN, dashed=True),
        Sticks(
            x=[float(k) for k in known],
            y=[float(off[k]) for k in known],
            base=0.0,
            colours=tuple(colours[k] for k in known),
            hints=tuple(f"{names[k]}: {off[k]:.1f}" for k in known),
            label=title,
        ),
        Text(worst + 0.3, float(off[worst]), f"{names[worst]} {off[worst]:.1f}", Tone.PLAIN, above=False),
    ]
    over = sum(off[k] > JUST_SEEN for k in known)
    return Chart(title, x, y, tuple(marks), f"{over} of {len(known)} patches are further off than is just seen.")


def cycles_chart(waveform: Waveform, hz: float | None) -> Chart:
    """The first cycles of a waveform, over the mean of the light where it is known."""
    length = min(CYCLES / hz if hz else waveform.seconds, waveform.seconds)
    count = max(2, min(int(length * waveform.rate_hz) + 1, waveform.light.size))
    mean = float(waveform.light.mean()) if waveform.steady_part else 1.0
    light = [float(v) / mean for v in evenly(waveform.light[:count], MOST_POINTS)]
    times = [float(t) for t in evenly(np.arange(count) * (1000.0 / waveform.rate_hz), MOST_POINTS)]
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


def fade_chart(name: str, fade: Fade, seconds: FloatArray, level: FloatArray, asked_s: float | None) -> Chart:
    """A fade against time, its begin and end marked, and the straight line it would be if level went with time."""
    top = float(level.max())
    y = [100.0 * float(v) / top for v in evenly(level, MOST_POINTS)]
    x = [float(t) for t in evenly(seconds, MOST_POINTS)]
    begin = float(seconds[0]) + fade.lag_s
    ends = (0.0, 100.0) if fade.rising else (100.0, 0.0)
    marks: list[Mark] = [
        Line([begin, begin + fade.real_s], list(ends), tone=Tone.QUIET, dashed=True, label="level with time"),
        Line(x, y, label=name),
        Rule("x", begin, dashed=True),
        Rule("x", begin + fade.real_s, dashed=True),
    ]
    if asked_s is not None:
        marks.append(Text(begin + asked_s, 50.0, f"asked: {notation.plain(asked_s, 1)} s", Tone.ACCENT))
        marks.append(Rule("x", begin + asked_s, tone=Tone.ACCENT))
    return Chart(
        f"{name}: level against time; the dashed line is level going with time",
        axes.nice("time, s", x, least=0.5, decimals=1),
        axes.nice("level, %", y, least=10.0, around=(0.0, 100.0)),
        tuple(marks),
        f"{'Up' if fade.rising else 'Down'} in {fade.real_s:.2f} s, {len(fade.steps)} jumps.",
    )
