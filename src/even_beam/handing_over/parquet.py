"""A logbook as Parquet files, for collections beyond one machine: readings, values, spectra, computed, one file each.

Row groups are written session by session: a logbook of many years is never held whole.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import fields
from itertools import islice
from pathlib import Path
from typing import TYPE_CHECKING, Any, get_type_hints

from even_beam.bench.measured import Measured
from even_beam.bench.records import Terms
from even_beam.collection.collection import Collection, standing_in
from even_beam.errors import TellableError
from even_beam.files.errors import OutputError
from even_beam.logbook.reader import KeptFigures
from even_beam.logbook.schema import COMPUTED_SCALARS

if TYPE_CHECKING:
    import pyarrow

SESSIONS_AT_ONCE = 50
FILES = ("readings", "values", "spectra", "computed")
Row = Mapping[str, Any]


class NoParquetError(TellableError):
    """The library for it is not installed."""


def write_parquet(collection: Collection, folder: Path, session_id: str | None = None) -> int:
    """Write the four files into a folder that is new or empty; how many readings. Raises `NoParquetError`,
    `OutputError` and `LogbookError`."""
    try:
        from pyarrow.parquet import ParquetWriter
    except ImportError as error:
        raise NoParquetError(
            "Parquet needs the library pyarrow, which is not installed. pip install 'even-beam[parquet]' brings it;"
            " --to folder needs nothing."
        ) from error
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if any(folder.iterdir()):
            raise OutputError(f"{folder} has something in it. Nothing was written: name a new folder.")
    except OSError as error:
        raise OutputError(f"{folder} cannot be written: {error.strerror}. Nothing was written.") from error
    schemas, count = _schemas(), 0
    writers = {name: ParquetWriter(folder / f"{name}.parquet", schemas[name]) for name in FILES}
    try:
        ids = iter([session.id for session in collection.sessions if session_id in (None, session.id)])
        while several := list(islice(ids, SESSIONS_AT_ONCE)):
            tables = _tables(collection, several)
            count += len(tables["readings"])
            for name, rows in tables.items():
                writers[name].write_table(_table(rows, schemas[name]))
    finally:
        for writer in writers.values():
            writer.close()
    return count


def _table(rows: Sequence[Row], schema: "pyarrow.Schema") -> "pyarrow.Table":
    import pyarrow

    return pyarrow.Table.from_pylist([dict(row) for row in rows], schema=schema)


def _schemas() -> dict[str, "pyarrow.Schema"]:
    import pyarrow as pa

    text, real, texts = pa.string(), pa.float64(), pa.list_(pa.string())
    kinds = {str: text, float: real, float | None: real, tuple[str, ...]: texts}
    terms = [(name, kinds[kind]) for name, kind in get_type_hints(Terms).items()]
    reading = [
        ("reading_id", text), ("session_id", text), ("session", text), ("at", pa.timestamp("ms", "UTC")),
        ("sequence", pa.int64()), ("lamp_ids", texts), ("lamps", texts), ("models", texts), ("meter", text),
        ("counts", pa.bool_()), ("note", text), *terms,
    ]  # fmt: skip
    value = [
        ("reading_id", text), ("quantity", text), ("origin", text), ("value", real), ("low", real), ("high", real),
        ("text", text), ("unit", text), ("qualifier", text),
    ]  # fmt: skip
    spectrum = [
        ("reading_id", text), ("wavelength_nm", pa.list_(real)), ("values", pa.list_(real)), ("absolute", pa.bool_()),
    ]  # fmt: skip
    computed = [("reading_id", text), ("method_version", pa.int64()), *((name, real) for name in COMPUTED_SCALARS)]
    return {name: pa.schema(own) for name, own in zip(FILES, (reading, value, spectrum, computed), strict=True)}


def _tables(collection: Collection, session_ids: Sequence[str]) -> dict[str, Sequence[Row]]:
    logbook = collection.logbook
    standing = standing_in(logbook.history_of_sessions(session_ids))
    ids = [measured.reading.id for measured in standing]
    figures, spectra = logbook.figures(ids), logbook.spectra(ids)
    return {
        "readings": [_reading(collection, measured) for measured in standing],
        "values": [
            {"reading_id": i, **{name: getattr(value, name) for name in _VALUE}, "origin": str(value.origin)}
            for i in ids
            for value in figures[i].values
        ],
        "spectra": [
            {
                "reading_id": i,
                "wavelength_nm": curve.wavelength_nm.tolist(),
                "values": curve.values.tolist(),
                "absolute": curve.absolute,
            }
            for i, curve in spectra.items()
        ],
        "computed": list(_computed(figures)),
    }


_VALUE = ("quantity", "value", "low", "high", "text", "unit", "qualifier")


def _reading(collection: Collection, measured: Measured) -> Row:
    reading = measured.reading
    session = collection.session_by_id[reading.session_id]
    lamps = [collection.sources[i] for i in reading.source_ids if i in collection.sources]
    meter = collection.meters.get(reading.meter_id or "")
    return {
        "reading_id": reading.id,
        "session_id": reading.session_id,
        "session": session.name,
        "at": reading.at,
        "sequence": reading.sequence,
        "lamp_ids": [lamp.id for lamp in lamps],
        "lamps": [lamp.nickname for lamp in lamps],
        "models": [
            collection.models[lamp.model_id].name if lamp.model_id in collection.models else "" for lamp in lamps
        ],
        "meter": meter.nickname if meter is not None else None,
        "counts": measured.state.counts,
        "note": reading.note,
        **{field.name: getattr(measured.terms, field.name) for field in fields(Terms)},
    }


def _computed(figures: Mapping[str, KeptFigures]) -> Iterator[Row]:
    for reading_id, kept in figures.items():
        if (one := kept.computed) is not None:
            scalars = {name: one.scalars.get(name) for name in COMPUTED_SCALARS}
            yield {"reading_id": reading_id, "method_version": one.method_version, **scalars}
