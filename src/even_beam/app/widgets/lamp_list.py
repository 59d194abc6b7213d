"""The lamps of a comparison: in or out, each with its colour and shape; the reference locked and named."""

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from even_beam.app import shapes, theme
from even_beam.app.widgets.chart_view import LINE_PENS
from even_beam.collection.collection import Lamp
from even_beam.figures.chart import line_style

_LAMP = Qt.ItemDataRole.UserRole
_SERIES = Qt.ItemDataRole.UserRole + 1
_REFERENCE = Qt.ItemDataRole.UserRole + 2


class _Delegate(QStyledItemDelegate):
    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        """Name and kind."""
        return QSize(160, 48)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """Paint mark, name, kind."""
        if painter is None:
            return
        t, box = theme.tokens(), option.rect
        lamp: Lamp = index.data(_LAMP)
        series = index.data(_SERIES)
        painter.save()
        widget = option.widget
        if isinstance(widget, QListWidget) and widget.currentRow() == index.row():
            painter.fillRect(box, theme.color(t.raised))
        mark = QPointF(box.left() + 14, box.top() + 17)
        if series is not None:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            pen = QPen(theme.color(t.of_series(series)), 1.6, LINE_PENS[line_style(series)])
            painter.setPen(pen)
            painter.drawLine(QPointF(box.left() + 3, mark.y() + 14), QPointF(box.left() + 25, mark.y() + 14))
            shapes.paint_series_mark(painter, series, mark, 5.0, t.of_series(series))
        painter.setPen(theme.color(t.text if series is not None else t.coming))
        painter.setFont(theme.font("body"))
        room = box.width() - 34
        name = painter.fontMetrics().elidedText(lamp.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(box.adjusted(30, 7, 0, 0), Qt.AlignmentFlag.AlignTop, name)
        painter.setFont(theme.font("small"))
        painter.setPen(theme.color(t.secondary if series is not None else t.coming))
        words = f"reference · {lamp.kind}" if index.data(_REFERENCE) else lamp.kind
        kind = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room)
        painter.drawText(box.adjusted(30, 25, 0, 0), Qt.AlignmentFlag.AlignTop, kind)
        painter.restore()


class LampList(QListWidget):
    """Lamps that were read. `toggled` tells the key of one that is taken in or out, `looked_at` that of one clicked."""

    toggled = pyqtSignal(str)
    looked_at = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._words: list[str] = []
        self.setItemDelegate(_Delegate(self))
        self.setAccessibleName("Lamps that were read")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.itemClicked.connect(lambda item: self.looked_at.emit(item.data(_LAMP).key))
        self.itemDoubleClicked.connect(lambda item: self.toggled.emit(item.data(_LAMP).key))

    def show_lamps(
        self, lamps: Sequence[Lamp], chosen: Sequence[str], reference: str, numbers: Mapping[str, int]
    ) -> None:
        """Show the lamps; those chosen carry their series, by their numbers."""
        row = max(self.currentRow(), 0)
        self.clear()
        for lamp in lamps:
            item = QListWidgetItem(lamp.name)
            item.setData(_LAMP, lamp)
            item.setData(_SERIES, numbers.get(lamp.key) if lamp.key in chosen else None)
            item.setData(_REFERENCE, lamp.key == reference)
            words = "compared" if lamp.key in chosen else "left out"
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{lamp.name}, {lamp.kind}, {words}")
            self.addItem(item)
        self.setCurrentRow(min(row, self.count() - 1))
        self.show_only(" ".join(self._words))

    def show_only(self, words: str) -> None:
        """Leave out the lamps whose name and kind do not have these words."""
        self._words = words.casefold().split()
        for row in range(self.count()):
            item = self.item(row)
            if item is not None:
                lamp: Lamp = item.data(_LAMP)
                known = f"{lamp.name} {lamp.kind}".casefold()
                item.setHidden(not all(word in known for word in self._words))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Space takes a lamp in or out; letters are the station's."""
        item = self.currentItem()
        if event is not None and event.key() == Qt.Key.Key_Space and item is not None:
            self.toggled.emit(item.data(_LAMP).key)
        elif event is not None and event.key() in {Qt.Key.Key_Up, Qt.Key.Key_Down}:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()

    @property
    def under_cursor(self) -> str | None:
        """The lamp under the cursor."""
        item = self.currentItem()
        return item.data(_LAMP).key if item is not None else None
