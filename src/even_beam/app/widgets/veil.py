"""The screen goes nearly black while the meter reads, so that it adds no light: fading, never flashing."""

from PyQt6.QtCore import QPropertyAnimation, Qt, pyqtProperty  # type: ignore[attr-defined]
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from even_beam.app import theme

_DARKEST = 0.88
_FADE_MS = 260


class Veil(QWidget):
    """Lies over a widget and darkens it with the theme's ground."""

    def __init__(self, over: QWidget) -> None:
        super().__init__(over)
        self._darkness = 0.0
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self._fade = QPropertyAnimation(self, b"darkness", self)
        self._fade.setDuration(_FADE_MS)
        self._fade.finished.connect(self._settle)
        self.hide()

    @pyqtProperty(float)
    def darkness(self) -> float:
        """How dark it is, 0-1."""
        return self._darkness

    @darkness.setter  # type: ignore[no-redef]
    def darkness(self, value: float) -> None:
        self._darkness = value
        self.update()

    def fade_in(self) -> None:
        """Darken."""
        parent = self.parentWidget()
        if parent is not None:
            self.setGeometry(parent.rect())
        self.show()
        self.raise_()
        self._run_to(_DARKEST)

    def fade_out(self) -> None:
        """Clear."""
        self._run_to(0.0)

    def settle(self) -> None:
        """Be at once as dark or clear as the fade would end."""
        self._fade.setCurrentTime(self._fade.duration())

    def _run_to(self, value: float) -> None:
        self._fade.stop()
        self._fade.setStartValue(self._darkness)
        self._fade.setEndValue(value)
        self._fade.start()

    def _settle(self) -> None:
        if self._darkness == 0.0:
            self.hide()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the darkness."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color("#000000", int(255 * self._darkness)))
        painter.end()
