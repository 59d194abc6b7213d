"""Copies of the logbook by themselves, once a day that it was written in, and one of them taken in again."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QPushButton, QWidget

from even_beam.app import dialogs
from even_beam.app.station import Host
from even_beam.words import notation

if TYPE_CHECKING:
    from pathlib import Path

    from even_beam.desk.session.document import Document

AGAIN_MS = 1_800_000
"""Whether a copy is due is looked at so often."""
_MB = 1e6


class BackingUp(QObject):
    """Copies, made in a worker while nobody waits."""

    def __init__(self, window: QWidget, host: Host, document: "Callable[[], Document | None]") -> None:
        super().__init__(window)
        self._window, self._host, self._document = window, host, document
        self._again = QTimer(self)
        self._again.setInterval(AGAIN_MS)
        self._again.timeout.connect(self.begin)

    def begin(self) -> None:
        """A logbook was opened, or half an hour went by."""
        from even_beam.collection import backups  # not at start-up

        document, most = self._document(), self._host.settings().backups_mb * _MB
        self._again.start()
        if document is None or most <= 0.0:
            return
        logbook, today = document.logbook, document.clock().astimezone().date()
        self._host.jobs.run(
            "back up",
            lambda job: backups.back_up(logbook, today, most) if backups.is_due(logbook, today) else None,
            lambda _: None,
            lambda error: self._host.say(f"There is no copy of today: {error}"),
        )

    def ask(self) -> None:
        """Show the copies and where they are; one of them is taken in, which brings back what is gone."""
        from even_beam.app.stations.bench.list_dialog import ListDialog  # not at start-up
        from even_beam.collection import backups

        document = self._document()
        if document is None:
            return
        path = document.logbook.path
        found, folder = backups.backups_of(path), backups.folder_of(path)
        if not found:
            dialogs.tell(self._window, "Copies of this logbook", f"There is none yet. They will stand in {folder}.")
            return
        words = (
            f"One of each day it was written in, in {folder}. Taking one in brings back what is gone, and leaves what"
            " came after."
        )
        lines = [f"{one.day:%-d %B %Y}   {notation.number(one.size / _MB, 1)} MB" for one in found]
        dialog = ListDialog(self._window, "Copies of this logbook", "Take it in", words, lines)
        show = QPushButton("Show in folder")
        show.setAutoDefault(False)
        show.clicked.connect(lambda: QDesktopServices.openUrl(QUrl.fromLocalFile(str(folder))))
        dialog.body.addWidget(show)
        if dialog.exec():
            self._take_in(found[dialog.place].path)

    def _take_in(self, path: "Path") -> None:
        self._host.merge([path])
