"""A PostgreSQL server as a hub: the tables of the logbook under the same names, in a schema of their own, so that
others can query them (docs/sharing.md).

Each time somebody adds, that is one transaction and one row of `push`, whose number stands in each record that came
with it. Pushes are made one after the other, so a number that is seen has no lower one to come.
"""

import json
import sqlite3
from collections.abc import Callable, Collection, Iterator, Sequence
from contextlib import closing, contextmanager
from functools import cache
from pathlib import Path
from typing import Any, LiteralString, NamedTuple
from urllib.parse import urlsplit, urlunsplit

import psycopg
from psycopg import sql

from even_beam.bench.records import new_id
from even_beam.hubs.hub import Fetched, HubError, News, UnreachableError
from even_beam.logbook import parts
from even_beam.logbook.changes import CAN_CHANGE
from even_beam.logbook.connection import connect
from even_beam.logbook.schema import SCHEMA_VERSION, statements
from even_beam.logbook.taking_in import ARRIVE, OF_READINGS

SCHEMA = "even_beam"
_LOCK = 0x4576426D
"""The number under which those who add wait for each other."""
_CONNECT_S = 10
_ROWS_AT_ONCE = 2000
_TYPES: dict[str, LiteralString] = {
    "VARCHAR": "text",
    "FLOAT": "double precision",
    "INTEGER": "bigint",
    "BOOLEAN": "boolean",
    "BLOB": "bytea",
}


def without_password(address: str) -> str:
    """An address as it may be kept and shown."""
    found = urlsplit(address)
    if found.password is None:
        return address
    user = f"{found.username}@" if found.username else ""
    host = found.netloc.rpartition("@")[2]
    return urlunsplit(found._replace(netloc=f"{user}{host}"))


class _Column(NamedTuple):
    name: str
    type: str


@cache
def _tables() -> dict[str, tuple[tuple[_Column, ...], tuple[str, ...]]]:
    """Of each table of records its columns and its key, as the logbook has them."""
    with closing(sqlite3.connect(":memory:")) as ours:
        ours.executescript(statements())
        found = {}
        for table in (*ARRIVE, *OF_READINGS):
            rows = ours.execute(f"PRAGMA table_info({table})").fetchall()
            key = tuple(row[1] for row in sorted(rows, key=lambda row: row[5]) if row[5])
            found[table] = (tuple(_Column(row[1], row[2]) for row in rows), key)
        return found


def _named(*names: str) -> sql.Composed:
    return sql.SQL(", ").join(map(sql.Identifier, names))


