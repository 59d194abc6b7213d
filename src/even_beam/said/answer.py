"""What comes of a line: what was understood, part by part, and what it leaves open."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from even_beam.bench.exposure import Exposure
from even_beam.words.entry import Entry


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing that an open line could mean: the letter that says so, what it is called, and the line with it."""

    letter: str
    label: str
    text: str


@dataclass(frozen=True, slots=True)
class Part:
    """A stretch of the line, from `start` to before `end`, and what it was taken for: a figure of `quantity`, or a term
    where that is empty; `open` where the line asks."""

    start: int
    end: int
    words: str
    quantity: str = ""
    open: bool = False


@dataclass(frozen=True, slots=True)
class Said:
    """What was understood, and of which `lamp` by its id where one was named. With `choices` nothing is settled: the
    line asks `question`."""

    entries: tuple[Entry, ...] = ()
    terms: Mapping[str, object] = field(default_factory=dict)
    exposure: Exposure | None = None
    lamp: str = ""
    question: str = ""
    choices: tuple[Choice, ...] = ()
    parts: tuple[Part, ...] = ()

    @property
    def written(self) -> str:
        """What was understood, as a person would confirm it."""
        return self.question or " · ".join(part.words for part in self.parts)
