"""The meters: what each is, how far it can be trusted, and whether it is good for ratios only."""

from collections.abc import Callable

from PyQt6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QLineEdit, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.records import Meter, new_id
from even_beam.workspace.kit.lamp_form import FormError
from even_beam.workspace.kit.meter_form import CC_SIGNS, KINDS, RECEPTORS, MeterForm, form_of, meter_of

_TEXTS = (
    ("nickname", "Nickname", "Spectrometer 2"),
    ("constant", "C of its exposure equation", "250 flat, 340 dome"),
    ("level_pct", "Level promised within, %", "5"),
    ("ratio_pct", "Two readings agree within, %", "1.5"),
    ("floor_lx", "Reads from, lx", "1"),
    ("ceiling_lx", "Reads to, lx", "200000"),
    ("zeroed_on", "Zeroed on a lamp", "empty, or which lamp"),
    ("notes", "Notes", "calibrated last spring"),
)
_CHOICES = (
    ("kind", "What it is", KINDS),
    ("receptor", "Receptor", RECEPTORS),
    ("cc_sign", "Its CC figure shows", CC_SIGNS),
)


class MeterDialog(Sheet):
    """Edits one meter after the other; `save` keeps one and may refuse with a `FormError`."""

    def __init__(
        self, parent: QWidget | None, meters: list[Meter], save: Callable[[Meter, Meter | None], object]
    ) -> None:
        super().__init__(parent, "Meters", "Keep", width=620)
        self._meters, self._save = meters, save
        self._which = QComboBox()
        self._which.addItems([*(m.nickname for m in meters), "a new meter"])
        self._which.setAccessibleName("Which meter")
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        grid.addWidget(label("Meter", "quiet"), 0, 0)
        grid.addWidget(self._which, 0, 1)
        self._boxes: dict[str, QComboBox] = {}
        for name, caption, choices in _CHOICES:
            box = QComboBox()
            box.addItems(choices)
            box.setAccessibleName(caption)
            self._boxes[name] = box
            self._add(grid, caption, box)
        self._edits: dict[str, QLineEdit] = {}
        for name, caption, example in _TEXTS:
            edit = QLineEdit()
            edit.setPlaceholderText(example)
            edit.setAccessibleName(caption)
            self._edits[name] = edit
            self._add(grid, caption, edit)
        self._ratios = QCheckBox("good for ratios only: its figures are compared, never published as they are")
        grid.addWidget(self._ratios, grid.rowCount(), 0, 1, 2)
        self.body.addLayout(grid)
        self._which.currentIndexChanged.connect(lambda _: self._show())
        self._show()

    @staticmethod
    def _add(grid: QGridLayout, caption: str, widget: QWidget) -> None:
        row = grid.rowCount()
        grid.addWidget(label(caption, "quiet"), row, 0)
        grid.addWidget(widget, row, 1)

    @property
    def _before(self) -> Meter | None:
        place = self._which.currentIndex()
        return self._meters[place] if place < len(self._meters) else None

    def _show(self) -> None:
        form = form_of(self._before) if self._before is not None else MeterForm()
        for name, edit in self._edits.items():
            edit.setText(getattr(form, name))
        for name, box in self._boxes.items():
            box.setCurrentText(getattr(form, name))
        self._ratios.setChecked(form.ratios_only)

    def try_accept(self) -> None:
        """Keep the meter, or say which field is wrong."""
        texts = {name: edit.text() for name, edit in self._edits.items()}
        texts |= {name: box.currentText() for name, box in self._boxes.items()}
        try:
            meter = meter_of(
                MeterForm(ratios_only=self._ratios.isChecked(), **texts), self._before or Meter(new_id(), "")
            )
            self._save(meter, self._before)
        except FormError as error:
            self.complain(str(error))
            self._edits[error.field].setFocus()
            return
        self.accept()
