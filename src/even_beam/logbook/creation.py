"""New logbook files, copies of them, and old ones brought to the present format; each built under a name of its own and
put in its place whole."""

import os
import shutil
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from even_beam.files.writing import sync_folder, temporary_beside
from even_beam.logbook import chain, own_schema
from even_beam.logbook.beside import clear_away, connect_to_read, free_name, settle
from even_beam.logbook.connection import connect, connect_to_write
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.lock import Lock
from even_beam.logbook.schema import APPLICATION_ID, SCHEMA_VERSION, statements, statements_since

STAMP = f"PRAGMA application_id={APPLICATION_ID}; PRAGMA user_version={SCHEMA_VERSION};"
"""Marks a database as a logbook of the present format."""


def create(path: Path) -> str:
    """Write a new, empty logbook, where nothing stands yet. The caller holds the lock.

    Returns what was put aside that lay there. Raises `LogbookError` when the place cannot be written.
    """
    building = temporary_beside(path)
    try:
        put_aside = settle(path)
        build(building)
        _stand(building, path)
    except (OSError, sqlite3.Error) as error:
        raise LogbookError(
            f"{path.name} cannot be created: {_words(error)}.", "Nothing was changed.", "Choose another folder."
        ) from error
    finally:
        clear_away(building)
    return put_aside


def _stand(whole: Path, path: Path) -> None:
    """Give a file its name where nothing has it. Raises `OSError`."""
    try:
        os.link(whole, path)
    except FileExistsError:
        raise
    except OSError:  # a file system without links
        if os.path.lexists(path):
            raise FileExistsError(f"{path.name} exists already") from None
        whole.replace(path)
    sync_folder(path.parent)


def _words(error: Exception) -> str:
    """What the system or the database says, without the numbers of the one and the names of our own files."""
    return error.strerror if isinstance(error, OSError) and error.strerror else str(error)


def build(path: Path) -> None:
    """A new, empty logbook under a name that nothing has. Raises `OSError` and `sqlite3.Error`."""
    _made_empty(path)
    with closing(connect_to_write(path)) as connection:
        connection.executescript(f"BEGIN; {statements()} {STAMP} COMMIT;")
        chain.begin(connection)
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def _made_empty(path: Path) -> None:
    """An empty file of its own, through no link."""
    os.close(os.open(path, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC, 0o666))


# --- in its place


def put_in_place(whole: Path, path: Path, lock: Lock, *, keep_as: Path | None = None) -> str:
    """Put a whole file, closed and checked, in the place of another one, whose lock the caller holds.

    What that one's log holds is folded into it first, so that no log is left to be played into the new one. The former
    file is kept until the new one has answered in its place, and longer where `keep_as` names it. Returns what was put
    aside. Raises `OSError` and `sqlite3.Error`; then what stood there stands there.
    """
    path = path.resolve()
    put_aside = settle(path)
    former = keep_as or temporary_beside(path)
    stood = path.exists()
    if stood:
        _keep_former(path, former)
    try:
        lock.let_go_of_file()
        whole.replace(path)
        sync_folder(path.parent)
        with closing(connect(path, "ro", immutable=True)) as placed:
            placed.execute("SELECT count(*) FROM session").fetchone()
    except BaseException:
        if stood and former.exists():
            former.replace(path)
        raise
    finally:
        lock.hold_file()
    if stood and keep_as is None:
        former.unlink(missing_ok=True)
    return put_aside


def _keep_former(path: Path, former: Path) -> None:
    try:
        os.link(path, former)
    except OSError:  # a file system without links
        shutil.copy2(path, former)


def replace_logbook(whole: Path, path: Path) -> str:
    """Put a whole, closed logbook in the place of the one of a name, if there is one; what was put aside, in words.

    Raises `LogbookError` where that one is open, and then, as for `OSError` and `sqlite3.Error`, it stands.
    """
    lock = Lock(path)
    lock.acquire()
    try:
        return put_in_place(whole, path, lock)
    finally:
        lock.release()


# --- older formats


def migrate(path: Path, lock: Lock) -> str:
    """Bring an older logbook to the present format: on a copy, checked and counted, then put in its place. The caller
    holds the lock.

    Returns where the older file is kept, in words. Raises `LogbookError` and leaves the file as it was when anything
    fails; only what its own log held, had it not been closed, is folded in.
    """
    path = path.resolve()
    working = temporary_beside(path)
    kept = free_name(path.with_name(f"{path.name}.before-migration"))
    try:
        put_aside = settle(path)
        copy(path, working)
        upgrade(working)
        with closing(connect(working, "rw")) as connection:
            verdict = connection.execute("PRAGMA integrity_check(1)").fetchone()[0]
            problem = own_schema.problem_of(connection)
        if verdict != "ok" or problem:
            raise sqlite3.DatabaseError(problem or verdict)
        _hold_every_row(row_counts(path), row_counts(working))
        put_in_place(working, path, lock, keep_as=kept)
    except LogbookError:
        raise
    except Exception as error:
        raise LogbookError(
            f"{path.name} could not be brought to the present format: {_words(error)}.",
            f"It was left as it is, of the former format{_also_kept(kept)}.",
            "Keep it, and report this with the log file.",
        ) from error
    finally:
        clear_away(working)
    told = f"{path.name} was brought to the present format; as it was before it is kept as {kept.name}."
    return " ".join(filter(None, (put_aside, told)))


