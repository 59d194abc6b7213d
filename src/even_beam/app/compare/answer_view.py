"""What Compare answers: the even-terms line, up to four pictures or patches, one table and the sentences."""

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from even_beam.app.compare.even_terms import EvenTerms
from even_beam.app.compare.figure_table import FigureTable
from even_beam.app.compare.patch_row import PatchRow
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.text import label
from even_beam.figures.chart import Chart
from even_beam.workspace.compare.answer import Shown

_CHARTS = 4
_LEAST_PICTURE = 210
_NOTHING = "Nothing to compare yet. Read two lamps on the Bench, and name each with L."


class _Content(QWidget):
    """As high as its texts need at its width, which a scroll area does not ask for by itself."""

    def event(self, event: QEvent | None) -> bool:
        """Fit whenever a part changed its height, or the width is another."""
        done = bool(super().event(event))
        layout = self.layout()
        if event is not None and layout is not None and event.type() in {QEvent.Type.LayoutRequest, QEvent.Type.Resize}:
            self.setMinimumHeight(layout.minimumHeightForWidth(self.width()))
        return done


class AnswerView(QScrollArea):
    """Shows an answer, and scrolls where many lamps need more room than a window has. `chosen` tells the reading of a
    mark."""

    chosen = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.terms = EvenTerms()
        self.pictures = QWidget()
        self.pictures.setMinimumHeight(_LEAST_PICTURE)
        self.pictures.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Ignored)  # all that is left over
        self.pictures.setLayout(self._build_charts())
        self.patches = PatchRow()
        self.table = FigureTable()
        self.sentence = label("", "", size="body", wrap=True)
        self.empty = label("", "line", wrap=True)
        self._space = QWidget()  # holds the table up where a view has no picture
        column = QVBoxLayout()
        column.setContentsMargins(24, 16, 24, 12)
        column.setSpacing(10)
        column.addWidget(self.terms)
        column.addWidget(self.pictures, 1)
        for widget in (self.patches, self.empty, self.table, self.sentence):
            column.addWidget(widget)
        column.addWidget(self._space, 1)
        content = _Content()
        content.setLayout(column)
        self.setWidget(content)

    def _build_charts(self) -> QHBoxLayout:
        self.charts = [ChartView(zoomable=True) for _ in range(_CHARTS)]
        self._titles = [label("", "coming") for _ in range(_CHARTS)]
        self._columns = []
        charts = QHBoxLayout()
        charts.setSpacing(16)
        charts.setContentsMargins(0, 0, 0, 0)
        for title, chart in zip(self._titles, self.charts, strict=True):
            chart.chosen.connect(self.chosen)
            column = QVBoxLayout()
            column.setSpacing(2)
            column.setContentsMargins(0, 0, 0, 0)
            column.addWidget(title)
            column.addWidget(chart, 1)
            box = QWidget()
            box.setLayout(column)
            charts.addWidget(box, 1)
            self._columns.append(box)
        return charts

    def show_answer(self, shown: Shown, selected: str) -> None:
        """Show an answer; `selected` is the reading that carries a ring."""
        empty = shown.comparison is None
        for widget in (self.terms, self.pictures, self.patches, self._space, self.table, self.sentence):
            widget.setVisible(not empty)
        self.empty.setVisible(empty)
        if shown.comparison is None:
            self.empty.setText(_NOTHING)
            return
        self.terms.show_chips(shown.chips)
        self.table.show_rows(shown.corner, [e.name for e in shown.comparison.entries], shown.rows)
        self.sentence.setText("\n".join(shown.sentences))
        self.patches.show_sets(shown.patches)
        self._show_charts(shown.charts)
        self.select(selected)

    def _show_charts(self, shown: tuple[Chart, ...]) -> None:
        for index, box in enumerate(self._columns):
            box.setVisible(index < len(shown))
            if index < len(shown):
                self.charts[index].show_chart(shown[index])
                self._titles[index].setText(shown[index].title)
        self.pictures.setVisible(bool(shown))
        self._space.setVisible(not shown)

    def scroll_page(self, pages: int) -> None:
        """Go down by pages, or up."""
        bar = self.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + pages * bar.pageStep())

    def select(self, reading_id: str) -> None:
        """Ring a reading in every chart."""
        for chart in self.charts:
            chart.select(reading_id)
