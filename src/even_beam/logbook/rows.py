"""Records to rows and back. Columns have the names of the records' fields; terms are spread over their own."""

import math
from collections.abc import Mapping
from dataclasses import fields
from enum import Enum
from typing import Any, TypeVar

import numpy as np
from sqlalchemy import Table

from even_beam.bench import records
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import Computed, Event, EventKind, Origin, Reading, Spectrum, Step, Terms, Value
from even_beam.bench.target import Look
from even_beam.bench.traces import Trace
from even_beam.logbook import schema

Record = TypeVar("Record")

TABLES: dict[type, Table] = {
    records.Model: schema.model,
    records.Source: schema.source,
    records.Claim: schema.claim,
    records.Cost: schema.cost,
    records.Modifier: schema.modifier,
    records.Meter: schema.meter,
    records.Calibration: schema.calibration,
    records.ToleranceSet: schema.tolerance_set,
    records.FileMapping: schema.mapping,
    records.Session: schema.session,
    records.Conditions: schema.conditions,
    records.Step: schema.step,
    records.Reading: schema.reading,
    records.Event: schema.event,
    Observation: schema.observation,
    Photo: schema.photo,
    Look: schema.look,
}

_TERMS = tuple(field.name for field in fields(Terms))


def to_row(record: object) -> dict[str, Any]:
    """The row of a record; a reading's values have rows of their own."""
    row: dict[str, Any] = {}
    for field in fields(record):  # type: ignore[arg-type]
        value = getattr(record, field.name)
        if isinstance(value, Terms):
            row.update({name: getattr(value, name) for name in _TERMS})
        elif field.name != "values":
            row[field.name] = value.value if isinstance(value, Enum) else value
    return row


def from_row(kind: type[Record], row: Mapping[Any, Any], **extra: object) -> Record:
    """The record of a row. `extra` gives fields that live elsewhere."""
    names = {field.name for field in fields(kind)}  # type: ignore[arg-type]
    values = {name: row[name] for name in names if name in row}
    if kind in (Step, Reading, Observation):
        values["terms"] = Terms(**{name: row[name] for name in _TERMS})
    if kind is Event:
        values["kind"] = EventKind(values["kind"])
    return kind(**values, **extra)


def value_to_row(reading_id: str, value: Value) -> dict[str, Any]:
    """The row of a figure of a reading."""
    return {"reading_id": reading_id, **to_row(value)}


def value_from_row(row: Mapping[Any, Any]) -> Value:
    """The figure of a row."""
    values = {field.name: row[field.name] for field in fields(Value)}
    values["origin"] = Origin(values["origin"])
    return Value(**values)


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


def spectrum_from_row(row: Mapping[Any, Any]) -> Spectrum:
    """The spectrum of a row."""
    samples = np.frombuffer(row["samples"], dtype="<f8")
    if row["step_nm"] is None:
        wavelength = np.frombuffer(row["wavelengths"], dtype="<f8")
    else:
        wavelength = row["first_nm"] + row["step_nm"] * np.arange(samples.size)
    return Spectrum(wavelength, samples, bool(row["absolute"]))


def trace_to_row(reading_id: str, trace: Trace) -> dict[str, Any]:
    """The row of a trace: times and samples as little-endian doubles."""
    return {
        "reading_id": reading_id,
        "quantity": trace.quantity,
        "seconds": np.asarray(trace.seconds, dtype="<f8").tobytes(),
        "samples": np.asarray(trace.values, dtype="<f8").tobytes(),
    }


def trace_from_row(row: Mapping[Any, Any]) -> Trace:
    """The trace of a row."""
    return Trace(
        row["quantity"], np.frombuffer(row["seconds"], dtype="<f8"), np.frombuffer(row["samples"], dtype="<f8")
    )


def computed_to_row(computed: Computed) -> dict[str, Any]:
    """The row of computed figures; what has no answer is NULL."""
    scalars = {name: computed.scalars.get(name, math.nan) for name in schema.COMPUTED_SCALARS}
    return {
        "reading_id": computed.reading_id,
        "method_version": computed.method_version,
        **{name: None if math.isnan(value) else value for name, value in scalars.items()},
        "vectors": {name: [None if math.isnan(v) else v for v in vector] for name, vector in computed.vectors.items()},
    }


def computed_from_row(row: Mapping[Any, Any]) -> Computed:
    """The computed figures of a row; what has no answer is left out."""
    return Computed(
        row["reading_id"],
        row["method_version"],
        {name: row[name] for name in schema.COMPUTED_SCALARS if row[name] is not None},
        {name: tuple(math.nan if v is None else v for v in vector) for name, vector in (row["vectors"] or {}).items()},
    )
