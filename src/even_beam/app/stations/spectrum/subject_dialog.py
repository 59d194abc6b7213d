"""The members of a subject: each as it should look and as it does under the lamp."""

from PyQt6.QtWidgets import QGridLayout, QWidget

from even_beam.answers.spectrum.subjects import SubjectRow
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.split_patches import SplitPatches
from even_beam.app.widgets.text import label
from even_beam.words import notation


class SubjectDialog(Sheet):
    """Shows a subject member by member."""

    def __init__(self, parent: QWidget | None, row: SubjectRow) -> None:
        super().__init__(parent, f"{row.name}: {row.words}", "Go on", cancel="", width=560)
        patches = SplitPatches(columns=max(len(row.members), 5))
        patches.show_pairs(row.members, row.name)
        self.body.addWidget(label("upper half as it should be, lower half under this lamp", "coming"))
        self.body.addWidget(patches)
        grid = QGridLayout()
        grid.setColumnStretch(0, 1)
        for place, pair in enumerate(row.members):
            grid.addWidget(label(pair.name), place, 0)
            grid.addWidget(label(f"ΔE00 {notation.number(pair.delta_e, 1)}", "quiet"), place, 1)
        self.body.addLayout(grid)
        if row.evidence:
            self.body.addWidget(label(f"Scores of it: {row.evidence}.", "quiet", wrap=True))
