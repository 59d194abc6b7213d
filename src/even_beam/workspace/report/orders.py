"""What the window has made in a process of its own: orders of plain values, and what came of them."""

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import count
from pathlib import Path
from typing import TypeVar

from even_beam.bench import notation
from even_beam.logbook.store import Logbook
from even_beam.reports import page
from even_beam.reports.label import SIZES
from even_beam.reports.label_pages import write_labels
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.report import sentences as saying
from even_beam.workspace.report.arrangement import Arrangement, kept_arrangement, usual_arrangement
from even_beam.workspace.report.compose import composed, sections_of, title_of_section
from even_beam.workspace.report.folder import write_folder
from even_beam.workspace.report.kinds import Kind, usual_kind
from even_beam.workspace.report.labels import labels_of, left_off_words
from even_beam.workspace.report.material import Material
from even_beam.workspace.report.pictures import charts_of, write_picture
from even_beam.workspace.report.table import write_table
from even_beam.workspace.shell.settings import Settings


@dataclass(frozen=True, slots=True)
class Order:
    """Of which logbook, session (None: of all) and lamps (none: of all), and where it goes. `kind` is empty for the one
    that fits; `progress` is a file that says how far the making is, which `how_far` reads."""

    logbook: Path
    session_id: str | None = None
    fixtures: tuple[str, ...] = ()
    out: Path = Path()
    kind: str = ""
    settings: Settings = field(default_factory=Settings)
    progress: Path | None = None

    @property
    def how_far(self) -> str:
        """How far the making is, in words; empty where nobody says."""
        try:
            return self.progress.read_text(encoding="utf-8") if self.progress is not None else ""
        except OSError:
            return ""

    def say(self, words: str) -> None:
        """Say how far it is."""
        if self.progress is not None:
            self.progress.write_text(words, encoding="utf-8")


@dataclass(frozen=True, slots=True)
class Made:
    """What came of a report: its kind, its sections by key and name in their order, those left out and own sentences,
    and the lamps it is on."""

    kind: str
    sections: tuple[tuple[str, str], ...]
    arrangement: Arrangement
    lamps: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LabelsMade:
    """How many labels there are, and what did not fit on them."""

    count: int
    left_off: tuple[str, ...]


Result = TypeVar("Result")


def _of(order: Order, make: Callable[[Collection, Material], Result]) -> Result:
    notation.speak(order.settings.illuminance_unit, order.settings.distance_unit)
    logbook = Logbook.open_to_read(order.logbook)
    try:
        collection = Collection(logbook)
        session = next((one for one in collection.sessions if one.id == order.session_id), None)
        return make(collection, Material(collection, order.settings, session, order.fixtures))
    finally:
        logbook.close()


def make_report(order: Order) -> Made:
    """Write a report as the session keeps it. Raises `ReportError` and `LogbookError`."""

    def make(collection: Collection, material: Material) -> Made:
        kind = Kind(order.kind) if order.kind else usual_kind(material)
        of = collection.logbook, order.session_id
        arranged = kept_arrangement(*of, kind) if order.session_id else usual_arrangement(kind)  # type: ignore[arg-type]
        done = count()
        document = composed(material, kind, arranged, lambda: order.say(f"section {next(done) + 1}"))
        order.say("setting the pages")
        page.write(document, order.out)
        keys = arranged.ordered(sections_of(kind))
        return Made(str(kind), tuple((key, title_of_section(key)) for key in keys), arranged, _lamps(collection, order))

    return _of(order, make)


def _lamps(collection: Collection, order: Order) -> tuple[str, ...]:
    """The lamps that the session, or the logbook, has readings of."""
    if order.session_id is not None:
        return tuple(entrant.name for entrant in collection.entrants_in(order.session_id))
    return tuple(lamp.name for lamp in collection.lamps())


def make_labels(order: Order, size: str, start: int) -> LabelsMade:
    """Write labels. Raises `ReportError`, `LogbookError`, and `ValueError` for a place that the sheet has not."""

    def make(_: Collection, material: Material) -> LabelsMade:
        labels = labels_of(material, SIZES[size])
        if labels:
            write_labels(labels, SIZES[size], order.out, start)
        return LabelsMade(len(labels), tuple(left_off_words(labels)))

    return _of(order, make)


def make_picture(order: Order, chart: str, width: int, height: int, ground: str) -> dict[str, str]:
    """Write a chart as a picture, the first where none is named; the charts there are, by name and title. Raises
    `ReportError`, `LogbookError` and `ValueError`."""

    def make(_: Collection, material: Material) -> dict[str, str]:
        charts = charts_of(material)
        if charts:
            write_picture(material, chart or next(iter(charts)), width, height, ground, order.out)
        return {name: one.title for name, one in charts.items()}

    return _of(order, make)


def make_sentences(order: Order, *, markdown: bool) -> str:
    """What may be said of the lamps. Raises `LogbookError`."""

    def make(collection: Collection, material: Material) -> str:
        return saying.as_text(
            saying.statements(lambda: Material(collection, order.settings, material.session, order.fixtures)),
            markdown=markdown,
        )

    return _of(order, make)


def make_table(order: Order) -> int:
    """Write the table of readings; how many figures it has. Raises `FormatError` and `LogbookError`."""
    sessions = [order.session_id] if order.session_id is not None else None
    return _of(order, lambda collection, _: write_table(collection, order.out, sessions))


def make_folder(order: Order) -> int:
    """Write everything as open data; how many readings there are. Raises `FormatError` and `LogbookError`."""
    return _of(order, lambda collection, m: write_folder(collection, order.settings, m.session, order.out))
