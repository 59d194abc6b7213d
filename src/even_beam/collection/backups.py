"""Copies of a logbook, one of each day it was written in: kept by days, then weeks, then months, up to a size."""

import hashlib
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.collection.files import SUFFIX
from even_beam.logbook.reader import Reader
from even_beam.shell import places

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

DAYS, WEEKS = 7, 8
"""So many days have a copy each, then so many weeks, then each month."""

_DAY = re.compile(r"(\d{4}-\d{2}-\d{2})" + re.escape(SUFFIX))


@dataclass(frozen=True, slots=True)
class Backup:
    """A copy, the day whose work is in it, and its size."""

    path: Path
    day: date
    size: int


def folder_of(logbook: Path) -> Path:
    """Where the copies of a logbook are: by its name, and by where it lies."""
    where = hashlib.sha256(str(logbook.resolve()).encode("utf-8", "surrogateescape")).hexdigest()[:8]
    return places.data_folder() / "backups" / f"{logbook.stem} {where}"


def backups_of(logbook: Path) -> list[Backup]:
    """The copies of a logbook, the newest first."""
    folder = folder_of(logbook)
    found = [_backup(path) for path in folder.iterdir()] if folder.is_dir() else []
    return sorted((one for one in found if one is not None), key=lambda one: one.day, reverse=True)


def _backup(path: Path) -> Backup | None:
    named = _DAY.fullmatch(path.name)
    try:
        return Backup(path, date.fromisoformat(named[1]), path.stat().st_size) if named is not None else None
    except (ValueError, OSError):
        return None


def is_due(logbook: Reader, today: date) -> bool:
    """Whether something came that is in no copy of another day, and today has no copy yet."""
    newest = next(iter(backups_of(logbook.path)), None)
    if newest is None:
        return logbook.arrivals > 0
    if newest.day >= today:
        return False
    copied = _opened(newest.path)
    return copied is None or copied < logbook.arrivals


def _opened(path: Path) -> int | None:
    """How much had come into a copy; None for one that cannot be read."""
    from even_beam.logbook.errors import LogbookError
    from even_beam.logbook.store import Logbook

    try:
        book = Logbook.open_to_read(path)
    except LogbookError:
        return None
    try:
        return book.arrivals
    finally:
        book.close()


def back_up(logbook: "Logbook", today: date, most_bytes: float) -> Path:
    """Copy a logbook for today, and thin what there is. Raises `LogbookError` and `OSError`."""
    folder = folder_of(logbook.path)
    folder.mkdir(parents=True, exist_ok=True)
    made = logbook.save_copy(folder / f"{today.isoformat()}{SUFFIX}")
    for one in superfluous(backups_of(logbook.path), today, most_bytes):
        one.path.unlink(missing_ok=True)
    return made


def superfluous(backups: Sequence[Backup], today: date, most_bytes: float) -> Iterator[Backup]:
    """Which of these need not be kept: of a week or month all but its last; the oldest beyond a size; never the newest.

    `backups` are the newest first.
    """
    kept_for: set[tuple[object, ...]] = set()
    size = 0.0
    for place, one in enumerate(backups):
        period = _period(one.day, today)
        size += one.size
        if place and (period in kept_for or size > most_bytes):
            size -= one.size
            yield one
        kept_for.add(period)


def _period(day: date, today: date) -> tuple[object, ...]:
    age = (today - day).days
    if age < DAYS:
        return "day", day
    if age < DAYS * WEEKS:
        return ("week", *day.isocalendar()[:2])
    return "month", day.year, day.month
