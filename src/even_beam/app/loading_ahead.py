"""Modules that a later key needs, loaded while nobody does anything: a first visit then only builds the widgets.

A module that loads takes the interpreter from whoever reads: the first steps of a run waited for it.
"""

from collections.abc import Sequence
from importlib import import_module

from PyQt6.QtCore import QEvent, QObject, QTimer
from PyQt6.QtGui import QWindow

from even_beam.app.job_runner import JobRunner

IDLE_MS, BETWEEN_MS = 500, 10
"""After so long without a key or a click a module is loaded, and the next one so long after it."""

_ACTS = frozenset({QEvent.Type.KeyPress, QEvent.Type.MouseButtonPress, QEvent.Type.Wheel})


class LoadingAhead(QObject):
    """Loads modules one by one in a worker, and rests while somebody works."""

    def __init__(self, modules: Sequence[str], jobs: JobRunner, parent: QObject) -> None:
        super().__init__(parent)
        self._left, self._jobs, self._acted = list(modules), jobs, False
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._load_one)

    def begin(self, window: QWindow | None) -> None:
        """Load what is left, from the next moment on at which nobody acts in a window."""
        if self._left:
            if window is not None:  # what comes from the desktop alone: widgets have many events a key
                window.installEventFilter(self)
            self._timer.start(IDLE_MS)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Whoever presses a key comes first."""
        if event is not None and event.type() in _ACTS:
            self._acted = True
            if self._timer.isActive():
                self._timer.start(IDLE_MS)
            elif not self._left and watched is not None:
                watched.removeEventFilter(self)
        return False

    def _load_one(self) -> None:
        module, self._acted = self._left.pop(0), False
        self._jobs.run("load ahead", lambda job: import_module(module), self._go_on, self._go_on)

    def _go_on(self, _: object) -> None:
        if self._left:
            self._timer.start(IDLE_MS if self._acted else BETWEEN_MS)
