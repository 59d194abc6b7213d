"""Every change of a logbook bears a mark of its own and names the one before it.

So a log that lies beside a file can be told to be of that file: the mark of the file is the one that the log's first
change names, or one of the log's own. A log of a file that once had the same name has other marks, and SQLite, which
does not look, would play it in.
"""

import secrets
import sqlite3
import struct
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import NamedTuple

from even_beam.logbook.connection import connect

TABLE = "chain"


class Mark(NamedTuple):
    """The mark of a change, and that of the change before it."""

    here: str
    before: str


def fresh() -> str:
    """A mark that no other change has."""
    return secrets.token_hex(8)


def forge(connection: sqlite3.Connection) -> str:
    """Mark the change that is under way, as the first thing in it; the new mark."""
    mark = fresh()
    connection.execute(f"UPDATE {TABLE} SET before = here, here = ?", (mark,))
    return mark


def begin(connection: sqlite3.Connection) -> None:
    """The first mark of a file: of a new one, and of a copy, which goes a way of its own."""
    connection.execute(f"DELETE FROM {TABLE}")
    connection.execute(f"INSERT INTO {TABLE} (here, before) VALUES (?, '')", (fresh(),))


def mark_of(connection: sqlite3.Connection) -> str | None:
    """The mark of the newest change; None of a file that keeps no chain. Raises `sqlite3.Error`."""
    if connection.execute("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?", (TABLE,)).fetchone() is None:
        return None
    found = connection.execute(f"SELECT here FROM {TABLE}").fetchone()
    return str(found[0]) if found is not None else None


class _Kept(NamedTuple):
    """What the file itself says, without its log."""

    mark: str
    page: int


def _kept_in(path: Path) -> _Kept | None:
    with closing(connect(path, "ro", immutable=True)) as alone:
        mark = mark_of(alone)
        root = alone.execute("SELECT rootpage FROM sqlite_master WHERE name = ?", (TABLE,)).fetchone()
    return _Kept(mark, int(root[0])) if mark is not None and root is not None else None


def continues(path: Path, log: Path) -> bool | None:
    """Whether a log goes on from what the file holds; None where its marks cannot tell.

    Raises `OSError` for files that cannot be read.
    """
    try:
        kept = _kept_in(path)
    except (sqlite3.Error, UnicodeDecodeError):
        return None  # cut short while the log was being folded in, maybe
    if kept is None:
        return None
    marks = list(_marks_in(log, kept.page))
    if not marks:
        return None
    return kept.mark == marks[0].before or any(kept.mark == mark.here for mark in marks)


# --- the log's own layout. Source: https://www.sqlite.org/fileformat2.html, sections 1.6, 2.1 and 4.1

_HEAD, _FRAME = struct.Struct(">IIIIIIII"), struct.Struct(">IIIIII")
_MAGIC = (0x377F0682, 0x377F0683)
_LEAF_OF_A_TABLE = 13


def _marks_in(log: Path, page: int) -> Iterator[Mark]:
    """The marks of the changes in a log, in order: the rows of the chain on its page in each frame that holds it."""
    with log.open("rb") as file:
        head = file.read(_HEAD.size)
        if len(head) < _HEAD.size:
            return
        magic, _, page_size, _, *salts, _, _ = _HEAD.unpack(head)
        if magic not in _MAGIC:
            return
        while len(frame := file.read(_FRAME.size)) == _FRAME.size:
            number, _, *own, _, _ = _FRAME.unpack(frame)
            if own != salts:
                return  # left over from before the log was begun anew
            if number != page:
                file.seek(page_size, 1)
                continue
            mark = _mark_on(file.read(page_size))
            if mark is not None:
                yield mark


def _mark_on(page: bytes) -> Mark | None:
    """The only row of the chain on its page, both of whose cells are texts of ASCII."""
    if len(page) < 10 or page[0] != _LEAF_OF_A_TABLE or page[3:5] != b"\x00\x01":
        return None
    start = int.from_bytes(page[8:10], "big")
    if start + 3 > len(page):
        return None
    size, row = page[start], page[start + 2 :]  # one byte each for the size and for the number of the row
    head = row[0]
    if size > 0x7F or head != 3 or len(row) < size:
        return None
    lengths = [(kind - 13) // 2 for kind in row[1:head]]
    if min(lengths) < 0:
        return None
    here, before = row[head : head + lengths[0]], row[head + lengths[0] : head + sum(lengths)]
    return Mark(here.decode("ascii", "replace"), before.decode("ascii", "replace"))
