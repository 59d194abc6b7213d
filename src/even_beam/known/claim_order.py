"""The order in which claims stand: as they are asked, whatever their ids are."""

from collections.abc import Iterable

from even_beam.bench.records import Claim

_ORDER = ("cct", "ra", "r9", "r13", "r15", "rf", "rg", "ssi", "tlci", "tlmf", "illuminance", "beam_deg", "power_w")


def in_order(claims: Iterable[Claim]) -> list[Claim]:
    """White, scores, level, beam, power, then others by their names."""
    known = {quantity: place for place, quantity in enumerate(_ORDER)}
    return sorted(claims, key=lambda claim: (known.get(claim.quantity, len(known)), claim.quantity, claim.id))
