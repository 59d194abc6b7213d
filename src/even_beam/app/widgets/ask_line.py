"""One line of a station: what is asked stands in it, and what is wrong with it under it."""

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from even_beam.app.widgets.text import label


class _Edit(QLineEdit):
    """Escape is told apart from leaving."""

    def __init__(self, left: Callable[[], None]) -> None:
        super().__init__()
        self._left = left

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Escape leaves the line as it was. Enter ends here: the station behind the line has an Enter of its own."""
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self._left()
        elif event is not None and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.returnPressed.emit()
        else:
            super().keyPressEvent(event)


class AskLine(QWidget):
    """Hidden until it is opened for something; `closed` is called when it goes."""

    def __init__(self, closed: Callable[[], None]) -> None:
        super().__init__()
        self._closed = closed
        self._take: Callable[[str], None] = lambda text: None
        self._what = label("", "quiet")
        self.edit = _Edit(self.close_line)
        self.edit.returnPressed.connect(lambda: self._take(self.edit.text()))
        self._fault = label("", "fault", wrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 4)
        column.setSpacing(2)
        for widget in (self._what, self.edit, self._fault):
            column.addWidget(widget)
        self.hide()

    def open(self, what: str, example: str, text: str, take: Callable[[str], None]) -> None:
        """Ask for something; `take` is handed what was typed, and closes the line or complains."""
        self._take = take
        self._what.setText(f"{what} · {example}")
        self.edit.setAccessibleName(what)
        self.edit.setText(text)
        self._fault.hide()
        self.show()
        self.edit.setFocus()
        self.edit.selectAll()

    def complain(self, words: str) -> None:
        """Say what is wrong; what was typed stands."""
        self._fault.setText(words)
        self._fault.show()
        self.edit.setFocus()

    def close_line(self) -> None:
        """Be gone."""
        self.hide()
        self._closed()
