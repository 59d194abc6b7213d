"""One writer at a time: a lock on a file beside the logbook, which the system releases when its process dies."""

import fcntl
import json
import os
import socket
from pathlib import Path
from typing import TextIO

from even_beam.logbook.errors import LogbookError


class Lock:
    """Holds `NAME.evenbeam.lock` from `acquire` to `release`.

    The file outlives a process that was killed: `was_left` then tells that the logbook was not closed properly.
    """

    def __init__(self, logbook: Path) -> None:
        file = logbook.resolve()  # one lock for all the names that links give it
        self._path = file.with_name(file.name + ".lock")
        self._file: TextIO | None = None
        self.was_left = False

    def acquire(self) -> None:
        """Take the lock. Raises `LogbookError` naming who holds it, or when the folder cannot be written."""
        self.was_left = self._path.exists()
        file = self._opened()
        while not self._is_in_place(file):  # its holder removed it in between: lock the one that stands there now
            file.close()
            file = self._opened()
        file.truncate(0)
        json.dump({"process": os.getpid(), "machine": socket.gethostname()}, file)
        file.flush()
        self._file = file

    def _is_in_place(self, file: TextIO) -> bool:
        try:
            return self._path.stat().st_ino == os.fstat(file.fileno()).st_ino
        except FileNotFoundError:
            return False

    def _opened(self) -> TextIO:
        """The file, locked."""
        try:
            file = self._path.open("a+", encoding="utf-8")
        except OSError as error:
            raise LogbookError(
                f"The folder {self._path.parent} cannot be written: {error.strerror}.",
                "Nothing was changed.",
                "Copy the logbook to a folder of your own and open it there.",
            ) from error
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            holder = self._holder()
            file.close()
            raise LogbookError(
                f"The logbook is open in another window ({holder}).",
                "Nothing was changed.",
                "Close it there first; reading with the command line works meanwhile.",
            ) from error
        return file

    def _holder(self) -> str:
        try:
            data = json.loads(self._path.read_text(encoding="utf-8"))
            return f"process {int(data['process'])} on {data['machine']}"
        except (OSError, ValueError, KeyError, TypeError, RecursionError):
            return "another process"

    def release(self) -> None:
        """Give the lock back and remove its file."""
        if self._file is not None:
            self._path.unlink(missing_ok=True)
            self._file.close()
            self._file = None
