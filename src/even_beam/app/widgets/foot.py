"""The foot of the window: the keys of the present station, always in sight."""

from collections.abc import Sequence
from dataclasses import replace

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from even_beam.app import theme
from even_beam.app.keys import KeyHint

_GAP = 26


class KeyRow(QWidget):
    """Key hints in a row, each key underlined; a click does what the key does."""

    pressed = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None, *, right: KeyHint | None = None, ground: str = "") -> None:
        super().__init__(parent)
        self._hints: tuple[KeyHint, ...] = ()
        self._right = right
        self._ground = ground
        self._places: list[tuple[int, int, str]] = []
        self.setMinimumHeight(30)

    def show_hints(self, hints: Sequence[KeyHint]) -> None:
        """Show these keys."""
        self._hints = tuple(hints)
        self.setAccessibleName("Keys: " + ", ".join(f"{h.key} {h.label}" for h in hints))
        self.update()

    def sizeHint(self) -> QSize:
        """As wide as it is given."""
        return QSize(400, 34)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint keys and words on one line."""
        t = theme.tokens()
        painter = QPainter(self)
        if self._ground:
            painter.fillRect(self.rect(), theme.color(self._ground))
        self._places = []
        x = 0
        shown = self._fitting()
        for hint in shown:
            x = self._paint_hint(painter, hint, x) + _GAP
        if self._right is not None:
            right = self._rest(len(shown))
            self._paint_hint(painter, right, self.width() - self._width(right))
        painter.setPen(theme.color(t.text))
        painter.end()

    def _fitting(self) -> tuple[KeyHint, ...]:
        """The keys that there is room for, none of them cut."""
        left = self.width()
        if self._right is not None:
            left -= self._width(self._rest(0)) + _GAP
        for count, hint in enumerate(self._hints):
            left -= self._width(hint) + _GAP
            if left < -_GAP:
                return self._hints[:count]
        return self._hints

    def _rest(self, shown: int) -> KeyHint:
        """The key on the right, with how many more it tells of."""
        right = self._right or KeyHint("", "")
        more = len(self._hints) - shown
        return right if not more else replace(right, label=f"{more} more")

    def _width(self, hint: KeyHint) -> int:
        key = QFontMetrics(theme.font("body", mono=True)).horizontalAdvance(hint.key)
        return key + 8 + QFontMetrics(theme.font("body")).horizontalAdvance(hint.label)

    def _paint_hint(self, painter: QPainter, hint: KeyHint, x: int) -> int:
        t = theme.tokens()
        base = self.height() // 2 + 5
        painter.setFont(theme.font("body", mono=True))
        painter.setPen(theme.color(t.text))
        key_width = painter.fontMetrics().horizontalAdvance(hint.key)
        painter.drawText(QPoint(x, base), hint.key)
        painter.setPen(theme.color(t.coming))
        painter.drawLine(x - 2, base + 5, x + key_width + 2, base + 5)
        painter.setFont(theme.font("body"))
        painter.setPen(theme.color(t.secondary))
        painter.drawText(QPoint(x + key_width + 8, base), hint.label)
        end = x + key_width + 8 + painter.fontMetrics().horizontalAdvance(hint.label)
        self._places.append((x, end, hint.key))
        return end

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Do what the key under the mouse does."""
        if event is None:
            return
        for start, end, key in self._places:
            if start <= event.position().x() <= end:
                self.pressed.emit(key)
                return

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """A hand over what can be clicked."""
        self.setCursor(Qt.CursorShape.PointingHandCursor)
