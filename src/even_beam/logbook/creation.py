"""New logbook files, and old ones brought to the present schema."""

import shutil
import sqlite3
from functools import partial
from pathlib import Path

from even_beam.logbook.connection import connect, connect_to_read, connect_to_write
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.schema import APPLICATION_ID, REVISION, SCHEMA_VERSION, statements

_MIGRATIONS = Path(__file__).parent / "migrations"


def create(path: Path) -> None:
    """Write a new, empty logbook. Raises `LogbookError` when the place cannot be written.

    Built beside its place and moved there whole, so that a failure leaves no half-made file.
    """
    building = path.with_name(path.name + ".new")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        building.unlink(missing_ok=True)
        _build(building)
        building.replace(path)
    except (OSError, sqlite3.Error) as error:
        _clear_away(building)
        raise LogbookError(
            f"{path.name} cannot be created: {error}.", "Nothing was changed.", "Choose another folder."
        ) from error


def _build(path: Path) -> None:
    connection = connect_to_write(path, "rwc")
    try:
        connection.executescript(f"BEGIN; {statements()} {_STAMP} COMMIT;")
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    finally:
        connection.close()


_STAMP = f"""
CREATE TABLE IF NOT EXISTS alembic_version (version_num VARCHAR(32) NOT NULL PRIMARY KEY);
DELETE FROM alembic_version;
INSERT INTO alembic_version VALUES ('{REVISION}');
PRAGMA application_id={APPLICATION_ID};
PRAGMA user_version={SCHEMA_VERSION};
"""
"""Marks a database as a logbook of the present version."""


def _clear_away(path: Path) -> None:
    """A file that was not finished, with what SQLite laid beside it."""
    for beside in ("", "-wal", "-shm", "-journal"):
        path.with_name(path.name + beside).unlink(missing_ok=True)


def row_counts(path: Path) -> dict[str, int]:
    """How many rows each table of a logbook has. Raises `sqlite3.Error`."""
    connection = connect_to_read(path)
    try:
        return _counts(connection)
    finally:
        connection.close()


def _counts(connection: sqlite3.Connection) -> dict[str, int]:
    tables = [name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
    return {name: connection.execute(f'SELECT count(*) FROM "{name}"').fetchone()[0] for name in tables}


def _hold_every_row(before: dict[str, int], after: dict[str, int]) -> None:
    """Every row that was there is there. Raises `sqlite3.DatabaseError` naming the tables that lost or gained some."""
    differing = [
        f"{table}: {count} rows became {after.get(table, 0)}"
        for table, count in before.items()
        if table != _OWN_TABLE and after.get(table, 0) != count
    ]
    if differing:
        raise sqlite3.DatabaseError("; ".join(differing))


_OWN_TABLE = "alembic_version"
"""Holds the number of the format alone."""


def migrate(path: Path) -> Path:
    """Bring an older logbook to the present schema: on a copy, checked and counted, then put in place.

    Returns where the older file is kept. Raises `LogbookError` and leaves the file as it was when anything fails.
    """
    working = path.with_name(path.name + ".migrating")
    kept = path.with_name(path.name + ".before-migration")
    try:
        copy(path, working)
        upgrade(working)
        connection = connect(working, "rw")
        verdict = connection.execute("PRAGMA integrity_check").fetchone()[0]
        connection.close()
        if verdict != "ok":
            raise sqlite3.DatabaseError(verdict)
        _hold_every_row(row_counts(path), row_counts(working))
        shutil.copy2(path, kept)
        working.replace(path)
    except Exception as error:
        _clear_away(working)
        raise LogbookError(
            f"{path.name} could not be brought to the present format: {error}.",
            "The file was left as it is.",
            "Keep it, and report this with the log file.",
        ) from error
    return kept


def upgrade(path: Path) -> None:
    """Run the migrations on a file, which must not be open elsewhere."""
    from alembic import command  # with the library it stands on, only when a migration is due
    from alembic.config import Config
    from sqlalchemy import create_engine
    from sqlalchemy.pool import NullPool

    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    engine = create_engine("sqlite://", poolclass=NullPool, creator=partial(_connect_to_migrate, path))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
    engine.dispose()
    stamped = connect_to_write(path)
    try:
        stamped.executescript(f"BEGIN; {_STAMP} COMMIT; PRAGMA wal_checkpoint(TRUNCATE);")
    finally:
        stamped.close()


def _connect_to_migrate(path: Path) -> sqlite3.Connection:
    """A connection whose transactions begin by themselves, as the migrations have it."""
    connection = connect_to_write(path)
    connection.isolation_level = "DEFERRED"
    return connection


def copy(path: Path, target: Path) -> None:
    """A whole copy by SQLite's backup, right even while the file is open and being written; its rows are counted.

    Raises `sqlite3.Error`, also for a copy that lacks a row of what was there before and after.
    """
    before = row_counts(path)
    source = connect_to_read(path)
    try:
        _back_up(source, target)
    finally:
        source.close()
    _hold_copied_rows(target, before, row_counts(path))


def copy_held(source: sqlite3.Connection, target: Path) -> None:
    """The same of a logbook that is held open, whose file may have been removed meanwhile."""
    before = _counts(source)
    _back_up(source, target)
    _hold_copied_rows(target, before, _counts(source))


def _back_up(source: sqlite3.Connection, target: Path) -> None:
    destination = connect(target, "rwc")
    try:
        source.backup(destination)
    finally:
        destination.close()


def _hold_copied_rows(target: Path, before: dict[str, int], after: dict[str, int]) -> None:
    """The copy has what was there before and after."""
    copied = row_counts(target)
    wrong = [t for t in before if not min(before[t], after[t]) <= copied.get(t, -1) <= max(before[t], after[t])]
    if wrong or not before:
        raise sqlite3.DatabaseError(f"the copy lacks rows of {', '.join(wrong) or 'every table'}")
