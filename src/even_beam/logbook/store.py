"""An open logbook: records in and out, every reading committed before anyone is told so."""

import sqlite3
from collections.abc import Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path
from types import MappingProxyType
from typing import Any, TypeVar

from sqlalchemy import Connection, Select, delete, func, insert, select, text
from sqlalchemy.dialects.sqlite import insert as upsert
from sqlalchemy.exc import DBAPIError

from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import Computed, Event, Reading, Session, Spectrum, Step
from even_beam.bench.traces import Trace
from even_beam.logbook import creation, rows, schema
from even_beam.logbook.engine import reading_engine, writing_engine
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.lock import Lock

Record = TypeVar("Record")


class Logbook:
    """One logbook file. Use `create`, `open` or `open_to_read`, and `close` when done.

    All methods raise `LogbookError` when the file can no longer be written or read; what had been committed stays.
    """

    def __init__(self, path: Path, connection: Connection, lock: Lock | None) -> None:
        self.path = path
        self._connection = connection
        self._lock = lock

    # --- opening and closing

    @classmethod
    def create(cls, path: Path) -> "Logbook":
        """A new, empty logbook at `path`, which must not exist yet."""
        if path.exists():
            raise LogbookError(f"{path.name} exists already.", "It was left as it is.", "Choose another name.")
        creation.create(path)
        return cls.open(path)

    @classmethod
    def open(cls, path: Path) -> "Logbook":
        """Open to read and write, alone. An older file is migrated first, its former state kept beside it."""
        kind = inspect_header(path)
        if kind is FileKind.MISSING:
            raise LogbookError(
                f"There is no {path.name}.", "Nothing was changed.", "Check the name, or start a new one."
            )
        lock = Lock(path)
        lock.acquire()
        try:
            if kind is FileKind.OLDER:
                creation.migrate(path)
            logbook = cls(path, writing_engine(path).connect(), lock)
            logbook._probe()
        except BaseException as error:
            lock.release()
            if isinstance(error, DBAPIError):
                raise _damaged(path, error) from error
            raise
        return logbook

    @classmethod
    def open_to_read(cls, path: Path) -> "Logbook":
        """Open to read only, which works while a window has it open."""
        kind = inspect_header(path)
        if kind is FileKind.MISSING:
            raise LogbookError(f"There is no {path.name}.", "Nothing was changed.", "Check the name.")
        if kind is FileKind.OLDER:
            raise LogbookError(
                f"{path.name} is of an older format.",
                "It was left as it is.",
                "Open it in the window once to bring it up to date.",
            )
        try:
            logbook = cls(path, reading_engine(path).connect(), None)
            logbook._probe()
        except DBAPIError as error:
            raise _damaged(path, error) from error
        return logbook

    @property
    def writable(self) -> bool:
        """Whether this process may write."""
        return self._lock is not None

    @property
    def was_left_open(self) -> bool:
        """Whether the process before this one died with the file open: then a thorough check is due."""
        return self._lock is not None and self._lock.was_left

    def _probe(self) -> None:
        with self._guarded():
            self._connection.execute(select(func.count()).select_from(schema.session)).scalar_one()
            self._connection.rollback()

    def close(self) -> None:
        """Fold the log into the file, so that a copy of the file alone is whole, and release the lock."""
        try:
            if self.writable:
                self._connection.execute(text("PRAGMA wal_checkpoint(TRUNCATE)"))
                self._connection.rollback()
        except DBAPIError:
            pass  # a full disk: the log stays beside the file and is read at the next opening
        finally:
            self._connection.close()
            self._connection.engine.dispose()
            if self._lock is not None:
                self._lock.release()

    def save_copy(self, target: Path) -> None:
        """A whole copy at `target`, while this logbook stays open."""
        partial = target.with_name(target.name + ".part")
        try:
            creation.copy(self.path, partial)
            partial.replace(target)
        except (OSError, sqlite3.Error) as error:
            partial.unlink(missing_ok=True)
            raise LogbookError(
                f"The copy could not be written: {error}.", "The logbook itself is unharmed.", "Choose another place."
            ) from error

    # --- writing

    @contextmanager
    def _guarded(self) -> Iterator[None]:
        try:
            yield
        except DBAPIError as error:
            self._connection.rollback()
            raise _not_kept(self.path, error) from error

    @contextmanager
    def _transaction(self) -> Iterator[Connection]:
        """Everything inside is kept together or not at all; on the disk when the block is left."""
        if not self.writable:
            raise LogbookError(
                f"{self.path.name} is open to read only.",
                "Nothing was changed.",
                "Close it elsewhere and open it again.",
            )
        with self._guarded(), self._connection.begin():
            yield self._connection
        with self._guarded():
            self._connection.execute(text("PRAGMA wal_checkpoint(PASSIVE)"))
            self._connection.rollback()

    def save(self, *records: object) -> None:
        """Keep kit and session records, replacing those of the same id."""
        with self._transaction() as connection:
            for record in records:
                table = rows.TABLES[type(record)]
                row = rows.to_row(record)
                statement = upsert(table).values(row)
                changes = {name: statement.excluded[name] for name in row if name != "id"}
                connection.execute(statement.on_conflict_do_update(index_elements=["id"], set_=changes))

    def remove(self, *records: object) -> None:
        """Remove kit records that nothing refers to; only ever used to undo their adding."""
        with self._transaction() as connection:
            for record in records:
                table = rows.TABLES[type(record)]
                connection.execute(delete(table).where(table.c.id == record.id))  # type: ignore[attr-defined]

    def commit_reading(self, reading: Reading, events: Sequence[Event], spectrum: Spectrum | None = None) -> None:
        """Keep a reading with its figures, spectrum and events in one transaction."""
        self.commit_readings([(reading, spectrum)], events)

    def commit_readings(
        self,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        events: Sequence[Event],
        traces: Mapping[str, Sequence[Trace]] = MappingProxyType({}),
    ) -> None:
        """Keep several readings at once, as an import does; `traces` by the id of their reading."""
        with self._transaction() as connection:
            connection.execute(insert(schema.reading), [rows.to_row(reading) for reading, _ in taken])
            values = [rows.value_to_row(reading.id, value) for reading, _ in taken for value in reading.values]
            if values:
                connection.execute(insert(schema.value), values)
            spectra = [rows.spectrum_to_row(r.id, spectrum) for r, spectrum in taken if spectrum is not None]
            if spectra:
                connection.execute(insert(schema.spectrum), spectra)
            recorded = [rows.trace_to_row(reading_id, trace) for reading_id, own in traces.items() for trace in own]
            if recorded:
                connection.execute(insert(schema.trace), recorded)
            self._insert_events(connection, events)

    def add_events(self, *events: Event) -> None:
        """Keep events."""
        with self._transaction() as connection:
            self._insert_events(connection, events)

    def add_step(self, step: Step, event: Event) -> None:
        """Keep a step inserted during a run together with the event that inserts it."""
        with self._transaction() as connection:
            connection.execute(insert(schema.step), rows.to_row(step))
            self._insert_events(connection, [event])

    def add_observation(self, observation: Observation, photos: Sequence[Photo], events: Sequence[Event]) -> None:
        """Keep an observation with its photos and events in one transaction."""
        with self._transaction() as connection:
            connection.execute(insert(schema.observation), rows.to_row(observation))
            for photo in photos:
                connection.execute(insert(schema.photo), rows.to_row(photo))
            self._insert_events(connection, events)

    def add_photo(self, photo: Photo, event: Event) -> None:
        """Keep a photo of a reading with the event that adds it."""
        with self._transaction() as connection:
            connection.execute(insert(schema.photo), rows.to_row(photo))
            self._insert_events(connection, [event])

    @staticmethod
    def _insert_events(connection: Connection, events: Sequence[Event]) -> None:
        if events:
            connection.execute(insert(schema.event), [rows.to_row(event) for event in events])

    def save_computed(self, computed: Sequence[Computed]) -> None:
        """Keep computed figures beside their readings, replacing those of an older method."""
        with self._transaction() as connection:
            for one in computed:
                row = rows.computed_to_row(one)
                statement = upsert(schema.computed).values(row)
                changes = {name: statement.excluded[name] for name in row if name != "reading_id"}
                connection.execute(statement.on_conflict_do_update(index_elements=["reading_id"], set_=changes))

    # --- reading

    def _rows(self, statement: Select[Any]) -> list[Any]:
        with self._guarded():
            found = list(self._connection.execute(statement).mappings())
            self._connection.rollback()
        return found

    def all(self, kind: type[Record]) -> list[Record]:
        """Every record of a kit kind, in the order of their names."""
        table = rows.TABLES[kind]
        order = next(c for name in ("nickname", "name", "at", "what", "id") if (c := table.c.get(name)) is not None)
        return [rows.from_row(kind, row) for row in self._rows(select(table).order_by(order))]

    def sessions(self) -> list[Session]:
        """Every session, the oldest first."""
        found = self._rows(select(schema.session).order_by(schema.session.c.created_at))
        return [rows.from_row(Session, row) for row in found]

    def of_session(self, kind: type[Record], session_id: str) -> list[Record]:
        """The steps, events or conditions of a session, in order."""
        table = rows.TABLES[kind]
        order = next(c for name in ("position", "sequence", "at") if (c := table.c.get(name)) is not None)
        statement = select(table).where(table.c.session_id == session_id).order_by(order)
        return [rows.from_row(kind, row) for row in self._rows(statement)]

    def readings(self, session_id: str) -> list[Reading]:
        """The readings of a session with their figures, in the order taken."""
        table = schema.reading
        figures = select(schema.value).join(table, schema.value.c.reading_id == table.c.id)
        by_reading: dict[str, list[Any]] = {}
        for row in self._rows(figures.where(table.c.session_id == session_id)):
            by_reading.setdefault(row["reading_id"], []).append(rows.value_from_row(row))
        statement = select(table).where(table.c.session_id == session_id).order_by(table.c.sequence)
        return [
            rows.from_row(Reading, row, values=tuple(by_reading.get(row["id"], ()))) for row in self._rows(statement)
        ]

    def computed(self, session_id: str) -> dict[str, Computed]:
        """The computed figures of a session by reading."""
        statement = (
            select(schema.computed)
            .join(schema.reading, schema.computed.c.reading_id == schema.reading.c.id)
            .where(schema.reading.c.session_id == session_id)
        )
        return {row["reading_id"]: rows.computed_from_row(row) for row in self._rows(statement)}

    def spectra(self, reading_ids: Iterable[str]) -> dict[str, Spectrum]:
        """The spectra of readings, for those that have one."""
        ids = list(reading_ids)
        found: dict[str, Spectrum] = {}
        for start in range(0, len(ids), 500):
            statement = select(schema.spectrum).where(schema.spectrum.c.reading_id.in_(ids[start : start + 500]))
            found.update({row["reading_id"]: rows.spectrum_from_row(row) for row in self._rows(statement)})
        return found

    def traces(self, reading_id: str) -> tuple[Trace, ...]:
        """The traces of a reading."""
        statement = select(schema.trace).where(schema.trace.c.reading_id == reading_id)
        return tuple(rows.trace_from_row(row) for row in self._rows(statement))

    def sessions_of(self, reading_ids: Iterable[str]) -> list[str]:
        """The sessions that some readings were taken in."""
        table = schema.reading
        statement = select(table.c.session_id).where(table.c.id.in_(list(reading_ids))).distinct()
        return [row["session_id"] for row in self._rows(statement)]

    def out_of_date(self, method_version: int) -> list[str]:
        """Readings with a spectrum whose figures are missing or of another method version."""
        table = schema.spectrum
        statement = (
            select(table.c.reading_id)
            .outerjoin(schema.computed, schema.computed.c.reading_id == table.c.reading_id)
            .where(schema.computed.c.method_version.is_distinct_from(method_version))
        )
        return [row["reading_id"] for row in self._rows(statement)]

    def next_sequence(self, session_id: str) -> int:
        """The number of the next event of a session; readings share it with the event that took them."""
        statement = select(func.max(schema.event.c.sequence).label("last")).where(
            schema.event.c.session_id == session_id
        )
        return int(self._rows(statement)[0]["last"] or 0) + 1


def _damaged(path: Path, error: DBAPIError) -> LogbookError:
    return LogbookError(
        f"{path.name} is damaged or not a logbook: {error.orig}.",
        "The file was left as it is.",
        "Make a copy of it before anything else, and open your last copy meanwhile.",
    )


def _not_kept(path: Path, error: DBAPIError) -> LogbookError:
    cause = str(error.orig)
    if "full" in cause:
        return LogbookError(
            "The disk is full: this could not be kept.",
            f"Everything confirmed before is safe in {path.name}.",
            "Free some space and do it again.",
        )
    if "readonly" in cause:
        return LogbookError(
            f"{path.name} cannot be written any more.",
            "Everything confirmed before is safe.",
            "Check the folder's rights.",
        )
    if "UNIQUE" in cause and "nickname" in cause:
        return LogbookError("That nickname is taken.", "Nothing was changed.", "Choose another one.")
    return LogbookError(
        f"This could not be kept: {cause}.", f"Everything confirmed before is safe in {path.name}.", "Try again."
    )
