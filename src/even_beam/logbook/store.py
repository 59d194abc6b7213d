"""An open logbook: records in and out, every reading committed before anyone is told so."""

import sqlite3
import threading
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from types import MappingProxyType
from typing import Any, NamedTuple, TypeVar

from even_beam.bench import notation
from even_beam.bench.limits import impossible_in, without_impossible
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import OFF, Computed, Event, EventKind, Reading, Session, Spectrum, Step, Value
from even_beam.bench.split import Split
from even_beam.bench.traces import Trace
from even_beam.logbook import cells, creation, rows
from even_beam.logbook.connection import connect_beside, connect_to_write
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.lock import Lock
from even_beam.logbook.statements import Where, alone, among, inserting, of_readings, replacing

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


class KeptFigures(NamedTuple):
    """The figures kept with a reading: those given, and those computed from its spectrum if it has one."""

    values: tuple[Value, ...]
    computed: Computed | None


class Logbook:
    """One logbook file. Use `create`, `open` or `open_to_read`, and `close` when done.

    All methods raise `LogbookError` when the file can no longer be written or read; what had been committed stays.
    """

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: Lock | None) -> None:
        self.path = path
        self._connection = connection
        self._turn = threading.RLock()  # a job may read meanwhile, and half of what is being kept is not to be seen
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
            return cls._probed(path, connect_to_write(path), lock)
        except BaseException as error:
            lock.release()
            if isinstance(error, sqlite3.Error | UnicodeDecodeError):
                raise _damaged(path, error) from error
            raise

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
            return cls._probed(path, connect_beside(path), None)
        except (sqlite3.Error, UnicodeDecodeError) as error:  # its very table of contents may be no text
            raise _damaged(path, error) from error

    @classmethod
    def _probed(cls, path: Path, connection: sqlite3.Connection, lock: Lock | None) -> "Logbook":
        """A logbook whose file has answered."""
        logbook = cls(path, connection, lock)
        try:
            logbook._rows("SELECT count(*) FROM session")
        except BaseException:
            connection.close()
            raise
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

    def close(self) -> None:
        """Fold the log into the file, so that a copy of the file alone is whole, and release the lock."""
        try:
            if self.writable:
                self._connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        except sqlite3.Error:
            pass  # a full disk: the log stays beside the file and is read at the next opening
        finally:
            self._connection.close()
            if self._lock is not None:
                self._lock.release()

    def save_copy(self, target: Path) -> None:
        """A whole copy at `target`, while this logbook stays open."""
        partial = target.with_name(target.name + ".part")
        try:
            if self.is_in_place:
                creation.copy(self.path, partial)
            else:
                creation.copy_held(self._connection, partial)
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
        except sqlite3.Error as error:
            raise _not_kept(self.path, error) from error

    @contextmanager
    def _understood(self) -> Iterator[None]:
        """Cells that no program of ours wrote are said, and nothing is guessed of them."""
        try:
            yield
        except (KeyError, ValueError, TypeError, AttributeError, RecursionError) as error:
            raise LogbookError(
                f"{self.path.name} holds a cell that cannot be understood: {error!r}.",
                "The file was left as it is.",
                "“even-beam check” says where; work with your last copy of it.",
            ) from error

    @contextmanager
    def _transaction(self) -> Iterator[None]:
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
        with self._turn, self._guarded():
            self._connection.execute("BEGIN IMMEDIATE")
            try:
                yield
                self._connection.execute("COMMIT")
            except BaseException:
                self._connection.rollback()
                raise
        with suppress(sqlite3.Error):  # it is kept, in the log beside the file: else it would be entered twice
            self._connection.execute("PRAGMA wal_checkpoint(PASSIVE)")

    def save(self, *records: object) -> None:
        """Keep kit and session records, replacing those of the same id."""
        by_kind: dict[type, list[dict[str, Any]]] = {}
        for record in records:
            by_kind.setdefault(type(record), []).append(rows.to_row(record))
        with self._transaction():
            for kind, kept in by_kind.items():
                self._connection.executemany(replacing(rows.TABLES[kind], kept[0], "id"), kept)

    def remove(self, *records: object) -> None:
        """Remove kit records that nothing refers to; only ever used to undo their adding."""
        with self._transaction():
            for record in records:
                table = rows.TABLES[type(record)]
                self._connection.execute(f"DELETE FROM {table} WHERE id = ?", (record.id,))  # type: ignore[attr-defined]

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
        with self._transaction():
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
    ) -> None:
        """Keep whole sessions of another logbook, all or nothing: `records` before their readings, `beside` after.

        Raises `LogbookError` for a reading that cannot be, and for what does not belong together.
        """
        if (problem := impossible_in(reading for reading, _ in taken)) is not None:
            raise LogbookError(f"{notation.sentence(problem)}.", "Nothing of it was kept.", "Ask for it anew.")
        with self._transaction():
            self._insert(*records)
            self._insert_readings(taken, traces, computed)
            self._insert(*events, *beside)

    def _insert(self, *records: object) -> None:
        for record in records:
            self._insert_rows(rows.TABLES[type(record)], [rows.to_row(record)])

    def _insert_rows(self, table: str, kept: Sequence[Mapping[str, Any]]) -> None:
        """Rows of one table, all of the same columns."""
        if kept:
            self._connection.executemany(inserting(table, kept[0]), kept)

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
            self._connection.executemany(replacing("computed", kept[0], "reading_id"), kept)

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
        found = self._rows(
            f"SELECT {shape.selected} FROM {table} WHERE {which.condition} ORDER BY {order}", which.given
        )
        with self._understood():
            return shape.made(found)

    def all(self, kind: type[Record]) -> list[Record]:
        """Every record of a kit kind, in the order of their names."""
        return self._records(kind, Where("true"), _first_column(kind, "nickname", "name", "at", "what", "id"))

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
        if not last or not sessions or cells.utc_text(sessions[-1].created_at) > last[0][1]:
            return sessions[-1] if sessions else None
        return next((session for session in sessions if session.id == last[0][0]), sessions[-1])

    def of_session(self, kind: type[Record], session_id: str) -> list[Record]:
        """The steps, events or conditions of a session, in order."""
        order = _first_column(kind, "position", "sequence", "at", "id")
        return self._records(kind, Where("session_id = ?", (session_id,)), order)

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
        with self._understood():
            return rows.shape_of(Reading).made(found, values=[values.get(row[0], ()) for row in found])

    def _values(self, which: Where) -> dict[str, tuple[Value, ...]]:
        shape = rows.shape_of(Value)
        by_reading: dict[str, list[Value]] = {}
        found = self._rows(f"SELECT {shape.selected}, reading_id FROM value WHERE {which.condition}", which.given)
        with self._understood():
            for row, value in zip(found, shape.made(found), strict=True):
                by_reading.setdefault(row[-1], []).append(without_impossible(value))
        return {reading_id: tuple(values) for reading_id, values in by_reading.items()}

    def computed(self, session_id: str) -> dict[str, Computed]:
        """The computed figures of a session by reading."""
        return self._computed(of_readings(Where("session_id = ?", (session_id,))))

    def _computed(self, which: Where) -> dict[str, Computed]:
        columns = ", ".join(rows.COMPUTED_COLUMNS)
        found = self._rows(f"SELECT {columns} FROM computed WHERE {which.condition}", which.given)
        with self._understood():
            return {row[0]: rows.computed_from_row(row) for row in found}

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
        found = self._readings(kept, values)
        found.sort(key=lambda one: (one.session_id, one.sequence))
        undone = f"SELECT undoes FROM event WHERE {here.condition} AND undoes IS NOT NULL"
        changing = here & Where(f"kind != '{EventKind.TAKEN.value}' OR id IN ({undone})", here.given)
        return History(found, self._records(Event, changing, "session_id, sequence"), computed)

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
        return {row[0]: rows.spectrum_from_row(row) for row in found}

    def traces(self, reading_id: str) -> tuple[Trace, ...]:
        """The traces of a reading."""
        columns = ", ".join(rows.TRACE_COLUMNS)
        found = self._rows(f"SELECT {columns} FROM trace WHERE reading_id = ?", (reading_id,))
        return tuple(rows.trace_from_row(row) for row in found)

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


def _identity(path: Path) -> tuple[int, int] | None:
    """Which file stands under a name; None where there is none."""
    try:
        status = path.stat()
    except OSError:
        return None
    return status.st_dev, status.st_ino


def _damaged(path: Path, cause: sqlite3.Error | UnicodeDecodeError) -> LogbookError:
    return LogbookError(
        f"{path.name} is damaged or not a logbook: {cause}.",
        "The file was left as it is.",
        "Make a copy of it before anything else, and open your last copy meanwhile.",
    )


def _is_damage(error: sqlite3.Error) -> bool:
    """Whether the file itself is at fault, not the disk or the moment."""
    code = getattr(error, "sqlite_errorcode", 0) & 0xFF
    return code in {sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB} or "decode" in str(error)


def _not_read(path: Path, error: sqlite3.Error) -> LogbookError:
    if _is_damage(error):
        return _damaged(path, error)
    return LogbookError(
        f"{path.name} cannot be read just now: {error}.",
        "Nothing was changed, and everything confirmed before is kept.",
        "Is its disk still connected? Try again.",
    )


def _not_kept(path: Path, error: sqlite3.Error) -> LogbookError:
    if _is_damage(error):
        return _damaged(path, error)
    cause = str(error)
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
