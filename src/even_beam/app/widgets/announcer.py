"""What is said to whoever listens rather than looks: each reading with its verdict, and all that is said in passing.

The toolkit's Python binding has no announcements of its own; the message of a status bar is what reaches screen readers
when it changes, wherever the focus is. This one is a pixel high: the eye has the same words elsewhere.
"""

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QPaintEvent
from PyQt6.QtWidgets import QStatusBar, QWidget

from even_beam.words import notation


class Announcer(QStatusBar):
    """The window's status bar; `currentMessage` is what was announced last."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setSizeGripEnabled(False)
        self.setFixedHeight(1)

    def sizeHint(self) -> QSize:
        """No room but its own pixel."""
        return QSize(0, 1)

    minimumSizeHint = sizeHint

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Nothing to see."""

    def announce(self, words: str) -> None:
        """Have words read aloud, also when they are those of the last time."""
        spoken = notation.heard(words)
        if spoken == self.currentMessage():
            self.clearMessage()
        self.showMessage(spoken)
