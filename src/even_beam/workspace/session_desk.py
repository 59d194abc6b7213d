"""A session at work: readings taken, judged, corrected and taken back, each committed before anyone is told.

The desk keeps no state of its own beside what is in the logbook, so that a killed process resumes at the same step.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from even_beam.bench.checks import Context, SecondLook, Subject, second_look
from even_beam.bench.control import compared, suspect_stretch
from even_beam.bench.entry import Entry, parse_line
from even_beam.bench.measured import Measured
from even_beam.bench.plan import inserted_before, seconds_needed
from even_beam.bench.records import (
    Computed,
    Conditions,
    Event,
    EventKind,
    Meter,
    Origin,
    Reading,
    Session,
    Source,
    Spectrum,
    Step,
    Terms,
    Value,
    new_id,
)
from even_beam.bench.run import ReadingState, RunState, Standing, StepState, fold, live_events, term_to_text
from even_beam.formats import NamedSpectrum
from even_beam.instruments.protocols import RawReading
from even_beam.light import SpectrumError
from even_beam.light.spectra import validate
from even_beam.workspace.evaluation import computed_figures
from even_beam.workspace.notice import Notice

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

Clock = Callable[[], datetime]


@dataclass(frozen=True, eq=False, slots=True)
class Proposal:
    """A typed line that was understood but not yet kept, with its second look."""

    text: str
    entries: tuple[Entry, ...]
    look: SecondLook

    @property
    def understood(self) -> str:
        """What was understood, to be shown before it counts."""
        return " · ".join(entry.written for entry in self.entries)


@dataclass(frozen=True, eq=False, slots=True)
class Taken:
    """A kept reading with its second look."""

    measured: Measured
    look: SecondLook


class SessionDesk:
    """Everything that can be done in one session. `changed` is told after each change is on the disk."""

    def __init__(self, logbook: "Logbook", session: Session, clock: Clock) -> None:
        self.logbook = logbook
        self.session = session
        self._clock = clock
        self.changed: Notice[[]] = Notice()
        self.free_terms = Terms()
        self.free_source: str | None = None
        self.free_meter: str | None = None
        self._steps: list[Step] = []
        self._readings: list[Reading] = []
        self._events: list[Event] = []
        self._computed: dict[str, Computed] = {}
        self.state = RunState((), (), None)
        self.measured: tuple[Measured, ...] = ()
        self._by_id: dict[str, Measured] = {}
        self.sources: dict[str, Source] = {}
        self.meters: dict[str, Meter] = {}
        self.reload()

    def reload(self) -> None:
        """Read everything anew from the logbook."""
        self._steps = self.logbook.of_session(Step, self.session.id)
        self._readings = self.logbook.readings(self.session.id)
        self._events = self.logbook.of_session(Event, self.session.id)
        self._computed = self.logbook.computed(self.session.id)
        self.reload_kit()
        self._refold()

    def reload_kit(self) -> None:
        """Read the lamps and meters anew."""
        self.sources = {source.id: source for source in self.logbook.all(Source)}
        self.meters = {meter.id: meter for meter in self.logbook.all(Meter)}

    def _refold(self) -> None:
        self.state = fold(self._steps, self._readings, self._events)
        self.measured = tuple(Measured(s, self._computed.get(s.reading.id)) for s in self.state.readings)
        self._by_id = {m.reading.id: m for m in self.measured}

    # --- what is there

    @property
    def counted(self) -> tuple[Measured, ...]:
        """The readings that findings may use."""
        return tuple(m for m in self.measured if m.state.counts)

    @property
    def is_run(self) -> bool:
        """Whether this session has a run sheet."""
        return bool(self.state.steps)

    @property
    def step(self) -> StepState | None:
        """The step that is next; None when all is read or nothing was planned."""
        return self.state.step

    @property
    def meter(self) -> Meter | None:
        """The meter that reads next."""
        if self.step is not None and self.step.step.meter_id is not None:
            return self.meters.get(self.step.step.meter_id)
        return self.meters.get(self.free_meter or "")

    @property
    def asked(self) -> tuple[str, ...]:
        """The quantities that the next reading answers."""
        if self.step is not None:
            return self.step.step.quantities
        return self.meter.quantities if self.meter is not None else ("illuminance", "cct", "duv", "ra")

    @property
    def next_terms(self) -> Terms:
        """The terms of the next reading."""
        return self.step.step.terms if self.step is not None else self.free_terms

    @property
    def next_sources(self) -> tuple[str, ...]:
        """The sources of the next reading."""
        if self.step is not None:
            return self.step.step.source_ids
        return (self.free_source,) if self.free_source else ()

    def of(self, reading_id: str) -> Measured:
        """One reading. Raises `KeyError`."""
        return self._by_id[reading_id]

    @property
    def pending_doubt(self) -> Measured | None:
        """A reading of the present step that stands in doubt and awaits a decision."""
        pending = self.step.pending_doubt if self.step is not None else self._free_doubt()
        return self.of(pending.reading.id) if pending is not None else None

    def _free_doubt(self) -> ReadingState | None:
        last = self.state.last_reading
        return last if last is not None and last.doubt and not last.kept_in_doubt and self.step is None else None

    def now(self) -> datetime:
        """The present moment by the desk's clock."""
        return self._clock()

    def seconds_left(self) -> float:
        """The time that the unread steps take."""
        left = [replace(s.step, repeats=max(s.required - s.taken, 0)) for s in self.state.steps if not s.done]
        return seconds_needed(left, self.meters)

    def name_of(self, source_ids: Iterable[str]) -> str:
        """The nicknames of sources; says so when none is named."""
        names = [self.sources[i].nickname for i in source_ids if i in self.sources]
        return " + ".join(names) if names else "lamp not named yet"

    # --- readings in

    def take(self, raw: RawReading, origin: Origin = Origin.DEVICE, note: str = "") -> Taken:
        """Keep what the meter gave, then compute and judge it. A doubtful one waiting is superseded."""
        figures = tuple(
            Value(name, value, origin, text=f"{value:g}", unit=_unit(name)) for name, value in raw.figures.items()
        )
        return self._keep(figures, raw.spectrum, saturated=raw.saturated, note=note)

    def take_spectrum(self, named: NamedSpectrum, step: Step | None = None) -> Taken:
        """Keep a spectrum from a file as a reading of the next step (or of `step`). Raises `SpectrumError`."""
        validate(named.wavelength_nm, named.values)
        spectrum = Spectrum(named.wavelength_nm, named.values, named.absolute)
        return self._keep((), spectrum, note=f"from file: {named.name}", step=step)

    def propose(self, text: str) -> Proposal:
        """Understand a typed line and look at it, without keeping anything. Raises `EntryError`."""
        entries = parse_line(text, self.asked)
        figures = {e.quantity: e.value for e in entries if e.quantity is not None and e.value is not None}
        return Proposal(text, entries, self._look(figures, typed=True))

    def confirm(self, proposal: Proposal, *, keep_in_doubt: bool = False) -> Taken:
        """Keep a typed line. Raises `ValueError` for one in doubt unless it is kept deliberately."""
        if proposal.look.in_doubt and not keep_in_doubt:
            raise ValueError("a figure in doubt is kept only on purpose")
        values = tuple(_typed_value(entry) for entry in proposal.entries)
        return self._keep(values, None, look=proposal.look, keep_in_doubt=keep_in_doubt)

    def with_candidate(self, proposal: Proposal, value: float) -> Proposal:
        """The line as it would be with the doubtful figure replaced by a candidate; still nothing is kept."""
        entries = tuple(
            replace(entry, value=value, written=f"{value:g} {entry.unit}".strip(), qualifier="corrected slip")
            if entry.quantity == proposal.look.quantity
            else entry
            for entry in proposal.entries
        )
        figures = {e.quantity: e.value for e in entries if e.quantity is not None and e.value is not None}
        return Proposal(proposal.text, entries, self._look(figures, typed=True))

    def withdraw(self, proposal: Proposal) -> None:
        """Note that a typed line in doubt was given up for a new reading; its text is kept."""
        self._add(EventKind.ENTRY_WITHDRAWN, step_id=self._step_id(), old=proposal.text, reason=proposal.look.text)

    def _step_id(self) -> str | None:
        return self.step.step.id if self.step is not None else None

    def _keep(
        self,
        values: tuple[Value, ...],
        spectrum: Spectrum | None,
        *,
        look: SecondLook | None = None,
        keep_in_doubt: bool = False,
        saturated: bool = False,
        note: str = "",
        step: Step | None = None,
    ) -> Taken:
        moment, sequence = self._moment(), self.logbook.next_sequence(self.session.id)
        here = step or (self.step.step if self.step is not None else None)
        reading = Reading(
            new_id(), self.session.id, moment, sequence,
            here.terms if here is not None else self.free_terms,
            here.source_ids if here is not None else self.next_sources,
            here.id if here is not None else None,
            self.meter.id if self.meter is not None else None,
            note, values,
        )  # fmt: skip
        taken = self._event(EventKind.TAKEN, sequence, moment, reading_id=reading.id, step_id=reading.step_id)
        events = [taken]
        doubtful = self.pending_doubt
        if doubtful is not None:
            events.append(
                self._event(EventKind.SUPERSEDED, sequence + 1, moment, reading_id=doubtful.reading.id, new=reading.id)
            )
        context = self._context(reading.step_id)
        self.logbook.commit_reading(reading, events, spectrum)  # from here on it is safe; the rest only explains it
        self._readings.append(reading)
        self._events += events
        if spectrum is not None:
            self._compute(reading.id, spectrum)
        self._refold()
        measured = self.of(reading.id)
        if look is None:
            figures = _plain_figures(measured)
            subject = Subject(
                figures, reading.terms, measured.source_id, self.meters.get(reading.meter_id or ""), False, saturated
            )
            look = second_look(subject, context)
        if look.in_doubt:
            self._mark_doubt(reading, look, keep_in_doubt)
        elif measured.state.suspect:
            self._look_for_agreement(measured)
        self.changed()
        return Taken(self.of(reading.id), look)

    def _compute(self, reading_id: str, spectrum: Spectrum) -> None:
        try:
            computed = computed_figures(reading_id, spectrum)
        except SpectrumError:
            return  # a dark or broken spectrum stays as it was read, without figures
        self._computed[reading_id] = computed
        self.logbook.save_computed([computed])

    def _mark_doubt(self, reading: Reading, look: SecondLook, keep: bool) -> None:
        sequence = self._events[-1].sequence + 1
        events = [
            self._event(
                EventKind.IN_DOUBT,
                sequence,
                reading.at,
                reading_id=reading.id,
                step_id=reading.step_id,
                field=look.cause,
                reason=look.text,
            )
        ]
        if keep:
            events.append(self._event(EventKind.KEPT_IN_DOUBT, sequence + 1, reading.at, reading_id=reading.id))
        self.logbook.add_events(*events)
        self._events += events
        self._refold()

    def _look_for_agreement(self, control: Measured) -> None:
        """A control point that agrees ends the suspect stretch before it."""
        earlier = [m for m in self.counted if m.reading.sequence < control.reading.sequence]
        drift = compared(control, earlier)
        if drift is not None and drift.agrees:
            event = self._event(
                EventKind.AGREES_AGAIN, self._events[-1].sequence + 1, control.reading.at,
                reading_id=control.reading.id, step_id=control.reading.step_id, old=drift.first.reading.id,
            )  # fmt: skip
            self.logbook.add_events(event)
            self._events.append(event)
            self._refold()

    def _look(self, figures: Mapping[str, float], *, typed: bool) -> SecondLook:
        source = self.next_sources[0] if len(self.next_sources) == 1 else None
        subject = Subject(figures, self.next_terms, source, self.meter, typed)
        return second_look(subject, self._context(self._step_id()))

    def _context(self, step_id: str | None) -> Context:
        counted = self.counted
        again = [
            m for m in self.measured
            if m.reading.step_id == step_id and step_id is not None and m.state.doubt and not m.state.counts
            and m.state.standing in (Standing.COUNTED, Standing.SUPERSEDED)
        ]  # fmt: skip
        trusted = [m for m in counted if not m.state.suspect]
        return Context(trusted, counted[-1] if counted else None, again)

    # --- what else happens at the bench

    def keep_in_doubt(self, reading_id: str) -> None:
        """Keep a doubtful reading on purpose."""
        self._add(EventKind.KEPT_IN_DOUBT, reading_id=reading_id)

    def take_back(self) -> Measured | None:
        """Take back the newest reading that stands; returns it, None when there is none. It stays in the logbook."""
        last = self.state.last_reading
        if last is None:
            return None
        self._add(EventKind.TAKEN_BACK, reading_id=last.reading.id)
        return self.of(last.reading.id)

    def set_aside(self, reading_id: str, reason: str) -> None:
        """Leave a reading out of every figure, with the reason."""
        self._add(EventKind.SET_ASIDE, reading_id=reading_id, reason=reason)

    def ask_again(self) -> bool:
        """One more reading of the last step that was read; False when none was."""
        step_id = next((m.reading.step_id for m in reversed(self.counted) if m.reading.step_id), None)
        if step_id is None:
            return False
        self._add(EventKind.REPEAT_ASKED, step_id=step_id)
        return True

    def insert_step(self, terms: Terms) -> Step:
        """Put a step at `terms` right here, like the present one in all else. Raises `ValueError` without a run."""
        template = self.step or (self.state.steps[-1] if self.state.steps else None)
        if template is None:
            raise ValueError("there is no run to insert a step into")
        ordered = [s.step for s in self.state.steps]
        step = inserted_before(ordered, self.state.current, terms, template.step)
        sequence = self.logbook.next_sequence(self.session.id)
        event = self._event(EventKind.STEP_INSERTED, sequence, self._moment(), step_id=step.id)
        self.logbook.add_step(step, event)
        self._steps.append(step)
        self._events.append(event)
        self._refold()
        self.changed()
        return step

    def skip(self) -> None:
        """Leave the present step out."""
        if self.step is not None:
            self._add(EventKind.STEP_SKIPPED, step_id=self.step.step.id)

    def go_to(self, step_id: str) -> None:
        """Go to a step; one that is finished is read once more."""
        done = next(state.done and not state.skipped for state in self.state.steps if state.step.id == step_id)
        self._add(EventKind.REPEAT_ASKED if done else EventKind.JUMPED, step_id=step_id)

    def note(self, text: str, reading_id: str | None = None) -> None:
        """Keep a remark, on a reading or on the present step."""
        self._add(EventKind.NOTE, reading_id=reading_id, step_id=self._step_id(), reason=text)

    def something_moved(self) -> Sequence[Measured]:
        """Mark suspect what was read since the last control point that agrees, until one agrees again; returns it.

        Done again at once, it starts one reading later, and after the newest begins anew. Empty before any reading.
        """
        stretch = suspect_stretch(self.counted)
        if not stretch:
            return stretch
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        events, start = [], stretch[0]
        last = self.state.live_events[-1]
        if last.kind is EventKind.SUSPECT_FROM:
            events.append(self._event(EventKind.UNDONE, sequence, moment, undoes=last.id))
            places = [m.reading.id for m in stretch]
            start = stretch[(places.index(last.reading_id or "") + 1) % len(stretch)]
        marked = self._event(
            EventKind.SUSPECT_FROM,
            sequence + len(events),
            moment,
            reading_id=start.reading.id,
            reason="something moved",
        )
        self._keep_events([*events, marked])
        return stretch[stretch.index(start) :]

    def correct_terms(self, reading_ids: Sequence[str], name: str, value: object, reason: str = "") -> None:
        """Right reading, wrong terms: correct one field of one reading or of a stretch. One undo reverses all."""
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        events = [
            self._event(
                EventKind.TERMS_CORRECTED, sequence + i, moment, reading_id=reading_id, field=name,
                old=term_to_text(getattr(self.of(reading_id).terms, name)), new=term_to_text(value), reason=reason,
            )
            for i, reading_id in enumerate(reading_ids)
        ]  # fmt: skip
        self._keep_events(events)

    def name_source(self, reading_ids: Sequence[str], source_id: str) -> None:
        """Say afterwards which lamp was read."""
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        events = [
            self._event(EventKind.SOURCE_NAMED, sequence + i, moment, reading_id=reading_id, new=source_id)
            for i, reading_id in enumerate(reading_ids)
        ]
        self._keep_events(events)

    def dark_calibrated(self) -> None:
        """Note that the meter's dark signal was taken."""
        meter = self.meter
        self._add(EventKind.DARK_CALIBRATED, new=meter.nickname if meter is not None else "")

    @property
    def dark_calibrated_at(self) -> datetime | None:
        """When the dark signal was last taken in this session."""
        times = [e.at for e in self.state.live_events if e.kind is EventKind.DARK_CALIBRATED]
        return times[-1] if times else None

    # --- undo

    _UNDOABLE = frozenset(EventKind) - {EventKind.UNDONE, EventKind.IN_DOUBT, EventKind.ENTRY_WITHDRAWN, EventKind.SUPERSEDED}  # fmt: skip

    def undo(self) -> str | None:
        """Undo the last act (all events of one moment); returns what was undone, None when there is nothing."""
        last = next((e for e in reversed(self.state.live_events) if e.kind in self._UNDOABLE), None)
        if last is None:
            return None
        return self._undo_act([e for e in self.state.live_events if e.at == last.at and e.kind is not EventKind.UNDONE])

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
        self._keep_events(
            [self._event(EventKind.UNDONE, sequence + i, moment, undoes=event.id) for i, event in enumerate(events)]
        )
        first = events[0]
        while first.kind is EventKind.UNDONE:
            first = next(e for e in self._events if e.id == first.undoes)
        return str(first.kind)

    # --- events

    def _moment(self) -> datetime:
        """Now, but always later than the event before: clocks jump, and all events of one act share one moment."""
        now = self._clock()
        now = now.replace(microsecond=now.microsecond // 1000 * 1000)
        return max(now, self._events[-1].at + timedelta(milliseconds=1)) if self._events else now

    def _event(self, kind: EventKind, sequence: int, at: datetime, **fields: str | None) -> Event:
        return Event(new_id(), self.session.id, sequence, at, kind, **fields)  # type: ignore[arg-type]

    def _add(self, kind: EventKind, **fields: str | None) -> None:
        self._keep_events([self._event(kind, self.logbook.next_sequence(self.session.id), self._moment(), **fields)])

    def _keep_events(self, events: Sequence[Event]) -> None:
        self.logbook.add_events(*events)
        self._events += events
        self._refold()
        self.changed()

    def conditions(self) -> list[Conditions]:
        """The room's timed rows."""
        return self.logbook.of_session(Conditions, self.session.id)


def _typed_value(entry: Entry) -> Value:
    return Value(
        entry.quantity or "", entry.value, Origin.TYPED, entry.low, entry.high, entry.text.strip(), entry.unit, entry.qualifier
    )  # fmt: skip


def _unit(quantity: str) -> str:
    return {"illuminance": "lx", "cct": "K"}.get(quantity, "")


def _plain_figures(measured: Measured) -> dict[str, float]:
    names = ("illuminance", "cct", "duv", "ra")
    return {name: value for name in names if (value := measured.value(name)) is not None}
