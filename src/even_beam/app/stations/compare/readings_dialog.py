"""The readings behind a figure: each with its terms, moment and standing; one can be set aside here, and looked at."""

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QPushButton, QWidget

from even_beam.answers.compare.readings_behind import ReadingLine
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label


class ReadingsDialog(Sheet):
    """Shows lines; `set_aside` is told a reading's id and the reason and returns the lines as they are then."""

    def __init__(
        self,
        parent: QWidget | None,
        title: str,
        lines: list[ReadingLine],
        selected: str,
        set_aside: Callable[[str, str], list[ReadingLine]],
        show_spectrum: Callable[[str], None],
    ) -> None:
        super().__init__(parent, title, "Go on", cancel="", width=820)
        self._set_aside, self._show_spectrum = set_aside, show_spectrum
        self.body.addWidget(
            label("Set one aside and every figure that used it changes. Ctrl Z takes it in again.", "quiet", wrap=True)
        )
        self._list = QListWidget()
        self._list.setAccessibleName("Readings")
        self._list.setMinimumHeight(300)
        self.body.addWidget(self._list)
        self._reason = QLineEdit()
        self._reason.setPlaceholderText("why it is set aside: aim was off, a door stood open")
        self._reason.setAccessibleName("Reason")
        self._reason.returnPressed.connect(self.set_aside)
        row = QHBoxLayout()
        row.addWidget(self._reason, 1)
        for text, act in (("Set aside", self.set_aside), ("Its spectrum", self.look_at)):
            button = QPushButton(text)
            button.setAutoDefault(False)
            button.clicked.connect(act)
            row.addWidget(button)
        self.body.addLayout(row)
        self._show(lines, selected)
        self._list.setFocus()

    @property
    def chosen(self) -> str:
        """The id of the reading under the cursor."""
        item = self._list.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _show(self, lines: list[ReadingLine], selected: str) -> None:
        self._list.clear()
        for line in lines:
            item = QListWidgetItem(line.text)
            item.setData(Qt.ItemDataRole.UserRole, line.reading_id)
            self._list.addItem(item)
        place = next((i for i, line in enumerate(lines) if line.reading_id == selected), 0)
        self._list.setCurrentRow(place)

    def set_aside(self) -> None:
        """Leave the reading under the cursor out, with the reason."""
        reason = self._reason.text().strip()
        if not reason:
            self.complain("Say why: a figure that is left out without a reason cannot be defended.")
            self._reason.setFocus()
            return
        self.fault.hide()
        chosen = self.chosen
        if chosen:
            self._show(self._set_aside(chosen, reason), chosen)
            self._reason.clear()

    def look_at(self) -> None:
        """Show the spectrum of the reading under the cursor."""
        self.accept()
        self._show_spectrum(self.chosen)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """H goes to the reason, as on the Bench."""
        if event is not None and event.text().upper() == "H" and not self._reason.hasFocus():
            self._reason.setFocus()
        else:
            super().keyPressEvent(event)
