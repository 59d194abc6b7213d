"""A run that reads by itself: turn by turn, what wires read is kept, and a person is asked for what no wire can.

Lamps are at rest whenever nothing is read: before, at the end, and however it ends.
"""

import time
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum
from typing import TYPE_CHECKING

from even_beam.answers.plan.hands import Hands, StopError
from even_beam.answers.plan.run_plan import RunPlan, begin_or_go_on, step_words
from even_beam.answers.plan.view import PlanError
from even_beam.bench import terms_in_words
from even_beam.bench.ambient import is_ambient, lamp_off
from even_beam.bench.records import Meter, Source, new_id
from even_beam.bench.run import StepState
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.session.desk import Aside, Asked, SessionDesk
from even_beam.desk.session.document import Document
from even_beam.instruments.bench_file import BenchFile
from even_beam.instruments.protocols import InstrumentError, MeterReading
from even_beam.shell.settings import Settings
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

MOST_DOUBTS = 3
"""So many doubts that stay, one after the other, stop a run."""
TELLS_TIME_EVERY = 10


class Kind(StrEnum):
    """What a turn is: a step, the room's own light, something that a person does, or what cannot be read."""

    LIT = "lit"
    ROOM = "room"
    BY_HAND = "by hand"
    LEFT_OUT = "left out"


@dataclass(frozen=True, slots=True)
class Turn:
    """What is next, in words; for a reading also what it belongs to, its meter, how long the plan lets it wait for the
    light, and how long it must be held: of one light again and again each moment is part of the figure."""

    kind: Kind
    words: str
    asked: Asked | None = None
    meter_id: str = ""
    wait_s: float = 0.0
    hold_s: float = 0.0


