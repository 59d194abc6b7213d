"""Labels before they are printed: size, first free place, how the first one looks, and what does not fit."""

from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTemporaryDir
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QComboBox, QGridLayout, QLabel, QSizePolicy, QSpinBox, QWidget

from even_beam.app.asker import Asker
from even_beam.app.dialogs import Sheet
from even_beam.app.job_runner import JobRunner
from even_beam.app.stations.report.pages import drawn, loaded
from even_beam.app.widgets.text import label
from even_beam.handing_over.orders import LabelsMade, Order, make_labels
from even_beam.paper.label import SIZES
from even_beam.shell.apart import APART

MOST_LINES = 6
PICTURE = 840, 330
LEAST_HEIGHT = 140


class LabelDialog(Sheet):
    """Asks for a size; `chosen` is its name, `start` the first free place."""

    def __init__(self, parent: QWidget | None, jobs: JobRunner, order: Order) -> None:
        super().__init__(parent, "Labels", "Save as PDF …", width=640)
        self._asker, self._order = Asker(jobs, parent=self), order
        self._folder = QTemporaryDir()
        self._asked = 0
        self._sizes = QComboBox()
        self._sizes.setAccessibleName("Size")
        for size in SIZES.values():
            self._sizes.addItem(size.words, size.name)
        self._sizes.setCurrentIndex(list(SIZES).index("24mm"))
        self._start = QSpinBox()
        self._start.setAccessibleName("First free place on the sheet")
        self._start.setMinimum(1)
        grid = QGridLayout()
        grid.addWidget(label("size", "quiet"), 0, 0)
        grid.addWidget(self._sizes, 0, 1)
        self._place = label("first free place", "quiet")
        grid.addWidget(self._place, 1, 0)
        grid.addWidget(self._start, 1, 1)
        grid.setColumnStretch(1, 1)
        self.body.addLayout(grid)
        self._picture = QLabel()
        self._picture.setAccessibleName("The first page of labels")
        self._picture.setMinimumHeight(LEAST_HEIGHT)
        self._picture.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Expanding)
        self._picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.body.addWidget(self._picture)
        self._words = label("", "coming", wrap=True)
        self._words.setMinimumHeight(60)
        self._words.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.body.addWidget(self._words)
        self._sizes.currentIndexChanged.connect(lambda _: self._sized())
        self._start.valueChanged.connect(lambda _: self._ask())
        self.resize(PICTURE[0] + 60, min(660, parent.height() - 40) if parent is not None else 660)
        self._sized()

    @property
    def chosen(self) -> str:
        """The name of the size."""
        return str(self._sizes.currentData())

    @property
    def start(self) -> int:
        """The first free place."""
        return self._start.value()

    def choose(self, name: str) -> None:
        """A size by its name."""
        self._sizes.setCurrentIndex(self._sizes.findData(name))

    def _sized(self) -> None:
        places = SIZES[self.chosen].of_sheet
        for widget in (self._start, self._place):
            widget.setVisible(places > 1)
        self._start.setMaximum(places)
        self._ask()

    def _ask(self) -> None:
        self._asked += 1
        path = Path(self._folder.filePath(f"labels-{self._asked}.pdf"))
        order, size, start = replace(self._order, out=path), self.chosen, self.start
        self._words.setText("Making them …")
        self._asker.ask(
            "labels",
            lambda job, _: APART.run(job.stop_if_cancelled, make_labels, order, size, start),
            partial(self._show, path),
            lambda error: self.complain(str(error)),
        )

    def _show(self, path: Path, made: LabelsMade) -> None:
        self.accept_button.setEnabled(made.count > 0)
        if made.count == 0:
            self._words.setText("No lamp was read that a label could be made for.")
            return
        self._picture.setPixmap(self._used_part(path, made.count))
        count = f"{made.count} label{'s' * (made.count != 1)}."
        lines = [*made.left_off[:MOST_LINES]]
        more = len(made.left_off) - len(lines)
        lines += [f"and {more} more"] if more > 0 else []
        self._words.setText("\n".join([f"{count} {'Nothing is left off.' if not lines else ''}", *lines]))

    def _used_part(self, path: Path, count: int) -> QPixmap:
        """The rows of the first sheet that are printed on, or the first label of a roll."""
        ratio = self.devicePixelRatioF()
        size = SIZES[self.chosen]
        room = max(self._picture.width(), 300)
        width = room if size.page_mm is not None or size.width_mm is None else room // 3
        whole = drawn(loaded(path), 0, width, ratio)
        if size.page_mm is None:
            return whole
        scale = whole.height() / size.page_mm[1]
        top, bottom = (scale * mm for mm in size.rows_mm(self.start, count))
        used = whole.copy(0, round(top), whole.width(), round(min(bottom - top, self._picture.height() * ratio)))
        used.setDevicePixelRatio(ratio)
        return used
