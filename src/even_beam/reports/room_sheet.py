"""The room sheet: what to prepare before the first reading, with lines to fill in by hand."""

from dataclasses import dataclass
from pathlib import Path

from even_beam.reports.page import render, write_bytes, write_pdf_of


@dataclass(frozen=True, slots=True)
class RoomLamp:
    """A lamp on the sheet."""

    name: str
    kind: str


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
    paper: str = "A4"
    version: str = ""


def room_html(content: RoomContent) -> str:
    """The sheet as one self-contained HTML text."""
    return render("room_sheet.html", c=content)


def write_room_sheet(content: RoomContent, path: Path) -> None:
    """The sheet as HTML or, by its suffix, PDF. Raises `ReportError`."""
    if path.suffix.lower() == ".pdf":
        write_pdf_of(room_html(content), path)
    else:
        write_bytes(path, room_html(content).encode("utf-8"))
