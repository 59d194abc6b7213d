"""Pictures of several lamps: a quantity against dimmer setting, and output on one ladder of stops."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Line, Mark, Places, Points, Rule, Text, Tone, behind_first, series_of
from even_beam.figures.ranking import height_of, ranked, ranked_bars
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.dimmer_series import Series
from even_beam.words import notation

CHANGE = "change"
"""In place of a quantity: several of one lamp, each as far as it lies beyond that of full level."""

TITLES = {
    "stops": "output against dimmer setting, stops below own full level",
    "mired": "error against the white dialled, mired (up: warmer)",
    "duv": "tint against dimmer setting, Duv",
    "ra": "Ra against dimmer setting",
    "r9": "R9 against dimmer setting",
    CHANGE: "what the dimmer moves, from full level",
}
_LEAST = {"stops": 3.0, "mired": 20.0, "duv": 0.008, "ra": 8.0, "r9": 8.0, CHANGE: 10.0}
_AROUND_ZERO = frozenset({"mired", "duv", CHANGE})


def dimmer_chart(series: Sequence[Series], quantity: str, places: Places | None = None) -> Chart:
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
        around = (0.0,) if quantity in _AROUND_ZERO else ()
        y_axis = axes.nice(
            axes.heading(quantity),
            values,
            least=_LEAST.get(quantity, 5.0),
            decimals=3 if quantity == "duv" else 0,
            signed=bool(around),
            around=around,
        )
    marks: list[Mark] = []
    if quantity in _AROUND_ZERO:
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
    numbers = series_of([one.name for one in series], places)
    for number, one in behind_first(numbers, series):
        marks += _series_marks(one, number, quantity)
    summary = "; ".join(
        f"{s.name}: {notation.number(min(s.values), 3, signed=True)} to"
        f" {notation.number(max(s.values), 3, signed=True)}"
        for s in series
        if s.values
    )
    legend = tuple((i, s.name) for i, s in zip(numbers, series, strict=True) if s.values and i is not None)
    return Chart(
        title=TITLES.get(quantity, quantity),
        x=x_axis,
        y=y_axis,
        marks=tuple(marks),
        summary=summary or "Nothing read at these terms.",
        legend=legend,
    )


def _series_marks(one: Series, index: int | None, quantity: str) -> list[Mark]:
    x = [math.log2(level) for level in one.levels_pct]
    hints = tuple(
        f"{one.name} · {notation.percent(level)} % ·"
        f" {notation.number(value, 4 if quantity == 'duv' else 2, signed=quantity not in {'ra', 'r9'})}"
        for level, value in zip(one.levels_pct, one.values, strict=True)
    )
    middle: dict[float, list[float]] = {}
    for at, value in zip(x, one.values, strict=True):
        middle.setdefault(at, []).append(value)
    line_y = [sorted(values)[len(values) // 2] for values in middle.values()]
    return [
        Line(list(middle), line_y, index, Tone.QUIET, label=one.name),
        Points(x, list(one.values), index, Tone.QUIET, keys=one.reading_ids, hints=hints, label=one.name),
    ]


def _level_words(entry: Entry) -> str:
    """The level, or only how it lies to the reference where it is good for no more."""
    if entry.illuminance is None:
        return f"{notation.stops(entry.ratio_stops)} {notation.stop_word(entry.ratio_stops or 0.0)}"
    return notation.level(entry.illuminance)


MOST_UPRIGHT = 8
"""More lamps than that stand as rows, each with its name."""


ROOM_FOR_NAME = 0.12
"""Of the height of a ladder, what the words above its highest mark take."""


def stop_ladder(comparison: Comparison, places: Places | None = None) -> Chart:
    """The level of every lamp at the common terms on one log2 scale, the brightest first, each line one stop: in lx, or
    against the reference where their levels are ratios alone."""
    entries, in_lux = ranked(comparison)
    if len(entries) > MOST_UPRIGHT:
        return ranked_bars(comparison, places)
    where = notation.distance(comparison.distance_m) if comparison.distance_m is not None else "equal distance"
    base = comparison.entry(comparison.reference)
    what = f"illuminance at {where}, {notation.light_unit()}" if in_lux else f"stops from {base.name if base else ''}"
    title = f"{what} · each line one stop"
    if not entries:
        return Chart(title, Axis("", 0.0, 1.0), Axis("", 0.0, 1.0), (), "No lamp was read at these terms.")
    zero = math.log2(1000.0) if in_lux else 0.0
    heights = {e.key: height_of(e) for e in entries}
    values = list(heights.values())
    low = math.floor(min(values) - 0.7 - zero) + zero
    room = max(0.4, ROOM_FOR_NAME * (max(values) - low))  # the level stands above its mark
    high = math.ceil(max(values) + room - zero) + zero
    steps = [low + i for i in range(round(high - low) + 1)]
    rungs = tuple((at, notation.level_alone(2.0**at) if in_lux else notation.number(at, signed=True)) for at in steps)
    unit = notation.light_unit() if in_lux else "stops"
    number = dict(
        zip(
            (e.name for e in comparison.entries),
            series_of([e.name for e in comparison.entries], places),
            strict=True,
        )
    )
    summary = ", ".join(f"{e.name} {_level_words(e)}" for e in entries)
    marks: list[Mark] = [Rule("y", at) for at, _ in rungs]
    for place, entry in enumerate(entries):
        y = heights[entry.key]
        marks.append(_rung(entry, float(place), y, number[entry.name]))
        marks.append(Text(place + 0.12, y, _level_words(entry), tone=Tone.PLAIN))
        marks.append(Text(place + 0.12, y, entry.name, above=False))
    return Chart(title, Axis("", -0.4, len(entries) - 0.1), Axis(unit, low, high, rungs), tuple(marks), summary)


def _rung(entry: Entry, x: float, y: float, number: int | None) -> Points:
    keys = tuple(r.reading.id for r in entry.readings[:1])
    hint = f"{entry.name}: {_level_words(entry)}"
    return Points([x], [y], number, Tone.QUIET, keys=keys, hints=(hint,), label=entry.name)


@dataclass(frozen=True, slots=True)
class Walked:
    """One lamp along its distances: E d2 in cd, with the reading behind each."""

    name: str
    metres: tuple[float, ...]
    candela: tuple[float, ...]
    reading_ids: tuple[str, ...]


def distance_chart(walks: Sequence[Walked], unit: str, places: Places | None = None) -> Chart:
    """Illuminance times the distance squared, by distance: level where the inverse square holds, so that lamps are as
    many stops apart as their lines."""
    title = "by distance: lx times m², cd; a level line follows the inverse square"
    known = [walk for walk in walks if walk.metres]
    if not known:
        return Chart(title, Axis("", 0.0, 1.0), Axis("", 0.0, 1.0), (), "No lamp was read at two distances.")
    metres = sorted({m for walk in known for m in walk.metres})
    values = [math.log2(c) for walk in known for c in walk.candela]
    low, high = math.floor(min(values) - 0.3), math.ceil(max(values) + 0.3)
    step = max(1, (high - low) // 6)
    y_axis = Axis(
        "cd",
        float(low),
        float(high),
        tuple((float(t), notation.number(float(f"{2.0**t:.3g}"))) for t in range(low, high + 1, step)),
    )
    marks: list[Mark] = [Rule("y", at) for at, _ in y_axis.ticks]
    numbers = series_of([walk.name for walk in known], places)
    for number, walk in behind_first(numbers, known):
        x, y = [math.log2(m) for m in walk.metres], [math.log2(c) for c in walk.candela]
        hints = tuple(
            f"{walk.name} at {notation.distance(m, unit)}: {notation.level(c / m**2)}"
            for m, c in zip(walk.metres, walk.candela, strict=True)
        )
        marks += [
            Line(x, y, number, Tone.QUIET, label=walk.name),
            Points(x, y, number, Tone.QUIET, keys=walk.reading_ids, hints=hints, label=walk.name),
        ]
    summary = "; ".join(
        f"{walk.name} {notation.number(min(walk.candela))} to {notation.number(max(walk.candela))} cd" for walk in known
    )
    return Chart(title, axes.distance(metres, unit), y_axis, tuple(marks), f"{summary}.")
