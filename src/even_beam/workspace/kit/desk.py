"""The kit at work: lamps with their models, claims and costs, and meters; every edit can be undone."""

from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

from even_beam.bench.records import GEL, Claim, Cost, Meter, Model, Modifier, Session, Source, new_id
from even_beam.workspace.kit.lamp_form import FormError, LampCard, LampForm, claims_of, cost_of, same_name, source_of
from even_beam.workspace.kit.undo import Edit, UndoStack
from even_beam.workspace.shell.notice import Notice

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


class KitDesk:
    """What can be done to the kit of one logbook. `changed` is told after each change is on the disk."""

    def __init__(self, logbook: "Logbook") -> None:
        self.logbook = logbook
        self.changed: Notice[[]] = Notice()
        self._stack = UndoStack()
        self._read: tuple[list[Session], dict[str, dict[str, int]]] | None = None

    def lamps(self, *, retired: bool = False) -> list[LampCard]:
        """Every lamp, by nickname; those that are retired only where they are asked for."""
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
            if retired or not source.retired
        ]

    def meters(self) -> list[Meter]:
        """Every meter, by nickname."""
        return self.logbook.all(Meter)

    def gels(self) -> list[str]:
        """The gels that are owned, by name."""
        return [one.nickname for one in self.logbook.all(Modifier) if one.kind == GEL]

    def own_gels(self, names: Sequence[str]) -> None:
        """Own these gels and no others; a modifier of that name that is no gel yet becomes one. Can be undone."""
        known = {one.nickname.casefold(): one for one in self.logbook.all(Modifier)}
        before = [one for one in known.values() if one.kind == GEL]
        after = [replace(known.get(name.casefold(), Modifier(new_id(), name)), kind=GEL) for name in names]
        gone = [one for one in before if one.id not in {kept.id for kept in after}]
        fresh = [one for one in after if one.nickname.casefold() not in known]
        changed = [one for one in known.values() if one.id in {kept.id for kept in after}]

        def do() -> None:
            self.logbook.save(*after)
            self.logbook.remove(*gone)

        def undo() -> None:
            self.logbook.save(*gone, *changed)
            self.logbook.remove(*fresh)

        self._do(Edit("gels owned", do, undo))

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

    def add_lamp(self, form: LampForm, simulated: str = "") -> Source:
        """Add a lamp; one of a model that is there already is another unit of it. Raises `FormError`."""
        known = self._model_named(form.model)
        model = known or Model(new_id(), form.model.strip() or form.nickname.strip(), form.kind.strip())
        source = source_of(form, Source(new_id(), "", model.id, simulated=simulated))
        self._refuse_taken_nickname(source)
        self._do(self._edit(f"add {source.nickname}", form, source, model, None))
        return source

    def edit_lamp(self, card: LampCard, form: LampForm, simulated: str) -> None:
        """Change a lamp and its model's claims. Raises `FormError`.

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
        source = source_of(form, replace(card.source, model_id=model.id, simulated=simulated))
        self._refuse_taken_nickname(source)
        self._do(self._edit(f"edit {source.nickname}", form, source, model, card))

    def _edit(self, label: str, form: LampForm, source: Source, model: Model, card: LampCard | None) -> Edit:
        """The edit that keeps a lamp with its model, its claims and its price.

        A lamp that joins a model takes that model's claims: those of the form replace them only where they were typed.
        """
        at_home = card is not None and card.model is not None and card.model.id == model.id
        claims, cost = claims_of(form, model.id), cost_of(form, model.id)
        theirs = [c for c in self.logbook.all(Claim) if c.model_id == model.id]
        paid = [c for c in self.logbook.all(Cost) if c.model_id == model.id]
        if card is not None and not at_home and (theirs or paid):
            brought = {(c.quantity, c.text, c.condition) for c in card.claims}
            claims = [c for c in claims if (c.quantity, c.text, c.condition) not in brought]
            cost = [c for c in cost if (c.amount, c.currency) not in {(own.amount, own.currency) for own in card.costs}]
        typed = {c.quantity for c in claims}
        gone = [c for c in theirs if at_home or c.quantity in typed]
        unpaid = paid if at_home or cost else []
        before = [r for r in self.logbook.all(Model) if r.id == model.id]
        lamp = [card.source] if card is not None else []

        def do() -> None:
            self.logbook.remove(*gone, *unpaid)
            self.logbook.save(model, source, *claims, *cost)

        def undo() -> None:
            self.logbook.remove(*claims, *cost)
            self.logbook.save(*before, *lamp, *gone, *unpaid)
            self.logbook.remove(*([] if lamp else [source]), *([] if before else [model]))

        return Edit(label, do, undo)

    @property
    def model_names(self) -> list[str]:
        """What the models are called."""
        return sorted({model.name for model in self.logbook.all(Model)})

    def _model_named(self, name: str) -> Model | None:
        """The model that is called so; none for no name."""
        return next((m for m in self.logbook.all(Model) if name.strip() and same_name(m.name, name)), None)

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

    def bring_back(self, card: LampCard) -> None:
        """Take a retired lamp into the lists again."""
        self._do(
            Edit(
                f"bring back {card.source.nickname}",
                lambda: self.logbook.save(replace(card.source, retired=False)),
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
