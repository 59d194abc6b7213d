"""Dates as tables have them, in whichever order a column writes them: its other cells tell what one leaves open."""

import re
from collections.abc import Iterable
from datetime import UTC, datetime

_PARTED = re.compile(r"(\d{1,4})([./-])(\d{1,2})\2(\d{1,4})(?:[ T]+(\d{1,2}:\d{2}(?::\d{2})?))?")

DAY_FIRST, MONTH_FIRST, UNKNOWN = "day first", "month first", ""


def order_of(texts: Iterable[str]) -> str:
    """The order that a column's dates are written in: told by a number above twelve, else by points, which are written
    between day and month where the day is first (common practice, no source).

    >>> order_of(["03/10/2026", "25/10/2026"]), order_of(["03/10/2026"]), order_of(["3.10.2026"])
    ('day first', '', 'day first')
    """
    found = [match for text in texts if (match := _PARTED.fullmatch(text.strip())) is not None and len(match[1]) < 3]
    first, second = any(int(m[1]) > 12 for m in found), any(int(m[3]) > 12 for m in found)
    if first != second:
        return DAY_FIRST if first else MONTH_FIRST
    return DAY_FIRST if found and not first and all(m[2] == "." for m in found) else UNKNOWN


def time_of(text: str, order: str) -> datetime | None:
    """A date, with a time or without; None for what is none, and for one that could be two.

    >>> time_of("25.10.26", DAY_FIRST).date().isoformat(), time_of("03/10/2026", UNKNOWN)
    ('2026-10-25', None)
    """
    written = text.strip()
    match = _PARTED.fullmatch(written)
    if match is not None and len(match[1]) < 3:
        if order == UNKNOWN:
            return None
        day, month = (match[1], match[3]) if order == DAY_FIRST else (match[3], match[1])
        year = match[4] if len(match[4]) == 4 else f"20{match[4]:0>2}"
        written = f"{year}-{month:0>2}-{day:0>2}{f'T{match[5]:0>5}' if match[5] else ''}"
    try:
        time = datetime.fromisoformat(written)
    except ValueError:
        return None
    return time if time.tzinfo is not None else time.replace(tzinfo=UTC)
