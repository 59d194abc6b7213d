"""What SQLite lays beside a file (log, index, journal), and how a file is made to stand alone before anything is done
with it: what belongs to it is folded in, what belongs to another is put aside under a name of its own, never played."""

import os
import shutil
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import closing, suppress
from pathlib import Path

from even_beam.files.writing import sync_folder
from even_beam.logbook import chain
from even_beam.logbook.connection import CACHE, connect, connect_to_write, with_pragmas
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.lock import is_held

LOG, INDEX, JOURNAL = "-wal", "-shm", "-journal"

_ROLLBACK, _WAL = 1, 2
_NEVER_REMOVED = ("session", "step", "reading", "event", "spectrum", "trace", "observation")
"""Tables whose rows are only ever added to."""


def laid_beside(path: Path, suffix: str) -> Path:
    """The log, the index or the journal of a file: beside the file itself, not beside a link to it."""
    file = path.resolve()
    return file.with_name(file.name + suffix)


def has_log(path: Path) -> bool:
    """Whether a log or journal lies beside the file that has something in it."""
    return any(_size(laid_beside(path, suffix)) > 0 for suffix in (LOG, JOURNAL))


def _size(path: Path) -> int:
    try:
        return path.lstat().st_size
    except OSError:
        return 0


def clear_away(path: Path) -> None:
    """A file that was not finished, with what SQLite laid beside it."""
    for beside in ("", LOG, INDEX, JOURNAL):
        with suppress(OSError):
            path.with_name(path.name + beside).unlink(missing_ok=True)


def log_is_of(path: Path, work_in: Path | None = None) -> bool:
    """Whether the log or journal beside a file is of that file, and may be played.

    What marks cannot tell is tried on copies, in a folder of their own below `work_in`. Raises `OSError`.
    """
    log, journal = laid_beside(path, LOG), laid_beside(path, JOURNAL)
    if _size(journal) > 0 and _journal_mode(path) != _ROLLBACK:
        return False  # a logbook keeps a log, and SQLite would roll the journal of another life back into it
    known = chain.continues(path, log) if _size(log) > 0 else None
    return known if known is not None else _fits_when_tried(path, work_in)


def _journal_mode(path: Path) -> int:
    with path.open("rb") as file:
        return file.read(20)[18:19].ljust(1, b"\0")[0]


def _fits_when_tried(path: Path, work_in: Path | None) -> bool:
    """Whether a copy with its log played in is sound and has all that the file has without it."""
    with tempfile.TemporaryDirectory(prefix=".even-beam-", dir=work_in) as folder:
        tried = Path(folder) / "tried"
        shutil.copyfile(path, tried)
        before = _told_by(tried, immutable=True)
        for suffix in (LOG, JOURNAL):
            if (lying := laid_beside(path, suffix)).exists():
                shutil.copyfile(lying, tried.with_name(tried.name + suffix))
        after = _told_by(tried, immutable=False)
    if after is None:
        return before is None  # it does not stand without its log either: the file itself is damaged
    return before is None or (before[0] == after[0] and all(before[1][name] <= after[1][name] for name in before[1]))


Told = tuple[tuple[object, ...], dict[str, set[str]]]


def _told_by(path: Path, *, immutable: bool) -> Told | None:
    """The schema of a file and the rows it never loses; None of one that is not sound."""
    try:
        with closing(connect(path, "ro" if immutable else "rw", immutable=immutable)) as connection:
            schema = connection.execute("SELECT type, name, tbl_name, sql FROM sqlite_master ORDER BY name").fetchall()
            tables = {name for kind, name, _, _ in schema if kind == "table"}
            if connection.execute("PRAGMA integrity_check(1)").fetchone()[0] != "ok":
                return None
            if not immutable and connection.execute("PRAGMA foreign_key_check").fetchone() is not None:
                return None
            stamp = [connection.execute(f"PRAGMA {name}").fetchone()[0] for name in ("application_id", "user_version")]
            kept = {name: set(_keys_of(connection, name)) for name in _NEVER_REMOVED if name in tables}
    except (sqlite3.Error, UnicodeDecodeError):
        return None
    return (*schema, *stamp), kept


