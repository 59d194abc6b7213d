"""What stands in the Kit beside the lamps, shelf by shelf: each thing a line in a list and a page of its own."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path
from typing import Protocol

from even_beam.figures.chart import Chart
from even_beam.figures.patches import PatchPair


@dataclass(frozen=True, slots=True)
class Thing:
    """A thing in the list: what it is called, what it is, and the one thing worth knowing of it today.

    `presses` where that should not wait; `faint` what is out of use. `search` are further words that find it.
    """

    key: str
    name: str
    line: str = ""
    worth: str = ""
    presses: bool = False
    faint: bool = False
    search: str = ""

    def found_by(self, words: str) -> bool:
        """Whether all words are in what is known of it."""
        known = f"{self.name} {self.line} {self.worth} {self.search}".casefold()
        return all(word in known for word in words.casefold().split())


@dataclass(frozen=True, slots=True)
class Part:
    """Rows of a page under a title; `empty` says why there are none. A row without a name is a sentence.

    `patches` are what each row looks like, as it should be and as it is; empty, or one a row.
    """

    title: str
    rows: tuple[tuple[str, str], ...] = ()
    empty: str = ""
    patches: tuple[PatchPair, ...] = ()


@dataclass(frozen=True, eq=False, slots=True)
class ThingPage:
    """All that the Kit tells of a thing at once; what its readings say is found afterwards (`Shelf.record`)."""

    name: str
    line: str
    parts: tuple[Part, ...] = ()
    chart: Chart | None = None


@dataclass(frozen=True, eq=False, slots=True)
class Found:
    """What readings say of a thing, and its chart as it was measured."""

    parts: tuple[Part, ...]
    chart: Chart | None = None


Record = Callable[[Path], Found]
"""Finds it in a logbook that is open elsewhere. For a worker; raises `LogbookError`."""


class ShelfName(StrEnum):
    """The shelves of the Kit, in the order in which they are asked for."""

    LAMPS = "Lamps"
    MODIFIERS = "Modifiers and gels"
    SUBJECTS = "Subjects"
    METERS = "Meters"
    LIMITS = "Limits"


class Shelf(Protocol):
    """One kind of things. What is refused raises `FormError`; every change can be undone in the Kit."""

    one: str
    """What one of them is called."""
    usual: str
    """What is usually said of one, as people say it."""
    files: str
    """The files that it reads things from, as a filter for a dialog; empty where it reads none."""
    from_files_alone: bool
    """Whether a thing is always made of a file."""
    empty: str
    """What is said where nothing stands on it."""

    def things(self) -> list[Thing]:
        """Every thing, by name."""

    def page(self, key: str) -> ThingPage | None:
        """The page of a thing; None where there is none of that key."""

    def record(self, key: str) -> Record | None:
        """What readings say of it; None where they say nothing."""

    def understood(self, text: str, key: str | None) -> str:
        """What a line would change of a thing, or of a new one, in words."""

    def say(self, text: str, key: str | None) -> tuple[str, str]:
        """Change a thing, or make a new one: its key, and a message."""

    def remove(self, key: str) -> str:
        """Take a thing off the shelf, or put it back as it came: a message."""

    def take(self, path: Path) -> tuple[str, str]:
        """Read things from a file: the key of the first, and a message."""

    def write(self, path: Path) -> str:
        """Write the things into a file that `take` reads: a message."""
