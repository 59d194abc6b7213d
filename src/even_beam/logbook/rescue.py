"""What a logbook still holds whose file was destroyed under it, kept in a new one: the pages that it has in memory and
in its log, and what it was told since it was opened."""

import sqlite3
from collections import deque
from collections.abc import Iterator, Mapping, Sequence
from contextlib import closing, suppress
from functools import cache
from pathlib import Path
from typing import Any

from even_beam.files.writing import temporary_beside
from even_beam.logbook import creation
from even_beam.logbook.beside import clear_away, free_name
from even_beam.logbook.connection import connect
from even_beam.logbook.schema import statements

Row = Mapping[str, Any]

_MOST_BYTES = 64 * 2**20
_MOST_FAILED = 500
"""After so many reads that fail nothing more is looked for in a table."""


class Held:
    """The rows that were kept since the logbook was opened, the newest of them up to some megabytes."""

    def __init__(self) -> None:
        self._kept: deque[tuple[str, Sequence[Row], int]] = deque()
        self._bytes = 0

    def add(self, table: str, rows: Sequence[Row]) -> None:
        """Rows that were kept in a table."""
        size = sum(len(cell) if isinstance(cell, str | bytes) else 16 for row in rows for cell in row.values())
        self._kept.append((table, rows, size))
        self._bytes += size
        while self._bytes > _MOST_BYTES and len(self._kept) > 1:
            self._bytes -= self._kept.popleft()[2]

    def __iter__(self) -> Iterator[tuple[str, Row]]:
        return ((table, row) for table, rows, _ in self._kept for row in rows)


AT_ONCE_BYTES, MOST_AT_HAND_BYTES = 2**20, 16 * 2**20
"""A logbook of so many bytes is had at hand when it is opened; one of so many while nobody waits for it."""


def have_at_hand(connection: sqlite3.Connection, *, whole: bool) -> None:
    """Have the pages in memory that what is read from here on rests on: all, or those of the kit and the sessions.

    Raises `sqlite3.Error`.
    """
    for table in _tables():
        if whole or table not in _MANY_ROWS:
            connection.execute(f"SELECT count(*) FROM {table} NOT INDEXED").fetchone()


_MANY_ROWS = frozenset({"reading", "value", "spectrum", "trace", "computed", "event", "step", "observation", "photo"})


def rescue(connection: sqlite3.Connection, held: Held, path: Path, *, whole: bool) -> tuple[Path, int] | None:
    """A new logbook beside the one that was destroyed, or at home, with all that is left, and how many readings it has;
    None where it can be written nowhere. `whole` where the file is as it was, but no longer to be found."""
    for folder in (path.parent, Path.home()):
        target = free_name(folder / f"{path.stem} (rescued){path.suffix}")
        building = temporary_beside(target)
        with suppress(OSError, sqlite3.Error):
            try:
                if not (whole and _is_copied(connection, building)):
                    _write_what_is_left(connection, held, building)
                readings = creation.row_counts(building).get("reading", 0)
                building.rename(target)
                return target, readings
            finally:
                clear_away(building)
    return None


def _is_copied(connection: sqlite3.Connection, building: Path) -> bool:
    try:
        creation.copy_held(connection, building)
    except (OSError, sqlite3.Error):
        clear_away(building)
        return False
    return True


def _write_what_is_left(connection: sqlite3.Connection, held: Held, building: Path) -> None:
    """Row by row: a look at the whole would drop the pages that are still in memory."""
    creation.build(building)
    with closing(connect(building, "rw")) as anew:
        anew.execute("BEGIN")
        for table in _tables():
            for row in _left_of(connection, table):
                _put(anew, table, row)
        for table, row in held:
            _put(anew, table, row)
        for table, key, parent in _BELONGING:
            anew.execute(f"DELETE FROM {table} WHERE {key} IS NOT NULL AND {key} NOT IN (SELECT id FROM {parent})")
        anew.execute("COMMIT")


_BELONGING = (
    ("event", "session_id", "session"), ("step", "session_id", "session"), ("reading", "session_id", "session"),
    *((table, "reading_id", "reading") for table in ("value", "spectrum", "trace", "computed")),
)  # fmt: skip
"""Rows of which one that they belong to could not be read are of no use."""


@cache
def _tables() -> list[str]:
    with closing(sqlite3.connect(":memory:")) as ours:
        ours.executescript(statements())
        found = [str(row[0]) for row in ours.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
    return [name for name in found if name != "chain"]


def _put(anew: sqlite3.Connection, table: str, row: Row) -> None:
    names = ", ".join(row)
    marks = ", ".join("?" * len(row))
    anew.execute(f"INSERT OR REPLACE INTO {table} ({names}) VALUES ({marks})", tuple(row.values()))


def _left_of(connection: sqlite3.Connection, table: str) -> Iterator[Row]:
    """The rows of a table that can still be read: halves of it, and halves of these, around what cannot."""
    try:
        last = connection.execute(f"SELECT max(rowid) FROM {table}").fetchone()[0]
    except sqlite3.Error:
        last = 2**20
    waiting, failed = [(1, int(last or 0))], 0
    while waiting and failed < _MOST_FAILED:
        first, last = waiting.pop()
        if first > last:
            continue
        try:
            found = connection.execute(f"SELECT * FROM {table} WHERE rowid BETWEEN ? AND ?", (first, last))
            names = [column[0] for column in found.description]
            yield from [dict(zip(names, row, strict=True)) for row in found.fetchall()]
        except sqlite3.Error:
            failed += 1
            if first < last:
                middle = (first + last) // 2
                waiting += [(middle + 1, last), (first, middle)]
