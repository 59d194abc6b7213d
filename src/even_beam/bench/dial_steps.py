"""What a dial can be set to: steps of so many kelvin, or notches, between its ends; as the Kit has it of a model."""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from even_beam.bench.records import Gear
from even_beam.words import notation

USUAL_STEP_K = 10.0
"""Dials are told to this where nothing is known of them; coarser ones have a sentence of their own."""

DIAL = "dial"
"""The row of gear that says it: `in 50 K`, `in 100 K from 2800 to 6500`, `2700, 3200, 4300, 5600, 6500`, `no
numbers 2800 to 6500`."""


@dataclass(frozen=True, slots=True)
class DialSteps:
    """Steps in kelvin between the ends, or `notches` alone; an end that is not known is None. A dial that is not
    `numbered` shows its ends alone."""

    step_k: float = USUAL_STEP_K
    notches: tuple[float, ...] = ()
    low_k: float | None = None
    high_k: float | None = None
    numbered: bool = True

    @property
    def is_known(self) -> bool:
        """Whether anything was said of the dial."""
        return self != DialSteps()

    def nearest(self, exact_k: float) -> float:
        """The setting that lies nearest to one that would be exact; of notches in mired, in which the eye is even."""
        if self.notches:
            return min(self.notches, key=lambda notch: abs(1e6 / notch - 1e6 / exact_k))
        stepped = max(round(exact_k / self.step_k) * self.step_k, self.step_k)
        return min(max(stepped, self.low_k or stepped), self.high_k or stepped)

    def words(self, dial_k: float) -> str:
        """A setting as it is told: 5110; of a dial without numbers how far from its warm end, even in mired."""
        if self.numbered or self.low_k is None or self.high_k is None:
            return notation.dialled(dial_k)
        share = (1e6 / self.low_k - 1e6 / dial_k) / (1e6 / self.low_k - 1e6 / self.high_k)
        return f"about {round(100.0 * share, -1):.0f} % of the way from its warm end"


def steps_of(text: str) -> DialSteps:
    """What is written of a dial. Raises `ValueError`, whose message says how it is written.

    >>> steps_of("in 50 K from 2700 to 6500").nearest(5112.0)
    5100.0
    """
    words = text.replace(notation.THIN_SPACE, "").casefold().strip()
    ends = r"(?:\s+(\d{4,5})\s*(?:to|-|–)\s*(\d{4,5})\s*k?)?"
    stepped = re.fullmatch(rf"(?:in(?: steps of)?\s+)?(\d{{1,4}})\s*k(?:\s+from)?{ends}", words)
    if stepped is not None and 0.0 < float(stepped[1]) <= 1000.0:
        low, high = (float(stepped[2]), float(stepped[3])) if stepped[2] else (None, None)
        return DialSteps(float(stepped[1]), (), low, high)
    numbers = re.fullmatch(r"(?:notches\s+)?(\d{4,5}(?:\s*k)?(?:(?:\s*[,/]\s*|\s+)\d{4,5}(?:\s*k)?)*)", words)
    if numbers is not None:
        notches = tuple(sorted({float(one) for one in re.findall(r"\d{4,5}", numbers[1])}))
        return DialSteps(notches=notches)
    ends_alone = re.fullmatch(
        r"(?:no numbers|unnumbered)(?:,?\s+from)?\s+(\d{4,5})\s*(?:to|-|–)\s*(\d{4,5})\s*k?", words
    )
    if ends_alone is not None and float(ends_alone[1]) < float(ends_alone[2]):
        return DialSteps(1.0, (), float(ends_alone[1]), float(ends_alone[2]), numbered=False)
    raise ValueError(
        f"“{text}” is no dial; write in 50 K, in 100 K from 2800 to 6500, notches 2700, 3200, 5600, or no numbers 2800"
        " to 6500"
    )


def dial_of(gear: Iterable[Gear]) -> DialSteps:
    """The dial of a model by its rows of gear; the usual where nothing, or nothing that can be read, is written."""
    for row in gear:
        if row.name.casefold() == DIAL:
            try:
                return steps_of(row.text)
            except ValueError:
                break
    return DialSteps()
