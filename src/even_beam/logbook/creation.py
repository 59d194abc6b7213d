"""New logbook files, and old ones brought to the present schema."""

import shutil
import sqlite3
from pathlib import Path

from sqlalchemy import Connection, text

from even_beam.logbook.engine import writing_engine
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.schema import APPLICATION_ID, REVISION, SCHEMA_VERSION, metadata

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
        raise LogbookError(
            f"{path.name} cannot be created: {error}.", "Nothing was changed.", "Choose another folder."
        ) from error


def _build(path: Path) -> None:
    # DBAPI errors surface as sqlite3.Error: SQLAlchemy keeps the original as `orig`
    engine = writing_engine(path)
    try:
        with engine.begin() as connection:
            metadata.create_all(connection)
            stamp(connection)
        with engine.connect() as connection:
            connection.execute(text("PRAGMA wal_checkpoint(TRUNCATE)"))
    except Exception as error:
        original = getattr(error, "orig", None)
        raise sqlite3.OperationalError(str(original or error)) from error
    finally:
        engine.dispose()


def stamp(connection: Connection) -> None:
    """Mark a database as a logbook of the present version."""
    connection.execute(
        text("CREATE TABLE IF NOT EXISTS alembic_version (version_num VARCHAR(32) NOT NULL PRIMARY KEY)")
    )
    connection.execute(text("DELETE FROM alembic_version"))
    connection.execute(text("INSERT INTO alembic_version VALUES (:revision)"), {"revision": REVISION})
    connection.execute(text(f"PRAGMA application_id={APPLICATION_ID}"))
    connection.execute(text(f"PRAGMA user_version={SCHEMA_VERSION}"))


def migrate(path: Path) -> Path:
    """Bring an older logbook to the present schema: on a copy, checked, then put in place.

    Returns where the older file is kept. Raises `LogbookError` and leaves the file as it was when anything fails.
    """
    working = path.with_name(path.name + ".migrating")
    kept = path.with_name(path.name + ".before-migration")
    try:
        copy(path, working)
        upgrade(working)
        with sqlite3.connect(working) as connection:
            verdict = connection.execute("PRAGMA integrity_check").fetchone()[0]
        if verdict != "ok":
            raise sqlite3.DatabaseError(verdict)
        shutil.copy2(path, kept)
        working.replace(path)
    except Exception as error:
        working.unlink(missing_ok=True)
        raise LogbookError(
            f"{path.name} could not be brought to the present format: {error}.",
            "The file was left as it is.",
            "Keep it, and report this with the log file.",
        ) from error
    return kept


def upgrade(path: Path) -> None:
    """Run the migrations on a file, which must not be open elsewhere."""
    from alembic import command  # only when a migration is due
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    engine = writing_engine(path)
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
        stamp(connection)
    with engine.connect() as connection:
        connection.execute(text("PRAGMA wal_checkpoint(TRUNCATE)"))
    engine.dispose()


def copy(path: Path, target: Path) -> None:
    """A whole copy by SQLite's backup, right even while the file is open and being written."""
    source = sqlite3.connect(f"file:{path}?mode=ro", uri=True)
    try:
        destination = sqlite3.connect(target)
        try:
            source.backup(destination)
        finally:
            destination.close()
    finally:
        source.close()
