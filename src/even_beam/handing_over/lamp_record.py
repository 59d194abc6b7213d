"""What a lamp's page in the Kit is made of, from one look at its readings: sentences, claims judged, its label."""

from dataclasses import dataclass
from pathlib import Path

from even_beam.answers.findings import glance_words
from even_beam.answers.findings.glance_words import Figure
from even_beam.answers.findings.told import Told, headline
from even_beam.collection.collection import Collection
from even_beam.handing_over.labels import labels_of
from even_beam.handing_over.material import Material, exposed_at
from even_beam.known.findings.claims import ClaimVerdict
from even_beam.logbook.store import Logbook
from even_beam.paper.label import Label, LabelSize
from even_beam.shell.settings import Settings


@dataclass(frozen=True, eq=False, slots=True)
class LampRecord:
    """What readings say of a lamp: its large figures and sentences, and the terms that they hold for; `label` is None
    where nothing that counts was read, or where it is no lamp."""

    figures: tuple[Figure, ...]
    terms: str
    told: tuple[Told, ...]
    claims: tuple[ClaimVerdict, ...]
    label: Label | None


def record_of(path: Path, source_id: str, settings: Settings, size: LabelSize) -> LampRecord:
    """Read from a file that is open elsewhere, its label of a size. For a worker; raises `LogbookError`."""
    logbook = Logbook.open_to_read(path)
    try:
        collection = Collection(logbook)
        material = Material(collection, settings, None, entrants=collection.entrants([source_id]))
        witness = material.witness
        glances = [material.glance(entrant) for entrant in material.entrants]
        return LampRecord(
            figures=tuple(one for glance in glances for one in glance_words.figures(glance, exposed_at(settings))),
            terms="; ".join(glance_words.terms_line(glance) for glance in glances),
            told=tuple(one for entrant in material.entrants for one in headline(witness, entrant)),
            claims=tuple(one for entrant in material.entrants for one in witness.claims(entrant)),
            label=next(iter(labels_of(material, size)), None),
        )
    finally:
        logbook.close()
