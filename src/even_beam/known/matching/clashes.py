"""Sources side by side: which clash, which agree as they are, and which of them costs least to follow."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from even_beam.bench.target import MATCH_DUV, MATCH_MIRED, matches, off_words
from even_beam.known.matching.answer import Answer
from even_beam.known.matching.gels import off_both
from even_beam.light import FloatArray
from even_beam.words import notation

LEANS_DUV = 0.001
"""A light nearer to the target than this is neither green nor magenta to anybody."""


@dataclass(frozen=True, eq=False, slots=True)
class Pair:
    """Two sources as they were read, and after what each is told to do: mired and Duv of the first off the second.

    `tlmf` and `ssi` are of their spectra as read, None without; 100 is as one. `ssi` takes the second as the reference.
    `subjects` are what still stands between them once their whites agree: what the first does to which subject, with
    its mean CIEDE2000.
    """

    a: Answer
    b: Answer
    mired: float
    duv: float | None
    after_mired: float
    after_duv: float | None
    tlmf: float | None = None
    ssi: float | None = None
    subjects: str = ""

    @property
    def clashes(self) -> bool:
        """Whether the two do not pass for one white as they are."""
        return not matches(self.mired, self.duv)

    @property
    def agrees_after(self) -> bool:
        """Whether they do once both have done what they are told."""
        return matches(self.after_mired, self.after_duv)

    @property
    def opposite(self) -> bool:
        """Whether one leans to green and the other to magenta, farther apart than a match allows: seen at once on
        skin."""
        (_, ours), (_, theirs) = self.a.off, self.b.off
        if ours is None or theirs is None:
            return False
        return ours * theirs < 0.0 and min(abs(ours), abs(theirs)) >= LEANS_DUV and abs(ours - theirs) > MATCH_DUV

    @property
    def sentence(self) -> str:
        """What stands between them."""
        if self.opposite and self.duv is not None:
            green, magenta = (self.a, self.b) if self.duv > 0 else (self.b, self.a)
            apart = notation.duv(abs(self.duv)).lstrip("+")
            return f"{green.name} is green and {magenta.name} magenta of the target: {apart} Duv apart side by side."
        return f"{self.a.name} beside {self.b.name}: {off_words(self.mired, self.duv)}."


MOST_PAIRS = 2000
"""So many pairs are looked at; of sixty-three sources every one."""


def pairs(answers: Sequence[Answer]) -> list[Pair]:
    """Every two sources: opposite tints first, then the farthest apart; of more than `MOST_PAIRS` the first."""
    first, second = np.triu_indices(len(answers), 1)
    mired, duv = _offs(answers)
    tints_known = np.isfinite(duv[first]) & np.isfinite(duv[second])
    ours, theirs = np.nan_to_num(duv)[first], np.nan_to_num(duv)[second]
    leaning = np.minimum(np.abs(ours), np.abs(theirs)) >= LEANS_DUV
    opposite = (ours * theirs < 0.0) & leaning & (np.abs(ours - theirs) > MATCH_DUV)
    far = off_both(mired[first] - mired[second], np.where(tints_known, ours - theirs, 0.0))
    order = np.lexsort((-far, ~opposite))[:MOST_PAIRS]
    return [_pair(answers[first[k]], answers[second[k]]) for k in order]


def _offs(answers: Sequence[Answer]) -> tuple[FloatArray, FloatArray]:
    """How far each is off the target as it was read, (n,) in mired and Duv; NaN for a tint that was not read."""
    mired = np.array([one.off[0] for one in answers], dtype=np.float64)
    return mired, np.array([np.nan if one.off[1] is None else one.off[1] for one in answers], dtype=np.float64)


def _agree(mired: FloatArray, duv: FloatArray, one: int) -> NDArray[np.bool_]:
    """Which of all pass for one white with one of them, (n,)."""
    apart = np.abs(duv - duv[one])
    return (np.abs(mired - mired[one]) <= MATCH_MIRED) & ~(apart > MATCH_DUV)


def clash_count(answers: Sequence[Answer]) -> int:
    """How many pairs of sources do not pass for one white as they are."""
    mired, duv = _offs(answers)
    return sum(int((~_agree(mired, duv, place)[place + 1 :]).sum()) for place in range(len(answers)))


def _pair(a: Answer, b: Answer) -> Pair:
    (mired, duv), (after, after_duv) = _apart(a.off, b.off), _apart(a.left, b.left)
    return Pair(a, b, mired, duv, after, after_duv)


def _apart(ours: tuple[float, float | None], theirs: tuple[float, float | None]) -> tuple[float, float | None]:
    """Of two that are off one target."""
    duv = None if ours[1] is None or theirs[1] is None else ours[1] - theirs[1]
    return ours[0] - theirs[0], duv


def groups(answers: Sequence[Answer]) -> list[tuple[str, ...]]:
    """The sources that agree as they are, two or more in each group: every one with every other of its group."""
    mired, duv = _offs(answers)
    left, found = np.ones(len(answers), dtype=bool), []
    for first in range(len(answers)):
        if not left[first]:
            continue
        group, fits = [first], left & _agree(mired, duv, first)
        fits[: first + 1] = False
        for other in range(first + 1, len(answers)):
            if fits[other]:
                group.append(other)
                fits &= _agree(mired, duv, other)
        left[group] = False
        if len(group) > 1:
            found.append(tuple(answers[place].name for place in group))
    return found


def price(answers: Sequence[Answer]) -> float:
    """What it takes to follow a target, for choosing one: the light that is lost, in stops, half a stop for each gel
    that must be cut, and what is left beyond a match, each limit counting as a stop."""
    total = 0.0
    for one in answers:
        gels = len(one.gels[0].pack) if one.gels else 0
        mired, duv = one.left
        beyond = max(float(off_both(mired, duv or 0.0)) - 1.0, 0.0)
        total += max(one.cost_stops or 0.0, 0.0) + 0.5 * gels + beyond
    return total
