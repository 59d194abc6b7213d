"""Logbooks that were killed: what they had confirmed stands in the log alone, since somebody read it all the while."""

import shutil
import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

from even_beam.bench.records import Event, EventKind, Origin, Reading, Session, Source, Terms, Value, new_id
from even_beam.logbook.store import Logbook

BEGAN = datetime(2026, 11, 20, 18, 0, tzinfo=UTC)
BESIDE = ("", "-wal", "-shm", "-journal")


def take(book: Logbook, session_id: str, level: float) -> str:
    """A reading of a level, confirmed; its id."""
    number = book.next_sequence(session_id)
    value = Value("illuminance", level, Origin.TYPED, text=f"{level:g}", unit="lx")
    at = BEGAN + timedelta(minutes=number)
    reading = Reading(new_id(), session_id, at, number, Terms(distance_m=2.0), values=(value,))
    book.commit_reading(reading, [Event(new_id(), session_id, number, at, EventKind.TAKEN, reading.id)])
    return reading.id


def an_evening(path: Path, name: str, levels=()) -> Path:
    """A logbook with one session of these levels, closed."""
    book = Logbook.create(path)
    book.save(Session("s-" + name, name, BEGAN), Source(new_id(), "Tansy"))
    for level in levels:
        take(book, "s-" + name, level)
    book.close()
    return path


def killed(path: Path, levels) -> Path:
    """The same logbook after a killed process had confirmed these levels in its only session."""
    alive = path.with_name("alive.evenbeam")
    for beside in BESIDE:
        if (lying := path.with_name(path.name + beside)).exists():
            lying.rename(alive.with_name(alive.name + beside))
    book = Logbook.open(alive)
    reader = sqlite3.connect(alive)
    reader.execute("BEGIN").execute("SELECT count(*) FROM reading").fetchone()
    for level in levels:
        take(book, book.sessions()[0].id, level)
    for beside in BESIDE[:2]:
        shutil.copyfile(alive.with_name(alive.name + beside), path.with_name(path.name + beside))
    reader.close()
    book.close()
    alive.unlink()
    return path


def levels_in(path: Path) -> list[float]:
    """What is read there, by whoever only reads."""
    book = Logbook.open_to_read(path)
    try:
        return [r.values[0].value for s in book.sessions() for r in book.readings(s.id)]
    finally:
        book.close()
