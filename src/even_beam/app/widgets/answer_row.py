"""One figure as an answer: what it is, its number, where it lies beside what was asked or expected, and a few words."""

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.answers.bench.answers import AnswerText, Scale
from even_beam.app import theme

_LABEL, _FIGURE, _GAP, _HEIGHT = 84, 168, 18, 44


class AnswerRow(QWidget):
    """An answer as `AnswerText` says."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._text = AnswerText("", "")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_answer(self, text: AnswerText) -> None:
        """Show an answer."""
        self._text = text
        asked = f" {text.scale.caption}." if text.scale is not None else ""
        self.setAccessibleName(f"{text.label}: {text.value} {text.unit}. {text.words}{asked}")
        self.update()

    def sizeHint(self) -> QSize:
        """One line, with the caption of its scale beneath."""
        return QSize(480, _HEIGHT)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint label, figure, scale and words from left to right."""
        t, text = theme.tokens(), self._text
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.setFont(theme.font("body"))
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QRect(0, 0, _LABEL, 30), middle | Qt.TextFlag.TextWordWrap, text.label)
        painter.setFont(theme.font("title"))
        painter.setPen(theme.color(t.accent if text.in_doubt else t.coming if text.dim else t.text))
        painter.drawText(QRect(_LABEL, 0, _FIGURE, 30), middle, text.value)
        wide = painter.fontMetrics().horizontalAdvance(text.value)
        painter.setFont(theme.font("line"))
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QRect(_LABEL + wide + 8, 2, max(_FIGURE - wide, 40), 30), middle, text.unit)
        left = _LABEL + _FIGURE + _GAP
        width = max(110, (self.width() - left) // 3)
        if text.scale is not None:
            self._paint_scale(painter, text.scale, QRectF(left, 15.0, width, 1.0), in_doubt=text.in_doubt)
        painter.setFont(theme.font("body"))
        painter.setPen(theme.color(t.secondary))
        words = QRect(left + width + _GAP, -2, self.width() - left - width - _GAP, 36)
        flags = int(middle | Qt.TextFlag.TextWordWrap)
        said = text.words
        if painter.boundingRect(words, flags, said).height() > words.height():
            painter.setFont(theme.font("small"))
        if painter.boundingRect(words, flags, said).height() > words.height():
            said = said.rpartition(" · ")[2]  # what it comes to, without the figures that say so
        painter.drawText(words, flags, said)
        painter.end()

    @staticmethod
    def _paint_scale(painter: QPainter, scale: Scale, line: QRectF, *, in_doubt: bool) -> None:
        """A band for what was wanted, a dot for the figure, a line for what the meter can tell."""
        t = theme.tokens()
        painter.fillRect(line, theme.color(t.line))
        y = line.center().y()
        low, high = (line.left() + place * line.width() for place in scale.wanted)
        painter.fillRect(QRectF(low, y - 5.0, high - low, 10.0), theme.color(t.line))
        colour = theme.color(t.accent if in_doubt or not scale.fits else t.text)
        painter.setPen(QPen(colour, 1.6))
        told_low, told_high = (line.left() + place * line.width() for place in scale.told)
        painter.drawLine(QPointF(told_low, y), QPointF(told_high, y))
        painter.setBrush(colour)
        painter.drawEllipse(QPointF(line.left() + scale.at * line.width(), y), 4.5, 4.5)
        painter.setFont(theme.font("small"))
        painter.setPen(theme.color(t.coming))
        box = QRectF(line.left() - 40.0, y + 9.0, line.width() + 80.0, 18.0)
        painter.drawText(box, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, scale.caption)
