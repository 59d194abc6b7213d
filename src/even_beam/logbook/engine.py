"""SQLAlchemy engines for a logbook file, with the pragmas that keep a confirmed reading through a power cut.

Both keep more of the file at hand than SQLite's two megabytes: the readings of one lamp lie scattered over years.
"""

from pathlib import Path
from typing import Any
from urllib.parse import quote

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.pool import NullPool

_CACHE = "cache_size=-65536"  # KiB


def writing_engine(path: Path) -> Engine:
    """For the one process that holds the lock: WAL, every commit on the disk before it returns."""
    engine = create_engine(f"sqlite:///{path}", poolclass=NullPool, connect_args={"timeout": 5.0})
    event.listen(engine, "connect", _set_writing_pragmas)
    return engine


def reading_engine(path: Path) -> Engine:
    """For anyone else: opens the file read-only and never changes it."""
    uri = f"file:{quote(str(path))}?mode=ro"
    engine = create_engine(
        f"sqlite:///{uri}&uri=true", poolclass=NullPool, connect_args={"timeout": 5.0, "check_same_thread": False}
    )
    event.listen(engine, "connect", _set_reading_pragmas)
    return engine


def _set_writing_pragmas(connection: Any, _: object) -> None:
    cursor = connection.cursor()
    for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON", "wal_autocheckpoint=0", _CACHE):
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()


def _set_reading_pragmas(connection: Any, _: object) -> None:
    connection.execute("PRAGMA query_only=ON")
    connection.execute(f"PRAGMA {_CACHE}")
