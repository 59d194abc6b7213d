"""Other units of a model are read only as far as they are compared: that changes no finding."""

from datetime import UTC, datetime, timedelta
from itertools import product

import pytest
from numpy.random import default_rng

from even_beam.answers.findings.witness import Witness
from even_beam.bench.records import Event, EventKind, Model, Origin, Reading, Session, Source, Terms, Value, new_id
from even_beam.collection.collection import Collection
from even_beam.known.findings.years import unit_to_unit

NOW = datetime(2026, 3, 1, 20, tzinfo=UTC)
UNITS = ("tansy", "sorrel", "teasel")


@pytest.mark.parametrize("seed", range(12))
def test_unit_against_unit_as_if_everything_had_been_read(logbook, seed):
    random = default_rng(seed)
    logbook.save(Model("model", "Meadow"), *(Source(name, name.capitalize(), "model") for name in UNITS))
    terms = [Terms(cct_k=k, level_pct=pct, distance_m=2.0) for k, pct in product((3200.0, 5600.0), (100.0, 50.0, None))]
    for name, day in (("a", 1), ("b", 2), ("c", 3)):
        logbook.save(Session(name, name, NOW + timedelta(days=day)))
        for number in range(1, 9):
            asked, unit = terms[random.integers(len(terms))], str(random.choice(UNITS))
            lux = 0.0 if random.random() < 0.1 else float(random.uniform(900.0, 1100.0))
            values = (Value("illuminance", lux, Origin.TYPED),)
            one = Reading(f"{name}-{number}", name, NOW, number, asked, (unit,), values=values)
            logbook.commit_reading(one, [Event(new_id(), name, number, NOW, EventKind.TAKEN, one.id)])
    collection = Collection(logbook)
    whole = {entrant.source_id: entrant for entrant in Collection(logbook).entrants()}
    for source_id in whole:
        witness = Witness(collection)
        entrant = next(one for one in collection.entrants([source_id]))
        others = [witness.evidence(whole[i]) for i in UNITS if i != source_id and i in whole]
        expected = unit_to_unit(witness.evidence(entrant), others)
        found = [f for f in witness.findings(entrant) if f.name.startswith("level against")]
        assert sorted(f.sentence for f in found) == sorted(f.sentence for f in expected)
