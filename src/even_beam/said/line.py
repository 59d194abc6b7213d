"""What a line is typed into, what has been understood of it so far, and what comes of it."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from even_beam.bench.exposure import Exposure
from even_beam.bench.limits import impossible_term
from even_beam.bench.records import Terms
from even_beam.words.entry import Entry, EntryError


@dataclass(frozen=True, slots=True)
class Situation:
    """What a line is typed into.

    `asked` are the quantities that the next reading answers, in order; `firm` where a run asks for them. `expected`
    is the level that would fit, in lx. `whites`, `zooms` and `fitted` are those of the logbook, `cri` the quantity that
    CRI stands for once that was said ("ra" or "re"), `exposure` what f-numbers stand for.
    """

    asked: tuple[str, ...]
    terms: Terms = field(default_factory=Terms)
    firm: bool = False
    expected: tuple[float, float] | None = None
    whites: frozenset[float] = frozenset()
    zooms: frozenset[str] = frozenset()
    fitted: tuple[str, ...] = ()
    cri: str = ""
    exposure: Exposure | None = None


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing that an open line could mean: the letter that says so, what it is called, and the line with it."""

    letter: str
    label: str
    text: str


@dataclass(frozen=True, slots=True)
class Said:
    """What was understood. With `choices` nothing is settled: the line asks `question`."""

    entries: tuple[Entry, ...] = ()
    terms: Mapping[str, object] = field(default_factory=dict)
    exposure: Exposure | None = None
    question: str = ""
    choices: tuple[Choice, ...] = ()
    words: tuple[str, ...] = ()

    @property
    def written(self) -> str:
        """What was understood, as a person would confirm it."""
        return self.question or " · ".join(self.words)


class AskedError(Exception):
    """A piece that could be several things, each by the piece that would say it."""

    def __init__(self, choices: Sequence[Choice]) -> None:
        self.question = " · ".join(f"{choice.letter.upper()}: {choice.label}" for choice in choices) + " ?"
        self.choices = tuple(choices)
        super().__init__(self.question)


class RefusedError(EntryError):
    """A piece whose meaning is plain and that cannot be: no shorter piece of it means anything else."""


@dataclass(slots=True)
class Line:
    """What has been understood of a line so far."""

    situation: Situation
    bare: int
    entries: list[Entry] = field(default_factory=list)
    terms: dict[str, object] = field(default_factory=dict)
    words: list[str] = field(default_factory=list)
    iso: float | None = None
    shutter_s: float | None = None
    constant: float | None = None

    @property
    def open(self) -> list[str]:
        """What was asked and is not answered yet."""
        answered = {entry.quantity for entry in self.entries}
        return [name for name in self.situation.asked if name not in answered]

    @property
    def here(self) -> Terms:
        """The terms with what the line says of them."""
        return replace(self.situation.terms, **self.terms)  # type: ignore[arg-type]

    def add(self, entry: Entry) -> None:
        """Take a figure. Raises `EntryError` for a second of its quantity."""
        if any(other.quantity == entry.quantity for other in self.entries):
            raise EntryError(f"two figures of the same quantity: “{entry.written}” beside the one before")
        self.entries.append(entry)
        self.words.append(entry.written)

    def set(self, name: str, value: object, words: str) -> None:
        """Take a term, said in `words`. Raises `EntryError` for an impossible one, and for a second of its kind."""
        if (problem := impossible_term(name, value)) is not None:
            raise EntryError(problem)
        if name in self.terms and self.terms[name] != value:
            raise EntryError(f"“{words}” stands beside another: say which of the two it is")
        self.terms[name] = value
        self.words.append(words)


_BARE = re.compile(r"[+-]?(?:\d{1,3}(?:[ \u2009\u202f'’]\d{3})+|\d[\d,']*)(?:\.\d+)?")


def is_bare(piece: str) -> bool:
    """Whether a piece is a number and nothing else."""
    return _BARE.fullmatch(piece.strip().replace("−", "-")) is not None


Taker = Callable[[str, Line], bool]
"""Understands a piece into the line, or leaves it to the next. Raises `EntryError`, or `AskedError`."""
