"""Report: the page as it will be handed over, beside the question and the decision that stand on it."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, QTemporaryDir
from PyQt6.QtGui import QImage, QKeyEvent, QPixmap
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from even_beam.app import dialogs, keys
from even_beam.app.station import Host, Station
from even_beam.app.widgets.choice import Choice
from even_beam.app.widgets.text import Hairline, label, scrolled
from even_beam.bench.records import Session
from even_beam.formats import FormatError
from even_beam.reports.errors import ReportError
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.report.arrangement import kept_arrangement
from even_beam.workspace.report.compose import write_report
from even_beam.workspace.report.kinds import usual_kind
from even_beam.workspace.report.material import Material
from even_beam.workspace.report.table import write_table
from even_beam.workspace.session.document import Document
from even_beam.workspace.shell.job import Job

_PREVIEW_WIDTH = 760


class ReportStation(Station):
    """One page a session."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._sessions: list[Session] = []
        self._filling = False
        self._stale = True
        self._folder = QTemporaryDir()
        self._session = Choice("Session")
        self._session.currentIndexChanged.connect(lambda _: self._picked())
        self._question, self._decision, self._disclosure = (QPlainTextEdit() for _ in range(3))
        left = QVBoxLayout()
        left.setContentsMargins(24, 16, 16, 12)
        left.setSpacing(6)
        left.addWidget(label("session", "coming"))
        left.addWidget(self._session)
        for caption, edit, height in (
            ("the question", self._question, 90),
            ("the decision", self._decision, 110),
            ("who supplied the lamps, and what they know of it", self._disclosure, 90),
        ):
            left.addSpacing(8)
            left.addWidget(label(caption, "coming"))
            edit.setAccessibleName(caption)
            edit.setTabChangesFocus(True)
            edit.setFixedHeight(height)
            edit.textChanged.connect(self._edited)
            left.addWidget(edit)
        self._state = label("", "coming", wrap=True)
        left.addSpacing(8)
        left.addWidget(self._state)
        left.addStretch()
        side = QWidget()
        side.setLayout(left)
        self._page = QLabel()
        self._page.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        self._page.setAccessibleName("Preview of the page")
        self._scroll = QScrollArea()
        self._scroll.setWidget(self._page)
        self._scroll.setWidgetResizable(True)
        self._scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(scrolled(side, 330))
        row.addWidget(Hairline(vertical=True))
        row.addWidget(self._scroll, 1)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def show_document(self, document: Document) -> None:
        """Report on another logbook."""
        self.document = document
        document.readings_changed.connect(self._mark_stale)
        document.session_changed.connect(self._mark_stale)
        self._stale = True

    def _mark_stale(self) -> None:
        self._stale = True
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the sessions, and make the preview in a worker."""
        if self.document is None:
            return
        if self._stale:
            self._filling = True
            kept = self._session.currentIndex()
            self._sessions = list(reversed(self.document.logbook.sessions()))
            self._session.clear()
            self._session.addItems([session.name for session in self._sessions])
            self._session.setCurrentIndex(kept if 0 <= kept < len(self._sessions) else 0)
            self._filling = False
            self._stale = False
            self._picked()
        elif self._page.pixmap().isNull():
            self._make_preview()

    @property
    def session(self) -> Session | None:
        """The session reported on."""
        index = self._session.currentIndex()
        return self._sessions[index] if 0 <= index < len(self._sessions) else None

    def show_session(self, name: str) -> None:
        """Report on the session of a name."""
        self._session.setCurrentText(name)

    def _picked(self) -> None:
        if self._filling:
            return
        self._filling = True
        session = self.session
        self._question.setPlainText(session.question if session else "")
        self._decision.setPlainText(session.decision if session else "")
        self._disclosure.setPlainText(session.disclosure if session else "")
        self._filling = False
        self._make_preview()
        self.head_changed.emit()

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
        self._sessions[self._session.currentIndex()] = changed
        self.document.save_session(changed)
        self._state.setText("Kept. The preview follows when the cursor leaves the text (Tab).")

    def _writer(self, path: Path) -> Callable[[Job], None] | None:
        session = self.session
        if self.document is None or session is None:
            return None
        logbook, settings = self.document.logbook, self.host.settings()

        def write(job: Job) -> None:
            material = Material(Collection(logbook), settings, session)
            kind = usual_kind(material)
            arranged = kept_arrangement(logbook, session.id, kind)
            write_report(material, kind, path, arranged, job.stop_if_cancelled)

        return write

    def _make_preview(self) -> None:
        path = Path(self._folder.filePath("preview.pdf"))
        write = self._writer(path)
        if write is None:
            self._page.setPixmap(QPixmap())
            self._state.setText("No session yet: read something on the Bench first.")
            return
        self._state.setText("Making the preview …")
        self.host.jobs.run("preview", write, lambda _: self._show_preview(path), self._preview_failed)

    def _show_preview(self, path: Path) -> None:
        pdf = QPdfDocument(self)
        pdf.load(str(path))
        pages = pdf.pageCount()
        size = pdf.pagePointSize(0)
        ratio = self.devicePixelRatioF()
        width = min(_PREVIEW_WIDTH, max(420, self._scroll.width() - 48))
        scale = width * ratio / size.width()
        image = pdf.render(0, QSize(int(size.width() * scale), int(size.height() * scale)))
        paper = QImage(image.size(), QImage.Format.Format_RGB32)
        paper.fill(Qt.GlobalColor.white)
        from PyQt6.QtGui import QPainter

        painter = QPainter(paper)
        painter.drawImage(0, 0, image)
        painter.end()
        pixmap = QPixmap.fromImage(paper)
        pixmap.setDevicePixelRatio(ratio)
        self._page.setPixmap(pixmap)
        pdf.close()
        self._state.setText("This is the page." if pages == 1 else f"{pages} pages; the first is shown.")

    def _preview_failed(self, error: Exception) -> None:
        self._state.setText(f"The preview could not be made: {error}. HTML can still be saved.")

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of Report."""
        return keys.REPORT

    def head(self) -> tuple[tuple[str, ...], str]:
        """The session."""
        return ("Report", self.session.name if self.session else "no session yet"), ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Save the page or the table."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.press("Enter")
        elif event is not None and event.text().upper() == "X":
            self.press("X")
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        session = self.session
        if session is None:
            self.host.say("There is no session to report on yet")
            return
        stem = "".join(c if c.isalnum() or c in " -" else "" for c in session.name).strip()
        if key == "Enter":
            name, _ = QFileDialog.getSaveFileName(
                self.window(), "Save the page", f"{stem}.pdf", "PDF (*.pdf);;HTML (*.html)"
            )
            if name:
                self.save_page(Path(name))
        elif key == "X":
            name, _ = QFileDialog.getSaveFileName(
                self.window(), "Save the table", f"{stem}.csv", "CSV (*.csv);;Spreadsheet (*.xlsx);;JSON (*.json)"
            )
            if name:
                self.save_table(Path(name))

    def save_page(self, path: Path) -> None:
        """Write the page in a worker."""
        write = self._writer(path)
        if write is None:
            return
        self.host.jobs.run(
            "save the page",
            write,
            lambda _: self.host.saved(path, f"Saved {path.name}"),
            self._not_saved,
        )

    def save_table(self, path: Path) -> None:
        """Write all readings of the session."""
        session = self.session
        if self.document is None or session is None:
            return
        try:
            count = write_table(Collection(self.document.logbook), path, [session.id])
            self.host.saved(path, f"Saved {path.name}: {count} figures")
        except FormatError as error:
            self._not_saved(error)

    def _not_saved(self, error: Exception) -> None:
        if isinstance(error, FormatError | ReportError):
            dialogs.tell(self.window(), "Not saved", str(error))
        else:
            dialogs.tell(self.window(), "Not saved", f"The page could not be made: {error}. The logbook is unharmed.")
