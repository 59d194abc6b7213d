"""What changes cost at this bench: the usual figures, edited, or learned from earlier sessions."""

from PyQt6.QtWidgets import QDoubleSpinBox, QGridLayout, QPushButton, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.planning.costs import Costs, Learned

_CAPTIONS = {
    "knob_s": "a knob",
    "zoom_s": "the zoom",
    "aim_s": "another angle",
    "distance_s": "moving the meter",
    "modifier_s": "another modifier",
    "lamp_s": "another lamp",
    "by_key_s": "a reading by key",
    "by_hand_s": "a reading by hand",
    "warm_up_s": "warm-up",
}


class CostsDialog(Sheet):
    """Asks for costs in seconds; `own` holds those that differ from the usual ones."""

    def __init__(self, parent: QWidget | None, costs: Costs, learned: Learned) -> None:
        super().__init__(parent, "What changes cost", "Use these", width=520)
        self._learned = learned
        self.body.addWidget(label("Seconds, for the estimate and for the order of the run sheet.", "quiet", wrap=True))
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        self._boxes: dict[str, QDoubleSpinBox] = {}
        for row, (name, caption) in enumerate(_CAPTIONS.items()):
            box = QDoubleSpinBox()
            box.setRange(0.0, 7200.0)
            box.setDecimals(0)
            box.setSuffix(" s")
            box.setValue(getattr(costs, name))
            box.setAccessibleName(caption)
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(box, row, 1)
            count = learned.observed.get(name)
            told = (
                f"{getattr(learned.costs, name):.0f} s in {count} changes so far" if count else "not seen often enough"
            )
            grid.addWidget(label(told if name != "warm_up_s" else "", "coming"), row, 2)
            self._boxes[name] = box
        self.body.addLayout(grid)
        take = QPushButton("Take what earlier sessions say")
        take.setAutoDefault(False)
        take.setEnabled(bool(learned.observed))
        take.clicked.connect(self.take_learned)
        self.body.addWidget(take)

    def take_learned(self) -> None:
        """Fill in what was learned."""
        for name in self._learned.observed:
            self._boxes[name].setValue(getattr(self._learned.costs, name))

    @property
    def own(self) -> dict[str, float]:
        """The figures that differ from the usual ones."""
        usual = Costs()
        return {name: box.value() for name, box in self._boxes.items() if box.value() != getattr(usual, name)}
