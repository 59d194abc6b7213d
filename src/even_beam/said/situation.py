"""What a line is typed into: what is asked, what stands, and which names and numbers are known."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from even_beam.bench.exposure import Exposure
from even_beam.bench.records import Terms


@dataclass(frozen=True, slots=True)
class Situation:
    """What a line is typed into.

    `asked` are the quantities that the next reading answers, in order; `firm` where a run asks for them. `expected`
    is the level that would fit, in lx, `lately` the span of the last levels where bare numbers were levels all along.
    `whites`, `zooms` and `fitted` are those of the logbook, `cri` the quantity that CRI stands for once that was said
    ("ra" or "re"), `exposure` what f-numbers stand for, `level_unit` what a bare level is in.
    `settings_alone` where only settings are said, of a step or of what a lamp shows: nothing is a figure then. `lamps`
    are those that may be named, their ids by their names.
    """

    asked: tuple[str, ...]
    terms: Terms = field(default_factory=Terms)
    firm: bool = False
    expected: tuple[float, float] | None = None
    lately: tuple[float, float] | None = None
    whites: frozenset[float] = frozenset()
    zooms: frozenset[str] = frozenset()
    fitted: tuple[str, ...] = ()
    cri: str = ""
    exposure: Exposure | None = None
    level_unit: str = "lx"
    settings_alone: bool = False
    lamps: Mapping[str, str] = field(default_factory=dict)
