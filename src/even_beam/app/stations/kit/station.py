"""The Kit, shelf by shelf: lamps, modifiers and gels, subjects, meters, limits; each thing on a page of its own."""

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLineEdit, QStackedWidget, QVBoxLayout, QWidget

from even_beam.answers.bench.line import LineShown
from even_beam.answers.findings.lamp_page import page_of
from even_beam.answers.kit.all_shelves import shelves_of
from even_beam.answers.kit.lamp_shelf import LampShelf
from even_beam.answers.kit.shelf import Found, Shelf, ShelfName
from even_beam.app import dialogs, keys
from even_beam.app.asker import Asker
from even_beam.app.station import Host, Station
from even_beam.app.stations.bench.entry_line import EntryLine
from even_beam.app.stations.kit.lamp_page_view import LampPageView
from even_beam.app.stations.kit.thing_list import ThingList
from even_beam.app.stations.kit.thing_page_view import ThingPageView
from even_beam.app.widgets.drawer import Drawer
from even_beam.app.widgets.question_bar import QuestionBar
from even_beam.app.widgets.text import Hairline, label
from even_beam.bench.observations import OF_THE_LAMP
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.session.document import Document
from even_beam.handing_over.lamp_record import LampRecord, record_of
from even_beam.paper.label import SIZES
from even_beam.shell.job import Job

if TYPE_CHECKING:
    from even_beam.instruments.bench_file import Reached

Key = TypeVar("Key")
Answer = TypeVar("Answer")
LABEL = SIZES["62mm"]
"""The label that a lamp's page shows: the one with most room."""

_LETTERS = frozenset({"A", "R", "I", "X"})


