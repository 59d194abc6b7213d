"""One chart, or a portion of one, drawn in each turn of the event loop, so that keys are heard in between."""

from collections.abc import Callable

from PyQt6 import sip
from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QApplication, QWidget


class Turns(QObject):
    """Who waits to draw; each is asked once, in the order in which they came."""

    def __init__(self, parent: QObject | None) -> None:
        super().__init__(parent)
        self._waiting: dict[QWidget, Callable[[], None]] = {}
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._next)

    @property
    def pending(self) -> bool:
        """Whether anybody still waits to draw."""
        return bool(self._waiting)

    def ask(self, widget: QWidget, draw: Callable[[], None]) -> None:
        """Have `draw` called in a turn of its own, unless `widget` is gone by then."""
        self._waiting[widget] = draw
        self._timer.start(0)

    def _next(self) -> None:
        widget = next(iter(self._waiting))
        draw = self._waiting.pop(widget)
        if self._waiting:
            self._timer.start(0)
        if not sip.isdeleted(widget):
            draw()


def turns() -> Turns:
    """The one queue of the application."""
    application = QApplication.instance()
    found = application.findChild(Turns) if application is not None else None
    return found if isinstance(found, Turns) else Turns(application)
