"""A report as plain data: chapters of sections, each of sentences, tables and charts, and the readings behind them."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from even_beam.figures.chart import Chart
from even_beam.figures.patches import PatchSet
from even_beam.figures.strip import Strip


@dataclass(frozen=True, slots=True)
class Cell:
    """A cell of a table; `marked` for what is wrong, `strong` for the best of a column, `quiet` for mere context."""

    text: str
    marked: bool = False
    quiet: bool = False
    strong: bool = False


@dataclass(frozen=True, slots=True)
class Table:
    """Columns by their headings, rows of cells, and the ids of the readings behind each row, where they are told;
    one of words is `set_left`, in another figures stand to the right."""

    columns: tuple[str, ...]
    rows: tuple[tuple[Cell, ...], ...]
    readings: tuple[tuple[str, ...], ...] = ()
    note: str = ""
    set_left: bool = False


@dataclass(frozen=True, slots=True)
class Said:
    """A sentence with the ids of the readings it rests on; `heading` says in a word what it speaks of."""

    text: str
    readings: tuple[str, ...] = ()
    heading: str = ""
    marked: bool = False


@dataclass(frozen=True, slots=True)
class Number:
    """One large figure: what it is, its value and unit, and in a line or two what follows from it."""

    label: str
    value: str
    unit: str = ""
    lines: tuple[str, ...] = ()


class Setting(StrEnum):
    """How a section is set: its sentences one below the other, in one paragraph, framed as an opinion, in the large
    type of an answer, as the terms that all else holds for, or small at the foot."""

    LINES = "lines"
    RUNNING = "running"
    OPINION = "opinion"
    ANSWER = "answer"
    TERMS = "terms"
    FOOT = "foot"


@dataclass(frozen=True, slots=True)
class Section:
    """A part of a report; `own` is what the author adds in a sentence. Two `narrow` ones that follow each other stand
    side by side."""

    key: str
    title: str
    said: tuple[Said, ...] = ()
    tables: tuple[Table, ...] = ()
    charts: tuple[Chart | Strip | PatchSet, ...] = ()
    numbers: tuple[Number, ...] = ()
    setting: Setting = Setting.LINES
    narrow: bool = False
    own: str = ""

    @property
    def empty(self) -> bool:
        """Whether there is nothing in it."""
        return not (self.said or self.tables or self.charts or self.numbers or self.own)


@dataclass(frozen=True, slots=True)
class Chapter:
    """Sections under one heading, as those of one lamp; `fresh_page` begins one."""

    title: str
    sections: tuple[Section, ...]
    line: str = ""
    fresh_page: bool = False


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One reading of the appendix: its number in the report, its terms and figures, and how it stands."""

    id: str
    number: int
    at: datetime
    lamp: str
    terms: str
    figures: str
    meter: str
    state: str = ""
    counts: bool = True


@dataclass(frozen=True, slots=True)
class Document:
    """A whole report. `alerts` stand at the very top: what is simulated. A `dense` one is set smaller."""

    title: str
    line: str
    chapters: tuple[Chapter, ...]
    question: str = ""
    decision: str = ""
    alerts: tuple[str, ...] = ()
    footnotes: tuple[str, ...] = ()
    readings: tuple[ReadingLine, ...] = ()
    dense: bool = False
    paper: str = "A4"
    version: str = ""

    @property
    def contents(self) -> tuple[str, ...]:
        """The chapters by their titles, where they begin pages of their own."""
        titles = tuple(chapter.title for chapter in self.chapters if chapter.title)
        return titles if any(chapter.fresh_page for chapter in self.chapters) else ()

    @property
    def numbers(self) -> Mapping[str, int]:
        """The number of each reading of the appendix by its id."""
        return {line.id: line.number for line in self.readings}


@dataclass(frozen=True, slots=True)
class Span:
    """Readings that follow each other in the appendix, as a figure refers to them."""

    first: int
    last: int

    @property
    def words(self) -> str:
        """As it is printed: 4, or 4–9."""
        return str(self.first) if self.first == self.last else f"{self.first}–{self.last}"


def spans(numbers: Mapping[str, int], readings: tuple[str, ...]) -> list[Span]:
    """The readings of a figure as spans of their numbers; those that the appendix does not hold are left out."""
    found: list[Span] = []
    for number in sorted({numbers[i] for i in readings if i in numbers}):
        if found and found[-1].last == number - 1:
            found[-1] = Span(found[-1].first, number)
        else:
            found.append(Span(number, number))
    return found
