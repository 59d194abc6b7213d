"""A chart as a picture, before it is saved: which, how large, on what ground."""

from collections.abc import Mapping
from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTemporaryDir
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QComboBox, QGridLayout, QLabel, QSizePolicy, QWidget

from even_beam.app.asker import Asker
from even_beam.app.dialogs import Sheet
from even_beam.app.job_runner import JobRunner
from even_beam.app.widgets.text import label
from even_beam.figures.picture_renderer import GROUNDS
from even_beam.handing_over.orders import Order, make_picture
from even_beam.shell.apart import APART

SIZES = ((1920, 1080), (3840, 2160), (1080, 1080), (1080, 1920))
LEAST_HEIGHT = 140


class PictureDialog(Sheet):
    """Asks for a chart; `chart`, `pixels` and `ground` are what was chosen."""

    def __init__(self, parent: QWidget | None, jobs: JobRunner, order: Order) -> None:
        super().__init__(parent, "Pictures", "Save …", width=600)
        self._asker, self._order = Asker(jobs, parent=self), order
        self._folder = QTemporaryDir()
        self._asked = 0
        self._charts, self._sizes, self._grounds = QComboBox(), QComboBox(), QComboBox()
        grid = QGridLayout()
        for row, (caption, box) in enumerate(
            (("chart", self._charts), ("pixels", self._sizes), ("ground", self._grounds))
        ):
            box.setAccessibleName(caption)
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(box, row, 1)
        grid.setColumnStretch(1, 1)
        for width, height in SIZES:
            self._sizes.addItem(f"{width} × {height}", (width, height))
        for ground in GROUNDS:
            self._grounds.addItem(ground, ground)
        self.body.addLayout(grid)
        self._picture = QLabel()
        self._picture.setAccessibleName("How it will look")
        self._picture.setMinimumHeight(LEAST_HEIGHT)
        self._picture.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Expanding)
        self._picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.body.addWidget(self._picture)
        for box in (self._charts, self._sizes, self._grounds):
            box.currentIndexChanged.connect(lambda _: self._ask())
        self.resize(760, min(660, parent.height() - 40) if parent is not None else 660)
        self._ask()

    @property
    def chart(self) -> str:
        """The name of the chart; empty while it is not known which there are."""
        return str(self._charts.currentData() or "")

    @property
    def pixels(self) -> tuple[int, int]:
        """Width and height."""
        width, height = self._sizes.currentData()
        return int(width), int(height)

    @property
    def ground(self) -> str:
        """What stands behind it."""
        return str(self._grounds.currentData())

    def _ask(self) -> None:
        self._asked += 1
        path = Path(self._folder.filePath(f"picture-{self._asked}.png"))
        width, height = self.pixels
        half = 2 if max(width, height) < 2000 else 4
        order, chart, ground = replace(self._order, out=path), self.chart, self.ground
        self._asker.ask(
            "picture",
            lambda job, _: APART.run(
                job.stop_if_cancelled, make_picture, order, chart, width // half, height // half, ground
            ),
            partial(self._show, path),
            lambda error: self.complain(str(error)),
        )

    def _show(self, path: Path, charts: Mapping[str, str]) -> None:
        self.accept_button.setEnabled(bool(charts))
        if not charts:
            self.complain("Nothing was read that a chart could show.")
            return
        if self._charts.count() == 0:
            self._charts.blockSignals(True)
            for name, title in charts.items():
                self._charts.addItem(title, name)
            self._charts.blockSignals(False)
        pixmap = QPixmap(str(path))
        self._picture.setPixmap(
            pixmap.scaled(
                self._picture.size(),
                Qt.AspectRatioMode.KeepAspectRatio,
                Qt.TransformationMode.SmoothTransformation,
            )
        )
