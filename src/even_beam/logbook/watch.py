"""Whether the file of an open logbook is still as this program left it: nothing else may write into it meanwhile.

Looked at through the descriptor that the lock holds; all of the file only where something touched it.
"""

import os
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import NamedTuple

from even_beam.logbook import chain
from even_beam.logbook.connection import connect

_HEAD_BYTES = 100


class _Seen(NamedTuple):
    size: int
    changed_ns: int
    head: bytes


class Watch:
    """The file as it was after the last change of our own. Held by the process that writes it."""

    def __init__(self, path: Path, file: int, connection: sqlite3.Connection) -> None:
        self._path, self._file, self._connection = path, file, connection
        self._seen = self._look()

    def note(self) -> None:
        """The file was just changed by this program."""
        self._seen = self._look()

    @property
    def is_as_left(self) -> bool:
        """Whether nobody wrote into the file, wherever it is now."""
        return self._look() == self._seen

    def _look(self) -> _Seen:
        try:
            status = os.fstat(self._file)
            return _Seen(status.st_size, status.st_mtime_ns, os.pread(self._file, _HEAD_BYTES, 0))
        except OSError:
            return _Seen(-1, 0, b"")

    def what_is_wrong(self) -> str:
        """What became of the file, in words; empty where all is well."""
        if not self.is_in_place:
            return "is no longer in its place: it was removed, renamed or replaced by another file"
        seen = self._look()
        if seen == self._seen:
            return ""
        if seen.size < self._seen.size:
            return f"was cut off by another program, to {seen.size} bytes"
        if self._reads_as_ours():
            self._seen = seen  # touched, but not changed
            return ""
        return "was written into by another program"

    @property
    def is_in_place(self) -> bool:
        """Whether the file that was opened still stands under its name."""
        try:
            return os.path.samestat(self._path.stat(), os.fstat(self._file))
        except OSError:
            return False

    def _reads_as_ours(self) -> bool:
        """Whether somebody who opens it now finds it sound, with the newest change that this program made."""
        try:
            with closing(connect(self._path, "ro")) as anew:
                sound = anew.execute("PRAGMA quick_check(1)").fetchone()[0] == "ok"
                return sound and chain.mark_of(anew) == chain.mark_of(self._connection)
        except (sqlite3.Error, UnicodeDecodeError):
            return False
