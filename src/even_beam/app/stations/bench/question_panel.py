"""What a line asks: its choices as buttons with a letter each. Nothing is kept before one is chosen."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from even_beam.app import theme
from even_beam.app.widgets.text import label

if TYPE_CHECKING:
    from even_beam.said import Choice

IN_THE_LINE = "A letter at the end of the line, Alt and the letter, a click, or ↓ and Enter. Nothing is kept before."
BESIDE_IT = "A letter, a click, or the arrows and Enter. Nothing is kept before."


class _ChoiceButton(QPushButton):
    """A choice with its letter lit."""

    def __init__(self, choice: "Choice") -> None:
        super().__init__()
        self.choice = choice
        self.setAccessibleName(f"{choice.letter.upper()}: {choice.label}")
        self.setAutoDefault(False)

    def sizeHint(self) -> QSize:
        """As wide as letter and words."""
        metrics = self.fontMetrics()
        return QSize(metrics.horizontalAdvance(self.choice.label) + 62, metrics.height() + 20)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The frame of any button, the letter in the accent, the words beside it."""
        super().paintEvent(event)
        t = theme.tokens()
        painter = QPainter(self)
        base = (self.height() + painter.fontMetrics().ascent() - painter.fontMetrics().descent()) // 2
        painter.setPen(theme.color(t.accent))
        painter.drawText(QPoint(16, base), self.choice.letter.upper())
        painter.setPen(theme.color(t.text))
        painter.drawText(QPoint(40, base), self.choice.label)
        painter.end()


class QuestionPanel(QWidget):
    """`chosen` tells the choice, `left` that the line is to be typed on."""

    chosen = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._title = label("", "title", wrap=True)
        self._buttons: list[_ChoiceButton] = []
        self._row = QHBoxLayout()
        self._row.setSpacing(14)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 12, 16, 12)
        column.setSpacing(8)
        column.addWidget(self._title)
        column.addLayout(self._row)
        self._how = label(IN_THE_LINE, "quiet", wrap=True)
        column.addWidget(self._how)
        self._row.addStretch()
        self.hide()

    @property
    def choices(self) -> "list[Choice]":
        """What is offered."""
        return [button.choice for button in self._buttons]

    def ask(self, title: str, choices: "Sequence[Choice]", how: str = IN_THE_LINE) -> None:
        """Ask, or with no choices nothing; `how` says how it is answered."""
        self._how.setText(how)
        if list(choices) != self.choices:
            for button in self._buttons:
                self._row.removeWidget(button)
                button.hide()
                button.deleteLater()
            self._buttons = [_ChoiceButton(choice) for choice in choices]
            for place, button in enumerate(self._buttons):
                button.setFont(theme.font("line"))
                button.clicked.connect(lambda _, choice=button.choice: self.chosen.emit(choice))
                button.installEventFilter(self)
                self._row.insertWidget(place, button)
        self._title.setText(title)
        self.setVisible(bool(choices))

    def answer(self, letter: str) -> bool:
        """Choose by its letter; False where none has it."""
        found = next((choice for choice in self.choices if choice.letter == letter.lower()), None)
        if found is None or not self.isVisible():
            return False
        self.chosen.emit(found)
        return True

    def go_in(self) -> None:
        """The first choice by the keys."""
        if self._buttons:
            self._buttons[0].setFocus()

    def eventFilter(self, watched: object, event: QEvent | None) -> bool:
        """Arrows go from choice to choice, Enter takes one, Escape and ↑ go back to the line."""
        if not isinstance(event, QKeyEvent) or event.type() != QEvent.Type.KeyPress:
            return False
        place = next(i for i, button in enumerate(self._buttons) if button is watched)
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if step is not None:
            self._buttons[(place + step) % len(self._buttons)].setFocus()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._buttons[place].click()
        elif event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Up):
            self.left.emit()
        else:
            return self.answer(event.text())
        return True

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The warm ground of what waits for a decision."""
        t = theme.tokens()
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color(t.accent_ground))
        painter.fillRect(0, 0, 3, self.height(), theme.color(t.accent))
        painter.end()