def _keys_of(connection: sqlite3.Connection, table: str) -> Iterator[str]:
    columns = [row[1] for row in connection.execute(f"PRAGMA table_info({table})")]
    key = "id" if "id" in columns else "reading_id"
    return (str(row[0]) for row in connection.execute(f"SELECT {key} FROM {table}"))


# --- read as it stands


def connect_to_read(path: Path) -> sqlite3.Connection:
    """A plain connection that changes nothing, neither the file nor the folder. Raises `OSError` and `sqlite3.Error`.

    A log that no living process writes is played only where it is of this file.
    """
    return connect(path, "ro", immutable=_is_read_alone(path))


def connect_beside(path: Path) -> sqlite3.Connection:
    """For anyone but the one who writes: never changes the file. Raises `OSError` and `sqlite3.Error`."""
    return with_pragmas(connect_to_read(path), "query_only=ON", CACHE)


def _is_read_alone(path: Path) -> bool:
    """Whether the file is read without what lies beside it: nothing does, or nothing that is of it."""
    if not laid_beside(path, LOG).exists() and not laid_beside(path, JOURNAL).exists():
        return True
    return not is_held(path) and not (has_log(path) and log_is_of(path))


def is_passed_over(path: Path) -> bool:
    """Whether a log lies beside the file that is of another one, and is not read."""
    return has_log(path) and not is_held(path) and not log_is_of(path)


# --- made to stand alone, by whoever holds the lock


def settle(path: Path, *, fold: bool = True) -> str:
    """Have a file stand alone: its own log is folded in (or left to be played, without `fold`), one of another file is
    put aside. The caller holds the lock.

    Also where the file itself is gone: what lies there then is of nothing. Returns what was put aside, in words, empty
    where nothing was. Raises `LogbookError`; what could not be folded in stays where it is.
    """
    try:
        if not path.exists():
            return put_aside(path)
        if not has_log(path):
            _remove_empty(path)
            return ""
        if log_is_of(path, path.resolve().parent):
            if fold:
                _fold_in(path)
            return ""
        return put_aside(path)
    except (OSError, sqlite3.Error) as error:
        raise LogbookError(
            f"The log beside {path.name}, which was not closed, could not be read into it: {error}.",
            "File and log were left as they are.",
            "Is the disk full? Make room, or copy both to another disk, and try again.",
        ) from error


def _remove_empty(path: Path) -> None:
    for suffix in (LOG, INDEX, JOURNAL):
        laid_beside(path, suffix).unlink(missing_ok=True)


def _fold_in(path: Path) -> None:
    """Every change of the log into the file, which then has none beside it."""
    with closing(connect_to_write(path)) as connection:
        busy, *_ = connection.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchone()
    if busy:
        raise sqlite3.OperationalError("somebody is reading it")


def put_aside(path: Path) -> str:
    """What lies beside a file and is not of it gets a name of its own; in words which, empty for nothing."""
    kept = []
    for suffix, word in ((LOG, "log"), (JOURNAL, "journal")):
        lying = laid_beside(path, suffix)
        if _size(lying) == 0:
            with suppress(OSError):
                lying.unlink(missing_ok=True)
            continue
        aside = free_name(lying.with_name(f"{path.resolve().stem} ({word} of another file)"))
        lying.rename(aside)
        kept.append(aside.name)
    laid_beside(path, INDEX).unlink(missing_ok=True)
    if not kept:
        return ""
    sync_folder(path.resolve().parent)
    return (
        f"Beside {path.name} lay what another file of that name had left ({', '.join(kept)}). It was not read, and is"
        " kept under that name. If readings are missing, they may be in it: keep it."
    )


def free_name(wanted: Path) -> Path:
    """A name that nothing has yet: the one wanted, or one with a number behind it."""
    number, path = 1, wanted
    while os.path.lexists(path):
        number += 1
        path = wanted.with_name(f"{wanted.stem} {number}{wanted.suffix}")
    return path
