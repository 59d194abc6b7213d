"""Records to rows and back. Columns have the names of the records' fields; terms are spread over their own.

Rows are read as SQLite keeps them and converted here, a column at a time: a lamp of many years has thousands.
"""

import json
import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import fields
from datetime import datetime
from enum import Enum
from functools import cache, lru_cache
from typing import Any, NamedTuple, TypeVar, get_origin, get_type_hints

import numpy as np

from even_beam.bench import records
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import Computed, Spectrum, Terms, Value
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.logbook import cells
from even_beam.logbook.schema import COMPUTED_SCALARS

Record = TypeVar("Record")

TABLES: dict[type, str] = {
    records.Model: "model",
    records.Source: "source",
    records.Claim: "claim",
    records.Cost: "cost",
    records.Gear: "gear",
    records.Subject: "subject",
    records.Modifier: "modifier",
    records.Meter: "meter",
    records.Calibration: "calibration",
    records.ToleranceSet: "tolerance_set",
    records.FileMapping: "mapping",
    records.Session: "session",
    records.Conditions: "conditions",
    records.ReportLayout: "report_layout",
    records.Step: "step",
    records.Reading: "reading",
    records.Value: "value",
    records.Event: "event",
    Observation: "observation",
    Photo: "photo",
    Look: "look",
}

_TERMS = tuple(field.name for field in fields(Terms))


_ELSEWHERE = frozenset({"terms", "values"})
"""Fields that are no column: terms are spread over their own, a reading's values have rows of their own."""


def to_row(record: object) -> dict[str, Any]:
    """The row of a record; a reading's values have rows of their own. Raises `ValueError` for a time without a zone."""
    row: dict[str, Any] = {}
    for field in fields(record):  # type: ignore[arg-type]
        value = getattr(record, field.name)
        if isinstance(value, Terms):
            row.update({name: cells.kept(getattr(value, name)) for name in _TERMS})
        elif field.name not in _ELSEWHERE:
            row[field.name] = cells.kept(value)
    return row


class Kept(Enum):
    """How the values of a column are kept."""

    PLAIN = "as they are"
    TRUTH = "0 or 1"
    TIME = "ISO 8601 text"
    JSON = "JSON text"
    WORD = "the value of an enumeration"


def _how(hint: Any) -> Kept:
    """How values of a type are kept."""
    base = get_origin(hint) or hint
    if not isinstance(base, type):
        return Kept.PLAIN
    kinds = {bool: Kept.TRUTH, datetime: Kept.TIME, Enum: Kept.WORD, tuple: Kept.JSON, Mapping: Kept.JSON}
    return next((kept for kind, kept in kinds.items() if issubclass(base, kind)), Kept.PLAIN)


class Shape(NamedTuple):
    """How a kind of record is read: the columns to select, and what makes the records of such rows."""

    columns: tuple[str, ...]
    made: Callable[..., list[Any]]

    @property
    def selected(self) -> str:
        """The columns as a statement lists them."""
        return ", ".join(self.columns)


@cache
def shape_of(kind: type) -> Shape:
    """The shape of a kind of record. Fields that live elsewhere, as readings' values, are handed to `made` by name, as
    a column of their own. Columns beyond those of the shape are not regarded."""
    hints, table = get_type_hints(kind), TABLES[kind]
    ordered = [field.name for field in fields(kind)]
    names = [name for name in ordered if name not in _ELSEWHERE]
    conversions = [(i, convert) for i, name in enumerate(names) if (convert := _conversion(hints[name])) is not None]
    places = [(place, name) for place, name in enumerate(ordered) if name in _ELSEWHERE]
    holds_bytes, own, end = bytes in hints.values(), len(names), len(names) + len(_TERMS)

    def made(found: Sequence[Sequence[Any]], **elsewhere: Iterable[object]) -> list[Any]:
        if not found:
            return []
        columns: list[Sequence[Any]] = list(zip(*found, strict=True))
        if not holds_bytes and any(bytes in map(type, column) for column in columns):
            raise ValueError(f"bytes where a text or a number of {table} belongs")
        arguments: list[Iterable[Any]] = list(columns[:own])
        for place, convert in conversions:
            arguments[place] = _converted(columns[place], convert)
        elsewhere["terms"] = map(_terms, zip(*columns[own:end], strict=True))
        for place, name in places:
            arguments.insert(place, elsewhere[name])
        return list(map(kind, *arguments))

    return Shape((*names, *(_TERMS if "terms" in hints else ())), made)


def _converted(column: Sequence[Any], convert: Callable[[Any], Any]) -> list[Any]:
    """A column in the type of its field; what is not stated stays so."""
    return [value if value is None else convert(value) for value in column]


def kept_as_text() -> dict[tuple[str, str], Kept]:
    """How the columns of the tables are kept that are not plain, by table and column."""
    found = {("computed", "vectors"): Kept.JSON, ("plan", "content"): Kept.JSON}
    for kind, table in TABLES.items():
        hints = get_type_hints(kind)
        hints |= get_type_hints(Terms) if "terms" in hints else {}
        found |= {(table, name): _how(hint) for name, hint in hints.items() if name not in _ELSEWHERE}
    return found


def _conversion(hint: Any) -> Callable[[Any], Any] | None:
    """From what SQLite keeps to the field's type; None where it is the same."""
    how = _how(hint)
    if how is Kept.WORD:
        return {member.value: member for member in hint}.__getitem__
    conversions: dict[Kept, Callable[[Any], Any]] = {
        Kept.TRUTH: bool,
        Kept.TIME: datetime.fromisoformat,
        Kept.JSON: _loaded,
    }
    return conversions.get(how)


