"""What the Kit shows of a lamp, worked out without an interface."""

from datetime import date

from even_beam.bench.records import Cost
from even_beam.desk.kit.lamp_form import LampCard, claim_text, price_of
from even_beam.desk.kit.price_line import price_of_cost
from even_beam.words import notation


def cells(card: LampCard) -> tuple[str, ...]:
    """The row of a lamp."""
    return (
        card.source.nickname,
        kind_text(card),
        claim_text(card.claims, "cct"),
        claim_text(card.claims, "ra"),
        claim_text(card.claims, "power_w"),
        price_text(card),
    )


def kind_text(card: LampCard) -> str:
    """The kind of lamp; for what is no fixture, what it is."""
    if not card.source.is_fixture:
        return card.source.kind
    return card.model.kind if card.model else ""


def price_text(card: LampCard) -> str:
    """What the lamp costs; a dash when it is not known."""
    cost = price_of(card.costs)
    if cost is None:
        return notation.NONE
    return shown_price(cost)


def shown_price(cost: Cost) -> str:
    """A line of costs as it is shown: with its range, of how many, whether it is needed, when and where it was told."""
    price = price_of_cost(cost)
    amount = notation.plain(cost.amount, 2)
    range_ = f"{amount} to {notation.plain(cost.high, 2)}" if cost.high is not None else amount
    return ", ".join(filter(None, (f"{range_} {cost.currency}", price.terms)))


def worth_knowing(card: LampCard, today: date) -> tuple[str, bool]:
    """The one thing worth knowing of a lamp today, for the list, and whether it presses."""
    if card.source.retired:
        return "retired", False
    if card.source.return_by:
        day = date.fromisoformat(card.source.return_by)
        late = day < today
        return (f"was due back {day:%-d %b}" if late else f"back by {day:%a %-d %b}"), True
    return price_text(card) if card.costs else card.source.supplied_by, False
