"""What every station is to the window."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

from even_beam.app.job_runner import JobRunner
from even_beam.app.keys import KeyHint
from even_beam.shell.settings import Settings

if TYPE_CHECKING:
    from even_beam.bench.records import Spectrum
    from even_beam.desk.session.document import Document


@dataclass(slots=True)
class Host:
    """What the window lends its stations."""

    jobs: JobRunner
    settings: Callable[[], Settings]
    say: Callable[[str], None]
    unsay: Callable[[str], None]
    announce: Callable[[str], None]
    show_spectrum: "Callable[[str, Spectrum], None]"
    go_to_bench: Callable[[], None]
    use_settings: Callable[[Settings], None]
    plan_for: Callable[[list[str], list[str]], None]
    compare_in: Callable[[str], None]
    saved: Callable[[Path, str], None]
    show_limits: Callable[[str], None]
    merge: Callable[[list[Path]], None]


def key_of(event: QKeyEvent, letters: frozenset[str]) -> str:
    """What a key press is called in the table of keys, where letters and digits act: `A`, `PgDn`, `Ctrl Shift C`; empty
    for what is none of them."""
    modifiers = event.modifiers()
    if modifiers & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_C:
        return "Ctrl Shift C" if modifiers & Qt.KeyboardModifier.ShiftModifier else "Ctrl C"
    if event.key() in {Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}:
        return "PgDn" if event.key() == Qt.Key.Key_PageDown else "PgUp"
    return event.text().upper() if event.text() and event.text().upper() in letters else ""


class Station(QWidget):
    """One station. `hints_changed` asks the window to show its keys anew, `head_changed` its head line."""

    hints_changed = pyqtSignal()
    head_changed = pyqtSignal()

    def __init__(self, host: Host) -> None:
        super().__init__()
        self.host = host
        self.document: Document | None = None

    def show_document(self, document: "Document") -> None:
        """Work on another logbook."""
        self.document = document
        self.refresh()

    def rest(self) -> None:
        """Put to rest what this station lit: the window is about to close."""

    def let_go(self) -> None:
        """Close what this station itself opened of the logbook, which is about to be closed."""

    def refresh(self) -> None:
        """Show the present state, in the present theme."""

    def hints(self) -> tuple[KeyHint, ...]:
        """The keys for the foot."""
        return ()

    def head(self) -> tuple[tuple[str, ...], str]:
        """The head line: parts on the left, and words on the right."""
        return (), ""

    def press(self, key: str) -> None:
        """Do what a key of the foot does."""

    def take_dropped(self, paths: list[Path]) -> None:
        """Take files that were dropped, where `setAcceptDrops` says that they are wanted."""

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Let files come."""
        mime = event.mimeData() if event is not None else None
        if event is not None and mime is not None and mime.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Take those that are files of this machine."""
        mime = event.mimeData() if event is not None else None
        paths = [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()] if mime is not None else []
        if paths:
            self.take_dropped(paths)

    def undo(self) -> str | None:
        """Undo the last act; what it was."""
        return None

    def redo(self) -> str | None:
        """Do the last undone act again; what it was."""
        return None
