"""Report: what can be handed over, as it will be, beside the question and the decision that stand on it."""

import re
from collections.abc import Callable
from dataclasses import replace
from itertools import count
from pathlib import Path
from typing import TypeVar

from PyQt6.QtCore import QEvent, QObject, Qt, QTemporaryDir
from PyQt6.QtGui import QGuiApplication, QKeyEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from even_beam.app import dialogs, keys
from even_beam.app.asker import Asker
from even_beam.app.station import Host, Station, key_of
from even_beam.app.stations.report.pages import MOST_PAGES, Pages
from even_beam.app.stations.report.sections import Sections
from even_beam.app.widgets.choice import Choice
from even_beam.app.widgets.text import Hairline, label, scrolled
from even_beam.bench.records import Session
from even_beam.desk.session.document import Document
from even_beam.handing_over.arrangement import Arrangement, keep_arrangement
from even_beam.handing_over.kinds import PLANS, Kind
from even_beam.handing_over.orders import (
    Made,
    Order,
    make_folder,
    make_labels,
    make_picture,
    make_report,
    make_sentences,
    make_table,
)
from even_beam.shell.apart import APART
from even_beam.shell.job import Job
from even_beam.words import notation

Result = TypeVar("Result")
LETTERS = frozenset("LSPXD")


