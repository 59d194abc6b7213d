"""The two pictures beside a run: level against dimmer setting, and the distance walk."""

import math
from collections.abc import Sequence

import numpy as np

from even_beam.bench import terms_in_words
from even_beam.bench.judging.expectation import Expected
from even_beam.bench.measured import Measured
from even_beam.bench.terms import terms_line
from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Line, Mark, Points, Text, Tone
from even_beam.words import notation


def _hint(reading: Measured) -> str:
    return f"{notation.light(reading.value('illuminance'))} · {terms_line(reading.terms)}"


def dimming_chart(readings: Sequence[Measured], current: Measured | None = None, in_doubt: bool = False) -> Chart:
    """Level in stops below the brightest reading against dimmer setting; the newest reading lit.

    Readings without a level or an illuminance are left out. The dashed line is a dimmer in proportion.
    """
    usable = [r for r in readings if r.terms.level_pct and (r.value("illuminance") or 0.0) > 0.0]
    if current is not None and current.terms.level_pct and (current.value("illuminance") or 0.0) > 0.0:
        usable = [*(r for r in usable if r.reading.id != current.reading.id), current]
    x_axis = axes.dimmer([r.terms.level_pct or 0.0 for r in usable])
    if not usable:
        return Chart("level in stops against dimmer setting, %", x_axis, Axis("", -7.0, 0.5), (), "No level read yet.")
    full = max(usable, key=lambda r: (r.terms.level_pct or 0.0, r.reading.sequence))
    zero = math.log2(full.value("illuminance") or 1.0) - math.log2((full.terms.level_pct or 100.0) / 100.0)
    points = [(math.log2(r.terms.level_pct or 1.0), math.log2(r.value("illuminance") or 1.0) - zero, r) for r in usable]
    lowest = min([-7.0 if x_axis.low < 1.0 else -4.0, *(y for _, y, _ in points)])
    y_axis = Axis(
        "stops below full",
        lowest - 0.4,
        max(0.6, max(y for _, y, _ in points) + 0.4),
        tuple((float(s), notation.number(s)) for s in range(0, math.floor(lowest) - 1, -2)),
    )
    ends = [x_axis.low, math.log2(100.0)]
    marks: list[Mark] = [
        Line(ends, [x - math.log2(100.0) for x in ends], tone=Tone.QUIET, dashed=True, label="in proportion")
    ]
    earlier = [p for p in points if current is None or p[2].reading.id != current.reading.id]
    marks.append(
        Points(
            [p[0] for p in earlier],
            [p[1] for p in earlier],
            keys=tuple(p[2].reading.id for p in earlier),
            hints=tuple(_hint(p[2]) for p in earlier),
            label="readings",
        )
    )
    for x, y, reading in points:
        if current is not None and reading.reading.id == current.reading.id:
            tone = Tone.ACCENT
            marks.append(Points([x], [y], tone=tone, hollow=True, keys=(reading.reading.id,), hints=(_hint(reading),)))
            if in_doubt:
                side = "right" if x > 0.5 * (x_axis.low + x_axis.high) else "left"  # not beyond the end of the picture
                marks.append(Text(x, y, notation.light(reading.value("illuminance")), tone=tone, anchor=side))
    low = min(points, key=lambda p: p[0])
    summary = (
        f"{notation.count(len(points), 'reading')}. At {terms_in_words.level(low[2].terms)} the level is"
        f" {notation.stops(low[1])} stops from full; in proportion it would be"
        f" {notation.stops(low[0] - math.log2(100.0))}."
    )
    return Chart("level in stops against dimmer setting, %", x_axis, y_axis, tuple(marks), summary)


def walk_chart(
    readings: Sequence[Measured],
    unit: str,
    current: Measured | None = None,
    expected: Expected | None = None,
    in_doubt: bool = False,
) -> Chart:
    """Illuminance against distance, both in doublings, with the inverse-square line through the marks that stand."""
    usable = [r for r in readings if r.terms.distance_m and (r.value("illuminance") or 0.0) > 0.0]
    others = [r for r in usable if current is None or r.reading.id != current.reading.id]
    shown = [*others, current] if current is not None and current.terms.distance_m else others
    if not shown:
        return Chart(
            "the walk", Axis("distance", 0.0, 3.0), Axis(notation.light_unit(), 0.0, 10.0), (), "No mark read yet."
        )
    distances = [r.terms.distance_m or 1.0 for r in shown]
    levels = [math.log2(r.value("illuminance") or 1.0) for r in shown]
    x_axis = axes.distance(distances, unit)
    base = others or shown
    intensity = float(
        np.median([math.log2((r.value("illuminance") or 1.0) * (r.terms.distance_m or 1.0) ** 2) for r in base])
    )
    line = [intensity - 2.0 * x for x in (x_axis.low, x_axis.high)]
    y_axis = Axis(f"illuminance, {notation.light_unit()}", min([*levels, *line]) - 0.4, max([*levels, *line]) + 0.6)
    marks: list[Mark] = [Line([x_axis.low, x_axis.high], line, tone=Tone.QUIET, dashed=True, label="inverse square")]
    seen: set[float] = set()
    for reading in others:
        x, y = math.log2(reading.terms.distance_m or 1.0), math.log2(reading.value("illuminance") or 1.0)
        marks.append(Points([x], [y], keys=(reading.reading.id,), hints=(_hint(reading),)))
        if x not in seen and not _lies_under(x, y, current, _LINE_OF_TEXT * (y_axis.high - y_axis.low)):
            marks.append(Text(x, y, notation.illuminance(reading.value("illuminance")), tone=Tone.PLAIN))
            seen.add(x)
    if current is not None and current.terms.distance_m:
        marks += _current_mark(current, expected, in_doubt)
    between = f"{x_axis.ticks[0][1]} and {x_axis.ticks[-1][1]}"
    summary = f"{notation.count(len(shown), 'mark')} between {between}; dashed is the inverse-square law."
    return Chart(f"the walk: {notation.light_unit()} against distance", x_axis, y_axis, tuple(marks), summary)


_LINE_OF_TEXT = 0.08
"""How high a label is, as a share of the picture."""


def _lies_under(x: float, y: float, current: Measured | None, near: float) -> bool:
    """Whether the label of the newest reading covers a place."""
    if current is None or not current.terms.distance_m or x != math.log2(current.terms.distance_m):
        return False
    return abs(y - math.log2(current.value("illuminance") or 1.0)) < near


def _current_mark(current: Measured, expected: Expected | None, in_doubt: bool) -> list[Mark]:
    x = math.log2(current.terms.distance_m or 1.0)
    y = math.log2(current.value("illuminance") or 1.0)
    marks: list[Mark] = []
    if expected is not None and in_doubt:
        marks.append(Line([x, x], [y, math.log2(expected.centre)], tone=Tone.ACCENT, dashed=True))
    marks.append(Points([x], [y], tone=Tone.ACCENT, hollow=True, keys=(current.reading.id,), hints=(_hint(current),)))
    marks.append(Text(x, y, notation.illuminance(current.value("illuminance")), tone=Tone.ACCENT))
    return marks
