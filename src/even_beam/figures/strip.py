"""Scores of samples as a strip of figures that can be read in black and white: a row a lamp, a column a sample."""

from dataclasses import dataclass

from even_beam.figures.scores import Rgb
from even_beam.known.findings.colour import WEAK

GOOD = 90.0
"""A sample of so much and more is printed plainly, a weak one white on black (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Strip:
    """Samples by their `names` and colours, and of each lamp its scores, None where one was not read."""

    title: str
    names: tuple[str, ...]
    colours: tuple[Rgb, ...]
    rows: tuple[tuple[str, tuple[float | None, ...]], ...]

    @property
    def empty(self) -> bool:
        """Whether nothing was read."""
        return all(score is None for _, scores in self.rows for score in scores)

    @property
    def note(self) -> str:
        """What the grounds mean."""
        return f"light: {GOOD:.0f} and more; grey: {WEAK:.0f} to {GOOD - 1:.0f}; black: below {WEAK:.0f}"


def ground_of(score: float | None) -> str:
    """The ground a score is printed on: light, grey or black; none where it was not read.

    >>> ground_of(89.6), ground_of(89.4)
    ('light', 'grey')
    """
    if score is None:
        return "none"
    shown = round(score)  # as it is printed
    return "light" if shown >= GOOD else "grey" if shown >= WEAK else "black"
