"""A lamp as a person fills it in, to its records and back."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date

from even_beam.bench.records import FIXTURE, Claim, Cost, Gear, Model, Source, new_id
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.price_line import price_of_cost, priced
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse
from even_beam.words.quantities import unit_of


@dataclass(frozen=True, slots=True)
class LampCard:
    """A lamp with all that is known of its model."""

    source: Source
    model: Model | None
    claims: tuple[Claim, ...] = ()
    costs: tuple[Cost, ...] = ()
    gear: tuple[Gear, ...] = ()

    def claim(self, quantity: str) -> Claim | None:
        """The claim about a quantity."""
        return next((claim for claim in self.claims if claim.quantity == quantity), None)


@dataclass(frozen=True, slots=True)
class LampForm:
    """A lamp as a person fills it in: texts, with claims (by their quantity) and price as they would be said.

    `beside` are what else it costs, such as `frame` and `45 EUR`; `gear` what it is to work with, such as `weight` and
    `2.4 kg`, both in the order in which they were told. `simulated` names the simulated fixture that plays it,
    `price_terms` is all that is said beside its price: for 3, at the corner shop.
    """

    nickname: str
    kind: str = ""
    model: str = ""
    supplied_by: str = ""
    serial: str = ""
    claims: Mapping[str, str] = field(default_factory=dict)
    price: str = ""
    currency: str = "EUR"
    notes: str = ""
    what: str = FIXTURE
    return_by: str = ""
    beside: tuple[tuple[str, str], ...] = ()
    gear: tuple[tuple[str, str], ...] = ()
    simulated: str = ""
    price_terms: str = ""


USUAL_CONDITIONS = {"illuminance": "at 1 m, full level"}
"""What a claim is usually stated for, so that nobody has to say it."""


def same_name(one: str, other: str) -> bool:
    """Whether two models are called the same: letters' case and blanks tell nothing apart."""
    return " ".join(one.casefold().split()) == " ".join(other.casefold().split())


def source_of(form: LampForm, source: Source) -> Source:
    """The lamp itself as the form says. Raises `FormError`."""
    nickname = " ".join(form.nickname.split())
    if not nickname:
        raise FormError("nickname", "A lamp needs a nickname: a word to call it by in the dark")
    return replace(
        source,
        nickname=nickname,
        supplied_by=form.supplied_by.strip(),
        return_by=_day(form.return_by),
        serial=form.serial.strip(),
        notes=form.notes.strip(),
        kind=form.what,
        simulated=form.simulated,
    )


def _day(text: str) -> str:
    """A day as it is kept. Raises `FormError`."""
    if not text.strip():
        return ""
    try:
        return date.fromisoformat(text.strip()).isoformat()
    except ValueError as error:
        raise FormError("return_by", "The day it goes back is written like 2026-12-01") from error


def claims_of(form: LampForm, model_id: str) -> list[Claim]:
    """What is claimed of the model. Raises `FormError`."""
    claims = []
    for quantity, said in form.claims.items():
        text, _, further = said.strip().partition(", ")
        if not text:
            continue
        low, high = _bounds(text, quantity)
        stated = ", ".join(part for part in (USUAL_CONDITIONS.get(quantity, ""), further.strip()) if part)
        claims.append(
            Claim(
                id=new_id(),
                model_id=model_id,
                quantity=quantity,
                low=low,
                high=high,
                unit=unit_of(quantity),
                text=text,
                condition=stated,
            )
        )
    return claims


def _as_typed(claim: Claim) -> str:
    """A claim as the form takes it: the value, and after a comma what it is stated for beside the usual."""
    further = claim.condition.removeprefix(USUAL_CONDITIONS.get(claim.quantity, "")).removeprefix(", ")
    return f"{claim.text}, {further}" if further else claim.text


def _bounds(text: str, quantity: str) -> tuple[float | None, float | None]:
    """A value as equal bounds, a range (`2700 to 6500`, `2700-6500`) or a bound (`95+`)."""
    try:
        words = text.replace("–", " to ")
        head, dash, tail = words.partition("-")
        entry = parse(f"{head} to {tail}" if dash and head.strip() and tail.strip() else words, quantity)
    except EntryError as error:
        raise FormError(quantity, str(error)) from error
    if entry.value is not None:
        return entry.value, entry.value
    return entry.low, entry.high


PRICE = "lamp"
"""What the price of the lamp itself is called among its costs."""


def costs_of(form: LampForm, model_id: str) -> list[Cost]:
    """Its price, where there is one, and what else it costs. Raises `FormError`."""
    own = ", ".join(filter(None, (f"{form.price} {form.currency.strip() or 'EUR'}", form.price_terms)))
    lines = [(PRICE, own)] if form.price.strip() else []
    found = []
    for what, text in (*lines, *form.beside):
        told = priced(text)
        if told is None:
            raise FormError("price", "A price is a number with its currency, such as 640 EUR")
        one = told[1]
        found.append(Cost(new_id(), model_id, what, one.low, one.currency, one.high, one.units, one.optional, one.said))
    return found


def gear_of(form: LampForm, model_id: str) -> list[Gear]:
    """What it is to work with."""
    return [Gear(new_id(), model_id, name, text) for name, text in form.gear]


def form_of(card: LampCard) -> LampForm:
    """A lamp as the form shows it."""
    cost = price_of(card.costs)
    own = price_of_cost(cost) if cost is not None else None
    return LampForm(
        nickname=card.source.nickname,
        kind=card.model.kind if card.model else "",
        model=card.model.name if card.model else "",
        supplied_by=card.source.supplied_by,
        return_by=card.source.return_by,
        claims={claim.quantity: _as_typed(claim) for claim in card.claims},
        serial=card.source.serial,
        price=own.amount_text if own else "",
        currency=own.currency if own else "EUR",
        price_terms=own.terms if own else "",
        beside=tuple((c.what, price_of_cost(c).text) for c in card.costs if c is not cost),
        gear=tuple((g.name, g.text) for g in card.gear),
        notes=card.source.notes,
        what=card.source.kind,
        simulated=card.source.simulated,
    )


def price_of(costs: Sequence[Cost]) -> Cost | None:
    """What the lamp itself costs; the first line, where none says so."""
    return next((cost for cost in costs if cost.what == PRICE), next(iter(costs), None))


def claim_text(claims: Sequence[Claim], quantity: str) -> str:
    """A claim as it was stated, with its unit; a dash when there is none."""
    claim = next((c for c in claims if c.quantity == quantity), None)
    if claim is None:
        return notation.NONE
    has_unit = claim.unit and claim.unit.lower() in claim.text.lower()
    return claim.text if has_unit else f"{claim.text} {claim.unit}".strip()
