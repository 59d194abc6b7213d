"""An open logbook: records in and out, every reading committed before anyone is told so."""

import sqlite3
import threading
import time
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from types import MappingProxyType
from typing import Any, NamedTuple, TypeVar

from even_beam.bench import notation
from even_beam.bench.limits import impossible_in, without_impossible
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import (
    OFF,
    Calibration,
    Computed,
    Conditions,
    Event,
    EventKind,
    Reading,
    Session,
    Spectrum,
    Step,
    Value,
)
from even_beam.bench.run import live_events
from even_beam.bench.soundness import flaw_in
from even_beam.bench.split import Split
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.files.writing import temporary_beside, with_suffix
from even_beam.logbook import cells, chain, creation, own_schema, rows
from even_beam.logbook.beside import clear_away, connect_beside, is_passed_over, settle
from even_beam.logbook.connection import connect_to_write
from even_beam.logbook.errors import DestroyedError, LogbookError
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.lock import Lock
from even_beam.logbook.notices import LISTENERS
from even_beam.logbook.rescue import Held, have_at_hand, rescue
from even_beam.logbook.statements import Where, alone, among, inserting, of_readings, replacing
from even_beam.logbook.watch import Watch

Record = TypeVar("Record")

_NAMES_SOURCES = f"kind = '{EventKind.SOURCE_NAMED.value}'"  # as the index of these has it

_SPEAK_OF_OTHERS = (EventKind.SUSPECT_FROM, EventKind.AGREES_AGAIN, EventKind.SOURCE_NAMED)
"""Events that name a reading of one lamp and say something of another's, or whose it is."""


class History(NamedTuple):
    """Readings of many sessions; events that only took one are left out unless undone. Their figures are left where
    they are unless asked for: then `computed` has those of spectra by reading."""

    readings: list[Reading]
    events: list[Event]
    computed: Mapping[str, Computed] = MappingProxyType({})


_TOLD_BY: dict[type, tuple[EventKind, ...]] = {
    Look: (EventKind.LOOK_KEPT,),
    Conditions: (EventKind.ROOM_NOTED,),
    Calibration: (EventKind.CALIBRATED, EventKind.DARK_CALIBRATED),
}
"""Records that are kept at the bench, with the events that tell so, by whose undoing they are gone."""


class KeptFigures(NamedTuple):
    """The figures kept with a reading: those given, and those computed from its spectrum if it has one."""

    values: tuple[Value, ...]
    computed: Computed | None


