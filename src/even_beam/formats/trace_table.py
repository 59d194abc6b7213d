"""Quantities against time in a table: power logs, warm-up, fades. The first column is the time, the others
quantities."""

import re
from datetime import datetime

import numpy as np

from even_beam.bench.traces import Trace
from even_beam.formats import columns
from even_beam.formats.errors import FormatError
from even_beam.formats.readings_table import Table
from even_beam.formats.sheet_layout import Place
from even_beam.words.quantities import QUANTITIES

_TIME_WORDS = frozenset(
    {"time", "t", "elapsed", "seconds", "s", "sec", "minutes", "min", "time s", "time min", "timestamp", "date time"}
)
_MINUTES = frozenset({"minutes", "min", "time min"})
_SCALES = {"mw": 1e-3, "kw": 1e3, "ma": 1e-3, "fc": 10.763910417}
LEAST_POINTS = 3


def is_trace(headings: tuple[str, ...]) -> bool:
    """Whether a table is a time series: a time first, and then nothing but quantities."""
    if len(headings) < 2:
        return False
    first, *others = [columns.heading(text) for text in headings]
    named = [one for one in others if one.text]
    return first.words in _TIME_WORDS and bool(named) and all(columns.quantity_of(one) for one in named)


def traces_of(table: Table) -> tuple[Trace, ...]:
    """A trace for each quantity of a table, its time from the first point on. Raises `FormatError` naming a wrong
    line."""
    first, *others = [columns.heading(text) for text in table.headings]
    in_minutes = first.words in _MINUTES or first.unit.lower() in {"min", "minutes"}
    seconds = np.array([_seconds(row[0], where, table.name) for where, row in table.rows]) * (
        60.0 if in_minutes else 1.0
    )
    if seconds.size < LEAST_POINTS:
        raise FormatError(f"{table.name}: a trace needs at least {LEAST_POINTS} points")
    if not np.all(np.diff(seconds) > 0.0):
        where = table.rows[int(np.argmin(np.diff(seconds) > 0.0)) + 1][0]
        raise FormatError(f"{table.name}, {where}: the time does not go on")
    found = []
    for place, one in enumerate(others, start=1):
        quantity = columns.quantity_of(one)
        if quantity is None:
            continue
        scale = _SCALES.get(one.unit.lower() or one.words, 1.0)
        values = np.array([_value(row, place, where, table.name) for where, row in table.rows]) * scale
        low, high = QUANTITIES[quantity].low, QUANTITIES[quantity].high
        outside = np.flatnonzero((values < low) | (values > high))
        if outside.size:
            raise FormatError(
                f"{table.name}, {table.rows[int(outside[0])][0]}: {values[outside[0]]:g} is no"
                f" {QUANTITIES[quantity].label}"
            )
        known = np.isfinite(values)
        if known.sum() >= LEAST_POINTS:
            found.append(Trace(quantity, seconds[known] - seconds[0], values[known]))
    if not found:
        raise FormatError(f"{table.name}: no column has {LEAST_POINTS} points or more")
    return tuple(found)


def _seconds(text: str, where: Place, name: str) -> float:
    """Seconds of `12.5`, `01:30`, `1:02:30` or an ISO time."""
    clock = re.fullmatch(r"(?:(\d+):)?(\d{1,3}):(\d{2}(?:\.\d+)?)", text)
    if clock is not None:
        return 3600.0 * float(clock[1] or 0.0) + 60.0 * float(clock[2]) + float(clock[3])
    try:
        return float(text.replace(",", "."))
    except ValueError:
        pass
    try:
        return datetime.fromisoformat(text).timestamp()
    except ValueError:
        raise FormatError(
            f"{name}, {where}: “{text}” is not a time; write seconds, 1:30 or 2026-11-25T20:05:00"
        ) from None


def _value(row: tuple[str, ...], place: int, where: Place, name: str) -> float:
    """A figure; NaN for a gap."""
    text = row[place] if place < len(row) else ""
    if not text:
        return float("nan")
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise FormatError(f"{name}, {where}: “{text}” is not a number") from None
    if not np.isfinite(value):
        raise FormatError(f"{name}, {where}: “{text}” is not a number")
    return value
