"""A comparison of lamps whose figures are read only as far as it rests on them."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import replace

from even_beam.bench import fields, terms
from even_beam.collection.collection import Collection, Wanted
from even_beam.known import compare
from even_beam.known.choice import Entrant, has_light
from even_beam.known.comparison import Comparison
from even_beam.known.trust import trusted

_MOST_ROUNDS = 8
"""Each round settles more of what is compared; what is left then stands as it is."""


def lamps_of(collection: Collection, session_id: str, figures: Wanted | None = None) -> list[Entrant]:
    """The lamps of a session, each with what was read of it on other evenings beside, of which it loads the `figures`
    that are wanted; all of them where nobody says."""
    here = collection.entrants_in(session_id)
    everywhere = collection.entrants([e.source_id for e in here], figures)
    beside = {e.source_id: tuple(m for m in e.readings if m.reading.session_id != session_id) for e in everywhere}
    return [replace(e, beside=beside.get(e.source_id, ())) for e in here]


def compared(
    collection: Collection, entrants: Sequence[Entrant], asked: Mapping[str, Hashable], reference: str
) -> tuple[Comparison, list[Entrant]]:
    """Compare lamps at the terms asked; also the entrants with the figures that the comparison and its pictures rest
    on."""
    loaded = [replace(e, readings=trusted(e.readings), beside=trusted(e.beside)) for e in entrants]
    skip: frozenset[fields.Key] = frozenset()
    for _ in range(_MOST_ROUNDS):
        chosen, distance_m = compare.chosen_at(loaded, asked, collection.meters, reference, skip)
        missing = {c.entrant.key: {m.reading.id for m in compare.needed(c) if not m.is_loaded} for c in chosen}
        dark = {
            terms.key(c.first)
            for c in chosen
            if c.first is not None and c.first.is_loaded and not any(map(has_light, c.readings))
        }
        if not any(missing.values()) and dark <= skip:
            break
        skip |= dark
        loaded = [_with_figures(collection, entrant, missing.get(entrant.key, set())) for entrant in loaded]
    else:
        chosen, distance_m = compare.chosen_at(loaded, asked, collection.meters, reference, skip)
    return compare.of_chosen(chosen, distance_m, reference, collection.meters), loaded


def _with_figures(collection: Collection, entrant: Entrant, wanted: set[str]) -> Entrant:
    """The lamp with the figures of some readings more."""
    if not wanted:
        return entrant
    fresh = collection.readings_of(entrant.source_id, wanted)
    readings, beside = (tuple(fresh.get(m.reading.id, m) for m in own) for own in (entrant.readings, entrant.beside))
    return replace(entrant, readings=readings, beside=beside)