def _loaded(text: str) -> Any:
    """JSON text as tuples and mappings; lists, which many rows share, are read once."""
    return _loaded_list(text) if text.startswith("[") else cells.structure(text)


@lru_cache(maxsize=8192)
def _loaded_list(text: str) -> Any:
    return cells.structure(text)


@lru_cache(maxsize=8192)
def _terms(kept: tuple[Any, ...]) -> Terms:
    """Terms from their columns; most readings share theirs with others."""
    named = dict(zip(_TERMS, kept, strict=True))
    return Terms(**{**named, "configuration": _loaded(named["configuration"])})


def value_to_row(reading_id: str, value: Value) -> dict[str, Any]:
    """The row of a figure of a reading."""
    return {"reading_id": reading_id, **to_row(value)}


def spectrum_to_row(reading_id: str, spectrum: Spectrum) -> dict[str, Any]:
    """The row of a spectrum: samples as little-endian doubles, a regular grid by its first point and step."""
    wavelength = np.asarray(spectrum.wavelength_nm, dtype="<f8")
    steps = np.diff(wavelength)
    regular = bool(np.all(steps == steps[0]))
    return {
        "reading_id": reading_id,
        "first_nm": float(wavelength[0]),
        "step_nm": float(steps[0]) if regular else None,
        "wavelengths": None if regular else wavelength.tobytes(),
        "samples": np.asarray(spectrum.values, dtype="<f8").tobytes(),
        "absolute": spectrum.absolute,
    }


SPECTRUM_COLUMNS = ("reading_id", "first_nm", "step_nm", "wavelengths", "samples", "absolute")


def spectrum_from_row(row: Sequence[Any]) -> Spectrum:
    """The spectrum of a row of `SPECTRUM_COLUMNS`."""
    _, first_nm, step_nm, wavelengths, kept, absolute = row
    samples = np.frombuffer(kept, dtype="<f8")
    if step_nm is None:
        wavelength = np.frombuffer(wavelengths, dtype="<f8")
    else:
        wavelength = first_nm + step_nm * np.arange(samples.size)
    return Spectrum(wavelength, samples, bool(absolute))


def trace_to_row(reading_id: str, trace: Trace) -> dict[str, Any]:
    """The row of a trace: times and samples as little-endian doubles."""
    return {
        "reading_id": reading_id,
        "quantity": trace.quantity,
        "seconds": np.asarray(trace.seconds, dtype="<f8").tobytes(),
        "samples": np.asarray(trace.values, dtype="<f8").tobytes(),
    }


TRACE_COLUMNS = ("quantity", "seconds", "samples")


def trace_from_row(row: Sequence[Any]) -> Trace:
    """The trace of a row of `TRACE_COLUMNS`."""
    quantity, seconds, samples = row
    return Trace(quantity, np.frombuffer(seconds, dtype="<f8"), np.frombuffer(samples, dtype="<f8"))


def computed_to_row(computed: Computed) -> dict[str, Any]:
    """The row of computed figures; what has no answer is NULL."""
    scalars = {name: computed.scalars.get(name, math.nan) for name in COMPUTED_SCALARS}
    return {
        "reading_id": computed.reading_id,
        "method_version": computed.method_version,
        **{name: None if math.isnan(value) else value for name, value in scalars.items()},
        "vectors": cells.json_text(
            {name: [None if math.isnan(v) else v for v in vector] for name, vector in computed.vectors.items()}
        ),
    }


COMPUTED_COLUMNS = ("reading_id", "method_version", "vectors", *COMPUTED_SCALARS)


def computed_from_row(row: Sequence[Any]) -> Computed:
    """The computed figures of a row of `COMPUTED_COLUMNS`; what has no answer is left out."""
    scalars = {name: value for name, value in zip(COMPUTED_SCALARS, row[3:], strict=True) if value is not None}
    return Computed(row[0], row[1], scalars, KeptVectors(row[2]))


_READ = json.JSONDecoder()


class KeptVectors(Mapping[str, tuple[float, ...]]):
    """Vectors by name as they are kept, in JSON text; each is decoded when it is asked for, which most never are."""

    __slots__ = ("_decoded", "_text")

    def __init__(self, text: str | None) -> None:
        self._text = text if isinstance(text, str) else "{}"
        self._decoded: dict[str, tuple[float, ...]] = {}

    def __getitem__(self, name: str) -> tuple[float, ...]:
        if name not in self._decoded:
            self._decoded[name] = self._decode(name)
        return self._decoded[name]

    def _decode(self, name: str) -> tuple[float, ...]:
        key = f"{json.dumps(name)}: "
        start = self._text.find(key)
        if start < 0:
            raise KeyError(name)
        try:
            vector, _ = _READ.raw_decode(self._text, start + len(key))
            return tuple(math.nan if value is None else float(value) for value in vector)
        except (ValueError, TypeError, RecursionError) as error:
            raise KeyError(name) from error  # no vector was kept there

    def _names(self) -> list[str]:
        try:
            return list(json.loads(self._text))
        except (ValueError, RecursionError):
            return []

    def __iter__(self) -> Iterator[str]:
        return iter(self._names())

    def __len__(self) -> int:
        return len(self._names())
