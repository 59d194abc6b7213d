"""An invented evening for matching: lamps with spectra of their own, drawn here and not by the demo."""

from datetime import UTC, datetime, timedelta

from even_beam.bench.records import (
    Event,
    EventKind,
    Meter,
    Modifier,
    Origin,
    Reading,
    Session,
    Source,
    Spectrum,
    Terms,
    new_id,
)
from even_beam.bench.records import Value as Figure
from even_beam.collection.evaluation import renewed_batch
from even_beam.light import WAVELENGTH_NM, evaluate
from even_beam.light.filters import correction, tinted
from even_beam.logbook.store import Logbook

START = datetime(2026, 5, 2, 19, tzinfo=UTC)


class Evening:
    """Writes readings into a logbook one after the other."""

    def __init__(self, logbook: Logbook) -> None:
        self.logbook = logbook
        self.session = Session("evening", "Match evening", START)
        self.meter = Meter("meter", "Spectrometer")
        logbook.save(self.session, self.meter)
        self.count = 0

    def lamp(self, name: str, kind: str = "fixture") -> str:
        source = Source(new_id(), name, kind=kind)
        self.logbook.save(source)
        return source.id

    def gel(self, name: str) -> None:
        self.logbook.save(Modifier(new_id(), name, kind="gel"))

    def read(self, source_id: str, terms: Terms, light=None, lux: float | None = None, **typed: float) -> str:
        """A reading with a spectrum of so many lux, or with typed figures alone."""
        self.count += 1
        at = START + timedelta(minutes=self.count)
        values = tuple(Figure(name, value, Origin.TYPED, text=f"{value:g}") for name, value in typed.items())
        spectrum = None
        if light is not None:
            scale = (lux or 1000.0) / float(evaluate(WAVELENGTH_NM, light, absolute=True).illuminance_lx)
            spectrum = Spectrum(WAVELENGTH_NM, light * scale)
        reading = Reading(
            id=new_id(), session_id=self.session.id, at=at, sequence=self.count, terms=terms,
            source_ids=(source_id,), meter_id=self.meter.id, values=values,
        )  # fmt: skip
        event = Event(new_id(), self.session.id, self.count, at, EventKind.TAKEN, reading_id=reading.id)
        self.logbook.commit_readings([(reading, spectrum)], [event])
        return reading.id

    def evaluated(self) -> None:
        """The figures of the spectra that were read, all at once."""
        self.logbook.save_computed(renewed_batch(self.logbook.path))


def at(cct: float | None = None, **other: object) -> Terms:
    """Full level at 2 m, bare."""
    mode = "CCT" if cct is not None else "fixed"
    return Terms(**{"mode": mode, "cct_k": cct, "level_pct": 100.0, "distance_m": 2.0, **other})


def filled(logbook: Logbook) -> Evening:
    """A lamp that answers its dial, a green one, a window, and a typed one."""
    evening = Evening(logbook)
    tansy, sorrel, yarrow, burdock = (evening.lamp(name) for name in ("Tansy", "Sorrel", "Yarrow", "Burdock"))
    window = evening.lamp("North window", "window")
    for dial, lux in ((3200.0, 900.0), (4300.0, 1000.0), (5600.0, 1100.0)):
        evening.read(tansy, at(dial), tinted(1e6 / (1e6 / dial - 12.0), 0.001), lux)
    for dial in (3200.0, 4300.0, 5600.0):
        evening.read(sorrel, at(dial), tinted(dial, 0.0105 if dial > 5000.0 else 0.007), 700.0)
    evening.read(window, at(), tinted(6480.0, 0.0031), 400.0)
    evening.read(yarrow, at(3200.0), illuminance=800.0, cct=3190.0)
    evening.read(burdock, at(), tinted(5600.0, 0.003), 500.0)
    # a quarter that is worth a half: what was measured beats what it is called
    evening.read(
        burdock, at(configuration=("quarter CTO",)), tinted(5600.0, 0.003) * correction("half CTO").transmission
    )
    evening.evaluated()
    return evening
