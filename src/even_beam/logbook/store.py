"""An open logbook: records in and out, every reading committed before anyone is told so."""

import sqlite3
import time
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from datetime import datetime
from itertools import groupby
from pathlib import Path
from types import MappingProxyType
from typing import Any

from even_beam.bench.limits import impossible_in
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import Computed, Event, Reading, Spectrum, Step, new_id
from even_beam.bench.sameness import Same
from even_beam.bench.soundness import flaw_in
from even_beam.bench.traces import Trace
from even_beam.files.writing import temporary_beside, with_suffix
from even_beam.logbook import cells, chain, changes, creation, own_schema, parts, rows
from even_beam.logbook.beside import clear_away, connect_beside, is_passed_over, settle
from even_beam.logbook.connection import connect_to_write, sqlite_uri
from even_beam.logbook.errors import DestroyedError, LogbookError
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.lock import Lock
from even_beam.logbook.read_ahead import read_ahead
from even_beam.logbook.reader import HubState, Reader
from even_beam.logbook.refusals import not_kept, not_opened, not_read
from even_beam.logbook.rescue import AT_ONCE_BYTES, MOST_AT_HAND_BYTES, Held, have_at_hand, rescue
from even_beam.logbook.statements import inserting, replacing
from even_beam.logbook.taking_in import Decided, TakenIn, take_in
from even_beam.logbook.watch import Watch
from even_beam.words import notation


