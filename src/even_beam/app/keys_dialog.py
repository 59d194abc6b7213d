"""F1: every key, what it does, and where."""

from PyQt6.QtWidgets import QGridLayout, QScrollArea, QWidget

from even_beam.app import keys
from even_beam.app.bench.acts import HINTS
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label

_GROUPS = (
    ("Everywhere", keys.EVERYWHERE),
    ("Bench", HINTS),
    ("Kit", keys.KIT),
    ("Plan", keys.PLAN),
    ("Compare", keys.COMPARE),
    ("Report", keys.REPORT),
    ("Spectrum", keys.SPECTRUM),
)


class KeysDialog(Sheet):
    """The key table."""

    def __init__(self, parent: QWidget | None) -> None:
        super().__init__(parent, "All keys", "Close", cancel="", width=760)
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        grid.setVerticalSpacing(5)
        grid.setColumnStretch(2, 1)
        row = 0
        for group, hints in _GROUPS:
            grid.addWidget(label(group, "line"), row, 0, 1, 3)
            row += 1
            for hint in hints:
                grid.addWidget(label(hint.key, mono=True), row, 0)
                grid.addWidget(label(hint.label), row, 1)
                grid.addWidget(label(hint.help, "quiet", wrap=True), row, 2)
                row += 1
        inner = QWidget()
        inner.setLayout(grid)
        scroll = QScrollArea()
        scroll.setWidget(inner)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setMinimumHeight(540)
        self.body.addWidget(scroll)
