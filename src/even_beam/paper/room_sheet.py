"""The room sheet: what to prepare before the first reading, with lines to fill in by hand."""

from dataclasses import dataclass
from pathlib import Path

from even_beam.files.writing import write
from even_beam.paper.page import pdf_of, render


@dataclass(frozen=True, slots=True)
class RoomLamp:
    """A lamp on the sheet."""

    name: str
    kind: str


@dataclass(frozen=True, slots=True)
class RoomStep:
    """A line of the run sheet, its figures left blank; one without a number heads those below it."""

    number: str
    terms: str
    reading: str = ""


@dataclass(frozen=True, slots=True)
class RoomContent:
    """Everything that stands on the sheet."""

    name: str
    question: str
    lamps: tuple[RoomLamp, ...]
    marks: tuple[str, ...]
    configurations: tuple[str, ...]
    meters: tuple[str, ...]
    steps: int
    readings: int
    minutes: int
    warm_up_minutes: int
    cautions: tuple[str, ...]
    sheet: tuple[RoomStep, ...] = ()
    blanks: tuple[str, ...] = ()
    paper: str = "A4"
    version: str = ""


def room_html(content: RoomContent) -> str:
    """The sheet as one self-contained HTML text."""
    return render("room_sheet.html", c=content)


def write_room_sheet(content: RoomContent, path: Path, *, over_others: bool = False) -> None:
    """The sheet as HTML or, by its suffix, PDF. Raises `ReportError` and `OutputError`."""
    text = room_html(content)
    made = pdf_of(text) if path.suffix.lower() == ".pdf" else text.encode("utf-8")
    write(path, made, over_others=over_others)
