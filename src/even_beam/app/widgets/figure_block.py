"""One figure in large numerals with its label, unit, what may be said of it, and where it lies in what was expected."""

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.app import theme
from even_beam.workspace.bench.view import FigureText


class FigureBlock(QWidget):
    """A figure as `FigureText` says."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._text = FigureText("", "")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_figure(self, text: FigureText) -> None:
        """Show a figure."""
        self._text = text
        self.setAccessibleName(f"{text.label}: {text.value} {text.unit}. {text.words}")
        self.update()

    def sizeHint(self) -> QSize:
        """Room for label, numerals, two lines of words and the scale."""
        return QSize(180, 104)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint label, figure, words and scale."""
        t, text = theme.tokens(), self._text
        painter = QPainter(self)
        painter.setFont(theme.font("body"))
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QPoint(0, 12), text.label)
        numerals = theme.font("figure")
        while numerals.pixelSize() > 20 and QFontMetrics(numerals).horizontalAdvance(text.value) > self.width() - 40:
            numerals.setPixelSize(numerals.pixelSize() - 2)
        painter.setFont(numerals)
        painter.setPen(theme.color(t.accent if text.in_doubt else t.coming if text.dim else t.text))
        painter.drawText(QPoint(0, 50), text.value)
        x = painter.fontMetrics().horizontalAdvance(text.value)
        painter.setFont(theme.font("line"))
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QPoint(x + 8, 50), text.unit)
        painter.setFont(theme.font("small"))
        box = QRect(0, 60, self.width() - 10, 34)
        flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        painter.drawText(box, flags, text.words)
        below = painter.boundingRect(box, int(flags), text.words).bottom() + 10
        if text.place is not None and text.band is not None:
            self._paint_scale(painter, text.place, text.band, below)
        painter.end()

    def _paint_scale(self, painter: QPainter, place: float, band: tuple[float, float], y: int) -> None:
        t, width = theme.tokens(), min(150, self.width() - 16)
        painter.fillRect(0, y, width, 2, theme.color(t.line))
        painter.fillRect(int(band[0] * width), y - 2, int((band[1] - band[0]) * width), 6, theme.color(t.coming))
        colour = t.text if band[0] <= place <= band[1] else t.accent
        painter.fillRect(int(place * width) - 1, y - 5, 3, 12, theme.color(colour))