class Logbook:
    """One logbook file. Use `create`, `open` or `open_to_read`, and `close` when done.

    All methods raise `LogbookError` when the file can no longer be written or read; what had been committed stays.
    """

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: Lock | None, told: str) -> None:
        self.path = path
        self._notices: list[str] = []
        self._set_apart: set[str] = set()
        self.is_new = False  # begun just now
        self._destroyed: DestroyedError | None = None
        self._connection = connection
        self._turn = threading.RLock()  # a job may read meanwhile, and half of what is being kept is not to be seen
        self._lock = lock
        self._held, self._to_hold = Held(), list[tuple[str, Sequence[Mapping[str, Any]]]]()
        file = lock.file if lock is not None else None
        self._watch = Watch(path, file, connection) if file is not None else None
        if told:
            self._tell(told)

    @property
    def notices(self) -> tuple[str, ...]:
        """What was found of the file that a person must know: logs put aside, sessions set apart."""
        return tuple(self._notices)

    def _tell(self, words: str, rescued: Path | None = None) -> None:
        self._notices.append(words)
        for listener in list(LISTENERS):
            listener(self.path, words, rescued)

    # --- opening and closing

    @classmethod
    def create(cls, path: Path, patience_s: float = 0.0) -> "Logbook":
        """A new, empty logbook at `path`, where nothing must stand yet. Raises `LogbookError`."""
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except (OSError, ValueError) as error:
            raise LogbookError(
                f"The folder of {path.name} cannot be made: {error}.", "Nothing was changed.", "Choose another folder."
            ) from error
        lock = Lock(path)
        lock.acquire(patience_s)
        try:
            if path.exists() or path.is_symlink():
                raise TakenError(path)
            put_aside = creation.create(path)
            lock.hold_file()
            logbook = cls._opened(path, lock, put_aside)
            logbook.is_new = True
            return logbook
        except BaseException:
            lock.release()
            raise

    @classmethod
    def open(cls, path: Path, patience_s: float = 0.0) -> "Logbook":
        """Open to read and write, alone. An older file is migrated first, its former state kept beside it.

        Who has patience waits so long for one that has it open in passing. `notices` tells what was found on the way.
        """
        if inspect_header(path) is FileKind.MISSING:
            raise LogbookError(
                f"There is no {path.name}.", "Nothing was changed.", "Check the name, or start a new one."
            )
        lock = Lock(path)
        lock.acquire(patience_s)
        try:
            kind = inspect_header(path)  # another process may have brought it forward, or taken it away, in between
            if kind is FileKind.MISSING:
                raise LogbookError(f"{path.name} was taken away.", "Nothing was changed.", "Start a new one.")
            told = creation.migrate(path, lock) if kind is FileKind.OLDER else settle(path, fold=False)
            return cls._opened(path, lock, told)
        except BaseException as error:
            lock.release()
            if isinstance(error, sqlite3.Error | UnicodeDecodeError):
                raise _not_opened(path, error) from error
            raise

    @classmethod
    def _opened(cls, path: Path, lock: Lock, told: str) -> "Logbook":
        return cls._probed(path, connect_to_write(path), lock, told)

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
            told = _PASSED_OVER.format(path.name) if is_passed_over(path) else ""
            return cls._probed(path, connect_beside(path), None, told)
        except (OSError, sqlite3.Error, UnicodeDecodeError) as error:  # its very table of contents may be no text
            raise _not_opened(path, error) from error

    @classmethod
    def _probed(cls, path: Path, connection: sqlite3.Connection, lock: Lock | None, told: str) -> "Logbook":
        """A logbook whose file has answered, and whose tables are ours. Raises `LogbookError` and `sqlite3.Error`."""
        try:
            with _within(connection, _LONGEST_LOOK_S):
                problem = own_schema.problem_of(connection)
                if problem:
                    raise LogbookError(
                        f"{path.name} has {problem}.",
                        "It was left as it is, and nothing in it was run.",
                        "It was made or changed by another program: ask for its open data instead.",
                    )
                connection.execute("SELECT count(*) FROM session").fetchone()
                if lock is not None:
                    have_at_hand(connection, path.stat().st_size)
            return cls(path, connection, lock, told)
        except BaseException:
            connection.close()
            raise

    @property
    def writable(self) -> bool:
        """Whether this process may write."""
        return self._lock is not None

    @property
    def was_left_open(self) -> bool:
        """Whether the process before this one died with the file open: then a thorough check is due."""
        return self._lock is not None and self._lock.was_left

    def close(self) -> None:
        """Fold the log into the file, so that a copy of the file alone is whole, and release the lock.

        Raises `DestroyedError` where something else took the file away or wrote into it, and that was not said yet:
        what was held is kept then.
        """
        try:
            if self.writable and self._destroyed is None:
                self._hold_in_place("")
                self._connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        except sqlite3.Error:
            pass  # a full disk: the log stays beside the file and is read at the next opening
        finally:
            self._connection.close()
            if self._lock is not None:
                self._lock.release()
            self._watch = None

    def save_copy(self, target: Path) -> Path:
        """A whole copy at `target`, while this logbook stays open; where it is. A logbook that stands there is
        replaced, once the copy is whole, and nothing else is.

        Raises `LogbookError` and `OutputError`.
        """
        target = with_suffix(target, self.path.suffix)
        if target.exists() and target.samefile(self.path):
            raise LogbookError(
                f"{target.name} is this logbook itself.", "It was left as it is.", "Choose another name for the copy."
            )
        inspect_header(target)  # raises for what is no logbook
        partial, lock = temporary_beside(target), Lock(target)
        lock.acquire()
        try:
            if self._watch is None or not self._watch.what_is_wrong():
                creation.copy(self.path, partial)
            else:
                creation.copy_held(self._connection, partial)
            creation.put_in_place(partial, target, lock)
        except (OSError, sqlite3.Error) as error:
            raise LogbookError(
                f"The copy could not be written: {error}.", "The logbook itself is unharmed.", "Choose another place."
            ) from error
        finally:
            clear_away(partial)
            lock.release()
        return target

    # --- writing

    @contextmanager
    def _guarded(self) -> Iterator[None]:
        try:
            yield
        except sqlite3.Error as error:
            raise _not_kept(self.path, error) from error

    @contextmanager
    def _understood(self) -> Iterator[None]:
        """Cells that no program of ours wrote are said, and nothing is guessed of them."""
        try:
            yield
        except (KeyError, ValueError, TypeError, AttributeError, RecursionError) as error:
            raise _not_understood(self.path, error) from error

    @contextmanager
    def _transaction(self) -> Iterator[None]:
        """Everything inside is kept together or not at all; on the disk when the block is left."""
        if not self.writable:
            raise LogbookError(
                f"{self.path.name} is open to read only.",
                "Nothing was changed.",
                "Close it elsewhere and open it again.",
            )
        self._hold_in_place(" This was not kept.")
        self._to_hold.clear()
        with self._turn, self._guarded():
            self._connection.execute("BEGIN IMMEDIATE")
            try:
                chain.forge(self._connection)
                yield
                self._connection.execute("COMMIT")
            except BaseException:
                self._connection.rollback()
                raise
            for table, kept in self._to_hold:
                self._held.add(table, kept)
        with suppress(sqlite3.Error):  # it is kept, in the log beside the file: else it would be entered twice
            self._connection.execute("PRAGMA wal_checkpoint(PASSIVE)")
        if self._watch is not None:
            self._watch.note()

    def _hold_in_place(self, beside: str) -> None:
        """Raise `DestroyedError` where the file is not as this program left it, once what is held was rescued."""
        if self._destroyed is not None:
            raise self._destroyed
        if self._watch is None or not (wrong := self._watch.what_is_wrong()):
            return
        with self._turn:
            found = rescue(self._connection, self._held, self.path, whole=self._watch.is_as_left)
        what, rescued = f"{self.path.name} {wrong}.{beside}", None
        if found is None:
            kept, do = "What this program still holds could be kept nowhere.", "Make room and save a copy now."
        else:
            rescued, readings = found
            kept = f"What was still held, {notation.count(readings, 'reading')}, is kept in {rescued}."
            do = "Go on with that one."
        self._destroyed = DestroyedError(what, kept, do, rescued)
        self._tell(str(self._destroyed), rescued)
        raise self._destroyed

    @property
    def is_as_left(self) -> bool:
        """Whether its file is in its place as this program left it, so that what was confirmed is in it."""
        return self._watch is not None and not self._watch.what_is_wrong()

    def save(self, *records: object, events: Sequence[Event] = ()) -> None:
        """Keep kit and session records, replacing those of the same id, with the events that tell of them."""
        self.exchange((), records, events=events)

    def exchange(self, out: Sequence[object], in_: Sequence[object], *, events: Sequence[Event] = ()) -> None:
        """Take kit records out that nothing refers to, and keep others, replacing those of the same id: one act, all of
        it or nothing. Some are taken out only so that others can come in, so these may be the same."""
        by_kind: dict[type, list[dict[str, Any]]] = {}
        _refuse_flaws(in_)
        for record in in_:
            by_kind.setdefault(type(record), []).append(rows.to_row(record))
        with self._transaction():
            self._connection.execute("PRAGMA defer_foreign_keys=ON")  # one that goes may be named by one that goes too
            self._take_out(out)
            for kind, kept in by_kind.items():
                self._replace_rows(rows.TABLES[kind], kept)
            self._insert(*events)

    def commit_reading(self, reading: Reading, events: Sequence[Event], spectrum: Spectrum | None = None) -> None:
        """Keep a reading with its figures, spectrum and events in one transaction."""
        self.commit_readings([(reading, spectrum)], events)

    def commit_readings(
        self,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        events: Sequence[Event],
        traces: Mapping[str, Sequence[Trace]] = MappingProxyType({}),
        computed: Sequence[Computed] = (),
        records: Sequence[object] = (),
    ) -> None:
        """Keep several readings at once, as an import does, behind the new `records` that they name; `traces` by the id
        of their reading, `computed` likewise.

        Raises `LogbookError` for a reading that cannot be, whichever door it came by.
        """
        if (problem := impossible_in(reading for reading, _ in taken)) is not None:
            raise LogbookError(f"{notation.sentence(problem)}.", "Nothing of it was kept.", "Read or type it again.")
        _refuse_flaws(records)
        with self._transaction():
            self._insert(*records)
            self._insert_readings(taken, traces, computed)
            self._insert(*events)

    def take_over(
        self,
        records: Sequence[object],
        *,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        events: Sequence[Event],
        traces: Mapping[str, Sequence[Trace]],
        computed: Sequence[Computed],
        beside: Sequence[object],
        in_place_of: Sequence[object] = (),
    ) -> None:
        """Keep whole sessions of another logbook, all or nothing: `records` before their readings, `beside` after; what
        they stand `in_place_of` goes.

        Raises `LogbookError` for a reading that cannot be, and for what does not belong together.
        """
        if (problem := impossible_in(reading for reading, _ in taken)) is not None:
            raise LogbookError(f"{notation.sentence(problem)}.", "Nothing of it was kept.", "Ask for it anew.")
        _refuse_flaws((*records, *events))
        with self._transaction():
            self._take_out(in_place_of)
            self._insert(*records)
            self._insert_readings(taken, traces, computed)
            self._insert(*events, *beside)

    def _take_out(self, records: Sequence[object]) -> None:
        for record in records:
            table = rows.TABLES[type(record)]
            self._connection.execute(f"DELETE FROM {table} WHERE id = ?", (record.id,))  # type: ignore[attr-defined]

    def _insert(self, *records: object) -> None:
        for record in records:
            self._insert_rows(rows.TABLES[type(record)], [rows.to_row(record)])

    def _insert_rows(self, table: str, kept: Sequence[Mapping[str, Any]]) -> None:
        """Rows of one table, all of the same columns."""
        if kept:
            self._connection.executemany(inserting(table, kept[0]), kept)
            self._to_hold.append((table, kept))

    def _replace_rows(self, table: str, kept: Sequence[Mapping[str, Any]], key: str = "id") -> None:
        """The same, in place of those of the same key."""
        if kept:
            self._connection.executemany(replacing(table, kept[0], key), kept)
            self._to_hold.append((table, kept))

    def _insert_readings(
        self,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        traces: Mapping[str, Sequence[Trace]],
        computed: Sequence[Computed],
    ) -> None:
        self._insert_rows("reading", [rows.to_row(reading) for reading, _ in taken])
        self._insert_rows("value", [rows.value_to_row(r.id, value) for r, _ in taken for value in r.values])
        self._insert_rows("spectrum", [rows.spectrum_to_row(r.id, curve) for r, curve in taken if curve is not None])
        self._insert_rows("trace", [rows.trace_to_row(i, trace) for i, own in traces.items() for trace in own])
        self._insert_rows("computed", [rows.computed_to_row(one) for one in computed])

    def add_events(self, *events: Event) -> None:
        """Keep events."""
        with self._transaction():
            self._insert(*events)

    def add_step(self, step: Step, event: Event) -> None:
        """Keep a step inserted during a run together with the event that inserts it."""
        with self._transaction():
            self._insert(step, event)

    def add_observation(self, observation: Observation, photos: Sequence[Photo], events: Sequence[Event]) -> None:
        """Keep an observation with its photos and events in one transaction."""
        with self._transaction():
            self._insert(observation, *photos, *events)

    def add_photo(self, photo: Photo, event: Event) -> None:
        """Keep a photo of a reading with the event that adds it."""
        with self._transaction():
            self._insert(photo, event)

    def save_computed(self, computed: Sequence[Computed]) -> None:
        """Keep computed figures beside their readings, replacing those of an older method."""
        if not computed:
            return
        kept = [rows.computed_to_row(one) for one in computed]
        with self._transaction():
            self._replace_rows("computed", kept, "reading_id")

    # --- reading

    def _rows(self, statement: str, given: Sequence[Any] = ()) -> list[Any]:
        try:
            with self._turn, self._understood():
                return self._connection.execute(statement, given).fetchall()
        except sqlite3.Error as error:
            raise _not_read(self.path, error) from error

    def _records(self, kind: type[Record], which: Where, order: str) -> list[Record]:
        """Records of a kind in some order."""
        shape = rows.shape_of(kind)  # type: ignore[arg-type]
        table = rows.TABLES[kind]
        query = f"SELECT {shape.selected} FROM {table} WHERE {which.condition} ORDER BY {order}"
        return self._sound(kind, self._rows(query, which.given))

    def _sound(self, kind: type[Record], found: Sequence[Any], values: Sequence[object] | None = None) -> list[Record]:
        """The records of rows, but for those of a session of which one cannot be read: it is set apart whole, and the
        others are there. What belongs to no session is refused."""
        shape = rows.shape_of(kind)  # type: ignore[arg-type]
        name = "id" if kind is Session else "session_id"
        place = shape.columns.index(name) if name in shape.columns else None
        while True:
            if place is not None and self._set_apart:
                standing = [number for number, row in enumerate(found) if row[place] not in self._set_apart]
                found = [found[number] for number in standing]
                values = [values[number] for number in standing] if values is not None else None
            try:
                return shape.made(found, **({"values": values} if values is not None else {}))
            except rows.RowError as error:
                owner = found[error.number][place] if place is not None else None
                if not isinstance(owner, str):
                    raise _not_understood(self.path, error) from error
                self._set_apart_for(owner, error)

    def _set_apart_for(self, session_id: str, error: rows.RowError) -> None:
        self._set_apart.add(session_id)
        named = self._rows("SELECT name FROM session WHERE id = ?", (session_id,))
        name = str(named[0][0])[:80] if named else session_id
        self._tell(
            f"The session “{name}” cannot be read: {error}. It is set apart whole, and left as it is in the file; all"
            " others are there."
        )

    def _of_readings(self, found: Sequence[Sequence[Any]], read: Callable[[Sequence[Any]], Record]) -> list[Record]:
        """What belongs to readings, of rows that begin with the reading's id; a bad one sets its session apart."""
        records = []
        for row in found:
            try:
                records.append(read(row))
            except rows.RowError as error:
                self._set_apart_of(row[0], error)
        return records

    def _set_apart_of(self, reading_id: object, error: rows.RowError) -> None:
        of_it = self._rows("SELECT session_id FROM reading WHERE id = ?", (reading_id,))
        if not of_it:
            raise _not_understood(self.path, error) from error
        if of_it[0][0] not in self._set_apart:
            self._set_apart_for(of_it[0][0], error)

    def is_set_apart(self, session_id: str) -> bool:
        """Whether a session was found to have a row that cannot be read: what was read of it is not to be used."""
        return session_id in self._set_apart

    def all(self, kind: type[Record]) -> list[Record]:
        """Every record of a kit kind, in the order of their names."""
        found = self._records(kind, Where("true"), _first_column(kind, "nickname", "name", "at", "what", "id"))
        return self._not_undone(kind, found)

    def arrival_of_sources(self) -> list[str]:
        """The ids of all lamps in the order in which they were first kept; editing one does not move it."""
        return [row[0] for row in self._rows("SELECT id FROM source ORDER BY rowid")]

    def sessions(self) -> list[Session]:
        """Every session, the oldest first."""
        return self._records(Session, Where("true"), "created_at")

    def last_worked_in(self) -> Session | None:
        """The session of the event that was kept last, or one that was begun since."""
        sessions = self.sessions()
        last = self._rows("SELECT session_id, at FROM event ORDER BY rowid DESC LIMIT 1")
        if not last or not sessions or cells.utc_text(sessions[-1].created_at) > str(last[0][1]):
            return sessions[-1] if sessions else None
        return next((session for session in sessions if session.id == last[0][0]), sessions[-1])

    def of_session(self, kind: type[Record], session_id: str) -> list[Record]:
        """The steps, events or conditions of a session, in order."""
        order = _first_column(kind, "position", "sequence", "at", "id")
        return self._not_undone(kind, self._records(kind, Where("session_id = ?", (session_id,)), order))

    def _not_undone(self, kind: type[Record], found: list[Record]) -> list[Record]:
        """Without those whose keeping was undone: what is done at the bench is never taken out, its event is undone."""
        kinds = _TOLD_BY.get(kind)
        if kinds is None or not found:
            return found
        words = ", ".join(f"'{one.value}'" for one in (*kinds, EventKind.UNDONE))
        events = self._records(Event, Where(f"kind IN ({words})"), "session_id, sequence")
        keeping = {event.id: event.old if event.kind is EventKind.DARK_CALIBRATED else event.new for event in events}
        live = {event.id for event in live_events(events)}
        undone = {row_id for event_id, row_id in keeping.items() if event_id not in live}
        return [one for one in found if one.id not in undone]  # type: ignore[attr-defined]

    def readings(self, session_id: str) -> list[Reading]:
        """The readings of a session with their figures, in the order taken."""
        here = Where("session_id = ?", (session_id,))
        found = self._reading_rows(here)  # before their figures: one that comes meanwhile is left for the next time
        return self._readings(found, self._values(of_readings(here)))

    def _reading_rows(self, which: Where) -> list[Any]:
        columns = rows.shape_of(Reading).selected
        statement = f"SELECT {columns} FROM reading WHERE {which.condition} ORDER BY session_id, sequence"
        return self._rows(statement, which.given)

    def _readings(self, found: Sequence[Any], values: Mapping[str, tuple[Value, ...]]) -> list[Reading]:
        return self._sound(Reading, found, [values.get(row[0], ()) for row in found])

    def _values(self, which: Where) -> dict[str, tuple[Value, ...]]:
        shape = rows.shape_of(Value)
        by_reading: dict[str, list[Value]] = {}
        found = self._rows(f"SELECT {shape.selected}, reading_id FROM value WHERE {which.condition}", which.given)
        while True:
            try:
                made = shape.made(found)
                break
            except rows.RowError as error:
                bad = found[error.number][-1]
                self._set_apart_of(bad, error)
                found = [row for row in found if row[-1] != bad]
        for row, value in zip(found, made, strict=True):
            by_reading.setdefault(row[-1], []).append(without_impossible(value))
        return {reading_id: tuple(values) for reading_id, values in by_reading.items()}

    def computed(self, session_id: str) -> dict[str, Computed]:
        """The computed figures of a session by reading."""
        return self._computed(of_readings(Where("session_id = ?", (session_id,))))

    def _computed(self, which: Where) -> dict[str, Computed]:
        columns = ", ".join(rows.COMPUTED_COLUMNS)
        found = self._rows(f"SELECT {columns} FROM computed WHERE {which.condition}", which.given)
        return {one.reading_id: one for one in self._of_readings(found, rows.computed_from_row)}

    # --- one source over all sessions

    def reading_counts(self, by: Split) -> dict[tuple[str, str], int]:
        """How many readings each source has that was read alone, part by part of them.

        Counted from what was noted at the reading: corrections and what was taken back are not regarded.
        """
        part_of = {Split.CONFIGURATIONS: ", configuration", Split.SESSIONS: ", session_id"}.get(by, "")
        counts: dict[tuple[str, str], int] = {}
        found = self._rows(f"SELECT source_ids{part_of}, count(*) FROM reading GROUP BY source_ids{part_of}")
        named = self._rows(f"SELECT new FROM event WHERE {_NAMES_SOURCES}") if by is Split.LAMPS else ()
        with self._understood():
            for kept, *part, count in found:
                ids = cells.structure(kept)
                if len(ids) == 1:
                    counts[ids[0], _name_of_part(by, *part)] = int(count)
            for row in named:
                for source_id in row[0].split():
                    counts.setdefault((source_id, ""), 0)
        return counts

    def sources_read_in(self, session_ids: Collection[str]) -> set[str]:
        """The sources that were read in some sessions, alone or with others, or named there afterwards."""
        here = among("session_id", session_ids)
        found: set[str] = set()
        read = self._rows(f"SELECT DISTINCT source_ids FROM reading WHERE {here.condition}", here.given)
        named = self._rows(f"SELECT new FROM event WHERE {_NAMES_SOURCES} AND {here.condition}", here.given)
        with self._understood():
            for row in read:
                found.update(cells.structure(row[0]))
            for row in named:
                found.update(row[0].split())
        return found

    def thumbnail_of(self, source_id: str, subject: str) -> bytes | None:
        """The newest picture kept with an observation of a subject of one source alone, small and encoded; None without
        one."""
        of_it = alone(source_id) & Where("subject = ?", (subject,))
        seen = f"SELECT id FROM observation WHERE {of_it.condition}"
        newest = f"SELECT thumbnail FROM photo WHERE observation_id IN ({seen}) ORDER BY at DESC LIMIT 1"
        found = self._rows(newest, of_it.given)
        return bytes(found[0][0]) if found else None

    def uses_of_meter(self, meter_id: str) -> int:
        """How many readings, steps and calibrations name a meter, and events that do."""
        counts = [f"(SELECT count(*) FROM {table} WHERE meter_id = ?1)" for table in ("reading", "step", "calibration")]
        counts.append("(SELECT count(*) FROM event WHERE new = ?1)")
        return int(self._rows(f"SELECT {' + '.join(counts)}", (meter_id,))[0][0])

    def sessions_reading(self) -> dict[str, dict[str, int]]:
        """Of each source in which sessions it was read, alone or with others, and how often."""
        found: dict[str, dict[str, int]] = {}
        read = self._rows("SELECT source_ids, session_id, count(*) FROM reading GROUP BY source_ids, session_id")
        with self._understood():
            for ids, session_id, count in read:
                for source_id in cells.structure(ids):
                    own = found.setdefault(source_id, {})
                    own[session_id] = own.get(session_id, 0) + int(count)
        return found

    def history_of(self, source_id: str, within: Collection[str] | None = None, *, figures: bool = False) -> History:
        """A source's readings of all sessions, or of those in `within`, with all else that says how these stand and
        what light was the room's."""
        own = alone(source_id)
        found = self._rows(
            f"SELECT session_id FROM reading WHERE {own.condition} UNION"
            f" SELECT session_id FROM event WHERE {_NAMES_SOURCES} AND instr(new, ?)",
            (*own.given, source_id),
        )
        sessions = [row[0] for row in found if within is None or row[0] in within]
        return self._history(sessions, own if within is None else own & among("session_id", sessions), figures=figures)

    def history_of_sessions(self, session_ids: Sequence[str]) -> History:
        """All readings of some sessions."""
        return self._history(session_ids, among("session_id", session_ids))

    def history_of_readings(self, reading_ids: Collection[str]) -> History:
        """Some readings, with all else that says how these stand and what light was the room's."""
        return self._history(self.sessions_of(reading_ids), among("id", reading_ids))

    def _history(self, sessions: Sequence[str], own: Where, *, figures: bool = False) -> History:
        here = among("session_id", sessions)
        speaking = ", ".join(f"'{kind.value}'" for kind in _SPEAK_OF_OTHERS)
        told = f"SELECT reading_id FROM event WHERE {here.condition} AND kind IN ({speaking})"
        of_the_room = f"source_ids = '[]' OR mode = '{OFF}'"
        beside = here & Where(f"{of_the_room} OR id IN ({told})", here.given)
        kept = [*self._reading_rows(own), *self._reading_rows(beside.but(own))]
        values = self._values(of_readings(own, beside)) if figures else {}
        computed = self._computed(of_readings(own, beside)) if figures else {}
        undone = f"SELECT undoes FROM event WHERE {here.condition} AND undoes IS NOT NULL"
        changing = here & Where(f"kind != '{EventKind.TAKEN.value}' OR id IN ({undone})", here.given)
        events = self._records(Event, changing, "session_id, sequence")
        found = [one for one in self._readings(kept, values) if one.session_id not in self._set_apart]
        found.sort(key=lambda one: (one.session_id, one.sequence))
        return History(found, [one for one in events if one.session_id not in self._set_apart], computed)

    def figures(self, reading_ids: Iterable[str]) -> dict[str, KeptFigures]:
        """The figures of readings, typed, the device's and computed."""
        asked = list(reading_ids)
        which = among("reading_id", asked)
        values, computed = self._values(which), self._computed(which)
        return {i: KeptFigures(values.get(i, ()), computed.get(i)) for i in asked}

    def spectra(self, reading_ids: Iterable[str]) -> dict[str, Spectrum]:
        """The spectra of readings, for those that have one."""
        which = among("reading_id", reading_ids)
        columns = ", ".join(rows.SPECTRUM_COLUMNS)
        found = self._rows(f"SELECT {columns} FROM spectrum WHERE {which.condition}", which.given)
        read = self._of_readings(found, lambda row: (row[0], rows.spectrum_from_row(row)))
        return dict(read)

    def traces(self, reading_id: str) -> tuple[Trace, ...]:
        """The traces of a reading."""
        columns = ", ".join(rows.TRACE_COLUMNS)
        found = self._rows(f"SELECT {columns} FROM trace WHERE reading_id = ?", (reading_id,))
        return tuple(self._of_readings(found, rows.trace_from_row))

    def sessions_of(self, reading_ids: Iterable[str]) -> list[str]:
        """The sessions that some readings were taken in."""
        which = among("id", reading_ids)
        found = self._rows(f"SELECT DISTINCT session_id FROM reading WHERE {which.condition}", which.given)
        return [row[0] for row in found]

    def out_of_date(self, method_version: int, most: int | None = None) -> list[str]:
        """Readings with a spectrum whose figures are missing or of another method version, at most so many."""
        # two ranges and a walk along two indices: the rows themselves hold a gigabyte in a large logbook
        found = self._rows(
            "SELECT reading_id FROM computed WHERE method_version < ?1 OR method_version > ?1 UNION ALL"
            " SELECT reading_id FROM spectrum s WHERE NOT EXISTS (SELECT 1 FROM computed c WHERE c.reading_id ="
            " s.reading_id) LIMIT ?2",
            (method_version, -1 if most is None else most),
        )
        return [row[0] for row in found]

    def next_sequence(self, session_id: str) -> int:
        """The number of the next event of a session; readings share it with the event that took them."""
        found = self._rows("SELECT max(sequence) FROM event WHERE session_id = ?", (session_id,))
        return int(found[0][0] or 0) + 1


