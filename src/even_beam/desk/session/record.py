"""One session as it stands in the logbook, with its events: nothing is changed, and an undo is an event too."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from even_beam.bench.measured import Measured
from even_beam.bench.records import (
    GEL,
    Calibration,
    Claim,
    Computed,
    Conditions,
    Event,
    EventKind,
    Meter,
    Modifier,
    Reading,
    Session,
    Source,
    Spectrum,
    Step,
    new_id,
)
from even_beam.bench.run import ReadingState, RunState, fold, live_events
from even_beam.collection.net_figures import NetFigures
from even_beam.shell.notice import Notice

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

Clock = Callable[[], datetime]

_WORDS_OF_A_SESSION = ("question", "decision", "disclosure")


class SessionRecord:
    """The readings, steps and events of a session. `changed` is told after each change is on the disk."""

    def __init__(self, logbook: "Logbook", session: Session, clock: Clock) -> None:
        self.logbook = logbook
        self.session = session
        self._clock = clock
        self._opened_at = clock()
        self.changed: Notice[[]] = Notice()
        self._steps: list[Step] = []
        self._readings: list[Reading] = []
        self._events: list[Event] = []
        self._computed: dict[str, Computed] = {}
        self._arriving: dict[str, Spectrum] = {}  # of the reading that is about to be kept
        self._net = NetFigures(self._spectra)
        self.state = RunState((), (), None)
        self.measured: tuple[Measured, ...] = ()
        self.counted: tuple[Measured, ...] = ()  # what findings may use
        self._as_read: dict[str, Measured] = {}
        self._by_id: dict[str, Measured] = {}
        self.sources: dict[str, Source] = {}
        self.meters: dict[str, Meter] = {}
        self.modifiers: tuple[str, ...] = ()
        self.gels: frozenset[str] = frozenset()
        self.dialable: dict[str, tuple[float, float]] = {}
        self.reload()

    def reload(self) -> None:
        """Read everything anew from the logbook."""
        self._steps = self.logbook.of_session(Step, self.session.id)
        self._readings = self.logbook.readings(self.session.id)
        self._events = self.logbook.of_session(Event, self.session.id)
        self._computed = self.logbook.computed(self.session.id)
        self.reload_kit()
        self._refold()

    @property
    def known_events(self) -> int:
        """How many events it was made of."""
        return len(self._events)

    def reload_kit(self) -> None:
        """Read the lamps and meters anew, and the range of whites that each lamp is claimed to have."""
        self.sources = {source.id: source for source in self.logbook.all(Source)}
        self.meters = {meter.id: meter for meter in self.logbook.all(Meter)}
        kept = self.logbook.all(Modifier)
        self.modifiers = tuple(modifier.nickname for modifier in kept)
        self.gels = frozenset(modifier.nickname for modifier in kept if modifier.kind == GEL)
        ranges = {
            claim.model_id: (claim.low, claim.high)
            for claim in self.logbook.all(Claim)
            if claim.quantity == "cct" and claim.low is not None and claim.high is not None
        }
        self.dialable = {s.id: ranges[s.model_id] for s in self.sources.values() if s.model_id in ranges}

    def _refold(self) -> None:
        self.state = fold(self._steps, self._readings, self._events)
        self._as_read = {state.reading.id: self._measured_of(state) for state in self.state.readings}
        self.measured = self._net.applied(list(self._as_read.values()))
        self.counted = tuple(m for m in self.measured if m.state.counts)
        self._by_id = {m.reading.id: m for m in self.measured}

    def _measured_of(self, state: ReadingState) -> Measured:
        """A reading with its figures: the same as before where nothing happened to it, with all that was found of
        it."""
        before, computed = self._as_read.get(state.reading.id), self._computed.get(state.reading.id)
        if before is not None and before.state == state and before.computed is computed:
            return before
        return Measured(state, computed)

    def _spectra(self, reading_ids: Iterable[str]) -> dict[str, Spectrum]:
        return {**self.logbook.spectra(i for i in reading_ids if i not in self._arriving), **self._arriving}

    # --- what is there

    @property
    def is_run(self) -> bool:
        """Whether this session has a run sheet."""
        return bool(self.state.steps)

    def of(self, reading_id: str) -> Measured:
        """One reading. Raises `KeyError`."""
        return self._by_id[reading_id]

    def now(self) -> datetime:
        """The present moment by the session's clock."""
        return self._clock()

    def name_of(self, source_ids: Iterable[str]) -> str:
        """The nicknames of sources; says so when none is named."""
        names = [self.sources[i].nickname for i in source_ids if i in self.sources]
        return " + ".join(names) if names else "lamp not named yet"

    def note_room(self, room: Conditions | None, calibrations: Sequence[tuple[Calibration, str]] = ()) -> None:
        """Keep what the room is like from here on, and calibrations of meters, each with the lamp that the meter was
        zeroed on, if it was: then it is for ratios only, in every session. One act, one undo."""
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        records: list[object] = []
        told: list[tuple[EventKind, dict[str, str]]] = []
        if room is not None:
            records.append(room)
            told.append((EventKind.ROOM_NOTED, {"new": room.id, "reason": room.room}))
        for row, zeroed_on in calibrations:
            records.append(row)
            told.append((EventKind.CALIBRATED, {"new": row.id}))
            if zeroed_on:
                meter = self.meters[row.meter_id]
                records.append(replace(meter, zeroed_on=zeroed_on))
                told[-1][1].update(field=meter.id, old=meter.zeroed_on, reason=zeroed_on)
        events = [self._event(kind, sequence + i, moment, **said) for i, (kind, said) in enumerate(told)]
        self._save(*records, told=events)
        self.reload_kit()

    def describe(self, changed: Session) -> None:
        """Keep another question, decision or disclosure of the session."""
        before, self.session = self.session, changed
        try:
            self.note_described(before)
        except BaseException:
            self.session = before
            raise

    def note_described(self, before: Session) -> None:
        """The same, of a session whose words were kept while they were typed: one act, that can be undone."""
        told = [(n, getattr(before, n), getattr(self.session, n)) for n in _WORDS_OF_A_SESSION]
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        changes = [(name, old, new) for name, old, new in told if old != new]
        events = [
            self._event(EventKind.DESCRIBED, sequence + i, moment, field=name, old=old, new=new)
            for i, (name, old, new) in enumerate(changes)
        ]
        self._save(self.session, told=events)

    def _save(self, *records: object, told: Event | Sequence[Event]) -> None:
        """Keep records with the events that tell of them, all or nothing."""
        events = [told] if isinstance(told, Event) else list(told)
        self.logbook.save(*records, events=events)
        self._note_events(events)

    def conditions(self) -> list[Conditions]:
        """The room's timed rows."""
        return self.logbook.of_session(Conditions, self.session.id)

    # --- undo

    _UNDOABLE = frozenset(EventKind) - {
        EventKind.UNDONE,
        EventKind.IN_DOUBT,
        EventKind.ENTRY_WITHDRAWN,
        EventKind.SUPERSEDED,
        EventKind.DOUBT_CLEARED,
        EventKind.AGREES_AGAIN,
    }

    def acts(self) -> list[tuple[Event, ...]]:
        """What can be undone, the newest first: the events of one moment are one act."""
        live = self.state.live_events
        moments = dict.fromkeys(event.at for event in reversed(live) if event.kind in self._UNDOABLE)
        return [tuple(e for e in live if e.at == at and e.kind is not EventKind.UNDONE) for at in moments]

    def undo(self) -> str | None:
        """Undo the last act (all events of one moment); returns what was undone, None when there is nothing."""
        last = next((e for e in reversed(self.state.live_events) if e.kind in self._UNDOABLE), None)
        if last is None:
            return None
        return self._undo_act([e for e in self.state.live_events if e.at == last.at and e.kind is not EventKind.UNDONE])

    def undo_on(self, reading_id: str) -> str | None:
        """Undo the last act on one reading, however far back, and nothing that came after; what was undone, None when
        nothing was done to it since it was taken. A figure put in its place goes, and it stands again."""
        live = self.state.live_events
        own = [e for e in live if e.reading_id == reading_id]
        taken = next((e.at for e in own if e.kind is EventKind.TAKEN), None)
        last = next((e for e in reversed(own) if e.kind in self._DONE_TO_A_READING and e.at != taken), None)
        if last is None:
            return None
        self._undo_act([e for e in live if e.at == last.at and e.kind is not EventKind.UNDONE])
        return "a figure put in its place" if last.kind is EventKind.SUPERSEDED else str(last.kind)

    _DONE_TO_A_READING = frozenset(
        {
            EventKind.SUPERSEDED,
            EventKind.TAKEN_BACK,
            EventKind.SET_ASIDE,
            EventKind.KEPT_IN_DOUBT,
            EventKind.TERMS_CORRECTED,
            EventKind.LAMP_SHOWS,
            EventKind.SOURCE_NAMED,
            EventKind.NOTE,
        }
    )

    def redo(self) -> str | None:
        """Take back the last undo, as long as nothing was done since; returns what was done again."""
        kinds = {event.id: event.kind for event in self._events}
        live = live_events(self._events)
        for event in reversed(live):
            if event.kind is not EventKind.UNDONE:
                return None
            if kinds[event.undoes or ""] is not EventKind.UNDONE:
                return self._undo_act([e for e in live if e.at == event.at and e.kind is EventKind.UNDONE])
        return None

    def _undo_act(self, events: Sequence[Event]) -> str:
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        told = [self._event(EventKind.UNDONE, sequence + i, moment, undoes=event.id) for i, event in enumerate(events)]
        changed = self._put_back(events)
        self._save(*changed, told=told)
        if changed:
            self.session = next((one for one in changed if isinstance(one, Session)), self.session)
            self.reload_kit()
        return str(self._first_of(events[0])[0].kind)

    def _first_of(self, event: Event) -> tuple[Event, bool]:
        """What was done in the first place, and whether undoing this event does it again."""
        again = False
        while event.kind is EventKind.UNDONE:
            event = next(e for e in self._events if e.id == event.undoes)
            again = not again
        return event, again

    def _put_back(self, events: Sequence[Event]) -> list[object]:
        """The records whose own words an act had changed, as they are once it is undone, or done again."""
        session, meters = self.session, {}
        for first, again in map(self._first_of, events):
            text = first.new if again else first.old
            if first.kind is EventKind.DESCRIBED:
                session = replace(session, **{first.field: text})  # type: ignore[arg-type]
            elif first.kind is EventKind.CALIBRATED and first.field in self.meters:
                zeroed_on = first.reason if again else first.old
                meters[first.field] = replace(self.meters[first.field], zeroed_on=zeroed_on)
        return [*([session] if session != self.session else []), *meters.values()]

    # --- events

    def _moment(self) -> datetime:
        """Now, but always later than the event before: clocks jump, and all events of one act share one moment."""
        now = self._read_clock()
        try:
            return max(now, self._events[-1].at + timedelta(milliseconds=1)) if self._events else now
        except OverflowError:  # a clock at the end of all time
            return self._events[-1].at

    def _read_clock(self) -> datetime:
        """What the clock says, to the millisecond, right or wrong."""
        now = self._clock()
        return now.replace(microsecond=now.microsecond // 1000 * 1000)

    def _event(self, kind: EventKind, sequence: int, at: datetime, **fields: str | None) -> Event:
        return Event(new_id(), self.session.id, sequence, at, kind, **fields)  # type: ignore[arg-type]

    def _next_event(self, kind: EventKind, **fields: str | None) -> Event:
        """An event of an act of its own."""
        return self._event(kind, self.logbook.next_sequence(self.session.id), self._moment(), **fields)

    def _follow(self, kind: EventKind, **fields: str | None) -> None:
        """Keep an event that follows from the last one, as part of the same act."""
        event = self._event(kind, self._events[-1].sequence + 1, self._events[-1].at, **fields)
        self.logbook.add_events(event)
        self._events.append(event)
        self._refold()

    def _add(self, kind: EventKind, **fields: str | None) -> None:
        self._keep_events([self._next_event(kind, **fields)])

    def _keep_events(self, events: Sequence[Event]) -> None:
        self.logbook.add_events(*events)
        self._note_events(events)

    def _note_events(self, events: Sequence[Event]) -> None:
        """Take events into account that are on the disk."""
        self._events += events
        self._refold()
        self.changed()
