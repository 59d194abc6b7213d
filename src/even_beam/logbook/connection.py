"""Connections to a logbook file, with the pragmas that keep a confirmed reading through a power cut.

Both keep more of the file at hand than SQLite's two megabytes: the readings of one lamp lie scattered over years. None
runs what a file brings with it, and none takes a cell that is larger than any picture.
"""

import os
import sqlite3
from pathlib import Path
from urllib.parse import quote

CACHE = "cache_size=-65536"  # KiB
_LARGEST_CELL = 256 * 2**20


def sqlite_uri(path: Path, mode: str, *, immutable: bool = False) -> str:
    """The one place that names a file to SQLite: every byte that a URI gives a meaning to is quoted.

    `mode` is `ro`, `rw` (never makes a file) or `rwc`. `immutable` reads without a lock and leaves nothing beside the
    file: only for one that nobody has open. Source: https://www.sqlite.org/uri.html, sections 3 and 4.
    """
    return f"file:{quote(os.fsencode(path.absolute()))}?mode={mode}{'&immutable=1' if immutable else ''}"


def connect(path: Path, mode: str, *, immutable: bool = False) -> sqlite3.Connection:
    """A plain connection, for what needs no records. Raises `sqlite3.Error`."""
    # another thread may use it: copies are made off the window's own
    uri = sqlite_uri(path, mode, immutable=immutable)
    connection = sqlite3.connect(uri, uri=True, timeout=5.0, check_same_thread=False)
    connection.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, _LARGEST_CELL)
    connection.setlimit(sqlite3.SQLITE_LIMIT_EXPR_DEPTH, 100)
    return with_pragmas(connection, "trusted_schema=OFF", "cell_size_check=ON")


def connect_to_write(path: Path, mode: str = "rw") -> sqlite3.Connection:
    """For the one process that holds the lock: WAL, every commit on the disk before it returns. Transactions are begun
    and ended by whoever uses it. Raises `sqlite3.Error`."""
    durable = "journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON", "wal_autocheckpoint=0"
    return with_pragmas(connect(path, mode), *durable, CACHE)


def with_pragmas(connection: sqlite3.Connection, *pragmas: str) -> sqlite3.Connection:
    """The connection with some pragmas in force, or closed. Raises `sqlite3.Error`."""
    connection.isolation_level = None
    try:
        for pragma in pragmas:
            connection.execute(f"PRAGMA {pragma}").close()
    except BaseException:
        connection.close()
        raise
    return connection
