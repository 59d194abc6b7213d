"""Lamps judged: every limit of a purpose, every claim, what speaks for and against each, and whether it goes back."""

from collections import Counter
from collections.abc import Hashable, Sequence

from even_beam.bench import fields, notation, terms
from even_beam.bench.choice import Entrant
from even_beam.bench.comparison import Comparison
from even_beam.bench.fields import UNSTATED
from even_beam.bench.findings.claims import ClaimVerdict, Even, Holds
from even_beam.bench.quantities import QUANTITIES
from even_beam.bench.tolerances import LIMITS
from even_beam.bench.verdicts import Answer, Judgement, keep_or_send_back, strengths_and_weaknesses
from even_beam.workspace.compare.table import Cell, TableRow
from even_beam.workspace.findings.witness import Witness


def asked_of(comparison: Comparison, entrant: Entrant) -> dict[str, Hashable]:
    """The very terms at which a lamp is compared: it is judged there, and nowhere else.

    A lamp whose white cannot be dialled is held against the white that most of the others were asked for.
    """
    entry = comparison.entry(entrant.key)
    if entry is None or entry.first is None:
        return {}
    asked = {name: terms.value(entry.first, name) for name in fields.NAMES}
    others = Counter(terms.value(e.first, "cct") for e in comparison.entries if e.first is not None)
    del others[UNSTATED]
    if asked["cct"] is UNSTATED and others:
        asked["cct"] = others.most_common(1)[0][0]
    return asked


def verdict_table(
    witness: Witness, entrants: Sequence[Entrant], purpose: str, comparison: Comparison
) -> tuple[TableRow, ...]:
    """Every limit of a purpose, lamp by lamp; what is outside is marked, what the meter cannot tell is said."""
    judged = [witness.verdict(e, purpose, asked_of(comparison, e)) for e in entrants]
    rows = [
        TableRow(
            "as read",
            tuple(
                Cell(
                    f"{v.answer}{'' if v.certain or v.answer is Answer.NOT_MEASURED else ', not for sure'}",
                    marked=v.answer is Answer.OUTSIDE,
                )
                for v in judged
            ),
        )
    ]
    for place, first in enumerate(judged[0].judgements if judged else ()):
        bound = (
            f"{'at most' if LIMITS[first.limit].most else 'at least'} {notation.plain(first.bound, 4)}"
            f" {LIMITS[first.limit].unit}".strip()
        )
        cells = [_judgement_cell(v.judgements[place]) for v in judged]
        rows.append(TableRow(f"{first.label}, {bound}", tuple(cells)))
    return tuple(rows)


def _judgement_cell(judged: Judgement) -> Cell:
    if judged.value is None:
        return Cell("not measured", quiet=True)
    decimals = {"duv": 4, "unit_stops": 2, "ageing_stops": 2}.get(judged.limit, 1)
    text = notation.number(judged.value, decimals, signed=LIMITS[judged.limit].most)
    return Cell(text if judged.certain else f"{text}, the meter cannot tell", marked=judged.answer is Answer.OUTSIDE)


def decision_sentences(
    witness: Witness, entrants: Sequence[Entrant], purpose: str, comparison: Comparison
) -> tuple[str, ...]:
    """Keep or send back, for each lamp."""
    found = []
    for entrant in entrants:
        judged = witness.verdict(entrant, purpose, asked_of(comparison, entrant))
        decision = keep_or_send_back(judged, witness.claims(entrant), witness.return_by(entrant))
        found.append(f"{entrant.name}: {decision.sentence}")
    return tuple(found)


MOST_SENTENCES = 4
"""So many sentences stand for a lamp, and so many against it, those of the greatest weight first."""


def claims_table(witness: Witness, entrants: Sequence[Entrant]) -> tuple[TableRow, ...]:
    """Every claim of the lamps' models beside what was measured of each."""
    by_claim: dict[str, dict[str, ClaimVerdict]] = {}
    for entrant in entrants:
        for judged in witness.claims(entrant):
            claim = judged.claim
            name = ", ".join(part for part in (f"{_said(claim.text, claim.unit)}", claim.condition) if part)
            by_claim.setdefault(f"{QUANTITIES[claim.quantity].label} {name}", {})[entrant.key] = judged
    return tuple(
        TableRow(name, tuple(_claim_cell(own.get(entrant.key)) for entrant in entrants))
        for name, own in by_claim.items()
    )


def _said(text: str, unit: str) -> str:
    return text if unit.casefold() in text.casefold() else f"{text} {unit}"


def _claim_cell(judged: ClaimVerdict | None) -> Cell:
    if judged is None:
        return Cell(notation.NONE, quiet=True)
    if judged.even is Even.NOT_MEASURED:
        return Cell("not measurable", quiet=True)
    value = "" if judged.value is None else f": {notation.plain(float(f'{judged.value:.4g}'), 1)}"
    uneven = ", terms not equal" if judged.even is Even.NOT_EQUAL else ""
    return Cell(
        f"{judged.holds}{value}{uneven}", marked=judged.holds is Holds.NO, quiet=judged.holds is Holds.CANNOT_TELL
    )


def claim_sentences(witness: Witness, entrants: Sequence[Entrant]) -> tuple[str, ...]:
    """The claims that do not hold, and those that cannot be told, lamp by lamp."""
    return tuple(
        f"{entrant.name}: {judged.sentence}"
        for entrant in entrants
        for judged in witness.claims(entrant)
        if judged.holds is Holds.NO
    )


def for_and_against(
    witness: Witness, entrants: Sequence[Entrant], purpose: str, comparison: Comparison
) -> tuple[TableRow, ...]:
    """What speaks for and against each lamp for a purpose, a sentence a cell."""
    told = [
        strengths_and_weaknesses([witness.verdict(e, purpose, asked_of(comparison, e))], witness.claims(e))
        for e in entrants
    ]
    rows = []
    for side, name in ((0, "for it"), (1, "against it")):
        longest = min(MOST_SENTENCES, max((len(one[side]) for one in told), default=0))
        for place in range(longest):
            cells = [Cell(one[side][place] if place < len(one[side]) else "", marked=False) for one in told]
            rows.append(TableRow(name if place == 0 else "", tuple(cells)))
    return tuple(rows)
