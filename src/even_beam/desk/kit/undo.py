"""Undo for edits of the kit. (The bench undoes by events of its own.)."""

from collections.abc import Callable, Sequence
from typing import Any, NamedTuple


class Edit(NamedTuple):
    """What was done: the records that were there before, and those that are there after."""

    label: str
    before: tuple[Any, ...]
    after: tuple[Any, ...]


class UndoStack:
    """Edits in order; a new edit after an undo forgets what was undone. `exchange` takes records out and others in, all
    or nothing; what fails leaves the stack as it is."""

    def __init__(self, exchange: Callable[[Sequence[Any], Sequence[Any]], None]) -> None:
        self._exchange = exchange
        self._done: list[Edit] = []
        self._undone: list[Edit] = []

    def do(self, edit: Edit) -> None:
        """Do an edit and remember it."""
        self._put(edit.before, edit.after)
        self._done.append(edit)
        self._undone.clear()

    def undo(self) -> str | None:
        """Undo the last edit; its label, None when there is none."""
        if not self._done:
            return None
        edit = self._done[-1]
        self._put(edit.after, edit.before)
        self._undone.append(self._done.pop())
        return edit.label

    def redo(self) -> str | None:
        """Do the last undone edit again; its label, None when there is none."""
        if not self._undone:
            return None
        edit = self._undone[-1]
        self._put(edit.before, edit.after)
        self._done.append(self._undone.pop())
        return edit.label

    def _put(self, old: Sequence[Any], new: Sequence[Any]) -> None:
        kept = {one.id for one in new}
        self._exchange([one for one in old if one.id not in kept], new)
