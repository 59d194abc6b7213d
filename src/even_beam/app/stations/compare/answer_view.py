"""What Compare answers: the terms, the answer in large type, the pictures that prove it, and this question's
figures."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from even_beam.answers.compare.answer import Shown
from even_beam.answers.compare.pictures import Picture
from even_beam.answers.compare.questions import Ask
from even_beam.app.stations.compare.even_terms import EvenTerms
from even_beam.app.stations.compare.judge_grid import MOST_BESIDE, JudgeGrid
from even_beam.app.stations.compare.patch_row import PatchRow
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.figure_table import FigureTable
from even_beam.app.widgets.headline import Headline
from even_beam.app.widgets.question_bar import QuestionBar
from even_beam.app.widgets.text import Column, Hairline, label

_LEAST_PICTURE, _A_ROW = 250, 19
_MOST_PICTURES = (3, 4, 4)
"""So many stand in each row at the most."""
_NOTHING = "Nothing to compare yet. Read two lamps on the Bench, and name each with Alt L."


class PictureRow(QWidget):
    """Pictures side by side, each as wide as it is meant to be beside the others. `chosen` tells a mark's reading."""

    chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(20)
        self.charts: list[ChartView] = []
        self._titles: list[QLabel] = []
        self._boxes: list[QWidget] = []

    def show_pictures(self, pictures: Sequence[Picture]) -> None:
        """Show these pictures and no more."""
        while len(self.charts) < len(pictures):
            self._add()
        for place, box in enumerate(self._boxes):
            box.setVisible(place < len(pictures))
            if place < len(pictures):
                self.charts[place].show_chart(pictures[place].chart)
                self._titles[place].setText(pictures[place].chart.title)
                self._row.setStretch(place, pictures[place].stretch)
        rows = max((picture.chart.rows for picture in pictures), default=0)
        self.setFixedHeight(max(_LEAST_PICTURE, 70 + _A_ROW * rows) if pictures else 0)
        self.setVisible(bool(pictures))

    def prepare(self, count: int) -> bool:
        """Make one more picture ready, of `count` that may be wanted; whether there is more to make."""
        if len(self.charts) < count:
            self._add()
            self._boxes[-1].hide()
        return len(self.charts) < count

    def _add(self) -> None:
        chart, title = ChartView(zoomable=True), label("", "coming", wrap=True)
        chart.chosen.connect(self.chosen)
        column = QVBoxLayout()
        column.setSpacing(2)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(title)
        column.addWidget(chart, 1)
        box = QWidget()
        box.setLayout(column)
        self._row.addWidget(box, 1)
        self.charts.append(chart)
        self._titles.append(title)
        self._boxes.append(box)


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
        self.bar, self.terms, self.headline = QuestionBar(list(Ask)), EvenTerms(), Headline()
        self.rows = [PictureRow() for _ in _MOST_PICTURES]
        for row in self.rows:
            row.chosen.connect(self.chosen)
        self.grid, self.patches, self.table = JudgeGrid(), PatchRow(), FigureTable()
        self.notes = label("", "quiet", size="body", wrap=True)
        self.notes.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.empty = label("", "line", wrap=True)
        column = QVBoxLayout()
        column.setContentsMargins(24, 0, 24, 12)
        column.setSpacing(10)
        column.addWidget(self.bar)
        column.addWidget(Hairline())
        for widget in (
            self.terms,
            self.empty,
            self.headline,
            self.grid,
            *self.rows,
            self.table,
            self.patches,
            self.notes,
        ):
            column.addWidget(widget)
        column.addStretch(1)
        content = Column()
        content.setLayout(column)
        self.setWidget(content)
        self._later = QTimer(self)  # what stands further down is drawn after what is seen first
        self._later.setSingleShot(True)
        self._further: Callable[[], None] = lambda: None
        self._later.timeout.connect(self._draw_further)
        self._spare = QTimer(self)  # a picture takes long to be made: each in a pass of its own
        self._spare.setInterval(20)
        self._spare.timeout.connect(self._prepare)

    def _draw_further(self) -> None:
        self._further()

    def _prepare(self) -> None:
        wanted = zip(self.rows, _MOST_PICTURES, strict=True)
        if not any(row.prepare(count) for row, count in wanted):
            self._spare.stop()

    @property
    def charts(self) -> list[ChartView]:
        """The pictures that are shown."""
        return [chart for row in self.rows for chart in row.charts if not chart.parentWidget().isHidden()]

    def show_answer(self, shown: Shown, selected: str) -> None:
        """Show an answer; `selected` is the reading that carries a ring."""
        ask = shown.question.ask
        self.bar.show_question(ask, {one: missing.words for one, missing in shown.missing.items()})
        self.terms.show_chips(shown.chips)
        missing = shown.missing.get(ask)
        words = _NOTHING if shown.comparison is None else missing.words if missing is not None else ""
        if missing is not None and missing.protocols and shown.comparison is not None:
            words += f" M makes the plan that would tell: {', '.join(missing.protocols)}."
        self.empty.setText(words)
        self.empty.setVisible(bool(words))
        lines = () if ask is Ask.ENOUGH and len(shown.lamps) and _beside(shown) else shown.lines
        self.headline.show_lines(lines)
        self.grid.show_judged(shown.judged)
        first, *further = ([p for p in shown.pictures if p.row == number] for number in range(len(self.rows)))
        self.rows[0].show_pictures(first)
        for row, pictures in zip(self.rows[1:], further, strict=True):
            row.setVisible(bool(pictures))
        self.table.show_sheet(type(shown.sheet)() if _beside(shown) or shown.comparison is None else shown.sheet)
        self.notes.setText("\n".join(shown.notes))
        self.notes.setVisible(bool(shown.notes))
        self.select(selected)
        self._further = lambda: self._show_further(further, shown, selected)
        self._later.start()
        self._spare.start()

    def _show_further(self, further: list[list[Picture]], shown: Shown, selected: str) -> None:
        for row, pictures in zip(self.rows[1:], further, strict=True):
            row.show_pictures(pictures)
        self.patches.show_sets(shown.patches)
        self.select(selected)

    def scroll_page(self, pages: int) -> None:
        """Go down by pages, or up."""
        bar = self.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + pages * bar.pageStep())

    def select(self, reading_id: str) -> None:
        """Ring a reading in every chart."""
        for chart in self.charts:
            chart.select(reading_id)


def _beside(shown: Shown) -> bool:
    """Whether the lamps are judged side by side, which says all that the answer and the table would."""
    return shown.judged is not None and len(shown.judged.lamps) <= MOST_BESIDE
