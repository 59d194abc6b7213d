"""Frame rates by exposure times: what each shows, with a cursor."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from even_beam.answers.camera.flicker_page import FlickerPage
from even_beam.app import theme

_OWN = {
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End,
}  # fmt: skip


class ExposureGrid(QTableWidget):
    """A row a frame rate, a column an exposure time. `chosen` tells row and column under the cursor."""

    chosen = pyqtSignal(int, int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Frame rates by exposure times")
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.currentCellChanged.connect(lambda row, column, *_: self.chosen.emit(row, column))

    def show_page(self, page: FlickerPage) -> None:
        """Show what the exposures of a page show, by word and figure; the cursor on what is asked for."""
        t = theme.tokens()
        colours = {"steady": t.secondary, "marginal": t.text, "banding": t.accent}
        self.blockSignals(True)
        self.clear()
        self.setRowCount(len(page.rows))
        self.setColumnCount(len(page.columns))
        self.setVerticalHeaderLabels(list(page.rows))
        self.setHorizontalHeaderLabels(list(page.columns))
        for i, row in enumerate(page.grid):
            for j, cell in enumerate(row):
                item = QTableWidgetItem(f"{cell.text}\n{cell.shows}" if cell.verdict else "")
                item.setTextAlignment(Qt.AlignmentFlag.AlignCenter)
                if cell.verdict:
                    item.setForeground(theme.color(colours[cell.verdict]))
                    item.setData(
                        Qt.ItemDataRole.AccessibleTextRole,
                        f"{page.rows[i]}, {page.columns[j]}: {cell.text} %, {cell.shows}",
                    )
                self.setItem(i, j, item)
        self.blockSignals(False)
        self.resizeRowsToContents()
        header = self.horizontalHeader()
        if header is not None and page.rows:
            header.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
            height = sum(self.rowHeight(row) for row in range(len(page.rows))) + header.sizeHint().height()
            self.setFixedHeight(height + 14)
            self.setCurrentCell(*page.at)
            self.chosen.emit(*page.at)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows are its own; letters and digits the station's."""
        if event is not None and event.key() in _OWN:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()
