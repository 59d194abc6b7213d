"""What SQLite and the system refuse, said so that a person can act on it: damage is told from a disk that is full or
does not answer just now."""

import sqlite3
from pathlib import Path

from even_beam.logbook import rows
from even_beam.logbook.errors import LogbookError, NamesNothingError


def damaged(path: Path, cause: Exception) -> LogbookError:
    """A file that is none, or no longer one."""
    return LogbookError(
        f"{path.name} is damaged or not a logbook: {cause}.",
        "The file was left as it is.",
        "Make a copy of it before anything else, and open your last copy meanwhile.",
    )


def not_understood(path: Path, error: Exception) -> LogbookError:
    """A row that no program of ours wrote."""
    cause = str(error) if isinstance(error, rows.RowError) else repr(error)
    return LogbookError(
        f"{path.name} holds what cannot be understood: {cause}.",
        "The file was left as it is.",
        "“even-beam check” says all of it; work with your last copy of it.",
    )


def _is_damage(error: Exception) -> bool:
    """Whether the file itself is at fault, not the disk or the moment."""
    code = getattr(error, "sqlite_errorcode", 0) & 0xFF
    return code in {sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB} or "decode" in str(error) or "no such" in str(error)


_MOMENTS = {
    sqlite3.SQLITE_FULL: ("The disk is full.", "Free some space and try again."),
    sqlite3.SQLITE_CANTOPEN: (
        "A file that belongs beside it cannot be made or opened.",
        "Is its folder full, or read only? Copy the logbook, with what lies beside it, to a folder of your own.",
    ),
    sqlite3.SQLITE_IOERR: ("Its disk does not answer.", "Is it connected, and is there room on it? Try again."),
    sqlite3.SQLITE_BUSY: ("Another program has it in use.", "Close it there and try again."),
    sqlite3.SQLITE_READONLY: (
        "Another program left a change of it unfinished, or it cannot be written.",
        "Open it once from a folder that can be written.",
    ),
    sqlite3.SQLITE_INTERRUPT: ("It takes too long to be looked through.", "Is it a logbook? Check its name."),
}
"""What is no fault of the file, and what to do about it."""


def not_opened(path: Path, error: Exception) -> LogbookError:
    """A file that could not be opened: damaged, or not to be had just now."""
    if isinstance(error, sqlite3.Error):
        found = _MOMENTS.get(getattr(error, "sqlite_errorcode", 0) & 0xFF)
        if found is not None:
            return LogbookError(f"{path.name} cannot be opened just now. {found[0]}", "It was left as it is.", found[1])
    if isinstance(error, OSError):
        return LogbookError(
            f"{path.name} cannot be opened: {error.strerror}.",
            "It was left as it is.",
            "Check its disk and its rights.",
        )
    return damaged(path, error)


def not_read(path: Path, error: sqlite3.Error) -> LogbookError:
    """An open file that could not be read."""
    if _is_damage(error):
        return damaged(path, error)
    what, do = _MOMENTS.get(getattr(error, "sqlite_errorcode", 0) & 0xFF, (f"{error}.", "Is its disk still connected?"))
    return LogbookError(f"{path.name} cannot be read just now. {what}", "Nothing was changed.", do)


def not_kept(path: Path, error: sqlite3.Error) -> LogbookError:
    """An open file that could not be written."""
    if _is_damage(error):
        return damaged(path, error)
    cause = str(error)
    if getattr(error, "sqlite_errorcode", 0) & 0xFF in {sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN}:
        return LogbookError(
            f"This could not be kept: the disk of {path.name} does not answer.",
            "What was confirmed before is on that disk.",
            "Is it connected, and is there room on it? Do it again, or save a copy elsewhere.",
        )
    if "full" in cause:
        return LogbookError(
            "The disk is full: this could not be kept.",
            f"Everything confirmed before is safe in {path.name}.",
            "Free some space and do it again.",
        )
    if "readonly" in cause:
        return LogbookError(
            f"{path.name} cannot be written any more.",
            "Everything confirmed before is safe.",
            "Check the folder's rights.",
        )
    if "UNIQUE" in cause and "nickname" in cause:
        return LogbookError("That nickname is taken.", "Nothing was changed.", "Choose another one.")
    if "FOREIGN KEY" in cause:
        wrong = "something that it belongs to is not there"
        return NamesNothingError(f"This could not be kept: {wrong}.", "Nothing of it was kept.", "Ask for it anew.")
    if "UNIQUE" in cause:
        wrong = "something in it is there twice"
        return LogbookError(f"This could not be kept: {wrong}.", "Nothing of it was kept.", "Ask for it anew.")
    return LogbookError(
        f"This could not be kept: {cause}.", f"Everything confirmed before is safe in {path.name}.", "Try again."
    )
