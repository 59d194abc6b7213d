"""The run sheet: steps with what was read, the present one lit."""

from PyQt6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QStandardItem, QStandardItemModel
from PyQt6.QtWidgets import QAbstractItemView, QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from even_beam.answers.bench.sheet_row import SheetRow
from even_beam.app import shapes, theme


class _RowDelegate(QStyledItemDelegate):
    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        """One line."""
        return QSize(200, 26)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """Paint mark, terms and figure."""
        if painter is None:
            return
        row: SheetRow = index.data(Qt.ItemDataRole.UserRole)
        t, box = theme.tokens(), option.rect
        painter.save()
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(box, theme.color(t.raised))
        if row.heading:
            painter.setPen(theme.color(t.secondary))
            painter.setFont(theme.font("body"))
            text = painter.fontMetrics().elidedText(row.first, Qt.TextElideMode.ElideRight, box.width() - 8)
            painter.drawText(box.adjusted(8, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, text)
            painter.restore()
            return
        self._paint_step(painter, row, box)
        painter.restore()

    @staticmethod
    def _paint_step(painter: QPainter, row: SheetRow, box: QRect) -> None:
        t = theme.tokens()
        here = row.standing in {"here", "doubt"}
        if here:
            painter.fillRect(box, theme.color(t.raised))
            painter.fillRect(box.left(), box.top(), 3, box.height(), theme.color(t.accent))
        middle = box.center().y() + 0.5
        mark = QPointF(box.left() + 15, middle)
        if row.standing == "done":
            shapes.paint_tick(painter, mark, 4.5, t.secondary)
        elif row.standing == "here":
            shapes.paint_chevron(painter, mark, 4.0, t.text)
        elif row.standing in {"doubt", "kept", "suspect"}:
            shapes.paint_doubt(painter, mark, 4.5, t.accent)
        colour = t.text if row.standing in {"done", "here", "doubt", "kept", "suspect"} else t.coming
        painter.setFont(theme.font("body"))
        taken = painter.fontMetrics().horizontalAdvance(row.figure) + 20
        ends = (104 if row.second else box.width() - taken, box.width() - taken)
        for x, end, text, changed in zip((30, 108), ends, (row.first, row.second), row.changed, strict=True):
            painter.setPen(theme.color(colour if changed or here else t.coming))
            shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, max(end - x, 8))
            painter.drawText(box.adjusted(x, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, shown)
        painter.setPen(theme.color(t.accent if row.standing == "doubt" else colour))
        painter.drawText(
            box.adjusted(0, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, row.figure
        )


class RunSheet(QListView):
    """The steps of a run. `step_chosen` tells the id of a step that was activated.

    An `editable` sheet has a cursor that the arrows move; any other is only looked at.
    """

    step_chosen = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None, *, editable: bool = False) -> None:
        super().__init__(parent)
        self._model = QStandardItemModel(self)
        self._shown: list[SheetRow] = []
        self.setModel(self._model)
        self.setItemDelegate(_RowDelegate(self))
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        mode = QAbstractItemView.SelectionMode
        self.setSelectionMode(mode.SingleSelection if editable else mode.NoSelection)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setUniformItemSizes(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if editable else Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Run sheet")
        self.doubleClicked.connect(self._activated)

    def show_rows(self, rows: list[SheetRow]) -> None:
        """Show steps, changing only the lines that differ, and bring the present one into view."""
        if len(rows) != self._model.rowCount():
            self._model.clear()
            for row in rows:
                self._model.appendRow(_item(row))
        else:
            for place, (old, new) in enumerate(zip(self._shown, rows, strict=True)):
                if old != new:
                    self._model.setItem(place, _item(new))
        self._shown = rows
        here = next((i for i, row in enumerate(rows) if row.standing in {"here", "doubt"}), None)
        if here is not None:
            self.scrollTo(self._model.index(here, 0), QAbstractItemView.ScrollHint.PositionAtCenter)

    @property
    def chosen_step(self) -> str | None:
        """The id of the step under the cursor of an editable sheet; None on a heading and without a cursor."""
        row = self.currentIndex().data(Qt.ItemDataRole.UserRole)
        return row.step_id if row is not None and not row.heading else None

    def choose_step(self, step_id: str) -> None:
        """Put the cursor on a step."""
        place = next((i for i, row in enumerate(self._shown) if row.step_id == step_id), None)
        if place is not None:
            self.setCurrentIndex(self._model.index(place, 0))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """The plain arrows are its own; every other key is the station's."""
        own = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}
        if event is not None and event.key() in own and not event.modifiers() & Qt.KeyboardModifier.AltModifier:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()

    def choose_row(self, row: int) -> None:
        """Put the cursor on a line."""
        self.setCurrentIndex(self._model.index(min(row, self._model.rowCount() - 1), 0))

    def _activated(self, index: QModelIndex) -> None:
        row: SheetRow = index.data(Qt.ItemDataRole.UserRole)
        if not row.heading:
            self.step_chosen.emit(row.step_id)


def _item(row: SheetRow) -> QStandardItem:
    item = QStandardItem(f"{row.first} {row.second} {row.figure} {row.standing}".strip())
    item.setData(row, Qt.ItemDataRole.UserRole)
    return item
