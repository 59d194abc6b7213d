"""A line while it is typed: what each stretch of it was taken for, what it asks, or what is wrong with it."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from even_beam.desk.session.desk import SessionDesk
from even_beam.words import notation
from even_beam.words.entry import EntryError
from even_beam.words.quantities import QUANTITIES

if TYPE_CHECKING:
    from even_beam.said import Choice, Part, Said


@dataclass(frozen=True, slots=True)
class Mark:
    """A stretch of the line, from `start` to before `end`: a figure, a term, or what could be two things."""

    start: int
    end: int
    is_term: bool
    open: bool


@dataclass(frozen=True, slots=True)
class Chip:
    """What was understood, under its caption; lit where the line asks about it."""

    caption: str
    words: str
    quiet: bool = False
    lit: bool = False


@dataclass(frozen=True, slots=True)
class LineShown:
    """What stands below a line: chips, a question with its choices, or `words` alone."""

    words: str = ""
    chips: tuple[Chip, ...] = ()
    marks: tuple[Mark, ...] = ()
    title: str = ""
    choices: "tuple[Choice, ...]" = ()

    @property
    def heard(self) -> str:
        """The same for who does not see it."""
        asks = "; ".join(f"{choice.letter.upper()}: {choice.label}" for choice in self.choices)
        chips = ", ".join(chip.words for chip in self.chips)
        return notation.heard(". ".join(filter(None, (self.words, chips, self.title, asks))))


def line_shown(text: str, desk: SessionDesk) -> LineShown:
    """What a typed line means so far, what it asks, or what is wrong with it."""
    from even_beam.desk.session.situation import situation_of
    from even_beam.said import understand  # not before a line is typed

    if not text.strip():
        return LineShown()
    try:
        said = understand(text, situation_of(desk))
    except EntryError as error:
        return LineShown(notation.sentence(str(error)))
    marks = tuple(
        Mark(part.start, part.end, not part.quantity, part.open) for part in said.parts if part.end > part.start
    )
    return LineShown("", _chips(text, said), marks, _title(text, said), said.choices)


def _chips(text: str, said: "Said") -> tuple[Chip, ...]:
    """The terms as one, each figure by itself, and what is open last."""
    settled = [part for part in said.parts if not part.open]
    terms = " · ".join(part.words for part in settled if not part.quantity)
    found = [Chip("set to", terms, quiet=True)] if terms else []
    found += [Chip(QUANTITIES[p.quantity].kind.name.lower(), p.words) for p in settled if p.quantity]
    if said.choices:
        found.append(Chip(f"and {_open_text(text, said.parts)}?", " or ".join(c.label for c in said.choices), lit=True))
    return tuple(found)


def _title(text: str, said: "Said") -> str:
    return f"What is {_open_text(text, said.parts)}?" if said.choices else ""


def _open_text(text: str, parts: "tuple[Part, ...]") -> str:
    """The stretch that is asked about, as it was typed."""
    asked = [part for part in parts if part.open]
    return text[min(p.start for p in asked) : max(p.end for p in asked)] if asked else text.strip()
