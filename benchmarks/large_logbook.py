"""A logbook as large as a busy bench fills in years: `python -m benchmarks.large_logbook FILE`.

Two lamps a session, each at ten whites and five levels, every reading with its spectrum and figures. The lamps are
the simulated ones, each unit a little off its kind; the figures are computed as the program computes them.
"""

import argparse
from collections.abc import Iterator
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
    new_id,
)
from even_beam.collection.evaluation import computed_of
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import WAVELENGTH_NM
from even_beam.logbook.store import Logbook

FIXTURES, SESSIONS = 200, 2000
UNITS = 3  # of a model
WHITES_K = tuple(float(k) for k in np.linspace(2700.0, 6500.0, 10).round(-2))
LEVELS_PCT = (100.0, 75.0, 50.0, 25.0, 10.0)
SETTINGS = tuple((white, level) for white in WHITES_K for level in LEVELS_PCT)
FIRST_DAY = datetime(2016, 3, 1, 9, 0, tzinfo=UTC)


def build(path: Path, fixtures: int = FIXTURES, sessions: int = SESSIONS) -> None:
    """Write the logbook; `path` must not exist."""
    random = np.random.default_rng(7)
    logbook = Logbook.create(path)
    kinds = list(LAMPS)
    models = [
        Model(new_id(), f"Model {n + 1}", LAMPS[kinds[n % len(kinds)]].kind) for n in range(-(-fixtures // UNITS))
    ]
    meter = Meter(new_id(), "Bench spectrometer")
    lamps = [Source(new_id(), f"Unit {n:03d}", models[n // UNITS].id) for n in range(fixtures)]
    logbook.save(meter, *models, *lamps)
    shapes = [_spectra(kind) for kind in kinds]
    gains = 1.0 + 0.05 * random.standard_normal(fixtures)
    tilts = 0.03 * random.standard_normal(fixtures)
    for number in range(sessions):
        session = Session(new_id(), f"Bench day {number + 1}", FIRST_DAY + timedelta(days=1.7 * number))
        logbook.save(session)
        pair = [number % fixtures, (number * 7 + 1 + number // fixtures) % fixtures]
        spectra = [gains[n] * shapes[n // UNITS % len(kinds)] * _tilted(tilts[n]) for n in pair]
        noisy = np.concatenate(spectra) * (1.0 + 0.003 * random.standard_normal((2 * len(SETTINGS), 401)))
        _keep(logbook, session, [lamps[n] for n in pair], meter, noisy)
    logbook.close()


def _spectra(kind: str) -> np.ndarray:
    """Irradiance of a kind of lamp at 2 m at every setting, (settings, 401)."""
    lamp = LAMPS[kind]
    return np.stack([lamp.irradiance(_terms(white, level)) for white, level in SETTINGS])


def _terms(white: float, level: float) -> Terms:
    return Terms(cct_k=white, level_pct=level, distance_m=2.0, reference_plane="front of the lamp")


def _tilted(tilt: float) -> np.ndarray:
    return 1.0 + tilt * (WAVELENGTH_NM - 560.0) / 180.0


def _keep(logbook: Logbook, session: Session, lamps: list[Source], meter: Meter, irradiance: np.ndarray) -> None:
    ids = [new_id() for _ in irradiance]
    spectra = {i: Spectrum(WAVELENGTH_NM, values) for i, values in zip(ids, irradiance, strict=True)}
    figures = computed_of(spectra)
    by_id = {one.reading_id: one.scalars for one in figures}
    taken, events = [], []
    for number, (reading_id, lamp, (white, level)) in enumerate(zip(ids, *_settings(lamps), strict=True), start=1):
        at = session.created_at + timedelta(seconds=15.0 * number)
        shown = tuple(Value(name, by_id[reading_id].get(name), Origin.DEVICE) for name in ("illuminance", "cct", "duv"))
        taken.append(
            (
                Reading(
                    reading_id, session.id, at, number, _terms(white, level), (lamp.id,), None, meter.id, values=shown
                ),
                spectra[reading_id],
            )
        )
        events.append(Event(new_id(), session.id, number, at, EventKind.TAKEN, reading_id))
    late = taken[-1][0].at + timedelta(minutes=1)
    told = [
        (EventKind.KEPT_IN_DOUBT, 7),
        (EventKind.SET_ASIDE, 20),
        (EventKind.TAKEN_BACK, 31),
        (EventKind.SET_ASIDE, 60),
    ]
    for kind, place in told:
        events.append(Event(new_id(), session.id, len(events) + 1, late, kind, ids[place], reason="a door stood open"))
    events.append(Event(new_id(), session.id, len(events) + 1, late, EventKind.UNDONE, undoes=events[-1].id))
    logbook.commit_readings(taken, events)
    logbook.save_computed(figures)


def _settings(lamps: list[Source]) -> tuple[Iterator[Source], Iterator[tuple[float, float]]]:
    return iter([lamp for lamp in lamps for _ in SETTINGS]), iter([one for _ in lamps for one in SETTINGS])


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--fixtures", type=int, default=FIXTURES)
    parser.add_argument("--sessions", type=int, default=SESSIONS)
    chosen = parser.parse_args()
    build(chosen.file, chosen.fixtures, chosen.sessions)
