"""What a process does with a file that it has open lets go of none of the locks that SQLite has on it."""

import os
from pathlib import Path

from even_beam.bench.records import Session
from even_beam.logbook.header import inspect_header
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from tests.logbook.killed import BEGAN, an_evening


def locks_on(path: Path) -> int:
    """How many record locks this process has on a file, as the system lists them."""
    inode = path.stat().st_ino
    lines = Path("/proc/locks").read_text().splitlines()
    return sum("POSIX" in line and f" {os.getpid()} " in line and f":{inode} " in line for line in lines)


def test_looking_at_an_open_logbook_keeps_its_locks(tmp_path):
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    book = Logbook.open(path)
    book.sessions()
    held = locks_on(path)
    assert held > 0
    inspect_header(path)
    book.read_ahead(lambda: None)
    reader = Logbook.open_to_read(path)
    assert len(reader.sessions()) == 1
    reader.close()
    check(path)
    book.save_copy(tmp_path / "copy.evenbeam")
    book.save(Session("s", "more", BEGAN))
    assert locks_on(path) == held
    book.close()
    assert locks_on(path) == 0
