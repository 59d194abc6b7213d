"""The thorough check of a logbook: its pages, its references, and whether every figure is of the present method."""

import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from even_beam.bench.limits import TERM_LIMITS
from even_beam.bench.quantities import QUANTITIES
from even_beam.light import METHOD_VERSION
from even_beam.logbook import rows
from even_beam.logbook.connection import connect_to_read
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.schema import statements


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


_NUMBERS = {
    "FLOAT": "typeof({0}) NOT IN ('real', 'integer', 'null')",
    "INTEGER": "typeof({0}) NOT IN ('integer', 'null')",
}
_TEXTS = {
    rows.Kept.TIME: "{0} IS NOT NULL AND datetime({0}) IS NULL",
    rows.Kept.JSON: "{0} IS NOT NULL AND NOT json_valid({0})",
}
"""What makes a cell of a kind of column nonsense."""


def _tests() -> list[tuple[str, str, str]]:
    """Table, column and what makes a cell of it nonsense, of every column that is no plain text."""
    with closing(sqlite3.connect(":memory:")) as empty:
        empty.executescript(statements())
        declared = empty.execute(
            "SELECT m.name, c.name, c.type FROM sqlite_master m, pragma_table_info(m.name) c WHERE m.type = 'table'"
        ).fetchall()
    kept = rows.kept_as_text()
    found = []
    for table, column, kind in declared:
        test = _NUMBERS.get(kind) or _TEXTS.get(kept.get((table, column), rows.Kept.PLAIN))
        if test is not None:
            found.append((table, column, test.format(column)))
    return found


def _nonsense(connection: sqlite3.Connection) -> list[str]:
    """Cells that no program of ours wrote, column by column."""
    found = []
    for table, column, test in _tests():
        if count := connection.execute(f"SELECT count(*) FROM {table} WHERE {test}").fetchone()[0]:
            found.append(f"{count} cell{'s' * (count > 1)} of {table}.{column} cannot be understood")
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
