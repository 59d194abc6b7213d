"""A lamp's page: what is known of it first, claims beside what they came to, where it is from, and its record."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.answers.findings.glance_words import Figure
from even_beam.answers.findings.told import Told
from even_beam.bench.records import Session
from even_beam.desk.kit.lamp_form import LampCard, claim_text, price_of
from even_beam.desk.kit.view import shown_price
from even_beam.known.findings.claims import ClaimVerdict, Even, Holds
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES


@dataclass(frozen=True, slots=True)
class Known:
    """A sentence, the terms that it holds for, and what it rests on in a few words."""

    text: str
    terms: str = ""
    rests_on: str = ""


@dataclass(frozen=True, slots=True)
class ClaimRow:
    """What is claimed, and what it came to; `marked` when it does not hold."""

    name: str
    claimed: str
    came_to: str
    marked: bool = False


@dataclass(frozen=True, slots=True)
class RecordLine:
    """A session in which it was read."""

    session_id: str
    words: str


@dataclass(frozen=True, slots=True)
class LampPage:
    """All that the Kit tells of a lamp. `known` is None while it is being found; `figures` are the large ones, and
    `terms` what all of it holds for where no sentence says otherwise.

    `photo` is the newest that was kept of it, encoded; without one it is `drawn_as` things of its kind look.
    """

    name: str
    line: str
    known: tuple[Known, ...] | None
    claims: tuple[ClaimRow, ...]
    facts: tuple[tuple[str, str], ...]
    record: tuple[RecordLine, ...]
    gear: tuple[tuple[str, str], ...] = ()
    drawn_as: str = ""
    photo: bytes | None = None
    terms: str = ""
    figures: tuple[Figure, ...] = ()


_DRAWN: tuple[tuple[str, str], ...] = (
    ("panel", "panel"), ("mat", "panel"), ("tube", "tube"), ("fresnel", "spot"), ("spot", "spot"),
    ("point source", "spot"), ("discharge", "spot"), ("colour light", "spot"), ("window", "window"), ("sun", "sun"),
    ("sky", "sun"), ("flash", "flash"), ("display", "window"),
)  # fmt: skip


def drawn_as(kind: str) -> str:
    """How a lamp of a kind is drawn: panel, tube, spot, window, sun, flash, or a plain bulb."""
    return next((shape for word, shape in _DRAWN if word in kind.casefold()), "bulb")


_CLAIM_NAMES = {"cct": "white", "illuminance": "level"}
"""What a claim is called where it is not called as its quantity."""


def page_of(
    card: LampCard,
    read_in: Sequence[tuple[Session, int]],
    known: tuple[Sequence[Told], Sequence[ClaimVerdict]] | None,
    units: Sequence[str] = (),
    photo: bytes | None = None,
    figures: Sequence[Figure] = (),
    terms: str = "",
) -> LampPage:
    """The page of a lamp; `known` are its sentences and its claims judged, `figures` its large ones, `terms` what they
    hold for, `units` other lamps of its model."""
    kind = card.model.kind if card.model is not None else "" if card.source.is_fixture else card.source.kind
    model = card.model.name if card.model is not None and card.model.name != card.source.nickname else ""
    cost = price_of(card.costs)
    price = shown_price(cost) if cost is not None else ""
    line = " · ".join(part for part in (kind, model, card.source.supplied_by, price) if part)
    told, judged = known if known is not None else ((), ())
    return LampPage(
        name=card.source.nickname,
        line=line or "nothing written down yet",
        known=tuple(_known(one) for one in told if one.subject != "claim")
        if known is not None or not read_in
        else None,
        claims=_claims(card, judged),
        facts=_facts(card, units),
        record=tuple(
            RecordLine(
                session.id,
                f"{session.created_at:%-d %b %Y}  {session.name}, {count} reading{'' if count == 1 else 's'}",
            )
            for session, count in reversed(read_in)
        ),
        gear=tuple((row.name, row.text) for row in card.gear),
        drawn_as=drawn_as(kind),
        photo=photo,
        terms=terms,
        figures=tuple(figures),
    )


def _known(told: Told) -> Known:
    """The sentence, and the terms of it that are not the page's."""
    count = len(told.readings)
    text = " ".join(part for part in (f"{told.words}.", told.aside) if part)
    return Known(text, told.differs, notation.count(count, "reading") if count else "")


def _claims(card: LampCard, judged: Sequence[ClaimVerdict]) -> tuple[ClaimRow, ...]:
    by_id = {one.claim.id: one for one in judged}
    rows = []
    for claim in card.claims:
        known = QUANTITIES.get(claim.quantity)
        name = _CLAIM_NAMES.get(claim.quantity) or (known.label if known is not None else claim.quantity)
        said = claim_text([claim], claim.quantity)
        said += f", {claim.condition}" if claim.condition else ""
        verdict = by_id.get(claim.id)
        rows.append(ClaimRow(name, said, *_came_to(verdict)))
    return tuple(rows)


def _came_to(judged: ClaimVerdict | None) -> tuple[str, bool]:
    if judged is None or judged.even is Even.NOT_MEASURED:
        return "not read at those terms", False
    value = "" if judged.value is None else f": {notation.plain(float(f'{judged.value:.4g}'), 1)}"
    uneven = ", not at its terms" if judged.even is Even.NOT_EQUAL else ""
    words = {Holds.YES: "holds", Holds.NO: "does not hold", Holds.CANNOT_TELL: "cannot be told"}
    return f"{words[judged.holds]}{value}{uneven}", judged.holds is Holds.NO


def _facts(card: LampCard, units: Sequence[str]) -> tuple[tuple[str, str], ...]:
    source = card.source
    facts = [
        ("supplied by", source.supplied_by or "not stated: a report will say so"),
        ("goes back by", notation.day(source.return_by) if source.return_by else ""),
        ("serial number", source.serial),
        ("other units", ", ".join(units)),
        *((cost.what, shown_price(cost)) for cost in card.costs),
        ("notes", source.notes),
        ("simulated", f"played by the simulated {source.simulated}" if source.simulated else ""),
    ]
    return tuple((name, text) for name, text in facts if text)
