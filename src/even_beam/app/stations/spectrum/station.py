"""Spectrum: what a light does to subjects, with the evidence beside it; behind it every figure with its meaning."""

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from even_beam.answers.bench.enter import EnterError, lamp_at_terms, said_of
from even_beam.answers.intake.kit import Kit
from even_beam.answers.intake.mappings import known_mappings, remember_mapping
from even_beam.answers.intake.naming import proposed
from even_beam.answers.spectrum.files import OpenedFile, open_file, read_again
from even_beam.answers.spectrum.view import SpectrumView, view_of
from even_beam.app import dialogs, keys
from even_beam.app.asker import Asker
from even_beam.app.station import Host, Station
from even_beam.app.stations.spectrum.figures_page import FiguresPage
from even_beam.app.stations.spectrum.mapping_dialog import MappingDialog
from even_beam.app.stations.spectrum.subject_dialog import SubjectDialog
from even_beam.app.stations.spectrum.subject_table import SubjectTable
from even_beam.app.widgets.ask_line import AskLine
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.text import Column, Hairline, clear, label, scrolled
from even_beam.bench.records import Spectrum
from even_beam.bench.terms import terms_line
from even_beam.desk.kit.own_subjects import own_subjects
from even_beam.desk.session.document import Document
from even_beam.formats import FormatError, NamedSpectrum, write_spectra
from even_beam.formats.kinds import SPECTRA, file_filter
from even_beam.formats.registry import WRITERS
from even_beam.shell.job import Job

MISLEADING = (
    "Scores are means over samples: they reject, they do not rank. An eye is not a camera: test yours before you trust"
    " it with skin."
)


T = TypeVar("T")


