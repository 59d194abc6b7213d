"""The line where figures, steps and notes are typed, with what was understood below it before it counts."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QRect, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from even_beam.answers.bench.line import Chip, LineShown, Mark
from even_beam.app import theme
from even_beam.app.stations.bench.question_panel import BESIDE_IT, QuestionPanel
from even_beam.app.widgets.text import clear, label

if TYPE_CHECKING:
    from even_beam.said import Choice

_UNDER, _THICK = 4, 3


class _MarkedLine(QLineEdit):
    """A line whose understood stretches are underlined: a figure bright, a term grey, what is open dashed and warm."""

    def __init__(self) -> None:
        super().__init__()
        self.marks: Sequence[Mark] = ()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The text, and a line under each stretch."""
        super().paintEvent(event)
        t, text, metrics = theme.tokens(), self.text(), self.fontMetrics()
        at = self.cursorRect().center().x() - metrics.horizontalAdvance(text[: self.cursorPosition()])
        base = (self.height() + metrics.height()) // 2 + _UNDER - _THICK
        painter = QPainter(self)
        painter.setClipRect(QRect(0, 0, self.width(), self.height()))
        for mark in self.marks:
            tone = t.accent if mark.open else t.coming if mark.is_term else t.text
            style = Qt.PenStyle.DashLine if mark.open else Qt.PenStyle.SolidLine
            painter.setPen(QPen(theme.color(tone), _THICK, style, Qt.PenCapStyle.FlatCap))
            start, end = (at + metrics.horizontalAdvance(text[:place]) for place in (mark.start, mark.end))
            painter.drawLine(start, base, end, base)
        painter.end()


class EntryLine(QWidget):
    """A large line. `confirmed` tells the text at Enter, `left` that it was given up with Escape."""

    confirmed = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._understand: Callable[[str], LineShown] = lambda text: LineShown()
        self._shown = LineShown()
        self._answered: Callable[[Choice], None] | None = None
        self._caption = label("", "quiet", wrap=True)
        self._line = _MarkedLine()
        self._line.setAccessibleName("Figure")
        self._understood = label("", "line", wrap=True)
        self._set = label("", "coming", wrap=True)
        self._chips = QWidget()
        self._chip_row = QHBoxLayout(self._chips)
        self._chip_row.setContentsMargins(0, 4, 0, 4)
        self._chip_row.setSpacing(28)
        self.question = QuestionPanel()
        self.question.chosen.connect(self._choose)
        self.question.left.connect(self._line.setFocus)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(2)
        for widget in (self._caption, self._line, self._understood, self._set, self._chips, self.question):
            layout.addWidget(widget)
        self._line.textChanged.connect(self._show_understood)
        self._line.installEventFilter(self)
        self.hide()

    @property
    def text(self) -> str:
        """What is typed."""
        return self._line.text()

    @property
    def offer(self) -> str:
        """What was understood of it, or what it asks, in words."""
        return self._shown.heard

    def open_with(self, text: str, caption: str, understand: Callable[[str], LineShown]) -> None:
        """Open with a first character and a way to say what is understood so far."""
        self._understand = understand
        self._caption.setText(caption)
        self._line.setFont(theme.font("title", mono=True))
        self._line.setText(text)
        self._line.setAccessibleName(caption)
        self._show_understood()
        self.show()
        self._line.setFocus()
        self._line.deselect()

    def close_line(self) -> None:
        """Close and forget."""
        self._line.clear()
        self.hide()

    @property
    def asks(self) -> bool:
        """Whether something is asked beside what the line says."""
        return self._answered is not None

    def select_all(self) -> None:
        """Mark the text, so that typing replaces it."""
        self._line.selectAll()

    def ask(
        self, title: str, choices: "Sequence[Choice]", answered: "Callable[[Choice], None]", more: str = ""
    ) -> None:
        """Ask something beside what the line says; the line stands as it is, and typing on leaves the question."""
        self._answered = answered
        self.question.ask(title, choices, f"{BESIDE_IT} {more}".rstrip())
        self.question.go_in()

    def _choose(self, choice: "Choice") -> None:
        """The answer; or the line with a choice in it, typed on from its end."""
        if self._answered is not None:
            answered, self._answered = self._answered, None
            answered(choice)
            return
        self._line.setText(choice.text)
        self._line.setFocus()
        self._line.deselect()

    def _show_understood(self) -> None:
        self._answered = None
        self._shown = shown = self._understand(self._line.text())
        self._line.marks = shown.marks
        self._understood.setText(shown.words)
        self._understood.setVisible(bool(shown.words))
        self._show_chips(shown.chips)
        self.question.ask(shown.title, shown.choices)
        self._line.setAccessibleDescription(shown.heard)  # read aloud where the focus is, as it is typed
        self._line.update()

    def _show_chips(self, chips: Sequence[Chip]) -> None:
        """What is set on a line of its own, as it may be long; the figures beside each other below."""
        settings = " · ".join(chip.words for chip in chips if chip.quiet)
        self._set.setText(f"set to  {settings}")
        self._set.setVisible(bool(settings))
        clear(self._chip_row)
        beside = [chip for chip in chips if not chip.quiet]
        for chip in beside:
            self._chip_row.addWidget(_chip_of(chip))
        self._chip_row.addStretch()
        self._chips.setVisible(bool(beside))

    def eventFilter(self, watched: object, event: QEvent | None) -> bool:
        """Enter confirms, Escape (or deleting the last character) gives up; ↓ goes to what is asked, Alt and a letter
        answers it."""
        if not isinstance(event, QKeyEvent) or event.type() != QEvent.Type.KeyPress:
            return False
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.confirmed.emit(self._line.text())
            return True
        if event.key() == Qt.Key.Key_Down and self.question.isVisible():
            self.question.go_in()
            return True
        if event.modifiers() & Qt.KeyboardModifier.AltModifier and 0 < event.key() < 0x110000:
            return self.question.answer(chr(event.key()))
        leaving = event.key() == Qt.Key.Key_Escape
        leaving |= event.key() == Qt.Key.Key_Backspace and not self._line.text()
        if leaving:
            self.left.emit()
        return leaving


def _chip_of(chip: Chip) -> QWidget:
    """A chip: its caption above, what was understood below."""
    made = QWidget()
    column = QVBoxLayout(made)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    words = label(chip.words, "line")
    t = theme.tokens()
    words.setStyleSheet(f"color: {t.accent if chip.lit else t.text};")
    column.addWidget(label(chip.caption, "quiet"))
    column.addWidget(words)
    return made
