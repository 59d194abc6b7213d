"""What a hub has not yet, as a small logbook of its own; and such parts put together to one.

A part is a file of the logbook's own tables in which records may name others that are elsewhere, and in which names may
stand twice: what several times sent is of several times.
"""

import gzip
import hashlib
import os
import re
import shutil
import sqlite3
from collections.abc import Iterable
from contextlib import closing
from pathlib import Path

from even_beam.logbook import creation, own_schema
from even_beam.logbook.connection import connect, connect_to_write, sqlite_uri
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.reader import Reader
from even_beam.logbook.schema import APPLICATION_ID, SCHEMA_VERSION, statements
from even_beam.logbook.taking_in import ARRIVE, NAMED_BY, OF_READINGS, OF_SESSIONS, common_columns

ALL_COSTS = ("cost", "")
"""Kept back: what is paid, of all lamps."""


def write(path: Path, hub_id: str, sent: int, origin: str, target: Path) -> int:
    """Write what came into the logbook at `path` since a hub was told up to `sent` and did not come from it, as a new
    file at `target`, which is taken away where there is nothing; up to where the hub is told then. The logbook may be
    open and be written meanwhile.

    Raises `OSError` and `sqlite3.Error`.
    """
    with closing(begins_anew(target)) as connection:
        connection.execute("ATTACH ? AS book", (sqlite_uri(path, "ro"),))
        connection.execute("BEGIN")
        last = int(connection.execute("SELECT coalesce(max(number), 0) FROM book.arrival").fetchone()[0])
        count = _gather(connection, hub_id, sent)
        _fill(connection)
        connection.execute("INSERT INTO main.hub (id, address) VALUES ('origin', ?)", (origin,))
        connection.execute("COMMIT")
        connection.execute("DETACH book")
        end(connection)
    if not count:
        target.unlink()
    return last


def _gather(connection: sqlite3.Connection, hub_id: str, sent: int) -> int:
    """Which records go, but for those that are kept back; how many."""
    connection.execute(
        "CREATE TEMP TABLE going AS SELECT DISTINCT what, record_id FROM book.arrival WHERE number > ? AND hub_id != ?",
        (sent, hub_id),
    )
    connection.execute(
        "INSERT INTO going SELECT DISTINCT what, record_id FROM book.change WHERE id IN"
        " (SELECT record_id FROM going WHERE what = 'change')"
    )  # what was changed goes with its changes: whoever has it not yet can tell
    connection.execute("CREATE TEMP TABLE hidden AS SELECT what, record_id FROM book.kept_back")
    for statement in _HIDDEN_WITH:
        connection.execute(f"INSERT INTO hidden {statement}")
    connection.execute("CREATE INDEX temp.of_hidden ON hidden (what, record_id)")
    connection.execute(
        "DELETE FROM going WHERE EXISTS (SELECT 1 FROM hidden h WHERE h.what = going.what AND h.record_id ="
        " going.record_id)"
    )
    return int(connection.execute("SELECT count(*) FROM going").fetchone()[0])


_HIDDEN_WITH = (
    *(
        f"SELECT '{table}', id FROM book.{table} WHERE session_id IN (SELECT record_id FROM hidden WHERE"
        " what = 'session')"
        for table in OF_SESSIONS
    ),
    *(
        f"SELECT '{table}', t.id FROM book.{table} t, hidden h WHERE h.what = 'source' AND instr(t.source_ids,"
        " h.record_id)"
        for table in ("step", "observation", "reading")
    ),
    "SELECT 'event', e.id FROM book.event e, hidden h WHERE h.what = 'source' AND instr(e.new || e.old, h.record_id)",
    "SELECT 'event', id FROM book.event WHERE reading_id IN (SELECT record_id FROM hidden WHERE what = 'reading')",
    "SELECT 'event', id FROM book.event WHERE step_id IN (SELECT record_id FROM hidden WHERE what = 'step')",
    "SELECT 'photo', id FROM book.photo WHERE reading_id IN (SELECT record_id FROM hidden WHERE what = 'reading')"
    " OR observation_id IN (SELECT record_id FROM hidden WHERE what = 'observation')",
    "SELECT 'look', l.id FROM book.look l, hidden h WHERE h.what = 'reading' AND instr(l.reading_ids, h.record_id)",
    "SELECT 'cost', id FROM book.cost WHERE EXISTS (SELECT 1 FROM hidden WHERE what = 'cost' AND record_id = '')",
    "SELECT 'change', c.id FROM book.change c, hidden h WHERE h.what = c.what AND h.record_id = c.record_id",
    "SELECT 'change', c.id FROM book.change c WHERE c.what = 'cost' AND EXISTS"
    " (SELECT 1 FROM hidden WHERE what = 'cost' AND record_id = '')",
    "SELECT 'same', s.id FROM book.same s, hidden h WHERE h.record_id IN (s.one_id, s.other_id)",
)
"""What is kept back with what is, in an order in which each finds what it follows."""


def _fill(connection: sqlite3.Connection) -> None:
    for table in ARRIVE:
        connection.execute(
            f"INSERT INTO main.{table} SELECT t.* FROM book.{table} t WHERE t.id IN"
            " (SELECT record_id FROM going WHERE what = ?) ORDER BY t.rowid",
            (table,),
        )
    for table in OF_READINGS:
        connection.execute(
            f"INSERT INTO main.{table} SELECT t.* FROM book.{table} t WHERE t.reading_id IN"
            " (SELECT record_id FROM going WHERE what = 'reading') ORDER BY t.rowid"
        )


