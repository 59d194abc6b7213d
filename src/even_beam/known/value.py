"""What the money buys: light at stated terms per unit of full cost, with all that a lamp needs counted in."""

import itertools
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from even_beam.bench.records import Cost

LITTLE = 0.25
"""More money buys little when what it adds is less than this share of what the cheapest gives for its money."""


@dataclass(frozen=True, slots=True)
class Priced:
    """A lamp with its full price and what was measured of it at the terms; None where it was not."""

    name: str
    series: int | None
    price: float
    currency: str
    includes: str
    candela: float | None
    ra: float | None
    reading_ids: tuple[str, ...]

    @property
    def candela_per_price(self) -> float | None:
        """Candela per unit of currency."""
        return self.candela / self.price if self.candela is not None else None


def full_cost(costs: Sequence[Cost], currency: str) -> tuple[float, str] | None:
    """The sum of all cost lines of one currency that are needed, and what it includes: of a range its dearer end, of a
    kit one lamp's share. None without any, or when it comes to nothing."""
    own = [cost for cost in costs if cost.currency == currency and not cost.optional]
    total = sum(cost.dearest for cost in own)
    return (total, " + ".join(_what(cost) for cost in own)) if total > 0.0 else None


def _what(cost: Cost) -> str:
    share = f", one of {cost.units}" if cost.units > 1 else ""
    dearer = ", at most" if cost.high is not None else ""
    return f"{cost.what}{share}{dearer}"


def usual_currency(costs: Iterable[Sequence[Cost]]) -> str:
    """The currency in which most lamps have a price, so that they are compared in one; the first of equals."""
    counts = Counter(cost.currency for own in costs for cost in {c.currency: c for c in own if not c.optional}.values())
    return counts.most_common(1)[0][0] if counts else ""


def diminishing(lamps: Sequence[Priced]) -> Priced | None:
    """The lamp beyond which more money buys little light; None when every dearer one is worth its difference.

    Along the lamps that no cheaper one outshines, the light added per money added is set against what the cheapest
    gives for its money.
    """
    frontier: list[Priced] = []
    for lamp in sorted(
        (lamp for lamp in lamps if lamp.candela is not None), key=lambda p: (p.price, -(p.candela or 0.0))
    ):
        if not frontier or (lamp.candela or 0.0) > (frontier[-1].candela or 0.0):
            frontier.append(lamp)
    if not frontier:
        return None
    first = frontier[0].candela_per_price or 0.0
    for before, after in itertools.pairwise(frontier):
        added = ((after.candela or 0.0) - (before.candela or 0.0)) / max(after.price - before.price, 1e-9)
        if added < LITTLE * first:
            return before
    dearer = any(lamp.candela is not None and lamp.price > frontier[-1].price for lamp in lamps)
    return frontier[-1] if dearer else None
