"""The Bench: the next step in large type, the figures of the reading just taken, the second look, the sheet."""

import sys
from collections.abc import Callable
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QVBoxLayout

from even_beam.answers.bench import done, moved
from even_beam.answers.bench import view as bench_view
from even_beam.answers.bench.line import LineShown
from even_beam.answers.bench.spoken import reading_words
from even_beam.answers.bench.tone_samples import Tone
from even_beam.app.keys import KeyHint, offered
from even_beam.app.station import Host, Station
from even_beam.app.stations.bench import acts
from even_beam.app.stations.bench.acts import When
from even_beam.app.stations.bench.board import Board
from even_beam.app.stations.bench.target_answer import TargetAnswer
from even_beam.app.stations.bench.typing import Typing
from even_beam.app.stations.bench.waiting import Waiting
from even_beam.app.tone_player import Tones
from even_beam.app.widgets.veil import Veil
from even_beam.bench.limits import ImpossibleError
from even_beam.bench.records import Step
from even_beam.bench.terms import terms_line
from even_beam.bench.traces import Trace
from even_beam.collection.files import SUFFIX
from even_beam.desk.session.desk import Aside, Asked, SessionDesk, Taken
from even_beam.desk.session.document import Document
from even_beam.desk.session.photos import PhotoError
from even_beam.instruments.protocols import InstrumentError, MeterReading
from even_beam.logbook import LogbookError
from even_beam.shell.job import Job
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.app.stations.bench.by_itself import ByItself
    from even_beam.app.stations.bench.earlier import Earlier
    from even_beam.app.stations.bench.file_intake import FileIntake
    from even_beam.app.stations.bench.line_acts import LineActs
    from even_beam.app.stations.bench.questions import Questions
    from even_beam.app.stations.bench.reader_window import ReaderWindow
    from even_beam.formats import NamedSpectrum

HOLD_MS = 600
_STEPS: dict[int, int] = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
_PAGES: dict[int, str] = {Qt.Key.Key_PageDown: "PgDn", Qt.Key.Key_PageUp: "PgUp"}


