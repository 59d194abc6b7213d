"""F1: every key, what it does, and where; the station that asks comes first, and a word finds a key."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QWidget

from even_beam.app import keys
from even_beam.app.dialogs import Sheet
from even_beam.app.guide_dialog import GuideDialog
from even_beam.app.stations.bench.acts import HINTS
from even_beam.app.widgets.text import Column, label, scrolled

GROUPS: tuple[tuple[str, tuple[keys.KeyHint, ...]], ...] = (
    ("Kit", keys.KIT),
    ("Plan", keys.PLAN),
    ("Bench", HINTS),
    ("Compare", keys.COMPARE),
    ("Match", keys.MATCH),
    ("Report", keys.REPORT),
    ("Spectrum", keys.SPECTRUM),
    ("Camera", keys.CAMERA),
    ("Everywhere", keys.EVERYWHERE),
)


class KeysDialog(Sheet):
    """The key table, `station` first; what is typed leaves the keys that speak of it."""

    def __init__(self, parent: QWidget | None, station: str = "") -> None:
        super().__init__(parent, "All keys", "Close", cancel="", width=760)
        self._find = QLineEdit()
        self._find.setPlaceholderText("find a key by what it does: distance, undo, copy")
        self._find.setAccessibleName("Find a key")
        self._find.setClearButtonEnabled(True)
        self._find.textChanged.connect(self.show_only)
        self.body.addWidget(self._find)
        self._rows: list[tuple[str, str, list[QWidget]]] = []
        self._heads: list[tuple[str, QWidget]] = []
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        grid.setVerticalSpacing(5)
        grid.setColumnStretch(2, 1)
        ordered = sorted(GROUPS, key=lambda group: group[0] != station)
        for group, hints in ordered:
            head = label(group, "line")
            grid.addWidget(head, grid.rowCount(), 0, 1, 3)
            self._heads.append((group, head))
            for hint in hints:
                row = grid.rowCount()
                cells = [label(hint.key, mono=True), label(hint.label), label(hint.help, "quiet", wrap=True)]
                for column, cell in enumerate(cells):
                    grid.addWidget(cell, row, column, Qt.AlignmentFlag.AlignTop)
                self._rows.append((group, f"{hint.key} {hint.label} {hint.help}".casefold(), list(cells)))
        inner = Column()
        inner.setLayout(grid)
        self._scroll = scrolled(inner)
        self._scroll.setMinimumHeight(320)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._scroll.setAccessibleName("Keys")
        self.body.addWidget(self._scroll, 1)
        guide = QPushButton("User guide")
        guide.setAutoDefault(False)
        guide.clicked.connect(self._open_guide)
        self.body.addWidget(guide, 0, Qt.AlignmentFlag.AlignLeft)
        self.resize(760, 640)
        self._find.setFocus()

    @property
    def shown(self) -> list[str]:
        """What stands in the table now, key and words."""
        return [words for _, words, cells in self._rows if not cells[0].isHidden()]

    def show_only(self, text: str) -> None:
        """Leave the keys that speak of all words."""
        words = text.casefold().split()
        for _, said, cells in self._rows:
            for cell in cells:
                cell.setVisible(all(word in said for word in words))
        for group, head in self._heads:
            head.setVisible(any(g == group and not cells[0].isHidden() for g, _, cells in self._rows))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Pages turn while the line has the focus."""
        bar = self._scroll.verticalScrollBar()
        if event is not None and bar is not None and event.key() in {Qt.Key.Key_PageDown, Qt.Key.Key_PageUp}:
            bar.setValue(bar.value() + (1 if event.key() == Qt.Key.Key_PageDown else -1) * bar.pageStep())
        else:
            super().keyPressEvent(event)

    def _open_guide(self) -> None:
        GuideDialog(self).exec()
