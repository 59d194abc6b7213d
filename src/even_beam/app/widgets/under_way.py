"""A page for work that all else waits for: what is being made, how far it is, and how to leave it."""

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from even_beam.app import theme
from even_beam.app.widgets.text import label

_BAR_PX, _WIDTH_PX = 6, 420


class UnderWay(QWidget):
    """Shows what is under way; `left` is told when somebody does not want to wait."""

    left = pyqtSignal()

    def __init__(self, title: str, aside: str) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(title)
        self._bar = _Bar()
        self.words = label("", "line", size="line")
        column = QVBoxLayout(self)
        column.setContentsMargins(56, 56, 56, 56)
        column.setSpacing(16)
        column.addStretch()
        column.addWidget(label(title, "title", size="title", wrap=True))
        column.addWidget(self.words)
        column.addWidget(self._bar)
        column.addWidget(label(aside, "quiet", wrap=True))
        column.addStretch()

    def show_progress(self, share: float, words: str) -> None:
        """How far it is, 0-1, and at what."""
        self.words.setText(words)
        self._bar.share = share
        self._bar.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc leaves it."""
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)


class _Bar(QWidget):
    def __init__(self) -> None:
        super().__init__()
        self.share = 0.0
        self.setFixedSize(_WIDTH_PX, _BAR_PX)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        t, painter = theme.tokens(), QPainter(self)
        painter.fillRect(self.rect(), theme.color(t.hairline))
        painter.fillRect(QRectF(0.0, 0.0, self.width() * self.share, float(_BAR_PX)), theme.color(t.accent))
