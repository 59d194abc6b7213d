"""Another logbook taken into this one, record by record: what is there already is not there twice, nothing is
overwritten, and of a field that both changed the later stands.

Both are files of the present format. All of it is one transaction, which the caller holds.
"""

import json
import sqlite3
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from even_beam.logbook import changes
from even_beam.logbook.changes import GONE
from even_beam.logbook.schema import statements
from even_beam.logbook.statements import among

THERE = "there"
"""What the other file is attached as."""

NAMED_BY: Mapping[str, str] = {
    "source": "nickname", "meter": "nickname", "modifier": "nickname", "subject": "nickname", "tolerance_set": "name",
    "look": "name",
}  # fmt: skip
"""Tables of which no two records have the same name, and the column that names them."""

OF_SESSIONS = ("step", "observation", "report_layout", "conditions", "reading", "photo", "event")
OF_READINGS = ("value", "spectrum", "trace", "computed")
ONLY_GROW = ("reading", "event", "change", "same")
ARRIVE = (*changes.CAN_CHANGE, *ONLY_GROW)
"""All tables of records, those that others name before them."""


@dataclass(frozen=True, slots=True)
class Conflict:
    """A field that both had changed, each not knowing of the other: the cells of either, as JSON, and what stands."""

    what: str
    record_id: str
    field: str
    here: str
    there: str
    kept: str


@dataclass(frozen=True, slots=True)
class Decided:
    """What was decided before records are taken in: sessions that are left out, and records that are here under
    another identity, by table and identity."""

    without_sessions: Collection[str] = ()
    left_out: Collection[tuple[str, str]] = ()


@dataclass(slots=True)
class TakenIn:
    """How many records of each table came, how many readings were there already, and what both had changed; `changed`
    are records that came and of which changes were known before, `renamed` has table, identity and both names."""

    came: dict[str, int] = field(default_factory=dict)
    already: int = 0
    changed: set[tuple[str, str]] = field(default_factory=set)
    renamed: list[tuple[str, str, str, str]] = field(default_factory=list)
    conflicts: list[Conflict] = field(default_factory=list)


def take_in(
    connection: sqlite3.Connection,
    decided: Decided,
    origin: str,
    *,
    hub_id: str = "",
    progress: Callable[[str], None] = lambda table: None,
) -> TakenIn:
    """Take in the file that is attached as `there` and comes from `origin`. Raises `sqlite3.Error`."""
    taken = TakenIn()
    taken.already = _count(
        connection, "reading r WHERE EXISTS (SELECT 1 FROM main.reading own WHERE own.id = r.id)", THERE
    )
    before = _differing_history(connection)
    names = _Names(connection, origin)
    # changes first: a thing here that goes by another name there leaves its own to what comes
    taken.came["change"] = _take_table(connection, "change", decided, names, hub_id, taken.changed)
    latest = _settle_changes(connection, taken, names)
    for table in ARRIVE:
        if table != "change":
            progress(table)
            taken.came[table] = _take_table(connection, table, decided, names, hub_id, taken.changed)
    taken.renamed = list(names.given_others)
    latest |= _settle_changes(connection, taken, names)
    taken.conflicts = [Conflict(*key, *both, latest.get(key, both[0])) for key, both in sorted(before.items())]
    _settle_what_never_changed(connection)
    return taken


def _count(connection: sqlite3.Connection, what: str, schema: str = "main") -> int:
    return int(connection.execute(f"SELECT count(*) FROM {schema}.{what}").fetchone()[0])


def _take_table(
    connection: sqlite3.Connection,
    table: str,
    decided: Decided,
    names: "_Names",
    hub_id: str,
    changed: set[tuple[str, str]],
) -> int:
    """Take what is not here of one table; how many records."""
    left_out = [record_id for name, record_id in decided.left_out if name == table]
    conditions, given = [f"o.id NOT IN (SELECT id FROM main.{table})"], list[Any]()
    if left_out:
        which = among("o.id", left_out)
        conditions.append(f"NOT ({which.condition})")
        given += which.given
    if decided.without_sessions and (table in OF_SESSIONS or table == "session"):
        which = among("o.id" if table == "session" else "o.session_id", decided.without_sessions)
        conditions.append(f"NOT ({which.condition})")
        given += which.given
    if table == "mapping":  # one for each shape of file: the own stands
        conditions.append("o.shape NOT IN (SELECT shape FROM main.mapping)")
    fresh = f"fresh_{table}"
    connection.execute(
        f"CREATE TEMP TABLE {fresh} AS SELECT o.id AS id FROM {THERE}.{table} o WHERE {' AND '.join(conditions)}"
        " ORDER BY o.rowid",
        given,
    )
    count = _count(connection, fresh, "temp")
    if count:
        listed = ", ".join(common_columns(connection, table))
        if table in NAMED_BY:
            _insert_named(connection, table, names)
        else:
            connection.execute(
                f"INSERT INTO main.{table} ({listed}) SELECT {listed} FROM {THERE}.{table} o"
                f" WHERE id IN (SELECT id FROM {fresh}) ORDER BY o.rowid"
            )
        connection.execute(
            f"INSERT INTO main.arrival (what, record_id, hub_id) SELECT ?, id, ? FROM {fresh}", (table, hub_id)
        )
        if table in changes.CAN_CHANGE:
            found = connection.execute(
                f"SELECT DISTINCT record_id FROM main.change WHERE what = ? AND record_id IN (SELECT id FROM {fresh})",
                (table,),
            )
            changed |= {(table, str(record_id)) for (record_id,) in found}
        if table == "reading":
            for own in OF_READINGS:
                listed = ", ".join(common_columns(connection, own))
                connection.execute(
                    f"INSERT INTO main.{own} ({listed}) SELECT {listed} FROM {THERE}.{own}"
                    f" WHERE reading_id IN (SELECT id FROM {fresh})"
                )
    connection.execute(f"DROP TABLE {fresh}")
    return count


