"""Whether the tables of a file are ours: a logbook of a stranger may have triggers that double what is kept, or views
that never end. Nothing of its rows is asked before this was looked at."""

import re
import sqlite3
from collections.abc import Iterable
from contextlib import closing
from functools import cache

from even_beam.logbook.schema import OLDER_TABLES, SCHEMA_VERSION, statements

Row = tuple[object, ...]

_MORE_THAN_COLUMNS = re.compile(
    r"\b(CHECK|COLLATE|GENERATED|VIRTUAL|STORED|WITHOUT|STRICT|AUTOINCREMENT)\b", re.IGNORECASE
)
"""Words that none of our tables has: each would run something, or order rows in another way."""

_OWN = re.compile(r"sqlite_(autoindex_|stat)")


def problem_of(connection: sqlite3.Connection) -> str:
    """What a file has that no logbook has, in words; empty for one of ours. Raises `sqlite3.Error`."""
    found = _contents(connection)
    if found == _listed():
        return ""
    if more := more_than_rows(connection):
        return more
    tables = [str(name) for kind, name, _ in found if kind == "table" and not _OWN.match(str(name))]
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    if version < SCHEMA_VERSION:
        strange = set(tables) - OLDER_TABLES
        return f"a table “{min(strange)}” that no logbook has" if strange else ""
    return _difference(_shape(connection, tables), _expected())


def more_than_rows(connection: sqlite3.Connection) -> str:
    """What a file has that would do something, of whatever format it is; empty for tables that hold rows. Raises
    `sqlite3.Error`."""
    for kind, name, sql in _contents(connection):
        if _OWN.match(str(name)):
            continue
        if kind in ("trigger", "view"):
            return f"a {kind} “{name}”, which no logbook has"
        plain = re.match(r"CREATE TABLE\b", str(sql), re.IGNORECASE) and not _MORE_THAN_COLUMNS.search(str(sql))
        if kind == "table" and not plain:
            return f"a table “{name}” that does more than hold rows"
    return ""


def _contents(connection: sqlite3.Connection) -> list[Row]:
    return connection.execute("SELECT type, name, coalesce(sql, '') FROM sqlite_master").fetchall()


def _difference(found: dict[str, frozenset[Row]], expected: dict[str, frozenset[Row]]) -> str:
    for name in sorted(expected.keys() | found.keys()):
        if name not in expected:
            return f"a table “{name}” that no logbook has"
        if name not in found:
            return f"no table “{name}”"
        if found[name] != expected[name]:
            return f"other columns, keys or indices than a logbook has in its table “{name}”"
    return ""


def _shape(connection: sqlite3.Connection, tables: Iterable[str]) -> dict[str, frozenset[Row]]:
    """Of each table the columns, keys and indices, in whatever order it was given them."""
    found = {}
    for name in tables:
        indices = connection.execute(
            'SELECT l.name, l."unique", l.origin, i.seqno, i.name, m.sql FROM pragma_index_list(?1) l,'
            " pragma_index_info(l.name) i LEFT JOIN sqlite_master m ON m.name = l.name",
            (name,),
        ).fetchall()
        found[name] = frozenset(
            (
                *connection.execute(
                    'SELECT name, type, "notnull", dflt_value, pk, hidden FROM pragma_table_xinfo(?)', (name,)
                ),
                *connection.execute(
                    'SELECT "table", "from", "to", on_update, on_delete FROM pragma_foreign_key_list(?)', (name,)
                ),
                *((i[0] if i[5] else "", *i[1:5], " ".join(str(i[5]).split())) for i in indices),
            )
        )
    return found


@cache
def _listed() -> list[Row]:
    """The table of contents of a new file."""
    with closing(_empty()) as ours:
        return _contents(ours)


@cache
def _expected() -> dict[str, frozenset[Row]]:
    with closing(_empty()) as ours:
        names = [str(row[0]) for row in ours.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        return _shape(ours, names)


def _empty() -> sqlite3.Connection:
    empty = sqlite3.connect(":memory:")
    empty.executescript(statements())
    return empty
