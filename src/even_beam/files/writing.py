"""The one way to write a file: whole or not at all, on the disk when it is said to be written, over nothing of another
kind.

It is built under a random name beside its place, which nobody can have laid there, and moved there at the end.
"""

import os
import secrets
import stat
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from even_beam.files.errors import OutputError

_UNHARMED = "Nothing was changed."
_HEAD_BYTES = 4096
_DATABASE = "database"
_KINDS = (
    (b"%PDF", "PDF"),
    (b"\x89PNG", "PNG picture"),
    (b"PK\x03\x04", "workbook or archive"),
    (b"SQLite format 3", _DATABASE),
    (b"\xff\xd8\xff", "JPEG picture"),
    (b"II*\x00", "TIFF picture"),
    (b"MM\x00*", "TIFF picture"),
)
"""How files of some kinds begin; all else is told apart by its first line."""


def temporary_beside(path: Path) -> Path:
    """A name beside a file that nobody has, short enough for every file system."""
    return path.with_name(f".even-beam-{secrets.token_hex(8)}.part")


def with_suffix(path: Path, *suffixes: str) -> Path:
    """The path, which ends in one of some suffixes; one that has none gets the first. Raises `OutputError`."""
    if path.suffix.lower() in suffixes:
        return path
    if path.suffix:
        raise OutputError(
            f"“{path.name}” does not end in {' or '.join(suffixes)}. {_UNHARMED} Choose a name that does."
        )
    return path.with_name(path.name + suffixes[0])


def write(
    path: Path, data: bytes, *, over_others: bool = False, inputs: Iterable[Path] = (), durable: bool = True
) -> None:
    """Write a file. What stands there is replaced where it is of the same kind, or whatever it is with `over_others`,
    but never a logbook, nor one of `inputs`. What is a mere convenience need not be `durable`: no disk is waited for.

    Raises `OutputError`; then all is as it was.
    """
    refuse(path, data, over_others=over_others, inputs=inputs)
    with said(path):
        temporary = temporary_beside(path)
        try:
            with os.fdopen(_made(temporary), "wb") as file:
                file.write(data)
                if durable:
                    file.flush()
                    os.fsync(file.fileno())
            temporary.replace(path)
        except BaseException:
            with suppress(OSError):
                temporary.unlink(missing_ok=True)
            raise
        if durable:
            sync_folder(path.parent)


def _made(path: Path) -> int:
    """A new file of its own, through no link, with the rights that others get."""
    return os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC, 0o666)


@contextmanager
def said(path: Path) -> Iterator[None]:
    """What the system refuses is said. Raises `OutputError`."""
    try:
        yield
    except (OSError, ValueError) as error:  # a name with a NUL in it is a ValueError
        reason = error.strerror if isinstance(error, OSError) and error.strerror else str(error)
        raise OutputError(
            f"{path.name} could not be written: {reason}. {_UNHARMED} Make room, or choose another place."
        ) from error


def refuse(path: Path, data: bytes = b"", *, over_others: bool = False, inputs: Iterable[Path] = ()) -> None:
    """Raise `OutputError` where something stands that such data must not replace."""
    try:
        found = path.stat()
    except FileNotFoundError:
        return
    except (OSError, ValueError) as error:
        raise OutputError(f"{path.name} cannot be written: {error}. {_UNHARMED} Choose another place.") from error
    if not stat.S_ISREG(found.st_mode):
        raise OutputError(f"{path.name} is no file, but a folder, pipe or device. {_UNHARMED} Choose another name.")
    for given in inputs:
        with suppress(OSError):
            if given.samefile(path):
                raise OutputError(f"{path.name} is what this is made from. {_UNHARMED} Choose another name.")
    if found.st_size == 0:
        return
    with said(path), path.open("rb") as file:
        there = kind_of(file.read(_HEAD_BYTES))
    if there == _DATABASE:
        raise OutputError(f"{path.name} is a logbook or another database. {_UNHARMED} Choose another name.")
    if not over_others and there != kind_of(data[:_HEAD_BYTES]):
        raise OutputError(
            f"{path.name} is there already and of another kind ({there or 'not known'}). It was left as it is."
            " Choose another name, or say --force to replace it."
        )


def kind_of(head: bytes) -> str:
    """What kind of file begins so: a word for those that are known, else its first line."""
    for signature, kind in _KINDS:
        if head.startswith(signature):
            return kind
    return head.lstrip(b"\xef\xbb\xbf \t\r\n").split(b"\n", 1)[0].strip()[:80].decode("utf-8", "replace").casefold()


def sync_folder(folder: Path) -> None:
    """Have the names in a folder on the disk; some file systems cannot, and need not."""
    with suppress(OSError):
        opened = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(opened)
        finally:
            os.close(opened)
