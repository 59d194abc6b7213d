"""Lamps ranked by their light: a bar a lamp on a grid of stops, its thick end as wide as what the readings can tell."""

import math

from even_beam.figures.chart import Axis, Chart, Line, Mark, Places, Points, Rule, Text, Tone, series_of
from even_beam.known.comparison import Comparison, Entry
from even_beam.words import notation


def ranked_bars(comparison: Comparison, places: Places | None = None) -> Chart:
    """The level of every lamp at the common terms, the brightest on top, each with how it lies to the reference: in lx,
    or against the reference where their levels are ratios alone."""
    entries, in_lux = ranked(comparison)
    where = f" at {notation.distance(comparison.distance_m)}" if comparison.distance_m is not None else ""
    title = f"how bright{where} \N{MIDDLE DOT} each line is one stop; the end is as wide as these readings can tell"
    if len(entries) < 2:
        return Chart(title, Axis("", 0.0, 1.0), Axis("", 0.0, 1.0), (), "Fewer than two lamps have a level here.")
    base = comparison.entry(comparison.reference)
    levels = [height_of(entry) for entry in entries]
    zero = math.log2(1000.0) if in_lux else 0.0
    low = math.floor(min(levels) - 0.7 - zero) + zero
    high = math.ceil(max(levels) - zero) + zero
    steps = [low + n for n in range(round(high - low) + 1)]
    every = 1 if len(steps) <= MOST_TICKS else 2
    ticks = tuple((at, notation.level_alone(2.0**at) if in_lux else notation.number(at, signed=True)) for at in steps)
    names = [e.name for e in comparison.entries]
    numbers = dict(zip(names, series_of(names, places), strict=True))
    marks: list[Mark] = [Rule("x", at) for at in steps]
    for place, (entry, level) in enumerate(zip(entries, levels, strict=True)):
        y = float(len(entries) - 1 - place)
        half = entry.level.half_width if entry.level is not None else 0.0
        number, words = numbers[entry.name], _words(entry, base)
        hint, key = f"{entry.name}: {words}", entry.readings[0].reading.id
        marks += [
            Line([low, level], [y, y], number, Tone.QUIET, label=entry.name, bar=THIN_PT),
            Line([level - half, level + half], [y, y], number, Tone.QUIET, label=entry.name, bar=THICK_PT),
            Points([level], [y], number, Tone.QUIET, keys=(key,), hints=(hint,), label=entry.name),
            Text(level + half, y, f" {words}", Tone.PLAIN, above=None),
        ]
    rows = tuple((float(len(entries) - 1 - place), e.name) for place, e in enumerate(entries))
    summary = ", ".join(f"{e.name} {_words(e, base)}" for e in entries)
    unit = notation.light_unit() if in_lux else f"stops from {base.name if base is not None else ''}"
    x = Axis(unit, low, high + ROOM_FOR_WORDS * (high - low), ticks[::every])
    return Chart(title, x, Axis("", -0.7, len(entries) - 0.3, rows), tuple(marks), f"{summary}.", rows=len(entries))


MOST_TICKS = 8

THIN_PT, THICK_PT = 1.2, 3.4
"""The widths of a bar and of its end."""

ROOM_FOR_WORDS = 0.42
"""Of the width of the scale, what the words at the right of the longest bar take."""


def ranked(comparison: Comparison) -> tuple[list[Entry], bool]:
    """The lamps that can be set against each other, the brightest first, and whether in lx: else as ratios alone."""
    comparable = [e for e in comparison.entries if e.comparable and e.ratio_stops is not None]
    in_lux = [e for e in comparable if e.illuminance]
    found = in_lux or [e for e in comparable if e.illuminance is None]
    return sorted(found, key=lambda e: -(e.ratio_stops or 0.0)), bool(in_lux)


def height_of(entry: Entry) -> float:
    """Where a lamp stands on the scale of stops: log2 of its lx, or its ratio to the reference."""
    return math.log2(entry.illuminance) if entry.illuminance else entry.ratio_stops or 0.0


def _words(entry: Entry, base: Entry | None) -> str:
    """Its level, and how it lies to the reference."""
    against = _against(entry, base)
    level = notation.level(entry.illuminance) if entry.illuminance else ""
    return " \N{MIDDLE DOT} ".join(part for part in (level, against) if part)


def _against(entry: Entry, base: Entry | None) -> str:
    if base is None or entry.ratio_stops is None:
        return ""
    if entry is base:
        return "the one to compare with"
    if entry.tie:
        return f"{'level with' if entry.level_with else 'cannot be told from'} {base.name}"
    told = notation.stops_told(entry.ratio_stops, entry.ratio_tolerance_stops or 0.0)
    return f"{told} {'brighter' if entry.ratio_stops > 0.0 else 'darker'}"
