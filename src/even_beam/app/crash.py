"""An unexpected error, in a slot, a thread or the interpreter: logged, shown in plain words, and the program goes
on."""

import sys
import threading
from collections.abc import Callable
from types import TracebackType

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QApplication

from even_beam.app import dialogs
from even_beam.errors import TellableError
from even_beam.shell import places
from even_beam.shell.log import LOG


class CrashGuard(QObject):
    """Catches what nothing else caught. PyQt would end the process otherwise.

    What a person can be told is told as it is, for every act of every station; all else is a fault of the program.
    `kept` says what is sure of what was confirmed, where that is sure.
    """

    _caught = pyqtSignal(str, str)

    def __init__(self, kept: Callable[[], str] = lambda: "") -> None:
        super().__init__()
        self._kept = kept
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
        if isinstance(error, TellableError):
            self._caught.emit("That could not be done", str(error))
        elif isinstance(error, OSError) and error.strerror:
            self._caught.emit("That could not be done", f"{error.filename or 'A file'}: {error.strerror}.")
        else:
            self._caught.emit("", f"{kind.__name__}: {error}")

    def _show(self, title: str, what: str) -> None:
        if self._showing:
            return  # one at a time: the log has them all
        self._showing = True
        try:
            if title:
                dialogs.tell(QApplication.activeWindow(), title, what)
                return
            on = "You can go on; if it happens again, close the window and open it again. The details are in the log:"
            words = " ".join(filter(None, (self._kept(), on)))
            dialogs.tell(
                QApplication.activeWindow(),
                "Something unexpected happened",
                f"{what}\n\n{words}\n{places.log_file()}",
            )
        finally:
            self._showing = False
