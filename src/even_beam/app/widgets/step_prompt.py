"""The next step in large type, with only the part lit that the hands must change."""

from PyQt6.QtCore import QPoint, QSize
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.answers.bench.view import Part
from even_beam.app import theme

_HIGH, _LOW = 142, 108


class StepPrompt(QWidget):
    """Two lines: what is lit and how it is set, and below what is read. Readable from three metres."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._above: tuple[Part, ...] = ()
        self._parts: tuple[Part, ...] = ()
        self._below = ""
        self._low = False
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_step(self, above: tuple[Part, ...], parts: tuple[Part, ...], below: str) -> None:
        """Show a step."""
        self._above, self._parts, self._below = above, parts, below
        spoken = " ".join(part.text for part in (*above, *parts))
        changing = ", ".join(part.text for part in (*above, *parts) if part.changes)
        self.setAccessibleName(f"Next: {spoken}. Change: {changing or 'nothing'}. {below}")
        self.update()

    def sizeHint(self) -> QSize:
        """The three lines."""
        return QSize(600, _LOW if self._low else _HIGH)

    def set_low(self, low: bool) -> None:
        """Take less height, where the window has little."""
        if low != self._low:
            self._low = low
            self.updateGeometry()
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint what changes bright and underlined, the rest dim."""
        t = theme.tokens()
        painter = QPainter(self)
        x = 0
        painter.setFont(theme.font("title"))
        for index, part in enumerate(self._above):
            painter.setPen(theme.color(t.text if part.changes else t.secondary))
            text = part.text + (" · " if index < len(self._above) - 1 else "")
            painter.drawText(QPoint(x, 26), text)
            if part.changes:
                end = x + painter.fontMetrics().horizontalAdvance(part.text)
                painter.fillRect(x, 33, end - x, 2, theme.color(t.accent))
            x += painter.fontMetrics().horizontalAdvance(text)
        self._paint_large(painter)
        painter.setFont(theme.font("line"))
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QPoint(0, self.height() - 8), self._elided(self._below))
        painter.end()

    def _paint_large(self, painter: QPainter) -> None:
        """The setting, as large as the width allows."""
        t = theme.tokens()
        font = theme.font("figure" if self._low else "prompt")
        base, gap = (68, 22) if self._low else (94, 22)
        while font.pixelSize() > 24:
            metrics = QFontMetrics(font)
            if sum(metrics.horizontalAdvance(p.text) + gap for p in self._parts) <= self.width():
                break
            font.setPixelSize(font.pixelSize() - 2)
        painter.setFont(font)
        x = 0
        for part in self._parts:
            painter.setPen(theme.color(t.text if part.changes else t.coming))
            painter.drawText(QPoint(x - 2, base), part.text)
            width = painter.fontMetrics().horizontalAdvance(part.text)
            if part.changes:
                painter.fillRect(x, base + 10, width, 4, theme.color(t.accent))
            x += width + gap

    def _elided(self, text: str) -> str:
        from PyQt6.QtCore import Qt

        return QFontMetrics(theme.font("line")).elidedText(text, Qt.TextElideMode.ElideRight, self.width())
