"""Every figure of a spectrum with its meaning, the samples one by one, patches for eye and camera: the second page."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from even_beam.answers.spectrum.view import Group, SpectrumView
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.split_patches import SplitPatches
from even_beam.app.widgets.text import Column, Hairline, clear, label, scrolled
from even_beam.words.metrics import METRICS


class FiguresPage(QWidget):
    """Built when it is first asked for: its pictures would hold up the first spectrum."""

    def __init__(self) -> None:
        super().__init__()
        self.charts = {name: ChartView() for name in ("spectrum", "samples", "all", "shifts")}
        self.eye, self._camera = SplitPatches(), SplitPatches()
        self._titles = {name: label("", "coming", wrap=True) for name in self.charts}
        self._words: dict[str, QLabel] = {name: label("", "coming", wrap=True) for name in ("tm30", "eye", "camera")}
        self._rescue = label("", "quiet", wrap=True)
        self._figures = QVBoxLayout()
        self._figures.setContentsMargins(24, 16, 16, 12)
        self._figures.setSpacing(3)
        inner = QWidget()
        inner.setLayout(self._figures)
        inner.setMaximumWidth(372)
        middle = QVBoxLayout()
        middle.setContentsMargins(20, 16, 12, 12)
        middle.setSpacing(2)
        for name, stretch in (("spectrum", 5), ("samples", 4), ("all", 3)):
            middle.addWidget(self._titles[name])
            middle.addWidget(self.charts[name], stretch)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addWidget(scrolled(inner, 384))
        frame.addWidget(Hairline(vertical=True))
        frame.addLayout(middle, 1)
        frame.addWidget(self._build_side())

    def _build_side(self) -> QWidget:
        right = QVBoxLayout()
        right.setContentsMargins(8, 16, 20, 12)
        right.setSpacing(4)
        right.addWidget(self._titles["shifts"])
        self.charts["shifts"].setFixedHeight(170)
        right.addWidget(self.charts["shifts"])
        right.addWidget(self._words["tm30"])
        for title, patches, words in (
            ("to an adapted eye", self.eye, "eye"),
            ("to the standard camera, balanced", self._camera, "camera"),
        ):
            right.addSpacing(6)
            right.addWidget(label(title, "coming"))
            right.addWidget(patches)
            right.addWidget(self._words[words])
        right.addWidget(self._rescue)
        right.addStretch()
        side = Column()
        side.setLayout(right)
        return scrolled(side, 330)

    def show_view(self, view: SpectrumView) -> None:
        """Show the figures of a spectrum."""
        for name, chart in (
            ("spectrum", view.spectrum),
            ("samples", view.samples),
            ("all", view.all_samples),
            ("shifts", view.shifts),
        ):
            self.charts[name].show_chart(chart)
            self._titles[name].setText(
                f"{view.name} · {view.understood}" if name == "spectrum" and view.understood else chart.title
            )
        self.eye.show_pairs(view.eye, "to an adapted eye")
        self._camera.show_pairs(view.camera, "to the standard camera")
        for name, words in self._words.items():
            words.setText(f"{METRICS[name].says} {METRICS[name].limits}" if name != "tm30" else METRICS[name].limits)
        self._rescue.setText(view.rescue)
        self._show_groups(view.groups)

    def _show_groups(self, groups: tuple[Group, ...]) -> None:
        clear(self._figures)
        for group in groups:
            self._figures.addWidget(_group_widget(group))
        self._figures.addStretch()


def _group_widget(group: Group) -> QWidget:
    grid = QGridLayout()
    grid.setContentsMargins(0, 0, 0, 12)
    grid.setHorizontalSpacing(12)
    grid.setVerticalSpacing(2)
    grid.setColumnStretch(1, 1)
    grid.addWidget(label(group.title, "line"), 0, 0, 1, 2)
    for row, line in enumerate(group.lines, start=1):
        name = label(line.name, "quiet")
        name.setFixedWidth(126)
        value = label(line.value, wrap=True)
        grid.addWidget(name, row, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(value, row, 1, Qt.AlignmentFlag.AlignTop)
    grid.addWidget(
        label(f"{group.words.says} {group.words.limits}", "coming", wrap=True), len(group.lines) + 1, 0, 1, 2
    )
    box = QWidget()
    box.setLayout(grid)
    box.setToolTip(f"{group.words.says}\n{group.words.limits}")
    return box
