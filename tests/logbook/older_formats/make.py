"""Makes a logbook of the format of the code that is imported, closed and killed: `python make.py OUT.zip`.

Run with the sources of an earlier commit on the path; what it made of formats 1 to 8 is kept beside it. The killed one
has nine confirmed readings in its log alone: somebody read it all the while, so that none was folded into the file.
"""

import os
import sqlite3
import sys
import tempfile
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np

from even_beam.bench.records import (
    Event,
    EventKind,
    Meter,
    Model,
    Origin,
    Reading,
    Session,
    Source,
    Spectrum,
    Terms,
    Value,
)
from even_beam.logbook.store import Logbook

BEGAN = datetime(2026, 3, 14, 19, 5, tzinfo=UTC)
BEFORE, IN_THE_LOG = 3, 9


def begun(path: Path) -> Logbook:
    """A logbook with a lamp, a meter and a session with three readings, the second with its spectrum."""
    logbook = Logbook.create(path)
    logbook.save(Model("model", "Garden six", "six-emitter colour light"), Meter("meter", "Hand meter"))
    logbook.save(Source("lamp", "Tansy", "model"), Session("session", "An evening", BEGAN, "UTC", "Yes or back?"))
    for number in range(1, BEFORE + 1):
        take(logbook, number)
    return logbook


def take(logbook: Logbook, number: int) -> None:
    """The reading of a number: 800 lx and ten times its number."""
    at, level = BEGAN + timedelta(minutes=number), 800.0 + 10.0 * number
    reading = Reading(
        f"reading-{number}", "session", at, number, Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0), ("lamp",),
        meter_id="meter", values=(Value("illuminance", level, Origin.TYPED, text=f"{level:g}", unit="lx"),),
    )  # fmt: skip
    nm = np.arange(380.0, 781.0, 5.0)
    spectrum = Spectrum(nm, 1.0 + nm / 1000.0) if number in (2, 5) else None
    event = Event(f"event-{number}", "session", number, at, EventKind.TAKEN, reading_id=reading.id)
    logbook.commit_reading(reading, [event], spectrum)


def killed(path: Path) -> None:
    """In a process of its own: confirms readings while somebody reads, and is killed."""
    if os.fork() == 0:
        logbook = begun(path)
        logbook.close()
        logbook = Logbook.open(path)
        reader = sqlite3.connect(path)
        reader.execute("BEGIN")
        reader.execute("SELECT count(*) FROM reading").fetchone()
        for number in range(BEFORE + 1, BEFORE + IN_THE_LOG + 1):
            take(logbook, number)
        os._exit(9)
    os.wait()


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        begun(folder / "closed.evenbeam").close()
        killed(folder / "killed.evenbeam")
        with zipfile.ZipFile(sys.argv[1], "w", zipfile.ZIP_DEFLATED) as kept:
            for file in ("closed.evenbeam", "killed.evenbeam", "killed.evenbeam-wal"):
                kept.write(folder / file, file)