def _also_kept(kept: Path) -> str:
    return f", and is kept as {kept.name} too" if kept.exists() else ""


def upgrade(path: Path) -> None:
    """Run the statements that its format lacks on a file, which must not be open elsewhere; all of them or none."""
    with closing(connect_to_write(path)) as connection:
        version = connection.execute("PRAGMA user_version").fetchone()[0]
        connection.execute("PRAGMA foreign_keys=OFF")  # a table may be built anew, and is named by others meanwhile
        try:
            connection.executescript(f"BEGIN; {statements_since(version)} {STAMP} COMMIT;")
        except BaseException:
            connection.rollback()
            raise
        chain.begin(connection)
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")


@contextmanager
def borrowed(path: Path) -> Iterator[Path]:
    """A copy of a logbook that may be open elsewhere, of the present format whatever that one's is, as long as it is
    needed; the logbook itself is left as it is. Raises `LogbookError` for what cannot be read."""
    if inspect_header(path) is FileKind.MISSING:
        raise LogbookError(f"There is no {path.name}.", "Nothing was changed.", "Check the name.")
    with tempfile.TemporaryDirectory(prefix="even-beam-") as folder:
        copied = Path(folder) / path.name
        try:
            copy(path, copied)
            if inspect_header(copied) is FileKind.OLDER:
                upgrade(copied)
        except (OSError, sqlite3.Error) as error:
            raise LogbookError(
                f"{path.name} cannot be read: {_words(error)}.", "It was left as it is.", "even-beam check tells more."
            ) from error
        yield copied


# --- copies, counted


_ABOUT_THE_FILE = {"alembic_version", chain.TABLE}
"""Tables that hold nothing but what the file itself is."""


def row_counts(path: Path) -> dict[str, int]:
    """How many rows each table of a logbook has. Raises `sqlite3.Error`."""
    with closing(connect_to_read(path)) as connection:
        return _counts(connection)


def _counts(connection: sqlite3.Connection) -> dict[str, int]:
    tables = [name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
    counted = [name for name in tables if name not in _ABOUT_THE_FILE]
    return {name: connection.execute(f'SELECT count(*) FROM "{name}"').fetchone()[0] for name in counted}


def _hold_every_row(before: dict[str, int], after: dict[str, int]) -> None:
    """Every row that was there is there. Raises `sqlite3.DatabaseError` naming the tables that lost or gained some."""
    differing = [
        f"{table}: {count} rows became {after.get(table, 0)}"
        for table, count in before.items()
        if after.get(table, 0) != count
    ]
    if differing:
        raise sqlite3.DatabaseError("; ".join(differing))


def copy(path: Path, target: Path) -> None:
    """A whole copy by SQLite's backup, right even while the file is open and being written; its rows are counted.

    Raises `OSError` and `sqlite3.Error`, also for a copy that lacks a row of what was there before and after.
    """
    before = row_counts(path)
    with closing(connect_to_read(path)) as source:
        _back_up(source, target)
    _hold_copied_rows(target, before, row_counts(path))


def copy_held(source: sqlite3.Connection, target: Path) -> None:
    """The same of a logbook that is held open, whose file may have been removed meanwhile."""
    before = _counts(source)
    _back_up(source, target)
    _hold_copied_rows(target, before, _counts(source))


def _back_up(source: sqlite3.Connection, target: Path) -> None:
    """A copy that stands alone, and from here on goes a way of its own."""
    _made_empty(target)
    with closing(connect(target, "rw")) as destination:
        source.backup(destination)
    with closing(connect_to_write(target)) as destination:
        if chain.mark_of(destination) is not None:
            chain.begin(destination)
        destination.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def _hold_copied_rows(target: Path, before: dict[str, int], after: dict[str, int]) -> None:
    """The copy has what was there before and after."""
    copied = row_counts(target)
    wrong = [t for t in before if not min(before[t], after[t]) <= copied.get(t, -1) <= max(before[t], after[t])]
    if wrong or not before:
        raise sqlite3.DatabaseError(f"the copy lacks rows of {', '.join(wrong) or 'every table'}")
