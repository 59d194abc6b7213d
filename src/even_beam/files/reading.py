"""Reading a file of bearable size: never a pipe that is waited for without end, nor a device that never ends."""

import os
import stat
from pathlib import Path

from even_beam.errors import TellableError


class InputError(TellableError):
    """A file that cannot be read, or is none; the message says why."""


def read(path: Path, most: int) -> bytes:
    """The content of a file of at most `most` bytes. Raises `InputError`."""
    try:
        status = path.stat()
        if not stat.S_ISREG(status.st_mode):
            raise InputError(f"{path.name} is no file that can be read: a device, a pipe or a folder")
        if status.st_size > most:
            size = f"{status.st_size / 1e6:.0f} MB" if status.st_size > 1e6 else f"{status.st_size / 1e3:.0f} kB"
            may = f"{most // 2**20} MB" if most >= 2**20 else f"{most // 1000} kB"
            raise InputError(f"{path.name} is {size}; what is read has at most {may}. It was not read")
        return path.read_bytes()
    except (OSError, ValueError) as error:
        reason = error.strerror if isinstance(error, OSError) and error.strerror else str(error)
        raise InputError(f"{path.name} cannot be read: {reason}") from error


def read_text(path: Path, most: int) -> str:
    """The same as text in UTF-8. Raises `InputError`."""
    try:
        return read(path, most).decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError(f"{path.name} is no text in UTF-8") from error


def shown_name(path: Path) -> str:
    """The name of a file as a text: a name need not be one, where it was given in another alphabet's bytes."""
    return os.fsencode(path.name).decode("utf-8", "replace")


def shown_stem(path: Path) -> str:
    """The same without its suffix."""
    return os.fsencode(path.stem).decode("utf-8", "replace")
