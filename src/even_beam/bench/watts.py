"""What watts alone would promise of lamps beside each other: a hint of what to expect, never a measurement."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

ODD_STOPS = 1.0
"""A lamp that strays from the others' common relation by more than this is odd (common practice, no source)."""

LEAST_LAMPS = 3


@dataclass(frozen=True, slots=True)
class Drawn:
    """A lamp's power and its level at the common terms, both above zero; `claimed` when the power is the maker's
    word."""

    name: str
    watts: float
    level: float
    claimed: bool = False


@dataclass(frozen=True, slots=True)
class WattHint:
    """How much brighter than the reference a lamp would be by watts alone, how far it is from that, and whether it is
    the odd one."""

    drawn: Drawn
    expected_stops: float
    off_stops: float
    odd: bool

    @property
    def sentence(self) -> str:
        """The odd one pointed at."""
        direction = "less" if self.off_stops < 0.0 else "more"
        causes = (
            "something on it, a wide beam or an old emitter would explain it"
            if self.off_stops < 0.0
            else "a narrow beam or a reflector would explain it"
        )
        return (
            f"{self.drawn.name} gives {abs(self.off_stops):.1f} stops {direction} than its watts promise beside the"
            f" others: {causes}."
        )


def watt_hints(lamps: Sequence[Drawn], reference: str) -> tuple[WattHint, ...]:
    """A hint for each lamp against the one named; none without it. Watts are no light: kinds differ by several
    times."""
    base = next((lamp for lamp in lamps if lamp.name == reference), None)
    if base is None:
        return ()
    expected = np.log2([lamp.watts / base.watts for lamp in lamps])
    off = np.log2([lamp.level / base.level for lamp in lamps]) - expected
    odd = np.zeros(len(lamps), dtype=bool)
    if len(lamps) >= LEAST_LAMPS:
        off = off - np.median(off)
        stray = np.abs(off) > ODD_STOPS
        odd = stray & (2 * stray.sum() < len(lamps))  # where half of them stray there is no relation to stray from
    return tuple(
        WattHint(lamp, float(e), float(o), bool(strange))
        for lamp, e, o, strange in zip(lamps, expected, off, odd, strict=True)
    )
