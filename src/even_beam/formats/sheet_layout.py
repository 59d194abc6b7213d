"""How people lay a table out: a title above, units below the headings, terms over several columns, a lamp a column
instead of a row, footers. What comes out is one line of headings and rows, and what was left out of it.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace

from even_beam.formats import columns
from even_beam.formats.heading_words import FOOTERS, SAYS_NOTHING, without_accents


@dataclass(frozen=True, order=True, slots=True)
class Place:
    """Where a row stands in its file: its sheet, empty where the file has one, and its line there, or its column where
    the lamps stand beside each other."""

    sheet: str
    number: int
    along: str = "line"

    def __str__(self) -> str:
        """The place in words."""
        return f"{self.along} {self.number}{f' of sheet {self.sheet}' if self.sheet else ''}"


Row = tuple[Place, tuple[str, ...]]
"""Where a row stands, and its cells."""


@dataclass(frozen=True, slots=True)
class LeftOut:
    """What of a table does not come in: where it is, what stands there, and why."""

    where: Place
    text: str
    why: str

    @property
    def words(self) -> str:
        """Where and why."""
        return f"{self.where}: “{self.text}” {self.why}"


@dataclass(frozen=True, slots=True)
class Layout:
    """The headings, each once, and the rows."""

    headings: tuple[str, ...]
    rows: tuple[Row, ...]
    left_out: tuple[LeftOut, ...] = ()


HEADER_ROWS = 20
"""Within so many lines the columns are named."""


def laid_out(rows: Sequence[Row]) -> Layout:
    """The table in some lines of cells; `Layout` without headings where there is none."""
    if (turned := _turned(rows)) is not None:
        return turned
    head, headings = header([cells for _, cells in rows[:HEADER_ROWS]])
    return _without_sums(headings, rows[head:])


def _without_sums(headings: Sequence[str], rows: Sequence[Row]) -> Layout:
    """Headings and rows, without the rows that say nothing and those that sum up others."""
    kept: list[Row] = []
    left_out: list[LeftOut] = []
    for where, cells in rows:
        said = tuple("" if cell.casefold() in SAYS_NOTHING else cell for cell in cells)
        if not any(said):
            continue
        if is_footer(said):
            left_out.append(LeftOut(where, " · ".join(filter(None, said)), "sums up the others"))
        else:
            kept.append((where, said))
    return Layout(_each_once(headings), tuple(kept), tuple(left_out))


def is_footer(cells: Sequence[str]) -> bool:
    """Whether a row sums up others, by the first thing it says."""
    first = next((cell for cell in cells if cell), "").strip(" :.=").casefold()
    return without_accents(first) in FOOTERS or first in {"ø", "σ", "∑"}


def header(first: Sequence[Sequence[str]]) -> tuple[int, tuple[str, ...]]:
    """How many lines the head takes, and the names of the columns: a title may stand above, terms over several columns,
    units below them."""
    if not first:
        return 1, ()
    known = [sum(_is_known(cell) for cell in set(row)) for row in first]
    place = known.index(max(known)) if max(known) > 1 else 0
    headings = tuple(first[place])
    if place:
        headings = _with_terms_above(first[place - 1], headings)
    below = first[place + 1] if place + 1 < len(first) else ()
    if any(below) and all(not cell or columns.is_unit(cell) for cell in below):
        pairs = itertools.zip_longest(headings, below[: len(headings)], fillvalue="")
        return place + 2, tuple(f"{name} ({unit.strip('()[] ')})" if unit else name for name, unit in pairs)
    return place + 1, headings


def _with_terms_above(above: Sequence[str], headings: Sequence[str]) -> tuple[str, ...]:
    """Headings with the terms that stand over them, each as far as the next: `2 m` over lux and CCT."""
    if not any(columns.terms_in(cell)[0] for cell in above):
        return tuple(headings)
    found, over = [], ""
    for name, cell in itertools.zip_longest(headings, above[: len(headings)], fillvalue=""):
        over = cell if cell else over
        terms, rest = columns.terms_in(over)
        found.append(f"{name} @ {over}" if name and terms and not rest else name)
    return tuple(found)


def _each_once(headings: Sequence[str]) -> tuple[str, ...]:
    """Headings that stand twice are told apart by their number."""
    found: list[str] = []
    for name in headings:
        again = sum(other == name or other.startswith(f"{name} ·") for other in found) if name else 0
        found.append(f"{name} ·{again + 1}" if again else name)
    return tuple(found)


def _turned(rows: Sequence[Row]) -> Layout | None:
    """A table with a lamp a column, as one with a lamp a row; None for one that is no such table."""
    filled = [(where, cells) for where, cells in rows if any(cells)]
    if len(filled) < 3:
        return None
    start, head = next(((i, cells) for i, (_, cells) in enumerate(filled) if sum(map(bool, cells)) > 1), (0, ()))
    body = filled[start + 1 :]
    names = [cells[0] for _, cells in body if cells and cells[0]]
    told = sum(_is_known(name) for name in names)
    across = sum(_is_known(name) for name in head[1:])
    if told < 2 or 2 * told < len(names) or across or any(columns.is_unit(name) for name in head[1:] if name):
        return None
    wide = len(head)
    labels = [head[0] if _is_known(head[0]) else "lamp", *(cells[0] if cells else "" for _, cells in body)]
    turned = [
        (
            replace(filled[0][0], number=place + 1, along="column"),
            (head[place], *(cells[place] if place < len(cells) else "" for _, cells in body)),
        )
        for place in range(1, wide)
        if head[place]
    ]
    return _without_sums(labels, turned)


def _is_known(text: str) -> bool:
    return bool(text) and next(iter(columns.guess([text]).values())) != columns.IGNORED
