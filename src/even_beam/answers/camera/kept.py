"""What cameras saw that was kept in a logbook: the newest photographs with their benchmark, waveform and fade."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from even_beam.answers.camera.chart_page import Shot, shot_of
from even_beam.answers.camera.fading import Fading
from even_beam.answers.camera.flickering import Flickering, flickering
from even_beam.bench.measured import Measured
from even_beam.bench.observations import Photo
from even_beam.bench.records import Reading, Session
from even_beam.bench.seen import benchmark_of, file_of
from even_beam.bench.traces import Trace
from even_beam.camera.errors import CameraError
from even_beam.camera.fades import fade_of
from even_beam.camera.waveform import waveform_of
from even_beam.collection.collection import Collection
from even_beam.formats.errors import FormatError
from even_beam.formats.photo_file import photograph_in
from even_beam.logbook.store import Logbook

SESSIONS = 12
"""So many of the newest sessions are looked through."""

MOST_SHOTS = 12

_ASKED = re.compile(r"asked ([0-9.]+) s")


@dataclass(frozen=True, eq=False, slots=True)
class Kept:
    """What was found; the name of the benchmark stands for its path."""

    shots: tuple[Shot, ...] = ()
    benchmark: Path | None = None
    flickering: Flickering | None = None
    fading: Fading | None = None


def kept_in(path: Path) -> Kept:
    """What was kept in the newest sessions of a logbook; nothing where it cannot be read any more."""
    logbook = Logbook.open_to_read(path)
    try:
        collection = Collection(logbook)
        found = Kept()
        for session in reversed(collection.sessions[-SESSIONS:]):
            found = _with(found, collection, session)
        return found
    finally:
        logbook.close()


def _with(found: Kept, collection: Collection, session: Session) -> Kept:
    """What was found in newer sessions, and where it lacks something this session's."""
    readings = collection.readings_in(session.id)
    shots, benchmark = (found.shots, found.benchmark) if found.shots else _shots(collection, session, readings)
    return Kept(
        shots,
        benchmark,
        found.flickering or _flickering(collection, readings),
        found.fading or _fading(collection, readings),
    )


def _shots(
    collection: Collection, session: Session, readings: Sequence[Measured]
) -> tuple[tuple[Shot, ...], Path | None]:
    charted = [m.reading for m in readings if m.value("chart_balanced") is not None][:MOST_SHOTS]
    if not charted:
        return (), None
    photos = collection.logbook.of_session(Photo, session.id)
    found: dict[str, Shot] = {}
    benchmark = None
    for reading in charted:
        known = benchmark_of(reading)
        own = sorted((p for p in photos if p.reading_id == reading.id), key=lambda p: p.name != known)
        for photo in own:
            if photo.name not in found:
                try:
                    # pictures are kept as JPEG, whatever the file was
                    picture = replace(photograph_in("kept.jpg", photo.image), name=photo.name)
                    found[photo.name] = shot_of(Path(photo.name), picture)
                except FormatError:
                    continue
            if photo.name == known:
                benchmark = found[photo.name].path
    return tuple(found.values()), benchmark


def _flickering(collection: Collection, readings: Sequence[Measured]) -> Flickering | None:
    for reading, trace in _recorded(collection, readings, "flicker_hz"):
        try:
            return flickering(waveform_of(trace.seconds, trace.values, name=file_of(reading)))
        except CameraError:
            continue
    return None


def _fading(collection: Collection, readings: Sequence[Measured]) -> Fading | None:
    for reading, trace in _recorded(collection, readings, "fade_s"):
        try:
            fade = fade_of(trace.seconds, trace.values)
        except CameraError:
            continue
        asked = _ASKED.search(next(v.text for v in reading.values if v.quantity == "fade_s"))
        return Fading(file_of(reading), fade, trace.seconds, trace.values, float(asked[1]) if asked else None)
    return None


def _recorded(collection: Collection, readings: Sequence[Measured], quantity: str) -> Iterator[tuple[Reading, Trace]]:
    """The recordings of light behind a quantity, the newest first."""
    for measured in reversed(readings):
        if measured.value(quantity) is not None:
            for trace in collection.logbook.traces(measured.reading.id):
                yield measured.reading, trace
