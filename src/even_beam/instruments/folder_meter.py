"""Any meter whose program writes a file a reading: each new file of a folder is one."""

import hashlib
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

from even_beam.bench.records import Spectrum
from even_beam.files.reading import InputError
from even_beam.formats import read_spectra
from even_beam.formats.errors import FormatError
from even_beam.instruments.protocols import BrokenOffError, InstrumentError, MeterReading, Settings

TIMEOUT_S = 60.0
LOOK_EVERY_S = 0.2
WHOLE_AFTER_S = 0.4
"""A file that stood unchanged for so long is whole, unless it cannot be read yet."""

_UNFINISHED = (".tmp", ".part", ".crdownload", ".swp")


class FolderMeter:
    """`address` is the folder; `timeout_s` how long to wait for a file. The folder is looked through, which network
    folders allow as well; the system's own word that something changed only makes it quicker."""

    quantities: tuple[str, ...] = ("illuminance",)
    has_spectrum = True
    reads_at_once = False

    def __init__(self, name: str, address: str, settings: Settings, folder: Path) -> None:
        self.name = name
        self._folder = (folder / address).expanduser()
        self._timeout = float(settings.get("timeout_s", TIMEOUT_S))
        self._seen: set[str] = set()
        self._connected = False

    def connect(self) -> str:
        """Look at what lies there already: that is of no step."""
        if not self._folder.is_dir():
            raise InstrumentError(f"{self.name}: there is no folder {self._folder}")
        if not self._connected:
            self._seen |= {self._mark(path) for path in self._files()}
            self._connected = True
        return f"files in {self._folder}"

    def _files(self) -> list[Path]:
        try:
            found = [p for p in self._folder.iterdir() if p.is_file() and not p.name.startswith((".", "~"))]
            return sorted(
                (p for p in found if p.suffix.lower() not in _UNFINISHED), key=lambda p: (p.stat().st_mtime_ns, p.name)
            )
        except OSError as error:
            raise BrokenOffError(f"{self.name}: {self._folder} cannot be looked through: {error.strerror}") from error

    def _mark(self, path: Path) -> str:
        """What a file is known by: the same content under another name is the same reading."""
        try:
            return hashlib.sha256(path.read_bytes()).hexdigest()
        except OSError:
            return f"gone {path.name}"

    def zero(self) -> None:
        """Nobody can tell it to."""

    def read(self) -> MeterReading:
        """Wait for the next new file, whole and readable; what lay there before is of no step, and of several at once
        the first counts."""
        from watchfiles import watch

        self.connect()
        self._seen |= {self._mark(path) for path in self._files()}
        until = time.monotonic() + self._timeout
        told = watch(
            self._folder, debounce=50, step=50, rust_timeout=round(1000.0 * LOOK_EVERY_S), yield_on_timeout=True,
            recursive=False, raise_interrupt=False,
        )  # fmt: skip
        with closing(told):
            return self._awaited(told, until)

    def _awaited(self, told: Iterator[object], until: float) -> MeterReading:
        problem = ""
        since: dict[tuple[Path, int], float] = {}
        while (now := time.monotonic()) < until:
            for path in self._files():
                mark = self._mark(path)
                if mark in self._seen or now - since.setdefault((path, _size(path)), now) < WHOLE_AFTER_S:
                    continue
                try:
                    named = read_spectra(path)[0]
                except (FormatError, InputError, ValueError, IndexError, OSError) as error:  # cut off, or another kind
                    problem = f" {path.name} cannot be read: {error}"
                    continue
                self._seen.add(mark)
                return MeterReading({}, Spectrum(named.wavelength_nm, named.values, named.absolute))
            next(told, None)
        raise BrokenOffError(f"{self.name}: no new file in {self._folder} within {self._timeout:g} s.{problem}")

    def close(self) -> None:
        """Nothing is held."""


def _size(path: Path) -> int:
    """Its size; a file that grows is still written."""
    try:
        return path.stat().st_size
    except OSError:
        return -1
