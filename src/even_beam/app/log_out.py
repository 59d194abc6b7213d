"""What the desktop sends when somebody logs out, or another program to end this one: the logbook is closed first."""

import signal
import socket
from collections.abc import Callable

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier

SENT = (signal.SIGTERM, signal.SIGHUP, signal.SIGQUIT, signal.SIGINT)


class LogOut(QObject):
    """Calls `end` in the event loop when one of the signals came, also while a dialog is open."""

    def __init__(self, end: Callable[[], None], parent: QObject) -> None:
        super().__init__(parent)
        self._end = end
        self._read, self._write = socket.socketpair()
        for one in (self._read, self._write):
            one.setblocking(False)
        self._notifier = QSocketNotifier(sip.voidptr(self._read.fileno()), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._came)
        signal.set_wakeup_fd(self._write.fileno(), warn_on_full_buffer=False)
        for number in SENT:
            signal.signal(number, lambda *_: None)  # the byte in the socket says it; without a handler there is none

    def _came(self) -> None:
        self._notifier.setEnabled(False)  # once is enough
        self._end()
