"""The commonest slips of hand and ear, turned round: what a wrong figure may have been meant to be."""

import itertools
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from even_beam.light.photometry import LUX_PER_FOOTCANDLE

MAX_CANDIDATES = 4


class Slip(StrEnum):
    """The kinds of slip, likeliest first (common practice, no source)."""

    FACTOR_OF_TEN = "factor_of_ten"
    WRONG_UNIT = "wrong_unit"
    SWAPPED_DIGITS = "swapped_digits"
    DROPPED_OR_DOUBLED_DIGIT = "dropped_or_doubled_digit"
    SLIPPED_DIGIT = "slipped_digit"


WORDS = {
    Slip.FACTOR_OF_TEN: "a factor of ten would make it",
    Slip.WRONG_UNIT: "the other unit (fc for lx, or lx for fc) would make it",
    Slip.SWAPPED_DIGITS: "two digits swapped would make it",
    Slip.DROPPED_OR_DOUBLED_DIGIT: "one digit too few or too many would make it",
    Slip.SLIPPED_DIGIT: "one wrong digit would make it",
}

_RANK = {slip: rank for rank, slip in enumerate(Slip)}


@dataclass(frozen=True, slots=True)
class Candidate:
    """A figure that one slip would explain, and how far it lies from what was expected, in stops."""

    value: float
    slip: Slip
    off: float


def candidates(value: float, low: float, high: float, *, centre: float, light: bool = True) -> tuple[Candidate, ...]:
    """Figures within `low` to `high` that one slip turns into `value`, likeliest first, four at most.

    Ranked by the kind of slip, then by their ratio to `centre`, what was expected; all four arguments are positive.
    `light` allows lx and fc to be taken for each other.
    """
    found: dict[float, Candidate] = {}
    for slip, meant in _meant(value, light):
        if low <= meant <= high and meant != value and meant not in found:
            found[meant] = Candidate(meant, slip, abs(float(np.log2(meant / centre))))
    ranked = sorted(found.values(), key=lambda c: (_RANK[c.slip], c.off))
    return tuple(ranked[:MAX_CANDIDATES])


def _meant(value: float, light: bool) -> list[tuple[Slip, float]]:
    """Every figure one slip away from `value`, with the slip."""
    text = f"{abs(value):g}" if abs(value) < 1e6 else f"{abs(value):.0f}"
    factors = [10.0]
    if "." in text:
        factors += [100.0, 1000.0]  # the point set too far to the left
    if "." in text or text.endswith("0"):
        factors.append(0.1)  # 27006 was never meant as 2700.6
    meant = [(Slip.FACTOR_OF_TEN, float(f"{value * factor:.6g}")) for factor in factors]
    if light:
        meant += [(Slip.WRONG_UNIT, float(f"{value * f:.4g}")) for f in (LUX_PER_FOOTCANDLE, 1.0 / LUX_PER_FOOTCANDLE)]
    sign = "-" if value < 0 else ""
    places = [i for i, c in enumerate(text) if c.isdigit()]
    for i, j in itertools.pairwise(places):
        swapped = list(text)
        swapped[i], swapped[j] = swapped[j], swapped[i]
        meant.append((Slip.SWAPPED_DIGITS, float(sign + "".join(swapped))))
    meant += [
        (Slip.DROPPED_OR_DOUBLED_DIGIT, float(sign + text[:i] + text[i + 1 :])) for i in places if len(places) > 1
    ]
    meant += [
        (Slip.DROPPED_OR_DOUBLED_DIGIT, float(f"{sign}{text[:i]}{digit}{text[i:]}"))
        for i in [*places, len(text)]
        for digit in "0123456789"
    ]
    meant += [
        (Slip.SLIPPED_DIGIT, float(f"{sign}{text[:i]}{digit}{text[i + 1 :]}")) for i in places for digit in "0123456789"
    ]
    return meant
