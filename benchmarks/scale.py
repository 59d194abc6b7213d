"""A logbook of ten years: opening it, findings of one lamp and a comparison of twenty, against reading the same from
SQLite.

The plain reads fetch the same rows and parse nothing; the numpy passes compute the mean of the same spectra. The file
is made once and kept in the folder for temporary files.
"""

import os
import resource
import sqlite3
import tempfile
from contextlib import closing
from pathlib import Path

import numpy as np

from benchmarks import large_logbook
from benchmarks.start_up import OURS, run
from benchmarks.timing import best_of
from even_beam.answers.compare.as_json import comparison
from even_beam.answers.findings.witness import Witness
from even_beam.collection.collection import Collection
from even_beam.light import METHOD_VERSION
from even_beam.logbook.connection import sqlite_uri
from even_beam.logbook.schema import SCHEMA_VERSION
from even_beam.logbook.store import Logbook
from even_beam.shell import memory

COMPARED = 20


def report() -> list[str]:
    """Lines with the ratios."""
    path = Path(tempfile.gettempdir()) / f"even-beam-large-{SCHEMA_VERSION}-{METHOD_VERSION}.evenbeam"
    if not path.exists():
        partial = path.with_suffix(".part")
        partial.unlink(missing_ok=True)
        large_logbook.build(partial)
        partial.replace(path)
    opened = best_of(lambda: _cold_window(path), 2)
    logbook = Logbook.open_to_read(path)
    memory.look_seldom()  # as the program does at start, and the window after opening
    memory.settle()
    lamps = Collection(logbook).lamps()
    names = [lamp.name for lamp in lamps[:COMPARED]]
    ids = [lamp.source_id for lamp in lamps[:COMPARED]]
    one = best_of(lambda: _findings(logbook, names[0]), 5)
    many = best_of(lambda: comparison(Collection(logbook), names), 3)
    with closing(sqlite3.connect(sqlite_uri(path, "ro"), uri=True)) as plain:
        one_read = best_of(lambda: _plain(plain, ids[:1], "reading", "value", "computed"), 5)
        many_read = best_of(lambda: _plain(plain, ids, "reading", "value", "computed"), 3)
        spectra = [np.frombuffer(row[0]) for row in _rows_of(plain, ids[:1], "spectrum", "samples")]
        passed = best_of(lambda: [float(values.mean()) for values in spectra], 5)
    logbook.close()
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0
    size = path.stat().st_size / 1e9
    pace = best_of(_ten_million_additions, 3)
    return [
        f"this machine adds one to a number ten million times in {pace:.2f} s; a quiet desk machine takes about 0.4 s",
        f"{size:.1f} GB, opened on the Bench with a cold file cache: {opened:.2f} s (wanted: below 3 s)",
        (
            f"everything that can be said of one lamp of a thousand readings: {1e3 * one:.0f} ms, {one / one_read:.1f}x"
            f" a plain read of its rows, {one / passed:.0f}x a numpy pass over its spectra (wanted: below 300 ms)"
        ),
        (
            f"{COMPARED} lamps of twenty thousand readings compared: {1e3 * many:.0f} ms, {many / many_read:.1f}x a"
            " plain read of their rows (wanted: below 1000 ms)"
        ),
        f"memory of this process at its peak: {peak:.0f} MB (wanted: below 1000 MB)",
    ]


def _ten_million_additions() -> int:
    """What the limits below are to be read beside: the pace of plain code on this machine, now."""
    number = 0
    for _ in range(10_000_000):
        number += 1
    return number


def _findings(logbook: Logbook, name: str) -> None:
    witness = Witness(Collection(logbook))
    witness.findings(witness.entrants([name])[0])


def _rows_of(plain: sqlite3.Connection, source_ids: list[str], table: str, columns: str = "*") -> list[tuple]:
    key = "id" if table == "reading" else "reading_id"
    marks = ",".join("?" * len(source_ids))
    statement = f"SELECT {columns} FROM {table} WHERE {key} IN (SELECT id FROM reading WHERE source_ids IN ({marks}))"
    return plain.execute(statement, [f'["{source_id}"]' for source_id in source_ids]).fetchall()


def _plain(plain: sqlite3.Connection, source_ids: list[str], *tables: str) -> None:
    for table in tables:
        _rows_of(plain, source_ids, table)


def _cold_window(path: Path) -> None:
    """The window opened on the file after the system has dropped it from its cache."""
    with path.open("rb") as file:
        os.posix_fadvise(file.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
    with tempfile.TemporaryDirectory() as home:
        run(OURS, Path(home), str(path))
