"""Tolerance sets: for each purpose the limits that a lamp must keep; edited, exchanged as JSON, and put back."""

from pathlib import Path

from PyQt6.QtWidgets import QComboBox, QFileDialog, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench import notation
from even_beam.bench.tolerances import LIMITS, ToleranceError
from even_beam.logbook.errors import LogbookError
from even_beam.workspace.findings.tolerance_desk import ToleranceDesk

_JSON = "Tolerance sets (*.json)"
_ROWS = 9


class ToleranceDialog(Sheet):
    """Shows the set of one purpose after the other; `changed` tells whether anything was kept."""

    def __init__(self, parent: QWidget | None, desk: ToleranceDesk, name: str) -> None:
        super().__init__(parent, "Tolerance sets", "Keep", cancel="Close", width=860)
        self._desk = desk
        self.changed = False
        self.body.addWidget(
            label(
                "An empty limit is not asked. A set kept under another name is a new one; the logbook keeps it.",
                "quiet",
                wrap=True,
            )
        )
        self._names = QComboBox()
        self._names.setAccessibleName("Set")
        self._name, self._purpose = QLineEdit(), QLineEdit()
        self._name.setAccessibleName("Name")
        self._purpose.setAccessibleName("Purpose, and where its limits come from")
        head = QGridLayout()
        head.setHorizontalSpacing(16)
        for row, (caption, widget) in enumerate(
            (("Set", self._names), ("Name", self._name), ("Purpose and source", self._purpose))
        ):
            head.addWidget(label(caption, "quiet"), row, 0)
            head.addWidget(widget, row, 1)
        self.body.addLayout(head)
        self._limits: dict[str, QLineEdit] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        for number, (limit, known) in enumerate(LIMITS.items()):
            edit = QLineEdit()
            edit.setFixedWidth(90)
            bound = "" if limit == "white_k" else "at most" if known.most else "at least"
            edit.setAccessibleName(f"{known.label} {bound} {known.unit}".strip())
            row, column = number % _ROWS, 4 * (number // _ROWS)
            for place, widget in enumerate(
                (
                    label(notation.sentence(known.label), "quiet"),
                    label(bound, "coming"),
                    edit,
                    label(known.unit, "coming"),
                )
            ):
                grid.addWidget(widget, row, column + place)
            self._limits[limit] = edit
        self.body.addLayout(grid)
        buttons = QHBoxLayout()
        for text, act in (
            ("Put back as shipped", self.put_back),
            ("Write as JSON …", self._ask_write),
            ("Read JSON …", self._ask_read),
        ):
            button = QPushButton(text)
            button.setAutoDefault(False)
            button.clicked.connect(act)
            buttons.addWidget(button)
        buttons.addStretch()
        self.body.addLayout(buttons)
        self._names.currentTextChanged.connect(self._show)
        self._fill(name)

    def _fill(self, name: str) -> None:
        self._names.blockSignals(True)
        self._names.clear()
        self._names.addItems([one.name for one in self._desk.sets()])
        self._names.setCurrentText(name)
        self._names.blockSignals(False)
        self._show(self._names.currentText())

    def _show(self, name: str) -> None:
        shown = next((one for one in self._desk.sets() if one.name == name), None)
        if shown is None:
            return
        self._name.setText(shown.name)
        self._purpose.setText(shown.purpose)
        self._purpose.setCursorPosition(0)
        for limit, edit in self._limits.items():
            value = shown.limits.get(limit)
            edit.setText("" if value is None else notation.plain(value, 4).replace(notation.THIN_SPACE, ""))
        self.fault.hide()

    def try_accept(self) -> None:
        """Keep the set as it stands."""
        try:
            kept = self._desk.save(
                self._name.text(), self._purpose.text(), {limit: edit.text() for limit, edit in self._limits.items()}
            )
        except (ToleranceError, LogbookError) as error:
            self.complain(str(error))
            return
        self.changed = True
        self._fill(kept.name)
        self.accept()

    def put_back(self) -> None:
        """Forget the logbook's own set of this name."""
        name = self._names.currentText()
        if not self._desk.drop(name):
            self.complain(f"“{name}” is as it was shipped.")
            return
        self.changed = True
        self._fill(name)

    def _ask_write(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Write tolerance sets", "tolerances.json", _JSON)
        if name:
            self.write(Path(name))

    def write(self, path: Path) -> None:
        """Every set into a file."""
        try:
            self._desk.write(path, [one.name for one in self._desk.sets()])
        except ToleranceError as error:
            self.complain(str(error))

    def _ask_read(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Read tolerance sets", "", _JSON)
        if name:
            self.read(Path(name))

    def read(self, path: Path) -> None:
        """The sets of a file, in place of those of the same names."""
        try:
            found = self._desk.read(path)
        except (ToleranceError, LogbookError) as error:
            self.complain(str(error))
            return
        self.changed = True
        self._fill(found[0].name if found else self._names.currentText())
