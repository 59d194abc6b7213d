"""An unexpected error, in a slot, a thread or the interpreter: logged, shown in plain words, and the program goes
on."""

import sys
import threading
from types import TracebackType

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QApplication

from even_beam.app import dialogs
from even_beam.workspace.shell import places
from even_beam.workspace.shell.log import LOG


class CrashGuard(QObject):
    """Catches what nothing else caught. PyQt would end the process otherwise."""

    _caught = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._showing = False
        self._caught.connect(self._show)

    def install(self) -> None:
        """Catch from now on."""
        sys.excepthook = self._hook
        threading.excepthook = lambda args: self._hook(args.exc_type, args.exc_value or Exception(), args.exc_traceback)

    def _hook(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            QApplication.quit()
            return
        LOG.error("unexpected error", exc_info=(kind, error, trace))
        self._caught.emit(f"{kind.__name__}: {error}")

    def _show(self, what: str) -> None:
        if self._showing:
            return  # one at a time: the log has them all
        self._showing = True
        try:
            dialogs.tell(
                QApplication.activeWindow(),
                "Something unexpected happened",
                f"{what}\n\nEvery reading that was confirmed is kept in the logbook. You can go on; if it happens"
                f" again, close the window and open it again. The details are in the log:\n{places.log_file()}",
            )
        finally:
            self._showing = False
