"""How long what is handed over takes: a lamp's page, a store list with a page a lamp, labels; against the typesetter
with as many pages of plain text."""

import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np

from benchmarks.timing import best_of
from even_beam.bench.records import Event, EventKind, Meter, Reading, Session, Source, Spectrum, Terms, new_id
from even_beam.collection.collection import Collection
from even_beam.collection.evaluation import computed_of
from even_beam.handing_over.compose import composed
from even_beam.handing_over.kinds import Kind
from even_beam.handing_over.labels import content_of
from even_beam.handing_over.material import Material
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import WAVELENGTH_NM
from even_beam.logbook.store import Logbook
from even_beam.paper import page
from even_beam.paper.label import SIZES, laid_out
from even_beam.paper.label_pages import labels_html
from even_beam.shell import memory
from even_beam.shell.apart import APART
from even_beam.shell.settings import Settings

LAMPS_IN_STORE, LABELS = 60, 200
SETTINGS = ((5600.0, 100.0), (3200.0, 100.0), (5600.0, 50.0), (5600.0, 25.0), (5600.0, 10.0))


def report() -> list[str]:
    """Lines with the times."""
    memory.look_seldom()  # as the command does
    with tempfile.TemporaryDirectory() as folder:
        logbook = _store(Path(folder) / "store.evenbeam")
        collection = Collection(logbook)
        first = collection.lamps()[0].name
        plain = best_of(lambda: page.pdf_of(_plain_pages(1)), 2)
        one = best_of(lambda: _made(logbook, Kind.LAMP, (first,)), 3)
        pages = best_of(lambda: page.pdf_of(_plain_pages(LAMPS_IN_STORE)), 1)
        # in a process of its own, as the window has it made
        store = best_of(lambda: APART.run(lambda: None, _store_list, logbook.path), 1)
        labels = best_of(lambda: _labels(logbook), 1)
        logbook.close()
    return [
        f"a lamp's page, from the logbook to PDF: {one:.2f} s, {one / plain:.0f}x a page of plain text (wanted: below"
        " 1.5 s)",
        f"a store list of {LAMPS_IN_STORE} lamps with a page each: {store:.1f} s, {store / pages:.1f}x as many pages of"
        " plain text (wanted: below 20 s)",
        f"{LABELS} labels on sheets: {labels:.1f} s (wanted: below 5 s)",
    ]


def _plain_pages(count: int) -> str:
    lines = "".join(f"<p>5 162 lx at reflector, 5600 K, 100 %, 3.00 m, line {n}</p>" for n in range(45))
    return f"<html lang=en><title>plain</title>{f'<div style=break-after:page>{lines}</div>' * count}</html>"


def _made(logbook: Logbook, kind: Kind, fixtures: tuple[str, ...]) -> bytes:
    return page.pdf(composed(Material(Collection(logbook), Settings(), None, fixtures), kind))


def _store_list(path: Path) -> int:
    logbook = Logbook.open_to_read(path)
    made = _made(logbook, Kind.STORE, ())
    logbook.close()
    return len(made)


def _labels(logbook: Logbook) -> bytes:
    material = Material(Collection(logbook), Settings(), None)
    size = SIZES["A4-3x8"]
    contents = [content_of(material, entrant) for entrant in material.entrants]
    return page.pdf_of(labels_html([laid_out(contents[n % len(contents)], size) for n in range(LABELS)], size))


def _store(path: Path) -> Logbook:
    """Sixty lamps, each at two whites and four levels, as they are checked in a store."""
    random = np.random.default_rng(13)
    logbook = Logbook.create(path)
    session = Session(new_id(), "Store check", datetime(2026, 11, 2, 9, 0, tzinfo=UTC))
    meter = Meter(new_id(), "Spectrometer")
    kinds = list(LAMPS.values())
    sources = [Source(new_id(), f"Lamp {n:02d}") for n in range(LAMPS_IN_STORE)]
    logbook.save(session, meter, *sources)
    taken, events = [], []
    for n, source in enumerate(sources):
        for white, level in SETTINGS:
            terms = Terms(cct_k=white, level_pct=level, distance_m=2.0, reference_plane="front of the lamp")
            light = kinds[n % len(kinds)].irradiance(terms) * (1.0 + 0.05 * random.standard_normal())
            number = len(taken) + 1
            at = session.created_at + timedelta(seconds=20.0 * number)
            reading = Reading(new_id(), session.id, at, number, terms, (source.id,), None, meter.id)
            taken.append((reading, Spectrum(WAVELENGTH_NM, np.asarray(light))))
            events.append(Event(new_id(), session.id, number, at, EventKind.TAKEN, reading.id))
    logbook.commit_readings(taken, events)
    logbook.save_computed(computed_of({reading.id: spectrum for reading, spectrum in taken}))
    return logbook
