"""Benches that work apart: logbooks in which things happen, and all that stands in one."""

import shutil
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

from even_beam.bench.records import (
    Event,
    EventKind,
    Meter,
    Model,
    Origin,
    Reading,
    Session,
    Source,
    Terms,
    Value,
    new_id,
)
from even_beam.logbook.store import Logbook

NOW = datetime(2026, 9, 3, 18, 0, tzinfo=UTC)

ABOUT_THE_FILE = {"chain", "arrival", "hub", "hub_part", "kept_back"}


class Bench:
    """A logbook file that is opened for each act, as a person would over the weeks."""

    def __init__(self, path: Path) -> None:
        self.path = path
        if not path.exists():
            Logbook.create(path).close()

    def copy(self, path: Path) -> "Bench":
        """The same logbook on another computer."""
        shutil.copy(self.path, path)
        return Bench(path)

    def lamp(self, name: str, model: str = "", serial: str = "", **more: str) -> str:
        """A lamp in the Kit; its identity."""
        lamp_id, model_id = new_id(), new_id() if model else None
        book = Logbook.open(self.path)
        if model_id is not None:
            book.save(Model(model_id, model))
        book.save(Source(lamp_id, name, model_id, serial=serial, **more))
        book.close()
        return lamp_id

    def meter(self, name: str) -> str:
        """A meter in the Kit; its identity."""
        meter = Meter(new_id(), name)
        book = Logbook.open(self.path)
        book.save(meter)
        book.close()
        return meter.id

    def session(self, name: str) -> str:
        """A session; its identity."""
        own = Session(new_id(), name, NOW)
        book = Logbook.open(self.path)
        book.save(own)
        book.close()
        return own.id

    def read(self, session_id: str, lamp_id: str, *levels: float, meter_id: str | None = None, cct: float = 5600.0):
        """Readings of a lamp at 2 m, one a minute."""
        book = Logbook.open(self.path)
        for level in levels:
            number = book.next_sequence(session_id)
            reading = Reading(
                new_id(), session_id, NOW + timedelta(minutes=number), number,
                Terms(cct_k=cct, level_pct=100.0, distance_m=2.0), (lamp_id,), meter_id=meter_id,
                values=(Value("illuminance", level, Origin.TYPED, text=f"{level:g}", unit="lx"),),
            )  # fmt: skip
            book.commit_reading(reading, [Event(new_id(), session_id, number, reading.at, EventKind.TAKEN, reading.id)])
        book.close()

    def rows(self, table: str) -> set[tuple]:
        """The rows of a table."""
        with closing(sqlite3.connect(self.path)) as connection:
            return set(connection.execute(f"SELECT * FROM {table}"))

    def everything(self) -> dict[str, set[tuple]]:
        """All that stands in it, but for what is of the file alone."""
        with closing(sqlite3.connect(self.path)) as connection:
            found = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
            return {name: self.rows(name) for (name,) in found.fetchall() if name not in ABOUT_THE_FILE}
