"""An open logbook: records in and out, every reading committed before anyone is told so."""

import json
import sqlite3
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path
from types import MappingProxyType
from typing import Any, NamedTuple, TypeVar

from sqlalchemy import (
    ColumnElement,
    Connection,
    Executable,
    Select,
    Table,
    delete,
    exists,
    func,
    insert,
    literal_column,
    select,
    text,
    union,
    union_all,
)
from sqlalchemy.dialects.sqlite import Insert
from sqlalchemy.dialects.sqlite import insert as upsert
from sqlalchemy.exc import DBAPIError

from even_beam.bench import notation
from even_beam.bench.limits import impossible_in, without_impossible
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import OFF, Computed, Event, EventKind, Reading, Session, Spectrum, Step, Value
from even_beam.bench.split import Split
from even_beam.bench.traces import Trace
from even_beam.logbook import creation, rows, schema
from even_beam.logbook.engine import reading_engine, writing_engine
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.lock import Lock

Record = TypeVar("Record")


_NAMES_SOURCES = schema.event.c.kind == EventKind.SOURCE_NAMED

_SPEAK_OF_OTHERS = (EventKind.SUSPECT_FROM, EventKind.AGREES_AGAIN, EventKind.SOURCE_NAMED)
"""Events that name a reading of one lamp and say something of another's, or whose it is."""


class History(NamedTuple):
    """Readings of many sessions; events that only took one are left out unless undone. Their figures are left where
    they are unless asked for: then `computed` has those of spectra by reading."""

    readings: list[Reading]
    events: list[Event]
    computed: Mapping[str, Computed] = MappingProxyType({})


class KeptFigures(NamedTuple):
    """The figures kept with a reading: those given, and those computed from its spectrum if it has one."""

    values: tuple[Value, ...]
    computed: Computed | None


