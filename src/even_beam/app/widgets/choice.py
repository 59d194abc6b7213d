"""A drop-down of a station: it takes the keys that move in it, and leaves every other to the station."""

from collections.abc import Iterable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QWheelEvent
from PyQt6.QtWidgets import QComboBox

_OWN = frozenset({
    Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown,
    Qt.Key.Key_Space, Qt.Key.Key_F4,
})  # fmt: skip


class Choice(QComboBox):
    """A choice with its accessible name. Letters and Enter do what they do elsewhere in the station."""

    def __init__(self, name: str, texts: Iterable[str] = ()) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.addItems([str(text) for text in texts])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows choose, Space opens the list; the rest is the station's."""
        if event is None:
            return
        if event.key() in _OWN:
            super().keyPressEvent(event)
        else:
            event.ignore()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """A wheel that passes over it scrolls what it stands in, and changes nothing."""
        if event is not None:
            event.ignore()
