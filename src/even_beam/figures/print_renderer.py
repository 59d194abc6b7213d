"""Charts as SVG for reports, drawn by Matplotlib's object interface."""

import io
import math
from typing import TYPE_CHECKING

import numpy as np

from even_beam.figures.chart import Band, Chart, Line, Points, Ring, Rule, Sticks, Text, Tone, line_style

if TYPE_CHECKING:
    from matplotlib.axes import Axes

SERIES_COLOURS = ("#0072b2", "#b58900", "#7a5bb5", "#333333", "#d55e00", "#009e73", "#a0522d", "#5f7f95")
SERIES_MARKS = ("o", "s", "^", "D", "v", "P", "X", "h")
_TONES = {
    Tone.PLAIN: "#1a1a1a",
    Tone.QUIET: "#767676",
    Tone.ACCENT: "#9a5b00",
    Tone.GREEN: "#2f7d4b",
    Tone.MAGENTA: "#9b3fae",
}


def svg(chart: Chart, width_mm: float = 170.0, height_mm: float = 70.0) -> str:
    """The chart as an SVG element, with its summary as title for screen readers."""
    from matplotlib import rc_context

    with rc_context({"text.parse_math": False}):  # a dollar in a lamp's name is a dollar
        return _drawn(chart, width_mm, height_mm)


def _drawn(chart: Chart, width_mm: float, height_mm: float) -> str:
    from matplotlib.backends.backend_svg import FigureCanvasSVG
    from matplotlib.figure import Figure

    figure = Figure(figsize=(width_mm / 25.4, height_mm / 25.4), layout="constrained")
    FigureCanvasSVG(figure)
    axes = figure.add_subplot()
    for side in ("top", "right"):
        axes.spines[side].set_visible(False)
    axes.set_title(chart.title, loc="left", fontsize=8, color="#555555")
    axes.set_xlim(chart.x.low, chart.x.high)
    axes.set_ylim(chart.y.low, chart.y.high)
    axes.set_xticks([t for t, _ in chart.x.ticks], [label for _, label in chart.x.ticks], fontsize=7)
    axes.set_yticks([t for t, _ in chart.y.ticks], [label for _, label in chart.y.ticks], fontsize=7)
    axes.set_xlabel(chart.x.label, fontsize=7)
    for mark in chart.marks:
        _draw(axes, mark, chart)
    if len(chart.legend) > 1:
        axes.legend(fontsize=7, frameon=False)
    text = io.StringIO()
    figure.savefig(text, format="svg", metadata={"Date": None, "Creator": None})
    drawing = text.getvalue()
    return drawing[drawing.index("<svg") :]


def _colour(series: int | None, tone: Tone) -> str:
    return _TONES[tone] if series is None else SERIES_COLOURS[series % len(SERIES_COLOURS)]


def _draw(plot: "Axes", mark: object, chart: Chart) -> None:
    match mark:
        case Line():
            style = "dashed" if mark.dashed else "solid" if mark.series is None else line_style(mark.series)
            plot.plot(
                mark.x,
                mark.y,
                linestyle=style.replace("-dotted", "dot"),
                color=_colour(mark.series, mark.tone),
                linewidth=0.9,
            )
        case Points():
            colour = _colour(mark.series, mark.tone)
            shape = SERIES_MARKS[(mark.series or 0) % len(SERIES_MARKS)]
            name = mark.label if mark.series is not None else None
            plot.plot(
                mark.x,
                mark.y,
                shape,
                color=colour,
                markersize=4,
                fillstyle="none" if mark.hollow else "full",
                label=name,
            )
        case Sticks():
            heads = [tuple(c / 255.0 for c in colour) for colour in mark.colours]
            plot.vlines(mark.x, mark.base, mark.y, colors="#767676", linewidth=0.8)
            plot.scatter(mark.x, mark.y, c=heads, s=18, edgecolors="#1a1a1a", linewidths=0.4, zorder=3)
        case Rule():
            draw = plot.axhline if mark.axis == "y" else plot.axvline
            draw(mark.at, color="#cccccc", linewidth=0.6, linestyle="--" if mark.dashed else "-", zorder=0)
        case Band():
            plot.axhspan(mark.low, mark.high, color="#eeeeee", zorder=0)
        case Text():
            anchor = {"left": "left", "right": "right", "centre": "center"}[mark.anchor]
            plot.annotate(
                mark.text,
                (mark.x, mark.y),
                (3, 3 if mark.above else -8),
                textcoords="offset points",
                fontsize=7,
                color=_TONES[mark.tone],
                ha=anchor,
            )
        case Ring():
            angle = np.linspace(0.0, 2.0 * math.pi, 90)
            plot.plot(
                mark.x + mark.width / 2 * np.cos(angle),
                mark.y + mark.height / 2 * np.sin(angle),
                "--",
                color=_TONES[mark.tone],
                linewidth=0.6,
            )
