"""The readings behind a figure, as lines, and setting one aside in whatever session it was taken."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from even_beam.bench.measured import Measured
from even_beam.bench.run import Standing
from even_beam.bench.terms import terms_line
from even_beam.collection.collection import Collection
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One reading in a line."""

    reading_id: str
    text: str
    counts: bool


def lines_of(logbook: "Logbook", reading_ids: Sequence[str], unit: str) -> list[ReadingLine]:
    """Readings in the order asked, each with moment, figure, terms, meter and what was said of it."""
    collection = Collection(logbook)
    names = {session.id: session.name for session in collection.sessions}
    found = collection.readings(reading_ids)
    return [
        ReadingLine(i, _text(collection, names[m.reading.session_id], m, unit), m.state.counts)
        for i in reading_ids
        if (m := found.get(i)) is not None
    ]


def _text(collection: Collection, session: str, measured: Measured, unit: str) -> str:
    reading, state = measured.reading, measured.state
    level, cct = measured.value("illuminance"), measured.value("cct")
    figures = [f"{notation.illuminance(level, unit)} {unit}"] if level is not None else []
    figures += [f"{notation.kelvin(cct)} K"] if cct is not None else []
    meter = collection.meters.get(reading.meter_id or "")
    said = [str(state.standing)] if state.standing is not Standing.COUNTED else []
    said += ["kept in doubt"] if state.doubt and state.kept_in_doubt else ["in doubt"] if state.doubt else []
    said += ["terms corrected"] if state.corrections else []
    said += ["suspect"] if state.suspect else []
    parts = [
        f"{reading.at:%-d %b %Y %H:%M}", " ".join(figures) or "no level", collection.names_of(reading.source_ids),
        terms_line(measured.terms),
        meter.nickname if meter is not None else "meter not named", session, *said,
    ]  # fmt: skip
    return " · ".join(parts)