class WiredRun:
    """The run of the session at a desk with what is at hand. `turn` and `keep` are of the thread that the logbook
    belongs to; `read` may be of any other."""

    def __init__(self, desk: SessionDesk, hands: Hands) -> None:
        self._desk, self.hands = desk, hands
        self._placed: tuple[object, ...] | None = None
        self._doubts = self._read = 0
        self._turned_at, self._spent_s = 0.0, 0.0

    @property
    def is_done(self) -> bool:
        """Whether nothing of the sheet is left."""
        return self._desk.step is None

    @property
    def left(self) -> str:
        """Where it stopped and why, in words; empty for a sheet that is read to its end."""
        if self._desk.step is None:
            return ""
        return f"stopped before {step_words(self._desk)}: {self.hands.stopped or 'it ended.'}"

    def look_whether_it_can(self) -> None:
        """Raises `InstrumentError` where no meter of the steps that are left is on a wire."""
        left = {state.step.meter_id for state in self._desk.state.steps if not state.done}
        if left and not left & set(self.hands.meters):
            meters = self._desk.meters
            asked = sorted(
                meters[i].nickname if i in meters else "no meter that is named" for i in left if i is not None
            )
            there = sorted(meters[i].nickname for i in self.hands.meters if i in meters)
            reads, has = notation.listed(asked) or "no meter", notation.listed(there)
            raise InstrumentError(f"The sheet reads with {reads}, and the bench file has {has}: name them alike.")

    @property
    def begins_at(self) -> str:
        """What no wire can set or tell, and is taken to stand as the first step has it."""
        terms = self._desk.next_terms
        placed = terms_in_words.placement(terms)
        return f"{terms_in_words.configuration(terms)}, {placed}" if self._desk.step is not None else ""

    def turn(self) -> Turn | None:
        """What is next; None at the end, or where it was stopped."""
        desk, hands = self._desk, self.hands
        if desk.step is None or hands.stopped:
            return None
        sources, terms, meter = desk.next_sources, desk.next_terms, desk.meter
        if meter is None or meter.id not in hands.meters:
            return Turn(Kind.LEFT_OUT, f"left out, its meter is on no wire: {step_words(desk)}")
        if problem := hands.beyond(sources, terms):
            return Turn(Kind.LEFT_OUT, f"left out, {problem}: {step_words(desk)}")
        if self._placed is not None and hands.by_hand(sources, terms) != self._placed:
            return Turn(Kind.BY_HAND, f"by hand: {step_words(desk)}")
        self._placed = hands.by_hand(sources, terms)
        self._turned_at = time.monotonic()
        if self._wants_room(meter, sources):
            return Turn(Kind.ROOM, "the room alone", meter_id=meter.id)
        hold_s = self._hold_s(desk.step)
        wait_s = 0.0 if hold_s else desk.step.step.wait_s
        return Turn(Kind.LIT, step_words(desk), desk.asked_now(), meter.id, wait_s, hold_s)

    def _hold_s(self, state: StepState) -> float:
        """How long until a step is due that reads the light of the step before once more."""
        states = self._desk.state.steps
        place = next(n for n, one in enumerate(states) if one.step.id == state.step.id)
        before = states[place - 1] if place else None
        alike = before is not None and (before.step.terms, before.step.source_ids) == (
            state.step.terms,
            state.step.source_ids,
        )
        if before is None or not alike or not state.step.wait_s or state.readings or not before.readings:
            return 0.0
        due = before.readings[-1].reading.at + timedelta(seconds=state.step.wait_s)
        return max((due - self._desk.now()).total_seconds(), 0.0)

    def _wants_room(self, meter: Meter, sources: tuple[str, ...]) -> bool:
        """Whether the room's own light was not read yet where the meter stands, and can be."""
        if "illuminance" not in self.hands.meters[meter.id].quantities or not self.hands.can_be_dark(sources):
            return False
        off = lamp_off(self._desk.next_terms)
        read = [m for m in self._desk.measured if is_ambient(m) and m.state.counts and m.terms == off]
        here = [m for m in read if m.reading.meter_id == meter.id]
        if here:
            self.hands.know_dark(here[-1].value("illuminance"))
        return not here

    def left_out(self) -> None:
        """Leave the step out that cannot be read."""
        self._desk.skip()

    def move(self) -> None:
        """A person is to do something: lamps rest meanwhile."""
        self.hands.move()

    def moved(self) -> None:
        """The person has done it."""
        self._placed = self.hands.by_hand(self._desk.next_sources, self._desk.next_terms)

    def read(self, turn: Turn) -> MeterReading:
        """Do what a turn of reading asks. Raises `InstrumentError`."""
        if turn.kind is Kind.ROOM:
            return self.hands.read_dark(turn.meter_id)
        assert turn.asked is not None
        self.hands.hold(turn.hold_s)
        return self.hands.read_lit(turn.meter_id, turn.asked.source_ids, turn.asked.terms, turn.wait_s)

    def keep(self, turn: Turn, raw: MeterReading) -> str:
        """Commit what was read, and say so. A doubt is read again by the next turn, and kept in doubt when it stays.
        Raises `StopError` for doubts that do not end, and `LogbookError`."""
        desk = self._desk
        if turn.kind is Kind.ROOM:
            desk.read_aside(Aside.ROOM)
            taken = desk.take(raw)
            if taken.look.in_doubt:
                desk.keep_in_doubt(taken.measured.reading.id)
            desk.read_aside(Aside.NONE)
            verdict = ""
        else:
            assert turn.asked is not None
            again = desk.pending_doubt is not None
            taken = desk.take(raw, asked=replace(turn.asked, terms=self.hands.as_set(turn.asked.terms)))
            verdict = self._verdict(taken.look.title, taken.look.text if taken.look.in_doubt else "", again=again)
            if taken.look.in_doubt and again:
                desk.keep_in_doubt(taken.measured.reading.id)
        self._read += 1
        self._spent_s += time.monotonic() - self._turned_at
        level = notation.light(taken.measured.value("illuminance"))
        return f"committed {taken.measured.reading.sequence}  {turn.words}  {level}  {verdict}".rstrip()

    def look_whether_doubts_end(self) -> None:
        """Raises `StopError` where doubt after doubt stayed."""
        if self._doubts >= MOST_DOUBTS:
            raise StopError(f"{MOST_DOUBTS} doubts in a row stayed. Look at the bench.")

    def _verdict(self, title: str, doubt: str, *, again: bool) -> str:
        if not doubt:
            self._doubts = 0
            return title
        self._doubts += again
        return f"{'kept, ' * again}in doubt: {doubt}"

    @property
    def seconds_left(self) -> float | None:
        """What is left, by what a reading took so far, hands apart; None before that can be told."""
        if self._read < TELLS_TIME_EVERY:
            return None
        open_ = sum(max(state.required - state.taken, 0) for state in self._desk.state.steps if not state.done)
        return self._spent_s / self._read * open_

    def lines(self, ask: Callable[[str], bool]) -> Iterator[str]:
        """The whole run; a line after each committed reading. `ask` has a person do what no wire can, and says whether
        it is done."""
        try:
            self.look_whether_it_can()
            yield from self.hands.reach()
            yield f"taken to stand as the sheet has it: {self.begins_at}"
            while (turn := self.turn()) is not None:
                if turn.kind is Kind.LEFT_OUT:
                    self.left_out()
                    yield turn.words
                elif turn.kind is Kind.BY_HAND:
                    self.move()
                    yield turn.words
                    if not ask(turn.words):
                        self.hands.stop("nobody is there to set it by hand.")
                        break
                    self.moved()
                else:
                    yield self.keep(turn, self.read(turn))
                    self.look_whether_doubts_end()
                    if self._read % TELLS_TIME_EVERY == 0 and (left := self.seconds_left):
                        yield f"about {notation.span(left)} left"
        except InstrumentError as error:
            self.hands.stop(str(error))
        finally:
            self.hands.close()
        if self.left:
            yield f"{self.left} The same command goes on from there."


