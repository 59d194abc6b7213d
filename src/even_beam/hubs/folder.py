"""A folder as a hub: a share, a synchronised folder, a stick. Files are only ever added.

Each file is a part, named by its content and its size and given its name when it is whole; so two benches that write at
once, a folder that is half synchronised, and copies that a synchronising program makes of its own do no harm.
"""

import os
import re
import tempfile
from collections.abc import Collection, Sequence
from pathlib import Path

from even_beam.files.writing import sync_folder
from even_beam.hubs.hub import Fetched, HubError, News, UnreachableError
from even_beam.logbook import parts
from even_beam.logbook.errors import LogbookError

SUFFIX, AGAIN = ".part", ".again"
SIGN = "even-beam-hub.txt"
WORDS = """This folder is a hub of Even Beam: benches share their records in it.
Files are only ever added. Each *.part is a gzipped SQLite database of the tables in docs/file-format.md, named by the
SHA-256 of its content and its size in bytes. Do not rename, change or remove them: what is gone is sent again by
whoever has it. *.again names a part that was found broken, and that came again under another name.
"""
_NAME = re.compile(r"([0-9a-f]{64}-(\d+))\.part")


class FolderHub:
    """A folder. Raises `UnreachableError` where it is not there, or is no hub any more."""

    def __init__(self, folder: Path, *, is_known: bool) -> None:
        self._folder = folder
        sign = folder / SIGN
        try:
            if sign.exists():
                return
            if is_known:
                raise UnreachableError(f"{folder} is not there. Is its disk connected?")
            if not folder.parent.is_dir():
                raise UnreachableError(f"{folder.parent} is not there. Is its disk connected?")
            if folder.exists() and not folder.is_dir():
                raise HubError(f"{folder} is no folder.")
            if folder.is_dir() and any(folder.iterdir()) and not any(folder.glob(f"*{SUFFIX}")):
                raise HubError(f"{folder} has other files in it: name an empty folder, or a new one.")
            folder.mkdir(exist_ok=True)
            self._place(WORDS.encode("utf-8"), sign)
        except OSError as error:
            raise UnreachableError(f"{folder} cannot be used: {error.strerror}.") from error

    def news(self, known: Collection[str], taken: str) -> News:
        """The parts that are not known; it went back where a known one is gone, or no longer whole."""
        whole, broken, given_up = set[str](), set[str](), set[str]()
        try:
            for file in self._folder.iterdir():
                if found := _NAME.fullmatch(file.name):
                    (whole if file.stat().st_size == int(found[2]) else broken).add(found[1])
                elif file.suffix == AGAIN:
                    given_up.add(file.stem)
            gone = set(known) - whole
            for name in gone & broken - given_up:
                self._place(b"", self._folder / f"{name}{AGAIN}")
        except OSError as error:
            raise UnreachableError(f"{self._folder} cannot be read: {error.strerror}.") from error
        return News(sorted((whole | broken) - given_up - set(known)), "", bool(gone))

    def fetch(self, names: Sequence[str], folder: Path) -> Fetched:
        """Unpack parts; one whose content is not what its name says is not whole yet."""
        whole: list[tuple[Path, Sequence[str]]] = []
        left: list[str] = []
        strange: list[str] = []
        understood = True
        for name in names:
            file = self._folder / f"{name}{SUFFIX}"
            try:
                if _named(file) != name:
                    left.append(f"{file.name[:12]}… is not whole yet")
                    continue
                target = folder / f"{name}.evenbeam"
                understood &= not parts.is_newer(parts.unpack(file, target))
                whole.append((target, [name]))
            except FileNotFoundError:
                continue
            except OSError as error:
                raise UnreachableError(f"{file} cannot be read: {error.strerror}.") from error
            except LogbookError:
                strange.append(name)
        return Fetched(whole, left, strange, understood)

    def add(self, part: Path) -> str:
        """Pack a part and give it its name, where nothing has it yet."""
        with tempfile.TemporaryDirectory(prefix="even-beam-") as own:
            ready = Path(own) / "packed"
            try:
                parts.pack(part, ready)
                name = _named(ready)
                target = self._folder / f"{name}{SUFFIX}"
                if not target.exists():
                    self._place(ready.read_bytes(), target)
            except OSError as error:
                raise UnreachableError(f"{self._folder} cannot be written: {error.strerror}.") from error
        return name

    def close(self) -> None:
        """Nothing is held."""

    def _place(self, content: bytes, target: Path) -> None:
        """A file that is whole or not there; what is left of a broken one begins with a dot."""
        descriptor, name = tempfile.mkstemp(prefix=".coming-", dir=self._folder)
        coming = Path(name)
        try:
            with os.fdopen(descriptor, "wb") as file:
                file.write(content)
                file.flush()
                os.fsync(file.fileno())
            coming.chmod(0o644)
            coming.replace(target)
            sync_folder(self._folder)
        except BaseException:
            coming.unlink(missing_ok=True)
            raise


def _named(file: Path) -> str:
    """The name of a packed part. Raises `OSError`."""
    return f"{parts.digest_of(file)}-{file.stat().st_size}"
