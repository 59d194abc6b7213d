"""One line of a list is chosen, and what stands for it is done."""

from collections.abc import Sequence

from PyQt6.QtWidgets import QListWidget, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label


class ListDialog(Sheet):
    """`place` holds the line that was chosen; the first is where the cursor stands."""

    def __init__(self, parent: QWidget | None, title: str, act: str, words: str, lines: Sequence[str]) -> None:
        super().__init__(parent, title, act, width=620)
        self.place = 0
        self.body.addWidget(label(words, "quiet", wrap=True))
        self._list = QListWidget()
        self._list.setAccessibleName(title)
        self._list.addItems(list(lines))
        self._list.setMinimumHeight(260)
        self._list.setCurrentRow(0)
        self._list.itemDoubleClicked.connect(lambda _: self.try_accept())
        self.body.addWidget(self._list)
        self._list.setFocus()

    def try_accept(self) -> None:
        """The line under the cursor."""
        self.place = self._list.currentRow()
        self.accept()
