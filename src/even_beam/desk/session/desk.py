"""A session at work: readings taken, judged, corrected and taken back, each committed before anyone is told.

The desk keeps no state of its own beside what is in the logbook, so that a killed process resumes at the same step.
"""

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum
from typing import TYPE_CHECKING

from even_beam.bench import ambient
from even_beam.bench.exposure import Exposure
from even_beam.bench.judging.control import compared
from even_beam.bench.judging.effect import effect_of
from even_beam.bench.judging.repeats import repeats_of, repeats_too_far_apart
from even_beam.bench.judging.second_look import LOOKED_AT, SecondLook, fits_now
from even_beam.bench.limits import ImpossibleError, impossible_figure, impossible_value
from even_beam.bench.measured import Measured
from even_beam.bench.planning.costs import Costs, seconds_of
from even_beam.bench.planning.sweep import inserted_before
from even_beam.bench.records import (
    OFF,
    SHADED,
    Calibration,
    Computed,
    Event,
    EventKind,
    Meter,
    Origin,
    Reading,
    Session,
    Spectrum,
    Step,
    Terms,
    Value,
    new_id,
)
from even_beam.bench.run import ReadingState, Standing, StepState
from even_beam.bench.seen import note_of
from even_beam.bench.terms import terms_line
from even_beam.bench.traces import Trace, ends_of, settled_sentence
from even_beam.collection.evaluation import computed_figures
from even_beam.desk.session import looking
from even_beam.desk.session.looking import seconds_between
from even_beam.desk.session.marks import SessionMarks
from even_beam.desk.session.record import Clock
from even_beam.desk.session.which_meter import WhichMeter, read_by_eye
from even_beam.desk.session.with_and_without import WithAndWithout
from even_beam.instruments.protocols import MeterReading
from even_beam.light import SpectrumError
from even_beam.light.spectra import validate
from even_beam.words import notation
from even_beam.words.entry import AmbiguousEntryError, Entry, EntryError
from even_beam.words.quantities import USUALLY_ASKED, unit_of

if TYPE_CHECKING:
    from even_beam.formats import NamedSpectrum
    from even_beam.logbook.store import Logbook
    from even_beam.said import Said


SWEEP_PCT = (100.0, 50.0, 25.0, 10.0, 5.0, 1.0)
"""The levels of a sweep that nobody planned."""


ODD_BESIDE_LATER = "It fits no longer beside what was read since."
"""Why an earlier reading is in doubt."""


class Aside(StrEnum):
    """What is read beside the run, with the meter where it stands."""

    NONE = ""
    ROOM = "the room alone"
    SHADED = "shaded from the lamp"


@dataclass(frozen=True, slots=True)
class Asked:
    """What a reading belongs to, as it stood when the reading was asked for.

    `doubtful_id` is a doubtful one that it supersedes if that still waits, `replaces_id` one that it corrects.
    """

    step_id: str | None
    terms: Terms
    source_ids: tuple[str, ...]
    meter_id: str | None
    doubtful_id: str | None
    replaces_id: str | None = None


@dataclass(frozen=True, eq=False, slots=True)
class Proposal:
    """A typed line that was understood but not yet kept, with its second look; `terms` are those its figures are at.

    `beside` tells that these are not what the step asks for.
    """

    text: str
    said: "Said"
    terms: Terms
    look: SecondLook
    beside: bool = False

    @property
    def entries(self) -> tuple[Entry, ...]:
        """The figures of the line; none where it only says terms."""
        return self.said.entries

    @property
    def understood(self) -> str:
        """What was understood, to be shown before it counts."""
        return self.said.written


@dataclass(frozen=True, eq=False, slots=True)
class Taken:
    """A kept reading with its second look."""

    measured: Measured
    look: SecondLook


