"""What an open logbook is asked: its records, of a session, of a lamp over all sessions, of readings."""

import json
import sqlite3
import threading
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path
from types import MappingProxyType
from typing import Any, NamedTuple, TypeVar

from even_beam.bench.limits import without_impossible
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
    Value,
)
from even_beam.bench.run import live_events
from even_beam.bench.sameness import Same, goes_on_as
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.known.split import Split
from even_beam.logbook import cells, rows
from even_beam.logbook.notices import LISTENERS
from even_beam.logbook.one_with import NOTHING_JOINED, OneWith
from even_beam.logbook.refusals import not_read, not_understood
from even_beam.logbook.statements import Where, alone, among, of_readings

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


class HubState(NamedTuple):
    """How far a logbook is shared with a hub: told up to the arrival `sent`, read up to `taken`, at last when."""

    id: str
    address: str
    sent: int
    taken: str
    shared_at: str


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


class Reader:
    """The records of one connection to a logbook.

    All methods raise `LogbookError` for what cannot be read; a session of which one row cannot be is set apart whole.
    """

    def __init__(self, path: Path, connection: sqlite3.Connection) -> None:
        self.path = path
        self._connection = connection
        self._turn = threading.RLock()  # a job may read meanwhile, and half of what is being kept is not to be seen
        self._notices: list[str] = []
        self._set_apart: set[str] = set()
        self._one_with: OneWith | None = None

    def close(self) -> None:
        """Let go of the file."""
        self._connection.close()

    @property
    def notices(self) -> tuple[str, ...]:
        """What was found of the file that a person must know: logs put aside, sessions set apart."""
        return tuple(self._notices)

    def _tell(self, words: str, rescued: Path | None = None) -> None:
        self._notices.append(words)
        for listener in list(LISTENERS):
            listener(self.path, words, rescued)

    @contextmanager
    def _understood(self) -> Iterator[None]:
        """Cells that no program of ours wrote are said, and nothing is guessed of them."""
        try:
            yield
        except (KeyError, ValueError, TypeError, AttributeError, RecursionError) as error:
            raise not_understood(self.path, error) from error

    # --- things that are one with others

    @property
    def _joined(self) -> OneWith:
        if self._one_with is None:
            self._one_with = NOTHING_JOINED  # while what was said of them is read
            self._one_with = OneWith(goes_on_as(self._records(Same, Where("true"), "at, id")))
        return self._one_with

    def _forget_sameness(self) -> None:
        self._one_with = None

    def identities(self, kind: type[Record]) -> list[Record]:
        """Every record of a kind of the Kit as it is kept, those too that go on as others."""
        table = rows.TABLES[kind]
        shape = rows.shape_of(kind)  # type: ignore[arg-type]
        return shape.made(self._rows(f"SELECT {shape.selected} FROM {table} ORDER BY rowid"))

    def identities_of(self, record_id: str) -> list[str]:
        """All identities of a thing that others are one with, the one under which it goes on first."""
        return self._joined.all_of(record_id)

    # --- records

    def _rows(self, statement: str, given: Sequence[Any] = ()) -> list[Any]:
        try:
            with self._turn, self._understood():
                return self._connection.execute(statement, given).fetchall()
        except sqlite3.Error as error:
            raise not_read(self.path, error) from error

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
                return self._joined.in_records(shape.made(found, **({"values": values} if values is not None else {})))
            except rows.RowError as error:
                owner = found[error.number][place] if place is not None else None
                if not isinstance(owner, str):
                    raise not_understood(self.path, error) from error
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
            raise not_understood(self.path, error) from error
        if of_it[0][0] not in self._set_apart:
            self._set_apart_for(of_it[0][0], error)

    def is_set_apart(self, session_id: str) -> bool:
        """Whether a session was found to have a row that cannot be read: what was read of it is not to be used."""
        return session_id in self._set_apart

    def all(self, kind: type[Record]) -> list[Record]:
        """Every record of a kit kind, in the order of their names."""
        found = self._records(kind, Where("true"), _first_column(kind, "nickname", "name", "at", "what", "id"))
        return self._not_undone(kind, self._joined.without_others(found))

    def arrival_of_sources(self) -> list[str]:
        """The ids of all lamps in the order in which they were first kept; editing one does not move it."""
        return self._joined.named([row[0] for row in self._rows("SELECT id FROM source ORDER BY rowid")])

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
        order = f"{_first_column(kind, 'position', 'sequence', 'at', 'id')}, id"
        return self._not_undone(kind, self._records(kind, Where("session_id = ?", (session_id,)), order))

    def _not_undone(self, kind: type[Record], found: list[Record]) -> list[Record]:
        """Without those whose keeping was undone: what is done at the bench is never taken out, its event is undone."""
        kinds = _TOLD_BY.get(kind)
        if kinds is None or not found:
            return found
        words = ", ".join(f"'{one.value}'" for one in (*kinds, EventKind.UNDONE))
        events = self._records(Event, Where(f"kind IN ({words})"), "session_id, sequence, at, id")
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
        statement = f"SELECT {columns} FROM reading WHERE {which.condition} ORDER BY session_id, sequence, at, id"
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
                ids = self._joined.named(cells.structure(kept))
                if len(ids) == 1:
                    key = ids[0], _name_of_part(by, *part)
                    counts[key] = counts.get(key, 0) + int(count)
            for row in named:
                for source_id in self._joined.named(row[0].split()):
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
                found.update(self._joined.named(cells.structure(row[0])))
            for row in named:
                found.update(self._joined.named(row[0].split()))
        return found

    def thumbnail_of(self, source_id: str, subject: str) -> bytes | None:
        """The newest picture kept with an observation of a subject of one source alone, small and encoded; None without
        one."""
        of_it = alone(*self._joined.all_of(source_id)) & Where("subject = ?", (subject,))
        seen = f"SELECT id FROM observation WHERE {of_it.condition}"
        newest = f"SELECT thumbnail FROM photo WHERE observation_id IN ({seen}) ORDER BY at DESC LIMIT 1"
        found = self._rows(newest, of_it.given)
        return bytes(found[0][0]) if found else None

    def uses_of_meter(self, meter_id: str) -> int:
        """How many readings, steps and calibrations name a meter, and events that do."""
        counts = [f"(SELECT count(*) FROM {table} WHERE meter_id = ?1)" for table in ("reading", "step", "calibration")]
        counts.append("(SELECT count(*) FROM event WHERE new = ?1)")
        statement = f"SELECT {' + '.join(counts)}"
        return sum(int(self._rows(statement, (one,))[0][0]) for one in self._joined.all_of(meter_id))

    def sessions_reading(self) -> dict[str, dict[str, int]]:
        """Of each source in which sessions it was read, alone or with others, and how often."""
        found: dict[str, dict[str, int]] = {}
        read = self._rows("SELECT source_ids, session_id, count(*) FROM reading GROUP BY source_ids, session_id")
        with self._understood():
            for ids, session_id, count in read:
                for source_id in self._joined.named(cells.structure(ids)):
                    own = found.setdefault(source_id, {})
                    own[session_id] = own.get(session_id, 0) + int(count)
        return found

    def history_of(self, source_id: str, within: Collection[str] | None = None, *, figures: bool = False) -> History:
        """A source's readings of all sessions, or of those in `within`, with all else that says how these stand and
        what light was the room's."""
        ids = self._joined.all_of(source_id)
        own = alone(*ids)
        found = self._rows(
            f"SELECT session_id FROM reading WHERE {own.condition} UNION"
            f" SELECT session_id FROM event, json_each(?) one WHERE {_NAMES_SOURCES} AND instr(new, one.value)",
            (*own.given, json.dumps(ids)),
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
        events = self._records(Event, changing, "session_id, sequence, at, id")
        found = [one for one in self._readings(kept, values) if one.session_id not in self._set_apart]
        found.sort(key=lambda one: (one.session_id, one.sequence, one.at, one.id))
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

    def hubs(self) -> list[HubState]:
        """The hubs that this logbook is shared with, the latest first."""
        found = self._rows("SELECT id, address, sent, taken, shared_at FROM hub ORDER BY shared_at DESC")
        return [HubState(*row) for row in found]

    def _hub_state(self, address: str) -> HubState | None:
        return next((one for one in self.hubs() if one.address == address), None)

    def known_parts(self, hub: HubState) -> set[str]:
        """The names of what was taken in from a hub, or sent to it."""
        return {row[0] for row in self._rows("SELECT name FROM hub_part WHERE hub_id = ?", (hub.id,))}

    def unsent(self, hub: HubState) -> int:
        """How many records a hub has not been told of."""
        statement = "SELECT count(*) FROM arrival WHERE number > ? AND hub_id != ?"
        return int(self._rows(statement, (hub.sent, hub.id))[0][0])

    def kept_back(self) -> set[tuple[str, str]]:
        """What is not shared: sessions and sources by table and identity, and all costs as cost without one."""
        return {(row[0], row[1]) for row in self._rows("SELECT what, record_id FROM kept_back")}

    @property
    def arrivals(self) -> int:
        """How many records ever came in."""
        return int(self._rows("SELECT coalesce(max(number), 0) FROM arrival")[0][0])

    def events_in(self, session_id: str) -> int:
        """How many events a session has."""
        return int(self._rows("SELECT count(*) FROM event WHERE session_id = ?", (session_id,))[0][0])

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
