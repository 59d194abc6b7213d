"""A spectrum by what it does to subjects: a sentence each, and the scores that say so."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.figures.patches import PatchPair
from even_beam.figures.scores import Rgb, rgb_of
from even_beam.light.subjects import SUBJECTS, Shift, samples_of
from even_beam.words import notation

AS_IT_IS, SEEN, STRONG = 1.0, 2.0, 4.0
"""CIEDE2000 up to which a subject is as it is, looks a touch different, plainly different (common practice, no
source)."""

_HUES: tuple[tuple[float, str], ...] = (
    (0.0, "pink"), (30.0, "red"), (58.0, "orange"), (92.0, "yellow"), (145.0, "green"), (200.0, "turquoise"),
    (265.0, "blue"), (310.0, "violet"), (360.0, "pink"),
)  # fmt: skip
"""Names of hues by their CIELAB angle (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class SubjectRow:
    """A subject: its colour under the reference and under the lamp, what becomes of it, and what says so."""

    name: str
    reference: Rgb
    lamp: Rgb
    words: str
    delta_e: float
    evidence: str
    members: tuple[PatchPair, ...]

    @property
    def marked(self) -> bool:
        """Whether it is plainly different."""
        return self.delta_e > SEEN


def rows_of(shifts: Sequence[Shift], scores: Mapping[int, float]) -> tuple[SubjectRow, ...]:
    """A row a subject, one's own after the published ones; `scores` are R1 to R15 by their numbers."""
    published = len(SUBJECTS)
    return tuple(_row(shift, scores if place < published else {}) for place, shift in enumerate(shifts))


def _row(shift: Shift, scores: Mapping[int, float]) -> SubjectRow:
    reference, lamp = rgb_of(shift.colours)
    own = [i for i in samples_of(shift.subject) if i in scores] if scores else []
    if len(own) > 3:
        values = [scores[i] for i in own]
        said = f"R{own[0]}–R{own[-1]} {notation.score(min(values))} to {notation.score(max(values))}"
    else:
        said = " · ".join(f"R{i} {notation.score(scores[i])}" for i in own)
    return SubjectRow(
        name=shift.subject,
        reference=reference,
        lamp=lamp,
        words=words_of(shift),
        delta_e=shift.mean,
        evidence=said,
        members=_pairs(shift),
    )


def _pairs(shift: Shift) -> tuple[PatchPair, ...]:
    from even_beam.light.rendering import display_of_lab

    before, after = rgb_of(display_of_lab(shift.before)), rgb_of(display_of_lab(shift.after))
    return tuple(PatchPair(name, before[i], after[i], float(shift.delta_e[i])) for i, name in enumerate(shift.members))


def words_of(shift: Shift) -> str:
    """What becomes of a subject: how much, and in which directions, the strongest first."""
    if shift.mean <= AS_IT_IS:
        return "as they are" if shift.subject.endswith("s") else "as it is"
    parts = []
    neutral = float(np.hypot(*shift.before[:, 1:].T).mean()) < 5.0
    sizes = {"lightness": shift.lightness, "chroma": shift.chroma, "hue": 0.0 if neutral else shift.hue}
    most = max(abs(size) for size in sizes.values())
    for name, size in sorted(sizes.items(), key=lambda pair: -abs(pair[1])):
        if abs(size) >= max(0.5, 0.4 * most):
            parts.append(_direction(name, size, shift.hue_deg, neutral=neutral))
    how = "a touch " if shift.mean <= SEEN else "" if shift.mean <= STRONG else "much "
    return how + " and ".join(parts) if parts else "shifted, each another way"


def _direction(name: str, size: float, hue_deg: float, *, neutral: bool) -> str:
    if name == "lightness":
        return "lighter" if size > 0.0 else "darker"
    if name == "chroma":
        if neutral:
            return "tinted"
        return "more vivid" if size > 0.0 else "duller"
    return f"more {towards(hue_deg, size)}"


def towards(hue_deg: float, turn: float) -> str:
    """The name of the hue that a hue turns towards: the next one in that direction.

    >>> towards(35.0, 1.0), towards(35.0, -1.0)
    ('orange', 'pink')
    """
    names = [name for _, name in _HUES[:-1]]
    angles = [angle for angle, _ in _HUES[:-1]]
    own = min(range(len(angles)), key=lambda i: min(abs(angles[i] - hue_deg), 360.0 - abs(angles[i] - hue_deg)))
    return names[(own + (1 if turn > 0.0 else -1)) % len(names)]


def headline(rows: Sequence[SubjectRow]) -> str:
    """What the light is good for, and what it does to the rest, in a sentence."""
    good = [row.name for row in rows if row.delta_e <= SEEN]
    bad = sorted((row for row in rows if row.marked), key=lambda row: -row.delta_e)
    if not bad:
        return "Every subject stays as it is, or nearly so."
    parts = [f"{row.name} {'go' if row.name.endswith('s') else 'goes'} {row.words}" for row in bad[:2]]
    if len(bad) > 2:
        parts.append(f"{len(bad) - 2} more change plainly")
    if len(good) > _MOST_NAMED:
        parts.insert(0, f"Good for all but {_listed([row.name for row in bad])}")
    elif good:
        parts.insert(0, f"Good for {_listed(good)}")
    return notation.sentence("; ".join(parts)) + "."


_MOST_NAMED = 4


def _listed(names: Sequence[str]) -> str:
    names = [name.replace(", ", " and ") for name in names]
    return " and ".join([", ".join(names[:-1]), names[-1]]) if len(names) > 1 else "".join(names)
