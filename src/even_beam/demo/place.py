"""Where the demo logbook stands: in the cache folder, or where that cannot be written in a folder of its own that goes
with the program."""

import sqlite3
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from tempfile import TemporaryDirectory

import even_beam
from even_beam.errors import TellableError
from even_beam.shell import places
from even_beam.shell.apart import EndedError


class NoDemoError(TellableError):
    """The demo could be built nowhere; the message says why and what to do."""


class DemoPlace:
    """The demo of this version, built when it is first asked for; what could not be kept goes at the end of the
    context."""

    def __init__(self) -> None:
        self._folder = places.cache_folder()
        self._passing: TemporaryDirectory[str] | None = None

    def __enter__(self) -> "DemoPlace":
        return self

    def __exit__(self, *_: object) -> None:
        if self._passing is not None:
            self._passing.cleanup()

    @property
    def is_passing(self) -> bool:
        """Whether what is done in it goes when the program ends."""
        return self._passing is not None

    @property
    def is_built(self) -> bool:
        """Whether it is there already."""
        return self._path().exists()

    def path(self) -> Path:
        """The demo, built if it is not there. Raises `NoDemoError`."""
        return self._path() if self.is_built else self.build()

    def build(self, make: Callable[[Path], None] | None = None) -> Path:
        """The demo built anew, by `make` where that is done elsewhere. Raises `NoDemoError`."""
        from even_beam.demo import scenario  # not at start-up
        from even_beam.logbook import LogbookError

        make = make or scenario.build
        try:
            self._clear_what_was_left()
            try:
                make(self._path())
            except (OSError, LogbookError):
                self._passing = self._passing or TemporaryDirectory(prefix="even-beam-demo-")
                self._folder = Path(self._passing.name)
                make(self._path())
        except (OSError, LogbookError, sqlite3.Error, EndedError) as error:
            raise NoDemoError(
                f"The demo could not be built ({error}). No logbook was touched. Make room in the folder for temporary"
                " files, or open a logbook of your own."
            ) from error
        return self._path()

    def _clear_what_was_left(self) -> None:
        """What a process that was killed while it built one left behind: nobody takes an hour for it."""
        if not self._folder.is_dir():
            return
        for left in self._folder.glob(".even-beam-*"):
            with suppress(OSError):
                if left.stat().st_mtime < time.time() - 3600.0:
                    left.unlink()

    def _path(self) -> Path:
        return self._folder / f"demo-{even_beam.__version__}.evenbeam"
