"""What the Bench asks in dialogs and menus: which lamp, which terms, which run, which session, what was seen."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QMenu

from even_beam.answers.bench import view as bench_view
from even_beam.answers.bench.step_terms import differences
from even_beam.app.stations.bench.lamp_dialog import LampDialog
from even_beam.app.stations.bench.look_dialog import LookDialog
from even_beam.app.stations.bench.observation_dialog import ObservationDialog
from even_beam.app.stations.bench.run_dialog import RunDialog
from even_beam.app.stations.bench.terms_dialog import Scope, TermsDialog
from even_beam.bench.observations import ANSWERS
from even_beam.bench.target import Look
from even_beam.bench.terms import terms_line
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.document import Document
from even_beam.desk.session.photos import PhotoError
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.app.stations.bench.station import BenchStation


class Questions:
    """Asks on behalf of a station, and does what was answered."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station

    @property
    def _desk(self) -> SessionDesk:
        return self._station.desk

    @property
    def _document(self) -> Document:
        document = self._station.document
        if document is None:
            raise RuntimeError("the Bench has no logbook")
        return document

    def name_lamp(self) -> None:
        """Which lamp was read, or will be."""
        document, desk = self._document, self._desk
        unnamed = [m.reading.id for m in desk.measured if not m.reading.source_ids and m.terms.mode != "off"]
        proposal = self._station.typing.proposal
        waiting = proposal.understood if proposal is not None else ""
        dialog = LampDialog(self._station.window(), document.kit.lamps(), len(unnamed), waiting)
        if not dialog.exec():
            return
        source_id = dialog.source_id
        if dialog.new_name:
            source_id = document.kit.add_lamp(LampForm(dialog.new_name)).id
        if source_id is not None:
            if unnamed:  # what was set for them was set for this lamp
                desk.free_source = source_id
                desk.name_source(unnamed, source_id)
            else:
                desk.turn_to(source_id)
        self._station.refresh()
        self._station.typing.look_again()

    def name_lamp_of(self, reading_id: str) -> str:
        """Which lamp an earlier reading was of; what was done in words."""
        document, desk = self._document, self._desk
        dialog = LampDialog(self._station.window(), document.kit.lamps(), 0)
        if not dialog.exec():
            return ""
        source_id = document.kit.add_lamp(LampForm(dialog.new_name)).id if dialog.new_name else dialog.source_id
        if source_id is None:
            return ""
        desk.name_source([reading_id], source_id)
        return f"It is a reading of {desk.name_of((source_id,))} now."

    def terms(self) -> None:
        """The terms of the next readings, or corrected on earlier ones."""
        desk = self._desk
        last = desk.state.last_reading
        scopes = [] if desk.is_run and desk.step is not None else [Scope("the next readings")]
        if last is not None:
            scopes += [
                Scope("the last reading", (last.reading.id,)),
                Scope("every reading since the terms were the same", bench_view.stretch_of(desk, last.reading.id)),
                Scope("every reading of this session with these terms", bench_view.same_terms(desk, last.reading.id)),
            ]
        if not scopes:
            self._station.host.say("The terms of a run are its steps: + inserts another one")
            return
        start = desk.free_terms if not scopes[0].reading_ids else last.reading.terms if last else desk.free_terms
        dialog = TermsDialog(self._station.window(), start, scopes, self._station.host.settings().distance_unit)
        if not dialog.exec():
            return
        if not dialog.scope.reading_ids:
            desk.free_terms = dialog.terms
            self._station.typing.look_again()
        else:
            desk.correct_all(dialog.scope.reading_ids, differences(start, dialog.terms))
            self._station.tell(
                "Terms corrected", "The old terms stay beside the new; reports mark it. Ctrl Z undoes it."
            )
        self._station.refresh()

    def run(self) -> None:
        """A whole run: lamps, whites, levels, distance, meter, repeats."""
        document, station = self._document, self._station
        lamps, meters = document.kit.lamps(), document.kit.meters()
        if not lamps or not meters:
            station.host.say("A run needs a lamp and a meter: add them in the Kit, or name a lamp with Alt L")
            return
        name = f"Run of {document.clock():%-d %B}"
        settings = station.host.settings()
        dialog = RunDialog(
            parent=station.window(),
            lamps=lamps,
            meters=meters,
            unit=settings.distance_unit,
            estimate=document.estimate,
            cautions=document.cautions_for,
            name=name,
        )
        if dialog.exec() and dialog.sweep is not None:
            document.plan_run(dialog.sweep, dialog.meter, dialog.name, dialog.question)
            station.tell("Before you begin", " ".join(document.cautions_for(dialog.sweep)))

    def session(self) -> None:
        """Which session to work on."""
        document = self._document
        menu = QMenu(self._station)
        for session in reversed(document.logbook.sessions()):
            action = menu.addAction(f"{session.name}   {session.created_at:%-d %b %Y}")
            if action is not None:
                action.triggered.connect(lambda _, chosen=session: document.work_on(chosen))
        menu.addSeparator()
        new = menu.addAction("A new session: just read")
        if new is not None:
            new.triggered.connect(self._station.lines.new_session)
        menu.exec(self._station.mapToGlobal(QPoint(24, 12)))

    def observe(self) -> None:
        """What was seen or heard of the lamp at work, with photos."""
        desk, station = self._desk, self._station
        last = desk.state.last_reading
        sources = desk.next_sources or (last.reading.source_ids if last is not None else ())
        here = desk.state.step
        of_step = here is not None and any(set(here.step.quantities) <= asked for asked in ANSWERS.values())
        is_of_last = last is not None and last.reading.source_ids == sources and not of_step
        terms = last.reading.terms if last is not None and is_of_last else desk.next_terms
        seen = [one.sentence for one in desk.observations() if one.source_ids == sources]
        of = f"{desk.name_of(sources)} · {terms_line(terms)}"
        others = [(one.id, one.nickname) for one in desk.sources.values() if one.id not in sources]
        others.sort(key=lambda one: one[1].casefold())
        thumbnails = [photo.thumbnail for photo in desk.photos()]
        dialog = ObservationDialog(station.window(), of, seen, thumbnails, others if sources else ())
        if not dialog.exec():
            return
        try:
            kept = desk.observe(
                subject=dialog.subject,
                finding=dialog.finding,
                note=dialog.note,
                source_ids=(*sources, dialog.beside) if dialog.beside else sources,
                terms=terms,
                photos=dialog.photos,
            )
        except PhotoError as error:
            station.tell("The photo was not kept", str(error), in_doubt=True)
            return
        photos = f" With {len(dialog.photos)} photo{'s' * (len(dialog.photos) > 1)}." if dialog.photos else ""
        station.tell("Noted, as an opinion", f"{kept.sentence}.{photos} Ctrl Z takes it back.")

    def look(self) -> None:
        """Begin, change, keep or leave target mode; or come back to a look."""
        desk, station = self._desk, self._station
        looks = desk.looks()
        if desk.target is None and not looks:
            station.lines.target()
            return
        dialog = LookDialog(station.window(), desk.target, looks)
        if not dialog.exec():
            return
        if dialog.wants_target:
            station.lines.target()
        elif dialog.leaves:
            desk.set_target(None)
            station.tell("Target left", "Its readings stay. Alt G sets one again.")
        elif dialog.kept_name:
            self.keep_look(dialog.kept_name)
        elif dialog.chosen is not None:
            self.come_back_to(dialog.chosen)

    def keep_look(self, name: str) -> None:
        """Keep the target with the readings made towards it."""
        look = self._desk.keep_look(name)
        readings = notation.count(len(look.reading_ids), "reading")
        words = f"{name}: {look.target.words}, with {readings}. Alt G comes back to it in any session."
        self._station.tell("White kept", words)

    def come_back_to(self, look: Look) -> None:
        """Match a kept look again in the session at work."""
        self._desk.set_target(look.target)
        self._station.tell(
            "Match it again",
            f"{look.name} of {look.at:%-d %B %Y}: read each source; the list says how far it has moved since.",
        )
