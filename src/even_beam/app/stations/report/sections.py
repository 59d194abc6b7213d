"""The sections of a report as they are arranged: ticked ones stand in it, in this order."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from even_beam.app.widgets.check_list import CheckList
from even_beam.app.widgets.text import label
from even_beam.handing_over.arrangement import Arrangement

MOST_ROWS = 8
"""So many sections are seen at once; the others by scrolling."""


class Sections(QWidget):
    """A list to tick and to move, and a sentence of one's own at the section under the cursor. `changed` tells that the
    arrangement is another one, `stayed` why a section was not moved."""

    changed = pyqtSignal()
    stayed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._groups: Sequence[Sequence[tuple[str, str]]] = ()
        self._filling = False
        self.arrangement = Arrangement()
        self.list = CheckList("Sections of the report")
        self.list.setDragDropMode(CheckList.DragDropMode.NoDragDrop)
        self.list.itemChanged.connect(lambda _: self._ticked())
        self.list.currentRowChanged.connect(lambda _: self._show_sentence())
        self._sentence = QLineEdit()
        self._sentence.setAccessibleName("Your sentence at this section")
        self._sentence.setPlaceholderText("your sentence at this section")
        self._sentence.editingFinished.connect(self._said)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(label("sections", "coming"))
        column.addWidget(self.list)
        column.addWidget(self._sentence)

    def show_sections(self, groups: Sequence[Sequence[tuple[str, str]]], arrangement: Arrangement) -> None:
        """Show sections by key and name, in the groups that they can be moved in."""
        current = self.list.current
        self._filling = True
        self._groups = groups
        self.arrangement = arrangement
        self.list.fill([(key, name, "") for group in groups for key, name in group])
        self.list.choose([key for key in self._keys if key not in arrangement.out])
        if current in self._keys:
            self.list.setCurrentRow(self._keys.index(current))
        rows = min(self.list.count(), MOST_ROWS)
        self.list.setFixedHeight(max(60, sum(self.list.sizeHintForRow(row) for row in range(rows)) + 4))
        self._filling = False
        self._show_sentence()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Alt and an arrow move the section; the area around it would scroll."""
        arrows = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier and event.key() in arrows:
            self.move_section(arrows[Qt.Key(event.key())])
        elif event is not None:
            event.ignore()

    def move_section(self, by: int) -> None:
        """The section under the cursor further up (negative) or down."""
        key = self.list.current
        if not key:
            return
        names = [dict(group) for group in self._groups]
        moved = self.arrangement.moved([tuple(group) for group in names], key, by)
        groups = [[(one, group[one]) for one in moved.ordered(tuple(group))] for group in names]
        if groups == [list(group) for group in self._groups]:
            self.stayed.emit("It stays among its own: on all lamps, on each lamp, on the measuring, every reading")
            return
        self.show_sections(groups, moved)
        self.changed.emit()

    @property
    def _keys(self) -> tuple[str, ...]:
        return tuple(key for group in self._groups for key, _ in group)

    def _ticked(self) -> None:
        if self._filling:
            return
        out = frozenset(self._keys) - frozenset(self.list.chosen)
        if out != self.arrangement.out & frozenset(self._keys):
            self.arrangement = Arrangement(self.arrangement.order, out, self.arrangement.own)
            self.changed.emit()

    def _show_sentence(self) -> None:
        self._sentence.setText(self.arrangement.own.get(self.list.current, ""))

    def _said(self) -> None:
        said, key = self._sentence.text(), self.list.current
        if key and said.strip() != self.arrangement.own.get(key, ""):
            self.arrangement = self.arrangement.with_sentence(key, said)
            self.changed.emit()
