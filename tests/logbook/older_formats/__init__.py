"""Logbooks of formats 1 to 8, made by the code of their time: closed, and killed with nine readings in the log."""

import zipfile
from pathlib import Path

from tests.logbook.older_formats.make import BEFORE, IN_THE_LOG

FORMATS = (1, 2, 3, 4, 5, 6, 7, 8)
LEVELS = tuple(800.0 + 10.0 * number for number in range(1, BEFORE + IN_THE_LOG + 1))
"""The levels of its readings in the order taken."""


def closed(number: int, path: Path) -> Path:
    """A logbook of a format at `path`, with three readings."""
    path.write_bytes(_kept(number, "closed.evenbeam"))
    return path


def killed(number: int, path: Path, in_the_log: int = IN_THE_LOG) -> Path:
    """The same, with so many more that only its log has: it is cut behind that change."""
    path.write_bytes(_kept(number, "killed.evenbeam"))
    log = _kept(number, "killed.evenbeam-wal")
    path.with_name(path.name + "-wal").write_bytes(log[: ends_of_changes(log)[in_the_log]])
    return path


def ends_of_changes(log: bytes) -> list[int]:
    """Where a log can be cut so that it has none, one, two ... whole changes: behind frames that say how large the file
    is then. Source: https://www.sqlite.org/fileformat2.html, section 4.1."""
    size, ends = 24 + int.from_bytes(log[8:12], "big"), [32]
    for start in range(32, len(log) - size + 1, size):
        if log[start + 8 : start + 16] == log[16:24] and log[start + 4 : start + 8] != bytes(4):
            ends.append(start + size)
    return ends


def _kept(number: int, name: str) -> bytes:
    with zipfile.ZipFile(Path(__file__).parent / f"format_{number}.zip") as archive:
        return archive.read(name)