def _first_column(kind: type, *names: str) -> str:
    """The first of some columns that a kind of record has."""
    columns = rows.shape_of(kind).columns
    return next(name for name in names if name in columns)


def _name_of_part(by: Split, kept: str = "") -> str:
    """What a part of a lamp's readings is called."""
    return " + ".join(cells.structure(kept)) or "bare" if by is Split.CONFIGURATIONS else kept


_LONGEST_LOOK_S = 10.0
"""A first look at a file that takes longer than this is no look at a logbook."""

_PASSED_OVER = (
    "Beside {} lies the log of another file of that name. It was not read; open the logbook in the window or enter"
    " something, and it is put aside under a name of its own."
)


@contextmanager
def _within(connection: sqlite3.Connection, seconds: float) -> Iterator[None]:
    """Statements inside that together take longer are broken off with `sqlite3.Error`."""
    end = time.monotonic() + seconds
    connection.set_progress_handler(lambda: time.monotonic() > end, 10_000)
    try:
        yield
    finally:
        connection.set_progress_handler(None, 0)


def _refuse_flaws(records: Iterable[object]) -> None:
    """Raise `LogbookError` for a record that could not be read again."""
    for record in records:
        if isinstance(record, rows.LOOKED_AT) and (flaw := flaw_in(record)) is not None:
            raise LogbookError(f"This cannot be kept: {flaw}.", "Nothing of it was kept.", "Shorten or correct it.")


