"""Pictures of several lamps: a quantity against dimmer setting, and output on one ladder of stops."""

import math
from collections.abc import Sequence

from even_beam.bench import notation
from even_beam.bench.comparison import Comparison, Entry
from even_beam.bench.dimmer_series import Series
from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Line, Mark, Points, Rule, Text, Tone

TITLES = {
    "stops": "output against dimmer setting, stops below own full level",
    "mired": "error against the white dialled, mired (up: warmer)",
    "duv": "tint against dimmer setting, Duv",
    "ra": "Ra against dimmer setting",
}
_LEAST = {"stops": 3.0, "mired": 20.0, "duv": 0.008, "ra": 8.0}


def dimmer_chart(series: Sequence[Series], quantity: str) -> Chart:
    """One quantity of several lamps against dimmer setting on a log2 axis; a point a reading, lines through medians."""
    x_axis = axes.dimmer([level for s in series for level in s.levels_pct])
    values = [v for s in series for v in s.values]
    if quantity == "stops":
        low = min([-3.0, *values])
        y_axis = Axis(
            "stops",
            low - 0.5,
            max(0.6, max(values, default=0.0) + 0.4),
            tuple((float(t), notation.number(t)) for t in range(0, math.floor(low) - 1, -1 if low > -5 else -2)),
        )
    else:
        around = (0.0,) if quantity in {"mired", "duv"} else ()
        y_axis = axes.nice(
            quantity,
            values,
            least=_LEAST.get(quantity, 5.0),
            decimals=3 if quantity == "duv" else 0,
            signed=bool(around),
            around=around,
        )
    marks: list[Mark] = []
    if quantity in {"mired", "duv"}:
        marks.append(Rule("y", 0.0))
    if quantity == "stops":
        ends = [x_axis.low, math.log2(100.0)]
        marks.append(
            Line(ends, [x - math.log2(100.0) for x in ends], tone=Tone.QUIET, dashed=True, label="in proportion")
        )
    if quantity == "duv":
        marks += [
            Text(x_axis.high, y_axis.high, "green", Tone.GREEN, anchor="right", above=False),
            Text(x_axis.high, y_axis.low, "magenta", Tone.MAGENTA, anchor="right", above=True),
        ]
    for index, one in enumerate(series):
        marks += _series_marks(one, index, quantity)
    summary = "; ".join(
        f"{s.name}: {notation.number(min(s.values), 3, signed=True)} to"
        f" {notation.number(max(s.values), 3, signed=True)}"
        for s in series
        if s.values
    )
    legend = tuple((i, s.name) for i, s in enumerate(series) if s.values)
    return Chart(
        title=TITLES.get(quantity, quantity),
        x=x_axis,
        y=y_axis,
        marks=tuple(marks),
        summary=summary or "Nothing read at these terms.",
        legend=legend,
    )


def _series_marks(one: Series, index: int, quantity: str) -> list[Mark]:
    x = [math.log2(level) for level in one.levels_pct]
    hints = tuple(
        f"{one.name} · {notation.percent(level)} % ·"
        f" {notation.number(value, 4 if quantity == 'duv' else 2, signed=True)}"
        for level, value in zip(one.levels_pct, one.values, strict=True)
    )
    middle: dict[float, list[float]] = {}
    for at, value in zip(x, one.values, strict=True):
        middle.setdefault(at, []).append(value)
    line_y = [sorted(values)[len(values) // 2] for values in middle.values()]
    return [
        Line(list(middle), line_y, index, label=one.name),
        Points(x, list(one.values), index, keys=one.reading_ids, hints=hints, label=one.name),
    ]


def _level_words(entry: Entry) -> str:
    """The level, or only how it lies to the reference where the meter is good for no more."""
    return f"{notation.stops(entry.ratio_stops)} stop" if entry.ratios_only else f"{notation.light(entry.illuminance)}"


_NAME_ROOM = 44
"""So many letters stand beside each other under a ladder."""


def _short(name: str, count: int) -> str:
    """A name that leaves room for the others."""
    room = max(_NAME_ROOM // count - 1, 3)
    return name if len(name) <= room else name[: room - 1].rstrip(" ,") + "…"


def stop_ladder(comparison: Comparison) -> Chart:
    """Illuminance of every lamp at the common terms on one log2 scale, each line one stop."""
    entries = [e for e in comparison.entries if e.illuminance and e.comparable]
    where = notation.distance(comparison.distance_m) if comparison.distance_m is not None else "equal distance"
    title = f"illuminance at {where}, {notation.light_unit()}, each line one stop"
    if not entries:
        return Chart(title, Axis("", 0.0, 1.0), Axis("", 0.0, 1.0), (), "No lamp was read at these terms.")
    values = [math.log2(e.illuminance or 1.0) for e in entries]
    zero = math.log2(1000.0)
    low, high = math.floor(min(values) - 0.7 - zero) + zero, math.ceil(max(values) + 0.4 - zero) + zero
    rungs = [low + i for i in range(round(high - low) + 1)]
    marks: list[Mark] = []
    order = {e.key: i for i, e in enumerate(comparison.entries)}
    for place, entry in enumerate(entries):
        y = math.log2(entry.illuminance or 1.0)
        keys = tuple(r.reading.id for r in entry.readings[:1])
        hint = f"{entry.name}: {_level_words(entry)}"
        marks.append(Points([float(place)], [y], order[entry.key], keys=keys, hints=(hint,), label=entry.name))
        marks.append(Text(place + 0.08, y, _level_words(entry), tone=Tone.PLAIN, above=False))
    y_axis = Axis(notation.light_unit(), low, high, tuple((t, notation.illuminance(2.0**t)) for t in rungs))
    x_axis = Axis(
        "",
        -0.6,
        1.1 * len(entries) - 0.4,
        tuple((float(i), _short(e.name, len(entries))) for i, e in enumerate(entries)),
    )
    rules = [Rule("y", t) for t in rungs]
    summary = ", ".join(f"{e.name} {_level_words(e)}" for e in entries)
    return Chart(title, x_axis, y_axis, (*rules, *marks), summary)
