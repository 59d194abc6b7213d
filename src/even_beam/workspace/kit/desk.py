"""The kit at work: lamps with their models, claims and costs, and meters; every edit can be undone."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import TYPE_CHECKING

from even_beam.bench import notation
from even_beam.bench.entry import EntryError, parse
from even_beam.bench.records import FIXTURE, Claim, Cost, Meter, Model, Session, Source, new_id
from even_beam.workspace.kit.undo import Edit, UndoStack
from even_beam.workspace.shell.notice import Notice

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


@dataclass(frozen=True, slots=True)
class LampCard:
    """A lamp with all that is known of its model."""

    source: Source
    model: Model | None
    claims: tuple[Claim, ...] = ()
    costs: tuple[Cost, ...] = ()

    def claim(self, quantity: str) -> Claim | None:
        """The claim about a quantity."""
        return next((claim for claim in self.claims if claim.quantity == quantity), None)


@dataclass(frozen=True, slots=True)
class LampForm:
    """A lamp as a person fills it in: texts, with claims and price as they would be said."""

    nickname: str
    kind: str = ""
    model: str = ""
    supplied_by: str = ""
    serial: str = ""
    white: str = ""
    ra: str = ""
    illuminance_at_1_m: str = ""
    power: str = ""
    price: str = ""
    currency: str = "EUR"
    notes: str = ""
    what: str = FIXTURE
    return_by: str = ""


class FormError(ValueError):
    """A field that could not be understood: `field` names it."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


_CLAIM_FIELDS = {
    "white": ("cct", "K", ""),
    "ra": ("ra", "", ""),
    "illuminance_at_1_m": ("illuminance", "lx", "at 1 m, full level"),
    "power": ("power_w", "W", ""),
}


class KitDesk:
    """What can be done to the kit of one logbook. `changed` is told after each change is on the disk."""

    def __init__(self, logbook: "Logbook") -> None:
        self.logbook = logbook
        self.changed: Notice[[]] = Notice()
        self._stack = UndoStack()
        self._read: tuple[list[Session], dict[str, dict[str, int]]] | None = None

    def lamps(self) -> list[LampCard]:
        """Every lamp that is not retired, by nickname."""
        models = {model.id: model for model in self.logbook.all(Model)}
        claims, costs = self.logbook.all(Claim), self.logbook.all(Cost)
        return [
            LampCard(
                source,
                models.get(source.model_id or ""),
                tuple(claim for claim in claims if claim.model_id == source.model_id),
                tuple(cost for cost in costs if cost.model_id == source.model_id),
            )
            for source in self.logbook.all(Source)
            if not source.retired
        ]

    def meters(self) -> list[Meter]:
        """Every meter, by nickname."""
        return self.logbook.all(Meter)

    def readings_of(self, source_id: str) -> list[tuple[Session, int]]:
        """The sessions in which a lamp was read, with the number of readings."""
        if self._read is None:
            self._read = self.logbook.sessions(), self.logbook.sessions_reading()
        sessions, counts = self._read
        own = counts.get(source_id, {})
        return [(session, own[session.id]) for session in sessions if session.id in own]

    def forget_readings(self) -> None:
        """Look anew at what was read, the next time it is asked."""
        self._read = None

    def add_lamp(self, form: LampForm, simulated: str = "") -> Source:
        """Add a lamp. Raises `FormError`."""
        model = Model(new_id(), form.model.strip() or form.nickname.strip(), form.kind.strip())
        source = _source(form, Source(new_id(), "", model.id, simulated=simulated))
        claims, cost = _claims(form, model.id), _cost(form, model.id)
        self._refuse_taken_nickname(source)
        records = [model, source, *claims, *cost]
        self._do(
            Edit(
                f"add {source.nickname}",
                lambda: self.logbook.save(*records),
                lambda: self.logbook.remove(*reversed(records)),
            )
        )
        return source

    def edit_lamp(self, card: LampCard, form: LampForm, simulated: str) -> None:
        """Change a lamp and its model's claims. Raises `FormError`."""
        model = replace(
            card.model or Model(new_id(), ""), name=form.model.strip() or form.nickname.strip(), kind=form.kind.strip()
        )
        source = _source(form, replace(card.source, model_id=model.id, simulated=simulated))
        claims, cost = _claims(form, model.id), _cost(form, model.id)
        self._refuse_taken_nickname(source)

        def do() -> None:
            self.logbook.remove(*card.claims, *card.costs)
            self.logbook.save(model, source, *claims, *cost)

        def undo() -> None:
            self.logbook.remove(*claims, *cost)
            self.logbook.save(*([card.model] if card.model else []), card.source, *card.claims, *card.costs)

        self._do(Edit(f"edit {source.nickname}", do, undo))

    def retire_lamp(self, card: LampCard) -> None:
        """Take a lamp out of the lists; its readings stay."""
        retired = replace(card.source, retired=True)
        self._do(
            Edit(
                f"retire {card.source.nickname}",
                lambda: self.logbook.save(retired),
                lambda: self.logbook.save(card.source),
            )
        )

    def save_meter(self, meter: Meter, before: Meter | None) -> None:
        """Add or change a meter. Raises `FormError` for a nickname that is taken."""
        for other in self.meters():
            if other.nickname.casefold() == meter.nickname.casefold() and other.id != meter.id:
                raise FormError("nickname", f"There is a {other.nickname} already; choose another nickname")
        self._do(
            Edit(
                f"meter {meter.nickname}",
                lambda: self.logbook.save(meter),
                lambda: self.logbook.save(before) if before is not None else self.logbook.remove(meter),
            )
        )

    def undo(self) -> str | None:
        """Undo the last edit; its label."""
        label = self._stack.undo()
        self.changed()
        return label

    def redo(self) -> str | None:
        """Do the last undone edit again; its label."""
        label = self._stack.redo()
        self.changed()
        return label

    def _do(self, edit: Edit) -> None:
        self._stack.do(edit)
        self.changed()

    def _refuse_taken_nickname(self, source: Source) -> None:
        for other in self.logbook.all(Source):
            if other.nickname.casefold() == source.nickname.casefold() and other.id != source.id:
                where = " among the retired lamps" if other.retired else ""
                raise FormError("nickname", f"There is a {other.nickname} already{where}; choose another nickname")


