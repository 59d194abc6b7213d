"""The list of a shelf: each thing by its name, with what it is and the one thing worth knowing of it beneath."""

from collections.abc import Sequence

from PyQt6.QtCore import QModelIndex, QPersistentModelIndex, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QPainter
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem

from even_beam.answers.kit.shelf import Thing
from even_beam.app import theme

_THING = Qt.ItemDataRole.UserRole


class _Delegate(QStyledItemDelegate):
    """Two lines; the row of the cursor on a raised ground."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        """Two lines."""
        return QSize(200, 54)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """Paint both lines."""
        if painter is None:
            return
        t, box = theme.tokens(), option.rect
        thing: Thing = index.data(_THING)
        widget = option.widget
        painter.save()
        if isinstance(widget, QListWidget) and widget.currentRow() == index.row():
            painter.fillRect(box, theme.color(t.raised))
            if widget.hasFocus():
                painter.fillRect(box.left(), box.top(), 3, box.height(), theme.color(t.accent))
        room = box.width() - 24
        painter.setFont(theme.font("line"))
        painter.setPen(theme.color(t.coming if thing.faint else t.text))
        name = painter.fontMetrics().elidedText(thing.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(box.adjusted(12, 6, -8, 0), Qt.AlignmentFlag.AlignTop, name)
        painter.setFont(theme.font("small"))
        metrics = painter.fontMetrics()
        shown = metrics.elidedText(thing.worth, Qt.TextElideMode.ElideRight, room)
        left = max(room - metrics.horizontalAdvance(f" · {shown}"), 0) if shown else room
        first = metrics.elidedText(thing.line, Qt.TextElideMode.ElideRight, left)
        first += " · " if first and shown else ""
        painter.setPen(theme.color(t.secondary))
        painter.drawText(box.adjusted(12, 30, -8, 0), Qt.AlignmentFlag.AlignTop, first)
        painter.setPen(theme.color(t.accent if thing.presses else t.secondary))
        place = 12 + metrics.horizontalAdvance(first)
        painter.drawText(box.adjusted(place, 30, -8, 0), Qt.AlignmentFlag.AlignTop, shown)
        painter.restore()


class ThingList(QListWidget):
    """A list that leaves Enter and letters to its station."""

    def __init__(self) -> None:
        super().__init__()
        self.setItemDelegate(_Delegate(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def show_things(self, things: Sequence[Thing], at: str, name: str) -> None:
        """Show things, the cursor on the one of a key, else where it was."""
        row = max(self.currentRow(), 0)
        self.setAccessibleName(name)
        self.blockSignals(True)
        self.clear()
        for thing in things:
            item = QListWidgetItem(thing.name)
            item.setData(_THING, thing)
            said = ", ".join(part for part in (thing.name, thing.line, thing.worth) if part)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, said)
            item.setToolTip(said)
            self.addItem(item)
        place = next((i for i, thing in enumerate(things) if thing.key == at), min(row, len(things) - 1))
        self.setCurrentRow(place)
        self.blockSignals(False)

    def go_to_first(self) -> None:
        """Begin at the top with the things that are shown next."""
        self.blockSignals(True)
        self.clear()
        self.blockSignals(False)

    @property
    def at(self) -> str:
        """The key of the thing under the cursor; empty for none."""
        item = self.currentItem()
        return item.data(_THING).key if item is not None else ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Only the arrows are its own."""
        moving = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End}
        if event is not None and event.key() in moving:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()