def _damaged(path: Path, cause: Exception) -> LogbookError:
    return LogbookError(
        f"{path.name} is damaged or not a logbook: {cause}.",
        "The file was left as it is.",
        "Make a copy of it before anything else, and open your last copy meanwhile.",
    )


def _not_understood(path: Path, error: Exception) -> LogbookError:
    cause = str(error) if isinstance(error, rows.RowError) else repr(error)
    return LogbookError(
        f"{path.name} holds what cannot be understood: {cause}.",
        "The file was left as it is.",
        "“even-beam check” says all of it; work with your last copy of it.",
    )


def _is_damage(error: Exception) -> bool:
    """Whether the file itself is at fault, not the disk or the moment."""
    code = getattr(error, "sqlite_errorcode", 0) & 0xFF
    return code in {sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB} or "decode" in str(error) or "no such" in str(error)


_MOMENTS = {
    sqlite3.SQLITE_FULL: ("The disk is full.", "Free some space and try again."),
    sqlite3.SQLITE_CANTOPEN: (
        "A file that belongs beside it cannot be made or opened.",
        "Is its folder full, or read only? Copy the logbook, with what lies beside it, to a folder of your own.",
    ),
    sqlite3.SQLITE_IOERR: ("Its disk does not answer.", "Is it connected, and is there room on it? Try again."),
    sqlite3.SQLITE_BUSY: ("Another program has it in use.", "Close it there and try again."),
    sqlite3.SQLITE_READONLY: (
        "Another program left a change of it unfinished, or it cannot be written.",
        "Open it once from a folder that can be written.",
    ),
    sqlite3.SQLITE_INTERRUPT: ("It takes too long to be looked through.", "Is it a logbook? Check its name."),
}
"""What is no fault of the file, and what to do about it."""


