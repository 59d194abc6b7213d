"""The light of each lamp, to try things on: one spectrum a lamp, at its usual terms."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from even_beam.answers.findings.witness import Witness
from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.collection.collection import Collection
from even_beam.collection.mean_spectrum import spectrum_of
from even_beam.known.evidence import full_level, usual
from even_beam.light import FloatArray
from even_beam.light.ssi import matched_reference
from even_beam.logbook.store import Logbook

_OF_NO_COLOUR = ("distance", "placement", "plane", "meter", "session")
"""What moves no colour, and is not said beside one."""


@dataclass(frozen=True, eq=False, slots=True)
class LampLight:
    """A lamp's spectrum and the reference light of its own white, both shape (401,), with the terms it was read at."""

    name: str
    terms: str
    spectrum: FloatArray
    reference: FloatArray


def lights_of_lamps(path: Path) -> list[LampLight]:
    """One light a lamp: bare, on its axis, at the highest level, at 5600 K where that was read, else at 3200 K, else at
    any white; of equal ones the newest. For a worker; raises `LogbookError`."""
    logbook = Logbook.open_to_read(path)
    try:
        collection = Collection(logbook)
        witness = Witness(collection)
        found = []
        for entrant in collection.entrants():
            evidence = witness.evidence(entrant)
            usable = [m for m in evidence.readings if m.terms.mode != OFF and m.value("cct") and m.vectors]
            best = _usual(usable)
            light = spectrum_of([m.reading.id for m in best], collection) if best else None
            if light is None:
                continue
            white = np.array([np.mean([m.value("cct") for m in best])])
            said = evidence.at(best[0], *_OF_NO_COLOUR)
            found.append(LampLight(entrant.name, said, light, matched_reference(white)[0]))
        return found
    finally:
        logbook.close()


def _usual(readings: list[Measured]) -> list[Measured]:
    on_axis = [m for m in readings if m.terms.angle_deg == 0.0] or readings
    groups = terms.grouped(full_level(on_axis)).values()
    return max(groups, key=lambda ms: (usual(ms[0]), ms[0].reading.at), default=[])
