"""Lamps of a chart by their names: at the ends of their lines, or above the picture."""

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from even_beam.figures.chart import Chart, Line, Points, Text, Tone, line_style
from even_beam.figures.ink import Ink

if TYPE_CHECKING:
    from matplotlib.axes import Axes

SERIES_MARKS = ("o", "s", "^", "D", "v", "P", "X", "h")
"""The marks of series, as Matplotlib calls them."""
WIDE_EM = 0.62
"""So wide is a character at most on the mean, in ems."""
LINE_EM = 1.4
"""A line of text is so high, in ems."""


def name_lamps(axes: "Axes", chart: Chart, ink: Ink, width_in: float) -> int:
    """The lamps of a chart of a width by their names: at the ends of their lines where these are apart, else in lines
    above the picture, never upon it. How many lines stand above."""
    said = {mark.text.strip() for mark in chart.marks if isinstance(mark, Text)}
    names = {number: name for number, name in chart.legend if name not in said}
    if len(chart.legend) < 2 or not names:
        return 0
    ends = ends_of(chart, names)
    if ends is not None:
        for number, (x, y) in ends.items():
            axes.annotate(
                names[number],
                (x, y),
                (4.0 * ink.scale, -2.5 * ink.scale),
                textcoords="offset points",
                fontsize=ink.size_pt,
                color=ink.colour(number, Tone.PLAIN),
                annotation_clip=False,
            )
        return 0
    drawn = {
        number: [m for m in chart.marks if isinstance(m, Line | Points) and m.series == number] for number in names
    }
    from matplotlib.lines import Line2D

    handles = [
        Line2D(
            [],
            [],
            color=ink.colour(number, Tone.PLAIN),
            linestyle=stroke(number) if any(isinstance(m, Line) and not m.bar for m in marks) else "none",
            marker=SERIES_MARKS[number % len(SERIES_MARKS)] if any(isinstance(m, Points) for m in marks) else None,
            markersize=4 * ink.scale,
            linewidth=0.9 * ink.scale,
            label=names[number],
        )
        for number, marks in drawn.items()
        if marks
    ]
    if not handles:
        return 0
    room = width_in * 72.0 / ink.size_pt
    columns = max(1, int(room / (WIDE_EM * max(map(len, names.values())) + _HANDLE_EM)))
    axes.legend(
        handles=handles,
        loc="lower left",
        bbox_to_anchor=(0.0, 1.0),
        ncols=columns,
        borderaxespad=0.0,
        borderpad=0.2,
        handlelength=1.8,
        columnspacing=1.0,
        labelspacing=0.2,
        fontsize=ink.size_pt,
        frameon=False,
        labelcolor=ink.text,
    )
    return -(-len(handles) // columns)


_HANDLE_EM = 4.0
"""So much room the sign of a lamp takes before its name, in ems."""
_APART = 0.06
"""Ends of lines nearer to each other than this share of the axis stand in one bunch."""
MOST_IN_BUNCH = 3


def ends_of(chart: Chart, names: Mapping[int, str]) -> dict[int, tuple[float, float]] | None:
    """Where the line of each lamp ends; None where one has none, or where too many end at one place."""
    lines = [mark for mark in chart.marks if isinstance(mark, Line) and not mark.bar and len(mark.x) > 1]
    found = {
        line.series: (float(line.x[-1]), float(line.y[-1]))
        for line in lines
        if line.series is not None and line.series in names
    }
    if len(found) < len(names):
        return None
    apart = _APART * (chart.y.high - chart.y.low)
    levels = sorted(y for _, y in found.values())
    bunched = any(high - low < apart for low, high in zip(levels, levels[MOST_IN_BUNCH:], strict=False))
    to_the_right = all(x >= 0.5 * (chart.x.low + chart.x.high) for x, _ in found.values())
    return found if to_the_right and not bunched else None


def stroke(series: int) -> Any:
    """The style of a lamp's line as Matplotlib calls it."""
    return line_style(series).replace("-dotted", "dot")