def _insert_named(connection: sqlite3.Connection, table: str, names: "_Names") -> None:
    """Records of which no two have the same name: one whose name is taken comes under another."""
    columns = common_columns(connection, table)
    listed, column = ", ".join(columns), NAMED_BY[table]
    found = connection.execute(
        f"SELECT {listed} FROM {THERE}.{table} o WHERE id IN (SELECT id FROM fresh_{table}) ORDER BY o.rowid"
    ).fetchall()
    for cells in found:
        row = dict(zip(columns, cells, strict=True))
        name = names.given(table, row["id"], row[column])
        connection.execute(
            f"INSERT INTO main.{table} ({listed}) VALUES ({', '.join('?' * len(columns))})",
            tuple({**row, column: name}.values()),
        )
        if name != row[column]:
            names.renamed(table, row["id"], row[column], name)


def common_columns(connection: sqlite3.Connection, table: str) -> list[str]:
    """The columns that both files know: one may be of a newer format."""
    there = {row[1] for row in connection.execute(f"PRAGMA {THERE}.table_info({table})")}
    return [row[1] for row in connection.execute(f"PRAGMA main.table_info({table})") if row[1] in there]


class _Names:
    """Names of which no two may be the same, and the changes that giving another one makes."""

    def __init__(self, connection: sqlite3.Connection, origin: str) -> None:
        self._connection, self._origin = connection, origin
        self.changes: list[changes.Row] = []
        self.given_others: list[tuple[str, str, str, str]] = []

    def given(self, table: str, record_id: str, name: str) -> str:
        """The name under which a record goes: its own, or where that is taken one that says where it is from."""
        number, tried = 1, name
        while self._is_taken(table, record_id, tried):
            number += 1
            tried = f"{name} ({self._origin})" if number == 2 else f"{name} ({self._origin}, {number - 1})"
        return tried

    def _is_taken(self, table: str, record_id: str, name: str) -> bool:
        column = NAMED_BY[table]
        found = self._connection.execute(
            f"SELECT 1 FROM main.{table} WHERE id != ? AND lower({column}) = lower(?)", (record_id, name)
        )
        return found.fetchone() is not None

    def renamed(self, table: str, record_id: str, old: str, new: str) -> None:
        """Note that a record goes by another name from here on."""
        at = changes.moment(self._connection)
        column = NAMED_BY[table]
        self.given_others.append((table, record_id, old, new))
        self.changes.append(changes.change(at, table, record_id, column, changes.cell(old), changes.cell(new)))


# --- what was changed

Key = tuple[str, str, str]


def _heads(connection: sqlite3.Connection, schema: str, but_of: str) -> dict[Key, str]:
    """Of each field that one file changed, with changes that the other has not, the latest of these."""
    found = connection.execute(
        f"SELECT what, record_id, field, new FROM {schema}.change c"
        f" WHERE NOT EXISTS (SELECT 1 FROM {but_of}.change o WHERE o.id = c.id) ORDER BY at, id"
    )
    return {(what, record_id, name): new for what, record_id, name, new in found}


def _differing_history(connection: sqlite3.Connection) -> dict[Key, tuple[str, str]]:
    """The fields that both changed, each not knowing of the other, with what either made of them."""
    here, there = _heads(connection, "main", THERE), _heads(connection, THERE, "main")
    return {key: (here[key], there[key]) for key in here.keys() & there.keys() if here[key] != there[key]}