# --- parts as they travel

_CHUNK = 2**20
_LARGEST_PART = 16 * 2**30


def pack(part: Path, target: Path) -> None:
    """Pack a part to travel. Raises `OSError`."""
    with part.open("rb") as plain, target.open("wb") as file, gzip.GzipFile("", "wb", 6, file, mtime=0) as packing:
        shutil.copyfileobj(plain, packing, _CHUNK)
    with target.open("rb+") as whole:
        os.fsync(whole.fileno())


def digest_of(file: Path) -> str:
    """The SHA-256 of the content of a file. Raises `OSError`."""
    with file.open("rb") as content:
        return hashlib.file_digest(content, "sha256").hexdigest()


def unpack(file: Path, target: Path) -> int:
    """Unpack a part at `target`; the version of its format. Raises `LogbookError` for what is none of ours."""
    try:
        with gzip.open(file, "rb") as packing, target.open("wb") as plain:
            while chunk := packing.read(_CHUNK):
                plain.write(chunk)
                if plain.tell() > _LARGEST_PART:
                    raise OSError("it is larger than any part")
        with closing(connect(target, "ro", immutable=True)) as connection:
            stamp = [connection.execute(f"PRAGMA {name}").fetchone()[0] for name in ("application_id", "user_version")]
            more = own_schema.more_than_rows(connection)
    except (OSError, EOFError, sqlite3.Error) as error:
        raise LogbookError(
            f"{file.name} is no part of a logbook: {error}.", "Nothing of it was taken in.", "It is passed over."
        ) from error
    if stamp[0] != APPLICATION_ID or more:
        raise LogbookError(f"{file.name} is of another program.", "Nothing of it was taken in.", "It is passed over.")
    return int(stamp[1])


def origin_of(part: Path) -> str:
    """The name of the bench that a part is from. Raises `sqlite3.Error`."""
    with closing(connect(part, "ro", immutable=True)) as connection:
        found = connection.execute("SELECT address FROM hub WHERE id = 'origin'").fetchone()
    return str(found[0])[:60] if found is not None else ""


def combine(files: Iterable[Path], target: Path) -> None:
    """Put parts of one bench together to one of the present format, as far as it knows what stands in them.

    Raises `OSError` and `sqlite3.Error`.
    """
    with closing(begins_anew(target)) as connection:
        for part in files:
            _put_in(connection, part)
        for table, column in NAMED_BY.items():
            connection.execute(
                f"UPDATE {table} SET {column} = (SELECT json_extract(new, '$') FROM change c WHERE c.what = '{table}'"
                f" AND c.record_id = {table}.id AND c.field = '{column}' ORDER BY at DESC, id DESC LIMIT 1)"
                f" WHERE id IN (SELECT record_id FROM change WHERE what = '{table}' AND field = '{column}')"
            )
        end(connection)


def _put_in(connection: sqlite3.Connection, part: Path) -> None:
    connection.execute("ATTACH ? AS there", (sqlite_uri(part, "ro", immutable=True),))
    try:
        connection.execute("BEGIN")
        for table in (*ARRIVE, *OF_READINGS):
            listed = ", ".join(common_columns(connection, table))
            connection.execute(
                f"INSERT OR IGNORE INTO main.{table} ({listed}) SELECT {listed} FROM there.{table} ORDER BY rowid"
            )
        connection.execute("COMMIT")
    finally:
        connection.execute("DETACH there")


def records_in(part: Path) -> int:
    """How many records stand in a part."""
    with closing(connect(part, "ro", immutable=True)) as connection:
        return sum(int(connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0]) for table in ARRIVE)


def is_newer(version: int) -> bool:
    """Whether a part is of a format that this program does not know whole."""
    return version > SCHEMA_VERSION


_ONE_OF_A_NAME = re.compile(r",\s*UNIQUE \(\w+\)")


def begins_anew(target: Path) -> sqlite3.Connection:
    """An empty part, to be filled and ended. Raises `OSError` and `sqlite3.Error`."""
    connection = connect_to_write(target, "rwc")
    connection.execute("PRAGMA foreign_keys=OFF")
    connection.execute("PRAGMA synchronous=OFF")  # what is not whole is thrown away
    connection.executescript(f"BEGIN; {_ONE_OF_A_NAME.sub('', statements())} {creation.STAMP} COMMIT;")
    return connection


def end(connection: sqlite3.Connection) -> None:
    """Have a part stand in its file alone."""
    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    connection.execute("PRAGMA journal_mode=DELETE")


def reader(part: Path) -> Reader:
    """The records of a part. Raises `sqlite3.Error`."""
    return Reader(part, connect(part, "ro", immutable=True))


def keep_back(connection: sqlite3.Connection, what: str, record_id: str) -> None:
    """Share it no more; what was shared of it stays where it is."""
    connection.execute("INSERT OR IGNORE INTO kept_back VALUES (?, ?)", (what, record_id))


def give(connection: sqlite3.Connection, what: str, record_id: str) -> None:
    """Share it again, with all that was kept back with it."""
    connection.execute("DELETE FROM kept_back WHERE what = ? AND record_id = ?", (what, record_id))
    connection.execute("UPDATE hub SET sent = 0")  # all goes once more: what is there already is not there twice
