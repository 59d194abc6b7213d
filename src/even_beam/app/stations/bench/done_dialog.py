"""What was done in the session, newest first; one act is taken back with all that came after it."""

from collections.abc import Sequence

from PyQt6.QtWidgets import QListWidget, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label


class DoneDialog(Sheet):
    """`count` holds how many acts are to be taken back."""

    def __init__(self, parent: QWidget | None, acts: Sequence[str]) -> None:
        super().__init__(parent, "What was done", "Take it back, and all after it", width=620)
        self.count = 0
        self.body.addWidget(
            label("The newest first. Nothing is deleted: Ctrl Shift Z does it again.", "quiet", wrap=True)
        )
        self._list = QListWidget()
        self._list.setAccessibleName("What was done")
        self._list.addItems(list(acts))
        self._list.setMinimumHeight(260)
        self._list.setCurrentRow(0)
        self._list.itemDoubleClicked.connect(lambda _: self.try_accept())
        self.body.addWidget(self._list)
        self._list.setFocus()

    def try_accept(self) -> None:
        """From the newest down to the one under the cursor."""
        self.count = self._list.currentRow() + 1
        self.accept()
