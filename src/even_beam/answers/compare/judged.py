"""Lamps judged for a purpose: a word a lamp, limit by limit on one scale, and what is claimed beside what was read."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass

from even_beam.answers.findings.witness import Witness
from even_beam.bench import fields, terms, terms_in_words
from even_beam.bench.tolerances import LIMITS
from even_beam.known.choice import Entrant
from even_beam.known.comparison import Comparison
from even_beam.known.findings.claims import ClaimVerdict, Even, Holds, figure_claimed
from even_beam.known.verdict_words import figure_words, reason_of
from even_beam.known.verdicts import Answer, Judgement, Verdict, keep_or_send_back, strengths_and_weaknesses
from even_beam.shell.sheet import Cell, Sheet
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class OnScale:
    """A figure on the scale of its limit, 0 to 1: where it stands and from where to where the meter can tell.

    `at` is None where there is no plain figure. `sure` tells whether the meter can tell, `outside` what it is as read.
    """

    text: str
    at: float | None = None
    low: float = 0.0
    high: float = 0.0
    sure: bool = False
    outside: bool = False


@dataclass(frozen=True, slots=True)
class JudgedLimit:
    """One limit: its words, its bound, what is allowed on its scale, and a figure a lamp."""

    label: str
    bound: str
    allowed: tuple[float, float]
    figures: tuple[OnScale, ...]


@dataclass(frozen=True, slots=True)
class JudgedLamp:
    """One lamp: yes, no, cannot tell or not measured; why in a line, and what to do."""

    key: str
    name: str
    on_it: str
    word: str
    why: str
    act: str
    reason: str = ""

    @property
    def sentence(self) -> str:
        """It in a line."""
        return ": ".join(part for part in (self.name, self.word) if part) + (f" ({self.why})" if self.why else "")


@dataclass(frozen=True, slots=True)
class Judged:
    """Lamps side by side for a purpose, and sentences on claims, and for and against each."""

    purpose: str
    lamps: tuple[JudgedLamp, ...]
    limits: tuple[JudgedLimit, ...]
    claims: tuple[str, ...]
    sides: tuple[str, ...]


def asked_of(comparison: Comparison, entrant: Entrant) -> dict[str, Hashable]:
    """The very terms at which a lamp is compared: it is judged there, and nowhere else, whoever stands beside it."""
    entry = comparison.entry(entrant.key)
    if entry is None or entry.first is None:
        return {}
    return {name: terms.value(entry.first, name) for name in fields.NAMES}


def judged_of(witness: Witness, entrants: Sequence[Entrant], purpose: str, comparison: Comparison) -> Judged:
    """The lamps judged at the terms at which they are compared."""
    verdicts = [witness.verdict(e, purpose, asked_of(comparison, e)) for e in entrants]
    lamps = tuple(_lamp(witness, e, v, comparison) for e, v in zip(entrants, verdicts, strict=True))
    count = len(verdicts[0].judgements) if verdicts else 0
    limits = tuple(_limit([v.judgements[place] for v in verdicts]) for place in range(count))
    return Judged(purpose, lamps, limits, claim_lines(witness, entrants), _sides(witness, entrants, verdicts))


def _lamp(witness: Witness, entrant: Entrant, judged: Verdict, comparison: Comparison) -> JudgedLamp:
    entry = comparison.entry(entrant.key)
    first = entry.first if entry is not None else None
    word, why = _word(judged)
    return JudgedLamp(
        key=entrant.key,
        name=entrant.name,
        on_it=terms_in_words.configuration(first.terms) if first is not None else "nothing read at these terms",
        word=word,
        why=why,
        act=_act(witness, entrant, judged),
        reason=reason_of(judged),
    )


def _word(judged: Verdict) -> tuple[str, str]:
    """Yes, no or neither, and the limits that say so."""
    outside = [j for j in judged.judgements if j.answer is Answer.OUTSIDE]
    sure = [j.label for j in outside if j.certain]
    if sure:
        return "no", f"{_listed(sure)}, for sure"
    if outside:
        return "cannot tell", f"{_listed([j.label for j in outside])} outside as read, by less than the meter can tell"
    unread = [j.label for j in judged.judgements if j.answer is Answer.NOT_MEASURED]
    if len(unread) == len(judged.judgements):
        return "not measured", "nothing that this purpose asks for was read at these terms"
    if unread:
        return "cannot tell", f"{_listed(unread)} not measured"
    sure_count = sum(j.certain for j in judged.judgements)
    every = len(judged.judgements)
    return "yes", f"all {every} limits, {'each' if sure_count == every else str(sure_count)} for sure"


_MOST_NAMED = 3


def _listed(names: Sequence[str]) -> str:
    """Names in a row, the first few of many."""
    few, more = list(names[:_MOST_NAMED]), len(names) - _MOST_NAMED
    if more > 0:
        return f"{', '.join(few)} and {more} more"
    return " and ".join([", ".join(few[:-1]), few[-1]]) if len(few) > 1 else "".join(few)


def _act(witness: Witness, entrant: Entrant, judged: Verdict) -> str:
    """What to do about it, in a line: send it back by a day, or read what is open."""
    decision = keep_or_send_back(judged, witness.claims(entrant), witness.return_by(entrant))
    if decision.keep is False and decision.by is not None:
        return f"goes back by {decision.by:%A %-d %B}"
    if decision.keep is None:
        until = f" before {decision.by:%A %-d %B}" if decision.by is not None else ""
        return f"read it again{until}" if judged.answer is Answer.OUTSIDE else f"M plans what is missing{until}"
    return ""


def _limit(own: Sequence[Judgement]) -> JudgedLimit:
    """One limit over all lamps, on one scale."""
    first = own[0]
    described = LIMITS[first.limit]
    low, high, allowed = _scale(first.limit, first.bound, [j.value for j in own if j.value is not None])

    def place(value: float) -> float:
        return min(max((value - low) / (high - low), 0.0), 1.0)

    figures = tuple(
        OnScale(
            text=figure_words(j),
            at=place(j.value) if j.value is not None else None,
            low=place(j.value - j.uncertainty) if j.value is not None else 0.0,
            high=place(j.value + j.uncertainty) if j.value is not None else 0.0,
            sure=j.certain,
            outside=j.answer is Answer.OUTSIDE,
        )
        for j in own
    )
    unit = f" {described.unit}" if described.unit else ""
    bound = f"{'at most' if described.most else 'at least'} {notation.plain(first.bound, 4)}{unit}"
    return JudgedLimit(first.label, bound, (place(allowed[0]), place(allowed[1])), figures)


BEST_SCORE = 100.0


def _scale(limit: str, bound: float, values: Sequence[float]) -> tuple[float, float, tuple[float, float]]:
    """The ends of a limit's scale, and what is allowed on it."""
    described = LIMITS[limit]
    if not described.most:
        top = BEST_SCORE if described.unit in {"", "%"} else 2.0 * bound
        span = 1.1 * max(top - bound, bound - min([bound, *values]), 0.15 * abs(top))
        return min(bound - span, *values, bound), top, (bound, top)
    reach = max(2.0 * bound, 1.1 * max((abs(v) for v in values), default=0.0)) or 1.0
    if described.unit == "lx":
        return 0.0, reach, (0.0, bound)
    return -reach, reach, (-bound, bound)


