"""The readings of a session, the cursor on what most likely needs mending; digits go to one by its number."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QLineEdit, QTableWidget, QTableWidgetItem, QWidget

from even_beam.answers.bench.earlier import EarlierRow, first_odd, next_odd, open_words
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.words.entry import EntryError

_ACTS = {
    "": "Enter: correct its figure or its terms, such as 820 or 50 %",
    "H": "set aside, because:",
    "N": "note:",
}


class EarlierDialog(Sheet):
    """`act` is told a key ("" to mend, H, N, L, U, + or /), the reading and what was typed; it raises `EntryError`.

    Readings that wait for a decision are walked through with the keys of the Bench: after each the next one is there.
    """

    def __init__(
        self,
        parent: QWidget | None,
        rows: Sequence[EarlierRow],
        act: Callable[[str, str, str], str],
        show: Callable[[], Sequence[EarlierRow]],
    ) -> None:
        super().__init__(parent, "Earlier readings", "Done", cancel="", width=980)
        self._act, self._read, self._for, self._typed = act, show, "", ""
        self.done_words = ""
        self._rows: Sequence[EarlierRow] = ()
        self._offered = -1
        self.body.addWidget(
            label(
                "↑ ↓ or a number: go there · Enter: correct figure, terms · H: set aside · L: name the lamp · N: note"
                " · U: undo what was done to it last",
                "quiet",
                wrap=True,
            )
        )
        self._waiting = label("", "line", wrap=True)
        self.body.addWidget(self._waiting)
        self._table = QTableWidget(0, 5)
        self._table.setAccessibleName("Readings, the newest first")
        self._table.setHorizontalHeaderLabels(["no.", "figure", "lamp and terms", "", "may be wrong, or was noted"])
        self._table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self._table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self._table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self._table.setTabKeyNavigation(False)
        self._table.verticalHeader().hide()  # type: ignore[union-attr]
        header = self._table.horizontalHeader()
        if header is not None:
            header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
            for place in (0, 1, 3):
                header.setSectionResizeMode(place, QHeaderView.ResizeMode.ResizeToContents)
            for place in (2, 4):
                header.setSectionResizeMode(place, QHeaderView.ResizeMode.Stretch)
        self._table.setWordWrap(True)
        self._table.setMinimumHeight(380)
        self._table.installEventFilter(self)
        self._table.doubleClicked.connect(lambda _: self._begin(""))
        self.body.addWidget(self._table)
        self._line = QLineEdit()
        self._line.setAccessibleName("What it should be")
        self._line.returnPressed.connect(self._confirm)
        self._line.installEventFilter(self)
        self.body.addWidget(self._line)
        self.accept_button.setDefault(False)
        self.accept_button.setAutoDefault(False)
        self._show(rows, first_odd(rows))
        self._rest()

    @property
    def chosen(self) -> str:
        """The id of the reading under the cursor."""
        item = self._table.item(self._table.currentRow(), 0)
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _show(self, rows: Sequence[EarlierRow], place: int) -> None:
        self._rows = rows
        self._waiting.setText(open_words(rows))
        self._waiting.setVisible(any(row.open for row in rows))
        self._table.setRowCount(len(rows))
        for index, row in enumerate(rows):
            for column, text in enumerate(
                (str(row.number), row.figures, row.terms, row.standing, row.odd or row.noted)
            ):
                item = QTableWidgetItem(text)
                item.setData(Qt.ItemDataRole.UserRole, row.reading_id)
                self._table.setItem(index, column, item)
        self._table.resizeRowsToContents()
        self._table.setCurrentCell(min(place, len(rows) - 1), 0)

    def _rest(self) -> None:
        self._for = self._typed = ""
        self._offered = -1
        self._line.clear()
        self._line.setPlaceholderText(_ACTS[""])
        self._table.setFocus()

    def _begin(self, key: str, text: str = "") -> None:
        self._for = key
        self._line.setPlaceholderText(_ACTS[key])
        self._line.setText(text)
        self._line.setFocus()

    def _offer(self) -> None:
        """Put the next figure that one slip would explain on the line."""
        meant = self._rows[self._table.currentRow()].meant
        if not meant:
            self.complain("No single slip explains it: Enter corrects it, + keeps it in doubt, / gives it up")
            return
        offered = (self._offered + 1) % len(meant)
        self._begin("", meant[offered])
        self._offered = offered

    def _confirm(self) -> None:
        text = self._line.text().strip()
        if not text:
            self._rest()
            return
        self._do(self._for, text)

    def _do(self, key: str, text: str) -> None:
        place = self._table.currentRow()
        try:
            self.done_words = self._act(key, self.chosen, text)
        except EntryError as error:
            self.complain(str(error))
            return
        self.fault.setText(self.done_words)
        self.fault.setVisible(bool(self.done_words))
        rows = self._read()
        waited = place < len(self._rows) and self._rows[place].open
        self._show(rows, next_odd(rows, place) if waited else place)
        self._rest()

    def _go_to_number(self, digit: str) -> None:
        """Digits after one another are one number; a number that there is not begins anew."""
        wanted = self._typed + digit
        self._typed = wanted if 0 < int(wanted) <= self._table.rowCount() else digit
        if 0 < int(self._typed) <= self._table.rowCount():
            self._table.setCurrentCell(int(self._typed) - 1, 0)

    def eventFilter(self, watched: object, event: object) -> bool:
        """Keys of the list; Escape in the line goes back to it."""
        if not isinstance(event, QKeyEvent) or event.type() != QKeyEvent.Type.KeyPress:
            return False
        if watched is self._line:
            if event.key() == Qt.Key.Key_Escape:
                self._rest()
                return True
            if event.text() == "*" and self._offered >= 0:
                self._offer()
                return True
            return False
        text = event.text().upper()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._begin("")
        elif text.isdigit():
            self._go_to_number(text)
        elif text in ("H", "N"):
            self._begin(text)
        elif text == "*":
            self._offer()
        elif text in ("L", "U", "+", "/"):
            self._do(text, "")
        else:
            self._typed = "" if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down) else self._typed
            return False
        return True
