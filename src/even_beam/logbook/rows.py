"""Records to rows and back. Columns have the names of the records' fields; terms are spread over their own.

Rows are read as SQLite keeps them and converted here, a column at a time: a lamp of many years has thousands.
"""

import json
import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, fields
from functools import cache, lru_cache
from types import MappingProxyType
from typing import Any, get_type_hints

import numpy as np

from even_beam.bench import records
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import Computed, Spectrum, Terms, Value
from even_beam.bench.sameness import Same
from even_beam.bench.soundness import flaw_in
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.errors import TellableError
from even_beam.logbook import cells
from even_beam.logbook.schema import COMPUTED_SCALARS

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
    Same: "same",
}

_TERMS = tuple(field.name for field in fields(Terms))


_ELSEWHERE = frozenset({"terms", "values"})
"""Fields that are no column: terms are spread over their own, a reading's values have rows of their own."""


def to_row(record: object) -> dict[str, Any]:
    """The row of a record; a reading's values have rows of their own. Raises `ValueError` for a time without a zone."""
    names, has_terms = _columns_of(type(record))  # type: ignore[arg-type]
    row = {name: cells.kept(getattr(record, name)) for name in names}
    if has_terms:
        row |= _terms_to_row(record.terms)  # type: ignore[attr-defined]
    return row


@cache
def _columns_of(kind: type) -> tuple[tuple[str, ...], bool]:
    """The fields of a kind that are columns of its own, and whether terms are spread beside them."""
    names = tuple(field.name for field in fields(kind))
    return tuple(name for name in names if name not in _ELSEWHERE), "terms" in names


@lru_cache(maxsize=8192)
def _terms_to_row(terms: Terms) -> Mapping[str, Any]:
    """The cells of terms; most readings share theirs with others."""
    return MappingProxyType({name: cells.kept(getattr(terms, name)) for name in _TERMS})


class RowError(TellableError, ValueError):
    """A row that no program of ours wrote: its table, its id where that is a text, and what is wrong with it. `number`
    is its place among the rows that were read."""

    def __init__(self, table: str, row_id: object, why: str, number: int = 0) -> None:
        super().__init__(f"{table} {row_id if isinstance(row_id, str) and row_id else 'without an id'}: {why}")
        self.number = number


_NO_ROW = (ValueError, TypeError, KeyError, AttributeError, RecursionError, OverflowError)
"""What converting cells raises where they are no record's."""


@dataclass(frozen=True, slots=True)
class Shape:
    """How a kind of record is read: the columns to select, and what makes the records of such rows.

    `conversions` are those of the columns before the terms; at `places` stands what is no column of its own.
    """

    kind: type
    columns: tuple[str, ...]
    fitting: tuple[cells.Fits, ...]
    conversions: tuple[tuple[int, Callable[[Any], Any]], ...]
    places: tuple[tuple[int, str], ...]
    own: int

    @property
    def selected(self) -> str:
        """The columns as a statement lists them."""
        return ", ".join(self.columns)

    def made(self, found: Sequence[Sequence[Any]], **elsewhere: Iterable[object]) -> list[Any]:
        """The records of rows. Fields that live elsewhere, as readings' values, are handed over by name, as a column
        of their own. Columns beyond those of the shape are not regarded.

        Raises `RowError` for a row that cannot be a record.
        """
        if not found:
            return []
        kept = {name: list(values) for name, values in elsewhere.items()}
        try:
            return self._of_rows(found, kept)
        except _NO_ROW:
            for number, row in enumerate(found):  # which of them it was
                try:
                    self._of_rows([row], {name: [values[number]] for name, values in kept.items()})
                except _NO_ROW as error:
                    row_id = row[self.columns.index("id")] if "id" in self.columns else None
                    raise RowError(TABLES[self.kind], row_id, _in_words(error), number) from error
            raise

    def _of_rows(self, found: Sequence[Sequence[Any]], elsewhere: Mapping[str, Sequence[object]]) -> list[Any]:
        columns: list[Sequence[Any]] = list(zip(*found, strict=True))
        for name, column, fits in zip(self.columns, columns, self.fitting, strict=False):
            if (wrong := fits(column)) is not None:
                raise ValueError(f"{wrong} as its {name}")
        arguments: list[Iterable[Any]] = list(columns[: self.own])
        for place, convert in self.conversions:
            arguments[place] = _converted(columns[place], convert)
        terms = map(_terms, zip(*columns[self.own : len(self.columns)], strict=True))
        for place, name in self.places:
            arguments.insert(place, terms if name == "terms" else elsewhere[name])
        made = list(map(self.kind, *arguments))
        if self.kind in LOOKED_AT:
            for record in made:
                if (flaw := flaw_in(record)) is not None:
                    raise ValueError(flaw)
        return made


