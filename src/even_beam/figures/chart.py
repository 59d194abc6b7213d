"""A chart as data: axes and a few kinds of mark, the same for screen, print and copy."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import Enum
from typing import TypeVar

Number = float
T = TypeVar("T")

Places = Mapping[str, int]
"""The series number of each lamp by its name; one that has none is drawn in grey, behind those that have."""


LINE_STYLES = ("solid", "dashed", "dotted", "dash-dotted")
"""How the lines of series differ beside their colours, in turn."""


def line_style(series: int) -> str:
    """The style of a lamp's line; lamps of one colour never share it."""
    return LINE_STYLES[(series + series // 8) % len(LINE_STYLES)]


def series_of(names: Sequence[str], places: Places | None) -> list[int | None]:
    """The series number of each lamp: its place in the list where nobody numbered them."""
    return [index if places is None else places.get(name) for index, name in enumerate(names)]


def behind_first(numbers: Sequence[int | None], lamps: Sequence[T]) -> list[tuple[int | None, T]]:
    """Lamps with their numbers, in the order in which they are painted: the grey ones behind."""
    return sorted(zip(numbers, lamps, strict=True), key=lambda pair: pair[0] is not None)


class Tone(Enum):
    """The part a mark plays; the renderer knows its colour in each theme."""

    PLAIN = "plain"
    QUIET = "quiet"
    ACCENT = "accent"
    GREEN = "green"
    MAGENTA = "magenta"


@dataclass(frozen=True, slots=True)
class Axis:
    """One axis. `ticks` are (position, text); positions are as plotted: a log2 axis plots log2 of its values."""

    label: str
    low: Number
    high: Number
    ticks: tuple[tuple[Number, str], ...] = ()
    unit: str = ""


@dataclass(frozen=True, slots=True)
class Line:
    """A line through points. `series` numbers a lamp (colour and shape); None uses the tone. A `bar` is
    solid, and so many points wide."""

    x: Sequence[Number]
    y: Sequence[Number]
    series: int | None = None
    tone: Tone = Tone.PLAIN
    dashed: bool = False
    label: str = ""
    bar: float = 0.0


@dataclass(frozen=True, slots=True)
class Points:
    """Readings as marks. `keys` are reading ids, `hints` what hovering says."""

    x: Sequence[Number]
    y: Sequence[Number]
    series: int | None = None
    tone: Tone = Tone.PLAIN
    hollow: bool = False
    keys: tuple[str, ...] = ()
    hints: tuple[str, ...] = ()
    label: str = ""


@dataclass(frozen=True, slots=True)
class Sticks:
    """Upright sticks from `base` to `y` with a head of the subject's own colour (sRGB 0-255): lollipops."""

    x: Sequence[Number]
    y: Sequence[Number]
    base: Number
    colours: tuple[tuple[int, int, int], ...]
    hints: tuple[str, ...] = ()
    label: str = ""


@dataclass(frozen=True, slots=True)
class Rule:
    """A line across the chart at one value of an axis (`x` or `y`)."""

    axis: str
    at: Number
    tone: Tone = Tone.QUIET
    dashed: bool = False


@dataclass(frozen=True, slots=True)
class Band:
    """A band across the chart between two values of an axis."""

    low: Number
    high: Number
    tone: Tone = Tone.QUIET
    axis: str = "y"


@dataclass(frozen=True, slots=True)
class Text:
    """Words at a point; `anchor` is `left`, `right` or `centre`. `above` lifts them off the point, False hangs them
    below it, None sets them beside it."""

    x: Number
    y: Number
    text: str
    tone: Tone = Tone.QUIET
    anchor: str = "left"
    above: bool | None = True


@dataclass(frozen=True, slots=True)
class Ring:
    """An ellipse about a point: a tolerance in two quantities."""

    x: Number
    y: Number
    width: Number
    height: Number
    tone: Tone = Tone.QUIET


Mark = Line | Points | Sticks | Rule | Band | Text | Ring


def _guides(mark: Mark) -> bool:
    return isinstance(mark, Line) and mark.series is None and mark.tone is Tone.QUIET


@dataclass(frozen=True, slots=True)
class Chart:
    """A whole chart. `summary` says in words what it shows, for a screen reader; `title` stands above it.

    `rows` of lamps stand one below the other: it needs so much height. One `to_scale` has the same unit on both axes.
    """

    title: str
    x: Axis
    y: Axis
    marks: tuple[Mark, ...]
    summary: str
    legend: tuple[tuple[int, str], ...] = field(default=())
    rows: int = 0
    to_scale: bool = False

    @property
    def empty(self) -> bool:
        """Whether there is nothing measured in it: a quiet line of no lamp is only a guide."""
        return not any(
            isinstance(mark, Line | Points | Sticks) and len(mark.x) for mark in self.marks if not _guides(mark)
        )

    def as_table(self) -> str:
        """The points as tab-separated text, for the clipboard."""
        lines = [f"series\t{self.x.label}\t{self.y.label}"]
        for mark in self.marks:
            if isinstance(mark, Line | Points | Sticks):
                series = None if isinstance(mark, Sticks) else mark.series
                name = mark.label or ("" if series is None else str(series + 1))
                lines += [f"{name}\t{x:.6g}\t{y:.6g}" for x, y in zip(mark.x, mark.y, strict=True)]
        return "\n".join(lines)
