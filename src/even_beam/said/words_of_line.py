"""A line cut into its words, and the places where nothing goes on."""

import re
from typing import NamedTuple


class Word(NamedTuple):
    """A word of a line, where it stands, and whether a separator parts it from the one before."""

    text: str
    start: int
    end: int
    parted: bool


_SEPARATOR = re.compile(r"[;\n·()]|,(?!\d)|(?<!\d),")
"""A comma within a number belongs to it: 1,600."""
_WORD = re.compile(r"\S+")
_JOINED = re.compile(r"(?<=[^\W\d])\+(?=[^\W\d])|\+")
"""What sits on a lamp is joined so, with blanks or without: dish+full CTO."""


def words_of(line: str) -> list[Word]:
    """The words of a line in order. `+` between names is one of its own."""
    found: list[Word] = []
    before = 0
    for gap in [*_SEPARATOR.finditer(line), None]:
        end = gap.start() if gap is not None else len(line)
        parted = bool(found)
        for piece in _WORD.finditer(line, before, end):
            for start, stop in _cut(piece[0]):
                found.append(Word(piece[0][start:stop], piece.start() + start, piece.start() + stop, parted))
                parted = False
        before = gap.end() if gap is not None else end
    return found


def _cut(piece: str) -> list[tuple[int, int]]:
    """A piece at its joining signs; signs of numbers and bounds stay where they are."""
    cuts: list[tuple[int, int]] = []
    before = 0
    for joint in _JOINED.finditer(piece):
        before_it, behind_it = piece[: joint.start()][-1:], piece[joint.end() :][:1]
        if before_it.isalpha() and (behind_it.isalnum() or behind_it in {"½", "¼", "⅛"}):
            cuts += [(before, joint.start()), joint.span()]
            before = joint.end()
    return [*cuts, (before, len(piece))]
