"""Which lamp was read, or will be."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.desk.kit.lamp_form import LampCard


class LampDialog(Sheet):
    """Pick a lamp by a few letters; `source_id` holds the answer, `new_name` a nickname that is not in the kit yet."""

    def __init__(self, parent: QWidget | None, lamps: list[LampCard], unnamed: int, waiting: str = "") -> None:
        super().__init__(parent, "Which lamp?", "This one", width=460)
        self.source_id: str | None = None
        self.new_name = ""
        self._lamps = lamps
        scope = f"Names the next readings and {unnamed} not named yet." if unnamed else "Names the next readings."
        if waiting:
            scope = f"{waiting} waits in doubt: it is taken as of this lamp and looked at anew. {scope}"
        self.body.addWidget(label(scope, "quiet", wrap=True))
        self._filter = QLineEdit()
        self._filter.setPlaceholderText("a few letters, or the nickname of a new lamp")
        self._filter.setAccessibleName("Lamp")
        self._filter.textChanged.connect(self._show)
        self.body.addWidget(self._filter)
        self._list = QListWidget()
        self._list.setMinimumHeight(220)
        self._list.itemDoubleClicked.connect(lambda _: self.try_accept())
        self.body.addWidget(self._list)
        self._show("")
        self._filter.setFocus()

    def _show(self, text: str) -> None:
        self._list.clear()
        words = text.strip().casefold()
        for card in self._lamps:
            kind = card.model.kind if card.model else ""
            if words in f"{card.source.nickname} {kind}".casefold():
                item = QListWidgetItem(f"{card.source.nickname}   {kind}")
                item.setData(Qt.ItemDataRole.UserRole, card.source.id)
                self._list.addItem(item)
        self._list.setCurrentRow(0)
        self.accept_button.setText("This one" if self._list.count() or not words else f"Add {text.strip()}")

    def try_accept(self) -> None:
        """The lamp under the cursor, or a new one of the name typed."""
        item = self._list.currentItem()
        if item is not None:
            self.source_id = item.data(Qt.ItemDataRole.UserRole)
        elif self._filter.text().strip():
            self.new_name = self._filter.text().strip()
        else:
            self.complain("Type a nickname: a word to call the lamp by in the dark.")
            return
        self.accept()
