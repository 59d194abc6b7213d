"""What one change did, told as the reading after it comes in: *spot 1.86× flood*, *dish 3.80× bare, −1.1 mired*."""

from collections.abc import Sequence

from even_beam.bench import terms
from even_beam.bench.fields import UNSTATED
from even_beam.bench.measured import Measured
from even_beam.words import notation

CHANGES = ("zoom", "configuration", "level")
"""What is changed to see what it does; whites and distances have a law, and are told by it."""

LEAST_MIRED, LEAST_DUV = 1.0, 0.0005
"""Shifts below these go without saying."""


def effect_of(now: Measured, earlier: Sequence[Measured]) -> str:
    """The newest of the earlier readings of this lamp that differs in one such change alone, beside this one; empty
    where there is none, or where it reads the same once more."""
    level = now.value("illuminance")
    if not level or any(terms.key(m) == terms.key(now) and m.source_id == now.source_id for m in earlier):
        return ""
    lit = [m for m in reversed(earlier) if m.source_id == now.source_id and m.value("illuminance")]
    for before in lit:
        for name in CHANGES:
            if terms.key(before, name) == terms.key(now, name):
                return _words(name, now, before)
    return ""


def _words(name: str, now: Measured, before: Measured) -> str:
    ours, theirs = (
        terms.value_words(m, name) if terms.value(m, name) is not UNSTATED else "as it stood" for m in (now, before)
    )
    ratio = (now.value("illuminance") or 0.0) / (before.value("illuminance") or 1.0)
    white, was = now.value("cct"), before.value("cct")
    shift = 1e6 / white - 1e6 / was if white and was else 0.0
    moved = f", {notation.number(shift, 1, signed=True)} mired" if abs(shift) >= LEAST_MIRED else ""
    tint, had = now.value("duv"), before.value("duv")
    if name == "configuration" and tint is not None and had is not None and abs(tint - had) >= LEAST_DUV:
        moved += f", Duv {notation.duv(tint - had)}"
    return f"{notation.sentence(ours)} gives {notation.times(ratio)}× {theirs}{moved}."