@cache
def shape_of(kind: type) -> Shape:
    """The shape of a kind of record."""
    hints = get_type_hints(kind)
    of_terms = _TERMS if "terms" in hints else ()
    ordered = [field.name for field in fields(kind)]
    names = [name for name in ordered if name not in _ELSEWHERE]
    every = {**get_type_hints(Terms), **hints}
    infinite = kind is Value  # an earlier program kept such figures: they are told where they are used
    return Shape(
        kind,
        (*names, *of_terms),
        tuple(cells.fitting(every[name], infinite=infinite) for name in (*names, *of_terms)),
        tuple((i, convert) for i, n in enumerate(names) if (convert := cells.conversion(hints[n])) is not None),
        tuple((place, name) for place, name in enumerate(ordered) if name in _ELSEWHERE),
        len(names),
    )


LOOKED_AT = (
    records.Session, records.Event, records.Model, records.Source, records.Meter, records.ToleranceSet, records.Subject,
    records.Modifier, Look,
)  # fmt: skip
"""Kinds whose types alone do not say that they can be; readings are looked at by `bench.limits` where they are used."""


def _in_words(error: Exception) -> str:
    """Why a row is none, without the words of the interpreter."""
    if isinstance(error, KeyError):
        return f"“{error.args[0]}”, which is none of the words that may stand there"
    return "brackets too deep" if isinstance(error, RecursionError) else str(error)


def _converted(column: Sequence[Any], convert: Callable[[Any], Any]) -> list[Any]:
    """A column in the type of its field; what is not stated stays so."""
    return [value if value is None else convert(value) for value in column]


@lru_cache(maxsize=8192)
def _terms(kept: tuple[Any, ...]) -> Terms:
    """Terms from their columns; most readings share theirs with others."""
    named = dict(zip(_TERMS, kept, strict=True))
    return Terms(**{**named, "configuration": cells.texts(named["configuration"])})


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
    """The spectrum of a row of `SPECTRUM_COLUMNS`. Raises `RowError`."""
    reading_id, first_nm, step_nm, wavelengths, kept, absolute = row
    try:
        samples = cells.doubles(kept, least=2)
        if step_nm is None:
            wavelength = cells.doubles(wavelengths, least=2)
        else:
            wavelength = float(first_nm) + float(step_nm) * np.arange(samples.size, dtype=np.float64)
        if wavelength.size != samples.size or not np.all(np.diff(wavelength) > 0.0):
            raise ValueError("as many rising wavelengths as samples are not there")
    except (ValueError, TypeError, OverflowError) as error:
        raise RowError("spectrum", reading_id, str(error)) from error
    return Spectrum(wavelength, samples, bool(absolute))


def trace_to_row(reading_id: str, trace: Trace) -> dict[str, Any]:
    """The row of a trace: times and samples as little-endian doubles."""
    return {
        "reading_id": reading_id,
        "quantity": trace.quantity,
        "seconds": np.asarray(trace.seconds, dtype="<f8").tobytes(),
        "samples": np.asarray(trace.values, dtype="<f8").tobytes(),
    }


TRACE_COLUMNS = ("reading_id", "quantity", "seconds", "samples")


def trace_from_row(row: Sequence[Any]) -> Trace:
    """The trace of a row of `TRACE_COLUMNS`. Raises `RowError`."""
    reading_id, quantity, seconds, samples = row
    try:
        times, values = cells.doubles(seconds), cells.doubles(samples)
        if not isinstance(quantity, str) or times.size != values.size:
            raise ValueError("as many moments as samples are not there")
    except (ValueError, TypeError) as error:
        raise RowError("trace", reading_id, str(error)) from error
    return Trace(quantity, times, values)


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
    """The computed figures of a row of `COMPUTED_COLUMNS`; what has no answer is left out. Raises `RowError`."""
    scalars = {name: value for name, value in zip(COMPUTED_SCALARS, row[3:], strict=True) if value is not None}
    if not isinstance(row[1], int) or not all(type(value) in _NUMBERS for value in scalars.values()):
        raise RowError("computed", row[0], "a text where a number belongs")
    return Computed(row[0], row[1], scalars, KeptVectors(row[2]))


_NUMBERS = frozenset({int, float})


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
