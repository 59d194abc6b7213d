"""Sessions that were handed over as open data, taken into a logbook: every record with its identity."""

import base64
import binascii
from collections.abc import Iterable, Sequence, Set
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Protocol, TypeVar

from even_beam.answers.intake.kit import ImportReport
from even_beam.bench.observations import Photo
from even_beam.bench.records import (
    Calibration,
    Claim,
    Cost,
    FileMapping,
    Gear,
    Meter,
    Model,
    Modifier,
    Source,
    Subject,
    ToleranceSet,
)
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.formats import FormatError, session_data
from even_beam.formats.session_data import PhotoData, SessionData
from even_beam.formats.spectrum_file import read_bytes

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

SESSION_FILE = "session.json"


class _Known(Protocol):
    @property
    def id(self) -> str: ...


Record = TypeVar("Record", bound=_Known)


def holds_session(path: Path) -> bool:
    """Whether a folder, or a file by its name, is a session that was handed over."""
    return path.name == SESSION_FILE or (path / SESSION_FILE).is_file()


def read_session(path: Path) -> SessionData:
    """What was handed over, from the folder or its file. Raises `FormatError`."""
    file = path / SESSION_FILE if path.is_dir() else path
    return session_data.read(read_bytes(file, session_data.MOST_BYTES), file.name)


def keep_session(data: SessionData, logbook: "Logbook") -> ImportReport:
    """Take it in; what is there already is left as it is. Raises `FormatError` and `LogbookError`."""
    there = {session.id for session in logbook.sessions()}
    fresh = {session.id for session in data.sessions} - there
    again = sum(reading.session_id in there for reading in data.readings)
    usual = [] if there else _usual_meters(data, logbook)
    kit = _kit(data, logbook, {meter.id for meter in usual})
    looks = _fresh(data.looks, logbook.all(Look), "name")
    if not fresh and not kit and not looks:
        return ImportReport(again=again)
    own = [reading for reading in data.readings if reading.session_id in fresh]
    ids = {reading.id for reading in own}
    traces: dict[str, list[Trace]] = {}
    for one in data.traces:
        traces.setdefault(one.reading_id, []).append(one.trace)
    spectra = {one.reading_id: one.spectrum for one in data.spectra}
    sessions = [session for session in data.sessions if session.id in fresh]
    logbook.take_over(
        [
            *kit,
            *sessions,
            *(one for one in data.conditions if one.session_id in fresh),
            *(one for one in data.layouts if one.session_id in fresh),
            *(one for one in data.steps if one.session_id in fresh),
        ],
        taken=[(reading, spectra.get(reading.id)) for reading in own],
        events=[event for event in data.events if event.session_id in fresh],
        traces={i: found for i, found in traces.items() if i in ids},
        computed=[one for one in data.computed if one.reading_id in ids],
        beside=[
            *(one for one in data.observations if one.session_id in fresh),
            *(_photo(one) for one in data.photos if one.session_id in fresh),
            *looks,
        ],
        in_place_of=usual,
    )
    return ImportReport(sessions, len(own), sum(len(reading.values) for reading in own), again=again)


def _usual_meters(data: SessionData, logbook: "Logbook") -> list[Meter]:
    """The meters that a new logbook begins with, where the same ones are handed over: these take their place."""
    handed = [replace(meter, id="") for meter in data.meters]
    return [m for m in logbook.all(Meter) if replace(m, id="") in handed and not logbook.uses_of_meter(m.id)]


def _kit(data: SessionData, logbook: "Logbook", gone: Set[str]) -> list[object]:
    """What the Kit has not yet; a nickname that another one has there is told apart by a number."""
    meters = [meter for meter in logbook.all(Meter) if meter.id not in gone]
    shapes = {one.shape for one in logbook.all(FileMapping)}
    return [
        *_fresh(data.models, logbook.all(Model)),
        *_fresh(data.sources, logbook.all(Source), "nickname"),
        *_fresh(data.claims, logbook.all(Claim)),
        *_fresh(data.costs, logbook.all(Cost)),
        *_fresh(data.gear, logbook.all(Gear)),
        *_fresh(data.subjects, logbook.all(Subject), "nickname"),
        *_fresh(data.modifiers, logbook.all(Modifier), "nickname"),
        *_fresh(data.meters, meters, "nickname"),
        *_fresh(data.calibrations, logbook.all(Calibration)),
        *_fresh(data.tolerance_sets, logbook.all(ToleranceSet), "name"),
        *(one for one in _fresh(data.mappings, logbook.all(FileMapping)) if one.shape not in shapes),
    ]


def _fresh(handed: Sequence[Record], there: Iterable[Record], named: str = "") -> list[Record]:
    """The records that are not there by their ids, their names free."""
    known = list(there)
    ids = {one.id for one in known}
    names = {getattr(one, named) for one in known} if named else set()
    found = []
    for one in handed:
        if one.id in ids:
            continue
        if named:
            name = getattr(one, named)
            own = next(n for n in (name, *(f"{name} {k}" for k in range(2, 1000))) if n not in names)
            names.add(own)
            found.append(replace(one, **{named: own}))  # type: ignore[type-var]
        else:
            found.append(one)
    return found


def _photo(photo: PhotoData) -> Photo:
    try:
        return Photo(
            id=photo.id,
            session_id=photo.session_id,
            at=datetime.fromisoformat(photo.at),
            name=photo.name,
            media_type=photo.media_type,
            image=base64.b64decode(photo.image, validate=True),
            thumbnail=base64.b64decode(photo.thumbnail, validate=True),
            observation_id=photo.observation_id,
            reading_id=photo.reading_id,
        )
    except (ValueError, binascii.Error) as error:
        raise FormatError(f"{SESSION_FILE}: the photo “{photo.name}” cannot be read ({error})") from error
