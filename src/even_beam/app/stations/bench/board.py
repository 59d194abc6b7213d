"""What the Bench shows: step, figures, picture, second look, sheet and curve. It decides nothing."""

from collections.abc import Callable

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QHideEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from even_beam.answers.bench import answers as bench_answers
from even_beam.answers.bench import charts as bench_charts
from even_beam.answers.bench import rows as bench_rows
from even_beam.answers.bench import view as bench_view
from even_beam.app.stations.bench.entry_line import EntryLine
from even_beam.app.widgets.answer_row import AnswerRow
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.run_sheet import RunSheet
from even_beam.app.widgets.second_look_panel import SecondLookPanel
from even_beam.app.widgets.step_prompt import StepPrompt
from even_beam.app.widgets.text import Hairline, label
from even_beam.bench.planning import cautions
from even_beam.desk.session.desk import Proposal, SessionDesk, Taken
from even_beam.figures.chart import Chart
from even_beam.shell.settings import Settings

_FIGURES = 4
_LOW, _PICTURE_FROM, _WIDE = 560, 620, 1000


class Board(QWidget):
    """The board of a session at work; `prompt`, `entry`, `look` and `sheet` are its parts that take part in the
    work."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.prompt = StepPrompt()
        self.entry = EntryLine()
        self._countdown = label("", "countdown")
        self._since = label("", "coming")
        self.look = SecondLookPanel()
        self.sheet = RunSheet()
        self.answers = [AnswerRow() for _ in range(_FIGURES)]
        self._of = label("", "quiet", wrap=True)
        self._match = label("", "line", wrap=True)
        self._chart, self._curve = ChartView(), ChartView()
        self._chart_title, self._curve_title = label("", "coming"), label("", "coming")
        self._caution = label("", "coming", wrap=True)
        self._figures = QWidget()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._main_column(), 1)
        row.addWidget(Hairline(vertical=True))
        row.addWidget(self._side_column())
        self._draw: Callable[[], None] = lambda: None
        self._later = QTimer(self)  # the next prompt is painted first, the charts after it
        self._later.setSingleShot(True)
        self._later.timeout.connect(self._draw_charts)

    def _main_column(self) -> QWidget:
        figures = QVBoxLayout(self._figures)
        figures.setContentsMargins(0, 0, 0, 0)
        figures.setSpacing(2)
        figures.addWidget(Hairline())
        figures.addSpacing(4)
        figures.addWidget(self._of)
        for answer in self.answers:
            figures.addWidget(answer)
        figures.addWidget(self._match)
        self._picture = QWidget()
        picture = QVBoxLayout(self._picture)
        picture.setContentsMargins(0, 0, 0, 0)
        picture.setSpacing(2)
        picture.addWidget(self._chart_title)
        picture.addWidget(self._chart, 1)
        column = QWidget()
        layout = QVBoxLayout(column)
        layout.setContentsMargins(24, 16, 24, 12)
        layout.setSpacing(8)
        for widget in (self.prompt, self._countdown, self._since, self.entry, self._figures):
            layout.addWidget(widget)
        layout.addWidget(self._picture, 1)
        layout.addStretch()
        layout.addWidget(self.look)
        return column

    def _side_column(self) -> QWidget:
        self._side = column = QWidget()
        layout = QVBoxLayout(column)
        layout.setContentsMargins(16, 20, 16, 12)
        layout.setSpacing(8)
        layout.addWidget(self.sheet, 3)
        layout.addWidget(self._curve_title)
        layout.addWidget(self._curve, 2)
        layout.addWidget(self._caution)
        return column

    def show_state(self, desk: SessionDesk, settings: Settings, taken: Taken | None, proposal: Proposal | None) -> None:
        """Show a session, with the reading just taken or the figure that awaits a decision."""
        shown = bench_view.prompt(desk, settings)
        self.prompt.show_step(shown.above, shown.parts, shown.below)
        self.sheet.show_rows(bench_rows.sheet(desk, settings))
        self._caution.setText("" if desk.measured else cautions.EYES)
        self._caution.setVisible(not desk.measured)
        self.show_since(bench_view.since_words(desk), bench_view.countdown_words(desk))
        self.show_figures(desk, settings, taken, proposal)
        self._draw = lambda: self._show_charts(desk, settings, taken, proposal)
        self._later.start()

    def _show_charts(
        self, desk: SessionDesk, settings: Settings, taken: Taken | None, proposal: Proposal | None
    ) -> None:
        measured = desk.of(taken.measured.reading.id) if taken is not None else bench_view.latest(desk)
        chart = bench_charts.main_chart(desk, measured, taken.look if taken is not None else None, settings)
        if proposal is not None and proposal.look.in_doubt:
            doubtful = bench_charts.doubt_chart(desk, proposal, settings)
            chart = chart if doubtful.empty else doubtful
        self._show_chart(self._chart, self._chart_title, chart)
        curve = bench_charts.curve_so_far(desk, measured)
        self._show_chart(self._curve, self._curve_title, curve, beside=chart)

    def _draw_charts(self) -> None:
        self._draw()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """A low window keeps what the work needs: the step, the answers, the second look. The picture goes first."""
        super().resizeEvent(event)
        self.prompt.set_low(self.height() < _LOW)
        self._picture.setVisible(self.height() >= _PICTURE_FROM)
        self._side.setFixedWidth(372 if self.width() >= _WIDE else 300)

    def hideEvent(self, event: QHideEvent | None) -> None:
        """A hidden board draws nothing: its logbook may be gone."""
        self._later.stop()
        super().hideEvent(event)

    @staticmethod
    def _show_chart(view: ChartView, title: QWidget, chart: Chart, beside: Chart | None = None) -> None:
        """An empty chart, and one that stands beside itself, is not shown."""
        visible = not chart.empty and (beside is None or beside.title != chart.title)
        if visible:
            view.show_chart(chart)
            title.setText(chart.title)  # type: ignore[attr-defined]
        view.setVisible(visible)
        title.setVisible(visible)

    def show_since(self, words: str, countdown: str = "") -> None:
        """How long the light has stood as it is, and large how long to wait."""
        self._since.setText(words)
        self._countdown.setText(countdown)
        self._countdown.setVisible(bool(countdown))

    def show_figures(
        self, desk: SessionDesk, settings: Settings, taken: Taken | None, proposal: Proposal | None
    ) -> None:
        """The answers under their own caption: of the line in doubt, else of the reading just taken or the latest."""
        texts = bench_answers.answers_shown(desk, settings, taken, proposal)
        for answer, text in zip(self.answers, [*texts, *[None] * _FIGURES], strict=False):
            answer.setVisible(text is not None)
            if text is not None:
                answer.show_answer(text)
        self._of.setText(bench_answers.caption(desk, settings, taken, proposal))
        self._figures.setVisible(bool(texts) and not self.entry.isVisible())

    def show_match(self, words: str) -> None:
        """What to dial or clip on so that the light just read agrees with the target; nothing outside target mode."""
        self._match.setText(words)
        self._match.setVisible(bool(words))

    def hide_figures(self) -> None:
        """Make room for the entry line."""
        self._figures.hide()

    def show_nothing(self) -> None:
        """No session yet."""
        self._later.stop()
        self.show_since("")
        self.prompt.show_step(
            (), (bench_view.Part("just read", True),), "Enter reads the meter, a digit types a figure"
        )
        self.sheet.show_rows([])
        for widget in (self._figures, self._chart, self._curve, self._curve_title, self._chart_title):
            widget.setVisible(False)
        self._caution.setText(cautions.EYES)
        self.look.show_look(
            "Read something",
            "No form comes first: the lamp and its setting may be named afterwards. Alt R plans a whole run.",
        )

    def greet(self, desk: SessionDesk) -> None:
        """What stands here before the first reading, or when a run is taken up again."""
        self.look.show_look(*bench_view.greeting(desk))
