"""The second look in one calm place; warm, with its causes and keys, when a reading does not fit."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QLabel, QSizePolicy, QVBoxLayout, QWidget

from even_beam.app import theme
from even_beam.app.keys import KeyHint
from even_beam.app.widgets.foot import KeyRow


class SecondLookPanel(QWidget):
    """Title, sentences and, in doubt, the keys that decide. `pressed` passes on a key that was clicked."""

    pressed = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._in_doubt = False
        self._shown = False
        self._title, self._text = QLabel(), QLabel()
        self._text.setWordWrap(True)
        self._text.setTextFormat(Qt.TextFormat.PlainText)
        self._keys = KeyRow()
        self._keys.pressed.connect(self.pressed)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(19, 12, 16, 10)
        layout.setSpacing(4)
        layout.addWidget(self._title)
        layout.addWidget(self._text)
        layout.addWidget(self._keys)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)

    def show_look(self, title: str, text: str, *, in_doubt: bool = False, keys: tuple[KeyHint, ...] = ()) -> None:
        """Show a verdict; an empty title hides the panel's ground."""
        t = theme.tokens()
        self._in_doubt, self._shown = in_doubt, bool(title or text)
        self._title.setText(title)
        self._title.setStyleSheet(f"color: {t.accent if in_doubt else t.text}; font-size: {theme.SIZES['title']}px;")
        self._title.setVisible(bool(title))
        self._text.setText(text)
        self._text.setFont(theme.font("body"))
        self._text.setStyleSheet(f"color: {t.text if in_doubt else t.secondary};")
        self._keys.show_hints(keys)
        self._keys.setVisible(bool(keys))
        self.setAccessibleName(f"Second look: {title}. {text}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The ground, and the bar that turns warm."""
        if not self._shown:
            return
        t = theme.tokens()
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color(t.accent_ground if self._in_doubt else t.raised))
        painter.fillRect(0, 0, 3, self.height(), theme.color(t.accent if self._in_doubt else t.secondary))
        painter.end()
