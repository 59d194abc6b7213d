"""What a stretch of a line may mean, and what speaks against it."""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import NamedTuple

from even_beam.bench.limits import impossible_figure, impossible_term
from even_beam.bench.records import Terms
from even_beam.said.situation import Situation
from even_beam.words.entry import Entry
from even_beam.words.quantities import score_names

PLAIN = 1.0
"""What a part costs that says by itself what it is: fewer parts are better than more."""
STRANGE = 3.0
"""What each word costs that nothing knows, in a name that is new."""
REFUSED = 100.0
"""What a part costs that cannot be: it is taken only where nothing else covers its words."""


class Whole(NamedTuple):
    """What a whole line says: the terms with those it `states`, and the quantities that it has figures of."""

    here: Terms
    states: frozenset[str]
    read: frozenset[str]


@dataclass(frozen=True, slots=True)
class Meaning:
    """One thing that a stretch may mean: a figure, terms, what f-numbers stand for, or a lamp by its id.

    `text` says the same and nothing else wherever it stands, `words` are for a person to confirm, `letter` answers
    that it is meant. `settle` gives what it is once it is known what the whole line says, at no less than `least`.
    `refused` says why it cannot be.
    """

    text: str
    words: str = ""
    cost: float = PLAIN
    entry: Entry | None = None
    terms: Mapping[str, object] = field(default_factory=dict)
    camera: Mapping[str, float] = field(default_factory=dict)
    lamp: str = ""
    letter: str = ""
    refused: str = ""
    settle: "Callable[[Whole], Meaning | None] | None" = None
    least: float = 0.0

    @property
    def slots(self) -> tuple[tuple[str, object], ...]:
        """What it decides, each with its value: nothing is decided twice in a line."""
        figure = () if self.entry is None else ((f"read {self.entry.quantity}", self.entry.written),)
        lamp = (("lamp", self.lamp),) if self.lamp else ()
        return (*figure, *lamp, *self.terms.items(), *self.camera.items())


GROUPED = 1.5
"""What is added where the blanks of a number may part two numbers instead."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """Some words of a line that stand together, and the word behind them, empty where none follows."""

    words: str
    behind: str
    situation: Situation


_GROUPS = re.compile(r"(\d{1,3})(?: \d{3})+(?: .*)?")


def may_part(stretch: Stretch) -> bool:
    """Whether the first group of `95 600` could be a figure of its own: a score or a hue that is asked."""
    grouped, situation = _GROUPS.fullmatch(stretch.words), stretch.situation
    if grouped is None:
        return False
    first = float(grouped[1])
    is_score = 20.0 <= first <= 100.0 and any(name in situation.asked for name in score_names())
    return is_score or (first <= 360.0 and ("hue" in situation.asked or situation.terms.hue_deg is not None))


Proposer = Callable[[Stretch], Iterable[Meaning]]
"""Tells what a stretch may mean as a whole; nothing where it knows none of it."""


def figure(entry: Entry, text: str, **more: object) -> Meaning:
    """A figure, refused where it cannot be."""
    problem = impossible_figure(entry.quantity or "", entry.value, entry.low, entry.high)
    words = str(more.pop("words", entry.written))
    return _of(Meaning(text, words, entry=entry, **more), problem)  # type: ignore[arg-type]


def term(text: str, words: str, **terms: object) -> Meaning:
    """Terms, refused where one cannot be."""
    problem = next((found for name, value in terms.items() if (found := impossible_term(name, value))), None)
    return _of(Meaning(text, words, terms=terms), problem)


def refusal(text: str, why: str) -> Meaning:
    """A stretch whose meaning is plain and that cannot be."""
    return Meaning(text, text, REFUSED, refused=why)


def _of(meaning: Meaning, problem: str | None) -> Meaning:
    return meaning if problem is None else refusal(meaning.text, problem)