class BenchStation(Station):
    """Everything of a session at work. All of it goes by one hand on the number pad."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._taken: Taken | None = None
        self.typing, self.waiting = Typing(self), Waiting(self)
        self._line_for: Callable[[str], None] = self.typing.enter
        self._reading = False
        self._at_the_meter: Job | None = None
        self._hold = QTimer(self)
        self._hold.setSingleShot(True)
        self._hold.setInterval(HOLD_MS)
        self._hold.timeout.connect(self._held)
        self._stale = QTimer(self)  # what this station itself does is shown at once, and only once
        self._stale.setSingleShot(True)
        self._stale.timeout.connect(self.refresh)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAcceptDrops(True)
        self.board = Board()
        self.board.entry.confirmed.connect(self._line_confirmed)
        self.board.entry.left.connect(self.close_line)
        self.board.look.pressed.connect(self.press)
        self.board.sheet.step_chosen.connect(self._jump)
        self.reader: ReaderWindow | None = None
        self._veil: Veil | None = None
        self.tones = Tones(host.say)
        self._target_answer = TargetAnswer(self)
        self._clock = QTimer(self)  # how long the light has stood as it is
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self._show_since)
        self._clock.start()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.board)

    # --- its helpers, each loaded with what it needs when it is first wanted: the window opens without them

    @cached_property
    def _commands(self) -> dict[str, Callable[[], object]]:
        return {
            "*": self._again,
            "/": self._take_back,
            "-": self._moved,
            "+": self.lines.insert_step,
            "N": self.lines.note,
            "L": self._questions.name_lamp,
            "T": self._questions.terms,
            "R": self._questions.run,
            "I": self._inspect,
            "S": self._skip,
            "D": self._dark,
            "Q": self._questions.session,
            "W": self._open_reader,
            "B": self._room_light,
            "Y": self.lines.lamp_shows,
            "J": self._questions.observe,
            "G": self._questions.look,
            "A": self.by_itself.begin,
            "C": self.lines.decide,
            "O": self.lines.with_and_without,
            "H": self.lines.set_aside,
            "K": self.lines.conditions,
            "M": self._next_meter,
            "U": self.undo_down_to,
            "E": self._earlier.open,
            "PgDn": lambda: self._next_level(1),
            "PgUp": lambda: self._next_level(-1),
        }

    @cached_property
    def by_itself(self) -> "ByItself":
        """The run that reads by itself."""
        from even_beam.app.stations.bench.by_itself import ByItself

        return ByItself(self)

    @property
    def _runs_by_itself(self) -> bool:
        return "by_itself" in self.__dict__ and self.by_itself.is_under_way

    @cached_property
    def lines(self) -> "LineActs":
        """What the entry line takes beside figures."""
        from even_beam.app.stations.bench.line_acts import LineActs

        return LineActs(self)

    @cached_property
    def _questions(self) -> "Questions":
        from even_beam.app.stations.bench.questions import Questions

        return Questions(self)

    @cached_property
    def _earlier(self) -> "Earlier":
        from even_beam.app.stations.bench.earlier import Earlier

        return Earlier(self)

    @cached_property
    def _files(self) -> "FileIntake":
        from even_beam.app.stations.bench.file_intake import FileIntake

        return FileIntake(
            parent=self,
            jobs=self.host.jobs,
            keep=self._keep_spectrum,
            keep_traces=self._keep_traces,
            imported=self._imported,
            walk=self._earlier.walk,
            unit=lambda: self.host.settings().distance_unit,
            failed=self._file_failed,
        )

    # --- showing

    @property
    def desk(self) -> SessionDesk:
        """The session at work."""
        if self.document is None:
            raise RuntimeError("the Bench has no logbook")
        return self.document.bench()

    def show_document(self, document: Document) -> None:
        """Work on another logbook."""
        self.document = document
        document.session_changed.connect(self._session_changed)
        document.readings_changed.connect(self._stale.start)
        self._session_changed()

    @property
    def is_free(self) -> bool:
        """Whether it is in view and nothing is being read, typed or decided."""
        shown = self.isVisible() and self._on_bench and not self._reading and not self._runs_by_itself
        return shown and not self.board.entry.isVisible() and not self._in_doubt

    @property
    def _on_bench(self) -> bool:
        return self.document is not None and self.document.desk is not None

    def _session_changed(self) -> None:
        self._taken = None
        self.guarded(self.typing.keep_undecided)
        self.close_line()
        self.refresh()
        if self._on_bench:
            self.board.greet(self.desk)

    def refresh(self) -> None:
        """Show the state of the session."""
        self._stale.stop()
        if self.document is None or self.document.desk is None:
            self.board.show_nothing()
        else:
            self.board.show_state(self.desk, self.host.settings(), self._taken, self.typing.proposal)
            self._target_answer.refresh()
            self._show_reader()
        self.head_changed.emit()
        self.hints_changed.emit()

    def _show_reader(self) -> None:
        if self.reader is not None and self.reader.isVisible():
            from even_beam.answers.bench.reader import reader_text

            self.reader.show_text(reader_text(self.desk, self.host.settings(), self._taken, self.typing.proposal))

    def hints(self) -> tuple[KeyHint, ...]:
        """The keys that matter now."""
        if self._runs_by_itself:
            return self.by_itself.hints
        if self.board.entry.isVisible():
            return acts.TYPING
        if self._in_doubt:
            return acts.foot(When.DOUBT)
        return acts.foot(When.RUN if self._on_bench and self.desk.is_run else When.JUST_READING)

    def head(self) -> tuple[tuple[str, ...], str]:
        """Session, meter, ambient; and how far the run is."""
        if self.document is None or self.document.desk is None:
            return ("no session yet",), ""
        return bench_view.head_line(self.desk), bench_view.progress_words(self.desk)

    @property
    def _in_doubt(self) -> bool:
        if self.typing.proposal is not None:
            return True
        return self._on_bench and self.desk.pending_doubt is not None

    # --- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Every key is the run's that reads by itself, else the session's; those with Ctrl are the window's."""
        with_ctrl = event is not None and event.modifiers() & Qt.KeyboardModifier.ControlModifier
        if event is None or with_ctrl or not self._runs_by_itself:
            self._key_pressed(event)
        elif not event.isAutoRepeat():
            self.by_itself.takes(event.key())

    def _key_pressed(self, event: QKeyEvent | None) -> None:
        """Digits and letters open the entry line; the pad's operators are commands, and letters with Alt."""
        if event is None or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            super().keyPressEvent(event)
            return
        if event.modifiers() & Qt.KeyboardModifier.AltModifier:
            self._with_alt(event)
            return
        text = event.text()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if not event.isAutoRepeat():
                self.press("Enter")
        elif text and (text.isalnum() or text in ".=½¼"):
            if not event.isAutoRepeat():
                self._type("" if text == "=" else text)
        elif event.key() in _PAGES:
            self.press(_PAGES[event.key()])
        elif text == "+" and self._in_doubt:
            if not event.isAutoRepeat():
                self._hold.start()
        elif text and text in self._commands and not event.isAutoRepeat():
            self.press(text)
        elif event.key() == Qt.Key.Key_Escape and self._escaped():
            return
        else:
            super().keyPressEvent(event)

    def _with_alt(self, event: QKeyEvent) -> None:
        """An act by its letter, whatever stands in the line; all else with Alt is the window's."""
        if event.key() in _STEPS:
            self._another_step(_STEPS[event.key()])
            return
        letter = chr(event.key()) if 0 < event.key() < sys.maxunicode else ""
        if letter in acts.OF_A_LETTER and not event.isAutoRepeat():
            if self.board.entry.isVisible():
                self.close_line()
            self.press(letter)
        else:
            super().keyPressEvent(event)

    def _type(self, text: str) -> None:
        if self.document is not None and not self._reading:
            self.typing.open(text)

    def _escaped(self) -> bool:
        """Leave a meter that does not answer, what waits for a decision, or what is read beside the run; False when
        there is nothing to leave."""
        if self._reading:
            self._leave_meter()
        elif self.typing.proposal is not None:
            self.typing.give_up()
        elif self._on_bench and self.desk.step is None and self._in_doubt:
            self.guarded(self._take_back)  # no step is left that would be read again for it
        elif self._on_bench and self.desk.aside is not Aside.NONE:
            self.desk.read_aside(Aside.NONE)
        else:
            return False
        return True

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        """Letting go of `+` too early keeps nothing."""
        if event is not None and event.text() == "+" and not event.isAutoRepeat() and self._hold.isActive():
            self._hold.stop()
            self.host.say("Hold + a little longer to keep a figure in doubt")
        super().keyReleaseEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does; a click on the foot comes here too, with the Alt that stands there."""
        key = key.removeprefix(acts.ALT)
        if self.board.entry.isVisible() and key in {"Enter", "Esc", ";"}:
            self._press_in_line(key)
            return
        if self.document is None or self._reading:
            return
        if self._runs_by_itself:
            self.by_itself.takes({"Enter": Qt.Key.Key_Return, "Esc": Qt.Key.Key_Escape}.get(key, Qt.Key.Key_Space))
            return
        if key == "Enter":
            self._reflex()
        elif key == "*" and self._in_doubt:
            self.typing.choose_candidate()
        elif key == "/" and self.typing.proposal is not None:
            self.typing.give_up()
        elif key == "+" and self._in_doubt:
            self._held()
        elif key in self._commands:
            self.guarded(self._commands[key])
        if not self.board.entry.isVisible():
            self.setFocus()

    def _press_in_line(self, key: str) -> None:
        """What the foot offers while a line is typed."""
        if key == "Enter":
            self._line_confirmed(self.board.entry.text)
        elif key == "Esc":
            self.close_line()

    def tell(self, title: str, words: str, *, in_doubt: bool = False, keys: tuple[KeyHint, ...] = ()) -> None:
        """Say what was done, where the second look stands, and to whoever listens."""
        self.board.look.show_look(title, words, in_doubt=in_doubt, keys=keys)
        self.host.announce(" ".join(part for part in (f"{title}.", words, offered(keys)) if part))

    def forget_taken(self) -> None:
        """Show the state rather than the reading just taken."""
        self._taken = None

    def guarded(self, act: Callable[[], object]) -> None:
        """Do something with the logbook, and say calmly what went wrong."""
        try:
            act()
        except LogbookError as error:
            self.sound(Tone.FAULT)
            self.tell(error.what, f"{error.kept} {error.do}", in_doubt=True)
        except ImpossibleError as error:
            self.sound(Tone.IN_DOUBT)
            self.tell(
                "Not kept", f"{notation.sentence(str(error))}. Type it again, or choose what it was.", in_doubt=True
            )

    # --- reading

    def _reflex(self) -> None:
        """Enter: read, or in doubt read again. It never keeps a figure in doubt."""
        if self.typing.proposal is not None:
            self.typing.read_again()
            return
        if not self.desk.can_read:
            self.typing.open()
        elif self.waiting.may_read():
            self.guarded(self._read_meter)

    def _read_meter(self) -> None:
        document, meter = self.document, self.desk.meter
        if document is None or meter is None:
            return
        document.set_simulated_lamps()
        try:
            instrument = document.instruments.meter(meter)
        except InstrumentError as error:
            self.tell("Type the figure", str(error))
            return
        self._reading = True
        self._fade(True)
        desk, asked = self.desk, self.desk.asked_now()
        self._at_the_meter = self.host.jobs.run(
            "read the meter",
            lambda job: instrument.read(),
            lambda raw: self._arrived(desk, asked, raw),
            self._reading_failed,
        )

    def _leave_meter(self) -> None:
        """Wait no longer for a meter that does not answer: what it says later is not kept."""
        if self._at_the_meter is not None:
            self._at_the_meter.cancel()
        self._at_the_meter, self._reading = None, False
        self._fade(False)
        self.tell("Left", "The meter had not answered yet, and what it says now is not kept. Enter asks it again.")
        self.refresh()

    @property
    def veil(self) -> Veil:
        """What darkens the whole window, made when it is first needed."""
        if self._veil is None:
            self._veil = Veil(self.window() or self)
        return self._veil

    def _fade(self, dark: bool) -> None:
        """Both windows give off next to no light while the meter reads, unless that is switched off."""
        settings = self.host.settings()
        if dark and not (settings.fade and settings.theme == "studio"):
            return
        for veil in (self.veil, *((self.reader.veil,) if self.reader is not None else ())):
            if dark:
                veil.fade_in()
            else:
                veil.fade_out()

    def _arrived(self, desk: SessionDesk, asked: Asked, raw: MeterReading) -> None:
        """Keep a reading where it was asked for, which may not be what is asked now."""
        self._reading = False
        self._fade(False)
        self.guarded(lambda: self._keep_arrived(desk, asked, raw))

    def _keep_arrived(self, desk: SessionDesk, asked: Asked, raw: MeterReading) -> None:
        there = self.document.desk_of(desk.session.id) if self.document is not None else desk
        taken = there.take(raw, asked=asked)
        if there is self.desk:
            self.show_taken(taken)
        else:
            self.tell(
                "Kept where it was asked for", f"The reading stands in “{there.session.name}”: {taken.look.title}."
            )

    def let_go(self) -> None:
        """A reading that is under way is given up with its logbook; the light comes back. A figure that waits for a
        decision is kept, in doubt."""
        self.rest()
        self.guarded(self.typing.keep_undecided)
        self._stale.stop()  # nothing is to be shown of it any more
        if self._reading:
            self._reading = False
            self._fade(False)
            self.tell("Not kept", "The reading that was under way was given up when its logbook was closed.")

    def rest(self) -> None:
        """Put to rest what is lit."""
        if "by_itself" in self.__dict__:
            self.by_itself.rest()

    def sound(self, verdict: Tone) -> None:
        """A tone for whoever does not look, unless tones are off."""
        if self.host.settings().tones:
            self.tones.play(verdict)

    def _reading_failed(self, error: Exception) -> None:
        self.sound(Tone.FAULT)
        self._reading = False
        self._fade(False)
        self.tell("The meter gave no reading", f"{error}. Nothing was lost; Enter tries again.", in_doubt=True)

    def show_taken(self, taken: Taken) -> None:
        """Show a reading that was kept, with its second look."""
        self._taken = taken
        self.typing.forget()
        look = taken.look
        words = " ".join([look.text, *(cause.text for cause in look.causes[:2])]) if look.in_doubt else look.text
        pending = look.in_doubt and not taken.measured.state.kept_in_doubt
        title = "Kept, in doubt" if look.in_doubt and not pending else look.title
        self.sound(Tone.IN_DOUBT if pending else Tone.FITS)
        keys = acts.IN_DOUBT if pending else ()
        self.board.look.show_look(title, words, in_doubt=look.in_doubt, keys=keys)
        spoken = reading_words(self.desk, self.host.settings(), taken, title)
        self.host.announce(f"{spoken} {offered(keys)}".rstrip())
        self.refresh()

    # --- typing

    def open_line(
        self, text: str, caption: str, understand: Callable[[str], LineShown], confirmed: Callable[[str], None]
    ) -> None:
        """Open the entry line for something else than a figure."""
        self._line_for = confirmed
        self.board.hide_figures()
        self.board.entry.open_with(text, caption, understand)
        self.hints_changed.emit()

    def _line_confirmed(self, text: str) -> None:
        if not text.strip():
            self.close_line()
            return
        self._line_for(text)

    def close_line(self) -> None:
        """Close the entry line and show the figures again."""
        self.board.entry.close_line()
        self.hints_changed.emit()
        if self._on_bench:
            self.board.show_figures(self.desk, self.host.settings(), self._taken, self.typing.proposal)
        self.setFocus()

    def type_figure(self, text: str) -> None:
        """Enter a typed line as the entry line does."""
        self.typing.enter(text)

    def _held(self) -> None:
        """`+` was held: keep the figure in doubt, or take the candidate that is offered."""
        self._hold.stop()
        self.guarded(self._keep)

    def _keep(self) -> None:
        if self.typing.keep():
            return
        pending = self.desk.pending_doubt
        if pending is not None:
            self.desk.keep_in_doubt(pending.reading.id)
            self.tell("Kept, in doubt", "It counts, and every figure that uses it says so.", in_doubt=True)

    # --- commands

    def _room_light(self) -> None:
        """Round the three: the room alone, the mark shaded from the lamp, back to the run."""
        order = list(Aside)
        self._taken = None
        self.desk.read_aside(order[(order.index(self.desk.aside) + 1) % len(order)])
        self.refresh()
        self.tell(*bench_view.aside_words(self.desk.aside))

    def name_lamp_of(self, reading_id: str) -> str:
        """Which lamp an earlier reading was of."""
        return self._questions.name_lamp_of(reading_id)

    def _next_meter(self) -> None:
        """Without a run, the next meter of the Kit; after the last one that is not named."""
        if self.desk.step is not None:
            self.host.say("A run names the meter of each step: Alt R plans another")
            return
        meter = self.desk.choose_next_meter()
        self.refresh()
        name = meter.nickname if meter is not None else "A meter that is not named"
        self.tell(name, bench_view.meter_words(self.desk))

    def _next_level(self, by: int) -> None:
        """Without a run, the next level of the sweep, or the one before."""
        if self.desk.step is not None:
            self.host.say("A run names its levels: Alt S leaves a step out")
            return
        self._taken = None
        self.desk.go_to_level(by)
        self.refresh()

    def _show_since(self) -> None:
        if self.isVisible() and self._on_bench and not self._reading:
            self.board.show_since(bench_view.since_words(self.desk), bench_view.countdown_words(self.desk))

    def _again(self) -> None:
        if not self.desk.ask_again():
            self.host.say("Nothing was read yet that could be read again")
            return
        self._taken = None
        self._reflex()

    def _take_back(self) -> None:
        taken_back = self.desk.take_back()
        self._taken = None
        if taken_back is None:
            self.host.say("There is no reading to take back")
            return
        self.tell("Taken back", "The reading stays in the logbook, marked. Ctrl Z brings it back.")
        self.refresh()

    def _moved(self) -> None:
        """Ask since when, as far as there is a choice, and mark what was read since."""
        from even_beam.app.stations.bench.list_dialog import ListDialog

        self._taken = None
        choices, place = moved.choices(self.desk, self.host.settings()), 0
        if not choices:
            self.host.say("Nothing was read yet")
            return
        if len(choices) > 1:
            lines = [choice.words for choice in choices]
            dialog = ListDialog(self.window(), "Something moved: since when?", "Since this one", moved.ASKS, lines)
            if not dialog.exec():
                return
            place = dialog.place
        self.tell(*moved.mark(self.desk, choices[place], self.host.settings()), in_doubt=True)
        self.refresh()

    def _inspect(self) -> None:
        latest = self._taken.measured if self._taken is not None else bench_view.latest(self.desk)
        found = self.desk.logbook.spectra([latest.reading.id]) if latest is not None else {}
        if latest is None or latest.reading.id not in found:
            self.host.say("The last reading has no spectrum to show")
            return
        name = f"{self.desk.name_of(latest.reading.source_ids)} · {terms_line(latest.terms)}"
        self.host.show_spectrum(name, found[latest.reading.id])

    def _skip(self) -> None:
        if self.desk.step is None:
            self.host.say("There is no step to leave out")
            return
        self._taken = None
        self.desk.skip()
        self.tell("Left out", "The step stays on the sheet. Ctrl Z takes it in again.")

    def _dark(self) -> None:
        document, meter = self.document, self.desk.meter
        if document is None or meter is None or not meter.is_spectrometer:
            self.host.say("This meter is not dark-calibrated from here")
            return
        instrument = document.instruments.meter(meter)
        self._reading = True

        def done(_: object) -> None:
            self._reading = False
            self.guarded(self.desk.dark_calibrated)
            self.tell("Dark taken", "Keep the cap off from here on. Half an hour later it is due again.")

        self._at_the_meter = self.host.jobs.run(
            "dark calibration", lambda job: instrument.zero(), done, self._reading_failed
        )

    def _open_reader(self) -> None:
        """Open or close the window for whoever stands at the lamp."""
        from even_beam.app.stations.bench.reader_window import ReaderWindow

        if self.reader is None:
            self.reader = ReaderWindow(self)
        self.reader.setVisible(not self.reader.isVisible())
        self._show_reader()
        self.window().activateWindow()  # type: ignore[union-attr]

    def _another_step(self, by: int) -> None:
        """The step before or after the present one on the sheet; one that is finished is read again."""
        steps = [state.step.id for state in self.desk.state.steps] if self._on_bench else []
        if not steps or self._reading:
            self.host.say("There is no run whose steps one could go to")
            return
        here = steps.index(self.desk.step.step.id) if self.desk.step is not None else len(steps)
        if 0 <= here + by < len(steps):
            self._jump(steps[here + by])

    def _jump(self, step_id: str) -> None:
        if any(state.step.id == step_id for state in self.desk.state.steps):
            self._taken = None
            self.guarded(lambda: self.desk.go_to(step_id))
            self.setFocus()

    def undo(self) -> str | None:
        """Undo the last act of the session; what it was."""
        if not self._on_bench:
            return None
        if self.typing.proposal is not None:
            doubted = f"{self.typing.proposal.understood}, which was in doubt and not kept"
            self.typing.give_up()
            return doubted
        words = next(iter(done.done(self.desk)), None)
        self._taken = None
        undone = self.desk.undo()
        if undone is not None:
            self.tell(f"Undone: {words or undone}", done.standing(self.desk))
        return undone and (words or undone)

    def undo_down_to(self) -> None:
        """What was done, to be taken back from one act on."""
        from even_beam.app.stations.bench.list_dialog import ListDialog

        acts_done = done.done(self.desk)
        if not acts_done:
            self.host.say("Nothing was done yet that could be taken back")
            return
        words = "The newest first. Nothing is deleted: Ctrl Shift Z does it again."
        dialog = ListDialog(self.window(), "What was done", "Take it back, and all after it", words, acts_done)
        if dialog.exec():
            for _ in range(dialog.place + 1):
                self.undo()
            self.refresh()

    def redo(self) -> str | None:
        """Do it again."""
        self._taken = None
        return self.desk.redo() if self._on_bench else None

    # --- files

    def take_dropped(self, paths: list[Path]) -> None:
        """Files become readings; other logbooks are merged into this one."""
        logbooks = [path for path in paths if path.suffix == SUFFIX]
        if logbooks:
            self.host.merge(logbooks)
        if others := [path for path in paths if path not in logbooks]:
            self.take_files(others)

    def take_files(self, paths: list[Path]) -> None:
        """Spectra and traces become readings, tables of old tests sessions; photos go with the last reading."""
        from even_beam.formats.kinds import SNAPSHOTS  # not at start-up

        if self.document is None:
            return
        photos = [path for path in paths if SNAPSHOTS.takes(path)]
        for path in photos:
            self.guarded(lambda path=path: self._keep_photo(path))  # type: ignore[misc]
        if others := [path for path in paths if path not in photos]:
            self._files.take(others, self.document)

    def _keep_photo(self, path: Path) -> None:
        """A photo belongs to the last reading."""
        last = self.desk.state.last_reading
        if last is None:
            self.host.say("A photo is kept with a reading: read something first, or press Alt J")
            return
        try:
            self.desk.add_photo(path, last.reading.id)
        except PhotoError as error:
            self.tell("The photo was not kept", str(error), in_doubt=True)
            return
        self.tell(
            "Photo kept",
            f"{path.name}, with the last reading; position and time in it were left out. Ctrl Z takes it back.",
        )

    def _keep_spectrum(self, named: "NamedSpectrum", step: Step | None) -> None:
        self.guarded(lambda: self.show_taken(self.desk.take_spectrum(named, step)))

    def _keep_traces(self, traces: tuple[Trace, ...], name: str) -> None:
        self.guarded(lambda: self.show_taken(self.desk.take_traces(traces, name)))

    def _file_failed(self, error: Exception) -> None:
        self.tell("The file was not taken", f"{error}. Nothing was kept of it; the logbook is unharmed.", in_doubt=True)

    def _imported(self, words: str) -> None:
        self.tell("Old tests are in", f"{words} Sessions stand under Alt Q.")
