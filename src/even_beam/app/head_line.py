"""The line at the head of a station: where one is, and how far."""

from PyQt6.QtCore import QPoint, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.app import theme


class HeadLine(QWidget):
    """Parts on the left, the first bright; words on the right."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._parts: tuple[str, ...] = ()
        self._right = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_head(self, parts: tuple[str, ...], right: str) -> None:
        """Show a head line."""
        self._parts, self._right = parts, right
        self.setAccessibleName(". ".join((*parts, right)))
        self.update()

    def sizeHint(self) -> QSize:
        """One line."""
        return QSize(400, 44)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the parts, as many as there is room for."""
        t = theme.tokens()
        painter = QPainter(self)
        painter.setFont(theme.font("body"))
        metrics = QFontMetrics(theme.font("body"))
        right = metrics.horizontalAdvance(self._right)
        x, room = 24, self.width() - right - 48
        for index, part in enumerate(self._parts):
            text = metrics.elidedText(part, Qt.TextElideMode.ElideRight, max(0, room - x))
            painter.setPen(theme.color(t.text if index == 0 else t.secondary))
            painter.drawText(QPoint(x, 27), text)
            x += metrics.horizontalAdvance(part) + 28
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QPoint(self.width() - right - 24, 27), self._right)
        painter.end()
