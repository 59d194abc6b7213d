"""What the columns of a spreadsheet of old tests are: asked once, with the first rows and what comes of them beside."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QGridLayout,
    QHeaderView,
    QScrollArea,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from even_beam.answers.intake.preview import PreviewRow, column_words, preview_of
from even_beam.app import theme
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.formats import FormatError, columns
from even_beam.formats.readings_table import Table

_SHOWN = 3
_LIT = (3, 4)


class ColumnsDialog(Sheet):
    """Asks for a mapping; `mapping` holds the answer. Distances are shown in `unit`."""

    def __init__(self, parent: QWidget | None, table: Table, guess: dict[str, str], unit: str) -> None:
        super().__init__(parent, f"What {table.name} holds", "Read it so, and files like it", width=980)
        self._table, self._unit = table, unit
        self.mapping = dict(guess)
        self.body.addWidget(
            label(
                "Say what each column is; columns that say nothing are left out. One column a quantity is fine.",
                "quiet",
                wrap=True,
            )
        )
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        self._boxes: dict[str, QComboBox] = {}
        for place, text in enumerate(table.headings):
            if not text:
                continue
            box = QComboBox()
            for target in columns.TARGETS:
                box.addItem(column_words(target, columns.heading(text).unit), target)
            box.setCurrentIndex(box.findData(guess.get(text, columns.IGNORED)))
            box.setAccessibleName(f"Column {text}")
            box.setMaxVisibleItems(24)
            box.currentIndexChanged.connect(lambda _: self._update())
            first = " · ".join(row[place] for _, row in table.rows[:_SHOWN] if place < len(row) and row[place])
            row = grid.rowCount()
            grid.addWidget(label(text, "line"), row, 0)
            grid.addWidget(label(first, "coming"), row, 1)
            grid.addWidget(box, row, 2)
            self._boxes[text] = box
        grid.setColumnStretch(1, 1)
        inside = QWidget()
        inside.setLayout(grid)
        scroll = QScrollArea()
        scroll.setWidget(inside)
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setMinimumHeight(120)
        self.body.addWidget(scroll, 3)
        self._result = label("", "line", wrap=True)
        self.body.addWidget(self._result)
        self._preview = _preview_table()
        self.body.addWidget(self._preview, 2)
        self.resize(980, 720)
        self._update()

    def choose(self, heading: str, target: str) -> None:
        """Say what one column is."""
        self._boxes[heading].setCurrentIndex(self._boxes[heading].findData(target))

    def _update(self) -> None:
        self.mapping = {text: box.currentData() for text, box in self._boxes.items()}
        try:
            preview = preview_of(self._table, self.mapping, self._unit)
        except FormatError as error:
            self._result.setText(f"Not yet: {error}.")
            self._show(())
            self.accept_button.setEnabled(False)
            return
        self._result.setText(preview.sentence)
        self._show(preview.rows)
        self.accept_button.setEnabled(True)

    def _show(self, rows: Sequence[PreviewRow]) -> None:
        """The rows as they would be kept; the figure that may be wrong is lit."""
        tokens = theme.tokens()
        self._preview.setRowCount(len(rows))
        for index, row in enumerate(rows):
            for column, text in enumerate((str(row.where), row.lamp, row.terms, row.figures, row.doubt)):
                item = QTableWidgetItem(text)
                item.setToolTip(text)
                if row.doubt and column in _LIT:
                    item.setForeground(theme.color(tokens.accent))
                    item.setBackground(theme.color(tokens.accent_ground))
                    item.setFont(theme.font(bold=True))
                self._preview.setItem(index, column, item)


def _preview_table() -> QTableWidget:
    """A table to look at, one row a line of the file."""
    table = QTableWidget(0, 5)
    table.setAccessibleName("What comes of it, what is doubtful first")
    table.setHorizontalHeaderLabels(["where", "lamp", "terms", "figures", "may be wrong"])
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
    table.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    table.setMinimumHeight(120)
    rows = table.verticalHeader()
    if rows is not None:
        rows.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        rows.hide()
    header = table.horizontalHeader()
    if header is not None:
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
        for place in (0, 1, 3):
            header.setSectionResizeMode(place, QHeaderView.ResizeMode.ResizeToContents)
        for place in (2, 4):
            header.setSectionResizeMode(place, QHeaderView.ResizeMode.Stretch)
    return table
