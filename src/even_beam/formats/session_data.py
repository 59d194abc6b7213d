"""Sessions as open data: every record as JSON by a published schema, written and read; nothing is lost either way."""

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from datetime import datetime
from itertools import pairwise
from typing import Any, Literal
from zoneinfo import ZoneInfo

import numpy as np

from even_beam.bench import records
from even_beam.bench.observations import Observation
from even_beam.bench.soundness import flaw_in, flaw_in_text
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import decode

MOST_BYTES = 500_000_000


@dataclass(frozen=True, slots=True)
class SpectrumData:
    """A reading's spectral irradiance as the instrument gave it: W/(m2 nm) where `absolute`, else relative."""

    reading_id: str
    wavelength_nm: tuple[float, ...]
    values: tuple[float, ...]
    absolute: bool = True

    @classmethod
    def of(cls, reading_id: str, spectrum: records.Spectrum) -> "SpectrumData":
        """As it is written."""
        return cls(
            reading_id, tuple(map(float, spectrum.wavelength_nm)), tuple(map(float, spectrum.values)), spectrum.absolute
        )

    @property
    def spectrum(self) -> records.Spectrum:
        """As it is kept."""
        return records.Spectrum(np.array(self.wavelength_nm), np.array(self.values), self.absolute)


@dataclass(frozen=True, slots=True)
class TraceData:
    """A quantity of a reading against time in seconds."""

    reading_id: str
    quantity: str
    seconds: tuple[float, ...]
    values: tuple[float, ...]

    @classmethod
    def of(cls, reading_id: str, trace: Trace) -> "TraceData":
        """As it is written."""
        return cls(reading_id, trace.quantity, tuple(map(float, trace.seconds)), tuple(map(float, trace.values)))

    @property
    def trace(self) -> Trace:
        """As it is kept."""
        return Trace(self.quantity, np.array(self.seconds), np.array(self.values))


@dataclass(frozen=True, slots=True)
class PhotoData:
    """A photo; image and thumbnail in base 64."""

    id: str
    session_id: str
    at: str
    name: str
    media_type: str
    image: str
    thumbnail: str
    observation_id: str | None = None
    reading_id: str | None = None


@dataclass(frozen=True, slots=True)
class SessionData:
    """Sessions with all that they rest on. Lengths in m, levels in lx, whites in K; times are ISO 8601 in UTC.

    How a reading stands (superseded, taken back, set aside, in doubt, corrected) follows from its events in their
    order; `states` says what came of them, for those who do not want to follow.
    """

    format: Literal["even-beam session"] = "even-beam session"
    version: Literal[1] = 1
    models: tuple[records.Model, ...] = ()
    sources: tuple[records.Source, ...] = ()
    claims: tuple[records.Claim, ...] = ()
    costs: tuple[records.Cost, ...] = ()
    gear: tuple[records.Gear, ...] = ()
    subjects: tuple[records.Subject, ...] = ()
    modifiers: tuple[records.Modifier, ...] = ()
    meters: tuple[records.Meter, ...] = ()
    calibrations: tuple[records.Calibration, ...] = ()
    tolerance_sets: tuple[records.ToleranceSet, ...] = ()
    mappings: tuple[records.FileMapping, ...] = ()
    sessions: tuple[records.Session, ...] = ()
    conditions: tuple[records.Conditions, ...] = ()
    layouts: tuple[records.ReportLayout, ...] = ()
    steps: tuple[records.Step, ...] = ()
    readings: tuple[records.Reading, ...] = ()
    spectra: tuple[SpectrumData, ...] = ()
    traces: tuple[TraceData, ...] = ()
    events: tuple[records.Event, ...] = ()
    observations: tuple[Observation, ...] = ()
    photos: tuple[PhotoData, ...] = ()
    looks: tuple[Look, ...] = ()
    computed: tuple[records.Computed, ...] = ()
    states: Mapping[str, str] = field(default_factory=dict)


def _adapter() -> Any:
    from pydantic import TypeAdapter  # slow to import: only where sessions are handed over

    return TypeAdapter(SessionData)


def written(data: SessionData) -> bytes:
    """The text of a file that `read` understands, figures exact."""
    return bytes(_adapter().dump_json(data))


def schema() -> dict[str, Any]:
    """The JSON schema (2020-12) of such a file."""
    made = _adapter().json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Even Beam session", **made}


def read(data: bytes, name: str) -> SessionData:
    """The sessions of a file. Raises `FormatError` that says where it is not by the schema."""
    from pydantic import ValidationError

    if len(data) > MOST_BYTES:
        raise FormatError(f"{name}: more than {MOST_BYTES // 1_000_000} MB, which no session has")
    try:
        plain = json.loads(decode(data))
        if not _is_finite(plain):
            raise FormatError(f"{name}: a number in it is infinite, none at all or beyond all measure")
        found: SessionData = _adapter().validate_python(plain)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        where = ".".join(map(str, first["loc"])) or "the whole"
        raise FormatError(f"{name}: no session as Even Beam writes it: {where}: {first['msg']}") from error
    except (ValueError, RecursionError) as error:
        raise FormatError(f"{name}: not valid JSON ({error})") from error
    if (flaw := _flaw_in(found)) is not None:
        raise FormatError(f"{name}: {flaw}")
    return found


EARLIEST_YEAR, LATEST_YEAR = 1900, 2200
"""Nothing was read before the one or is read after the other: such a time is a slip of a clock or of a program."""


def _flaw_in(data: SessionData) -> str | None:
    """What in it can be no record, by its kind and id; None where all can."""
    for kind in fields(data):
        kept = getattr(data, kind.name)
        if not isinstance(kept, tuple):
            continue
        for record in kept:
            flaw = flaw_in_text(record.name) if isinstance(record, PhotoData) else flaw_in(record)
            flaw = flaw or _flaw_in_times(record) or _flaw_in_samples(record)
            if flaw is not None:
                return f"{kind.name}, {getattr(record, 'id', getattr(record, 'reading_id', ''))}: {flaw}"
    return None


def _flaw_in_times(record: object) -> str | None:
    at = getattr(record, "at", getattr(record, "created_at", None))
    if isinstance(at, datetime):
        if at.tzinfo is None:
            return f"{at.isoformat()} has no zone"
        if not EARLIEST_YEAR <= at.year <= LATEST_YEAR:
            return f"the year {at.year} is none of a reading"
    if isinstance(record, records.Session):
        try:
            ZoneInfo(record.zone)
        except (KeyError, ValueError, OSError):
            return f"“{record.zone}” is no zone of time"
    return None


def _flaw_in_samples(record: object) -> str | None:
    if isinstance(record, SpectrumData):
        nm = record.wavelength_nm
        if len(nm) != len(record.values) or len(nm) < 2 or any(b <= a for a, b in pairwise(nm)):
            return "a spectrum needs as many samples as wavelengths, two at least, and these rising"
    if isinstance(record, TraceData) and len(record.seconds) != len(record.values):
        return "a trace needs as many samples as moments"
    return None


def _is_finite(plain: Any) -> bool:
    """Whether every number is one."""
    match plain:
        case float():
            return math.isfinite(plain)
        case int():
            return abs(plain) < 2**63
        case list():
            return all(map(_is_finite, plain))
        case dict():
            return all(map(_is_finite, plain.values()))
        case _:
            return True
