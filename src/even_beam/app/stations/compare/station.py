"""Compare: five questions of lamps on even terms; each the answer first, then its pictures and its figures."""

from collections.abc import Callable, Hashable
from dataclasses import replace

from PyQt6.QtGui import QGuiApplication, QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from even_beam.answers.compare import readings_behind
from even_beam.answers.compare.answer import MOST_LIT, WHOLE, Answers, Question, Shown
from even_beam.answers.compare.chips import CHOICES
from even_beam.answers.compare.questions import Ask
from even_beam.answers.compare.readings_behind import ReadingLine
from even_beam.app import keys
from even_beam.app.asker import Asker
from even_beam.app.station import Host, Station, key_of
from even_beam.app.stations.compare.answer_view import AnswerView
from even_beam.app.stations.compare.readings_dialog import ReadingsDialog
from even_beam.app.widgets.drawer import Drawer
from even_beam.app.widgets.lamp_list import LampList
from even_beam.app.widgets.text import Hairline, label
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.document import Document
from even_beam.shell.job import Job

_PRESSED = frozenset("12345AEILMOPST")


class CompareStation(Station):
    """Any lamps of a session or of the whole logbook. It asks in a worker, and shows the answer."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._answers: Answers | None = None
        self._question = Question()
        self._shown: Shown | None = None
        self._asker = Asker(host.jobs, host.say, host.unsay)
        self._selected = ""
        self._marked: list[SessionDesk] = []  # where readings were set aside, the newest last
        self._build()

    def _build(self) -> None:
        self._lamps = LampList()
        self._lamps.toggled.connect(self._toggle)
        self._lamps.looked_at.connect(self._look_at)
        self._filter = QLineEdit()
        self._filter.setPlaceholderText("find a lamp")
        self._filter.setAccessibleName("Find a lamp")
        self._filter.setClearButtonEnabled(True)
        self._filter.textChanged.connect(self._lamps.show_only)
        self._counted = label("", "coming")
        self._answer = AnswerView()
        self._answer.headline.told.connect(self.host.announce)
        self._answer.chosen.connect(self.select)
        self._answer.bar.asked.connect(self.ask)
        self._answer.terms.asked.connect(self.ask_term)
        self._answer.terms.taken.connect(self.leave_term)
        left = QVBoxLayout()
        left.setContentsMargins(16, 14, 16, 12)
        left.setSpacing(6)
        left.addWidget(self._counted)
        left.addWidget(self._filter)
        left.addWidget(self._lamps, 1)
        side = QWidget()
        side.setLayout(left)
        self.drawer = Drawer(self, side, self._lamps, width=212, name="Lamps")
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addWidget(self.drawer)
        frame.addWidget(Hairline(vertical=True))
        frame.addWidget(self._answer, 1)
        self.setFocusProxy(self._lamps)

    # --- asking

    def show_document(self, document: Document) -> None:
        """Compare the lamps of another logbook."""
        self.document = document
        self._answers = Answers(document.logbook.path)
        self._question, self._shown, self._marked = Question(), None, []
        for changed in (document.readings_changed, document.session_changed, document.kit.changed):
            changed.connect(self._mark_stale)
        self._asker.stale = True

    def let_go(self) -> None:
        """Close the connection by which questions were answered: the file is to stand alone."""
        if self._answers is not None:
            self._answers.forget()

    def _mark_stale(self) -> None:
        self._asker.stale = True
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Ask again, of the logbook as it is now."""
        document = self.document
        if document is None or self._answers is None:
            return
        at_work = document.desk.session.id if document.desk is not None else None
        self._ask(at_work=at_work, settings=self.host.settings())

    def _ask(self, **changes: object) -> None:
        """Ask the question anew with some of it changed; what was asked before is left."""
        answers = self._answers
        if answers is None:
            return
        self._question = question = replace(self._question, **changes)  # type: ignore[arg-type]

        def work(job: Job, anew: bool) -> Shown:
            if anew:
                answers.forget()
            return answers.ask(question, job.stop_if_cancelled)

        self._asker.ask("comparing the lamps", work, self._answered, self._failed)

    def _failed(self, error: Exception) -> None:
        self.host.say(f"The lamps could not be compared: {error}")

    # --- showing

    def _answered(self, shown: Shown) -> None:
        self._shown = shown
        self._question = replace(
            self._question,
            session_id=shown.session_id,
            chosen=shown.chosen if shown.lamps else None,
            reference=shown.reference,
            purpose=shown.purpose,
        )
        self._lamps.show_lamps(shown.lamps, shown.chosen, shown.reference, shown.numbers)
        self._counted.setText(f"{len(shown.chosen)} of {len(shown.lamps)} lamps")
        self._answer.show_answer(shown, self._selected)
        self.head_changed.emit()
        self.hints_changed.emit()

    def ask(self, ask: Ask) -> None:
        """Ask another question of the same lamps."""
        self._ask(ask=ask)

    # --- terms

    def ask_term(self, field: str, value: Hashable, key: str = "") -> None:
        """Ask for a value of a term, of all lamps or of one alone; or choose a session, a purpose and the like."""
        if field in CHOICES:
            self._choose(field, value)
        elif key:
            own = tuple(one for one in self._question.own if one[:2] != (key, field))
            self._ask(own=(*own, (key, field, value)))
        else:
            own = tuple(one for one in self._question.own if one[1] != field)
            self._ask(asked=(*(one for one in self._question.asked if one[0] != field), (field, value)), own=own)

    def leave_term(self, field: str, key: str = "") -> None:
        """Let a term be chosen by itself again."""
        self._ask(
            asked=tuple(one for one in self._question.asked if key or one[0] != field),
            own=tuple(one for one in self._question.own if one[1] != field or (key and one[0] != key)),
        )

    def _choose(self, field: str, value: Hashable) -> None:
        """Choose what is no term; other lamps stand there then, in another session."""
        if field in {"session_id", "split"}:
            self._selected = ""  # a mark of what was shown before
            self._ask(**{field: value}, chosen=None, reference="", asked=(), own=())
        else:
            self._ask(**{field: value})

    def select(self, reading_id: str) -> None:
        """Ring a reading in every chart; I shows it with those it stands among."""
        self._selected = reading_id
        self._answer.select(reading_id)
        for line in self._lines([reading_id]):
            self.host.say(f"{line.text.partition(' · ')[2].partition(' · ')[0]}, I shows the readings behind it")

    # --- the readings behind

    def behind(self) -> list[str]:
        """The readings behind the figures of the lamp under the cursor, or of the mark that was selected."""
        if self._shown is None:
            return []
        own = self._shown.readings_of(self._shown.lamp_of_reading.get(self._selected) or self._lamps.under_cursor or "")
        return own if not self._selected or self._selected in own else [self._selected, *own]

    def _inspect(self) -> None:
        lines = self._lines(ids := self.behind())
        if not lines:
            self.host.say("Click a mark, or put the cursor on a lamp that was read at these terms")
            return
        dialog = ReadingsDialog(
            parent=self.window(),
            title="The readings behind it",
            lines=lines,
            selected=self._selected,
            set_aside=lambda reading_id, reason: self.set_aside(reading_id, reason, ids),
            show_spectrum=self._show_spectrum,
        )
        dialog.exec()

    def _lines(self, ids: list[str]) -> list[ReadingLine]:
        if self.document is None:
            return []
        return readings_behind.lines_of(self.document.logbook, ids, self.host.settings().illuminance_unit)

    def set_aside(self, reading_id: str, reason: str, shown: list[str]) -> list[ReadingLine]:
        """Leave a reading out of every figure; returns the lines as they are then."""
        if self.document is None:
            return []
        desk = self.document.desk_of(self.document.logbook.sessions_of([reading_id])[0])
        desk.set_aside(reading_id, reason)
        self._marked.append(desk)
        return self._lines(shown)

    def _show_spectrum(self, reading_id: str) -> None:
        spectra = self.document.logbook.spectra([reading_id]) if self.document is not None else {}
        if reading_id not in spectra:
            self.host.say("That reading has no spectrum to show")
            return
        self.host.show_spectrum(self._lines([reading_id])[0].text, spectra[reading_id])

    def undo(self) -> str | None:
        """Take in again what was set aside here last."""
        return self._marked.pop().undo() if self._marked else None

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of Compare."""
        return keys.COMPARE

    def head(self) -> tuple[tuple[str, ...], str]:
        """What is compared, and the reference."""
        shown = self._shown
        if shown is None or not shown.lamps:
            return ("Compare",), ""
        reference = next((lamp.name for lamp in shown.lamps if lamp.key == shown.reference), "")
        of = "" if len(shown.chosen) == len(shown.lamps) else f" of {len(shown.lamps)}"
        plural = "" if len(shown.chosen) == 1 and not of else "s"
        parts = ("Compare", shown.session, f"{len(shown.chosen)}{of} lamp{plural}")
        return parts, f"reference: {reference}" if reference else ""

    # --- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Digits ask, letters do what the foot says, PgDn goes down the page."""
        key = key_of(event, _PRESSED) if event is not None else ""
        if key:
            self.press(key)
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key.isdigit():
            self.ask(list(Ask)[int(key) - 1])
        elif key in self._acts:
            self._acts[key]()

    @property
    def _acts(self) -> dict[str, Callable[[], object]]:
        under = self._lamps.under_cursor or ""
        return {
            "Space": lambda: self._toggle(under) if under else None,
            "A": self._take_all,
            "L": lambda: self._lock(under) if under else None,
            "E": self._only_even,
            "I": self._inspect,
            "M": self._plan_missing,
            "O": self._lay_over,
            "P": self._purpose,
            "S": self._sort,
            "T": self._go_to_limits,
            "PgDn": lambda: self._answer.scroll_page(1),
            "PgUp": lambda: self._answer.scroll_page(-1),
            "Ctrl C": self._copy_answer,
            "Ctrl Shift C": self._copy_picture,
        }

    def _take_all(self) -> None:
        """All lamps, or the first few again when all are there."""
        if self._shown is not None:
            every = tuple(lamp.key for lamp in self._shown.lamps)
            self._ask(chosen=None if len(self._shown.chosen) == len(every) else every)

    def _only_even(self) -> None:
        only = not self._question.only_even
        self.host.say("Only lamps read at these terms" if only else "All lamps chosen")
        self._ask(only_even=only)

    def _purpose(self) -> None:
        """Choose what the lamps are judged for; from another question, ask that one first."""
        if self._question.ask is Ask.ENOUGH:
            self._answer.terms.open_field("purpose")
        else:
            self.ask(Ask.ENOUGH)

    def _sort(self) -> None:
        column = self._answer.table.sort_by_next()
        self.host.say(f"Sorted by {column}, the largest first" if column else "As the lamps stand")

    def _plan_missing(self) -> None:
        """Go to Plan with these lamps and the protocols that would answer this question."""
        shown = self._shown
        missing = shown.missing.get(shown.question.ask) if shown is not None else None
        if shown is None or missing is None or not missing.protocols:
            self.host.say(missing.words if missing is not None else "Nothing is missing: this question is answered")
            return
        chosen = [lamp.source_id for lamp in shown.lamps if lamp.key in shown.chosen]
        self.host.plan_for(list(dict.fromkeys(chosen)), list(missing.protocols))

    def _copy_answer(self) -> None:
        """The sentences that may be published, and the figures as a table."""
        shown, clipboard = self._shown, QGuiApplication.clipboard()
        if shown is None or clipboard is None or not (shown.lines or shown.notes):
            self.host.say("There is no answer to copy yet")
            return
        clipboard.setText(shown.published + "\n\n" + "\n".join("\t".join(row) for row in self._answer.table.shown()))
        self.host.say("The answer is on the clipboard, with its figures")

    def _copy_picture(self) -> None:
        if not self._answer.charts:
            self.host.say("This question has no picture")
            return
        self._answer.charts[0].copy()
        self.host.say("The first picture is on the clipboard, as a picture and as figures")

    def _look_at(self, key: str) -> None:
        """A lamp that is clicked is lit among many."""
        if self._shown is not None and len(self._shown.chosen) > MOST_LIT and key in self._shown.chosen:
            self._ask(lit=key)

    def _lay_over(self) -> None:
        """Take the selected reading's spectrum into the picture of spectra, or out of it."""
        if not self._selected:
            self.host.say("Click a mark first: O lays the spectrum of that reading over the others")
            return
        laid = self._question.laid_over
        there = self._selected in laid
        left = tuple(i for i in laid if i != self._selected)
        self.host.say("No longer laid over" if there else "Laid over the others in the view of spectra")
        self._ask(laid_over=left if there else (*laid, self._selected))

    def _go_to_limits(self) -> None:
        self.host.show_limits(self._question.purpose)
        self.host.say("Enter changes a limit; the lamps are judged by it at once. Ctrl 4 goes back to Compare")

    def _toggle(self, key: str) -> None:
        chosen = self._question.chosen or ()
        left = tuple(i for i in chosen if i != key)
        self._ask(chosen=left if key in chosen else (*chosen, key))

    def _lock(self, key: str) -> None:
        chosen = self._question.chosen or ()
        self._ask(reference=key, chosen=chosen if key in chosen else (*chosen, key))

    def show_session(self, name: str) -> None:
        """Compare the lamps of a session, of the newest of that name."""
        if self.document is not None:
            named = [session.id for session in self.document.logbook.sessions() if session.name == name]
            self._ask(session_id=named[-1] if named else WHOLE, chosen=None, reference="", asked=(), own=())