class SessionDesk(SessionMarks):
    """A session whose next reading is known: of a run, or of what was last said when just reading."""

    def __init__(self, logbook: "Logbook", session: Session, clock: Clock) -> None:
        self.free_terms = Terms()
        self.free_source: str | None = None
        self._which_meter = WhichMeter()
        self.aside = Aside.NONE
        self.costs = Costs()
        self.with_and_without = WithAndWithout(self)
        super().__init__(logbook, session, clock)
        self._go_on()

    def _go_on(self) -> None:
        """Just reading goes on where it was left: with the lamp and at the terms of the last reading of the light."""
        lit = (m for m in reversed(self.measured) if m.terms.mode != OFF and m.terms.placement != SHADED)
        last = next(lit, None)
        if last is not None and not self.is_run:
            self.free_terms, self.free_source = last.terms, last.source_id
        typed = next((m.reading for m in reversed(self.measured) if _is_typed(m.reading)), None)
        if typed is not None:
            self._which_meter.say_typed_from(typed.meter_id)

    def turn_to(self, source_id: str) -> None:
        """Without a run: another lamp is next. It stands as it was last read, else with nothing that the one before
        wore: only the meter stands where it stood."""
        if self.free_source is not None and source_id != self.free_source:
            known = (m.terms for m in reversed(self.measured) if m.source_id == source_id and m.terms.mode != OFF)
            here = self.free_terms
            bare = Terms(distance_m=here.distance_m, placement=here.placement, reference_plane=here.reference_plane)
            self.free_terms = next(known, bare)
        self.free_source = source_id
        self.changed()

    # --- which meter

    @property
    def free_meter(self) -> str | None:
        """Without a run: the meter that was chosen, or that stands ready."""
        return self._which_meter.at_hand

    @free_meter.setter
    def free_meter(self, meter_id: str | None) -> None:
        self._which_meter.choose(meter_id)

    def offer_meter(self, meter_id: str | None) -> None:
        """A meter that stands ready to be read by a key, and that nobody chose."""
        self._which_meter.offer(meter_id)

    @property
    def typed_meter(self) -> Meter | None:
        """The meter that a typed figure comes from, as far as it was said."""
        return self._which_meter.of_typed(self.meter, self.meters, planned=self._names_a_meter)

    @property
    def asks_for_meter(self) -> bool:
        """Whether a typed figure could be of a meter of the Kit, and nobody said yet of which."""
        return self._which_meter.is_asked_for(self.meter, self.meters, planned=self._names_a_meter)

    @property
    def _names_a_meter(self) -> bool:
        return self.step is not None and self.step.step.meter_id is not None

    @property
    def meters_read_by_eye(self) -> tuple[Meter, ...]:
        """The meters that somebody may type figures from."""
        return read_by_eye(self.meters)

    def say_typed_from(self, meter_id: str | None) -> None:
        """Which meter the figures of this session are typed from; None for one that is not named."""
        self._which_meter.say_typed_from(meter_id)
        if self.step is None:
            self.free_meter = meter_id

    # --- what comes next

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
        return self.meter.quantities if self.meter is not None else USUALLY_ASKED

    @property
    def next_terms(self) -> Terms:
        """The terms of the next reading."""
        terms = self.step.step.terms if self.step is not None else self.free_terms
        if self.aside is Aside.ROOM:
            return ambient.lamp_off(terms)
        return ambient.shaded(terms) if self.aside is Aside.SHADED else terms

    @property
    def next_sources(self) -> tuple[str, ...]:
        """The sources of the next reading."""
        if self.aside is Aside.ROOM:
            return ()
        if self.step is not None:
            return self.step.step.source_ids
        return (self.free_source,) if self.free_source else ()

    @property
    def pending_doubt(self) -> Measured | None:
        """A reading of the present step that stands in doubt and awaits a decision."""
        if self.aside is not Aside.NONE:
            return self._aside_doubt()
        pending = self.step.pending_doubt if self.step is not None else self._free_doubt()
        return self.of(pending.reading.id) if pending is not None else None

    def _aside_doubt(self) -> Measured | None:
        last = self.state.last_reading
        waits = last is not None and last.doubt and not last.kept_in_doubt and last.reading.terms == self.next_terms
        return self.of(last.reading.id) if last is not None and waits else None

    def _free_doubt(self) -> ReadingState | None:
        """Without a run: the newest reading that waits for a decision, also one that came in from a table."""
        waiting = (
            s
            for s in reversed(self.state.readings)
            if s.standing is Standing.COUNTED and s.doubt and not s.kept_in_doubt
        )
        return next(waiting, None) if self.step is None else None

    def seconds_left(self) -> float:
        """The time that the unread steps take."""
        left = ((s.step, s.required - s.taken) for s in self.state.steps if not s.done)
        return seconds_of(left, self.meters, self.costs)

    # --- readings in

    def asked_now(self) -> Asked:
        """What a reading that is asked for at this moment will belong to, whatever happens until it arrives."""
        doubtful = self.pending_doubt
        last = self.state.last_reading
        if self.step is None and (doubtful is None or last is None or doubtful.reading.id != last.reading.id):
            doubtful = None  # a reading of now replaces no doubt of long ago
        return Asked(
            self.step.step.id if self.step is not None and self.aside is Aside.NONE else None,
            self.next_terms,
            self.next_sources,
            self.meter.id if self.meter is not None else None,
            doubtful.reading.id if doubtful is not None else None,
        )

    def take(
        self, raw: MeterReading, origin: Origin = Origin.DEVICE, note: str = "", asked: Asked | None = None
    ) -> Taken:
        """Keep what the meter gave, computed and judged. A doubtful one that waited for it is superseded.

        `asked` is what was asked when the reading was begun; now when not given. A figure that cannot be is left out.
        """
        figures = tuple(
            Value(name, value, origin, text=f"{value:g}", unit=unit_of(name))
            for name, value in raw.figures.items()
            if impossible_figure(name, value) is None
        )
        return self._keep(figures, raw.spectrum, asked=asked or self.asked_now(), raw=raw, note=note)

    def take_spectrum(
        self, named: "NamedSpectrum", step: Step | None = None, of: tuple[tuple[str, ...], Terms] | None = None
    ) -> Taken:
        """Keep a spectrum from a file as a reading of the next step, of `step`, or `of` lamps at terms that were said.

        Raises `SpectrumError`.
        """
        validate(named.wavelength_nm, named.values)
        spectrum = Spectrum(named.wavelength_nm, named.values, named.absolute)
        asked = self.asked_now()
        if step is not None:
            asked = replace(asked, step_id=step.id, terms=step.terms, source_ids=step.source_ids)
        if of is not None:
            asked = replace(asked, step_id=None, doubtful_id=None, source_ids=of[0], terms=of[1])
        return self._keep((), spectrum, asked=asked, note=note_of(named.name))

    def take_traces(self, traces: Sequence[Trace], name: str) -> Taken:
        """Keep a power log, a warm-up or a fade as one reading of the next step."""
        asked = self.asked_now()
        taken = self._keep(ends_of(traces), None, asked=asked, note=note_of(name), traces=traces)
        sentences = [settled_sentence(trace) for trace in traces]
        return Taken(taken.measured, replace(taken.look, sentences=(*taken.look.sentences, *sentences)))

    def take_figures(
        self,
        values: Sequence[Value],
        note: str,
        traces: Sequence[Trace] = (),
        of: "tuple[tuple[str, ...], Terms] | None" = None,
    ) -> Taken:
        """Keep figures of a file with lamps at terms, those that are next where none are named: as the step's reading
        where it asks for one of them there, else beside the run."""
        asked = self.asked_now()
        other = of is not None and of != (asked.source_ids, asked.terms)
        if of is not None:
            asked = replace(asked, source_ids=of[0], terms=of[1])
        step = self.step
        if other or step is None or not {value.quantity for value in values} & set(step.step.quantities):
            asked = replace(asked, step_id=None, doubtful_id=None)
        return self._keep(tuple(values), None, asked=asked, note=note, traces=traces)

    def propose(self, text: str) -> Proposal:
        """Understand a typed line and look at it, without keeping anything; a lamp that it names is at hand then.

        Raises `EntryError`, and `AmbiguousEntryError` for a line that asks what it means.
        """
        from even_beam.desk.session.situation import situation_of
        from even_beam.said import understand  # not before a line is typed

        said = understand(text, situation_of(self))
        if said.choices:
            raise AmbiguousEntryError(said.question, tuple(choice.text for choice in said.choices))
        if said.lamp and self._turned_to(said.lamp):
            return self.propose(text)  # what was said is understood beside what that lamp stands at
        terms = replace(self.next_terms, **said.terms)  # type: ignore[arg-type]
        beside = self.step_at_work is not None and terms != self.next_terms
        return Proposal(text, said, terms, looking.at_a_line(self, said.entries, terms), beside)

    def _turned_to(self, lamp: str) -> bool:
        """Whether a lamp that a line names was not the one at hand, and is now. Raises `EntryError` for one that the
        run does not read here."""
        if self.aside is not Aside.NONE or lamp in self.next_sources:
            return False
        if self.step is not None:
            named, here = self.name_of((lamp,)), self.name_of(self.next_sources)
            raise EntryError(f"the step is of {here}, and the line of {named}: Alt ↑ ↓ goes to another step")
        self.turn_to(lamp)
        return True

    def confirm(self, proposal: Proposal, *, keep_in_doubt: bool = False) -> Taken:
        """Keep a typed line. Raises `ValueError` for one in doubt unless it is kept deliberately.

        Raises `ImpossibleError` for a figure that cannot be: it is not kept even on purpose. Terms said on the line
        belong to its figures; without a run they are also those of what comes next.
        """
        if proposal.look.in_doubt and not keep_in_doubt:
            raise ValueError("a figure in doubt is kept only on purpose")
        values = tuple(_typed_value(entry) for entry in proposal.entries)
        for value in values:
            if (problem := impossible_value(value)) is not None:
                raise ImpossibleError(problem)
        asked = self.asked_now()
        if self.aside is Aside.NONE:
            asked = replace(asked, terms=proposal.terms)
        if proposal.beside:
            asked = replace(asked, step_id=None, doubtful_id=None)
        meter = self.typed_meter
        asked = replace(asked, meter_id=meter.id if meter is not None else None)
        look = proposal.look
        if proposal.beside:
            look = look.saying(f"Kept beside the run, whose step asks for {terms_line(self.next_terms)}.")
        stated = proposal.said.exposure
        taken = self._keep(values, None, asked=asked, look=look, keep_in_doubt=keep_in_doubt, stated=stated)
        self._settle_terms(proposal)
        return taken

    def settle(self, proposal: Proposal) -> bool:
        """What a line says besides figures: terms of what comes next, and what f-numbers stand for.

        In a run, terms alone go to the step that asks for them; False when none does.
        """
        if proposal.said.exposure is not None:
            self._add(EventKind.EXPOSURE_STATED, new=proposal.said.exposure.text)
        return self._settle_terms(proposal)

    def _settle_terms(self, proposal: Proposal) -> bool:
        if not proposal.said.terms or self.aside is not Aside.NONE:
            return True
        if self.step is None:
            self.free_terms = proposal.terms
            self.changed()
            return True
        if proposal.entries:
            return True
        wanted = next((s for s in self.state.steps if not s.done and s.step.terms == proposal.terms), None)
        if wanted is None:
            return False
        self._add(EventKind.JUMPED, step_id=wanted.step.id)
        return True

    def last_otherwise(self, proposal: Proposal) -> Measured | None:
        """Without a run: the last reading, of the lamp at hand, where a line of terms says otherwise than it stands
        there; None where it cannot have been meant."""
        last = self.counted[-1] if self.counted and self.step is None and self.aside is Aside.NONE else None
        if last is None or last.reading.source_ids != self.next_sources or not proposal.said.terms:
            return None
        there = replace(last.terms, **proposal.said.terms)  # type: ignore[arg-type]
        return last if there != last.terms and self.free_terms == last.terms else None

    def mend(self, reading_id: str, said: "Said") -> Taken | None:
        """Correct a reading: new terms are an event, a new figure a reading in its place, with all else that the old
        one had and a second look of its own; the old one stays, marked. Returns that reading.

        Raises `ImpossibleError` for what cannot be, before anything is kept.
        """
        measured = self.of(reading_id)
        corrected = tuple(_typed_value(entry) for entry in said.entries)
        for value in corrected:
            if (problem := impossible_value(value)) is not None:
                raise ImpossibleError(problem)
        if corrected:
            new = {value.quantity for value in corrected}
            reading = measured.reading
            kept = tuple(value for value in reading.values if value.quantity not in new)
            asked = Asked(
                reading.step_id,
                replace(reading.terms, **said.terms),  # type: ignore[arg-type]
                reading.source_ids,
                reading.meter_id,
                None,
                replaces_id=reading_id,
            )
            note = f"corrected: {', '.join(v.text for v in reading.values if v.quantity in new) or 'added'}"
            return self._keep(
                (*kept, *corrected),
                self.logbook.spectra([reading_id]).get(reading_id),
                asked=asked,
                keep_in_doubt=True,  # it was typed on purpose, and says that it is in doubt
                note="; ".join(filter(None, (reading.note, note))),
                traces=self.logbook.traces(reading_id),
                stated=measured.state.exposure,
            )
        self.correct_all([reading_id], said.terms)
        return None

    @property
    def can_read(self) -> bool:
        """Whether a key reads the meter: a simulated one sees only lamps that have a stand-in."""
        meter = self.meter
        if meter is None or not meter.is_spectrometer:
            return False
        if not meter.simulated or self.aside is not Aside.NONE:
            return True
        named = [self.sources[i] for i in self.next_sources if i in self.sources]
        return bool(named) and all(source.simulated for source in named)

    def choose_next_meter(self) -> Meter | None:
        """Without a run: the next meter of the Kit, after the last one that is not named."""
        order: list[str | None] = [None, *self.meters]
        here = order.index(self.free_meter) if self.free_meter in order else 0
        self.free_meter = order[(here + 1) % len(order)]
        self.changed()
        return self.meter

    def go_to_level(self, by: int) -> float:
        """Without a run: the next level of the sweep (or the one before), round its end; returns it.

        The levels are those that other lamps were read at in this session, else the usual ones.
        """
        others = {
            m.terms.level_pct
            for m in self.counted
            if m.terms.level_pct is not None and m.reading.source_ids != self.next_sources
        }
        levels = sorted(others, reverse=True) if len(others) > 1 else list(SWEEP_PCT)
        here = self.free_terms.level_pct
        if here in levels:
            level = levels[(levels.index(here) + by) % len(levels)]
        else:
            beyond = [one for one in levels if here is not None and (one - here) * by < 0.0]
            level = (beyond[0] if by > 0 else beyond[-1]) if beyond else levels[0]
        self.free_terms = replace(self.free_terms, level_pct=level)
        self.changed()
        return level

    def with_candidate(self, proposal: Proposal, value: float) -> Proposal:
        """The line as it would be with the doubtful figure replaced by a candidate; still nothing is kept."""
        entries = tuple(
            (
                replace(entry, value=value, written=f"{value:g} {entry.unit}".strip(), qualifier="corrected slip")
                if entry.quantity == proposal.look.quantity
                else entry
            )
            for entry in proposal.entries
        )
        said = replace(proposal.said, entries=entries)
        return replace(proposal, said=said, look=looking.at_a_line(self, entries, proposal.terms))

    def keep_in_doubt(self, reading_id: str) -> None:
        """Keep a doubtful reading on purpose, and go on with the run."""
        super().keep_in_doubt(reading_id)
        self.read_aside(Aside.NONE)

    def withdraw(self, proposal: Proposal) -> None:
        """Note that a typed line in doubt was given up for a new reading; its text is kept."""
        self._add(EventKind.ENTRY_WITHDRAWN, step_id=self.step_at_work, old=proposal.text, reason=proposal.look.text)

    @property
    def step_at_work(self) -> str | None:
        """The step that the next reading is of; None beside the run."""
        return self.step.step.id if self.step is not None and self.aside is Aside.NONE else None

    def _keep(
        self,
        values: tuple[Value, ...],
        spectrum: Spectrum | None,
        *,
        asked: Asked,
        look: SecondLook | None = None,
        keep_in_doubt: bool = False,
        raw: MeterReading | None = None,
        note: str = "",
        traces: Sequence[Trace] = (),
        stated: Exposure | None = None,
    ) -> Taken:
        """Judge a reading and keep it with its figures and its doubt: all of it together, or nothing of it."""
        moment, sequence = self._moment(), self.logbook.next_sequence(self.session.id)
        at = self._read_clock()
        back = self._clock_went_back(at)
        steps = {state.step.id for state in self.state.steps}
        step_id = asked.step_id if asked.step_id in steps else None  # it may have been undone meanwhile
        reading = Reading(
            id=new_id(),
            session_id=self.session.id,
            at=at,
            sequence=sequence,
            terms=asked.terms,
            source_ids=asked.source_ids,
            step_id=step_id,
            meter_id=asked.meter_id,
            note="; ".join(filter(None, (note, back))),
            values=values,
            since_change_s=self._since_change(asked.terms, asked.source_ids, at),
            meter_mode=raw.mode if raw is not None else "",
            meter_range=raw.range if raw is not None else "",
        )
        events = [self._event(EventKind.TAKEN, sequence, moment, reading_id=reading.id, step_id=step_id)]
        if (doubtful := asked.replaces_id or self._still_in_doubt(asked.doubtful_id)) is not None:
            events.append(self._event(EventKind.SUPERSEDED, sequence + 1, moment, reading_id=doubtful, new=reading.id))
        if stated is not None:
            place = sequence + len(events)
            whose = reading.id if asked.replaces_id is not None else None  # a mended one's is its own
            exposure = self._event(EventKind.EXPOSURE_STATED, place, moment, new=stated.text, reading_id=whose)
            events.append(exposure)
        context = looking.context_of(self, step_id, reading.source_ids, without=asked.replaces_id)
        computed = _figures_of(reading.id, spectrum)
        with self._tried():
            if spectrum is not None:
                self._arriving[reading.id] = spectrum
            self._readings.append(reading)
            self._events += events
            self._computed |= {one.reading_id: one for one in computed}
            self._refold()
            saturated = raw is not None and raw.saturated
            look = look or looking.at_a_reading(self, self.of(reading.id), context, saturated=saturated)
            if look.in_doubt:
                doubts = self._doubts_of(reading, look, keep_in_doubt)
            else:
                doubts = [*self._looked_at(reading, look), *self._doubt_of_another(look)]
            self._events += doubts
            events += doubts
            self.logbook.commit_readings(
                [(reading, spectrum)], events, {reading.id: traces} if traces else {}, computed
            )
        if doubts:
            self._refold()
        # from here on it is safe; the rest only explains it
        if not look.in_doubt:
            if self.of(reading.id).state.suspect:
                self._look_for_agreement(self.of(reading.id))
            look = self._after_a_fit(reading, look)
            if next_ := self.with_and_without.go_on(self.of(reading.id)):
                look = look.saying(next_)
        if not look.in_doubt or keep_in_doubt:
            self.aside = Aside.NONE
        self.changed()
        return Taken(self.of(reading.id), look)

    @contextmanager
    def _tried(self) -> Iterator[None]:
        """What is done to the session inside is as if it had not been, should keeping it fail."""
        before = list(self._readings), list(self._events), dict(self._computed)
        try:
            yield
            self._arriving.clear()
        except BaseException:
            self._arriving.clear()
            self._readings, self._events, self._computed = before
            self._refold()
            raise

    def _still_in_doubt(self, reading_id: str | None) -> str | None:
        """The doubtful reading that a new one was asked to replace, unless it was decided on meanwhile."""
        if reading_id is None or reading_id not in self._by_id:
            return None
        state = self.of(reading_id).state
        waits = state.standing is Standing.COUNTED and state.doubt and not state.kept_in_doubt
        return reading_id if waits else None

    def _clock_went_back(self, at: datetime) -> str:
        """What is said of a reading whose clock stands before that of the one before it; empty where it does not."""
        last = self.measured[-1].reading.at if self.measured else None
        back_s = (last - at).total_seconds() if last is not None else 0.0
        return f"the clock had gone back by {notation.span(back_s)}" if back_s > 1.0 else ""

    def _since_change(self, terms: Terms, sources: tuple[str, ...], moment: datetime) -> float | None:
        """Seconds since a reading at other terms or of another lamp: the light has stood for at most so long. Not known
        where the clock went back since."""
        for measured in reversed(self.measured):
            if measured.state.as_taken != terms or measured.reading.source_ids != sources:
                return seconds_between(measured.reading.at, moment)
        return None

    @property
    def since_change_s(self) -> float | None:
        """Seconds, at most, that the light has stood as the next reading asks; None at the first."""
        return self._since_change(self.next_terms, self.next_sources, self._clock())

    @property
    def waited_s(self) -> float:
        """Seconds that count towards a wait: since the light changed, at the first reading since the session was
        opened."""
        since = self.since_change_s
        return since if since is not None else seconds_between(self._opened_at, self._clock()) or 0.0

    def _after_a_fit(self, reading: Reading, look: SecondLook) -> SecondLook:
        """What a reading that fits says of the others: earlier doubts it clears, and repeats that lie too far apart."""
        for cleared in self._cleared_by(reading):
            self._follow(
                EventKind.DOUBT_CLEARED,
                reading_id=cleared.reading.id,
                old=cleared.state.doubt,
                reason="it fits what was read since",
                new=reading.id,
            )
            look = look.saying(f"The doubt about {terms_line(cleared.terms)} is cleared: it fits now.")
        earlier = [m for m in self.counted if m.reading.sequence < reading.sequence]
        if did := effect_of(self.of(reading.id), earlier):
            look = look.saying(did)
        state = next((s for s in self.state.steps if s.step.id == reading.step_id), None)
        spread = repeats_too_far_apart(state, self.of) if state is not None else None
        if (
            state is not None
            and state.done
            and (repeats := repeats_of(state, self.of)) is not None
            and repeats.readings > 1
        ):
            low, high = notation.illuminance(repeats.low), notation.illuminance(repeats.high)
            look = look.saying(f"Mean of {repeats.readings}: {notation.light(repeats.mean)}, {low} to {high}.")
        if spread is not None and state is not None:
            words = (
                f"The {state.taken} readings lie {spread:.2f} stop apart, more than {state.step.spread_stops:.2f}: one"
                " more."
            )
            self._follow(EventKind.REPEAT_ASKED, step_id=reading.step_id, reason=words)
            look = look.saying(words)
        return look

    def _cleared_by(self, reading: Reading) -> list[Measured]:
        """Earlier readings of these lamps that were in doubt and fit what has been read since."""
        doubtful = [
            m
            for m in self.measured
            if m.state.doubt and m.state.standing is Standing.COUNTED and m.reading.source_ids == reading.source_ids
        ]
        trusted = [m for m in self.counted if not m.state.suspect and not m.state.doubt]
        return [m for m in doubtful if fits_now(m, trusted, self.meters.get(m.reading.meter_id or ""))]

    def _doubts_of(self, reading: Reading, look: SecondLook, keep: bool) -> list[Event]:
        """The events of a reading in doubt."""
        sequence, moment = self._events[-1].sequence + 1, self._events[-1].at
        events = [
            self._event(
                EventKind.IN_DOUBT, sequence, moment, reading_id=reading.id, step_id=reading.step_id,
                field=look.cause, reason=look.text,
            )
        ]  # fmt: skip
        if keep:
            events.append(self._event(EventKind.KEPT_IN_DOUBT, sequence + 1, moment, reading_id=reading.id))
        return events

    def _looked_at(self, reading: Reading, look: SecondLook) -> list[Event]:
        """A weak doubt was asked about before: the reading counts, and says that it was looked at."""
        if not look.asks:
            return []
        sequence, moment = self._events[-1].sequence + 1, self._events[-1].at
        said = f"{LOOKED_AT}: {look.asks}"
        return [self._event(EventKind.NOTE, sequence, moment, reading_id=reading.id, reason=said)]

    def _doubt_of_another(self, look: SecondLook) -> list[Event]:
        """The event of an earlier reading that fits no longer beside this one."""
        if not look.odd_id or self.of(look.odd_id).state.doubt:
            return []
        odd = self.of(look.odd_id).reading
        sequence, moment = self._events[-1].sequence + 1, self._events[-1].at
        kind, cause = EventKind.IN_DOUBT, "earlier_reading"
        event = self._event(
            kind, sequence, moment, reading_id=odd.id, step_id=odd.step_id, field=cause, reason=ODD_BESIDE_LATER
        )
        return [event]

    def _look_for_agreement(self, control: Measured) -> None:
        """A control point that agrees ends the suspect stretch before it."""
        earlier = [m for m in self.counted if m.reading.sequence < control.reading.sequence]
        drift = compared(control, earlier)
        if drift is not None and drift.agrees:
            self._follow(
                EventKind.AGREES_AGAIN,
                reading_id=control.reading.id,
                step_id=control.reading.step_id,
                old=drift.first.reading.id,
            )

    @property
    def next_source(self) -> str | None:
        """The one source that is read next; None for none and for several."""
        return self.next_sources[0] if len(self.next_sources) == 1 else None

    @property
    def ambient_here(self) -> float:
        """The room's light at the next placement, 0 where it was not read."""
        return looking.ambient_here(self)

    # --- the run

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
        event = self._next_event(EventKind.STEP_INSERTED, step_id=step.id)
        self.logbook.add_step(step, event)
        self._steps.append(step)
        self._note_events([event])
        return step

    def skip(self) -> None:
        """Leave the present step out."""
        if self.step is not None:
            self._add(EventKind.STEP_SKIPPED, step_id=self.step.step.id)

    def go_to(self, step_id: str) -> None:
        """Go to a step; one that is finished is read once more."""
        done = next(state.done and not state.skipped for state in self.state.steps if state.step.id == step_id)
        self._add(EventKind.REPEAT_ASKED if done else EventKind.JUMPED, step_id=step_id)

    def read_aside(self, aside: "Aside") -> None:
        """What the next reading is of instead of the step: the room alone, or the mark shaded from the lamp."""
        self.aside = aside
        self.changed()

    def note(self, text: str, reading_id: str | None = None) -> None:
        """Keep a remark, on a reading or on the present step."""
        self._add(EventKind.NOTE, reading_id=reading_id, step_id=self.step_at_work, reason=text)

    def dark_calibrated(self) -> None:
        """Note that the meter's dark signal was taken."""
        meter, row_id = self.meter, new_id()
        if meter is None:
            self._add(EventKind.DARK_CALIBRATED)
            return
        event = self._next_event(EventKind.DARK_CALIBRATED, new=meter.nickname, old=row_id)
        self._save(Calibration(row_id, meter.id, self.now(), "dark"), told=event)

    @property
    def dark_calibrated_at(self) -> datetime | None:
        """When the dark signal was last taken in this session."""
        times = [e.at for e in self.state.live_events if e.kind is EventKind.DARK_CALIBRATED]
        return times[-1] if times else None


def _figures_of(reading_id: str, spectrum: Spectrum | None) -> list[Computed]:
    """The figures of a spectrum; none of a dark or broken one, which stays as it was read."""
    if spectrum is None:
        return []
    try:
        return [computed_figures(reading_id, spectrum)]
    except SpectrumError:
        return []


def _typed_value(entry: Entry) -> Value:
    return Value(
        quantity=entry.quantity or "",
        value=entry.value,
        origin=Origin.TYPED,
        low=entry.low,
        high=entry.high,
        text=entry.text.strip(),
        unit=entry.unit,
        qualifier=entry.qualifier,
    )


def _is_typed(reading: Reading) -> bool:
    return any(value.origin is Origin.TYPED for value in reading.values)