class ReportStation(Station):
    """Reports, labels, sentences, pictures and open data of a session or of the whole logbook."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._sessions: list[Session] = []
        self._filling = False
        self._stale = True
        self._reworded: Session | None = None
        self._folder = QTemporaryDir()
        self._preview, self._writer = Asker(host.jobs), Asker(host.jobs)
        self._made: Made | None = None
        self._arrangements: dict[str, Arrangement] = {}
        self._orders = count()
        self._session, self._lamps, self._kind = Choice("Session"), Choice("Lamps"), Choice("Kind of report")
        self._session.currentIndexChanged.connect(lambda _: self._picked())
        self._lamps.currentIndexChanged.connect(lambda _: self._asked_otherwise())
        self._kind.currentIndexChanged.connect(lambda _: self._asked_otherwise())
        self._pages = Pages()
        self._sections = Sections()
        self._sections.changed.connect(self._arranged)
        self._sections.stayed.connect(self.host.say)
        self._question, self._decision, self._disclosure = (QPlainTextEdit() for _ in range(3))
        self._state = label("", "coming", wrap=True)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(scrolled(self._side(), 330))
        row.addWidget(Hairline(vertical=True))
        row.addWidget(self._pages, 1)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def _side(self) -> QWidget:
        left = QVBoxLayout()
        left.setContentsMargins(24, 16, 16, 12)
        left.setSpacing(4)
        for caption, choice in (("session", self._session), ("lamps", self._lamps), ("as", self._kind)):
            left.addWidget(label(caption, "coming"))
            left.addWidget(choice)
        left.addSpacing(6)
        left.addWidget(self._sections)
        for caption, edit, height in (
            ("the question", self._question, 72),
            ("the decision", self._decision, 84),
            ("who supplied the lamps, and what they know of it", self._disclosure, 64),
        ):
            left.addSpacing(4)
            left.addWidget(label(caption, "coming"))
            edit.setAccessibleName(caption)
            edit.setTabChangesFocus(True)
            edit.setFixedHeight(height)
            edit.textChanged.connect(self._edited)
            edit.installEventFilter(self)
            left.addWidget(edit)
        left.addSpacing(6)
        left.addWidget(self._state)
        left.addStretch()
        side = QWidget()
        side.setLayout(left)
        return side

    # --- what is reported on

    def show_document(self, document: Document) -> None:
        """Report on another logbook."""
        self.document = document
        self._arrangements = {}
        document.readings_changed.connect(self._mark_stale)
        document.session_changed.connect(self._mark_stale)
        self._stale = True

    def _mark_stale(self) -> None:
        self._stale = True
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the sessions, and make the preview in a process of its own."""
        if self.document is None:
            return
        if self._stale:
            self._filling = True
            kept = self._session.currentIndex()
            self._sessions = list(reversed(self.document.logbook.sessions()))
            self._session.clear()
            self._session.addItems([session.name for session in self._sessions])
            if self._sessions:
                self._session.addItem("the whole logbook")
            self._session.setCurrentIndex(kept if 0 <= kept < self._session.count() else self._newest_read())
            if self._kind.count() == 0:
                self._kind.addItem("what fits the readings", "")
                for kind, plan in PLANS.items():
                    self._kind.addItem(plan.words, str(kind))
            self._filling = False
            self._stale = False
            self._picked()
        elif self._pages.count == 0:
            self._make_preview()

    def _newest_read(self) -> int:
        """The place of the newest session that anything was read in."""
        if self.document is None:
            return 0
        read = {i for own in self.document.logbook.sessions_reading().values() for i in own}
        return next((place for place, one in enumerate(self._sessions) if one.id in read), 0)

    @property
    def session(self) -> Session | None:
        """The session reported on; None for the whole logbook."""
        index = self._session.currentIndex()
        return self._sessions[index] if 0 <= index < len(self._sessions) else None

    def show_session(self, name: str) -> None:
        """Report on the session of a name."""
        self._session.setCurrentText(name)

    def show_kind(self, kind: Kind) -> None:
        """Report in a kind."""
        self._kind.setCurrentIndex(self._kind.findData(str(kind)))

    def _picked(self) -> None:
        if self._filling:
            return
        self._filling = True
        session = self.session
        for edit, text in (
            (self._question, session.question if session else ""),
            (self._decision, session.decision if session else ""),
            (self._disclosure, session.disclosure if session else ""),
        ):
            edit.setPlainText(text)
            edit.setEnabled(session is not None)
        self._lamps.clear()
        self._lamps.addItem("all of them", "")
        self._filling = False
        self._asked_otherwise()
        self.head_changed.emit()

    def _asked_otherwise(self) -> None:
        if not self._filling:
            self._make_preview()

    def _edited(self) -> None:
        """Keep each change as it is typed."""
        session = self.session
        if self._filling or session is None or self.document is None:
            return
        changed = replace(
            session,
            question=self._question.toPlainText().strip(),
            decision=self._decision.toPlainText().strip(),
            disclosure=self._disclosure.toPlainText().strip(),
        )
        self._reworded = self._reworded or session
        self._sessions[self._session.currentIndex()] = changed
        self.document.save_session(changed)
        self._state.setText("Kept. The preview follows when you leave the text.")

    def _note_reworded(self) -> None:
        """What was typed into a session's words is one act, once they are left."""
        before, self._reworded = self._reworded, None
        if before is not None and self.document is not None:
            self.document.note_described(before)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Once a text is left, the preview has it."""
        if event is not None and event.type() == QEvent.Type.FocusOut and self._reworded is not None:
            self._make_preview()
        return super().eventFilter(watched, event)

    def _arranged(self) -> None:
        """Keep the arrangement with the session, and show it."""
        session = self.session
        if self.document is None or self._made is None:
            return
        if session is not None:
            keep_arrangement(self.document.logbook, session, Kind(self._made.kind), self._sections.arrangement)
        else:
            self._arrangements[self._made.kind] = self._sections.arrangement
            self.host.say("Arranged until another logbook is opened: only a session keeps it")
        self._make_preview()

    def _order(self, out: Path, *, kind: str = "") -> Order | None:
        if self.document is None or not self._sessions:
            return None
        session, lamp = self.session, str(self._lamps.currentData() or "")
        return Order(
            logbook=self.document.logbook.path,
            session_id=session.id if session is not None else None,
            fixtures=(lamp,) if lamp else (),
            out=out,
            kind=kind or str(self._kind.currentData() or ""),
            arrangements=self._arrangements if session is None else {},
            settings=self.host.settings(),
            progress=Path(self._folder.filePath(f"progress-{next(self._orders)}")),
        )

    @staticmethod
    def _made_apart(job: Job, order: Order, make: Callable[..., Result], *args: object) -> Result:
        """Have it made in the other process; leave off where that is asked, and say how far it is."""
        told = ""

        def pause() -> None:
            nonlocal told
            job.stop_if_cancelled()
            if (words := order.how_far) != told:
                told = words
                job.progress(0.0, words)

        try:
            return APART.run(pause, make, order, *args)
        finally:
            order.say_no_more()

    # --- the preview

    def _make_preview(self) -> None:
        self._preview.leave()
        path = Path(self._folder.filePath(f"preview-{next(self._orders)}.pdf"))
        order = self._order(path)
        self._note_reworded()
        if order is None:
            self._pages.clear()
            self._state.setText("No session yet: read something on the Bench first.")
            return
        self._state.setText("Making the preview …")
        self._preview.ask(
            "preview",
            lambda job, _: self._made_apart(job, order, make_report),
            lambda made: self._show_preview(path, made),
            self._preview_failed,
            lambda _, words: self._state.setText(f"Making the preview: {words} …"),
        )

    def _show_preview(self, path: Path, made: Made) -> None:
        self._made = made
        self._filling = True
        kept = self._lamps.currentData()
        self._lamps.clear()
        self._lamps.addItem("all of them", "")
        for name in made.lamps:
            self._lamps.addItem(name, name)
        self._lamps.setCurrentIndex(max(0, self._lamps.findData(kept)))
        self._kind.setItemText(0, f"what fits: {PLANS[Kind(made.kind)].words}")
        if self._kind.currentIndex() > 0:
            self._kind.setItemText(0, "what fits the readings")
        self._filling = False
        self._sections.show_sections(made.sections, made.arrangement)
        pages = self._pages.show_file(path)
        path.unlink(missing_ok=True)
        shown = "" if pages <= MOST_PAGES else f"; the first {MOST_PAGES} are shown"
        self._state.setText(f"{pages} page{'s' * (pages != 1)}{shown}.")

    def _preview_failed(self, error: Exception) -> None:
        self._state.setText(f"The preview could not be made: {error}")

    # --- keys

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of Report."""
        return keys.REPORT

    def head(self) -> tuple[tuple[str, ...], str]:
        """What is reported on."""
        name = self.session.name if self.session else "the whole logbook" if self._sessions else "no session yet"
        return ("Report", name), ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """What is handed over, and the sections moved."""
        if event is None:
            return
        if event.key() == Qt.Key.Key_Escape and self.leave_off():
            return
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.press("Enter")
        elif alt and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._sections.move_section(-1 if event.key() == Qt.Key.Key_Up else 1)
        elif key := key_of(event, LETTERS):
            self.press(key)
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key in {"PgDn", "PgUp"}:
            self._pages.turn(1 if key == "PgDn" else -1)
            return
        if key.startswith("Alt"):
            self._sections.move_section(1)
            return
        acts: dict[str, Callable[[], None]] = {
            "Enter": self._ask_page,
            "L": self._ask_labels,
            "S": self.copy_sentences,
            "P": self._ask_picture,
            "X": self._ask_table,
            "D": self._ask_folder,
        }
        if key not in acts:
            return
        if self._order(Path()) is None:
            self.host.say("There is no session to report on yet")
            return
        acts[key]()

    @property
    def _stem(self) -> str:
        name = str(self._lamps.currentData() or "") or (self.session.name if self.session else "logbook")
        return "".join(c if c.isalnum() or c in " -" else "" for c in name).strip() or "report"

    def _ask_file(self, title: str, suffix: str, patterns: str) -> Path | None:
        suffixes = re.findall(r"\*(\.\w+)", patterns)
        return dialogs.save_as(self.window(), title, f"{self._stem}{suffix}", patterns, *suffixes)

    def _ask_page(self) -> None:
        if path := self._ask_file("Save the report", ".pdf", "PDF (*.pdf);;HTML (*.html)"):
            self.save_page(path)

    def save_page(self, path: Path) -> None:
        """Write the report as it is previewed."""
        order = self._order(path, kind=self._made.kind if self._made is not None else "")
        if order is not None:
            self._hand_over(order, lambda _: f"Saved {path.name}", make_report)

    def _ask_table(self) -> None:
        if path := self._ask_file("Save the table", ".csv", "CSV (*.csv);;Spreadsheet (*.xlsx);;JSON (*.json)"):
            self.save_table(path)

    def save_table(self, path: Path) -> None:
        """Write all readings of the session."""
        order = self._order(path)
        if order is not None:
            self._hand_over(order, lambda n: f"Saved {path.name}: {n} figures", make_table)

    def _ask_labels(self) -> None:
        from even_beam.app.stations.report.label_dialog import LabelDialog

        order = self._order(Path())
        if order is None:
            return
        dialog = LabelDialog(self.window(), self.host.jobs, order)
        if dialog.exec() and (path := self._ask_file("Save the labels", ".pdf", "PDF (*.pdf)")):
            self._hand_over(
                replace(order, out=path),
                lambda done: f"Saved {path.name}: {done.count} labels",
                make_labels,
                dialog.chosen,
                dialog.start,
            )

    def _ask_picture(self) -> None:
        from even_beam.app.stations.report.picture_dialog import PictureDialog

        order = self._order(Path())
        if order is None:
            return
        dialog = PictureDialog(self.window(), self.host.jobs, order)
        if dialog.exec() and (path := self._ask_file("Save the picture", ".png", "PNG (*.png);;SVG (*.svg)")):
            made, chosen = replace(order, out=path), (dialog.chart, *dialog.pixels, dialog.ground)
            self._hand_over(made, lambda _: f"Saved {path.name}", make_picture, *chosen)

    def _ask_folder(self) -> None:
        if path := self._ask_file("A new folder for the open data", "", "Folder (*)"):
            order = replace(self._order(path) or Order(path), fixtures=())
            self._hand_over(order, lambda n: f"Saved {path.name}: {notation.count(n, 'reading')}", make_folder)

    def copy_sentences(self) -> None:
        """Put what may be said on the clipboard."""
        order = self._order(Path())
        if order is None:
            return
        self._state.setText("Finding what may be said …")

        def copied(text: str) -> None:
            clipboard = QGuiApplication.clipboard()
            if clipboard is not None:
                clipboard.setText(text)
            lines = sum(not line.strip().startswith("do not say") for line in text.splitlines() if line.strip())
            self._state.setText(f"{lines} lines are on the clipboard, with what must not be said.")
            self.host.say("The sentences are on the clipboard" if text else "Nothing was read that could be said")

        self.host.jobs.run(
            "sentences",
            lambda job: APART.run(job.stop_if_cancelled, make_sentences, order, markdown=False),
            copied,
            self._not_saved,
        )

    def _hand_over(
        self, order: Order, words: Callable[[Result], str], make: Callable[..., Result], *args: object
    ) -> None:
        """Have something written, and say so."""
        path = order.out
        self._state.setText(f"Writing {path.name} …")

        def done(result: Result) -> None:
            self._state.setText(words(result))
            self.host.saved(path, words(result))

        self._writer.ask(
            f"write {path.name}",
            lambda job, _: self._made_apart(job, order, make, *args),
            done,
            self._not_saved,
            lambda _, far: self._state.setText(f"Writing {path.name}: {far} …"),
        )

    def leave_off(self) -> bool:
        """Stop what is being made; whether there was anything."""
        left = [asker.leave() for asker in (self._preview, self._writer)]
        if any(left):
            self._state.setText("Left off: nothing was written.")
        return any(left)

    def _not_saved(self, error: Exception) -> None:
        self._state.setText("Not saved.")
        dialogs.tell(self.window(), "Not saved", f"{error}")
