"""The order in which claims stand: as they are asked, whatever their ids are."""

from collections.abc import Iterable

from even_beam.bench.records import Claim
from even_beam.words.quantities import Use, of_use, score_names

_ORDER = ("cct", *score_names(Use.CLAIMED), "illuminance", *of_use(Use.CLAIMED))


def in_order(claims: Iterable[Claim]) -> list[Claim]:
    """White, scores, level, beam, power, then others by their names."""
    known = {quantity: place for place, quantity in enumerate(dict.fromkeys(_ORDER))}
    return sorted(claims, key=lambda claim: (known.get(claim.quantity, len(known)), claim.quantity, claim.id))
