"""An answer in large type: each line, and what belongs to it quietly after it."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from even_beam.app import theme
from even_beam.app.widgets.text import label
from even_beam.shell.line import Line


class Headline(QWidget):
    """The answer: each line large, and what belongs to it quietly after it. `told` passes on an answer that is new, for
    whoever listens."""

    told = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._told = ""
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 2, 0, 2)
        self._column.setSpacing(4)
        self._lines: list[QLabel] = []

    def show_lines(self, lines: Sequence[Line]) -> None:
        """Show an answer."""
        while len(self._lines) < len(lines):
            line = label("", size="title", wrap=True)
            line.setTextFormat(Qt.TextFormat.RichText)
            line.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
            self._lines.append(line)
            self._column.addWidget(line)
        t = theme.tokens()
        for place, widget in enumerate(self._lines):
            widget.setVisible(place < len(lines))
            if place < len(lines):
                aside = f' <span style="font-size:{theme.SIZES["line"]}px; color:{t.secondary}">'
                one = lines[place]
                widget.setText(f"{_escaped(one.text)}{aside}&nbsp;{_escaped(one.aside)}</span>")
                widget.setAccessibleName(one.plain)
        self.setVisible(bool(lines))
        words = " ".join(one.plain for one in lines)
        if words and words != self._told:
            self.told.emit(words)
        self._told = words


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