class Logbook:
    """One logbook file. Use `create`, `open` or `open_to_read`, and `close` when done.

    All methods raise `LogbookError` when the file can no longer be written or read; what had been committed stays.
    """

    def __init__(self, path: Path, connection: Connection, lock: Lock | None) -> None:
        self.path = path
        self._connection = connection
        self._lock = lock
        self._file = _identity(path)

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
            if isinstance(error, DBAPIError | UnicodeDecodeError):
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
        except (DBAPIError, UnicodeDecodeError) as error:  # its very table of contents may be no text
            raise _damaged(path, error) from error
        return logbook

    @property
    def writable(self) -> bool:
        """Whether this process may write."""
        return self._lock is not None

    @property
    def is_in_place(self) -> bool:
        """Whether the file that was opened still stands under its name: not removed, renamed or replaced."""
        return self._file is not None and _identity(self.path) == self._file

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
            if self.is_in_place:
                creation.copy(self.path, partial)
            else:
                creation.copy_held(self._connection.connection.driver_connection, partial)  # type: ignore[arg-type]
            partial.replace(target)
        except (OSError, sqlite3.Error) as error:
            for beside in ("", "-journal", "-wal", "-shm"):
                partial.with_name(partial.name + beside).unlink(missing_ok=True)
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
    def _understood(self) -> Iterator[None]:
        """Cells that no program of ours wrote are said, and nothing is guessed of them."""
        try:
            yield
        except (KeyError, ValueError, TypeError, AttributeError) as error:
            raise LogbookError(
                f"{self.path.name} holds a cell that cannot be understood: {error!r}.",
                "The file was left as it is.",
                "“even-beam check” says where; work with your last copy of it.",
            ) from error

    @contextmanager
    def _transaction(self) -> Iterator[Connection]:
        """Everything inside is kept together or not at all; on the disk when the block is left."""
        if not self.writable:
            raise LogbookError(
                f"{self.path.name} is open to read only.",
                "Nothing was changed.",
                "Close it elsewhere and open it again.",
            )
        if not self.is_in_place:
            raise LogbookError(
                f"{self.path.name} is no longer in its place: it was removed, renamed or replaced by another file. This"
                " was not kept.",
                "Everything confirmed before is still held by this program.",
                "Save a copy now, before it is closed, and open the copy.",
            )
        with self._guarded(), self._connection.begin():
            yield self._connection
        try:
            self._connection.execute(text("PRAGMA wal_checkpoint(PASSIVE)"))
        except DBAPIError:
            pass  # it is kept, in the log beside the file; saying otherwise would have it entered twice
        finally:
            self._connection.rollback()

    def save(self, *records: object) -> None:
        """Keep kit and session records, replacing those of the same id."""
        by_kind: dict[type, list[dict[str, Any]]] = {}
        for record in records:
            by_kind.setdefault(type(record), []).append(rows.to_row(record))
        with self._transaction() as connection:
            for kind, kept in by_kind.items():
                connection.execute(_replacing(rows.TABLES[kind], "id"), kept)

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
        computed: Sequence[Computed] = (),
    ) -> None:
        """Keep several readings at once, as an import does; `traces` by the id of their reading, `computed` likewise.

        Raises `LogbookError` for a reading that cannot be, whichever door it came by.
        """
        if (problem := impossible_in(reading for reading, _ in taken)) is not None:
            raise LogbookError(f"{notation.sentence(problem)}.", "Nothing of it was kept.", "Read or type it again.")
        with self._transaction() as connection:
            self._insert_readings(connection, taken, traces, computed)
            self._insert_events(connection, events)

    def take_over(
        self,
        records: Sequence[object],
        *,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        events: Sequence[Event],
        traces: Mapping[str, Sequence[Trace]],
        computed: Sequence[Computed],
        beside: Sequence[object],
    ) -> None:
        """Keep whole sessions of another logbook, all or nothing: `records` before their readings, `beside` after.

        Raises `LogbookError` for a reading that cannot be, and for what does not belong together.
        """
        if (problem := impossible_in(reading for reading, _ in taken)) is not None:
            raise LogbookError(f"{notation.sentence(problem)}.", "Nothing of it was kept.", "Ask for it anew.")
        with self._transaction() as connection:
            for record in records:
                connection.execute(insert(rows.TABLES[type(record)]), rows.to_row(record))
            self._insert_readings(connection, taken, traces, computed)
            self._insert_events(connection, events)
            for record in beside:
                connection.execute(insert(rows.TABLES[type(record)]), rows.to_row(record))

    @staticmethod
    def _insert_readings(
        connection: Connection,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        traces: Mapping[str, Sequence[Trace]],
        computed: Sequence[Computed],
    ) -> None:
        if taken:
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
        if computed:
            connection.execute(insert(schema.computed), [rows.computed_to_row(one) for one in computed])

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
        if not computed:
            return
        with self._transaction() as connection:
            connection.execute(
                _replacing(schema.computed, "reading_id"), [rows.computed_to_row(one) for one in computed]
            )

    # --- reading

    def _rows(self, statement: Executable) -> Sequence[Any]:
        with self._guarded(), self._understood():
            found = self._connection.execute(statement).all()
            self._connection.rollback()
        return found

    def _records(self, kind: type[Record], narrow: Callable[[Select[Any]], Select[Any]]) -> list[Record]:
        """Records of a kind; `narrow` says which and in what order."""
        shape = rows.shape_of(kind)  # type: ignore[arg-type]
        found = self._rows(narrow(select(*shape.columns)))
        with self._understood():
            return [shape.make(row) for row in found]

    def all(self, kind: type[Record]) -> list[Record]:
        """Every record of a kit kind, in the order of their names."""
        table = rows.TABLES[kind]
        order = next(c for name in ("nickname", "name", "at", "what", "id") if (c := table.c.get(name)) is not None)
        return self._records(kind, lambda s: s.order_by(order))

    def arrival_of_sources(self) -> list[str]:
        """The ids of all lamps in the order in which they were first kept; editing one does not move it."""
        statement = select(schema.source.c.id).order_by(literal_column("rowid"))
        with self._understood():
            return list(self._connection.execute(statement).scalars())

    def sessions(self) -> list[Session]:
        """Every session, the oldest first."""
        return self._records(Session, lambda s: s.order_by(schema.session.c.created_at))

    def of_session(self, kind: type[Record], session_id: str) -> list[Record]:
        """The steps, events or conditions of a session, in order."""
        table = rows.TABLES[kind]
        order = next(c for name in ("position", "sequence", "at", "id") if (c := table.c.get(name)) is not None)
        return self._records(kind, lambda s: s.where(table.c.session_id == session_id).order_by(order))

    def readings(self, session_id: str) -> list[Reading]:
        """The readings of a session with their figures, in the order taken."""
        here = schema.reading.c.session_id == session_id
        values = self._values(schema.value.c.reading_id.in_(select(schema.reading.c.id).where(here)))
        return self._readings(here, lambda reading_id: values.get(reading_id, ()))

    def _readings(self, which: ColumnElement[bool], values: Callable[[str], tuple[Value, ...]]) -> list[Reading]:
        table = schema.reading
        columns, make = rows.shape_of(Reading)
        found = self._rows(select(*columns).where(which).order_by(table.c.session_id, table.c.sequence))
        with self._understood():
            return [make(row, values=values(row[0])) for row in found]

    def _values(self, which: ColumnElement[bool]) -> dict[str, tuple[Value, ...]]:
        table = schema.value
        columns, make = rows.shape_of(Value)
        by_reading: dict[str, list[Value]] = {}
        found = self._rows(select(table.c.reading_id, *columns).where(which))
        with self._understood():
            for row in found:
                by_reading.setdefault(row[0], []).append(without_impossible(make(row[1:])))
        return {reading_id: tuple(values) for reading_id, values in by_reading.items()}

    def computed(self, session_id: str) -> dict[str, Computed]:
        """The computed figures of a session by reading."""
        here = select(schema.reading.c.id).where(schema.reading.c.session_id == session_id)
        return self._computed(schema.computed.c.reading_id.in_(here))

    def _computed(self, which: ColumnElement[bool]) -> dict[str, Computed]:
        found = self._rows(select(*rows.COMPUTED_COLUMNS).where(which))
        with self._understood():
            return {row[0]: rows.computed_from_row(row) for row in found}

    # --- one source over all sessions

    def reading_counts(self, by: Split) -> dict[tuple[str, str], int]:
        """How many readings each source has that was read alone, part by part of them.

        Counted from what was noted at the reading: corrections and what was taken back are not regarded.
        """
        table = schema.reading
        columns: list[ColumnElement[Any]] = [table.c.source_ids]
        if by is not Split.LAMPS:
            columns.append(table.c.configuration if by is Split.CONFIGURATIONS else table.c.session_id)
        counts: dict[tuple[str, str], int] = {}
        found = self._rows(select(*columns, func.count()).group_by(*columns))
        named = self._rows(select(schema.event.c.new).where(_NAMES_SOURCES)) if by is Split.LAMPS else ()
        with self._understood():
            for ids, *part, count in found:
                if len(ids) == 1:
                    kept = part[0] if part else ""
                    counts[ids[0], kept if isinstance(kept, str) else " + ".join(kept) or "bare"] = int(count)
            for row in named:
                for source_id in row[0].split():
                    counts.setdefault((source_id, ""), 0)
        return counts

    def sources_read_in(self, session_ids: Collection[str]) -> set[str]:
        """The sources that were read in some sessions, alone or with others, or named there afterwards."""
        reading, event = schema.reading.c, schema.event.c
        found: set[str] = set()
        for row in self._rows(select(reading.source_ids).where(_among(reading.session_id, session_ids)).distinct()):
            found.update(row[0])
        for row in self._rows(select(event.new).where(_among(event.session_id, session_ids) & _NAMES_SOURCES)):
            found.update(row[0].split())
        return found

    def thumbnail_of(self, source_id: str, subject: str) -> bytes | None:
        """The newest picture kept with an observation of a subject of one source alone, small and encoded; None without
        one."""
        photo, seen = schema.photo.c, schema.observation.c
        of_it = select(seen.id).where((seen.source_ids == (source_id,)) & (seen.subject == subject))
        newest = select(photo.thumbnail).where(photo.observation_id.in_(of_it)).order_by(photo.at.desc()).limit(1)
        found = self._rows(newest)
        return bytes(found[0][0]) if found else None

    def uses_of_meter(self, meter_id: str) -> int:
        """How many readings, steps and calibrations name a meter, and events that do."""
        tables = schema.reading, schema.step, schema.calibration
        counts = [select(func.count()).where(table.c.meter_id == meter_id) for table in tables]
        counts.append(select(func.count()).where(schema.event.c.new == meter_id))
        return sum(int(self._rows(count)[0][0]) for count in counts)

    def sessions_reading(self) -> dict[str, dict[str, int]]:
        """Of each source in which sessions it was read, alone or with others, and how often."""
        table = schema.reading
        columns = table.c.source_ids, table.c.session_id
        found: dict[str, dict[str, int]] = {}
        for ids, session_id, count in self._rows(select(*columns, func.count()).group_by(*columns)):
            for source_id in ids:
                own = found.setdefault(source_id, {})
                own[session_id] = own.get(session_id, 0) + int(count)
        return found

    def history_of(self, source_id: str, within: Collection[str] | None = None, *, figures: bool = False) -> History:
        """A source's readings of all sessions, or of those in `within`, with all else that says how these stand and
        what light was the room's."""
        reading, event = schema.reading, schema.event
        own = reading.c.source_ids == (source_id,)
        named = _NAMES_SOURCES & event.c.new.contains(source_id, autoescape=True)
        found = self._rows(union(select(reading.c.session_id).where(own), select(event.c.session_id).where(named)))
        sessions = [row[0] for row in found if within is None or row[0] in within]
        here = own if within is None else own & _among(reading.c.session_id, sessions)
        return self._history(sessions, here, figures=figures)

    def history_of_sessions(self, session_ids: Sequence[str]) -> History:
        """All readings of some sessions."""
        return self._history(session_ids, _among(schema.reading.c.session_id, session_ids))

    def history_of_readings(self, reading_ids: Collection[str]) -> History:
        """Some readings, with all else that says how these stand and what light was the room's."""
        return self._history(self.sessions_of(reading_ids), _among(schema.reading.c.id, reading_ids))

    def _history(self, sessions: Sequence[str], own: ColumnElement[bool], *, figures: bool = False) -> History:
        reading, event = schema.reading, schema.event
        here = _among(event.c.session_id, sessions)
        told = select(event.c.reading_id).where(here & event.c.kind.in_(_SPEAK_OF_OTHERS))
        of_the_room = (reading.c.source_ids == ()) | (reading.c.mode == OFF)
        beside = _among(reading.c.session_id, sessions) & (of_the_room | reading.c.id.in_(told))
        every = select(reading.c.id).where(own | beside)
        values = self._values(schema.value.c.reading_id.in_(every)) if figures else {}
        computed = self._computed(schema.computed.c.reading_id.in_(every)) if figures else {}

        def of(reading_id: str) -> tuple[Value, ...]:
            return values.get(reading_id, ())

        found = [*self._readings(own, of), *self._readings(beside & ~own, of)]
        found.sort(key=lambda one: (one.session_id, one.sequence))
        undone = select(event.c.undoes).where(here & event.c.undoes.is_not(None))
        changing = here & ((event.c.kind != EventKind.TAKEN) | event.c.id.in_(undone))
        return History(found, self._records(Event, lambda s: s.where(changing)), computed)

    def figures(self, reading_ids: Iterable[str]) -> dict[str, KeptFigures]:
        """The figures of readings, typed, the device's and computed."""
        asked = list(reading_ids)
        values = self._values(_among(schema.value.c.reading_id, asked))
        computed = self._computed(_among(schema.computed.c.reading_id, asked))
        return {i: KeptFigures(values.get(i, ()), computed.get(i)) for i in asked}

    def spectra(self, reading_ids: Iterable[str]) -> dict[str, Spectrum]:
        """The spectra of readings, for those that have one."""
        statement = select(schema.spectrum).where(_among(schema.spectrum.c.reading_id, reading_ids))
        return {row.reading_id: rows.spectrum_from_row(row._mapping) for row in self._rows(statement)}

    def traces(self, reading_id: str) -> tuple[Trace, ...]:
        """The traces of a reading."""
        statement = select(schema.trace).where(schema.trace.c.reading_id == reading_id)
        return tuple(rows.trace_from_row(row._mapping) for row in self._rows(statement))

    def sessions_of(self, reading_ids: Iterable[str]) -> list[str]:
        """The sessions that some readings were taken in."""
        table = schema.reading
        statement = select(table.c.session_id).where(_among(table.c.id, reading_ids)).distinct()
        return [row.session_id for row in self._rows(statement)]

    def out_of_date(self, method_version: int, most: int | None = None) -> list[str]:
        """Readings with a spectrum whose figures are missing or of another method version, at most so many."""
        spectrum, computed = schema.spectrum, schema.computed
        # two ranges and a walk along two indices: the rows themselves hold a gigabyte in a large logbook
        other = (computed.c.method_version < method_version) | (computed.c.method_version > method_version)
        missing = ~exists().where(computed.c.reading_id == spectrum.c.reading_id)
        either = union_all(select(computed.c.reading_id).where(other), select(spectrum.c.reading_id).where(missing))
        return [row[0] for row in self._rows(either.limit(most))]

    def next_sequence(self, session_id: str) -> int:
        """The number of the next event of a session; readings share it with the event that took them."""
        statement = select(func.max(schema.event.c.sequence).label("last")).where(
            schema.event.c.session_id == session_id
        )
        return int(self._rows(statement)[0].last or 0) + 1


def _among(column: ColumnElement[str], ids: Iterable[str]) -> ColumnElement[bool]:
    """Whether a column is one of some ids, handed over as one list: a statement takes only so many parameters, and each
    costs its time."""
    return column.in_(select(func.json_each(json.dumps(list(ids))).table_valued("value").c.value))


def _identity(path: Path) -> tuple[int, int] | None:
    """Which file stands under a name; None where there is none."""
    try:
        status = path.stat()
    except OSError:
        return None
    return status.st_dev, status.st_ino


def _replacing(table: Table, key: str) -> Insert:
    """An insert that replaces the row of the same key."""
    statement = upsert(table)
    changes = {column.name: statement.excluded[column.name] for column in table.c if column.name != key}
    return statement.on_conflict_do_update(index_elements=[key], set_=changes)


def _damaged(path: Path, error: DBAPIError | UnicodeDecodeError) -> LogbookError:
    cause = error.orig if isinstance(error, DBAPIError) else error
    return LogbookError(
        f"{path.name} is damaged or not a logbook: {cause}.",
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
