"""The even-terms line: what is equal, what was brought to common terms, what differs. Word and frame tell them apart."""

from collections.abc import Sequence

from PyQt6.QtCore import QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.app import theme
from even_beam.bench.compare import Evenness, TermNote

_PREFIX = {
    Evenness.SAME: "same: ",
    Evenness.BROUGHT: "",
    Evenness.DIFFERS: "differs: ",
    Evenness.UNKNOWN: "",
}
_GAP, _PAD, _LINE = 8, 10, 26


class EvenTerms(QWidget):
    """Notes in frames, flowing over as many lines as they need. `pressed` tells a click."""

    pressed = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._notes: tuple[TermNote, ...] = ()
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def show_notes(self, notes: Sequence[TermNote]) -> None:
        """Show the notes."""
        self._notes = tuple(notes)
        self.setAccessibleName("Even terms. " + ". ".join(f"{n.evenness}: {n.text}" for n in notes))
        self.setToolTip("\n".join(f"{n.evenness}: {n.text}" for n in notes))
        self.setFixedHeight(self.heightForWidth(max(self.width(), 400)))
        self.update()

    def heightForWidth(self, width: int) -> int:
        """As many lines as the notes need."""
        places = self._places(width)
        return (places[-1][0].bottom() + 2) if places else _LINE

    def sizeHint(self) -> QSize:
        """For the present width."""
        return QSize(600, self.heightForWidth(max(self.width(), 400)))

    def _places(self, width: int) -> list[tuple[QRect, TermNote]]:
        metrics = QFontMetrics(theme.font("body"))
        x, y = metrics.horizontalAdvance("Even terms") + 20, 0
        places = []
        for note in self._notes:
            wide = min(metrics.horizontalAdvance(_PREFIX[note.evenness] + note.text) + 2 * _PAD, width)
            if x + wide > width and x > 0:
                x, y = 0, y + _LINE + _GAP // 2
            places.append((QRect(x, y, wide, _LINE), note))
            x += wide + _GAP
        return places

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """A click restricts the comparison to even terms, and a second one lifts it."""
        self.pressed.emit()

    def resizeEvent(self, event: object) -> None:
        """Flow anew."""
        self.setFixedHeight(self.heightForWidth(self.width()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the notes."""
        t = theme.tokens()
        painter = QPainter(self)
        painter.setFont(theme.font("body"))
        painter.setPen(theme.color(t.text))
        painter.drawText(QRect(0, 0, 120, _LINE), Qt.AlignmentFlag.AlignVCenter, "Even terms")
        for box, note in self._places(self.width()):
            outstanding = note.evenness in (Evenness.DIFFERS, Evenness.UNKNOWN)
            colour = t.line if note.evenness is Evenness.SAME else t.accent
            style = Qt.PenStyle.DashLine if note.evenness is Evenness.BROUGHT else Qt.PenStyle.SolidLine
            painter.setPen(QPen(theme.color(colour), 1.0, style))
            painter.drawRect(box.adjusted(0, 0, -1, -1))
            painter.setPen(theme.color(t.accent if outstanding else t.text))
            text = painter.fontMetrics().elidedText(_PREFIX[note.evenness] + note.text, Qt.TextElideMode.ElideRight, box.width() - 2 * _PAD)  # fmt: skip
            painter.drawText(box.adjusted(_PAD, 0, -_PAD, 0), Qt.AlignmentFlag.AlignVCenter, text)
        painter.end()
