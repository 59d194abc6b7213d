"""Merging and sharing: a first share of 10 000 readings, one of ten new ones, and a merge of 100 000, against a plain
copy of the same file."""

import resource
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from benchmarks.large_logbook import build
from even_beam.answers.sharing.sharing import share
from even_beam.logbook.store import Logbook
from tests.answers.sharing.benches import NOW, Bench

NEW_MS, MERGE_MB = 300.0, 500.0
FIRST, MERGED = (20, 100), (100, 1000)
"""Lamps and sessions, of a hundred readings each."""


def _timed(act: Callable[[], object]) -> float:
    start = time.perf_counter()
    act()
    return time.perf_counter() - start


def _shared(bench: Bench, address: str) -> float:
    book = Logbook.open(bench.path)
    try:
        return _timed(lambda: share(book, address, lambda: NOW))
    finally:
        book.close()


def report() -> list[str]:
    """What was measured, a line each."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        build(folder / "first.evenbeam", *FIRST)
        bench = Bench(folder / "first.evenbeam")
        copy = _timed(lambda: shutil.copy(bench.path, folder / "copy.evenbeam"))
        first = _shared(bench, str(folder / "hub"))
        session, lamp = (next(iter(bench.rows(table)))[0] for table in ("session", "source"))
        bench.read(session, lamp, *(float(level) for level in range(10)))
        new = 1000.0 * _shared(bench, str(folder / "hub"))
        lines = [
            f"a first share of 10 000 readings: {first:.1f} s, {first / copy:.0f}x a copy of the file",
            f"a share of ten new ones: {new:.0f} ms (at most {NEW_MS:.0f})",
        ]
        build(folder / "large.evenbeam", *MERGED)
        Logbook.create(folder / "empty.evenbeam").close()
        command = [
            sys.executable,
            "-m",
            "benchmarks.sharing",
            str(folder / "large.evenbeam"),
            str(folder / "empty.evenbeam"),
        ]
        said = subprocess.run(command, check=True, capture_output=True, text=True).stdout
        return [*lines, said.strip()]


def merge_whole(other: Path, own: Path) -> str:
    """Merge one file into another in this process; how long that took, and how much was held."""
    from datetime import UTC, datetime

    from even_beam.answers.sharing.merging import merge

    copy = _timed(lambda: shutil.copy(other, own.with_name("copy")))
    book = Logbook.open(own)
    took = _timed(lambda: list(merge(book, [other], datetime.now(UTC), {})))
    book.close()
    held = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0
    return (
        f"a merge of 100 000 readings: {took:.0f} s, {took / copy:.0f}x a copy of the file, {held:.0f} MB"
        f" (at most {MERGE_MB:.0f})"
    )


if __name__ == "__main__":
    print(merge_whole(Path(sys.argv[1]), Path(sys.argv[2])))
