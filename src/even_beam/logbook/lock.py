"""One writer at a time: a lock on a file beside the logbook and one on the logbook itself, which the system releases
when its process dies. The second holds whatever name, of several that a file can have, it is opened by."""

import fcntl
import json
import os
import socket
import stat
import time
from pathlib import Path

from even_beam.logbook.errors import LogbookError

_AGAIN_S, _PROBED_S = 0.02, 0.2
"""Between two tries; and how long a lock may be held by one who only looks whether it is held."""


_HELD: dict[tuple[int, int], int] = {}
"""The logbooks that this process holds, by device and inode, with the descriptor of each."""


def descriptor_of(logbook: Path) -> int | None:
    """The descriptor by which this process holds a logbook; None where it does not. Raises `OSError`.

    Whoever looks at a file that is open here does so through it: POSIX lets go of all the locks that a process has on a
    file when any descriptor of it is closed, those of SQLite too. Source: fcntl(2), “Advisory record locking”.
    """
    status = logbook.stat()
    return _HELD.get((status.st_dev, status.st_ino))


class Lock:
    """Holds `NAME.evenbeam.lock` from `acquire` to `release`, and the logbook itself once it is there.

    The side file outlives a process that was killed: `was_left` then tells that the logbook was not closed properly.
    `file` is the logbook as it was opened, kept open so that it can be looked at: to open and close it anew would give
    up the locks that SQLite has on it in this process.
    """

    def __init__(self, logbook: Path) -> None:
        self._logbook = logbook.resolve()  # one lock for all the names that links give it
        self._path = self._logbook.with_name(self._logbook.name + ".lock")
        self._side: int | None = None
        self.file: int | None = None
        self.was_left = False

    def acquire(self, patience_s: float = 0.0) -> None:
        """Take the lock. Who has patience waits so long for one who holds it in passing, as commands do.

        Raises `LogbookError` naming who holds it, or when the folder cannot be written.
        """
        began = time.monotonic()
        while True:
            try:
                self._take(passing=patience_s > 0.0)
                return
            except _HeldError as held:
                if time.monotonic() - began >= (max(patience_s, _PROBED_S) if held.passing else _PROBED_S):
                    raise LogbookError(
                        f"The logbook is open in another window ({held.holder}).",
                        "Nothing was changed.",
                        "Close it there first; reading with the command line works meanwhile.",
                    ) from held
            time.sleep(_AGAIN_S)

    def _take(self, *, passing: bool) -> None:
        left = os.path.lexists(self._path)
        side = self._opened()
        while not self._is_in_place(side):  # its holder removed it in between: lock the one that stands there now
            os.close(side)
            side = self._opened()
        self._side, self.was_left = side, left
        holder = {"process": os.getpid(), "machine": socket.gethostname(), "passing": passing}
        try:
            os.ftruncate(side, 0)
            os.pwrite(side, json.dumps(holder).encode(), 0)
        except OSError:
            pass  # on a full disk nobody is told who holds it
        try:
            self.hold_file()
        except BaseException:
            self.release()
            raise

    def _is_in_place(self, side: int) -> bool:
        try:
            return os.path.samestat(self._path.stat(), os.fstat(side))
        except FileNotFoundError:
            return False

    def _opened(self) -> int:
        """The side file, locked. It is opened through no link: what a link points to would be emptied."""
        try:
            flags = os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC
            side = os.open(self._path, flags, 0o666)
        except OSError as error:
            raise self._unwritable(error) from error
        if not stat.S_ISREG(os.fstat(side).st_mode):
            os.close(side)
            raise LogbookError(
                f"{self._path.name} is a link, pipe or device, which no lock of a logbook is.",
                "Nothing was changed.",
                "Take it away, or copy the logbook to a folder of your own.",
            )
        try:
            fcntl.flock(side, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            held = self._held_by(side)
            os.close(side)
            raise held from error
        return side

    def _unwritable(self, error: OSError) -> LogbookError:
        untouched = "Nothing was changed."
        if self._path.is_symlink():
            return LogbookError(
                f"{self._path.name} is a link, which no lock of a logbook is.", untouched, "Take it away."
            )
        if error.filename and len(os.fsencode(self._path.name)) > 250:
            return LogbookError(
                f"The name {self._logbook.name} is too long.", untouched, "Choose one of at most 200 letters."
            )
        if not self._path.parent.is_dir():
            return LogbookError(f"There is no folder {self._path.parent}.", untouched, "Choose another place.")
        return LogbookError(
            f"The folder {self._path.parent} cannot be written: {error.strerror}.",
            untouched,
            "Copy the logbook to a folder of your own and open it there.",
        )

    def _held_by(self, side: int) -> "_HeldError":
        try:
            data = json.loads(os.pread(side, 4096, 0))
            return _HeldError(f"process {int(data['process'])} on {data['machine']}", bool(data.get("passing")))
        except (OSError, ValueError, KeyError, TypeError, AttributeError, RecursionError):
            return _HeldError("another process", passing=True)  # it has just taken it

    def hold_file(self) -> None:
        """Hold the logbook itself, where it is there. Raises `LogbookError` where another name of it is open."""
        if self.file is not None:
            return
        try:
            file = os.open(self._logbook, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
        except OSError:
            return  # not there yet; what cannot be read is told by who reads it
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            os.close(file)
            raise LogbookError(
                f"{self._logbook.name} is open already under another name.",
                "Nothing was changed.",
                "Close it there first.",
            ) from error
        except OSError:
            pass  # a file system without such locks: the side file has to do
        self.file = file
        status = os.fstat(file)
        _HELD[status.st_dev, status.st_ino] = file

    def let_go_of_file(self) -> None:
        """The logbook is about to be replaced: hold the new one afterwards with `hold_file`."""
        if self.file is not None:
            status = os.fstat(self.file)
            _HELD.pop((status.st_dev, status.st_ino), None)
            os.close(self.file)
            self.file = None

    def release(self) -> None:
        """Give the lock back and remove its file."""
        self.let_go_of_file()
        if self._side is not None:
            if self._is_in_place(self._side):
                self._path.unlink(missing_ok=True)
            os.close(self._side)
            self._side = None


class _HeldError(Exception):
    """Somebody else holds the lock, for good or in passing."""

    def __init__(self, holder: str, passing: bool) -> None:
        super().__init__(holder)
        self.holder, self.passing = holder, passing


def is_held(logbook: Path) -> bool:
    """Whether some process has the logbook open to write."""
    file = logbook.resolve()
    try:
        side = os.open(file.with_name(file.name + ".lock"), os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError:
        return False
    try:
        fcntl.flock(side, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(side)
    return False
