"""The questions of a station along its top: the one that is asked underlined, those without an answer dim."""

from collections.abc import Mapping, Sequence
from enum import StrEnum

from PyQt6.QtCore import QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.app import theme

_HEIGHT, _PAD, _GAP = 40, 12, 8


class QuestionBar(QWidget):
    """Shows the questions with their keys. `asked` tells the one that was clicked or reached by arrows."""

    asked = pyqtSignal(object)

    def __init__(self, questions: Sequence[StrEnum], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._questions, self._at = questions, questions[0]
        self._missing: Mapping[StrEnum, str] = {}
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._say()

    def show_question(self, ask: StrEnum, missing: Mapping[StrEnum, str]) -> None:
        """Show which is asked, and which have no answer and why."""
        self._at, self._missing = ask, missing
        self._say()
        self.update()

    def _say(self) -> None:
        words = [f"{number} {ask}" for number, ask in enumerate(self._questions, start=1)]
        self.setAccessibleName(f"Questions: {self._at}")
        self.setAccessibleDescription(", ".join(words))
        self.setToolTip("\n".join(self._missing.values()))

    def sizeHint(self) -> QSize:
        """One line."""
        return QSize(600, _HEIGHT)

    def _places(self) -> list[tuple[QRect, int, StrEnum]]:
        return self._placed(self._size)

    def _placed(self, size: str) -> list[tuple[QRect, int, StrEnum]]:
        line, small = (QFontMetrics(theme.font(one), self) for one in (size, "small"))
        x, found = 0, []
        for number, ask in enumerate(self._questions, start=1):
            wide = small.horizontalAdvance(str(number)) + _GAP + line.horizontalAdvance(ask) + 2 * _PAD
            found.append((QRect(x, 0, wide, _HEIGHT), number, ask))
            x += wide
        return found

    @property
    def _size(self) -> str:
        """Large, where all stand beside each other so."""
        return "line" if self._placed("line")[-1][0].right() <= self.width() else "body"

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Key and question; a line of accent under the one that is asked."""
        t = theme.tokens()
        painter = QPainter(self)
        for box, number, ask in self._places():
            inside = box.adjusted(_PAD, 0, -_PAD, 0)
            painter.setFont(theme.font("small", mono=True))
            painter.setPen(theme.color(t.secondary))
            painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, str(number))
            inside.setLeft(inside.left() + painter.fontMetrics().horizontalAdvance(str(number)) + _GAP)
            painter.setFont(theme.font(self._size))
            dim = ask in self._missing
            painter.setPen(theme.color(t.coming if dim else t.text if ask is self._at else t.secondary))
            painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, ask)
            if ask is self._at:
                painter.fillRect(box.left(), box.bottom() - 2, box.width(), 3, theme.color(t.accent))
                if self.hasFocus():
                    painter.setPen(theme.color(t.text))
                    painter.drawRect(box.adjusted(1, 3, -2, -5))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A click asks."""
        for box, _, ask in self._places():
            if event is not None and box.contains(event.position().toPoint()):
                self.asked.emit(ask)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows go to the next question; the rest is the station's."""
        if event is not None and event.key() in {Qt.Key.Key_Left, Qt.Key.Key_Right}:
            order = list(self._questions)
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            self.asked.emit(order[(order.index(self._at) + step) % len(order)])
        elif event is not None:
            event.ignore()
