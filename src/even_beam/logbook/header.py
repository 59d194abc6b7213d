"""What a file says of itself in its first hundred bytes, read before SQLite touches it."""

import os
from enum import Enum
from pathlib import Path

from even_beam.logbook.errors import LogbookError
from even_beam.logbook.lock import descriptor_of
from even_beam.logbook.schema import APPLICATION_ID, SCHEMA_VERSION

_MAGIC = b"SQLite format 3\x00"
_HEADER_BYTES = 100


class FileKind(Enum):
    """What a file turned out to be."""

    MISSING = "missing"
    CURRENT = "current"
    OLDER = "older"


def _head_of(path: Path) -> bytes:
    held = descriptor_of(path)
    if held is not None:
        return os.pread(held, _HEADER_BYTES, 0)
    with path.open("rb") as file:
        return file.read(_HEADER_BYTES)


def inspect_header(path: Path) -> FileKind:
    """Whether the file is a logbook of this or an older version. Reads only; raises `LogbookError` for all else."""
    untouched = "The file was left as it is."
    if path.is_symlink() and not path.exists():
        raise LogbookError(
            f"{path.name} points to {path.readlink()}, which is not there.", untouched, "Is its disk connected?"
        )
    try:
        there = path.exists()
    except (OSError, ValueError) as error:  # too long, or with a NUL in it
        raise LogbookError(f"That name cannot be one of a file: {error}.", untouched, "Choose another.") from error
    if not there:
        return FileKind.MISSING
    if path.is_dir():
        raise LogbookError(f"{path.name} is a folder, not a logbook.", untouched, "Choose a file ending in .evenbeam.")
    if not path.is_file():  # a pipe would be waited for without end
        raise LogbookError(f"{path.name} is no file to be read.", untouched, "Choose a file ending in .evenbeam.")
    try:
        header = _head_of(path)
    except OSError as error:
        raise LogbookError(
            f"{path.name} cannot be read: {error.strerror}.", untouched, "Check the rights of the file."
        ) from error
    if len(header) < _HEADER_BYTES or not header.startswith(_MAGIC):
        raise LogbookError(
            f"{path.name} is not an Even Beam logbook.",
            untouched,
            "Choose a file ending in .evenbeam, or start a new one.",
        )
    application_id = int.from_bytes(header[68:72], "big")
    version = int.from_bytes(header[60:64], "big")
    if application_id != APPLICATION_ID:
        raise LogbookError(
            f"{path.name} is a database of another program.", untouched, "Choose a file ending in .evenbeam."
        )
    if version > SCHEMA_VERSION:
        raise LogbookError(
            f"{path.name} was written by a newer Even Beam (format {version}; this one knows {SCHEMA_VERSION}).",
            untouched,
            "Install the newer version to open it.",
        )
    return FileKind.CURRENT if version == SCHEMA_VERSION else FileKind.OLDER
