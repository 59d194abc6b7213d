"""Plan: lamps and protocols on the left, the run sheet they make on the right, with its time and what may be dropped."""

from pathlib import Path

from PyQt6.QtCore import QModelIndex, QSize, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (  # fmt: skip
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from even_beam.app import dialogs, keys
from even_beam.app.station import Host, Station
from even_beam.app.widgets.run_sheet import RunSheet
from even_beam.app.widgets.text import Hairline, label
from even_beam.bench.planning import Plan
from even_beam.bench.protocols import Protocol
from even_beam.reports.errors import ReportError
from even_beam.reports.room_sheet import write_room_sheet
from even_beam.workspace import places, plan_view
from even_beam.workspace.document import Document
from even_beam.workspace.plan_view import PlanError, PlanForm
from even_beam.workspace.room import room_content

_FIELDS = (
    ("name", "Session", "", "what this evening is called"),
    ("question", "Question", "", "what shall be decided?"),
    ("distance", "Meter at", "2 m", "2 m, 10 ft, or equal"),
    ("walk", "A walk goes to", "", "10 15 20 25 ft, as the protocol says when empty"),
    ("whites", "Whites, K", "", "as the protocol says, or 5600 4400 3200"),
    ("levels", "Levels, %", "", "as the protocol says, or 100 50 25 10 1"),
    ("configurations", "On the lamp", "", "bare; reflector; reflector + full CTO"),
)


class PlanStation(Station):
    """Makes a session out of lamps and protocols."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._protocols: tuple[Protocol, ...] = ()
        self._plan: Plan | None = None
        self._filling = False
        self._lamps, self._tests = _CheckList("Lamps"), _CheckList("Protocols")
        for box in (self._lamps, self._tests):
            box.itemChanged.connect(lambda _: self._update())
        self._edits: dict[str, QLineEdit] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(14)
        for row, (name, caption, text, example) in enumerate(_FIELDS):
            edit = QLineEdit(text)
            edit.setPlaceholderText(example)
            edit.setAccessibleName(caption)
            edit.textChanged.connect(lambda _: self._update())
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(edit, row, 1)
            self._edits[name] = edit
        left = QVBoxLayout()
        left.setContentsMargins(24, 16, 12, 12)
        left.setSpacing(4)
        left.addWidget(label("lamps, in the order to read them", "coming"))
        left.addWidget(self._lamps, 2)
        left.addSpacing(8)
        left.addLayout(grid)
        middle = QVBoxLayout()
        middle.setContentsMargins(12, 16, 20, 12)
        middle.setSpacing(4)
        middle.addWidget(label("what shall be answered", "coming"))
        middle.addWidget(self._tests, 1)
        self._summary = QVBoxLayout()
        self._summary.setSpacing(6)
        self._sheet = RunSheet()
        right = QVBoxLayout()
        right.setContentsMargins(16, 16, 20, 12)
        right.setSpacing(8)
        right.addLayout(self._summary)
        right.addWidget(Hairline())
        right.addWidget(self._sheet, 1)
        side = QWidget()
        side.setLayout(right)
        side.setFixedWidth(420)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addLayout(left, 1)
        frame.addLayout(middle, 1)
        frame.addWidget(Hairline(vertical=True))
        frame.addWidget(side)
        self.setFocusProxy(self._lamps)

    def show_document(self, document: Document) -> None:
        """Plan with the kit of another logbook."""
        self.document = document
        document.kit.changed.connect(self._fill)
        self._fill()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self._update()

    def _fill(self) -> None:
        if self.document is None:
            return
        try:
            self._protocols = plan_view.all_protocols(places.config_file().with_name("protocols.json"))
        except PlanError as error:
            self._protocols = plan_view.all_protocols()
            self.host.say(str(error))
        self._filling = True
        lamps = self.document.kit.lamps()
        self._lamps.fill([(c.source.id, f"{c.source.nickname}   {c.model.kind if c.model else ''}", "") for c in lamps])
        self._tests.fill([(p.name, p.name, p.answers) for p in self._protocols])
        self._filling = False
        self._update()

    def choose(self, source_ids: list[str], protocols: list[str]) -> None:
        """Take lamps and protocols into the plan."""
        self._lamps.choose(source_ids)
        self._tests.choose(protocols)

    def _form(self) -> PlanForm:
        texts = {name: self._edits[name].text() for name in ("distance", "walk", "whites", "levels", "configurations")}
        fixed = plan_view.fixed_whites(self.document.kit.lamps()) if self.document is not None else ()
        return PlanForm(self._lamps.chosen, self._tests.chosen, fixed_white=fixed, **texts)

    def _update(self) -> None:
        if self._filling or self.document is None:
            return
        lamps = self.document.kit.lamps()
        try:
            self._plan = plan_view.plan_of(self._form(), self._protocols, self.document.kit.meters(), plan_view.kinds_of(lamps))  # fmt: skip
            words = plan_view.plan_words(self._plan)
            sources = {card.source.id: card.source for card in lamps}
            self._sheet.show_rows(plan_view.sheet_rows(self._plan, sources, self.host.settings().distance_unit))
        except PlanError as error:
            self._plan, words = None, (str(error),)
            self._sheet.show_rows([])
        while (item := self._summary.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        for index, text in enumerate(words):
            self._summary.addWidget(label(text, "line" if index == 0 else "coming", wrap=True))
        self.head_changed.emit()
        self.hints_changed.emit()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of Plan."""
        return keys.PLAN

    def head(self) -> tuple[tuple[str, ...], str]:
        """How much is chosen."""
        return ("Plan", f"{len(self._lamps.chosen)} lamps, {len(self._tests.chosen)} protocols"), ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter begins the session, P writes the room sheet."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.press("Enter")
        elif event is not None and event.text().upper() == "P":
            self.press("P")
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if self._plan is None or self.document is None:
            self.host.say("There is no plan yet: take a lamp and a protocol")
            return
        name = self._edits["name"].text().strip() or f"Plan of {self.document.clock():%-d %B}"
        if key == "Enter":
            self.document.begin_plan(self._plan, name, self._edits["question"].text().strip())
            self.host.go_to_bench()
        elif key == "P":
            target, _ = QFileDialog.getSaveFileName(self.window(), "Room sheet", f"{name} room sheet.pdf", "PDF (*.pdf);;HTML (*.html)")  # fmt: skip
            if target:
                self.write_room_sheet(Path(target), name)

    def write_room_sheet(self, path: Path, name: str) -> None:
        """Write the room sheet in a worker."""
        if self._plan is None or self.document is None:
            return
        content = room_content(self.document, self._plan, name, self._edits["question"].text().strip(), self.host.settings())  # fmt: skip
        self.host.jobs.run(
            "room sheet", lambda job: write_room_sheet(content, path), lambda _: self.host.say(f"Written to {path.name}"), self._not_written
        )  # fmt: skip

    def _not_written(self, error: Exception) -> None:
        words = str(error) if isinstance(error, ReportError) else f"The room sheet could not be made: {error}."
        dialogs.tell(self.window(), "Not written", words)


class _Wrapping(QStyledItemDelegate):
    """Measures a little narrower than it paints: the style's margins else cut the last word of a line that just fits."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """The height of the wrapped text."""
        narrower = QStyleOptionViewItem(option)
        narrower.rect = option.rect.adjusted(0, 0, -16, 0)
        return super().sizeHint(narrower, index)


class _CheckList(QListWidget):
    """A list with boxes to tick; Space ticks, Enter and letters are the station's."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setWordWrap(True)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.setItemDelegate(_Wrapping(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setDragDropMode(QListWidget.DragDropMode.InternalMove)

    def fill(self, entries: list[tuple[str, str, str]]) -> None:
        """Show entries (key, text, words beneath), keeping what was ticked."""
        ticked = set(self.chosen)
        self.clear()
        for key, text, words in entries:
            item = QListWidgetItem(f"{text}\n{words}" if words else text)
            item.setData(Qt.ItemDataRole.UserRole, key)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if key in ticked else Qt.CheckState.Unchecked)
            self.addItem(item)
        self.setCurrentRow(0)

    @property
    def chosen(self) -> tuple[str, ...]:
        """The keys that are ticked, in order."""
        items = [item for row in range(self.count()) if (item := self.item(row)) is not None]
        return tuple(i.data(Qt.ItemDataRole.UserRole) for i in items if i.checkState() == Qt.CheckState.Checked)

    def choose(self, wanted: list[str]) -> None:
        """Tick exactly these."""
        for row in range(self.count()):
            item = self.item(row)
            if item is not None:
                on = item.data(Qt.ItemDataRole.UserRole) in wanted
                item.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows and Space are its own."""
        own = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Space, Qt.Key.Key_Home, Qt.Key.Key_End}
        if event is not None and event.key() in own:
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()
