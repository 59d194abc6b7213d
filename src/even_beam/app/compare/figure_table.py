"""The table of a comparison: a column a lamp, a row a figure; exceptions marked, the rest quiet."""

from collections.abc import Sequence

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableView, QWidget

from even_beam.app import theme
from even_beam.workspace.compare.table import TableRow

MARK = "  !"
_ROW = 29


class _Model(QAbstractTableModel):
    def __init__(self) -> None:
        super().__init__()
        self.names: tuple[str, ...] = ()
        self.rows: tuple[TableRow, ...] = ()
        self.corner = ""

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return len(self.rows)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return len(self.names) + 1 if self.names else 0

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.rows[index.row()]
        t = theme.tokens()
        if index.column() == 0:
            if role == Qt.ItemDataRole.DisplayRole:
                return row.name
            return theme.color(t.secondary) if role == Qt.ItemDataRole.ForegroundRole else None
        cell = row.cells[index.column() - 1]
        if role == Qt.ItemDataRole.DisplayRole:
            return cell.text + (MARK if cell.marked else "")
        if role == Qt.ItemDataRole.ForegroundRole:
            return theme.color(t.accent if cell.marked else t.coming if cell.quiet else t.text)
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return self.corner if section == 0 else self.names[section - 1]
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        if role == Qt.ItemDataRole.FontRole:
            return theme.font("body")
        return None


class FigureTable(QTableView):
    """Shows the rows of a comparison."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._model = _Model()
        self.setModel(self._model)
        self.setShowGrid(False)
        self.setAccessibleName("Figures at the common terms")
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        header, side = self.horizontalHeader(), self.verticalHeader()
        if header is not None and side is not None:
            header.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
            header.setHighlightSections(False)
            side.setDefaultSectionSize(_ROW)
            side.hide()

    def show_rows(self, corner: str, names: Sequence[str], rows: tuple[TableRow, ...]) -> None:
        """Show rows under the lamps' names; a row whose texts need it is higher."""
        self._model.beginResetModel()
        self._model.corner, self._model.names, self._model.rows = corner, tuple(names), rows
        self._model.endResetModel()
        header = self.horizontalHeader()
        self._fit()
        height = (
            sum(self.rowHeight(row) for row in range(len(rows))) + (header.height() if header is not None else 30) + 6
        )
        self.setFixedHeight(height if names else 0)

    def _fit(self) -> None:
        """Each row as high as its longest text needs at the present width."""
        self.resizeRowsToContents()
        one_line = self.fontMetrics().height() * 2
        for row in range(len(self._model.rows)):
            if self.rowHeight(row) <= one_line:
                self.setRowHeight(row, _ROW)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Fit the rows anew to the width."""
        super().resizeEvent(event)
        if self._model.rows and event is not None and event.oldSize().width() != event.size().width():
            self.show_rows(self._model.corner, self._model.names, self._model.rows)
