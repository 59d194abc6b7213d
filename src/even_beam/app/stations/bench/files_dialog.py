"""Spectrum files dropped on the Bench: which becomes which reading."""

from PyQt6.QtWidgets import QComboBox, QGridLayout, QScrollArea, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.formats import NamedSpectrum

LEAVE_OUT = "leave out"


class FilesDialog(Sheet):
    """One line a spectrum with the step it goes to; `assigned` holds (spectrum, index of the step or None)."""

    def __init__(
        self, parent: QWidget | None, spectra: list[NamedSpectrum], steps: list[str], refused: list[str]
    ) -> None:
        super().__init__(parent, f"{len(spectra)} spectra from files", "Keep them as readings", width=640)
        self._spectra, self._steps = spectra, steps
        self._choices: list[QComboBox] = []
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        for row, spectrum in enumerate(spectra):
            choice = QComboBox()
            choice.addItems([*(steps or ["a reading of its own"]), LEAVE_OUT])
            choice.setCurrentIndex(min(row, len(steps)) if steps else 0)
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
        if refused:
            self.complain("Not read: " + "; ".join(refused))

    @property
    def assigned(self) -> list[tuple[NamedSpectrum, int | None]]:
        """Each spectrum that is kept, with its step."""
        found: list[tuple[NamedSpectrum, int | None]] = []
        for spectrum, choice in zip(self._spectra, self._choices, strict=True):
            if choice.currentText() != LEAVE_OUT:
                found.append((spectrum, choice.currentIndex() if self._steps else None))
        return found
