"""Compare: lamps on even terms, in pictures, one table and one sentence that may be published."""

from collections.abc import Hashable
from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from even_beam.app import keys
from even_beam.app.compare.answer_view import AnswerView
from even_beam.app.compare.lamp_list import LampList
from even_beam.app.compare.readings_dialog import ReadingsDialog
from even_beam.app.compare.tolerance_dialog import ToleranceDialog
from even_beam.app.station import Host, Station
from even_beam.app.widgets.choice import Choice
from even_beam.app.widgets.text import Hairline, label
from even_beam.bench.split import Split
from even_beam.figures.spectrum import Scaling
from even_beam.workspace.compare import readings_behind
from even_beam.workspace.compare.answer import WHOLE, Answers, Question, Shown
from even_beam.workspace.compare.charts import View
from even_beam.workspace.compare.readings_behind import ReadingLine
from even_beam.workspace.findings.tolerance_desk import ToleranceDesk
from even_beam.workspace.session.desk import SessionDesk
from even_beam.workspace.session.document import Document
from even_beam.workspace.shell.job import Job
from even_beam.workspace.spectrum.patches import Against, Seen


class CompareStation(Station):
    """Any lamps of a session or of the whole logbook. It asks in a worker, and shows the answer."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._answers: Answers | None = None
        self._question = Question()
        self._shown: Shown | None = None
        self._asking: Job | None = None
        self._asking_anew = False  # whether what is asked now reads the logbook anew
        self._selected = ""
        self._marked: list[SessionDesk] = []  # where readings were set aside, the newest last
        self._stale = True
        self._filling = False
        self._build()

    def _build(self) -> None:
        self._session = Choice("Readings of")
        self._session.currentIndexChanged.connect(self._session_picked)
        self._split = Choice("Side by side", Split)
        self._split.currentIndexChanged.connect(self._split_picked)
        self._lamps = LampList()
        self._lamps.toggled.connect(self._toggle)
        self._filter = QLineEdit()
        self._filter.setPlaceholderText("find a lamp")
        self._filter.setAccessibleName("Find a lamp")
        self._filter.setClearButtonEnabled(True)
        self._filter.textChanged.connect(self._lamps.show_only)
        self._views = Choice("View", View)
        self._views.currentIndexChanged.connect(lambda index: self._ask(view=list(View)[index]))
        self._scale = Choice("Scaling of spectra", Scaling)
        self._scale.currentIndexChanged.connect(lambda index: self._ask(scaling=list(Scaling)[index]))
        side = self._build_side()
        self._answer = AnswerView()
        self._answer.chosen.connect(self.select)
        self._answer.terms.asked.connect(self.ask_term)
        self._answer.terms.taken.connect(self.leave_term)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addWidget(side)
        frame.addWidget(Hairline(vertical=True))
        frame.addWidget(self._answer, 1)
        self.setFocusProxy(self._lamps)

    def _build_side(self) -> QWidget:
        left = QVBoxLayout()
        left.setContentsMargins(16, 14, 16, 12)
        left.setSpacing(4)
        self._scale_caption = label("scaled to", "coming")
        self._purpose_caption = label("judged for", "coming")
        self._patch_captions = [label("set against", "coming"), label("seen by", "coming")]
        self._against, self._seen = Choice("Set against", Against), Choice("Seen by", Seen)
        self._against.currentIndexChanged.connect(lambda index: self._ask(against=list(Against)[index]))
        self._seen.currentIndexChanged.connect(lambda index: self._ask(seen=list(Seen)[index]))
        self._purpose = Choice("Purpose")
        self._purpose.currentTextChanged.connect(lambda text: self._ask(purpose=text))
        for caption, choice in (
            (label("readings of", "coming"), self._session),
            (label("side by side", "coming"), self._split),
            (label("show", "coming"), self._views),
            (self._scale_caption, self._scale),
            (self._purpose_caption, self._purpose),
            (self._patch_captions[0], self._against),
            (self._patch_captions[1], self._seen),
        ):
            left.addWidget(caption)
            left.addWidget(choice)
        left.addSpacing(8)
        left.addWidget(label("lamps", "coming"))
        left.addWidget(self._filter)
        left.addWidget(self._lamps, 1)
        side = QWidget()
        side.setLayout(left)
        side.setFixedWidth(236)
        return side

    # --- asking

    def show_document(self, document: Document) -> None:
        """Compare the lamps of another logbook."""
        self.document = document
        self._answers = Answers(document.logbook.path)
        self._question, self._shown, self._marked = Question(), None, []
        for changed in (document.readings_changed, document.session_changed, document.kit.changed):
            changed.connect(self._mark_stale)
        self._stale = True

    def let_go(self) -> None:
        """Close the connection by which questions were answered: the file is to stand alone."""
        if self._answers is not None:
            self._answers.forget()

    def _mark_stale(self) -> None:
        self._stale = True
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
        if self._filling:
            return
        answers, stale = self._answers, self._stale
        if answers is None:
            return
        self._question = question = replace(self._question, **changes)  # type: ignore[arg-type]
        self._stale = False
        if self._asking is not None:
            self._asking.cancel()
            stale = stale or self._asking_anew
        self._asking_anew = stale

        def work(job: Job) -> Shown:
            if stale:
                answers.forget()
            return answers.ask(question, job.stop_if_cancelled)

        self._asking = self.host.jobs.run("compare", work, self._answered, self._failed)

    def _failed(self, error: Exception) -> None:
        self._asking = None
        self._stale = True
        self.host.say(f"The lamps could not be compared: {error}")

    # --- showing

    def _answered(self, shown: Shown) -> None:
        self._asking, self._asking_anew = None, False
        self._shown = shown
        self._question = replace(
            self._question,
            session_id=shown.session_id,
            chosen=shown.chosen if shown.lamps else None,
            reference=shown.reference,
            purpose=shown.purpose,
        )
        self._fill(shown)
        self._lamps.show_lamps(shown.lamps, shown.chosen, shown.reference)
        self._answer.show_answer(shown, self._selected)
        view = shown.question.view
        for own, widgets in (
            ({View.SPECTRA}, (self._scale, self._scale_caption)),
            ({View.VERDICT, View.FOR_AND_AGAINST}, (self._purpose, self._purpose_caption)),
            ({View.PATCHES}, (*self._patch_captions, self._against, self._seen)),
        ):
            for widget in widgets:
                widget.setVisible(view in own)
        self.head_changed.emit()

    def _fill(self, shown: Shown) -> None:
        """What can be chosen, and what is."""
        self._filling = True
        for box, texts, chosen in (
            (self._session, tuple(name for _, name in shown.sessions), shown.session),
            (self._purpose, shown.purposes, shown.purpose),
        ):
            if tuple(box.itemText(i) for i in range(box.count())) != texts:
                box.clear()
                box.addItems(texts)
            box.setCurrentText(chosen)
            box.setToolTip(chosen)  # the side is narrow
        self._session.setCurrentIndex([i for i, _ in shown.sessions].index(shown.session_id))
        self._filling = False

    # --- terms

    def ask_term(self, field: str, value: Hashable, key: str = "") -> None:
        """Ask for a value of a term, of all lamps or of one alone."""
        if key:
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

    def _split_picked(self, index: int) -> None:
        self._ask(split=list(Split)[index], chosen=None, reference="", asked=(), own=())

    def _session_picked(self, index: int) -> None:
        if not self._filling and self._shown is not None and 0 <= index < len(self._shown.sessions):
            self._selected = ""  # a mark of what was shown before
            self._ask(session_id=self._shown.sessions[index][0], chosen=None, reference="", asked=(), own=())

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
        """Lock the reference, restrict to even terms, go to the next view, copy."""
        if event is None:
            return
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_C:
            self.press("Ctrl C")
        elif event.key() in {Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}:
            self._answer.scroll_page(1 if event.key() == Qt.Key.Key_PageDown else -1)
        elif event.text().upper() in {"L", "E", "V", "I", "O", "T"} and event.text():
            self.press(event.text().upper())
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key == "Space" and (under := self._lamps.under_cursor):
            self._toggle(under)
        elif key == "L" and (under := self._lamps.under_cursor):
            self._lock(under)
        elif key == "E":
            only = not self._question.only_even
            self.host.say("Only lamps read at these terms" if only else "All lamps chosen")
            self._ask(only_even=only)
        elif key == "I":
            self._inspect()
        elif key == "O":
            self._lay_over()
        elif key == "T":
            self._edit_tolerances()
        elif key == "V":
            self._views.setCurrentIndex((self._views.currentIndex() + 1) % len(View))
        elif key == "Ctrl C":
            self._answer.charts[0].copy()
            self.host.say("The chart is on the clipboard, as a picture and as figures")

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

    def _edit_tolerances(self) -> None:
        if self.document is None:
            return
        dialog = ToleranceDialog(self.window(), ToleranceDesk(self.document.logbook), self._question.purpose)
        dialog.exec()
        if dialog.changed:
            self._mark_stale()

    def _toggle(self, key: str) -> None:
        chosen = self._question.chosen or ()
        left = tuple(i for i in chosen if i != key)
        self._ask(chosen=left if key in chosen else (*chosen, key))

    def _lock(self, key: str) -> None:
        chosen = self._question.chosen or ()
        self._ask(reference=key, chosen=chosen if key in chosen else (*chosen, key))

    def show_view(self, view: View) -> None:
        """Go to a view."""
        self._views.setCurrentIndex(list(View).index(view))

    def show_session(self, name: str) -> None:
        """Compare the lamps of a session, of the newest of that name."""
        if self.document is not None:
            named = [session.id for session in self.document.logbook.sessions() if session.name == name]
            self._ask(session_id=named[-1] if named else WHOLE, chosen=None, reference="", asked=(), own=())
