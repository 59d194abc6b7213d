"""The thorough check of a logbook: its pages, its references, and whether every figure is of the present method."""

import sqlite3
from collections.abc import Callable, Iterable, Sequence
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from even_beam.bench.limits import TERM_LIMITS
from even_beam.bench.records import Reading, Value
from even_beam.light import METHOD_VERSION
from even_beam.logbook import own_schema, rows
from even_beam.logbook.beside import connect_to_read
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.schema import SCHEMA_VERSION
from even_beam.words.quantities import QUANTITIES


@dataclass(frozen=True, slots=True)
class Report:
    """What a check found; `problems` is empty for a sound logbook. `older` is its format where that is no longer the
    present one."""

    readings: int
    spectra: int
    out_of_date: int
    problems: tuple[str, ...]
    older: int | None = None

    @property
    def sound(self) -> bool:
        """Whether nothing is wrong."""
        return not self.problems


def _impossible(connection: sqlite3.Connection) -> list[str]:
    """Figures and terms that cannot be, each kind of them in a sentence: nothing uses them, and they stay in the
    file."""
    found = []
    for name, one in QUANTITIES.items():
        outside = " OR ".join(f"{column} NOT BETWEEN ? AND ?" for column in ("value", "low", "high"))
        query = f"SELECT count(*), min(text) FROM value WHERE quantity = ? AND ({outside})"
        count, text = connection.execute(query, (name, *(one.low, one.high) * 3)).fetchone()
        if count:
            found.append(
                f"{count} figure{'s' * (count > 1)} of {one.label} that cannot be, such as “{text}”: set aside"
            )
    known = _columns(connection)
    for name, limit in TERM_LIMITS.items():
        if ("reading", name) not in known:
            continue  # of a format that did not have it yet
        query = f"SELECT count(*) FROM reading WHERE {name} NOT BETWEEN ? AND ?"
        count = connection.execute(query, (limit.low, limit.high)).fetchone()[0]
        if count:
            found.append(
                f"{count} reading{'s' * (count > 1)} at {limit.label} that cannot be: set aside until its terms are"
                " corrected"
            )
    return found


def _columns(connection: sqlite3.Connection) -> set[tuple[str, str]]:
    """Every column of a file, of whatever format it is."""
    query = "SELECT m.name, c.name FROM sqlite_master m, pragma_table_info(m.name) c WHERE m.type = 'table'"
    return {(str(table), str(column)) for table, column in connection.execute(query)}


MOST_TOLD = 20
"""So many bad rows are told of each table."""


def _bad_rows(connection: sqlite3.Connection) -> list[str]:
    """Rows that cannot be read as records: each by its table and id, and what is wrong with it."""
    known = _columns(connection)
    found: list[str] = []
    for kind in rows.TABLES:
        if kind is not Value and not all((rows.TABLES[kind], name) in known for name in rows.shape_of(kind).columns):
            continue  # of a format that did not have all of it yet: looked at when it is brought forward
        found += _bad_rows_of(connection, kind)
    for table, columns, read in (
        ("spectrum", rows.SPECTRUM_COLUMNS, rows.spectrum_from_row),
        ("trace", rows.TRACE_COLUMNS, rows.trace_from_row),
        ("computed", rows.COMPUTED_COLUMNS, rows.computed_from_row),
    ):
        if all((table, name) in known for name in columns):
            found += _not_understood(connection.execute(f"SELECT {', '.join(columns)} FROM {table}"), read)
    return found


def _bad_rows_of(connection: sqlite3.Connection, kind: type) -> list[str]:
    shape, table = rows.shape_of(kind), rows.TABLES[kind]
    owner = ", reading_id" if kind is Value else ""
    elsewhere = {"values": [()]} if kind is Reading else {}
    found = connection.execute(f"SELECT {shape.selected}{owner} FROM {table}")
    return _not_understood(found, lambda row: shape.made([row], **elsewhere))


def _not_understood(found: Iterable[Sequence[Any]], read: Callable[[Sequence[Any]], object]) -> list[str]:
    problems = []
    for row in found:
        try:
            read(row)
        except rows.RowError as error:
            problems.append(str(error))
            if len(problems) == MOST_TOLD:
                break
    return problems


def check(path: Path) -> Report:
    """Check a logbook without changing it. Takes time in proportion to its size; raises `LogbookError` if
    unreadable."""
    try:
        connection = connect_to_read(path)
    except (OSError, sqlite3.Error, UnicodeDecodeError) as error:
        raise LogbookError(
            f"{path.name} cannot be opened: {error}.", "It was left as it is.", "Check its rights."
        ) from error
    with closing(connection):
        try:
            return _report(connection)
        except (sqlite3.DatabaseError, UnicodeDecodeError) as error:
            raise LogbookError(
                f"{path.name} is damaged: {error}.", "The file was left as it is.", "Work with your last copy of it."
            ) from error


def _report(connection: sqlite3.Connection) -> Report:
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    older = version if version < SCHEMA_VERSION else None
    if strange := own_schema.problem_of(connection):  # then nothing in it is run
        return Report(0, 0, 0, (f"it has {strange}",), older)
    problems = [str(row[0]) for row in connection.execute("PRAGMA integrity_check(20)") if row[0] != "ok"]
    for table, _, parent, _ in connection.execute("PRAGMA foreign_key_check"):
        problems.append(f"a row of {table} refers to a missing {parent}")
    count = connection.execute("SELECT count(*) FROM reading").fetchone()[0]
    spectra = connection.execute("SELECT count(*) FROM spectrum").fetchone()[0]
    untaken = connection.execute(
        "SELECT count(*) FROM reading WHERE id NOT IN (SELECT reading_id FROM event WHERE kind = 'taken')"
    ).fetchone()[0]
    if untaken:
        problems.append(f"{untaken} readings without the event that took them")
    problems += _impossible(connection)
    problems += _bad_rows(connection)
    old = connection.execute(
        "SELECT count(*) FROM spectrum s LEFT JOIN computed c USING (reading_id) WHERE c.method_version IS NOT ?",
        (METHOD_VERSION,),
    ).fetchone()[0]
    return Report(count, spectra, old, tuple(problems), older)
