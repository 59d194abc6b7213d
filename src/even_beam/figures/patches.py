"""Split patches as plain data: a subject under two lights."""

from dataclasses import dataclass

from even_beam.figures.scores import Rgb
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class PatchPair:
    """One subject under the reference and under the lamp, as display colours, and CIEDE2000 between them."""

    name: str
    reference: Rgb
    lamp: Rgb
    delta_e: float
    left_out: bool = False


@dataclass(frozen=True, slots=True)
class PatchSet:
    """The patches of one lamp: upper halves under what the title names second, lower halves under the lamp."""

    title: str
    pairs: tuple[PatchPair, ...]
    mean: float

    @property
    def words(self) -> str:
        """Which differ most."""
        worst = sorted(self.pairs, key=lambda pair: -pair.delta_e)[:3]
        most = ", ".join(f"{pair.name} {notation.number(pair.delta_e, 1)}" for pair in worst)
        return f"CIEDE2000 {notation.number(self.mean, 1)} on average; most {most}"

    @property
    def empty(self) -> bool:
        """Whether there is no patch in it."""
        return not self.pairs
