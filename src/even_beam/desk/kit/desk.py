"""The kit at work: lamps with their models, claims and costs, and meters; every edit can be undone."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from typing import TYPE_CHECKING

from even_beam.bench.records import GEL, Claim, Cost, Gear, Meter, Model, Modifier, Session, Source, new_id
from even_beam.bench.sameness import Same
from even_beam.desk.kit import joining
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.joining import Exchange
from even_beam.desk.kit.lamp_form import (
    LampCard,
    LampForm,
    claims_of,
    costs_of,
    gear_of,
    same_name,
    source_of,
)
from even_beam.desk.kit.undo import Edit, UndoStack
from even_beam.known.claim_order import in_order
from even_beam.shell.notice import Notice

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


Belonging = Claim | Cost | Gear


def _named(one: Belonging) -> tuple[type, str]:
    """What there is one of for each model."""
    return type(one), one.quantity if isinstance(one, Claim) else one.what if isinstance(one, Cost) else one.name


def _belongings(card: LampCard) -> list[Belonging]:
    return [*card.claims, *card.costs, *card.gear]


def _told_by(one: Belonging) -> Belonging:
    """The same but for what it is kept under."""
    return replace(one, id="", model_id="")


class KitDesk:
    """What can be done to the kit of one logbook. `changed` is told after each change is on the disk."""

    def __init__(self, logbook: "Logbook", clock: Callable[[], datetime] = lambda: datetime.now(UTC)) -> None:
        self.logbook = logbook
        self.changed: Notice[[]] = Notice()
        self._clock = clock
        self._stack = UndoStack(Exchange(logbook, clock))
        self._read: tuple[list[Session], dict[str, dict[str, int]]] | None = None

    def lamps(self, *, retired: bool = False) -> list[LampCard]:
        """Every lamp, by nickname; those that are retired only where they are asked for."""
        models = {model.id: model for model in self.logbook.all(Model)}
        claims, costs, gear = in_order(self.logbook.all(Claim)), self.logbook.all(Cost), self.logbook.all(Gear)
        return [
            LampCard(
                source,
                models.get(source.model_id or ""),
                tuple(claim for claim in claims if claim.model_id == source.model_id),
                tuple(cost for cost in costs if cost.model_id == source.model_id),
                tuple(row for row in gear if row.model_id == source.model_id),
            )
            for source in self.logbook.all(Source)
            if retired or not source.retired
        ]

    def meters(self) -> list[Meter]:
        """Every meter, by nickname."""
        return self.logbook.all(Meter)

    def lamp_named(self, nickname: str) -> Source | None:
        """The lamp in use of this name, in small or large letters."""
        return next((c.source for c in self.lamps() if c.source.nickname.casefold() == nickname.casefold()), None)

    def meter_named(self, nickname: str) -> Meter | None:
        """The meter of this name, in small or large letters."""
        return next((one for one in self.meters() if one.nickname.casefold() == nickname.casefold()), None)

    def gels(self) -> list[str]:
        """The gels that are owned, by name."""
        return [one.nickname for one in self.logbook.all(Modifier) if one.kind == GEL]

    def own_gels(self, names: Sequence[str]) -> None:
        """Own these gels and no others; a modifier of that name that is no gel yet becomes one. Can be undone."""
        known = {one.nickname.casefold(): one for one in self.logbook.all(Modifier)}
        after = [replace(known.get(name.casefold(), Modifier(new_id(), name)), kind=GEL) for name in names]
        kept = {one.id for one in after}
        before = [one for one in known.values() if one.kind == GEL or one.id in kept]
        self._do(Edit("gels owned", tuple(before), tuple(after)))

    def readings_of(self, source_id: str) -> list[tuple[Session, int]]:
        """The sessions in which a lamp was read, with the number of readings."""
        if self._read is None:
            self._read = self.logbook.sessions(), self.logbook.sessions_reading()
        sessions, counts = self._read
        own = counts.get(source_id, {})
        return [(session, own[session.id]) for session in sessions if session.id in own]

    def read_last(self) -> str | None:
        """The lamp that was read most in the newest session; None where nothing was read."""
        counts = [(session.created_at, own, i) for i in self._ids() for session, own in self.readings_of(i)]
        return max(counts)[2] if counts else None

    def _ids(self) -> list[str]:
        return [source.id for source in self.logbook.all(Source) if not source.retired]

    def forget_readings(self) -> None:
        """Look anew at what was read, the next time it is asked."""
        self._read = None

    def add_lamp(self, form: LampForm) -> Source:
        """Add a lamp; one of a model that is there already is another unit of it. Raises `FormError`."""
        known = self._model_named(form.model)
        model = known or Model(new_id(), form.model.strip() or form.nickname.strip(), form.kind.strip())
        source = source_of(form, Source(new_id(), "", model.id))
        self._refuse_taken_nickname(source)
        self._do(self._edit(f"add {source.nickname}", form, source, model, None))
        return source

    def edit_lamp(self, card: LampCard, form: LampForm) -> None:
        """Change a lamp and what is known of its model. Raises `FormError`.

        Another name of the model renames it, unless other units share it or a model of that name is there: then the
        lamp becomes one of that other model.
        """
        name = form.model.strip() or form.nickname.strip()
        before, known = card.model, self._model_named(name)
        shared = any(s.model_id == card.source.model_id and s.id != card.source.id for s in self.logbook.all(Source))
        if before is not None and (same_name(name, before.name) or (known is None and not shared)):
            model = replace(before, name=name, kind=form.kind.strip())
        else:
            model = known or Model(new_id(), name, form.kind.strip())
        source = source_of(form, replace(card.source, model_id=model.id))
        self._refuse_taken_nickname(source)
        self._do(self._edit(f"edit {source.nickname}", form, source, model, card))

    def _edit(self, label: str, form: LampForm, source: Source, model: Model, card: LampCard | None) -> Edit:
        """The edit that keeps a lamp with its model, and what is claimed, paid and told of that.

        A lamp that joins a model takes that model's claims, costs and gear: those of the form replace them only where
        they were typed.
        """
        at_home = card is not None and card.model is not None and card.model.id == model.id
        told: list[Belonging] = [*claims_of(form, model.id), *costs_of(form, model.id), *gear_of(form, model.id)]
        kept: list[Belonging] = [*self.logbook.all(Claim), *self.logbook.all(Cost), *self.logbook.all(Gear)]
        theirs = [one for one in kept if one.model_id == model.id]
        if card is not None and not at_home and theirs:
            brought = {_told_by(one) for one in _belongings(card)}
            told = [one for one in told if _told_by(one) not in brought]
        named = {_named(one) for one in told}
        gone = [one for one in theirs if at_home or _named(one) in named]
        before = [r for r in self.logbook.all(Model) if r.id == model.id]
        lamp = [card.source] if card is not None else []
        return Edit(label, (*before, *lamp, *gone), (model, source, *told))

    def _model_named(self, name: str) -> Model | None:
        """The model that is called so; none for no name."""
        return next((m for m in self.logbook.all(Model) if name.strip() and same_name(m.name, name)), None)

    def retire_lamp(self, card: LampCard) -> None:
        """Take a lamp out of the lists; its readings stay."""
        self.put(f"retire {card.source.nickname}", replace(card.source, retired=True), card.source)

    def bring_back(self, card: LampCard) -> None:
        """Take a retired lamp into the lists again."""
        self.put(f"bring back {card.source.nickname}", replace(card.source, retired=False), card.source)

    def save_meter(self, meter: Meter, before: Meter | None) -> None:
        """Add or change a meter. Raises `FormError` for a nickname that is taken."""
        for other in self.meters():
            if other.nickname.casefold() == meter.nickname.casefold() and other.id != meter.id:
                raise FormError("nickname", f"There is a {other.nickname} already; choose another nickname")
        self.put(f"meter {meter.nickname}", meter, before)

    def remove_meter(self, meter: Meter) -> None:
        """Take out a meter that nothing was read with. Raises `FormError` for one that was used."""
        used = self.logbook.uses_of_meter(meter.id)
        if used:
            raise FormError("line", f"{meter.nickname} stays: {used} of the readings, steps and calibrations name it")
        self.put(f"meter {meter.nickname} taken out", None, meter)

    def put(self, label: str, after: object | None, before: object | None) -> None:
        """Keep one thing in place of another, add one (no `before`) or take one out (no `after`); can be undone."""
        self.put_pairs(label, [(after, before)])

    def put_pairs(self, label: str, pairs: Sequence[tuple[object | None, object | None]]) -> None:
        """The same for several things at once, each after and before."""
        before = tuple(one for _, one in pairs if one is not None)
        after = tuple(one for one, _ in pairs if one is not None)
        self._do(Edit(label, before, after))

    def join(self, one: Source | Meter, name: str) -> str:
        """Have the thing of a name be this one, with all that was read of it; what that one is called. Raises
        `FormError`."""
        things = self.logbook.all(type(one))
        same, other = joining.joined(things, one, name, self._clock())
        self._do(Edit(f"{other.nickname} is {one.nickname}", (), (same,)))
        return other.nickname

    def part(self, one: Source | Meter) -> None:
        """Have all that was joined with this thing be things of their own again. Raises `FormError`."""
        apart = joining.parted(self.logbook.all(Same), one, self._clock())
        self._do(Edit(f"{one.nickname} is two again", (), tuple(apart)))

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
