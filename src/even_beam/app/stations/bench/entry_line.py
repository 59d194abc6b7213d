"""The line where figures, steps and notes are typed, with what was understood below it before it counts."""

from collections.abc import Callable

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from even_beam.app import theme
from even_beam.app.widgets.text import label
from even_beam.words import notation


class EntryLine(QWidget):
    """A large line. `confirmed` tells the text at Enter, `left` that it was given up with Escape."""

    confirmed = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._understand: Callable[[str], str] = lambda text: ""
        self._caption = label("", "quiet", wrap=True)
        self._line = QLineEdit()
        self._line.setAccessibleName("Figure")
        self._understood = label("", "line")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(2)
        for widget in (self._caption, self._line, self._understood):
            layout.addWidget(widget)
        self._line.textChanged.connect(self._show_understood)
        self._line.installEventFilter(self)
        self.hide()

    @property
    def text(self) -> str:
        """What is typed."""
        return self._line.text()

    @property
    def offer(self) -> str:
        """What was understood of it, or what it asks."""
        return self._understood.text()

    def open_with(self, text: str, caption: str, understand: Callable[[str], str]) -> None:
        """Open with a first character and a way to say what is understood so far."""
        self._understand = understand
        self._caption.setText(caption)
        self._line.setFont(theme.font("figure"))
        self._line.setText(text)
        self._line.setAccessibleName(caption)
        self._show_understood()
        self.show()
        self._line.setFocus()
        self._line.deselect()

    def close_line(self) -> None:
        """Close and forget."""
        self._line.clear()
        self.hide()

    def select_all(self) -> None:
        """Mark the text, so that typing replaces it."""
        self._line.selectAll()

    def _show_understood(self) -> None:
        words = self._understand(self._line.text()) if self._line.text().strip() else ""
        self._understood.setText(words)
        self._line.setAccessibleDescription(notation.heard(words))  # read aloud where the focus is, as it is typed

    def eventFilter(self, watched: object, event: QEvent | None) -> bool:
        """Enter confirms, Escape (or deleting the last character) gives up."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.confirmed.emit(self._line.text())
                return True
            leaving = event.key() == Qt.Key.Key_Escape
            leaving |= event.key() == Qt.Key.Key_Backspace and not self._line.text()
            if leaving:
                self.left.emit()
                return True
        return False