def hands_of(document: Document, bench: BenchFile, sources: Mapping[str, Source]) -> Hands:
    """What a bench file has at hand for lamps of the Kit; a meter that the Kit has not is added, with what it promises
    assumed. Raises `InstrumentError`."""
    meters = {_meter(document, bench, name).id: bench.meter(name) for name in bench.meters}
    by_name = {name.casefold(): name for name in bench.lamps}
    reached = {i: by_name[s.nickname.casefold()] for i, s in sources.items() if s.nickname.casefold() in by_name}
    lamps = {source_id: bench.lamp(name) for source_id, name in reached.items()}
    return Hands(meters, lamps, {i: sources[i].nickname for i in lamps})


def _meter(document: Document, bench: BenchFile, name: str) -> Meter:
    known = document.kit.meter_named(name)
    if known is not None:
        return known
    driver = bench.meter(name)
    kind = "spectrometer" if driver.has_spectrum else "light meter"
    quantities = Meter("", "").quantities if driver.has_spectrum else driver.quantities
    played = "stand-in" if bench.meters[name].settings.get("simulated") else ""
    made = Meter(new_id(), name, kind, quantities=quantities, notes="on a wire", simulated=played)
    document.logbook.save(made)
    return made


def begun(
    plan: RunPlan, logbook: "Logbook", clock: Callable[[], datetime], bench: BenchFile, *, anew: bool = False
) -> tuple[WiredRun, str]:
    """The run of a plan file, and what is to be said of one that goes on. Raises `PlanError` and `InstrumentError`."""
    document = Document(logbook, Settings(), clock)
    sources = {source.id: source for source in (_source(document, bench, name) for name, _ in plan.lamps)}
    hands = hands_of(document, bench, sources)
    by_wire = [meter for meter in document.kit.meters() if meter.id in hands.meters]
    ordered = sorted(by_wire, key=lambda meter: not hands.meters[meter.id].has_spectrum)
    taken_up = begin_or_go_on(document, plan, list(sources.values()), ordered, anew=anew)
    return WiredRun(document.bench(), hands), taken_up


def _source(document: Document, bench: BenchFile, name: str) -> Source:
    kit = document.kit
    found = kit.lamp_named(name)
    if found is not None:
        return found
    if name.casefold() not in {one.casefold() for one in bench.lamps}:
        there = ", ".join(bench.lamps) or "none"
        raise PlanError(f"“{name}” is neither in the Kit nor in the bench file, which has {there}")
    try:
        return kit.add_lamp(LampForm(name, "film light"))
    except FormError as error:
        raise PlanError(str(error)) from error
