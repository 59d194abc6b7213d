"""Spectrum files dropped on the Bench: which becomes which reading."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QGridLayout, QPushButton, QScrollArea, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.formats import NamedSpectrum

LEAVE_OUT = "leave out"


WHICH = "which step?"


class FilesDialog(Sheet):
    """One line a spectrum with the step it goes to, as its name or its white told; `assigned` holds (spectrum, index of
    the step). What nothing told is asked."""

    def __init__(
        self,
        parent: QWidget | None,
        spectra: list[NamedSpectrum],
        steps: list[str],
        refused: list[str],
        told: Sequence[int | None],
    ) -> None:
        super().__init__(parent, f"{len(spectra)} spectra from files", "Keep them as readings", width=640)
        self._spectra, self._steps = spectra, steps
        self._choices: list[QComboBox] = []
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        for row, (spectrum, place) in enumerate(zip(spectra, told, strict=True)):
            choice = QComboBox()
            choice.addItems([*steps, LEAVE_OUT])
            choice.setPlaceholderText(WHICH)
            choice.setCurrentIndex(-1 if place is None else place)
            choice.setAccessibleName(f"Step for {spectrum.name}")
            grid.addWidget(label(spectrum.name), row, 0)
            grid.addWidget(label(spectrum.understood, "coming"), row, 1)
            grid.addWidget(choice, row, 2)
            self._choices.append(choice)
        inner = QWidget()
        inner.setLayout(grid)
        scroll = QScrollArea()
        scroll.setWidget(inner)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setMinimumHeight(min(420, 60 + 40 * len(spectra)))
        self.body.addWidget(scroll)
        in_order = QPushButton("In the order of the steps")
        in_order.setAutoDefault(False)
        in_order.clicked.connect(self.put_in_order)
        self.body.addWidget(in_order, alignment=Qt.AlignmentFlag.AlignLeft)
        if refused:
            self.complain("Not read: " + "; ".join(refused))

    def put_in_order(self) -> None:
        """The first to the first step that is open, and so on: said, not guessed."""
        for row, choice in enumerate(self._choices):
            choice.setCurrentIndex(min(row, len(self._steps)))

    def try_accept(self) -> None:
        """Keep them, once each has its step."""
        open_still = [choice for choice in self._choices if choice.currentIndex() < 0]
        if open_still:
            count = len(open_still)
            self.complain(
                f"{count} of them say{'s' * (count == 1)} neither by name nor by white which step: choose, or put them"
                " in the order of the steps."
            )
            open_still[0].setFocus()
            return
        self.accept()

    @property
    def assigned(self) -> list[tuple[NamedSpectrum, int]]:
        """Each spectrum that is kept, with its step."""
        pairs = zip(self._spectra, self._choices, strict=True)
        return [(one, choice.currentIndex()) for one, choice in pairs if choice.currentText() != LEAVE_OUT]
