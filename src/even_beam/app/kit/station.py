"""The Kit: the lamps with their claims, and each lamp's record over the years."""

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QScrollArea,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from even_beam.app import keys, theme
from even_beam.app.kit.lamp_dialog import LampDialog
from even_beam.app.kit.meter_dialog import MeterDialog
from even_beam.app.station import Host, Station
from even_beam.app.widgets.text import Hairline, label
from even_beam.workspace.findings.told import known_of
from even_beam.workspace.kit.lamp_form import LampCard, LampForm, form_of
from even_beam.workspace.kit.view import COLUMNS, cells, simulated_kinds, story
from even_beam.workspace.session.document import Document
from even_beam.workspace.shell.job import Job


class _LampTable(QAbstractTableModel):
    def __init__(self) -> None:
        super().__init__()
        self.cards: list[LampCard] = []

    def show_cards(self, cards: list[LampCard]) -> None:
        self.beginResetModel()
        self.cards = cards
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return len(self.cards)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return len(COLUMNS)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role == Qt.ItemDataRole.DisplayRole:
            return cells(self.cards[index.row()])[index.column()]
        if role == Qt.ItemDataRole.FontRole and index.column() == 0:
            return theme.font("line")
        if role == Qt.ItemDataRole.ForegroundRole and index.column() != 0:
            return theme.color(theme.tokens().secondary)
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return COLUMNS[section]
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        return None


class _Table(QTableView):
    """A table that leaves Enter and letters to its station."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Only the arrows are the table's own."""
        moving = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End}
        if event is not None and event.key() in moving:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()