def sheet_of(judged: Judged) -> Sheet:
    """The same as rows, for more lamps than stand side by side."""
    columns = ("lamp", judged.purpose, "why", *(f"{one.label}, {one.bound}" for one in judged.limits), "what to do")
    rows = []
    for place, lamp in enumerate(judged.lamps):
        cells = [Cell(lamp.name, by=lamp.name.casefold()), Cell(lamp.word, lamp.word == "no", by=lamp.word)]
        cells.append(Cell(lamp.why, quiet=True))
        for limit in judged.limits:
            own = limit.figures[place]
            text = own.text if own.sure or own.at is None else f"{own.text} ?"
            cells.append(Cell(text, own.outside, quiet=own.at is None, by=own.at))
        rows.append((lamp.key, None, (*cells, Cell(lamp.act))))
    return Sheet(columns, tuple(rows))


# --- claims


def claim_lines(witness: Witness, entrants: Sequence[Entrant]) -> tuple[str, ...]:
    """A line a lamp on its claims, what does not hold first; nothing of lamps of which nothing is claimed."""
    lines = []
    for entrant in entrants:
        judged = sorted(witness.claims(entrant), key=lambda one: _ORDER.index(one.holds))
        if judged:
            lines.append(f"{entrant.name}: {'; '.join(map(_claim_words, judged))}.")
    return tuple(lines)


_ORDER = (Holds.NO, Holds.YES, Holds.CANNOT_TELL)


def _claim_words(judged: ClaimVerdict) -> str:
    claim = judged.claim
    said = figure_claimed(claim)
    if judged.even is Even.NOT_MEASURED:
        return f"{said} not read at those terms"
    read = "" if judged.value is None else f" ({notation.plain(float(f'{judged.value:.4g}'), 1)})"
    uneven = ", not at the terms of the claim" if judged.even is Even.NOT_EQUAL else ""
    return f"{said} {_HOLDS[judged.holds]}{read}{uneven}"


_HOLDS = {Holds.YES: "holds", Holds.NO: "does not hold", Holds.CANNOT_TELL: "cannot be told"}

MOST_SENTENCES = 2
"""So many sentences stand for a lamp, and so many against it, those of the greatest weight first."""


def _sides(witness: Witness, entrants: Sequence[Entrant], verdicts: Sequence[Verdict]) -> tuple[str, ...]:
    """What speaks for and against each lamp."""
    lines = []
    for entrant, judged in zip(entrants, verdicts, strict=True):
        strong, weak = strengths_and_weaknesses([judged], witness.claims(entrant))
        for side, sentences in (("for", strong), ("against", weak)):
            if sentences:
                lines.append(f"{side} {entrant.name}: {' '.join(sentences[:MOST_SENTENCES])}")
    return tuple(lines)
