"""Every figure of every reading as a flat table."""

import json
from collections.abc import Sequence
from pathlib import Path

from even_beam.bench.fields import FIELDS
from even_beam.bench.measured import Measured
from even_beam.bench.records import Session
from even_beam.collection.collection import Collection
from even_beam.files.writing import write
from even_beam.formats import readings_table
from even_beam.words.quantities import QUANTITIES


def table_rows(collection: Collection, session_ids: Sequence[str] | None = None) -> list[dict[str, str]]:
    """Every figure of every reading as rows of the flat table, what does not count marked in the note."""
    rows = []
    for session in collection.sessions:
        if session_ids is None or session.id in session_ids:
            for measured in collection.readings_in(session.id):
                rows += _reading_rows(collection, session, measured)
    return rows


def _reading_rows(collection: Collection, session: Session, measured: Measured) -> list[dict[str, str]]:
    terms, reading = measured.terms, measured.reading
    meter = collection.meters.get(reading.meter_id or "")
    notes = [reading.note, *measured.state.notes, *measured.state.marks]
    common = {
        "session": session.name,
        "fixture": " + ".join(collection.sources[i].nickname for i in reading.source_ids if i in collection.sources),
        **{one.column: one.write(terms) for one in FIELDS if one.column and one.write is not None},
        "meter": meter.nickname if meter is not None else "",
        "time": reading.at.isoformat(timespec="seconds"),
        "note": "; ".join(note for note in notes if note),
    }
    as_read = Measured(measured.state, measured.computed)  # the room's light has rows of its own, mode “off”
    given = [value.quantity for value in reading.values]
    computed = [name for name in (measured.computed.scalars if measured.computed else ()) if name in QUANTITIES]
    quantities = dict.fromkeys([*given, *computed])
    rows = []
    for quantity in quantities:
        for origin, figure in as_read.figures(quantity).items():
            value = figure.text if figure.value is None else _unambiguous(f"{figure.value:.6g}")
            rows.append({**common, "quantity": quantity, "value": value, "origin": str(origin)})
    return rows


def _unambiguous(text: str) -> str:
    """Three decimals could be read as thousands: a fourth says that they are not."""
    whole, point, decimals = text.partition(".")
    return f"{text}0" if point and len(decimals) == 3 and len(whole.lstrip("-")) <= 3 else text


def write_table(
    collection: Collection, path: Path, session_ids: Sequence[str] | None = None, *, over_others: bool = False
) -> int:
    """All readings as CSV, XLSX or JSON, by the suffix; returns the number of rows. Raises `OutputError`."""
    rows = table_rows(collection, session_ids)
    suffix = path.suffix.lower()
    if suffix == ".xlsx":
        made = readings_table.workbook(rows)
    elif suffix == ".json":
        made = json.dumps({"readings": rows}, indent=1, ensure_ascii=False).encode("utf-8", "replace")
    else:
        made = readings_table.write_csv(rows).encode("utf-8", "replace")
    write(path, made, over_others=over_others)
    return len(rows)