class KitStation(Station):
    """Lamps in a table; the one under the cursor told in full beside it."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._known: dict[str, tuple[str, ...]] = {}
        self._asking: Job | None = None
        self._model = _LampTable()
        self._table = _Table()
        self._table.setModel(self._model)
        self._table.setAccessibleName("Lamps")
        self._table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self._table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self._table.setShowGrid(False)
        self._table.doubleClicked.connect(lambda _: self._edit())
        header, side = self._table.horizontalHeader(), self._table.verticalHeader()
        if header is not None and side is not None:
            header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            header.setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
            header.setHighlightSections(False)
            header.setResizeContentsPrecision(40)  # rows looked at for the widths
            side.setDefaultSectionSize(42)
            side.hide()
        selection = self._table.selectionModel()
        if selection is not None:
            selection.currentRowChanged.connect(lambda *_: self._show_story())
        self._filter = QLineEdit()
        self._filter.setPlaceholderText("Find a lamp by nickname, kind or notes")
        self._filter.setAccessibleName("Find a lamp")
        self._filter.textChanged.connect(lambda _: self._show_cards())
        self._empty = label("", "line", wrap=True)
        left = QVBoxLayout()
        left.setContentsMargins(24, 16, 16, 12)
        left.setSpacing(12)
        left.addWidget(self._filter)
        left.addWidget(self._table, 1)
        left.addWidget(self._empty)
        self._story = QVBoxLayout()
        self._story.setContentsMargins(24, 20, 20, 12)
        self._story.setSpacing(6)
        self._panel = self._build_panel()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(left, 1)
        row.addWidget(Hairline(vertical=True))
        row.addWidget(self._panel)
        self.setFocusProxy(self._table)

    def _build_panel(self) -> QScrollArea:
        """The page of the lamp under the cursor."""
        inner = QWidget()
        inner.setLayout(self._story)
        panel = QScrollArea()
        panel.setWidget(inner)
        panel.setWidgetResizable(True)
        panel.setFrameShape(QFrame.Shape.NoFrame)
        panel.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        panel.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        panel.setFixedWidth(436)
        return panel

    def show_document(self, document: Document) -> None:
        """Show another kit."""
        self.document = document
        document.kit.changed.connect(self.refresh)
        for changed in (document.readings_changed, document.session_changed, document.kit.changed):
            changed.connect(self._forget)
        self._known.clear()
        self.refresh()

    def refresh(self) -> None:
        """Show the lamps as they are now."""
        if self.document is not None:
            self._show_cards()

    def _show_cards(self) -> None:
        if self.document is None:
            return
        words = self._filter.text().strip().casefold()
        row = max(self._table.currentIndex().row(), 0)
        lamps = self.document.kit.lamps()
        shown = [c for c in lamps if words in " ".join((*cells(c), c.source.notes)).casefold()]
        self._model.show_cards(shown)
        self._table.setVisible(bool(shown))
        if not lamps:
            self._empty.setText("No lamp yet. A adds one; on the Bench a lamp can also be named after it was read.")
        else:
            self._empty.setText("" if shown else f"No lamp has “{self._filter.text().strip()}” in it.")
        self._empty.setVisible(not shown)
        if shown:
            self._table.selectRow(min(row, len(shown) - 1))
        self._show_story()
        self.head_changed.emit()

    def _card(self) -> LampCard | None:
        row = self._table.currentIndex().row()
        return self._model.cards[row] if 0 <= row < len(self._model.cards) else None

    def _show_story(self) -> None:
        card = self._card()
        if card is None or self.document is None:
            self._tell([])
            return
        known = self._known.get(card.source.id)
        read_in = self.document.kit.readings_of(card.source.id)
        self._tell(story(card, read_in, known))
        if known is None and read_in:
            self._find_out(card.source.id)

    def _tell(self, lines: list[tuple[str, str]]) -> None:
        while (item := self._story.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        for text, part in lines:
            if part == "rule":
                self._story.addWidget(Hairline())
            else:
                self._story.addWidget(label(text, part, wrap=True))
        self._story.addStretch()

    def _find_out(self, source_id: str) -> None:
        """What the readings of a lamp say, found in a worker; what was asked for another lamp is left."""
        if self.document is None:
            return
        if self._asking is not None:
            self._asking.cancel()
        path, settings = self.document.logbook.path, self.host.settings()

        def found(sentences: tuple[str, ...]) -> None:
            self._known[source_id] = sentences
            self._show_story()

        self._asking = self.host.jobs.run(
            "what is known of a lamp",
            lambda job: known_of(path, source_id, settings),
            found,
            lambda error: self.host.say(f"Its record could not be read: {error}"),
        )

    def _forget(self) -> None:
        """What is known is found anew when readings came or went."""
        self._known.clear()
        if self.isVisible():
            self._show_story()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of the Kit."""
        return keys.KIT

    def head(self) -> tuple[tuple[str, ...], str]:
        """The logbook, and how many lamps it holds."""
        if self.document is None:
            return (), ""
        count = len(self._model.cards)
        return ("Kit", f"{count} lamp{'' if count == 1 else 's'}"), ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Add, edit, retire."""
        if event is None or self._filter.hasFocus():
            super().keyPressEvent(event)
            return
        if (
            event.key() in {Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}
            and (bar := self._panel.verticalScrollBar()) is not None
        ):
            bar.setValue(bar.value() + (1 if event.key() == Qt.Key.Key_PageDown else -1) * bar.pageStep())
            return
        found = {
            Qt.Key.Key_A: "A",
            Qt.Key.Key_U: "U",
            Qt.Key.Key_Return: "Enter",
            Qt.Key.Key_Enter: "Enter",
            Qt.Key.Key_Delete: "Del",
        }
        if event.key() in found:
            self.press(found[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key == "A":
            self._add()
        elif key == "Enter":
            self._edit()
        elif key == "Del":
            self._retire()
        elif key == "U":
            self._meters()
        elif key == "Ctrl Z":
            self.undo()

    def _add(self) -> None:
        if self.document is None:
            return
        kit = self.document.kit
        dialog = LampDialog(self.window(), LampForm(""), simulated_kinds(), "", kit.add_lamp)
        dialog.offer_models(kit.model_names)
        dialog.exec()

    def _edit(self) -> None:
        card = self._card()
        if self.document is None or card is None:
            return
        kit = self.document.kit
        dialog = LampDialog(
            self.window(),
            form_of(card),
            simulated_kinds(),
            card.source.simulated,
            lambda form, simulated: kit.edit_lamp(card, form, simulated),
        )
        dialog.offer_models(kit.model_names)
        dialog.exec()

    def _meters(self) -> None:
        if self.document is not None:
            kit = self.document.kit
            MeterDialog(self.window(), kit.meters(), kit.save_meter).exec()

    def _retire(self) -> None:
        card = self._card()
        if self.document is not None and card is not None:
            self.document.kit.retire_lamp(card)
            self.host.say(f"{card.source.nickname} is retired; its readings stay. Ctrl Z brings it back")

    def undo(self) -> str | None:
        """Undo the last edit."""
        return self.document.kit.undo() if self.document is not None else None

    def redo(self) -> str | None:
        """Do it again."""
        return self.document.kit.redo() if self.document is not None else None
