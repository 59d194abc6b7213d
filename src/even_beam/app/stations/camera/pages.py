"""Pages of Camera for charts in photographs, a waveform, fades: they show plain values."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from even_beam.answers.camera.chart_page import ChartPage, Shot
from even_beam.answers.camera.fade_page import FadePage
from even_beam.answers.camera.flicker_page import FlickerPage
from even_beam.answers.camera.flickering import one_camera
from even_beam.app.stations.camera.exposure_grid import ExposureGrid
from even_beam.app.stations.camera.frame_strip import FrameStrip
from even_beam.app.stations.camera.parts_strip import PartsStrip
from even_beam.app.stations.camera.points_view import Form, PointsView
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.figure_table import FigureTable
from even_beam.app.widgets.split_patches import SplitPatches
from even_beam.app.widgets.text import label

_CHART_HEIGHT = 250


class _Files(QListWidget):
    """Files by their names; arrows are its own, letters and digits the station's."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Up and down."""
        if event is not None and event.key() in {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End}:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()


def _column(*widgets: QWidget) -> QVBoxLayout:
    column = QVBoxLayout()
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(8)
    for widget in widgets:
        column.addWidget(widget)
    return column


class ChartsPage(QWidget):
    """Photographs of a chart. `picked` tells the row under the cursor."""

    picked = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.files = _Files()
        self.files.setAccessibleName("Photographs")
        self.files.setFixedHeight(132)
        self.files.currentRowChanged.connect(self.picked)
        self.photo, self.patches = PointsView(), SplitPatches(columns=5, named=True)
        self._seen = label("", "coming", wrap=True)
        self._chart, self._title = ChartView(), label("", "coming", wrap=True)
        self._chart.setMinimumHeight(_CHART_HEIGHT - 50)
        self.table = FigureTable()
        left = _column(self.files, self.photo)
        right = _column(self._seen, self.patches, self._title, self._chart)
        right.addStretch(1)
        row = QHBoxLayout()
        row.setSpacing(20)
        row.addLayout(left, 1)
        row.addLayout(right, 1)
        frame = QVBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(10)
        self.parts = PartsStrip()
        self.parts.hide()
        frame.addWidget(self.parts)
        frame.addLayout(row)
        frame.addWidget(self.table)

    def show_files(self, shots: list[Shot], benchmark: object, at: int) -> None:
        """The photographs, the benchmark marked, the cursor where it is."""
        self.files.blockSignals(True)
        self.files.clear()
        for shot in shots:
            role = "benchmark" if shot.path == benchmark else "" if shot.reading is not None else "no chart found: C"
            self.files.addItem(QListWidgetItem(f"{shot.name} · {role}" if role else shot.name))
        self.files.setCurrentRow(at)
        self.files.blockSignals(False)

    def show_page(self, page: ChartPage, shot: Shot | None, *, balanced: bool) -> None:
        """What is said of the photograph under the cursor."""
        if shot is None:
            self.photo.show_photo(None, (1, 1), [])
        elif not self.photo.placing:
            self.photo.form = Form.OUTLINE
            self.photo.show_photo(shot.preview, shot.photo.size, shot.corners)
        how = "each balanced on its greys" if balanced else "as shot, at equal exposure"
        self._seen.setText(f"upper half: under the benchmark; lower half: under the lamp; {how}")
        for widget in (self._seen, self.patches):
            widget.setVisible(bool(page.pairs))
        self.patches.show_pairs(page.pairs, how)
        for widget in (self._chart, self._title):
            widget.setVisible(page.chart is not None)
        if page.chart is not None:
            self._chart.show_chart(page.chart)
            self._title.setText(page.chart.title)
        self.table.show_sheet(page.sheet)
        self.files.setVisible(shot is not None)
        self.photo.setVisible(shot is not None)


class WaveformPage(QWidget):
    """A waveform, what cameras make of it, and the frames of the exposure under the cursor."""

    def __init__(self) -> None:
        super().__init__()
        self._page = FlickerPage()
        self._charts = {name: ChartView() for name in ("cycles", "parts")}
        self._titles = {name: label("", "coming", wrap=True) for name in self._charts}
        self.grid, self.strip = ExposureGrid(), FrameStrip()
        self._grid_words = label(
            "Per cent by which a row's light changes: below 1 steady, below 3 marginal (common practice)."
            " Bands stand or wander within a frame; a beat moves the whole of it.",
            "coming",
            wrap=True,
        )
        self._strip_words = label("", "quiet", wrap=True)
        self.grid.chosen.connect(self._choose)
        pictures = QHBoxLayout()
        pictures.setSpacing(20)
        for name, chart in self._charts.items():
            chart.setMinimumHeight(_CHART_HEIGHT - 60)
            pictures.addLayout(_column(self._titles[name], chart), 1)
        frame = QVBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(8)
        frame.addWidget(self._strip_words)
        frame.addWidget(self.strip)
        frame.addWidget(self.grid)
        frame.addWidget(self._grid_words)
        frame.addLayout(pictures)

    def show_page(self, page: FlickerPage) -> None:
        """What is said of a waveform."""
        self._page = page
        for name, chart in (("cycles", page.cycles), ("parts", page.parts)):
            for widget in (self._charts[name], self._titles[name]):
                widget.setVisible(chart is not None)
            if chart is not None:
                self._charts[name].show_chart(chart)
                self._titles[name].setText(chart.title)
        known = bool(page.rows)
        for part in (self.grid, self._grid_words, self.strip, self._strip_words):
            part.setVisible(known)
        self.grid.show_page(page)

    def _choose(self, row: int, column: int) -> None:
        cameras = self._page.cameras
        one = cameras[row][column] if 0 <= row < len(cameras) and 0 <= column < len(cameras[row]) else None
        hz = self._page.found.hz if self._page.found is not None else None
        words = one_camera(one, hz) if one is not None else "An exposure cannot last longer than its frame."
        self._strip_words.setText(words)
        self.strip.show_camera(one, words)


class FadesPage(QWidget):
    """Fades in figures, and the last of them as a picture."""

    def __init__(self) -> None:
        super().__init__()
        self._chart, self._title = ChartView(), label("", "coming", wrap=True)
        self._chart.setMinimumHeight(_CHART_HEIGHT + 40)
        self.table = FigureTable()
        frame = QVBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(8)
        for widget in (self._title, self._chart, self.table):
            frame.addWidget(widget)

    def show_page(self, page: FadePage) -> None:
        """What is said of fades."""
        for widget in (self._chart, self._title):
            widget.setVisible(page.chart is not None)
        if page.chart is not None:
            self._chart.show_chart(page.chart)
            self._title.setText(page.chart.title)
        self.table.show_sheet(page.sheet)