class SpectrumStation(Station):
    """One spectrum at a time, of a file or of a reading."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._opened: OpenedFile | None = None
        self._spectra: tuple[NamedSpectrum, ...] = ()
        self._at = 0
        self._view: SpectrumView | None = None
        self._shown_at = 0  # which of them is in view: the one asked for may be on its way
        self._asker = Asker(host.jobs, host.say, host.unsay)
        self._by_eye = True
        self.figures: FiguresPage | None = None
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._build()
        self.setFocusProxy(self._subjects)
        self._show_empty()

    def _build(self) -> None:
        self._charts = {name: ChartView() for name in ("curve", "hues")}
        self._titles = {name: label("", "coming", wrap=True) for name in self._charts}
        self._empty = label("", "line", wrap=True)
        self._empty.setContentsMargins(24, 20, 24, 0)
        self._pages = QStackedWidget()
        self._pages.addWidget(self._build_subjects())
        frame = QVBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addWidget(self._empty)
        self._line = AskLine(self._subjects.setFocus)
        self._line.setContentsMargins(24, 8, 24, 0)
        frame.addWidget(self._line)
        frame.addWidget(self._pages, 1)

    def _build_subjects(self) -> QWidget:
        """The first page: what the light does to subjects, and the evidence beside it."""
        self._answer, self._white = label("", "title", wrap=True), label("", "line", wrap=True)
        self._seen_by = label("", "coming", wrap=True)
        self._subjects = SubjectTable()
        self._subjects.opened.connect(self._open_subject)
        left = QVBoxLayout()
        left.setContentsMargins(24, 18, 24, 12)
        left.setSpacing(6)
        for widget in (self._answer, self._white, self._seen_by, self._subjects):
            left.addWidget(widget)
        left.addStretch(1)
        inner = Column()
        inner.setLayout(left)
        scroll = scrolled(inner)
        self._metrics = QGridLayout()
        self._metrics.setColumnStretch(1, 1)
        self._metrics.setHorizontalSpacing(10)
        self._metrics.setVerticalSpacing(6)
        right = QVBoxLayout()
        right.setContentsMargins(16, 18, 20, 12)
        right.setSpacing(4)
        for name, height in (("curve", 190), ("hues", 170)):
            self._charts[name].setFixedHeight(height)
            right.addWidget(self._titles[name])
            right.addWidget(self._charts[name])
        right.addLayout(self._metrics)
        right.addSpacing(6)
        right.addWidget(label(MISLEADING, "coming", wrap=True))
        right.addStretch(1)
        side = Column()
        side.setLayout(right)
        page = QWidget()
        row = QHBoxLayout(page)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(scroll, 1)
        row.addWidget(Hairline(vertical=True))
        row.addWidget(scrolled(side, 330))
        return page

    # --- what is shown

    def show_document(self, document: Document) -> None:
        """Keep mappings and readings in another logbook."""
        self.document = document
        document.kit.changed.connect(self._look_again)

    def _look_again(self) -> None:
        """A subject came into the Kit or went."""
        if self._spectra and self._view is not None:
            self._compute()

    def refresh(self) -> None:
        """Show the same spectrum in the present theme."""
        if self._view is not None:
            self._show_view(self._view)

    def _show_empty(self) -> None:
        self._pages.hide()
        self._empty.setText(
            "Open a file of spectra with O, or drop it here: CSV and other tables, IES TM-27, CGATS, JSON, XLSX. "
            "On the Bench, Alt I brings the last reading here."
        )
        self._empty.setVisible(True)

    def open_path(self, path: Path) -> None:
        """Read a file in a worker and show its first spectrum."""
        document = self.document
        known = known_mappings(document.logbook) if document is not None else (lambda shape: None)
        self._ask("read a spectrum", lambda job: open_file(path, known), self._show_opened)

    def _show_opened(self, opened: OpenedFile) -> None:
        self._opened = opened
        self._show_spectra(opened.spectra)
        if opened.refused:
            self.host.say(f"{len(opened.refused)} of its spectra could not be used: {opened.refused[0]}")

    def _not_read(self, error: Exception) -> None:
        dialogs.tell(self.window(), "The file could not be read", f"{error}\n\nThe file was left as it is.")

    def show_reading(self, name: str, spectrum: Spectrum) -> None:
        """Show the spectrum of a reading."""
        self._opened = None
        named = NamedSpectrum(
            name, spectrum.wavelength_nm, spectrum.values, spectrum.absolute, "a reading of this logbook"
        )
        self._show_spectra((named,))

    def _show_spectra(self, spectra: tuple[NamedSpectrum, ...]) -> None:
        self._spectra, self._at = spectra, 0
        self._compute()

    def _compute(self) -> None:
        named = self._spectra[self._at]
        spectrum = Spectrum(named.wavelength_nm, named.values, named.absolute)
        own = own_subjects(self.document.logbook) if self.document is not None else None
        at = self._at

        def shown(view: SpectrumView) -> None:
            self._shown_at = at
            self._show_view(view)

        self._ask("figures of a spectrum", lambda job: view_of(named.name, spectrum, named.understood, own), shown)

    def _ask(self, name: str, work: Callable[[Job], T], done: Callable[[T], None]) -> None:
        """Have something worked out in place of what was asked before: only what was asked last is shown."""
        self._asker.ask(name, lambda job, _: work(job), done, self._not_read)

    def _is_shown(self) -> bool:
        """Whether what was asked for last is in view; says so where it is not."""
        if self._asker.is_asking:
            self.host.say("This one is still on its way: press the key again when it is shown")
            return False
        return bool(self._spectra)

    def _show_view(self, view: SpectrumView) -> None:
        self._view = view
        self._empty.setVisible(False)
        self._pages.show()
        self._show_subjects(view)
        if self.isVisible():
            self._subjects.setFocus()
        for name, chart in (("curve", view.spectrum), ("hues", view.shifts)):
            self._charts[name].show_chart(chart)
            self._titles[name].setText(chart.title)
        if self.figures is not None:
            self.figures.show_view(view)
        self.head_changed.emit()
        self.hints_changed.emit()

    def _show_subjects(self, view: SpectrumView) -> None:
        self._answer.setText(view.answer)
        self._white.setText(view.white)
        who = "an eye used to each light" if self._by_eye else "the standard camera, balanced on each light"
        self._seen_by.setText(
            f"upper half: under the reference of its own white; lower half: under this lamp; seen by {who}"
        )
        self._subjects.show_rows(view.by_eye if self._by_eye else view.by_camera, who)
        clear(self._metrics)
        for row, metric in enumerate(view.metrics):
            for column, (text, part) in enumerate(
                ((metric.name, "quiet"), (metric.value, ""), (metric.told, "coming"))
            ):
                shown = label(text, part)
                shown.setToolTip(metric.limits)
                if column:
                    shown.setAlignment(Qt.AlignmentFlag.AlignRight)
                self._metrics.addWidget(shown, row, column)

    def _open_subject(self, place: int) -> None:
        """The members of a subject, one by one."""
        view = self._view
        rows = () if view is None else view.by_eye if self._by_eye else view.by_camera
        if 0 <= place < len(rows):
            SubjectDialog(self.window(), rows[place]).exec()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of this panel."""
        return keys.SPECTRUM

    def head(self) -> tuple[tuple[str, ...], str]:
        """The spectrum, and which of how many it is."""
        if self._view is None:
            return ("Spectrum",), ""
        count = f"{self._shown_at + 1} of {len(self._spectra)}" if len(self._spectra) > 1 else ""
        return ("Spectrum", self._view.name), count

    # --- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Open, mapping, next, write, keep, copy."""
        if event is None:
            return
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if control and event.key() == Qt.Key.Key_C:
            self.press("Ctrl C")
        elif event.key() == Qt.Key.Key_Right:
            self._step(1)
        elif event.key() == Qt.Key.Key_Left:
            self._step(-1)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.press("S")
        elif not control and event.text() and event.text().upper() in {"O", "M", "W", "K", "C", "S", "F"}:
            self.press(event.text().upper())
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key == "O":
            self._ask_open()
        elif key == "M":
            self._ask_mapping()
        elif key == "→":
            self._step(1)
        elif key == "W":
            self._ask_write()
        elif key == "K":
            self._keep()
        elif key == "C" and self._view is not None:
            self._by_eye = not self._by_eye
            self._show_subjects(self._view)
        elif key == "S":
            self._open_subject(self._subjects.at)
        elif key == "F":
            self._turn()
        elif key == "Ctrl C":
            self._charts["curve"].copy()
            self.host.say("The spectrum is on the clipboard, as a picture and as figures")

    def _turn(self) -> None:
        """To the figures and back."""
        if self.figures is None and self._view is not None:
            self.figures = FiguresPage()
            self.figures.show_view(self._view)
            self._pages.addWidget(self.figures)
        self._pages.setCurrentIndex(self._pages.count() - 1 - self._pages.currentIndex())

    def _step(self, by: int) -> None:
        if len(self._spectra) > 1:
            self._at = (self._at + by) % len(self._spectra)
            self._compute()

    def _ask_open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self.window(), "Open spectra", "", file_filter(SPECTRA))
        if name:
            self.open_path(Path(name))

    def _ask_mapping(self) -> None:
        opened = self._opened
        if opened is None or opened.mapping is None:
            self.host.say("This one is not read from a table: there is nothing to choose")
            return
        dialog = MappingDialog(self.window(), opened.path.name, list(opened.lines), opened.mapping)
        if not dialog.exec():
            return
        try:
            self._show_opened(read_again(opened, dialog.mapping))
        except FormatError as error:
            self._not_read(error)
            return
        if self.document is not None:
            remember_mapping(self.document.logbook, opened.shape, dialog.mapping)
            self.host.say("Read so, and remembered for files of the same shape")

    def _ask_write(self) -> None:
        if not self._is_shown():
            return
        patterns = ";;".join(f"{suffix[1:].upper()} (*{suffix})" for suffix in WRITERS)
        path = dialogs.save_as(self.window(), "Write the spectrum", "spectrum.xml", patterns, ".xml", *WRITERS)
        if path is None:
            return
        try:
            write_spectra(path, [self._spectra[self._at]], over_others=True)
            self.host.saved(path, f"Written to {path.name}")
        except FormatError as error:
            dialogs.tell(self.window(), "Not written", str(error))

    def _keep(self) -> None:
        if self.document is None or not self._is_shown():
            return
        document, named = self.document, self._spectra[self._at]
        kit = Kit(document.logbook)
        so = proposed([named.name], kit.names, kit.without_dial)
        lamp = so.lamp if so.lamp in kit.names else ""
        offered = said_of(lamp, so.terms) if lamp or so.texts else ""

        def keep(typed: str) -> None:
            desk = document.bench()
            try:
                of = lamp_at_terms(desk, typed)
            except EnterError as error:
                self._line.complain(f"{error}. Kit, A adds a lamp.")
                return
            self._line.close_line()
            taken = desk.take_spectrum(named, of=of)
            terms = terms_line(taken.measured.terms, self.host.settings().distance_unit)
            name = desk.name_of(taken.measured.reading.source_ids)
            self.host.say(f"Kept in “{desk.session.name}”: {name} · {terms}")

        example = "Tansy@cct=5600;level=50;distance=2 m, or Enter for a lamp that is not named"
        self._line.open("whose it is, its terms after @", example, offered, keep)

    # --- files

    def take_dropped(self, paths: list[Path]) -> None:
        """Open the first file that was dropped."""
        self.open_path(paths[0])
