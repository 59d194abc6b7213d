"""What the window has made in a process of its own: orders of plain values, and what came of them."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from itertools import count
from pathlib import Path
from typing import TypeVar

from even_beam.collection.collection import Collection
from even_beam.handing_over import sentences as saying
from even_beam.handing_over.arrangement import Arrangement, kept_arrangement
from even_beam.handing_over.before_published import before_published
from even_beam.handing_over.compose import composed, title_of_section
from even_beam.handing_over.folder import write_folder
from even_beam.handing_over.kinds import PLANS, Kind, usual_kind
from even_beam.handing_over.labels import labels_of, left_off_words
from even_beam.handing_over.material import Material
from even_beam.handing_over.pictures import charts_of, write_picture
from even_beam.handing_over.table import write_table
from even_beam.logbook.store import Logbook
from even_beam.paper import page
from even_beam.paper.label import SIZES
from even_beam.paper.label_pages import write_labels
from even_beam.shell.settings import Settings
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class Order:
    """Of which logbook, session (None: of all) and lamps (none: of all), and where it goes. `kind` is empty for the one
    that fits, `arrangements` are those by kind that no session keeps; `progress` is a file that says how far the making
    is, which `how_far` reads."""

    logbook: Path
    session_id: str | None = None
    fixtures: tuple[str, ...] = ()
    out: Path = Path()
    kind: str = ""
    arrangements: Mapping[str, Arrangement] = field(default_factory=dict)
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

    def say_no_more(self) -> None:
        """Take the file away that said it."""
        if self.progress is not None:
            self.progress.unlink(missing_ok=True)


@dataclass(frozen=True, slots=True)
class Made:
    """What came of a report: its kind, its sections by key and name in their groups and order, those left out and own
    sentences, and the lamps it is on."""

    kind: str
    sections: tuple[tuple[tuple[str, str], ...], ...]
    arrangement: Arrangement
    lamps: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LabelsMade:
    """How many labels there are, and what did not fit on them."""

    count: int
    left_off: tuple[str, ...]


Result = TypeVar("Result")


def _of(order: Order, make: Callable[[Material], Result]) -> Result:
    with notation.speaking(order.settings.units):
        logbook = Logbook.open_to_read(order.logbook)
        try:
            collection = Collection(logbook)
            session = collection.session_by_id.get(order.session_id or "")
            return make(Material(collection, order.settings, session, order.fixtures))
        finally:
            logbook.close()


def make_report(order: Order) -> Made:
    """Write a report as the session keeps it. Raises `ReportError` and `LogbookError`."""

    def make(material: Material) -> Made:
        kind = Kind(order.kind) if order.kind else usual_kind(material)
        kept = kept_arrangement(material.collection.logbook, material.session, kind)
        arranged = order.arrangements.get(str(kind), kept)
        done = count()
        document = composed(material, kind, arranged, lambda: order.say(f"section {next(done) + 1}"))
        order.say("setting the pages")
        page.write(document, order.out, over_others=True)
        sections = tuple(
            tuple((key, title_of_section(key)) for key in arranged.ordered(group)) for group in PLANS[kind].groups
        )
        return Made(str(kind), sections, arranged, _lamps(material))

    return _of(order, make)


def _lamps(material: Material) -> tuple[str, ...]:
    """The lamps that the session, or the logbook, has readings of."""
    if material.session is not None:
        return tuple(entrant.name for entrant in material.collection.entrants_in(material.session.id))
    return tuple(lamp.name for lamp in material.collection.lamps())


def make_labels(order: Order, size: str, start: int) -> LabelsMade:
    """Write labels. Raises `ReportError`, `LogbookError`, and `ValueError` for a place that the sheet has not."""

    def make(material: Material) -> LabelsMade:
        labels = labels_of(material, SIZES[size])
        if labels:
            write_labels(labels, SIZES[size], order.out, start, over_others=True)
        return LabelsMade(len(labels), tuple(left_off_words(labels)))

    return _of(order, make)


def make_picture(order: Order, chart: str, width: int, height: int, ground: str) -> dict[str, str]:
    """Write a chart as a picture, the first where none is named; the charts there are, by name and title. Raises
    `ReportError`, `LogbookError` and `ValueError`."""

    def make(material: Material) -> dict[str, str]:
        charts = charts_of(material)
        if charts:
            first = chart or next(iter(charts))
            write_picture(material, first, width, height, ground, order.out, over_others=True)
        return {name: one.title for name, one in charts.items()}

    return _of(order, make)


def make_sentences(order: Order, *, markdown: bool) -> str:
    """What may be said of the lamps. Raises `LogbookError`."""

    def make(material: Material) -> str:
        afresh = material.collection, material.settings, material.session, material.fixtures
        found = saying.statements(lambda: Material(*afresh))
        return saying.as_text(found, before_published(material) if found else (), markdown=markdown)

    return _of(order, make)


def make_table(order: Order) -> int:
    """Write the table of readings; how many figures it has. Raises `FormatError` and `LogbookError`."""
    sessions = [order.session_id] if order.session_id is not None else None
    return _of(order, lambda of: write_table(of.collection, order.out, sessions, over_others=True))


def make_folder(order: Order) -> int:
    """Write everything as open data; how many readings there are. Raises `FormatError` and `LogbookError`."""
    return _of(order, lambda of: write_folder(of.collection, of.settings, of.session, order.out))
