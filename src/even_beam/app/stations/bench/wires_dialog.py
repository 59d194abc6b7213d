"""Which bench file a run reads by itself with: the last one, another one, or stand-ins."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QPushButton, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.instruments.bench_file import BenchFile, read_bench
from even_beam.instruments.protocols import InstrumentError
from even_beam.words import notation


class WiresDialog(Sheet):
    """Asks for the bench file; `chosen` is its path, `wants_stand_ins` where simulated lamps shall be played."""

    def __init__(self, parent: QWidget | None, known: str, simulated: list[str]) -> None:
        super().__init__(parent, "Read by itself", "Reach these", width=560)
        self.chosen: Path | None = None
        self.wants_stand_ins = False
        words = "A bench file says which meters and lamps are on wires, and how each is reached (the guide has one)."
        self.body.addWidget(label(words, "quiet", wrap=True))
        self._file = label("", "coming", wrap=True)
        self.body.addWidget(self._file)
        self._button("Choose a bench file …", self._choose)
        if simulated:
            played = QPushButton(f"Stand-ins for {notation.listed(simulated)}, on wires of this machine")
            played.setAutoDefault(False)
            played.clicked.connect(self._play)
            self.body.addWidget(played)
        self._show(Path(known) if known else None)

    def _button(self, text: str, act) -> None:  # type: ignore[no-untyped-def]
        button = QPushButton(text)
        button.setAutoDefault(False)
        button.clicked.connect(act)
        self.body.addWidget(button)

    def _choose(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Bench file", "", "Bench files (*.toml)")
        if path:
            self._show(Path(path))

    def _show(self, path: Path | None) -> None:
        """What a file reaches, or why it cannot."""
        self.chosen = None
        self.fault.hide()
        text = "No bench file was chosen yet."
        if path is not None:
            try:
                text = f"{path.name}: {_words(read_bench(path))}"
                self.chosen = path
            except InstrumentError as error:
                self.complain(str(error))
        self._file.setText(text)
        self.accept_button.setEnabled(self.chosen is not None)

    def _play(self) -> None:
        self.wants_stand_ins = True
        self.accept()


def _words(bench: BenchFile) -> str:
    lamps = f"; lamps {notation.listed(list(bench.lamps))}" if bench.lamps else "; no lamp"
    return f"meters {notation.listed(list(bench.meters))}{lamps}"
