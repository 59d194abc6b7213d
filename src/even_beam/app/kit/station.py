"""The Kit: the lamps, each on a page of its own: what is known of it, its claims, where it is from, its record."""

from collections.abc import Callable

from PyQt6.QtCore import QModelIndex, QPersistentModelIndex, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QPainter
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from even_beam.app import keys, theme
from even_beam.app.bench.entry_line import EntryLine
from even_beam.app.kit.lamp_dialog import LampDialog
from even_beam.app.kit.lamp_page_view import LampPageView
from even_beam.app.kit.meter_dialog import MeterDialog
from even_beam.app.station import Host, Station
from even_beam.app.widgets.text import Hairline, label
from even_beam.bench.findings.claims import ClaimVerdict
from even_beam.workspace.findings.lamp_page import page_of
from even_beam.workspace.findings.told import Told, record_of
from even_beam.workspace.kit.lamp_form import FormError, LampCard, LampForm, form_of
from even_beam.workspace.kit.lamp_line import USUAL, changed, words_of
from even_beam.workspace.kit.view import found_by, kind_text, simulated_kinds, worth_knowing
from even_beam.workspace.session.document import Document
from even_beam.workspace.shell.job import Job

_CARD, _WORTH = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole + 1


class _Delegate(QStyledItemDelegate):
    """A lamp by its name, with its kind and the one thing worth knowing of it today beneath."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        """Two lines."""
        return QSize(200, 54)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """Paint both lines; the row of the cursor on a raised ground."""
        if painter is None:
            return
        t, box = theme.tokens(), option.rect
        card: LampCard = index.data(_CARD)
        words, presses = index.data(_WORTH)
        widget = option.widget
        painter.save()
        if isinstance(widget, QListWidget) and widget.currentRow() == index.row():
            painter.fillRect(box, theme.color(t.raised))
            if widget.hasFocus():
                painter.fillRect(box.left(), box.top(), 3, box.height(), theme.color(t.accent))
        painter.setFont(theme.font("line"))
        painter.setPen(theme.color(t.coming if card.source.retired else t.text))
        painter.drawText(box.adjusted(12, 6, -8, 0), Qt.AlignmentFlag.AlignTop, card.source.nickname)
        painter.setFont(theme.font("small"))
        metrics = painter.fontMetrics()
        kind, room = kind_text(card), box.width() - 24
        shown = metrics.elidedText(words, Qt.TextElideMode.ElideRight, room)
        left = max(room - metrics.horizontalAdvance(f" · {shown}"), 0) if shown else room
        first = metrics.elidedText(kind, Qt.TextElideMode.ElideRight, left)
        first += " · " if first and shown else ""
        painter.setPen(theme.color(t.secondary))
        painter.drawText(box.adjusted(12, 30, -8, 0), Qt.AlignmentFlag.AlignTop, first)
        painter.setPen(theme.color(t.accent if presses else t.secondary))
        place = 12 + metrics.horizontalAdvance(first)
        painter.drawText(box.adjusted(place, 30, -8, 0), Qt.AlignmentFlag.AlignTop, shown)
        painter.restore()


class _Lamps(QListWidget):
    """A list that leaves Enter and letters to its station."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Lamps")
        self.setItemDelegate(_Delegate(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Only the arrows are its own."""
        moving = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End}
        if event is not None and event.key() in moving:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()


Record = tuple[tuple[Told, ...], tuple[ClaimVerdict, ...]]


class KitStation(Station):
    """Lamps in a list; the one under the cursor on its page beside it."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._known: dict[str, Record] = {}
        self._asking: Job | None = None
        self._with_retired = False
        self._act: Callable[[str], None] = lambda text: None
        self._lamps = _Lamps()
        self._lamps.currentRowChanged.connect(lambda _: self._show_page())
        self._lamps.itemDoubleClicked.connect(lambda _: self.press("Enter"))
        self._filter = QLineEdit()
        self._filter.setPlaceholderText("find a lamp")
        self._filter.setAccessibleName("Find a lamp")
        self._filter.setClearButtonEnabled(True)
        self._filter.textChanged.connect(lambda _: self._show_cards())
        self._empty = label("", "line", wrap=True)
        left = QVBoxLayout()
        left.setContentsMargins(16, 14, 12, 12)
        left.setSpacing(8)
        left.addWidget(self._filter)
        left.addWidget(self._lamps, 1)
        left.addWidget(self._empty)
        side = QWidget()
        side.setLayout(left)
        side.setFixedWidth(300)
        self._line = EntryLine()
        self._line.confirmed.connect(self._confirmed)
        self._line.left.connect(self._close_line)
        self._page = LampPageView()
        self._page.session_wanted.connect(self._compare_in)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        margin = QVBoxLayout()
        margin.setContentsMargins(28, 12, 28, 0)
        margin.addWidget(self._line)
        right.addLayout(margin)
        right.addWidget(self._page, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(side)
        row.addWidget(Hairline(vertical=True))
        row.addLayout(right, 1)
        self.setFocusProxy(self._lamps)

    def show_document(self, document: Document) -> None:
        """Show another kit."""
        self.document = document
        document.kit.changed.connect(self.refresh)
        for notice in (document.readings_changed, document.session_changed, document.kit.changed):
            notice.connect(self._forget)
        self._known.clear()
        self.refresh()
        self._go_to(document.kit.read_last() or "")

    def refresh(self) -> None:
        """Show the lamps as they are now."""
        if self.document is not None:
            self._show_cards()

    def _show_cards(self) -> None:
        if self.document is None:
            return
        words, row = self._filter.text().strip(), max(self._lamps.currentRow(), 0)
        every = self.document.kit.lamps(retired=self._with_retired)
        shown = [card for card in every if found_by(card, words)]
        self._lamps.blockSignals(True)
        self._lamps.clear()
        today = self.document.clock().date()
        for card in shown:
            item = QListWidgetItem(card.source.nickname)
            item.setData(_CARD, card)
            item.setData(_WORTH, worth := worth_knowing(card, today))
            said = ", ".join(part for part in (card.source.nickname, kind_text(card), worth[0]) if part)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, said)
            self._lamps.addItem(item)
        self._lamps.setCurrentRow(min(row, len(shown) - 1))
        self._lamps.blockSignals(False)
        self._lamps.setVisible(bool(shown))
        if not every:
            self._empty.setText("No lamp yet. A adds one; on the Bench a lamp can also be named after it was read.")
        else:
            self._empty.setText("" if shown else f"No lamp has “{words}” in it.")
        self._empty.setVisible(not shown)
        self._show_page()
        self.head_changed.emit()

    def _card(self) -> LampCard | None:
        item = self._lamps.currentItem()
        return item.data(_CARD) if item is not None else None

    def _show_page(self) -> None:
        card = self._card()
        if card is None or self.document is None:
            self._page.show_page(None)
            return
        kit = self.document.kit
        known = self._known.get(card.source.id)
        read_in = kit.readings_of(card.source.id)
        units = [c.source.nickname for c in kit.lamps() if c.model == card.model and c.source.id != card.source.id]
        self._page.show_page(page_of(card, read_in, known, units if card.model is not None else ()))
        if known is None and read_in:
            self._find_out(card.source.id)

    def _compare_in(self, session_id: str) -> None:
        self.host.compare_in(session_id)

    def _find_out(self, source_id: str) -> None:
        """What the readings of a lamp say, found in a worker; what was asked for another lamp is left."""
        if self.document is None:
            return
        if self._asking is not None:
            self._asking.cancel()
        path, settings = self.document.logbook.path, self.host.settings()

        def found(record: Record) -> None:
            self._known[source_id] = record
            self._show_page()

        self._asking = self.host.jobs.run(
            "what is known of a lamp",
            lambda job: record_of(path, source_id, settings),
            found,
            lambda error: self.host.say(f"Its record could not be read: {error}"),
        )

    def _forget(self) -> None:
        """What is known is found anew when readings came or went."""
        self._known.clear()
        if self.isVisible():
            self._show_page()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of the Kit."""
        return keys.KIT

    def head(self) -> tuple[tuple[str, ...], str]:
        """The logbook, and how many lamps it holds."""
        if self.document is None:
            return (), ""
        count = self._lamps.count()
        return ("Kit", f"{count} lamp{'' if count == 1 else 's'}"), ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Add, edit, retire."""
        if event is None or self._filter.hasFocus():
            super().keyPressEvent(event)
        elif event.key() in {Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}:
            if (bar := self._page.verticalScrollBar()) is not None:
                bar.setValue(bar.value() + (1 if event.key() == Qt.Key.Key_PageDown else -1) * bar.pageStep())
        elif event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.press("Enter")
        elif event.key() == Qt.Key.Key_Delete:
            self.press("Del")
        elif event.text() and event.text().upper() in {"A", "E", "R", "U"}:
            self.press(event.text().upper())
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        acts = {
            "A": self._add,
            "Enter": self._say_more,
            "E": self._edit,
            "Del": self._retire,
            "R": self._show_retired,
            "U": self._meters,
            "Ctrl Z": self.undo,
        }
        acts[key]()

    # --- the line

    def _open_line(self, caption: str, understand: Callable[[str], str], act: Callable[[str], None]) -> None:
        def understood(text: str) -> str:
            try:
                return understand(text)
            except FormError as error:
                return str(error)

        self._act = act
        self._line.open_with("", caption, understood)

    def _confirmed(self, text: str) -> None:
        try:
            self._act(text)
        except FormError as error:
            self.host.say(str(error))
            self._line.select_all()
            return
        self._close_line()

    def _close_line(self) -> None:
        self._line.close_line()
        self._lamps.setFocus()

    def _add(self) -> None:
        """A new lamp by its nickname, and what else is said of it."""
        if self.document is None:
            return
        kit = self.document.kit

        def form(text: str) -> LampForm:
            nickname, _, more = text.partition(";")
            return changed(more, LampForm(nickname.strip())) if more.strip() else LampForm(nickname.strip())

        def understood(text: str) -> str:
            _, _, more = text.partition(";")
            return words_of(more, LampForm("")) if more.strip() else "; and more, such as 97 Ra; 820 EUR"

        def add(text: str) -> None:
            source = kit.add_lamp(form(text))
            self._go_to(source.id)
            self.host.say(f"{source.nickname} is in the Kit. Enter says more of it")

        self._open_line(f"a new lamp: its nickname; then more, such as {USUAL}", understood, add)

    def _go_to(self, source_id: str) -> None:
        for row in range(self._lamps.count()):
            item = self._lamps.item(row)
            if item is not None and item.data(_CARD).source.id == source_id:
                self._lamps.setCurrentRow(row)

    def _say_more(self) -> None:
        """Change what is known of the lamp under the cursor, as it is said."""
        card = self._card()
        if self.document is None or card is None:
            return
        kit, form = self.document.kit, form_of(card)

        def say(text: str) -> None:
            if not text.strip():
                return
            said = words_of(text, form)
            kit.edit_lamp(card, changed(text, form), card.source.simulated)
            self.host.say(f"{card.source.nickname}, {said}. Ctrl Z takes it back")

        self._open_line(f"{card.source.nickname}: {USUAL}", lambda text: words_of(text, form), say)

    def _edit(self) -> None:
        """All fields of the lamp at once."""
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
        """Retire the lamp under the cursor, or bring a retired one back."""
        card = self._card()
        if self.document is None or card is None:
            return
        if card.source.retired:
            self.document.kit.bring_back(card)
            self.host.say(f"{card.source.nickname} is back in the lists")
        else:
            self.document.kit.retire_lamp(card)
            self.host.say(f"{card.source.nickname} is retired; its readings stay. Ctrl Z brings it back, R shows it")

    def _show_retired(self) -> None:
        self._with_retired = not self._with_retired
        self._show_cards()
        self.host.say(
            "Retired lamps are shown; Del brings one back" if self._with_retired else "Retired lamps are left out"
        )

    def undo(self) -> str | None:
        """Undo the last edit."""
        return self.document.kit.undo() if self.document is not None else None

    def redo(self) -> str | None:
        """Do it again."""
        return self.document.kit.redo() if self.document is not None else None
