"""The figures of a question: a row a lamp with its mark, exceptions marked, the rest quiet; sorted by any column."""

from collections.abc import Sequence

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QPointF, QSortFilterProxyModel, Qt
from PyQt6.QtGui import QPainter, QPixmap
from PyQt6.QtWidgets import QAbstractItemView, QTableView, QWidget

from even_beam.app import shapes, theme
from even_beam.workspace.shell.sheet import Cell, Sheet

MARK = "  !"
_SORT = Qt.ItemDataRole.UserRole
_WIDEST, _MOST_ROWS, _ROW = 300, 12, 29


class _Model(QAbstractTableModel):
    def __init__(self) -> None:
        super().__init__()
        self.show(Sheet())

    def show(self, sheet: Sheet) -> None:
        """Take another sheet."""
        self.beginResetModel()
        self.sheet = sheet
        self._sides = [_side_of([cells[column] for _, _, cells in sheet.rows]) for column in range(len(sheet.columns))]
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return len(self.sheet.rows)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return len(self.sheet.columns)

    def cell(self, index: QModelIndex) -> Cell:
        """The cell at a place."""
        return self.sheet.rows[index.row()][2][index.column()]

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        match role:
            case Qt.ItemDataRole.DisplayRole:
                cell = self.cell(index)
                return cell.text + (MARK if cell.marked else "")
            case Qt.ItemDataRole.ToolTipRole:
                return self.cell(index).text
            case Qt.ItemDataRole.ForegroundRole:
                cell, t = self.cell(index), theme.tokens()
                return theme.color(t.accent if cell.marked else t.secondary if cell.quiet else t.text)
            case Qt.ItemDataRole.TextAlignmentRole:
                return self._sides[index.column()]
            case Qt.ItemDataRole.DecorationRole if index.column() == 0:
                return _mark(self.sheet.rows[index.row()][1])
            case Qt.ItemDataRole.UserRole:  # what it is sorted by
                return self.cell(index).by
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if orientation != Qt.Orientation.Horizontal:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            return self.sheet.columns[section]
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return self._sides[section]
        return theme.font("body") if role == Qt.ItemDataRole.FontRole else None


def _side_of(cells: Sequence[Cell]) -> Qt.AlignmentFlag:
    """Numbers stand at the right of their column, with what stands in for one."""
    numbers = any(isinstance(cell.by, float) for cell in cells)
    return (Qt.AlignmentFlag.AlignRight if numbers else Qt.AlignmentFlag.AlignLeft) | Qt.AlignmentFlag.AlignVCenter


def _mark(series: int | None) -> QPixmap | None:
    """The mark that the lamp has in the pictures; none where it is grey there."""
    if series is None:
        return None
    picture = QPixmap(14, 14)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    shapes.paint_series_mark(painter, series, QPointF(7.0, 7.0), 4.5, theme.tokens().of_series(series))
    painter.end()
    return picture


class _Sorted(QSortFilterProxyModel):
    """Numbers by their size, words by their letters, what is not known last either way."""

    def lessThan(self, left: QModelIndex, right: QModelIndex) -> bool:
        one, other = left.data(_SORT), right.data(_SORT)
        if one is None or other is None:
            last = self.sortOrder() == Qt.SortOrder.AscendingOrder
            return (other is None and one is not None) if last else (one is None and other is not None)
        if isinstance(one, float) and isinstance(other, float):
            return one < other
        return str(one) < str(other)


class FigureTable(QTableView):
    """Shows a sheet, each column as wide as its words need up to `widest`, from which on they wrap; what does not fit
    is scrolled to inside it."""

    def __init__(self, parent: QWidget | None = None, *, widest: int = _WIDEST) -> None:
        super().__init__(parent)
        self._widest = widest
        self._model, self._sorted = _Model(), _Sorted()
        self._sorted.setSourceModel(self._model)
        self.setModel(self._sorted)
        self._by: tuple[int, Qt.SortOrder] | None = None
        self._wraps = False
        self.setShowGrid(False)
        self.setWordWrap(True)
        self.setAccessibleName("Figures of this question")
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setTabKeyNavigation(False)
        header, side = self.horizontalHeader(), self.verticalHeader()
        if header is not None and side is not None:
            header.setHighlightSections(False)
            header.setSectionsClickable(True)
            header.sectionClicked.connect(self.sort_by)
            side.setDefaultSectionSize(_ROW)
            side.hide()

    def show_sheet(self, sheet: Sheet) -> None:
        """Show the figures; they stay sorted by the column that was chosen, where it is still there."""
        before = self._model.sheet.columns
        self._model.show(sheet)
        if self._by is None or before != sheet.columns:
            self._by = None
            self._sorted.sort(-1)
        self._fit()

    def sort_by(self, column: int) -> None:
        """Sort by a column: largest first, then smallest, then as the lamps stand."""
        if not 0 <= column < len(self._model.sheet.columns):
            return
        order = self._by[1] if self._by is not None and self._by[0] == column else None
        if order is None:
            self._by = (column, Qt.SortOrder.DescendingOrder)
        elif order == Qt.SortOrder.DescendingOrder:
            self._by = (column, Qt.SortOrder.AscendingOrder)
        else:
            self._by = None
        header = self.horizontalHeader()
        if header is not None:
            header.setSortIndicatorShown(self._by is not None)
            if self._by is not None:
                header.setSortIndicator(*self._by)
        self._sorted.sort(*(self._by or (-1, Qt.SortOrder.AscendingOrder)))
        self._fit_rows()

    def sort_by_next(self) -> str:
        """Sort by the next column; what it is called, empty for as the lamps stand."""
        column = 1 if self._by is None else self._by[0] + 1
        self._by = None
        if column >= len(self._model.sheet.columns):
            self._sorted.sort(-1)
            return ""
        self.sort_by(column)
        return self._model.sheet.columns[column]

    def shown(self) -> list[list[str]]:
        """The rows as they stand, for the clipboard: the headings first."""
        rows = [list(self._model.sheet.columns)]
        for row in range(self._sorted.rowCount()):
            cells = [self._sorted.index(row, column) for column in range(self._sorted.columnCount())]
            rows.append([str(cell.data()).removesuffix(MARK) for cell in cells])
        return rows

    def _fit(self) -> None:
        """Columns as wide as their words, up to a limit from which on they wrap; the last one takes what is left."""
        header = self.horizontalHeader()
        if header is None:
            return
        header.setStretchLastSection(False)
        columns = range(self._model.columnCount())
        wanted = [max(self.sizeHintForColumn(column), header.sectionSizeHint(column)) + 14 for column in columns]
        for column in columns:
            self.setColumnWidth(column, min(wanted[column], self._widest))
        header.setStretchLastSection(True)
        self._wraps = max(wanted, default=0) > self._widest
        self._fit_rows()
        shown = min(self._model.rowCount(), _MOST_ROWS)
        rows = sum(self.rowHeight(row) for row in range(shown))
        self.setFixedHeight(rows + header.sizeHint().height() + 18 if self._model.columnCount() else 0)
        self.setVisible(self._model.columnCount() > 0)

    def _fit_rows(self) -> None:
        """Rows as high as their words; where nothing wraps, all are of one height, and nobody needs to be measured."""
        if self._wraps:
            self.resizeRowsToContents()
            return
        for row in range(self._model.rowCount()):
            self.setRowHeight(row, _ROW)
