"""Lamps judged side by side: a word each in large type, then limit by limit on one scale for all.

A band is what is allowed, a dot what was read, a line what the meter can tell, an open dot where it cannot.
"""

from PyQt6.QtCore import QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.answers.compare.judged import Judged, JudgedLamp, OnScale
from even_beam.app import theme

MOST_BESIDE = 4
"""So many lamps stand side by side; more are a table."""

_SIDE, _ROW, _HEAD, _DOT = 210, 44, 128, 5.0


class JudgeGrid(QWidget):
    """Shows what was judged; nothing of more lamps than stand side by side."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._judged: Judged | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_judged(self, judged: Judged | None) -> None:
        """Show lamps judged for a purpose."""
        self._judged = judged if judged is not None and len(judged.lamps) <= MOST_BESIDE else None
        self.setVisible(self._judged is not None)
        if self._judged is not None:
            self.setFixedHeight(_HEAD + _ROW * len(self._judged.limits) + 8)
            self.setAccessibleName(f"Judged for {self._judged.purpose}")
            self.setAccessibleDescription(". ".join(self._said(self._judged)))
        self.update()

    @staticmethod
    def _said(judged: Judged) -> list[str]:
        words = [lamp.sentence for lamp in judged.lamps]
        for limit in judged.limits:
            own = ", ".join(f"{lamp.name} {one.text}" for lamp, one in zip(judged.lamps, limit.figures, strict=True))
            words.append(f"{limit.label}, {limit.bound}: {own}")
        return words

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The lamps' heads, then a row a limit."""
        judged = self._judged
        if judged is None:
            return
        t = theme.tokens()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide = (self.width() - _SIDE) // max(len(judged.lamps), 2)
        for place, lamp in enumerate(judged.lamps):
            self._paint_head(painter, lamp, QRect(_SIDE + place * wide, 0, wide - 16, _HEAD))
        for row, limit in enumerate(judged.limits):
            top = _HEAD + row * _ROW
            painter.setPen(theme.color(t.hairline))
            painter.drawLine(0, top, self.width(), top)
            painter.setFont(theme.font("body"))
            painter.setPen(theme.color(t.text))
            painter.drawText(QRect(0, top + 5, _SIDE - 12, 18), Qt.AlignmentFlag.AlignVCenter, limit.label)
            painter.setFont(theme.font("small"))
            painter.setPen(theme.color(t.secondary))
            painter.drawText(QRect(0, top + 23, _SIDE - 12, 16), Qt.AlignmentFlag.AlignVCenter, limit.bound)
            for place, one in enumerate(limit.figures):
                box = QRect(_SIDE + place * wide, top, wide - 16, _ROW)
                self._paint_figure(painter, one, limit.allowed, box)
        painter.end()

    @staticmethod
    def _paint_head(painter: QPainter, lamp: JudgedLamp, box: QRect) -> None:
        t = theme.tokens()
        painter.setFont(theme.font("line"))
        painter.setPen(theme.color(t.text))
        metrics = painter.fontMetrics()
        name = metrics.elidedText(lamp.name, Qt.TextElideMode.ElideRight, box.width())
        painter.drawText(QRect(box.left(), 0, box.width(), 24), Qt.AlignmentFlag.AlignVCenter, name)
        left = box.left() + metrics.horizontalAdvance(name) + 8
        painter.setFont(theme.font("small"))
        painter.setPen(theme.color(t.secondary))
        on_it = painter.fontMetrics().elidedText(lamp.on_it, Qt.TextElideMode.ElideRight, box.right() - left)
        painter.drawText(QRect(left, 2, max(box.right() - left, 0), 24), Qt.AlignmentFlag.AlignVCenter, on_it)
        painter.setFont(theme.font("figure"))
        painter.setPen(theme.color(t.accent if lamp.word == "no" else t.text))
        painter.drawText(QRect(box.left(), 24, box.width(), 48), Qt.AlignmentFlag.AlignVCenter, lamp.word)
        painter.setFont(theme.font("body"))
        flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        painter.setPen(theme.color(t.secondary))
        why = QRect(box.left(), 74, box.width(), 34)
        used = painter.boundingRect(why, int(flags), lamp.why)
        painter.drawText(why, int(flags), lamp.why)
        painter.setPen(theme.color(t.text))
        act = QRect(box.left(), min(used.bottom() + 3, _HEAD - 20), box.width(), 18)
        text = QFontMetrics(painter.font()).elidedText(lamp.act, Qt.TextElideMode.ElideRight, box.width())
        painter.drawText(act, Qt.AlignmentFlag.AlignTop, text)

    @staticmethod
    def _paint_figure(painter: QPainter, one: OnScale, allowed: tuple[float, float], box: QRect) -> None:
        t = theme.tokens()
        scale = QRectF(box.left(), box.center().y(), 0.58 * box.width(), 1.0)
        colour = theme.color(t.accent if one.outside else t.text)
        painter.fillRect(scale, theme.color(t.hairline))
        band = QRectF(
            scale.left() + allowed[0] * scale.width(),
            scale.center().y() - 5.0,
            (allowed[1] - allowed[0]) * scale.width(),
            10.0,
        )
        painter.fillRect(band, theme.color(t.line))
        if one.at is not None:
            y = scale.center().y()
            painter.setPen(QPen(colour, 1.6))
            painter.drawLine(
                QPointF(scale.left() + one.low * scale.width(), y), QPointF(scale.left() + one.high * scale.width(), y)
            )
            painter.setBrush(colour if one.sure else theme.color(t.ground))
            painter.drawEllipse(QPointF(scale.left() + one.at * scale.width(), y), _DOT, _DOT)
        painter.setFont(theme.font("body"))
        painter.setPen(colour if one.at is not None else theme.color(t.coming))
        text = one.text if one.sure or one.at is None else f"{one.text}  ?"
        words = QRect(round(scale.right()) + 14, box.top(), box.right() - round(scale.right()) - 14, box.height())
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, text)
