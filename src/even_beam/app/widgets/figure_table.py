"""The figures of a question: a row a lamp with its mark, exceptions marked, the rest quiet; sorted by any column."""

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QModelIndex, QPointF, QSortFilterProxyModel, Qt
from PyQt6.QtGui import QIcon, QPainter, QPixmap, QStandardItem, QStandardItemModel
from PyQt6.QtWidgets import QAbstractItemView, QTableView, QWidget

from even_beam.app import shapes, theme
from even_beam.shell.sheet import Cell, Sheet

MARK = "  !"
_SORT = Qt.ItemDataRole.UserRole
_AS_THEY_STAND = -1, Qt.SortOrder.AscendingOrder
_WIDEST, _MOST_ROWS, _ROW = 300, 12, 29


def _model_of(sheet: Sheet) -> QStandardItemModel:
    """The sheet as the toolkit keeps it: a view asks a model thousands of times while it is laid out and painted, and
    each time one of our own would wait for whatever job computes."""
    model = QStandardItemModel(len(sheet.rows), len(sheet.columns))
    for column, heading in enumerate(sheet.columns):
        side = _side_of([cells[column] for _, _, cells in sheet.rows])
        head = QStandardItem(heading)
        head.setTextAlignment(side)
        head.setFont(theme.font("body"))
        model.setHorizontalHeaderItem(column, head)
        for row, (_, _, cells) in enumerate(sheet.rows):
            model.setItem(row, column, _item(cells[column], side))
    return model


def _item(cell: Cell, side: Qt.AlignmentFlag) -> QStandardItem:
    item = QStandardItem(cell.text + (MARK if cell.marked else ""))
    item.setToolTip(cell.text)
    item.setTextAlignment(side)
    item.setData(cell.by, _SORT)
    return item


def _side_of(cells: Sequence[Cell]) -> Qt.AlignmentFlag:
    """Numbers stand at the right of their column, with what stands in for one."""
    numbers = any(isinstance(cell.by, float) for cell in cells)
    return (Qt.AlignmentFlag.AlignRight if numbers else Qt.AlignmentFlag.AlignLeft) | Qt.AlignmentFlag.AlignVCenter


def _mark(series: int | None) -> QIcon:
    """The mark that the lamp has in the pictures; none where it is grey there."""
    if series is None:
        return QIcon()
    picture = QPixmap(14, 14)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    shapes.paint_series_mark(painter, series, QPointF(7.0, 7.0), 4.5, theme.tokens().of_series(series))
    painter.end()
    return QIcon(picture)


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
        self._sheet, self._sorted = Sheet(), _Sorted()
        self._model = _model_of(self._sheet)
        self._sorted.setSourceModel(self._model)
        self.setModel(self._sorted)
        self._tinted = theme.tokens()
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
        if self._sheet.columns != sheet.columns:
            self._by = None
        self._sheet, self._model = sheet, _model_of(sheet)
        self._tint()
        self._sorted.setSourceModel(self._model)
        self._sorted.sort(*(self._by or _AS_THEY_STAND))
        self._fit()

    def changeEvent(self, event: QEvent | None) -> None:
        """Take the colours of another theme."""
        super().changeEvent(event)
        if event is not None and event.type() == QEvent.Type.StyleChange and self._tinted != theme.tokens():
            self._tint()

    def _tint(self) -> None:
        """Colours and marks of the theme in force; all is painted anew with it, so nobody is told cell by cell."""
        t = self._tinted = theme.tokens()
        was = self._model.blockSignals(True)
        for row, (_, series, cells) in enumerate(self._sheet.rows):
            for column, cell in enumerate(cells):
                if (item := self._model.item(row, column)) is not None:
                    item.setForeground(theme.color(t.accent if cell.marked else t.secondary if cell.quiet else t.text))
                    if column == 0:
                        item.setIcon(_mark(series))
        self._model.blockSignals(was)

    def sort_by(self, column: int) -> None:
        """Sort by a column: largest first, then smallest, then as the lamps stand."""
        if not 0 <= column < len(self._sheet.columns):
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
        self._sorted.sort(*(self._by or _AS_THEY_STAND))
        self._fit_rows()

    def sort_by_next(self) -> str:
        """Sort by the next column; what it is called, empty for as the lamps stand."""
        column = 1 if self._by is None else self._by[0] + 1
        self._by = None
        if column >= len(self._sheet.columns):
            self._sorted.sort(*_AS_THEY_STAND)
            return ""
        self.sort_by(column)
        return self._sheet.columns[column]

    def shown(self) -> list[list[str]]:
        """The rows as they stand, for the clipboard: the headings first."""
        rows = [list(self._sheet.columns)]
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
        columns = range(len(self._sheet.columns))
        wanted = [max(self.sizeHintForColumn(column), header.sectionSizeHint(column)) + 14 for column in columns]
        for column in columns:
            self.setColumnWidth(column, min(wanted[column], self._widest))
        header.setStretchLastSection(True)
        self._wraps = max(wanted, default=0) > self._widest
        self._fit_rows()
        shown = min(len(self._sheet.rows), _MOST_ROWS)
        rows = sum(self.rowHeight(row) for row in range(shown))
        self.setFixedHeight(rows + header.sizeHint().height() + 18 if self._sheet.columns else 0)
        self.setVisible(bool(self._sheet.columns))

    def _fit_rows(self) -> None:
        """Rows as high as their words; where nothing wraps, all are of one height, and nobody needs to be measured."""
        if self._wraps:
            self.resizeRowsToContents()
            return
        for row in range(len(self._sheet.rows)):
            self.setRowHeight(row, _ROW)
