"""A trace: a quantity against time, with the share that counts as settled as a band."""

from even_beam.bench.traces import SETTLED_SHARE, Trace, settled_after_s, settled_sentence
from even_beam.figures import axes
from even_beam.figures.chart import Band, Chart, Line, Mark, Rule, Tone
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES


def trace_chart(trace: Trace) -> Chart:
    """The trace in minutes when it lasts longer than three."""
    minutes = float(trace.seconds[-1]) > 180.0
    scale = 60.0 if minutes else 1.0
    quantity = QUANTITIES[trace.quantity]
    times = [float(t) / scale for t in trace.seconds]
    values = [float(v) for v in trace.values]
    x = axes.nice("time, min" if minutes else "time, s", times, least=1.0)
    y = axes.nice(f"{quantity.label}, {quantity.unit}".rstrip(", "), values, least=max(0.04 * abs(trace.end), 1e-6))
    marks: list[Mark] = [
        Band(trace.end * (1.0 - SETTLED_SHARE), trace.end * (1.0 + SETTLED_SHARE)),
        Line(times, values, tone=Tone.PLAIN),
    ]
    settled = settled_after_s(trace)
    if settled:
        marks.append(Rule("x", settled / scale, dashed=True))
    title = f"{quantity.label} against time; the band is within {notation.percent(100.0 * SETTLED_SHARE)} % of the end"
    return Chart(title, x, y, tuple(marks), settled_sentence(trace))
