"""The thorough check of a logbook: its pages, its references, and whether every figure is of the present method."""

import sqlite3
from dataclasses import dataclass
from pathlib import Path

from sqlalchemy import Float, Integer

from even_beam.bench.limits import TERM_LIMITS
from even_beam.bench.quantities import QUANTITIES
from even_beam.light import METHOD_VERSION
from even_beam.logbook import schema
from even_beam.logbook.engine import connect_to_read
from even_beam.logbook.errors import LogbookError


@dataclass(frozen=True, slots=True)
class Report:
    """What a check found; `problems` is empty for a sound logbook."""

    readings: int
    spectra: int
    out_of_date: int
    problems: tuple[str, ...]

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
    for name, limit in TERM_LIMITS.items():
        query = f"SELECT count(*) FROM reading WHERE {name} NOT BETWEEN ? AND ?"
        count = connection.execute(query, (limit.low, limit.high)).fetchone()[0]
        if count:
            found.append(
                f"{count} reading{'s' * (count > 1)} at {limit.label} that cannot be: set aside until its terms are"
                " corrected"
            )
    return found


_SENSE = {
    Float: "typeof({0}) NOT IN ('real', 'integer', 'null')",
    Integer: "typeof({0}) NOT IN ('integer', 'null')",
    schema.UtcText: "{0} IS NOT NULL AND datetime({0}) IS NULL",
    schema.JsonText: "{0} IS NOT NULL AND NOT json_valid({0})",
}
"""What makes a cell of a kind of column nonsense."""


def _nonsense(connection: sqlite3.Connection) -> list[str]:
    """Cells that no program of ours wrote, column by column."""
    found = []
    for table in schema.metadata.sorted_tables:
        for column in table.columns:
            test = _SENSE.get(type(column.type))
            if test is None:
                continue
            query = f"SELECT count(*) FROM {table.name} WHERE {test.format(column.name)}"
            if count := connection.execute(query).fetchone()[0]:
                found.append(f"{count} cell{'s' * (count > 1)} of {table.name}.{column.name} cannot be understood")
    return found


def check(path: Path) -> Report:
    """Check a logbook without changing it. Takes time in proportion to its size; raises `LogbookError` if
    unreadable."""
    try:
        connection = connect_to_read(path)
    except (sqlite3.Error, UnicodeDecodeError) as error:
        raise LogbookError(
            f"{path.name} cannot be opened: {error}.", "It was left as it is.", "Check its rights."
        ) from error
    try:
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
        problems += _nonsense(connection)
        old = connection.execute(
            "SELECT count(*) FROM spectrum s LEFT JOIN computed c USING (reading_id) WHERE c.method_version IS NOT ?",
            (METHOD_VERSION,),
        ).fetchone()[0]
    except (sqlite3.DatabaseError, UnicodeDecodeError) as error:
        raise LogbookError(
            f"{path.name} is damaged: {error}.", "The file was left as it is.", "Work with your last copy of it."
        ) from error
    finally:
        connection.close()
    return Report(count, spectra, old, tuple(problems))
