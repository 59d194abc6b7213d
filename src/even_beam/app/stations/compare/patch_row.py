"""Split patches of several lamps side by side, each with its title and what differs most."""

from collections.abc import Sequence

from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from even_beam.answers.compare.pictures import MOST_BESIDE
from even_beam.app.widgets.split_patches import SplitPatches
from even_beam.app.widgets.text import label
from even_beam.figures.patches import PatchSet

_COLUMNS = 7


class PatchRow(QWidget):
    """Up to three sets; nothing is shown without one."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(24)
        self._columns = []
        for _ in range(MOST_BESIDE):
            title, patches, words = label("", "coming"), SplitPatches(columns=_COLUMNS), label("", "quiet", wrap=True)
            column = QVBoxLayout()
            column.setSpacing(6)
            column.setContentsMargins(0, 0, 0, 0)
            for widget in (title, patches, words):
                column.addWidget(widget)
            column.addStretch()
            box = QWidget()
            box.setLayout(column)
            row.addWidget(box, 1)
            self._columns.append((box, title, patches, words))

    def show_sets(self, sets: Sequence[PatchSet]) -> None:
        """Show sets of patches."""
        self.setVisible(bool(sets))
        for place, (box, title, patches, words) in enumerate(self._columns):
            box.setVisible(place < len(sets))
            if place < len(sets):
                title.setText(sets[place].title)
                patches.show_pairs(sets[place].pairs, sets[place].title)
                words.setText(sets[place].words)