class PostgresHub:
    """A server by its address. Raises `UnreachableError` and `HubError`; neither says a password."""

    def __init__(self, address: str, ask: Callable[[str], str] | None = None) -> None:
        self._shown = without_password(address)
        self._connection = self._connected(address, ask)
        with self._telling():
            self._connection.execute(sql.SQL("SET search_path TO {}").format(sql.Identifier(SCHEMA)))
            self._version = self._format()
            if self._version < SCHEMA_VERSION:
                self._bring_forward()

    def _connected(self, address: str, ask: Callable[[str], str] | None) -> psycopg.Connection[Any]:
        said: dict[str, Any] = {"connect_timeout": _CONNECT_S, "application_name": "even-beam", "autocommit": True}
        try:
            return psycopg.connect(address, **said)
        except psycopg.OperationalError as error:
            wanted = "no password supplied" in str(error)
            if wanted and ask is not None:
                return psycopg.connect(address, password=ask(self._shown), **said)
            how = " Name a password in the file that PostgreSQL reads (~/.pgpass)." if wanted else ""
            raise UnreachableError(f"{self._shown} does not answer: {_first_line(error)}.{how}") from error
        except (psycopg.Error, ValueError, UnicodeError) as error:
            raise HubError(f"{self._shown} is no address of a server: {_first_line(error)}.") from error

    @contextmanager
    def _telling(self) -> Iterator[None]:
        try:
            yield
        except psycopg.errors.InsufficientPrivilege as error:
            raise HubError(f"{self._shown} does not let you: {_first_line(error)}. Ask who runs it.") from error
        except psycopg.OperationalError as error:
            raise UnreachableError(f"{self._shown} does not answer any more: {_first_line(error)}.") from error
        except psycopg.Error as error:
            raise HubError(f"{self._shown} cannot do it: {_first_line(error)}.") from error

    # --- its tables

    def _format(self) -> int:
        """The version of its format; 0 before it was begun."""
        found = self._connection.execute(
            "SELECT 1 FROM information_schema.tables WHERE table_schema = %s AND table_name = 'format'", (SCHEMA,)
        ).fetchone()
        if found is None:
            return 0
        row = self._connection.execute("SELECT max(version) FROM format").fetchone()
        return int(row[0] or 0) if row is not None else 0

    def _bring_forward(self) -> None:
        """Make the tables and columns that are not there, whoever else does so at the same moment."""
        with self._connection.transaction():
            self._connection.execute("SELECT pg_advisory_xact_lock(%s)", (_LOCK,))
            if self._format() >= SCHEMA_VERSION:
                return
            self._connection.execute(sql.SQL("CREATE SCHEMA IF NOT EXISTS {}").format(sql.Identifier(SCHEMA)))
            self._connection.execute("CREATE TABLE IF NOT EXISTS format (version integer NOT NULL)")
            self._connection.execute(
                "CREATE TABLE IF NOT EXISTS push (number bigserial PRIMARY KEY, token text UNIQUE NOT NULL,"
                " at timestamptz NOT NULL DEFAULT now(), origin text NOT NULL)"
            )
            for table, (columns, key) in _tables().items():
                self._make(table, columns, key)
            self._connection.execute("INSERT INTO format VALUES (%s)", (SCHEMA_VERSION,))
        self._version = SCHEMA_VERSION

    def _make(self, table: str, columns: Sequence[_Column], key: Sequence[str]) -> None:
        name = sql.Identifier(table)
        typed = [sql.SQL("{} {}").format(sql.Identifier(one.name), sql.SQL(_TYPES[one.type])) for one in columns]
        self._connection.execute(
            sql.SQL("CREATE TABLE IF NOT EXISTS {} ({}, push bigint NOT NULL, PRIMARY KEY ({}))").format(
                name, sql.SQL(", ").join(typed), _named(*key)
            )
        )
        for column in typed:
            self._connection.execute(sql.SQL("ALTER TABLE {} ADD COLUMN IF NOT EXISTS {}").format(name, column))
        indices = ["push", *(own.name for own in columns if own.name in {"session_id", "record_id", "reading_id"})]
        for index in indices:
            called = sql.Identifier(f"{table}_of_{index}")
            self._connection.execute(
                sql.SQL("CREATE INDEX IF NOT EXISTS {} ON {} ({})").format(called, name, sql.Identifier(index))
            )

    def _columns_there(self, table: str) -> set[str]:
        found = self._connection.execute(
            "SELECT column_name FROM information_schema.columns WHERE table_schema = %s AND table_name = %s",
            (SCHEMA, table),
        )
        return {str(row[0]) for row in found}

    # --- what is asked of a hub

    def news(self, known: Collection[str], taken: str) -> News:
        """The pushes behind the last that was read; it went back where one that is known is gone."""
        number, _, token = taken.partition(" ")
        with self._telling():
            if not self._has_all({*known, *([token] if token else [])}):
                return News((), "", went_back=True, is_newer=self._is_newer)
            behind = self._connection.execute(
                "SELECT number, token FROM push WHERE number > %s ORDER BY number", (int(number or 0),)
            ).fetchall()
        last = f"{behind[-1][0]} {behind[-1][1]}" if behind else taken
        return News([row[1] for row in behind if row[1] not in known], last, is_newer=self._is_newer)

    def _has_all(self, tokens: Collection[str]) -> bool:
        """Whether all that was read there or sent there is there."""
        found = self._connection.execute("SELECT count(*) FROM push WHERE token = ANY(%s)", (list(tokens),)).fetchone()
        return found is not None and int(found[0]) == len(tokens)

    @property
    def _is_newer(self) -> bool:
        return self._version > SCHEMA_VERSION

    def fetch(self, names: Sequence[str], folder: Path) -> Fetched:
        """The records of some pushes, those of each bench as one part."""
        made: list[tuple[Path, Sequence[str]]] = []
        with self._telling(), self._connection.transaction():
            found = self._connection.execute(
                "SELECT origin, array_agg(number), array_agg(token) FROM push WHERE token = ANY(%s) GROUP BY origin",
                (list(names),),
            ).fetchall()
            for place, (origin, numbers, tokens) in enumerate(found):
                target = folder / f"{place}.evenbeam"
                self._fetch_of(str(origin), numbers, target)
                made.append((target, tokens))
        return Fetched(made, understood=not self._is_newer)

    def _fetch_of(self, origin: str, numbers: Sequence[int], target: Path) -> None:
        with closing(parts.begins_anew(target)) as part:
            part.execute("BEGIN")
            for table, (columns, _) in _tables().items():
                there = self._columns_there(table)
                self._fetch_table(part, table, [one.name for one in columns if one.name in there], numbers)
            part.execute("INSERT INTO hub (id, address) VALUES ('origin', ?)", (origin,))
            part.execute("COMMIT")
            parts.end(part)

    def _fetch_table(
        self, part: sqlite3.Connection, table: str, columns: Sequence[str], numbers: Sequence[int]
    ) -> None:
        asked = sql.SQL("SELECT {} FROM {} WHERE push = ANY(%(numbers)s)").format(
            _named(*columns), sql.Identifier(table)
        )
        if table in CAN_CHANGE:  # what was changed comes with its changes: it may have been taken out here meanwhile
            asked += sql.SQL(
                " OR id IN (SELECT record_id FROM change WHERE push = ANY(%(numbers)s) AND what = %(table)s)"
            )
        put = f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({', '.join('?' * len(columns))})"
        with self._connection.cursor(name=f"of_{table}") as cursor:
            cursor.itersize = _ROWS_AT_ONCE
            cursor.execute(asked, {"numbers": list(numbers), "table": table})
            while rows := cursor.fetchmany(_ROWS_AT_ONCE):
                part.executemany(put, rows)

    def add(self, part: Path) -> str:
        """Keep a part in one transaction; its name."""
        token = new_id()
        with self._telling(), closing(connect(part, "ro", immutable=True)) as source, self._connection.transaction():
            self._connection.execute("SELECT pg_advisory_xact_lock(%s)", (_LOCK,))
            origin = source.execute("SELECT address FROM hub WHERE id = 'origin'").fetchone()
            pushed = self._connection.execute(
                "INSERT INTO push (token, origin) VALUES (%s, %s) RETURNING number",
                (token, origin[0] if origin else ""),
            ).fetchone()
            assert pushed is not None
            for table, (columns, key) in _tables().items():
                self._put(source, table, columns, key, int(pushed[0]))
            self._settle(int(pushed[0]))
        return token

    def _put(
        self, source: sqlite3.Connection, table: str, columns: Sequence[_Column], key: Sequence[str], number: int
    ) -> None:
        names = [one.name for one in columns]
        truths = [place for place, one in enumerate(columns) if one.type == "BOOLEAN"]
        found = source.execute(f"SELECT {', '.join(names)} FROM {table}")
        rows = found.fetchmany(_ROWS_AT_ONCE)
        if not rows:
            return
        coming, own = sql.Identifier(f"coming_{table}"), sql.Identifier(table)
        self._connection.execute(
            sql.SQL("CREATE TEMP TABLE {} ON COMMIT DROP AS SELECT {} FROM {} WITH NO DATA").format(
                coming, _named(*names), own
            )
        )
        with self._connection.cursor().copy(sql.SQL("COPY {} ({}) FROM STDIN").format(coming, _named(*names))) as copy:
            while rows:
                for row in rows:
                    copy.write_row([bool(v) if n in truths and v is not None else v for n, v in enumerate(row)])
                rows = found.fetchmany(_ROWS_AT_ONCE)
        self._connection.execute(
            sql.SQL("INSERT INTO {} ({}, push) SELECT {}, %s FROM {} ON CONFLICT ({}) DO NOTHING").format(
                own, _named(*names), _named(*names), coming, _named(*key)
            ),
            (number,),
        )

    def _settle(self, number: int) -> None:
        """Let the latest of all changes stand in the records, for those who query them."""
        changed = self._connection.execute(
            "SELECT DISTINCT what, record_id, field FROM change WHERE push = %s AND field != ''", (number,)
        ).fetchall()
        for what, record_id, field in changed:
            columns = {one.name: one.type for one in _tables().get(what, ((), ()))[0]}
            if field not in columns:
                continue
            latest = self._connection.execute(
                "SELECT new FROM change WHERE what = %s AND record_id = %s AND field = %s ORDER BY at DESC, id DESC"
                " LIMIT 1",
                (what, record_id, field),
            ).fetchone()
            assert latest is not None
            value = json.loads(latest[0])
            if columns[field] == "BOOLEAN" and value is not None:
                value = bool(value)
            self._connection.execute(
                sql.SQL("UPDATE {} SET {} = %s WHERE id = %s").format(sql.Identifier(what), sql.Identifier(field)),
                (value, record_id),
            )

    def close(self) -> None:
        """Let go of it."""
        self._connection.close()


def _first_line(error: Exception) -> str:
    """What the server says, without its trace, in one line."""
    return str(error).strip().splitlines()[0].rstrip(".") if str(error).strip() else type(error).__name__
