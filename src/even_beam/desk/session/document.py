"""The open logbook with everything that works on it: what the window holds."""

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from functools import cached_property
from itertools import groupby
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench.planning import cautions
from even_beam.bench.planning.costs import Costs, Learned, learned, seconds_needed
from even_beam.bench.planning.run_sheet import Plan
from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import Meter, Session, new_id
from even_beam.collection import files as documents
from even_beam.collection.collection import standing_in
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.shell.notice import Notice
from even_beam.shell.settings import Settings

if TYPE_CHECKING:
    from even_beam.desk.kit.desk import KitDesk
    from even_beam.logbook.store import Logbook

Clock = Callable[[], datetime]

LEARNED_FROM = 30
"""Costs are learned from so many of the newest sessions: hands get quicker."""


class Document:
    """One open logbook. `readings_changed` is told after any reading or event, `session_changed` when another session
    is at work."""

    def __init__(
        self, logbook: "Logbook", settings: Settings, clock: Clock, instruments: Instruments | None = None
    ) -> None:
        self.logbook = logbook
        self.settings = settings
        self.clock = clock
        self.instruments = instruments or Instruments(clock)
        self.readings_changed: Notice[[]] = Notice()
        self.session_changed: Notice[[]] = Notice()
        self.desk: SessionDesk | None = None
        while (session := logbook.last_worked_in()) is not None:
            self.work_on(session)
            if not logbook.is_set_apart(session.id):
                break
            self.desk = None  # of what cannot be read nothing is asked, and nothing is added to it

    @classmethod
    def open(cls, path: Path, settings: Settings, clock: Clock, instruments: Instruments | None = None) -> "Document":
        """Open (or begin) the logbook at `path`. Raises `LogbookError`."""
        document = cls(documents.open_or_create(path), settings, clock, instruments)
        documents.remember(path)
        return document

    def close(self) -> None:
        """Close the logbook."""
        self.logbook.close()

    @cached_property
    def kit(self) -> "KitDesk":
        """The things that the logbook knows, loaded when they are first asked for."""
        from even_beam.desk.kit.desk import KitDesk

        kit = KitDesk(self.logbook, self.clock)
        kit.changed.connect(self._kit_changed)
        for changed in (self.readings_changed, self.session_changed):
            changed.connect(kit.forget_readings)
        return kit

    def _kit_changed(self) -> None:
        if self.desk is None:
            return
        self.desk.reload_kit()
        if any(i not in self.desk.sources for m in self.desk.measured for i in m.reading.source_ids):
            self.work_on(self.desk.session)  # a lamp that was read goes on as another

    # --- sessions

    def work_on(self, session: Session) -> SessionDesk:
        """Put a session on the bench."""
        self.desk = SessionDesk(self.logbook, session, self.clock)
        self.desk.changed.connect(self.readings_changed)
        self.desk.costs = self.costs
        meters = list(self.desk.meters.values())
        last = next((m.reading.meter_id for m in reversed(self.desk.measured) if m.reading.meter_id), None)
        by_key = [meter for meter in meters if meter.is_spectrometer]
        if last is not None:
            self.desk.free_meter = last
        else:
            self.desk.offer_meter((by_key or meters)[0].id if meters else None)
        self.session_changed()
        return self.desk

    def desk_of(self, session_id: str) -> SessionDesk:
        """The desk of any session, to mark its readings; the one at work when it is that one."""
        if self.desk is not None and self.desk.session.id == session_id:
            return self.desk
        session = next(s for s in self.logbook.sessions() if s.id == session_id)
        desk = SessionDesk(self.logbook, session, self.clock)
        desk.changed.connect(self.readings_changed)
        return desk

    def begin(self, name: str, question: str = "", zone: str = "UTC") -> SessionDesk:
        """A new session on the bench."""
        session = Session(new_id(), name, self.clock(), zone, question)
        self.logbook.save(session)
        return self.work_on(session)

    def bench(self) -> SessionDesk:
        """The session at work; a first reading needs no form, so one is begun when there is none."""
        if self.desk is None:
            return self.begin(f"Readings of {self.clock():%-d %B %Y}")
        return self.desk

    def save_session(self, session: Session) -> None:
        """Keep the question, decision and disclosure of a session."""
        self.logbook.save(session)
        if self.desk is not None and self.desk.session.id == session.id:
            self.desk.session = session

    def note_described(self, before: Session) -> None:
        """One act of all that was changed of a session's words since then, which can be undone."""
        session = next(s for s in self.logbook.sessions() if s.id == before.id)
        desk = self.desk_of(before.id)
        desk.session = session
        desk.note_described(before)

    # --- runs

    def plan_run(self, sweep: Sweep, meter: Meter, name: str, question: str = "") -> SessionDesk:
        """A new session with the run sheet of a sweep."""
        session = Session(new_id(), name, self.clock(), "UTC", question)
        self.logbook.save(session, *run_sheet(sweep, session.id, meter))
        return self.work_on(session)

    def begin_plan(self, plan: Plan, name: str, question: str = "") -> SessionDesk:
        """A new session with the run sheet of a plan; the first of several when it is split over days."""
        days = plan.days
        sessions, every = [], []
        for number, steps in enumerate(days, start=1):
            title = name if len(days) == 1 else f"{name}, day {number} of {len(days)}"
            session = Session(new_id(), title, self.clock(), "UTC", question)
            every += [replace(step, session_id=session.id) for step in steps]
            sessions.append(session)
        self.logbook.save(*sessions, *every)
        return self.work_on(sessions[0])

    @property
    def costs(self) -> Costs:
        """What changes cost: the usual figures with the user's own."""
        return Costs().with_own(self.settings.costs)

    def learned_costs(self) -> Learned:
        """What earlier sessions say that changes cost."""
        newest = [session.id for session in self.logbook.sessions()[-LEARNED_FROM:]]
        standing = standing_in(self.logbook.history_of_sessions(newest))
        by_session = (tuple(own) for _, own in groupby(standing, lambda m: m.reading.session_id))
        return learned(by_session, {meter.id: meter for meter in self.kit.meters()}, self.costs)

    def estimate(self, sweep: Sweep, meter: Meter) -> tuple[int, float]:
        """Steps and seconds of a sweep."""
        steps = run_sheet(sweep, "", meter)
        return len(steps), seconds_needed(steps, {meter.id: meter}, self.costs)

    def cautions_for(self, sweep: Sweep) -> tuple[str, ...]:
        """What to mind in a run of these lamps at these distances."""
        kinds = {card.source.id: card.model.kind if card.model else "" for card in self.kit.lamps()}
        return cautions.for_run(tuple(kinds.get(i, "") for i in sweep.source_ids), sweep.distances_m)

    # --- instruments

    def set_simulated_lamps(self) -> None:
        """Let the simulated room follow what the next reading asks."""
        desk = self.bench()
        self.instruments.set_lamps([desk.sources[i] for i in desk.next_sources if i in desk.sources], desk.next_terms)
