"""What was changed in records that can change: each change is kept, so that two benches that changed the same can be
brought to one, and nothing is overwritten."""

import json
import sqlite3
from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from typing import Any

from even_beam.bench.records import new_id
from even_beam.logbook.statements import among

Row = Mapping[str, Any]

CAN_CHANGE = (
    "model", "source", "claim", "cost", "gear", "subject", "modifier", "meter", "tolerance_set", "plan", "mapping",
    "session", "report_layout", "look", "calibration", "conditions", "step", "observation", "photo",
)  # fmt: skip
"""Tables whose records may be replaced or taken out; readings and events never are."""

THERE, GONE = "1", "null"
"""What a change without a field says: the record was put back, or taken out."""


def cell(value: Any) -> str:
    """A cell as a change keeps it."""
    return json.dumps(value, ensure_ascii=False, sort_keys=True)


def moment(connection: sqlite3.Connection) -> str:
    """The time of a change that is made now: behind all that were heard of, also where a clock goes wrong."""
    now = datetime.now(UTC)
    last = connection.execute("SELECT max(at) FROM change").fetchone()[0]
    if last is not None and last >= _text(now):
        with suppress(ValueError, OverflowError):  # no time at all: nothing is behind it
            now = datetime.fromisoformat(last) + timedelta(microseconds=1)
    return _text(now)


def _text(at: datetime) -> str:
    return at.astimezone(UTC).isoformat(timespec="microseconds").replace("+00:00", "Z")


def of_replacing(connection: sqlite3.Connection, table: str, kept: Sequence[Row]) -> tuple[list[Row], list[str]]:
    """The changes that these rows make of those that stand there, and the ids of rows that stand there not yet."""
    which = among("id", [row["id"] for row in kept])
    names = list(kept[0])
    found = connection.execute(f"SELECT {', '.join(names)} FROM {table} WHERE {which.condition}", which.given)
    before = {row["id"]: row for row in (dict(zip(names, cells, strict=True)) for cells in found)}
    fresh = [row["id"] for row in kept if row["id"] not in before]
    at = moment(connection)
    made = [
        change(at, table, row["id"], name, cell(before[row["id"]][name]), cell(row[name]))
        for row in kept
        if row["id"] in before
        for name in names
        if before[row["id"]][name] != row[name]
    ]
    return [*made, *_put_back(connection, table, fresh, at)], fresh


def of_inserting(connection: sqlite3.Connection, table: str, ids: Sequence[str]) -> list[Row]:
    """The changes that tell that records which had been taken out are back."""
    return list(_put_back(connection, table, ids, moment(connection)))


def _put_back(connection: sqlite3.Connection, table: str, ids: Sequence[str], at: str) -> Iterator[Row]:
    which = among("record_id", ids)
    named = connection.execute(
        f"SELECT DISTINCT record_id FROM change WHERE what = ? AND field = '' AND {which.condition}",
        (table, *which.given),
    )
    yield from [change(at, table, str(record_id), "", GONE, THERE) for (record_id,) in named]


def of_taking_out(connection: sqlite3.Connection, table: str, record_id: str) -> list[Row]:
    """The change that tells that a record was taken out, with all that stood in it."""
    found = connection.execute(f"SELECT * FROM {table} WHERE id = ?", (record_id,))
    row = found.fetchone()
    if row is None:
        return []
    was = dict(zip([column[0] for column in found.description], row, strict=True))
    return [change(moment(connection), table, record_id, "", cell(was), GONE)]


def change(at: str, table: str, record_id: str, field: str, old: str, new: str) -> Row:
    """The row of a change."""
    return {"id": new_id(), "at": at, "what": table, "record_id": record_id, "field": field, "old": old, "new": new}
