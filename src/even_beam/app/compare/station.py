"""Compare: lamps on even terms, in pictures, one table and one sentence that may be published."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout, QWidget

from even_beam.app import keys
from even_beam.app.compare.even_terms import EvenTerms
from even_beam.app.compare.figure_table import FigureTable
from even_beam.app.compare.lamp_list import LampList
from even_beam.app.compare.readings_dialog import ReadingsDialog
from even_beam.app.station import Host, Station
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.text import Hairline, label
from even_beam.bench import compare, notation
from even_beam.bench.compare import At, Entrant
from even_beam.figures.chart import Chart
from even_beam.figures.spectrum import Scaling
from even_beam.workspace import compare_table, readings_behind
from even_beam.workspace.collection import Collection
from even_beam.workspace.compare_charts import Scene, View, charts
from even_beam.workspace.document import Document
from even_beam.workspace.evidence import Witness
from even_beam.workspace.readings_behind import ReadingLine
from even_beam.workspace.session_desk import SessionDesk

_CHARTS = 3
_ALL = "the whole logbook"


class CompareStation(Station):
    """Any lamps of a session or of the whole logbook."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._collection: Collection | None = None
        self._entrants: list[Entrant] = []
        self._chosen: list[str] = []
        self._reference = ""
        self._view = View.OUTPUT
        self._scaling = Scaling.PEAK
        self._only_even = False
        self._comparison: compare.Comparison | None = None
        self._selected = ""
        self._marked: list[SessionDesk] = []  # where readings were set aside, the newest last
        self._stale = True
        self._filling = False
        self._build()

    def _build(self) -> None:
        self._session = QComboBox()
        self._session.setAccessibleName("Readings of")
        self._session.currentIndexChanged.connect(lambda _: self._session_picked())
        self._lamps = LampList()
        self._lamps.toggled.connect(self._toggle)
        self._views = QComboBox()
        self._views.setAccessibleName("View")
        self._views.addItems([str(view) for view in View])
        self._views.currentIndexChanged.connect(lambda index: self._pick_view(list(View)[index]))
        self._white, self._level, self._scale = QComboBox(), QComboBox(), QComboBox()
        self._white.setAccessibleName("White dialled")
        self._level.setAccessibleName("Level")
        self._scale.setAccessibleName("Scaling of spectra")
        self._scale.addItems([str(scaling) for scaling in Scaling])
        for choice in (self._white, self._level):
            choice.currentIndexChanged.connect(lambda _: None if self._filling else self._show())
        self._scale.currentIndexChanged.connect(lambda index: self._pick_scaling(list(Scaling)[index]))
        side = self._build_side()
        self._terms = EvenTerms()
        self._terms.pressed.connect(lambda: self.press("E"))
        charts = self._build_charts()
        self._table = FigureTable()
        self._sentence = label("", "", size="body", wrap=True)
        self._empty = label("", "line", wrap=True)
        right = QVBoxLayout()
        right.setContentsMargins(24, 16, 24, 12)
        right.setSpacing(10)
        right.addWidget(self._terms)
        self._pictures = QWidget()
        self._pictures.setLayout(charts)
        right.addWidget(self._pictures, 1)
        right.addWidget(self._empty)
        right.addWidget(self._table)
        right.addWidget(self._sentence)
        self._space = QWidget()  # holds the table up where a view has no picture
        right.addWidget(self._space, 1)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addWidget(side)
        frame.addWidget(Hairline(vertical=True))
        frame.addLayout(right, 1)
        self.setFocusProxy(self._lamps)

    def _build_charts(self) -> QHBoxLayout:
        self._charts = [ChartView(zoomable=True) for _ in range(_CHARTS)]
        for chart in self._charts:
            chart.chosen.connect(self.select)
        self._titles = [label("", "coming") for _ in range(_CHARTS)]
        charts = QHBoxLayout()
        charts.setSpacing(16)
        charts.setContentsMargins(0, 0, 0, 0)
        self._columns = []
        for title, chart in zip(self._titles, self._charts, strict=True):
            column = QVBoxLayout()
            column.setSpacing(2)
            column.addWidget(title)
            column.addWidget(chart, 1)
            box = QWidget()
            column.setContentsMargins(0, 0, 0, 0)
            box.setLayout(column)
            charts.addWidget(box, 1)
            self._columns.append(box)
        return charts

    def _build_side(self) -> QWidget:
        left = QVBoxLayout()
        left.setContentsMargins(16, 14, 16, 12)
        left.setSpacing(4)
        self._scale_caption = label("scaled to", "coming")
        self._purpose_caption = label("judged for", "coming")
        self._purpose = QComboBox()
        self._purpose.setAccessibleName("Purpose")
        self._purpose.currentIndexChanged.connect(lambda _: None if self._filling else self._show())
        for caption, choice in (
            (label("readings of", "coming"), self._session),
            (label("at white", "coming"), self._white),
            (label("at level", "coming"), self._level),
            (label("show", "coming"), self._views),
            (self._scale_caption, self._scale),
            (self._purpose_caption, self._purpose),
        ):
            left.addWidget(caption)
            left.addWidget(choice)
        left.addSpacing(8)
        left.addWidget(label("lamps", "coming"))
        left.addWidget(self._lamps, 1)
        side = QWidget()
        side.setLayout(left)
        side.setFixedWidth(236)
        return side

    # --- data

    def show_document(self, document: Document) -> None:
        """Compare the lamps of another logbook."""
        self.document = document
        self._chosen, self._reference = [], ""
        document.readings_changed.connect(self._mark_stale)
        document.session_changed.connect(self._mark_stale)
        document.kit.changed.connect(self._mark_stale)
        self._stale = True

    def _mark_stale(self) -> None:
        self._stale = True
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Load what changed, in a worker, and show it."""
        document = self.document
        if document is None:
            return
        if not self._stale:
            self._show()
            return
        self._stale = False
        # the store's connection is the interface thread's own: a small logbook loads within a few milliseconds
        self._collection = Collection(document.logbook)
        self._fill_sessions()
        self._fill_lamps()

    def _fill_sessions(self) -> None:
        if self._collection is None:
            return
        self._filling = True
        kept = self._session.currentText()
        self._session.clear()
        names = [session.name for session in reversed(self._collection.sessions)]
        self._session.addItems([*names, _ALL])
        at_work = (
            self.document.desk.session.name if self.document is not None and self.document.desk is not None else ""
        )
        best = kept if kept in [*names, _ALL] else self._richest(at_work)
        self._session.setCurrentText(best)
        self._filling = False

    def _richest(self, at_work: str) -> str:
        """The session at work when it has two lamps or more, else the newest that has, else everything."""
        if self._collection is None:
            return _ALL
        newest = list(reversed(self._collection.sessions))
        for session in sorted(newest, key=lambda s: s.name != at_work):
            if len(self._collection.entrants([session.id])) > 1:
                return session.name
        return _ALL

    def _session_picked(self) -> None:
        if not self._filling:
            self._chosen, self._reference = [], ""
            self._fill_lamps()

    def _fill_lamps(self) -> None:
        if self._collection is None:
            return
        index = self._session.currentIndex()
        sessions = list(reversed(self._collection.sessions))
        ids = [sessions[index].id] if 0 <= index < len(sessions) else None
        self._entrants = self._collection.entrants(ids)
        known = [e.source_id for e in self._entrants]
        self._chosen = [i for i in self._chosen if i in known] or known[:8]
        if self._reference not in self._chosen:
            self._reference = self._chosen[0] if self._chosen else ""
        self._fill_terms()
        self._show()

    def _fill_terms(self) -> None:
        self._filling = True
        entrants = self._picked()
        for box, texts in (
            (self._white, [f"{notation.dialled(white)} K" for white in compare.whites(entrants)] or ["as found"]),
            (self._level, [f"{notation.percent(level)} %" for level in compare.levels(entrants)] or ["as found"]),
        ):
            kept = box.currentText()
            box.clear()
            box.addItems(texts)
            if kept in texts:
                box.setCurrentText(kept)
        self._filling = False

    def _picked(self) -> list[Entrant]:
        by_id = {e.source_id: e for e in self._entrants}
        return [by_id[i] for i in self._chosen if i in by_id]

    def _at(self, entrants: list[Entrant]) -> At:
        default = compare.default_terms(entrants)
        whites, levels = compare.whites(entrants), compare.levels(entrants)
        white, level = self._white.currentIndex(), self._level.currentIndex()
        return At(
            whites[white] if 0 <= white < len(whites) else default.cct_k,
            levels[level] if 0 <= level < len(levels) else default.level_pct,
            default.configuration,
        )

    # --- showing

    def _show(self) -> None:
        if self._collection is None:
            return
        self._lamps.show_lamps(self._entrants, self._chosen, self._reference)
        entrants = self._picked()
        empty = not entrants
        for widget in (self._terms, self._pictures, self._space, self._table, self._sentence, *self._columns):
            widget.setVisible(not empty)
        self._empty.setVisible(empty)
        for view, widgets in ((View.SPECTRA, (self._scale, self._scale_caption)), (View.VERDICT, (self._purpose, self._purpose_caption))):  # fmt: skip
            for widget in widgets:
                widget.setVisible(self._view is view)
        self.head_changed.emit()
        if empty:
            self._comparison = None
            self._empty.setText("Nothing to compare yet. Read two lamps on the Bench, and name each with L.")
            return
        at = self._at(entrants)
        if self._only_even:
            entrants = [e for e in entrants if compare.at_terms(e, at)] or entrants
        self._comparison = compare.compare(entrants, at, self._reference, self._collection.meters)
        self._terms.show_notes(self._comparison.notes)
        self._show_table(entrants)
        self._show_charts(charts(self._view, Scene(self._comparison, entrants, self._collection, self._scaling)))

    def _show_table(self, entrants: list[Entrant]) -> None:
        """The figures at the common terms, or what a view has in their place."""
        if self._collection is None or self._comparison is None:
            return
        witness = Witness(self._collection, self.host.settings())
        corner, sentences = f"{self._white.currentText()}, {self._level.currentText()}", self._comparison.sentences
        if self._view is View.FEATURES:
            corner, rows = "", compare_table.feature_table(witness, entrants, self._collection)
        elif self._view is View.MATRIX:
            corner, rows = "against the barest", compare_table.modifier_table(witness, entrants)
            sentences = () if rows else ("No lamp was read both with and without something on it, at the same white, level and place.",)  # fmt: skip
        elif self._view is View.VERDICT:
            purpose = self._purpose_of(witness)
            corner, rows = purpose, compare_table.verdict_table(witness, entrants, purpose)
            sentences = compare_table.decision_sentences(witness, entrants, purpose)
        else:
            unit = self.host.settings().illuminance_unit
            rows = compare_table.table(self._comparison, entrants, self._collection.meters, unit)
        self._table.show_rows(corner, [e.name for e in entrants], rows)
        self._sentence.setText(" ".join(sentences))

    def _purpose_of(self, witness: Witness) -> str:
        names = [one.name for one in witness.tolerance_sets()]
        if [self._purpose.itemText(i) for i in range(self._purpose.count())] != names:
            self._filling = True
            self._purpose.clear()
            self._purpose.addItems(names)
            self._filling = False
        return self._purpose.currentText()

    def _show_charts(self, shown: tuple[Chart, ...]) -> None:
        for index, box in enumerate(self._columns):
            box.setVisible(index < len(shown))
            if index < len(shown):
                self._charts[index].show_chart(shown[index])
                self._charts[index].select(self._selected)
                self._titles[index].setText(shown[index].title)
        self._pictures.setVisible(bool(shown))
        self._space.setVisible(not shown)

    def select(self, reading_id: str) -> None:
        """Ring a reading in every chart; I shows it with those it stands among."""
        self._selected = reading_id
        for chart in self._charts:
            chart.select(reading_id)
        if self._collection is not None:
            unit = self.host.settings().illuminance_unit
            for line in readings_behind.lines_of(self._collection, [reading_id], unit):
                self.host.say(f"{line.text.partition(' · ')[2].partition(' · ')[0]}, I shows the readings behind it")

    # --- the readings behind

    def behind(self) -> list[str]:
        """The readings behind the figures of the lamp under the cursor, or of the mark that was selected."""
        if self._comparison is None:
            return []
        entries = {e.source_id: e for e in self._comparison.entries}
        by_reading = {m.reading.id: e.source_id for e in self._picked() for m in e.readings}
        source_id = by_reading.get(self._selected) or self._lamps.under_cursor or ""
        own = [m.reading.id for m in entries[source_id].readings] if source_id in entries else []
        return own if not self._selected or self._selected in own else [self._selected, *own]

    def _inspect(self) -> None:
        lines = self._lines(ids := self.behind())
        if not lines:
            self.host.say("Click a mark, or put the cursor on a lamp that was read at these terms")
            return
        dialog = ReadingsDialog(
            self.window(), "The readings behind it", lines, self._selected,
            lambda reading_id, reason: self.set_aside(reading_id, reason, ids), self._show_spectrum,
        )  # fmt: skip
        dialog.exec()

    def _lines(self, ids: list[str]) -> list[ReadingLine]:
        if self._collection is None:
            return []
        return readings_behind.lines_of(self._collection, ids, self.host.settings().illuminance_unit)

    def set_aside(self, reading_id: str, reason: str, shown: list[str]) -> list[ReadingLine]:
        """Leave a reading out of every figure; returns the lines as they are then."""
        if self.document is None or self._collection is None:
            return []
        desk = self.document.desk_of(readings_behind.session_of(self._collection, reading_id))
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
        names = {e.source_id: e.name for e in self._entrants}
        reference = names.get(self._reference)
        parts = ("Compare", self._session.currentText(), f"{len(self._chosen)} lamps") if names else ("Compare",)
        return parts, f"reference: {reference}" if reference else ""

    # --- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Lock the reference, restrict to even terms, go to the next view, copy."""
        if event is None:
            return
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_C:
            self.press("Ctrl C")
        elif event.text().upper() in {"L", "E", "V", "I"} and event.text():
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
            self._only_even = not self._only_even
            self.host.say("Only lamps read at these terms" if self._only_even else "All lamps chosen")
            self._show()
        elif key == "I":
            self._inspect()
        elif key == "V":
            self._views.setCurrentIndex((self._views.currentIndex() + 1) % len(View))
        elif key == "Ctrl C":
            self._charts[0].copy()
            self.host.say("The chart is on the clipboard, as a picture and as figures")

    def _toggle(self, source_id: str) -> None:
        if source_id in self._chosen:
            self._chosen.remove(source_id)
        else:
            self._chosen.append(source_id)
        if self._reference not in self._chosen:
            self._reference = self._chosen[0] if self._chosen else ""
        self._fill_terms()
        self._show()

    def _lock(self, source_id: str) -> None:
        if source_id not in self._chosen:
            self._chosen.append(source_id)
        self._reference = source_id
        self._show()

    def _pick_view(self, view: View) -> None:
        self._view = view
        self._show()

    def show_view(self, view: View) -> None:
        """Go to a view."""
        self._views.setCurrentIndex(list(View).index(view))

    def show_session(self, name: str) -> None:
        """Compare the lamps of a session."""
        self._session.setCurrentText(name)

    def _pick_scaling(self, scaling: Scaling) -> None:
        self._scaling = scaling
        self._show()
