"""What the columns of a spreadsheet of old tests are: asked once, with the first rows and what comes of them beside."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QGridLayout, QScrollArea, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.formats import FormatError, columns
from even_beam.formats.readings_table import Table
from even_beam.workspace.intake.importing import columns_preview, target_words

_SHOWN = 3


class ColumnsDialog(Sheet):
    """Asks for a mapping; `mapping` holds the answer."""

    def __init__(self, parent: QWidget | None, table: Table, guess: dict[str, str]) -> None:
        super().__init__(parent, f"What {table.name} holds", "Read it so, and files like it", width=860)
        self._table = table
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
                box.addItem(target_words(target), target)
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
        scroll.setMinimumHeight(min(420, 48 * len(self._boxes) + 20))
        self.body.addWidget(scroll)
        self._result = label("", "line", wrap=True)
        self.body.addWidget(self._result)
        self._update()

    def choose(self, heading: str, target: str) -> None:
        """Say what one column is."""
        self._boxes[heading].setCurrentIndex(self._boxes[heading].findData(target))

    def _update(self) -> None:
        self.mapping = {text: box.currentData() for text, box in self._boxes.items()}
        try:
            self._result.setText(columns_preview(self._table, self.mapping))
            self.accept_button.setEnabled(True)
        except FormatError as error:
            self._result.setText(f"Not yet: {error}.")
            self.accept_button.setEnabled(False)
