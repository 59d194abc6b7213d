"""Undo for edits of the kit. (The bench undoes by events of its own.)."""

from collections.abc import Callable
from typing import NamedTuple


class Edit(NamedTuple):
    """What was done, and how to do and undo it."""

    label: str
    do: Callable[[], None]
    undo: Callable[[], None]


class UndoStack:
    """Edits in order; a new edit after an undo forgets what was undone."""

    def __init__(self) -> None:
        self._done: list[Edit] = []
        self._undone: list[Edit] = []

    def do(self, edit: Edit) -> None:
        """Do an edit and remember it."""
        edit.do()
        self._done.append(edit)
        self._undone.clear()

    def undo(self) -> str | None:
        """Undo the last edit; its label, None when there is none."""
        if not self._done:
            return None
        edit = self._done[-1]
        edit.undo()
        self._undone.append(self._done.pop())
        return edit.label

    def redo(self) -> str | None:
        """Do the last undone edit again; its label, None when there is none."""
        if not self._undone:
            return None
        edit = self._undone[-1]
        edit.do()
        self._done.append(self._undone.pop())
        return edit.label
