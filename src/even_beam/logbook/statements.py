"""Statements of the logbook in parts: which rows, and rows put in by the names of their cells."""

import json
from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple

from even_beam.logbook import cells


class Where(NamedTuple):
    """Which rows: a condition and what stands for its question marks."""

    condition: str
    given: tuple[Any, ...] = ()

    def __and__(self, other: "Where") -> "Where":
        return Where(f"({self.condition}) AND ({other.condition})", (*self.given, *other.given))

    def but(self, other: "Where") -> "Where":
        """Those of which the other does not hold."""
        return Where(f"({self.condition}) AND NOT ({other.condition})", (*self.given, *other.given))


def among(column: str, ids: Iterable[str]) -> Where:
    """Whether a column is one of some ids, handed over as one list: a statement takes only so many parameters, and each
    costs its time."""
    return Where(f"{column} IN (SELECT value FROM json_each(?))", (json.dumps(list(ids)),))


def alone(*identities: str) -> Where:
    """Readings of one source, under any of its identities, and no other."""
    if len(identities) == 1:
        return Where("source_ids = ?", (cells.json_text(identities),))
    return among("source_ids", [cells.json_text((one,)) for one in identities])


def of_readings(*which: Where) -> Where:
    """What belongs to readings of which any of these holds."""
    ids = " UNION ".join(f"SELECT id FROM reading WHERE {one.condition}" for one in which)
    return Where(f"reading_id IN ({ids})", tuple(given for one in which for given in one.given))


def inserting(table: str, row: Mapping[str, Any]) -> str:
    """A statement that inserts rows like this one, their cells by name."""
    return f"INSERT INTO {table} ({', '.join(row)}) VALUES ({', '.join(f':{name}' for name in row)})"


def replacing(table: str, row: Mapping[str, Any], key: str) -> str:
    """The same, replacing the row of the same key."""
    changes = ", ".join(f"{name} = excluded.{name}" for name in row if name != key)
    return f"{inserting(table, row)} ON CONFLICT ({key}) DO UPDATE SET {changes}"
