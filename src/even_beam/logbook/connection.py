"""Connections to a logbook file, with the pragmas that keep a confirmed reading through a power cut.

Both keep more of the file at hand than SQLite's two megabytes: the readings of one lamp lie scattered over years.
"""

import os
import sqlite3
from pathlib import Path
from urllib.parse import quote

_CACHE = "cache_size=-65536"  # KiB


def sqlite_uri(path: Path, mode: str, *, immutable: bool = False) -> str:
    """The one place that names a file to SQLite: every byte that a URI gives a meaning to is quoted.

    `mode` is `ro`, `rw` (never makes a file) or `rwc`. `immutable` reads without a lock and leaves nothing beside the
    file: only for one that nobody has open. Source: https://www.sqlite.org/uri.html, sections 3 and 4.
    """
    return f"file:{quote(os.fsencode(path.absolute()))}?mode={mode}{'&immutable=1' if immutable else ''}"


def connect(path: Path, mode: str, *, immutable: bool = False) -> sqlite3.Connection:
    """A plain connection, for what needs no records. Raises `sqlite3.Error`."""
    # another thread may use it: copies are made off the window's own
    return sqlite3.connect(sqlite_uri(path, mode, immutable=immutable), uri=True, timeout=5.0, check_same_thread=False)


def connect_to_read(path: Path) -> sqlite3.Connection:
    """A plain connection that changes nothing, neither the file nor the folder. Raises `sqlite3.Error`."""
    return connect(path, "ro", immutable=at_rest(path))


def at_rest(path: Path) -> bool:
    """Whether no log lies beside the file: whoever writes it has one, so nobody does, and it is whole in itself."""
    file = path.resolve()  # SQLite lays the log beside the file itself
    return not file.with_name(file.name + "-wal").exists()


def connect_to_write(path: Path, mode: str = "rw") -> sqlite3.Connection:
    """For the one process that holds the lock: WAL, every commit on the disk before it returns. Transactions are begun
    and ended by whoever uses it. Raises `sqlite3.Error`."""
    durable = "journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON", "wal_autocheckpoint=0"
    return _with_pragmas(connect(path, mode), *durable)


def connect_beside(path: Path) -> sqlite3.Connection:
    """For anyone else: opens the file read-only and never changes it. Raises `sqlite3.Error`."""
    return _with_pragmas(connect_to_read(path), "query_only=ON")


def _with_pragmas(connection: sqlite3.Connection, *pragmas: str) -> sqlite3.Connection:
    connection.isolation_level = None
    try:
        for pragma in (*pragmas, _CACHE):
            connection.execute(f"PRAGMA {pragma}").close()
    except BaseException:
        connection.close()
        raise
    return connection
