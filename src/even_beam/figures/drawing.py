"""A chart drawn by Matplotlib's object interface, for paper and for films."""

import math
from functools import cache
from importlib.resources import as_file
from typing import TYPE_CHECKING, Any

import numpy as np

from even_beam.figures.chart import Axis, Band, Chart, Line, Points, Ring, Rule, Sticks, Text
from even_beam.figures.ink import Ink
from even_beam.figures.lamp_names import LINE_EM, SERIES_MARKS, WIDE_EM, ends_of, name_lamps, stroke
from even_beam.fonts import FAMILY, font_files

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

SETTINGS: Any = {
    "text.parse_math": False,  # a dollar in a lamp's name is a dollar
    "font.family": [FAMILY, "DejaVu Sans"],  # the second, which comes with Matplotlib, for what the first lacks
    "svg.hashsalt": "even beam",  # the same chart is the same text
    "svg.fonttype": "none",  # text stays text: it is found, read aloud and set in the page's own font
}
"""What every drawing is made under, as `rc_context` takes it."""


@cache
def register_fonts() -> None:
    """Make the shipped family known to Matplotlib, once; the mono-spaced one would take its name."""
    from matplotlib.font_manager import fontManager

    for file in (one for one in font_files() if "Mono" not in one.name):
        with as_file(file) as path:
            fontManager.addfont(path)


def draw(figure: "Figure", chart: Chart, ink: Ink, *, titled: bool = True) -> "Axes":
    """Draw a chart on the whole of a figure, whose canvas must be able to measure text (Agg); every mark with keys or
    hints has a group of its own (`mark_id`)."""
    axes = figure.add_subplot()
    if ink.ground is None:
        axes.patch.set_visible(False)
    else:
        axes.set_facecolor(ink.ground)
    for side, spine in axes.spines.items():
        spine.set_visible(side in {"left", "bottom"})
        spine.set_color(ink.axis)
        spine.set_linewidth(0.6 * ink.scale)
    axes.set_xlim(chart.x.low, chart.x.high)
    axes.set_ylim(chart.y.low, chart.y.high)
    if chart.to_scale:
        axes.set_aspect("equal")
    axes.set_xticks([t for t, _ in chart.x.ticks], [label for _, label in chart.x.ticks])
    axes.set_yticks([t for t, _ in chart.y.ticks], [label for _, label in chart.y.ticks])
    axes.tick_params(colors=ink.text, labelsize=ink.size_pt, length=2.0 * ink.scale, width=0.5 * ink.scale)
    axes.set_xlabel(_named(chart.x), fontsize=ink.size_pt, color=ink.text)
    axes.set_ylabel(_named(chart.y), fontsize=ink.size_pt, color=ink.text)
    for place, mark in enumerate(chart.marks):
        _draw(axes, mark, ink, mark_id(place))
    lines = name_lamps(axes, chart, ink, float(figure.get_size_inches()[0]))
    if titled:
        above = ink.size_pt * (0.85 + LINE_EM * lines)
        axes.set_title(chart.title, loc="left", fontsize=ink.size_pt * 1.1, color=ink.text, pad=above)
    _leave_margins(figure, chart, ink, lines + (1.4 if titled else 0.0))
    _keep_words_apart(axes, ink)
    return axes


MOST_STEPS = 7


def _keep_words_apart(axes: "Axes", ink: Ink) -> None:
    """Words that would stand on words before them step aside by a line, down and then up, a few lines at most; those
    for which there is no room then are left out, for words upon words say nothing."""
    renderer = axes.figure.canvas.get_renderer()  # type: ignore[attr-defined]
    taken: list[Any] = []
    for words in axes.texts:
        x, y = words.xyann  # type: ignore[attr-defined]
        for step in (0, *(sign * n for n in range(1, MOST_STEPS) for sign in (-1, 1))):
            words.xyann = (x, y + step * 1.15 * ink.size_pt)  # type: ignore[attr-defined]
            box = words.get_window_extent(renderer)
            if not any(box.overlaps(other) for other in taken):
                taken.append(box)
                break
        else:
            words.set_visible(False)