def _source(form: LampForm, source: Source) -> Source:
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
    )


def _day(text: str) -> str:
    """A day as it is kept. Raises `FormError`."""
    if not text.strip():
        return ""
    try:
        return date.fromisoformat(text.strip()).isoformat()
    except ValueError as error:
        raise FormError("return_by", "The day it goes back is written like 2026-12-01") from error


def _claims(form: LampForm, model_id: str) -> list[Claim]:
    claims = []
    for field, (quantity, unit, condition) in _CLAIM_FIELDS.items():
        text, _, further = getattr(form, field).strip().partition(", ")
        if not text:
            continue
        low, high = _bounds(field, text, quantity)
        stated = ", ".join(part for part in (condition, further.strip()) if part)
        claims.append(Claim(new_id(), model_id, quantity, low, high, unit, text, stated))
    return claims


def _as_typed(claim: Claim, usual: str) -> str:
    """A claim as the form takes it: the value, and after a comma what it is stated for beside the usual."""
    further = claim.condition.removeprefix(usual).removeprefix(", ")
    return f"{claim.text}, {further}" if further else claim.text


def _bounds(field: str, text: str, quantity: str) -> tuple[float | None, float | None]:
    """A value as equal bounds, a range (`2700 to 6500`, `2700-6500`) or a bound (`95+`)."""
    try:
        words = text.replace("–", " to ")
        head, dash, tail = words.partition("-")
        entry = parse(f"{head} to {tail}" if dash and head.strip() and tail.strip() else words, quantity)
    except EntryError as error:
        raise FormError(field, str(error)) from error
    if entry.value is not None:
        return entry.value, entry.value
    return entry.low, entry.high


def _cost(form: LampForm, model_id: str) -> list[Cost]:
    if not form.price.strip():
        return []
    try:
        amount = parse(form.price, None).value
    except EntryError as error:
        raise FormError("price", str(error)) from error
    if amount is None or amount < 0:
        raise FormError("price", "A price is one number, such as 640")
    return [Cost(new_id(), model_id, "lamp", amount, form.currency.strip() or "EUR")]


def form_of(card: LampCard) -> LampForm:
    """A lamp as the form shows it."""
    texts = {
        field: (_as_typed(claim, usual) if (claim := card.claim(quantity)) else "")
        for field, (quantity, _, usual) in _CLAIM_FIELDS.items()
    }
    cost = next(iter(card.costs), None)
    return LampForm(
        nickname=card.source.nickname,
        kind=card.model.kind if card.model else "",
        model=card.model.name if card.model else "",
        supplied_by=card.source.supplied_by,
        return_by=card.source.return_by,
        serial=card.source.serial,
        price=notation.plain(cost.amount, 2).replace(notation.THIN_SPACE, "") if cost else "",
        currency=cost.currency if cost else "EUR",
        notes=card.source.notes,
        what=card.source.kind,
        **texts,
    )


def claim_text(claims: Sequence[Claim], quantity: str) -> str:
    """A claim as it was stated, with its unit; a dash when there is none."""
    claim = next((c for c in claims if c.quantity == quantity), None)
    if claim is None:
        return notation.NONE
    has_unit = claim.unit and claim.unit.lower() in claim.text.lower()
    return claim.text if has_unit else f"{claim.text} {claim.unit}".strip()
