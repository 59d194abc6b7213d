"""Split patches as plain data: a subject under two lights."""

from dataclasses import dataclass

from even_beam.figures.scores import Rgb


@dataclass(frozen=True, slots=True)
class PatchPair:
    """One subject under the reference and under the lamp, as display colours, and CIEDE2000 between them."""

    name: str
    reference: Rgb
    lamp: Rgb
    delta_e: float
    left_out: bool = False