class Logbook(Reader):
    """One logbook file. Use `create`, `open` or `open_to_read`, and `close` when done.

    All methods raise `LogbookError` when the file can no longer be written or read; what had been committed stays.
    """

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: Lock | None, told: str) -> None:
        super().__init__(path, connection)
        self.is_new = False  # begun just now
        self._destroyed: DestroyedError | None = None
        self._lock = lock
        self._held, self._to_hold = Held(), list[tuple[str, Sequence[Mapping[str, Any]]]]()
        file = lock.file if lock is not None else None
        self._watch = Watch(path, file, connection) if file is not None else None
        if told:
            self._tell(told)

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
                raise not_opened(path, error) from error
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
            raise not_opened(path, error) from error

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
                    have_at_hand(connection, whole=path.stat().st_size <= AT_ONCE_BYTES)
            return cls(path, connection, lock, told)
        except BaseException:
            connection.close()
            raise

    def read_ahead(self, pause: Callable[[], None]) -> None:
        """Have all of the file at hand for what is asked later. For a worker; `pause` may raise to leave it."""
        if self._lock is not None and self._lock.file is not None:
            read_ahead(self._lock.file, pause)
            if self.path.stat().st_size <= MOST_AT_HAND_BYTES:
                with self._turn:
                    have_at_hand(self._connection, whole=True)

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
            raise not_kept(self.path, error) from error

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
        self._forget_sameness()
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

    def merge(
        self,
        other: Path,
        origin: str,
        decided: Decided,
        same: Sequence[Same] = (),
        *,
        hub_id: str = "",
        heard: Sequence[str] = (),
        progress: Callable[[str], None] = lambda table: None,
    ) -> TakenIn:
        """Take in another logbook of the present format that nobody has open, which comes from `origin`; `same` are
        things there that are things here. All of it or nothing. `progress` is called for each table, and may raise.

        Where it comes from a hub, `heard` are the names of it that need not be fetched again.
        """
        with self._turn:
            self._execute("ATTACH ? AS there", sqlite_uri(other, "ro", immutable=True))
            try:
                with self._transaction():
                    self._connection.execute("PRAGMA defer_foreign_keys=ON")  # in whatever order records stand there
                    taken = take_in(self._connection, decided, origin, hub_id=hub_id, progress=progress)
                    self._insert(*same)
                    self._know(hub_id, heard)
            finally:
                self._execute("DETACH there")
        return taken

    # --- sharing

    def hub(self, address: str) -> HubState:
        """How far this logbook is shared with the hub of an address, which is noted where it is new."""
        found = self._hub_state(address)
        if found is None:
            with self._transaction():
                self._connection.execute("INSERT INTO hub (id, address) VALUES (?, ?)", (new_id(), address))
            found = self._hub_state(address)
        assert found is not None
        return found

    def write_part(self, hub: HubState, target: Path) -> int:
        """Write what a hub has not yet as a part, none where there is nothing; up to where it is told then."""
        try:
            return parts.write(self.path, hub.id, hub.sent, self.path.stem, target)
        except sqlite3.Error as error:
            raise not_read(self.path, error) from error

    def note_shared(self, hub: HubState, sent: int, taken: str, names: Sequence[str], at: datetime) -> None:
        """Note what a hub has been told and what was read of it."""
        with self._transaction():
            self._know(hub.id, names)
            self._connection.execute(
                "UPDATE hub SET sent = ?, taken = ?, shared_at = ? WHERE id = ?",
                (sent, taken, cells.utc_text(at), hub.id),
            )

    def forget_shared(self, hub: HubState) -> HubState:
        """Note that a hub has no longer what it had: all goes there again, whoever it came from."""
        with self._transaction():
            self._connection.execute("DELETE FROM hub_part WHERE hub_id = ?", (hub.id,))
            self._connection.execute("UPDATE arrival SET hub_id = '' WHERE hub_id = ?", (hub.id,))
            self._connection.execute("UPDATE hub SET sent = 0, taken = '' WHERE id = ?", (hub.id,))
        return hub._replace(sent=0, taken="")

    def _know(self, hub_id: str, names: Sequence[str]) -> None:
        self._connection.executemany(
            "INSERT OR IGNORE INTO hub_part (hub_id, name) VALUES (?, ?)", [(hub_id, name) for name in names]
        )

    def keep_back(self, what: str, record_id: str) -> None:
        """Share a session, a source or all costs no more."""
        with self._transaction():
            parts.keep_back(self._connection, what, record_id)

    def give(self, what: str, record_id: str) -> None:
        """Share it again."""
        with self._transaction():
            parts.give(self._connection, what, record_id)

    def _execute(self, statement: str, *given: str) -> None:
        with self._guarded():
            self._connection.execute(statement, given)

    def _take_out(self, records: Sequence[object]) -> None:
        for record in records:
            table, record_id = rows.TABLES[type(record)], record.id  # type: ignore[attr-defined]
            gone = changes.of_taking_out(self._connection, table, record_id)
            self._connection.execute(f"DELETE FROM {table} WHERE id = ?", (record_id,))
            self._insert_rows("change", gone)

    def _insert(self, *records: object) -> None:
        for kind, alike in groupby(records, type):
            self._insert_rows(rows.TABLES[kind], [rows.to_row(record) for record in alike])

    def _insert_rows(self, table: str, kept: Sequence[Mapping[str, Any]]) -> None:
        """Rows of one table, all of the same columns."""
        if kept:
            self._connection.executemany(inserting(table, kept[0]), kept)
            self._to_hold.append((table, kept))
            if "id" in kept[0]:
                self._arrived(table, [row["id"] for row in kept])
            if table in changes.CAN_CHANGE:
                back = changes.of_inserting(self._connection, table, [row["id"] for row in kept])
                self._insert_rows("change", back)

    def _replace_rows(self, table: str, kept: Sequence[Mapping[str, Any]], key: str = "id") -> None:
        """The same, in place of those of the same key; what that changes is kept."""
        if kept:
            if key == "id":
                made, fresh = changes.of_replacing(self._connection, table, kept)
                self._arrived(table, fresh)
                self._insert_rows("change", made)
            self._connection.executemany(replacing(table, kept[0], key), kept)
            self._to_hold.append((table, kept))

    def _arrived(self, table: str, ids: Sequence[str]) -> None:
        statement = "INSERT INTO arrival (what, record_id) VALUES (?, ?)"
        self._connection.executemany(statement, [(table, record_id) for record_id in ids])

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


class TakenError(LogbookError):
    """A logbook was to be begun where something stands already."""

    def __init__(self, path: Path) -> None:
        super().__init__(f"{path.name} exists already.", "It was left as it was.", "Choose another name.")