def _leave_margins(figure: "Figure", chart: Chart, ink: Ink, above: float) -> None:
    """Room for what stands beside the axes, reckoned from its length: to have all text measured takes longer than
    all else. `above` are the lines of text that stand there."""
    em = ink.size_pt / 72.0
    width, height = figure.get_size_inches()
    beside = max((len(label) for _, label in chart.y.ticks), default=0)
    left = em * (beside * WIDE_EM + 0.9 + (1.6 if _named(chart.y) else 0.0))
    last = max(chart.x.ticks, default=(0.0, ""))[1]
    below = em * (1.9 + (1.5 if _named(chart.x) else 0.0))
    ends = ends_of(chart, dict(chart.legend)) if len(chart.legend) > 1 else None
    named = max((len(name) * WIDE_EM + 0.8 for _, name in chart.legend), default=0.0) if ends is not None else 0.0
    figure.subplots_adjust(
        left=min(left / width, 0.45),
        right=max(1.0 - em * max(0.6, len(last) * WIDE_EM / 2.0, named) / width, 0.55),
        bottom=below / height,
        top=1.0 - em * (0.8 + LINE_EM * above) / height,
    )


def mark_id(place: int) -> str:
    """The id of a mark's group in the drawing, by its place in the chart."""
    return f"mark-{place}"


def _named(axis: Axis) -> str:
    return ", ".join(part for part in (axis.label, axis.unit) if part)


def _draw(plot: "Axes", mark: object, ink: Ink, gid: str) -> None:
    match mark:
        case Line():
            is_plain = mark.series is None or mark.bar > 0.0
            style = "dashed" if mark.dashed else "solid" if is_plain else stroke(mark.series or 0)
            plot.plot(
                mark.x,
                mark.y,
                linestyle=style,
                color=ink.colour(mark.series, mark.tone),
                linewidth=(mark.bar or 0.9) * ink.scale,
                solid_capstyle="butt",
            )
        case Points():
            _draw_points(plot, mark, ink, gid)
        case Sticks():
            heads = [tuple(c / 255.0 for c in colour) for colour in mark.colours]
            plot.vlines(mark.x, mark.base, mark.y, colors=ink.stem, linewidth=0.8 * ink.scale)
            plot.scatter(
                mark.x,
                mark.y,
                c=heads,
                s=18 * ink.scale**2,
                edgecolors=ink.text,
                linewidths=0.4 * ink.scale,
                zorder=3,
                gid=gid,
            )
        case Rule():
            across = plot.axhline if mark.axis == "y" else plot.axvline
            style = "--" if mark.dashed else "-"
            across(mark.at, color=ink.rule, linewidth=0.6 * ink.scale, linestyle=style, zorder=0)
        case Band():
            fill = plot.axhspan if mark.axis == "y" else plot.axvspan
            fill(mark.low, mark.high, color=ink.band, zorder=0)
        case Text():
            aside = -3 if mark.anchor == "right" and mark.above is None else 3
            anchor = {"left": "left", "right": "right", "centre": "center"}[mark.anchor]
            plot.annotate(
                mark.text,
                (mark.x, mark.y),
                (aside * ink.scale, _LIFTS[mark.above] * ink.scale),
                textcoords="offset points",
                fontsize=ink.size_pt,
                color=ink.tones[mark.tone],
                ha=anchor,
            )
        case Ring():
            angle = np.linspace(0.0, 2.0 * math.pi, 90)
            plot.plot(
                mark.x + mark.width / 2 * np.cos(angle),
                mark.y + mark.height / 2 * np.sin(angle),
                "--",
                color=ink.tones[mark.tone],
                linewidth=0.6 * ink.scale,
            )


_LIFTS = {True: 3.0, False: -8.0, None: -2.5}
"""How far words stand off their point, in points."""


def _draw_points(plot: "Axes", mark: Points, ink: Ink, gid: str) -> None:
    plot.plot(
        mark.x,
        mark.y,
        SERIES_MARKS[(mark.series or 0) % len(SERIES_MARKS)],
        color=ink.colour(mark.series, mark.tone),
        markersize=4 * ink.scale,
        markeredgewidth=0.8 * ink.scale,
        fillstyle="none" if mark.hollow else "full",
        label=mark.label if mark.series is not None and len(mark.x) else None,
        gid=gid,
    )