class KitStation(Station):
    """The things of a shelf in a list; the one under the cursor on its page beside it."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._shelves: dict[ShelfName, Shelf] = {}
        self._at = ShelfName.LAMPS
        self._under: dict[ShelfName, str] = {}
        self._known: dict[str, LampRecord] = {}
        self._found: dict[tuple[ShelfName, str], Found] = {}
        self._asker = Asker(host.jobs, host.say, host.unsay)
        self._act: Callable[[str], None] = lambda text: None
        self._bar = QuestionBar(list(ShelfName))
        self._bar.asked.connect(self.show_shelf)
        self._list = ThingList()
        self._list.currentRowChanged.connect(lambda _: self._show_page())
        self._list.itemDoubleClicked.connect(lambda _: self.press("Enter"))
        self._filter = QLineEdit()
        self._filter.setClearButtonEnabled(True)
        self._filter.textChanged.connect(lambda _: self._show_things())
        self._empty = label("", "line", wrap=True)
        self._line = EntryLine()
        self._line.confirmed.connect(self._confirmed)
        self._line.left.connect(self._close_line)
        self._lamp_page, self._page = LampPageView(), ThingPageView()
        self._lamp_page.session_wanted.connect(self._compare_in)
        self._pages = QStackedWidget()
        self._pages.addWidget(self._lamp_page)
        self._pages.addWidget(self._page)
        self._build()
        self.setFocusProxy(self._list)

    def _build(self) -> None:
        left = QVBoxLayout()
        left.setContentsMargins(16, 12, 12, 12)
        left.setSpacing(8)
        left.addWidget(self._filter)
        left.addWidget(self._list, 1)
        left.addWidget(self._empty)
        side = QWidget()
        side.setLayout(left)
        self.drawer = Drawer(self, side, self._list, width=300, name="List")
        margin = QVBoxLayout()
        margin.setContentsMargins(28, 12, 28, 0)
        margin.addWidget(self._line)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        right.addLayout(margin)
        right.addWidget(self._pages, 1)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.drawer)
        row.addWidget(Hairline(vertical=True))
        row.addLayout(right, 1)
        bar = QHBoxLayout()
        bar.setContentsMargins(16, 0, 16, 0)
        bar.addWidget(self._bar)
        frame = QVBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addLayout(bar)
        frame.addWidget(Hairline())
        frame.addLayout(row, 1)

    def show_document(self, document: Document) -> None:
        """Show another kit."""
        self.document = document
        self._shelves = shelves_of(document.kit, document.clock().date(), self._meters_on_wires)
        document.kit.changed.connect(self.refresh)
        for notice in (document.readings_changed, document.session_changed, document.kit.changed):
            notice.connect(self._forget)
        self._known.clear()
        self._found.clear()
        self._under = {ShelfName.LAMPS: document.kit.read_last() or ""}
        self.refresh()

    def refresh(self) -> None:
        """Show the shelf as it is now."""
        self._show_things()

    @property
    def _shelf(self) -> Shelf | None:
        return self._shelves.get(self._at)

    def show_shelf(self, name: ShelfName, key: str = "") -> None:
        """Go to a shelf, to a thing on it."""
        self._under[self._at] = self._list.at
        self._at = name
        self._list.go_to_first()
        if key:
            self._under[name] = key
        self._filter.clear()
        self._show_things()
        self.hints_changed.emit()
        self._list.setFocus()

    def _show_things(self) -> None:
        shelf = self._shelf
        if shelf is None:
            return
        words, every = self._filter.text().strip(), shelf.things()
        shown = [thing for thing in every if thing.found_by(words)]
        at = self._under.pop(self._at, "") or self._list.at
        self._filter.setPlaceholderText(f"find a {shelf.one}")
        self._filter.setAccessibleName(f"Find a {shelf.one}")
        self._bar.show_question(self._at, {})
        self._list.show_things(shown, at, str(self._at))
        self._list.setVisible(bool(shown))
        self._empty.setText(shelf.empty if not every else "" if shown else f"No {shelf.one} has “{words}” in it.")
        self._empty.setVisible(not shown)
        self._show_page()
        self.head_changed.emit()

    # --- the page

    def _show_page(self) -> None:
        shelf, key = self._shelf, self._list.at
        if shelf is None or self.document is None:
            return
        if isinstance(shelf, LampShelf):
            self._show_lamp(shelf, key)
            return
        self._pages.setCurrentWidget(self._page)
        found, record = self._found.get((self._at, key)), shelf.record(key) if key else None
        is_looking = record is not None and found is None
        self._page.show_page(shelf.page(key) if key else None, found, is_looking=is_looking)
        if record is not None and is_looking:
            path, place = self.document.logbook.path, (self._at, key)
            self._ask(f"what is known of a {shelf.one}", lambda job: record(path), self._found, place)

    def _show_lamp(self, shelf: LampShelf, key: str) -> None:
        card = shelf.card(key)
        self._pages.setCurrentWidget(self._lamp_page)
        if card is None or self.document is None:
            self._lamp_page.show_page(None)
            return
        kit, known = self.document.kit, self._known.get(key)
        read_in = kit.readings_of(key)
        units = [c.source.nickname for c in kit.lamps() if c.model == card.model and c.source.id != key]
        photo = self.document.logbook.thumbnail_of(key, OF_THE_LAMP)
        told = (known.told, known.claims) if known is not None else None
        figures, terms = (known.figures, known.terms) if known is not None else ((), "")
        page = page_of(card, read_in, told, units if card.model is not None else (), photo, figures, terms)
        self._lamp_page.show_page(page, known.label if known is not None else None)
        if known is None and read_in:
            path, settings = self.document.logbook.path, self.host.settings()
            self._ask("what is known of a lamp", lambda job: record_of(path, key, settings, LABEL), self._known, key)

    def _ask(self, what: str, work: Callable[[Job], Answer], into: dict[Key, Answer], key: Key) -> None:
        """Find in a worker what readings say of a thing; what was asked of another is left."""

        def found(answer: Answer) -> None:
            into[key] = answer
            self._show_page()

        self._asker.ask(
            what,
            lambda job, _: work(job),
            found,
            lambda error: self.host.say(f"Its record could not be read: {error}"),
        )

    def _forget(self) -> None:
        """What is known is found anew when readings came or went."""
        self._known.clear()
        self._found.clear()
        if self.isVisible():
            self._show_page()

    def _compare_in(self, session_id: str) -> None:
        self.host.compare_in(session_id)

    # --- keys

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of the shelf."""
        shelf = self._shelf
        absent = set() if self._at is ShelfName.LAMPS else {"R"}
        if shelf is None or not shelf.files:
            absent.add("I")
        if self._at is not ShelfName.LIMITS:
            absent.add("X")
        return tuple(hint for hint in keys.KIT if hint.key not in absent)

    def _meters_on_wires(self) -> "Mapping[str, Reached]":
        """How meters are reached, as the bench file says that was used last."""
        file = self.host.settings().bench_file
        if not file:
            return {}
        from even_beam.instruments.bench_file import read_bench  # not at start-up
        from even_beam.instruments.protocols import InstrumentError

        try:
            return read_bench(Path(file)).meters
        except InstrumentError:
            return {}  # it is told where it is used: Alt A on the Bench

    def head(self) -> tuple[tuple[str, ...], str]:
        """The shelf, and how much stands on it."""
        shelf, count = self._shelf, self._list.count()
        if shelf is None:
            return (), ""
        return ("Kit", str(self._at)), f"{count}"

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Shelves by their numbers; add, say more, take out."""
        if event is None or self._filter.hasFocus():
            super().keyPressEvent(event)
        elif event.key() in {Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}:
            page = self._lamp_page if self._pages.currentWidget() is self._lamp_page else self._page
            if (bar := page.verticalScrollBar()) is not None:
                bar.setValue(bar.value() + (1 if event.key() == Qt.Key.Key_PageDown else -1) * bar.pageStep())
        elif event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.press("Enter")
        elif event.key() == Qt.Key.Key_Delete:
            self.press("Del")
        elif event.text() in {str(n) for n in range(1, len(ShelfName) + 1)}:
            self.press(event.text())
        elif event.text() and event.text().upper() in _LETTERS:
            self.press(event.text().upper())
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if self.document is None:
            return
        if key.isdigit():
            self.show_shelf(list(ShelfName)[int(key) - 1])
            return
        acts = {
            "A": self._add,
            "Enter": self._say_more,
            "Del": self._take_out,
            "R": self._show_retired,
            "I": self._ask_file,
            "X": self._ask_write,
            "Ctrl Z": self.undo,
        }
        acts[key]()

    # --- the line

    def _open_line(self, caption: str, key: str | None) -> None:
        shelf = self._shelf
        if shelf is None:
            return

        def understood(text: str) -> LineShown:
            try:
                return LineShown(shelf.understood(text, key) if text.strip() else "")
            except FormError as error:
                return LineShown(str(error))

        def act(text: str) -> None:
            if text.strip():
                self._under[self._at], said = shelf.say(text, key)
                self._show_things()
                self.host.say(said)

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
        self._list.setFocus()

    def _add(self) -> None:
        """A new thing by its name, and what else is said of it; or out of a file, where it is only made of one."""
        shelf = self._shelf
        if shelf is None:
            return
        if shelf.from_files_alone:
            self._ask_file()
        else:
            self._open_line(f"a new {shelf.one}: its name; then more, such as {shelf.usual}", None)

    def _say_more(self) -> None:
        """Change what is known of the thing under the cursor, as it is said."""
        shelf, item = self._shelf, self._list.currentItem()
        if shelf is not None and item is not None:
            self._open_line(f"{item.text()}: {shelf.usual}", self._list.at)

    def _take_out(self) -> None:
        """Take the thing under the cursor off the shelf; a lamp is retired, or brought back."""
        shelf, key = self._shelf, self._list.at
        if shelf is None or not key:
            return
        try:
            self.host.say(shelf.remove(key))
        except FormError as error:
            self.host.say(str(error))

    def _show_retired(self) -> None:
        shelf = self._shelf
        if isinstance(shelf, LampShelf):
            shelf.with_retired = not shelf.with_retired
            self._show_things()
            shown = "Retired lamps are shown; Del brings one back"
            self.host.say(shown if shelf.with_retired else "Retired lamps are left out")

    # --- files

    def _ask_file(self) -> None:
        shelf = self._shelf
        if shelf is None or not shelf.files:
            self.host.say("Nothing on this shelf is read from a file")
            return
        name, _ = QFileDialog.getOpenFileName(self.window(), f"Read a {shelf.one}", "", shelf.files)
        if name:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Read things of the shelf from a file."""
        shelf = self._shelf
        if shelf is None:
            return
        try:
            key, said = shelf.take(path)
        except FormError as error:
            self.host.say(str(error))
            return
        self._under[self._at] = key
        self._show_things()
        self.host.say(said)

    def _ask_write(self) -> None:
        shelf = self._shelf
        if self._at is not ShelfName.LIMITS or shelf is None:
            self.host.say("Limits are written as a file; all else goes with the sessions, D in the Report")
            return
        path = dialogs.save_as(self.window(), "Write limits", "limits.json", shelf.files, ".json")
        if path is not None:
            self.write(path)

    def write(self, path: Path) -> None:
        """Write the things of the shelf into a file."""
        shelf = self._shelf
        if shelf is not None:
            try:
                self.host.saved(path, shelf.write(path))
            except FormError as error:
                self.host.say(str(error))

    # --- undo

    def undo(self) -> str | None:
        """Undo the last edit."""
        return self.document.kit.undo() if self.document is not None else None

    def redo(self) -> str | None:
        """Do it again."""
        return self.document.kit.redo() if self.document is not None else None
