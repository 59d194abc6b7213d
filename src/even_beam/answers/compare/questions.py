"""The five questions that Compare answers, and what is missing where one has no answer."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from even_beam.known.comparison import Comparison, Entry
from even_beam.known.findings.colour import sample_scores
from even_beam.words.quantities import score_names


class Ask(StrEnum):
    """A question, in the order of its key."""

    BRIGHT = "How bright?"
    WHITE = "Which white?"
    COLOURS = "Which colours?"
    ENOUGH = "Good enough?"
    WORTH = "Worth it?"


@dataclass(frozen=True, slots=True)
class Missing:
    """Why a question has no answer, and the protocols that would give it one; none where the Kit would."""

    words: str
    protocols: tuple[str, ...] = ()


def _has_score(entry: Entry) -> bool:
    return any(name in entry.figures or name in entry.texts for name in score_names())


def missing_of(comparison: Comparison | None, prices: Sequence[str]) -> dict[Ask, Missing]:
    """The questions that cannot be answered of what was read at these terms; `prices` names the lamps that have one."""
    entries = comparison.entries if comparison is not None else ()
    found: dict[Ask, Missing] = {}
    has_level = [e for e in entries if e.level is not None]
    has_white = [e for e in entries if e.cct_k is not None or "cct" in e.texts or "duv" in e.figures]
    has_colour = [e for e in entries if _has_score(e) or any(map(sample_scores, (*e.readings, *e.colour)))]
    if not has_level:
        found[Ask.BRIGHT] = Missing("No level was read of these lamps at these terms.", ("head to head",))
    if not has_white:
        found[Ask.WHITE] = Missing(
            "No white was read of these lamps at these terms: it takes a colour meter or a spectrometer.",
            ("CCT sweep",),
        )
    if not has_colour:
        found[Ask.COLOURS] = Missing(
            "No spectrum and no score was read of these lamps at these terms.", ("head to head",)
        )
    if not has_level and not has_white and not has_colour:
        found[Ask.ENOUGH] = Missing("Nothing was read that a purpose asks for.", ("claims check",))
    if not prices:
        found[Ask.WORTH] = Missing("No lamp has a price. Write it down in the Kit, with all that it needs.")
    return found
