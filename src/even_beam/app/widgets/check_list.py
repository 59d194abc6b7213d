"""A list with boxes to tick, in an order that can be dragged."""

from PyQt6.QtCore import QModelIndex, QSize, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem


class _Wrapping(QStyledItemDelegate):
    """Measures a little narrower than it paints: the style's margins else cut the last word of a line that just
    fits."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """The height of the wrapped text."""
        narrower = QStyleOptionViewItem(option)
        narrower.rect = option.rect.adjusted(0, 0, -16, 0)
        return super().sizeHint(narrower, index)


class CheckList(QListWidget):
    """A list with boxes to tick; Space ticks, Enter and letters are the station's."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setWordWrap(True)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.setItemDelegate(_Wrapping(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setDragDropMode(QListWidget.DragDropMode.InternalMove)

    def fill(self, entries: list[tuple[str, str, str]]) -> None:
        """Show entries (key, text, words beneath), keeping what was ticked."""
        ticked = set(self.chosen)
        self.clear()
        for key, text, words in entries:
            item = QListWidgetItem(f"{text}\n{words}" if words else text)
            item.setData(Qt.ItemDataRole.UserRole, key)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if key in ticked else Qt.CheckState.Unchecked)
            self.addItem(item)
        self.setCurrentRow(0)

    @property
    def current(self) -> str:
        """The key under the cursor; empty where there is none."""
        item = self.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    @property
    def chosen(self) -> tuple[str, ...]:
        """The keys that are ticked, in order."""
        items = [item for row in range(self.count()) if (item := self.item(row)) is not None]
        return tuple(i.data(Qt.ItemDataRole.UserRole) for i in items if i.checkState() == Qt.CheckState.Checked)

    def choose(self, wanted: list[str]) -> None:
        """Tick exactly these."""
        for row in range(self.count()):
            item = self.item(row)
            if item is not None:
                on = item.data(Qt.ItemDataRole.UserRole) in wanted
                item.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows and Space are its own, with Alt the station's."""
        own = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Space, Qt.Key.Key_Home, Qt.Key.Key_End}
        plain = event is not None and not event.modifiers() & Qt.KeyboardModifier.AltModifier
        if event is not None and plain and event.key() in own:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()
