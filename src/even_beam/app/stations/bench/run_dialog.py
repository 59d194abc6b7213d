"""Planning a run: lamps, whites, levels, distance, meter and repeats make the run sheet."""

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QGridLayout, QLineEdit, QListWidget, QListWidgetItem, QSpinBox, QWidget

from even_beam.answers.bench.run_form import RunForm, RunFormError, sweep_of
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.planning.sweep import Sweep
from even_beam.bench.records import Meter
from even_beam.desk.kit.lamp_form import LampCard
from even_beam.words import notation

Estimate = Callable[[Sweep, Meter], tuple[int, float]]


class RunDialog(Sheet):
    """Asks for a sweep; `sweep`, `meter`, `name` and `question` hold the answer."""

    def __init__(
        self,
        parent: QWidget | None,
        lamps: list[LampCard],
        meters: list[Meter],
        unit: str,
        estimate: Estimate,
        cautions: Callable[[Sweep], tuple[str, ...]],
        name: str,
    ) -> None:
        super().__init__(parent, "Plan a run", "Make the run sheet", width=720)
        self._meters, self._estimate, self._cautions = meters, estimate, cautions
        self.sweep: Sweep | None = None
        grid = QGridLayout()
        grid.setHorizontalSpacing(24)
        grid.setColumnStretch(2, 1)
        self._lamps = QListWidget()
        self._lamps.setAccessibleName("Lamps")
        self._lamps.setMinimumWidth(250)
        for card in lamps:
            item = QListWidgetItem(f"{card.source.nickname}   {card.model.kind if card.model else ''}")
            item.setData(Qt.ItemDataRole.UserRole, card.source.id)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Unchecked)
            self._lamps.addItem(item)
        self._lamps.itemChanged.connect(lambda _: self._update())
        grid.addWidget(label("Lamps, in the order to read them", "quiet"), 0, 0)
        grid.addWidget(self._lamps, 1, 0, 10, 1)
        self._name = self._line(grid, 0, "Session", name, "Spring store check")
        self._question = self._line(grid, 1, "Question", "", "May it replace tungsten and blue gel?")
        self._whites = self._line(grid, 2, "Whites, K", "5600 3200", "5600 3200; empty for a fixed white")
        self._levels = self._line(grid, 3, "Levels, %", "100 75 50 25 10 5 1", "100 50 25 10 1")
        self._distances = self._line(grid, 4, "Distances", "2 m" if unit == "m" else "10 ft", "2 m, or 10 15 20 25 ft")
        self._configuration = self._line(grid, 5, "On the lamp", "", "bare; reflector; reflector + diffuser")
        self._zoom = self._line(grid, 6, "Zoom", "", "flood, spot, where there is one")
        self._angles = self._line(grid, 7, "Angles", "", "centre, left 15, right 15")
        self._meter = QComboBox()
        self._meter.addItems([meter.nickname for meter in meters])
        by_key = next((i for i, meter in enumerate(meters) if meter.is_spectrometer), 0)
        self._meter.setCurrentIndex(by_key)
        self._meter.setAccessibleName("Meter")
        self._meter.currentIndexChanged.connect(lambda _: self._update())
        self._add(grid, 8, "Meter", self._meter)
        self._repeats = QSpinBox()
        self._repeats.setRange(1, 9)
        self._repeats.setValue(2)
        self._repeats.setAccessibleName("Readings a step")
        self._repeats.valueChanged.connect(lambda _: self._update())
        self._add(grid, 9, "Readings a step", self._repeats)
        self.body.addLayout(grid)
        self._summary = label("", "line", wrap=True)
        self._caution = label("", "quiet", wrap=True)
        self.body.addWidget(self._summary)
        self.body.addWidget(self._caution)
        self._update()

    def _line(self, grid: QGridLayout, row: int, caption: str, text: str, example: str) -> QLineEdit:
        edit = QLineEdit(text)
        edit.setPlaceholderText(example)
        edit.setAccessibleName(caption)
        edit.textChanged.connect(lambda _: self._update())
        self._add(grid, row, caption, edit)
        return edit

    @staticmethod
    def _add(grid: QGridLayout, row: int, caption: str, widget: QWidget) -> None:
        grid.addWidget(label(caption, "quiet"), row, 1)
        grid.addWidget(widget, row, 2)

    @property
    def meter(self) -> Meter:
        """The meter chosen."""
        return self._meters[self._meter.currentIndex()]

    @property
    def name(self) -> str:
        """The session's name."""
        return self._name.text().strip() or "Run"

    @property
    def question(self) -> str:
        """The session's question."""
        return self._question.text().strip()

    def check_lamp(self, source_id: str) -> None:
        """Take a lamp into the run."""
        for row in range(self._lamps.count()):
            item = self._lamps.item(row)
            if item is not None and item.data(Qt.ItemDataRole.UserRole) == source_id:
                item.setCheckState(Qt.CheckState.Checked)

    def _form(self) -> RunForm:
        items = [item for row in range(self._lamps.count()) if (item := self._lamps.item(row)) is not None]
        chosen = tuple(i.data(Qt.ItemDataRole.UserRole) for i in items if i.checkState() == Qt.CheckState.Checked)
        return RunForm(
            source_ids=chosen,
            whites=self._whites.text(),
            levels=self._levels.text(),
            distances=self._distances.text(),
            configuration=self._configuration.text(),
            zoom=self._zoom.text(),
            repeats=self._repeats.value(),
            angles=self._angles.text(),
        )

    def _update(self) -> None:
        if not hasattr(self, "_summary"):
            return
        try:
            self.sweep = sweep_of(self._form())
        except RunFormError as error:
            self.sweep = None
            self._summary.setText(str(error))
            self._caution.setText("")
            self.accept_button.setEnabled(False)
            return
        steps, seconds = self._estimate(self.sweep, self.meter)
        size = f"{notation.count(steps, 'step')}, {notation.count(steps * self.sweep.repeats, 'reading')}"
        self._summary.setText(f"{size}, about {max(1, round(seconds / 60))} min")
        self._caution.setText(" ".join(self._cautions(self.sweep)))
        self.accept_button.setEnabled(True)