def _not_opened(path: Path, error: Exception) -> LogbookError:
    """A file that could not be opened: damaged, or not to be had just now."""
    if isinstance(error, sqlite3.Error):
        found = _MOMENTS.get(getattr(error, "sqlite_errorcode", 0) & 0xFF)
        if found is not None:
            return LogbookError(f"{path.name} cannot be opened just now. {found[0]}", "It was left as it is.", found[1])
    if isinstance(error, OSError):
        return LogbookError(
            f"{path.name} cannot be opened: {error.strerror}.",
            "It was left as it is.",
            "Check its disk and its rights.",
        )
    return _damaged(path, error)


def _not_read(path: Path, error: sqlite3.Error) -> LogbookError:
    if _is_damage(error):
        return _damaged(path, error)
    what, do = _MOMENTS.get(getattr(error, "sqlite_errorcode", 0) & 0xFF, (f"{error}.", "Is its disk still connected?"))
    return LogbookError(f"{path.name} cannot be read just now. {what}", "Nothing was changed.", do)


def _not_kept(path: Path, error: sqlite3.Error) -> LogbookError:
    if _is_damage(error):
        return _damaged(path, error)
    cause = str(error)
    if getattr(error, "sqlite_errorcode", 0) & 0xFF in {sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN}:
        return LogbookError(
            f"This could not be kept: the disk of {path.name} does not answer.",
            "What was confirmed before is on that disk.",
            "Is it connected, and is there room on it? Do it again, or save a copy elsewhere.",
        )
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
    if "FOREIGN KEY" in cause or "UNIQUE" in cause:
        wrong = "something that it belongs to is not there" if "FOREIGN" in cause else "something in it is there twice"
        return LogbookError(f"This could not be kept: {wrong}.", "Nothing of it was kept.", "Ask for it anew.")
    return LogbookError(
        f"This could not be kept: {cause}.", f"Everything confirmed before is safe in {path.name}.", "Try again."
    )


class TakenError(LogbookError):
    """A logbook was to be begun where something stands already."""

    def __init__(self, path: Path) -> None:
        super().__init__(f"{path.name} exists already.", "It was left as it was.", "Choose another name.")
