"""Split patches: each subject under the reference (upper half) and under the lamp (lower half), on a neutral ground."""

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QHelpEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QToolTip, QWidget

from even_beam.app import theme
from even_beam.figures.patches import PatchPair
from even_beam.words import notation

_GAP, _NAMED_GAP = 3, 10
_MARKED = 3


class SplitPatches(QWidget):
    """A grid of patches; the three that differ most carry their difference, or, `named`, each has its name and its
    difference below it. Hovering names a patch."""

    def __init__(self, parent: QWidget | None = None, columns: int = 9, *, named: bool = False) -> None:
        super().__init__(parent)
        self._columns, self._named = columns, named
        self._gap = _NAMED_GAP if named else _GAP
        self._pairs: tuple[PatchPair, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_pairs(self, pairs: tuple[PatchPair, ...], title: str) -> None:
        """Show patches."""
        self._pairs = pairs
        worst = _worst(pairs)
        self.setAccessibleName(f"{title}: most different " + ", ".join(f"{p.name} {p.delta_e:.1f}" for p in worst))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        """As many rows as the patches need."""
        return QSize(300, self.heightForWidth(max(self.width(), 280)))

    def hasHeightForWidth(self) -> bool:
        """Patches are square."""
        return True

    def heightForWidth(self, width: int) -> int:
        """Rows of squares."""
        rows = -(-len(self._pairs) // self._columns) if self._pairs else 1
        return rows * (self._side_at(width) + self._below() + self._gap)

    def _below(self) -> int:
        """The room of a name below its patch."""
        return QFontMetrics(theme.font("small")).height() + 2 if self._named else 0

    def _side_at(self, width: int) -> int:
        return max(20, (width - self._gap * (self._columns - 1)) // self._columns)

    def _side(self) -> int:
        return self._side_at(max(self.width(), 280))

    def _place(self, index: int) -> QRect:
        side = self._side()
        down = index // self._columns * (side + self._below() + self._gap)
        return QRect((index % self._columns) * (side + self._gap), down, side, side)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint halves, and the difference on the most different."""
        painter = QPainter(self)
        worst = {p.name for p in _worst(self._pairs)}
        painter.setFont(theme.font("small"))
        for index, pair in enumerate(self._pairs):
            box = self._place(index)
            upper = QRect(box.left(), box.top(), box.width(), box.height() // 2)
            painter.fillRect(upper, QColor(*pair.reference))
            painter.fillRect(box.adjusted(0, box.height() // 2, 0, 0), QColor(*pair.lamp))
            if pair.left_out:
                painter.setPen(QColor("#111111" if sum(pair.lamp) > 380 else "#ececec"))
                painter.drawLine(box.topLeft(), box.bottomRight())
            elif pair.name in worst and not self._named:
                dark = sum(pair.lamp) > 380
                painter.setPen(QColor("#111111" if dark else "#ececec"))
                flags = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom
                painter.drawText(box, flags, notation.number(pair.delta_e, 1))
            if self._named:
                self._paint_name(painter, pair, box, is_worst=pair.name in worst)
        painter.end()

    def _paint_name(self, painter: QPainter, pair: PatchPair, box: QRect, *, is_worst: bool) -> None:
        """The name, and how far apart: the farthest stand out."""
        t = theme.tokens()
        painter.setPen(QColor(t.text if is_worst else t.secondary))
        below = QRect(box.left(), box.bottom() + 1, box.width(), self._below())
        apart = "left out" if pair.left_out else notation.number(pair.delta_e, 1)
        painter.drawText(below, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, apart)
        room = box.width() - painter.fontMetrics().horizontalAdvance(apart) - 4
        name = painter.fontMetrics().elidedText(pair.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(below, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, name)

    def event(self, event: object) -> bool:
        """Name the patch under the mouse."""
        if isinstance(event, QHelpEvent):
            self._tell(event.pos(), event.globalPos())
            return True
        return bool(super().event(event))  # type: ignore[arg-type]

    def _tell(self, at: QPoint, where: QPoint) -> None:
        for index, pair in enumerate(self._pairs):
            if self._place(index).contains(at):
                said = "left out" if pair.left_out else f"CIEDE2000 {notation.number(pair.delta_e, 1)}"
                QToolTip.showText(where, f"{pair.name}: {said}", self)
                return
        QToolTip.hideText()


def _worst(pairs: tuple[PatchPair, ...]) -> list[PatchPair]:
    """Those that differ most, of those that count."""
    return sorted((p for p in pairs if not p.left_out), key=lambda p: -p.delta_e)[:_MARKED]