def _settle_changes(connection: sqlite3.Connection, taken: TakenIn, names: _Names) -> dict[Key, str]:
    """Let the latest of all changes stand in each field that has one from there; which that is."""
    _keep_changes(connection, names.changes)
    names.changes.clear()
    found = connection.execute(
        "SELECT what, record_id, field, new FROM main.change c WHERE EXISTS (SELECT 1 FROM"
        f" {THERE}.change o WHERE o.what = c.what AND o.record_id = c.record_id AND o.field = c.field)"
        " OR record_id IN (SELECT value FROM json_each(?)) ORDER BY at, id",
        (json.dumps([record_id for _, record_id in taken.changed]),),
    )
    latest: dict[Key, str] = {(what, record_id, name): new for what, record_id, name, new in found}
    known = [key for key in latest if key[0] in changes.CAN_CHANGE]  # others are of a newer format
    for what, record_id, name in known:
        if name not in _columns(what):
            continue
        value = json.loads(latest[what, record_id, name])
        if NAMED_BY.get(what) == name and (free := names.given(what, record_id, value)) != value:
            names.renamed(what, record_id, value, free)
            value = free
        connection.execute(f"UPDATE main.{what} SET {name} = ? WHERE id = ?", (value, record_id))
    gone = [(what, record_id) for what, record_id, name in known if not name and latest[what, record_id, name] == GONE]
    for what, record_id in sorted(gone, key=lambda one: -changes.CAN_CHANGE.index(one[0])):  # what names others first
        _take_out(connection, what, record_id)
    _keep_changes(connection, names.changes)
    names.changes.clear()
    return latest


@cache
def _columns(table: str) -> frozenset[str]:
    with sqlite3.connect(":memory:") as ours:
        ours.executescript(statements())
        return frozenset(row[1] for row in ours.execute(f"PRAGMA table_info({table})"))


def _keep_changes(connection: sqlite3.Connection, made: Sequence[changes.Row]) -> None:
    for row in made:
        connection.execute(
            "INSERT INTO main.change (id, at, what, record_id, field, old, new)"
            " VALUES (:id, :at, :what, :record_id, :field, :old, :new)",
            row,
        )
        connection.execute("INSERT INTO main.arrival (what, record_id) VALUES ('change', ?)", (row["id"],))


_NAMED_IN: Mapping[str, Sequence[str]] = {
    "model": ("source WHERE model_id = ?", "claim WHERE model_id = ?", "cost WHERE model_id = ?",
              "gear WHERE model_id = ?"),
    "meter": ("reading WHERE meter_id = ?", "step WHERE meter_id = ?", "calibration WHERE meter_id = ?"),
    "source": ("reading WHERE instr(source_ids, ?)", "step WHERE instr(source_ids, ?)",
               "observation WHERE instr(source_ids, ?)"),
    "session": tuple(f"{table} WHERE session_id = ?" for table in OF_SESSIONS),
    "step": ("reading WHERE step_id = ?", "event WHERE step_id = ?"),
    "observation": ("photo WHERE observation_id = ?",),
}  # fmt: skip
"""Where records of a table are named: one that is, is not taken out."""


def _take_out(connection: sqlite3.Connection, table: str, record_id: str) -> None:
    """Take a record out, as was done on one of the benches; where the other went on using it, it is put back."""
    if any(
        connection.execute(f"SELECT 1 FROM main.{place} LIMIT 1", (record_id,)).fetchone()
        for place in _NAMED_IN.get(table, ())
    ):
        if connection.execute(f"SELECT 1 FROM main.{table} WHERE id = ?", (record_id,)).fetchone():
            at = changes.moment(connection)
            _keep_changes(connection, [changes.change(at, table, record_id, "", GONE, changes.THERE)])
        return
    connection.execute(f"DELETE FROM main.{table} WHERE id = ?", (record_id,))


def _settle_what_never_changed(connection: sqlite3.Connection) -> None:
    """Fields that differ although neither file knows of a change, as of logbooks that were copied before changes were
    kept: either may be right, and both files take the same one."""
    for table in changes.CAN_CHANGE:
        columns = [name for name in common_columns(connection, table) if name != "id"]
        differs = " OR ".join(f"m.{name} IS NOT o.{name}" for name in columns)
        listed = ", ".join(["m.id", *(f"m.{name}" for name in columns), *(f"o.{name}" for name in columns)])
        found = connection.execute(
            f"SELECT {listed} FROM main.{table} m JOIN {THERE}.{table} o ON o.id = m.id WHERE {differs}"
        ).fetchall()
        for record_id, *cells in found:
            changed = {
                row[0]
                for row in connection.execute(
                    "SELECT DISTINCT field FROM main.change WHERE what = ? AND record_id = ?", (table, record_id)
                )
            }
            for name, here, there in zip(columns, cells[: len(columns)], cells[len(columns) :], strict=True):
                if name not in changed and here != there and _greater(there, here):
                    connection.execute(f"UPDATE main.{table} SET {name} = ? WHERE id = ?", (there, record_id))


def _greater(one: Any, other: Any) -> bool:
    """An order in which nothing comes first, so that what was written stands before what was not."""
    return (one is not None, str(one)) > (other is not None, str(other))
