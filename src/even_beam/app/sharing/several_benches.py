"""Merging another logbook and sharing with hubs, in the window: asked here, done in a worker, and told."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from even_beam.app import dialogs
from even_beam.app.station import Host
from even_beam.collection.files import SUFFIX
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.answers.sharing.deciding import Question
    from even_beam.answers.sharing.merging import Merged
    from even_beam.answers.sharing.sharing import Shared
    from even_beam.desk.session.document import Document

AGAIN_MS = 60_000
"""A hub is asked so often what is new, and told what is new here."""


class SeveralBenches(QObject):
    """`state_changed` asks for the head line anew, of which `state` is a part."""

    state_changed = pyqtSignal()

    def __init__(self, window: QWidget, host: Host, document: "Callable[[], Document | None]") -> None:
        super().__init__(window)
        self._window, self._host, self._document = window, host, document
        self.state = ""
        self._shares = False
        self._again = QTimer(self)
        self._again.setInterval(AGAIN_MS)
        self._again.timeout.connect(self._share_all)

    # --- merging

    def ask_merge(self) -> None:
        """Ask for logbooks, and take them in."""
        names, _ = QFileDialog.getOpenFileNames(self._window, "Take in logbooks", "", f"Logbooks (*{SUFFIX})")
        self.merge([Path(name) for name in names])

    def merge(self, paths: list[Path]) -> None:
        """Take in logbooks, one after the other; each is asked about first."""
        document = self._document()
        if document is None or not paths:
            return
        from even_beam.answers.sharing.merging import questions

        path, later = paths[0], paths[1:]
        self._host.jobs.run(
            "look what is asked",
            lambda job: questions(document.logbook, path, document.clock()),
            lambda asked: self._asked(path, asked, later),
            self._not_merged,
        )

    def _asked(self, path: Path, asked: "list[Question]", later: list[Path]) -> None:
        from even_beam.answers.sharing.deciding import Answer
        from even_beam.answers.sharing.merging import merge
        from even_beam.app.sharing.merge_dialog import MergeDialog  # not at start-up

        document = self._document()
        dialog = MergeDialog(self._window, path.stem, asked)
        if document is None or not dialog.exec():
            return
        answers = dialog.answers
        self._host.say(f"Takes in {path.stem} …")
        self._host.jobs.run(
            f"take in {path.stem}",
            lambda job: next(
                iter(
                    merge(
                        document.logbook,
                        [path],
                        document.clock(),
                        {},
                        lambda question: answers.get(question.there.id, Answer.OTHER),
                        lambda table: job.stop_if_cancelled(),
                    )
                )
            ),
            lambda merged: self._merged(path, merged, later),
            self._not_merged,
        )

    def _merged(self, path: Path, merged: "Merged", later: list[Path]) -> None:
        self._show_what_came(merged)
        lines = list(merged.lines())
        if len(lines) > 1:
            dialogs.tell(self._window, f"{path.stem} is in", "\n".join(lines))
        else:
            self._host.say(f"{path.stem}: {lines[0]}")
        self.merge(later)

    def _not_merged(self, error: Exception) -> None:
        dialogs.tell(self._window, "Not taken in", f"{error} This logbook is as it was.")

    def _show_what_came(self, merged: "Merged") -> None:
        """What is on the screen is asked anew; the session at work only where it grew."""
        document = self._document()
        if document is None or not merged.came:
            return
        desk = document.desk
        if desk is not None and document.logbook.events_in(desk.session.id) != desk.known_events:
            document.work_on(desk.session)
        document.kit.changed()
        document.readings_changed()

    # --- sharing

    def begin(self) -> None:
        """A logbook was opened: where it is shared, it is shared again from here on."""
        self.state = ""
        self._again.stop()
        document = self._document()
        if document is not None and document.logbook.hubs():
            self._again.start()
            QTimer.singleShot(0, self._share_all)
        self.state_changed.emit()

    def ask_share(self) -> None:
        """Ask with which hub, and share with it."""
        document = self._document()
        if document is None:
            return
        from even_beam.app.sharing.share_dialog import ShareDialog  # not at start-up

        dialog = ShareDialog(self._window, [hub.address for hub in document.logbook.hubs()])
        if dialog.exec():
            self._share([dialog.address], dialog.password, told=True)

    def _share_all(self) -> None:
        document = self._document()
        if document is not None and not self._shares:
            self._share([hub.address for hub in document.logbook.hubs()], "", told=False)

    def _share(self, addresses: list[str], password: str, *, told: bool) -> None:
        document = self._document()
        if document is None or not addresses:
            return
        from even_beam.answers.sharing.sharing import share

        self._shares = True
        logbook, clock = document.logbook, document.clock
        self._host.jobs.run(
            "share",
            lambda job: [
                share(
                    logbook,
                    address,
                    clock,
                    lambda what: job.stop_if_cancelled(),
                    (lambda server: password) if password else None,
                )
                for address in addresses
            ],
            lambda shared: self._shared(shared, told=told),
            lambda error: self._not_shared(error, told=told),
        )

    def _shared(self, shared: "list[Shared]", *, told: bool) -> None:
        self._shares = False
        document = self._document()
        if document is None:
            return
        for one in shared:
            self._show_what_came(one.came)
        waits = any(not one.is_whole for one in shared)
        self._show_state(f"shared {document.clock().astimezone():%H:%M}{', not all of it yet' if waits else ''}")
        self._again.start()
        if told or any(one.came.readings for one in shared):
            self._host.say(" ".join(one.words for one in shared))
        if told and any(len(one.lines()) > 1 for one in shared):
            dialogs.tell(self._window, "Shared", "\n".join(line for one in shared for line in one.lines()))

    def _not_shared(self, error: Exception, *, told: bool) -> None:
        self._shares = False
        document = self._document()
        if document is None:
            return
        hubs = document.logbook.hubs()
        if hubs:
            waiting = document.logbook.unsent(hubs[0])
            what = f"{notation.count(waiting, 'record')} not shared yet" if waiting else "hub not reached"
            self._show_state(what)
            self._again.start()
        if told:
            dialogs.tell(self._window, "Not shared", f"{error} Nothing is lost: it is tried again by itself.")

    def _show_state(self, words: str) -> None:
        self.state = words
        self.state_changed.emit()
