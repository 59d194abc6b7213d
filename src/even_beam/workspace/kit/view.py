"""What the Kit shows of a lamp, worked out without an interface."""

from collections.abc import Sequence

from even_beam.bench import notation
from even_beam.bench.records import Session
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.workspace.kit.lamp_form import LampCard, claim_text

COLUMNS = ("lamp", "kind", "claimed white", "claimed Ra", "power", "price")


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
    if not card.costs:
        return notation.NONE
    cost = card.costs[0]
    return f"{notation.plain(cost.amount, 2)} {cost.currency}"


def story(
    card: LampCard, read_in: Sequence[tuple[Session, int]], known: Sequence[str] | None = None
) -> list[tuple[str, str]]:
    """A lamp told in lines of text, each with the part it plays (title, line, quiet, coming, rule).

    `known` are the sentences that its readings say; None while they are being found.
    """
    lines = [(card.source.nickname, "title")]
    if card.model is not None:
        lines.append((" · ".join(part for part in (card.model.kind, card.model.name) if part), "line"))
    if card.source.notes:
        lines.append((card.source.notes, ""))
    if read_in:
        lines.append(("what is known of it", "coming"))
        lines += [(sentence, "") for sentence in known] if known is not None else [("reading its record …", "quiet")]
    lines.append(("", "rule"))
    lines.append(("supplied by", "coming"))
    lines.append((card.source.supplied_by or "not stated: a report will say so", "quiet"))
    if card.source.return_by:
        lines += [("goes back by", "coming"), (notation.day(card.source.return_by), "quiet")]
    if card.source.serial:
        lines += [("serial number", "coming"), (card.source.serial, "quiet")]
    lines.append(("claimed by maker or seller", "coming"))
    if card.claims:
        words = {"cct": "white", "ra": "Ra", "illuminance": "level", "power_w": "power"}
        lines += [
            (
                (
                    f"{words.get(c.quantity, c.quantity)} "
                    f" {claim_text([c], c.quantity)}{', ' + c.condition if c.condition else ''}"
                ),
                "quiet",
            )
            for c in card.claims
        ]
    else:
        lines.append(("nothing written down", "quiet"))
    if card.source.simulated:
        lines += [("simulated", "coming"), (f"played by the simulated {card.source.simulated}", "quiet")]
    lines.append(("", "rule"))
    lines.append(("its record", "coming"))
    if read_in:
        lines += [
            (f"{session.created_at:%-d %b %Y}  {session.name}: {count} readings", "quiet")
            for session, count in reversed(read_in)
        ]
    else:
        lines.append(("not read yet", "quiet"))
    return lines


def simulated_kinds() -> list[str]:
    """The simulated fixtures that can play a lamp."""
    return list(LAMPS)
