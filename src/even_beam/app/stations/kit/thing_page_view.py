"""The page of a thing that is no lamp: what it is, its curve, and what readings say of it once they were looked at."""

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QGridLayout, QScrollArea, QVBoxLayout, QWidget

from even_beam.answers.kit.shelf import Found, Part, ThingPage
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.text import Column, label
from even_beam.figures.patches import PatchPair

_CHART_HEIGHT = 210
_PATCH = QSize(84, 36)


class _Patch(QWidget):
    """A subject as it should be above, and as it is below."""

    def __init__(self, pair: PatchPair) -> None:
        super().__init__()
        self._pair = pair
        self.setFixedSize(_PATCH)
        self.setAccessibleName(f"{pair.name}: difference {pair.delta_e:.1f}")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Two halves."""
        painter = QPainter(self)
        half = self.height() // 2
        painter.fillRect(0, 0, self.width(), half, QColor(*self._pair.reference))
        painter.fillRect(0, half, self.width(), self.height() - half, QColor(*self._pair.lamp))
        painter.end()


class ThingPageView(QScrollArea):
    """Shows a page and scrolls it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._shown: tuple[ThingPage | None, Found | None] = (None, None)

    @property
    def texts(self) -> str:
        """All that stands on the page, for whoever looks for a word."""
        page, found = self._shown
        if page is None:
            return ""
        parts = [*page.parts, *(found.parts if found is not None else ())]
        rows = [f"{name} {text}".strip() for part in parts for name, text in part.rows or (("", part.empty),)]
        return "\n".join([page.name, page.line, *rows])

    def show_page(self, page: ThingPage | None, found: Found | None, *, is_looking: bool = False) -> None:
        """Show a page with what was found of it; nothing without one."""
        self._shown = page, found
        column = QVBoxLayout()
        column.setContentsMargins(28, 16, 28, 16)
        column.setSpacing(8)
        if page is not None:
            self._fill(column, page, found, is_looking=is_looking)
        column.addStretch(1)
        inner = Column()
        inner.setLayout(column)
        self.setWidget(inner)

    def _fill(self, column: QVBoxLayout, page: ThingPage, found: Found | None, *, is_looking: bool) -> None:
        column.addWidget(label(page.name, "title", wrap=True))
        column.addWidget(label(page.line, "quiet", wrap=True))
        chart = found.chart if found is not None and found.chart is not None else page.chart
        if chart is not None:
            column.addSpacing(6)
            column.addWidget(label(f"{chart.title} ({chart.y.label})", "coming", wrap=True))
            view = ChartView()
            view.setFixedHeight(_CHART_HEIGHT)
            view.setMaximumWidth(760)
            view.show_chart(chart)
            column.addWidget(view)
        for part in (*(found.parts if found is not None else ()), *page.parts):
            _add(column, part)
        if is_looking:
            column.addWidget(label("looking at its readings …", "quiet"))


def _add(column: QVBoxLayout, part: Part) -> None:
    if not part.rows and not part.empty:
        return
    column.addSpacing(8)
    if part.title:
        column.addWidget(label(part.title, "coming", wrap=True))
    if not part.rows:
        column.addWidget(label(part.empty, "quiet", wrap=True))
        return
    grid = QGridLayout()
    grid.setHorizontalSpacing(18)
    grid.setVerticalSpacing(5)
    grid.setColumnStretch(2, 1)
    upright = Qt.AlignmentFlag.AlignVCenter if part.patches else Qt.AlignmentFlag.AlignTop
    for row, (name, text) in enumerate(part.rows):
        if part.patches:
            grid.addWidget(_Patch(part.patches[row]), row, 0)
        if name:
            grid.addWidget(label(name, "quiet"), row, 1, upright)
            grid.addWidget(label(text, wrap=True), row, 2)
        else:
            grid.addWidget(label(text, "quiet", wrap=True), row, 1, 1, 2)
    column.addLayout(grid)
