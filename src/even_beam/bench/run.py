"""Where a run stands, folded from what happened: next step, repeats, retakes, skips, corrections, undo.

Nothing is stored about a run but its steps, readings and events; closing the window or pulling the plug therefore
loses nothing, and every figure shown can be explained by its history.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import get_type_hints

from even_beam.bench.exposure import Exposure
from even_beam.bench.limits import impossible_terms
from even_beam.bench.records import Event, EventKind, Reading, Step, Terms, Value, corrected


class Standing(StrEnum):
    """Whether a reading counts, and if not, why."""

    COUNTED = "counted"
    SUPERSEDED = "read again"
    TAKEN_BACK = "taken back"
    SET_ASIDE = "set aside"
    IMPOSSIBLE = "impossible terms"


@dataclass(frozen=True, slots=True)
class ReadingState:
    """A reading with all that has happened to it; `reading` carries the corrected terms and sources.

    `displayed` are the terms that the lamp showed otherwise than it was asked; they too stand in `reading`.
    `exposure` is what its f-number stands for, where that was stated.
    """

    reading: Reading
    as_taken: Terms
    standing: Standing = Standing.COUNTED
    doubt: str = ""
    kept_in_doubt: bool = False
    corrections: tuple[Event, ...] = ()
    displayed: tuple[Event, ...] = ()
    suspect: bool = False
    notes: tuple[str, ...] = ()
    exposure: Exposure | None = None

    def with_values(self, values: tuple[Value, ...]) -> "ReadingState":
        """As it stands, with its figures; written out as in `Reading`."""
        return ReadingState(
            reading=self.reading.with_values(values),
            as_taken=self.as_taken,
            standing=self.standing,
            doubt=self.doubt,
            kept_in_doubt=self.kept_in_doubt,
            corrections=self.corrections,
            displayed=self.displayed,
            suspect=self.suspect,
            notes=self.notes,
            exposure=self.exposure,
        )

    @property
    def counts(self) -> bool:
        """Whether findings may use it: it stands, and was not left in doubt without a decision to keep it."""
        return self.standing is Standing.COUNTED and (not self.doubt or self.kept_in_doubt)

    @property
    def marks(self) -> tuple[str, ...]:
        """What must stand beside its figures wherever they are handed over: why it does not count, or with what it
        does. None for a plain reading."""
        parts = []
        if not self.counts:
            parts.append("in doubt, not kept" if self.standing is Standing.COUNTED else str(self.standing))
        elif self.doubt:
            parts.append(KEPT_IN_DOUBT)
        if self.suspect:
            parts.append(SUSPECT)
        if self.corrections:
            parts.append(CORRECTED)
        return tuple(parts)


KEPT_IN_DOUBT, SUSPECT, CORRECTED = "kept in doubt", "suspect: something moved", "terms corrected"


@dataclass(frozen=True, slots=True)
class StepState:
    """A step with the readings that stand for it; `taken` of the `required` ones are there and accepted."""

    step: Step
    required: int
    readings: tuple[ReadingState, ...] = ()
    skipped: bool = False
    taken: int = 0

    @property
    def done(self) -> bool:
        """Whether nothing remains to be read here."""
        return self.skipped or self.taken >= self.required

    @property
    def pending_doubt(self) -> ReadingState | None:
        """A reading that stands in doubt and awaits a decision: read again, or keep."""
        return next((s for s in reversed(self.readings) if s.doubt and not s.kept_in_doubt), None)


@dataclass(frozen=True, slots=True)
class RunState:
    """The whole run: steps in order, every reading, and the step that is next (None when all is read)."""

    steps: tuple[StepState, ...]
    readings: tuple[ReadingState, ...]
    current: int | None
    live_events: tuple[Event, ...] = ()

    @property
    def step(self) -> StepState | None:
        """The step to be read next."""
        return None if self.current is None else self.steps[self.current]

    @property
    def last_reading(self) -> ReadingState | None:
        """The newest reading that stands."""
        return next((s for s in reversed(self.readings) if s.standing is Standing.COUNTED), None)

    def reading(self, reading_id: str) -> ReadingState:
        """The state of one reading. Raises `KeyError` when there is none of that id."""
        for state in self.readings:
            if state.reading.id == reading_id:
                return state
        raise KeyError(reading_id)

    @property
    def counted(self) -> tuple[ReadingState, ...]:
        """The readings that findings may use."""
        return tuple(state for state in self.readings if state.counts)


@dataclass(slots=True)
class _Fold:
    steps: list[Step]
    states: dict[str, ReadingState]
    required: dict[str, int]
    skipped: set[str] = field(default_factory=set)
    cursor: str | None = None

    def change(self, reading_id: str | None, **changes: object) -> None:
        if reading_id in self.states:
            self.states[reading_id] = replace(self.states[reading_id], **changes)  # type: ignore[arg-type]

    def move_to_step_of(self, reading_id: str | None) -> None:
        if reading_id in self.states:
            self.cursor = self.states[reading_id].reading.step_id or self.cursor


def _taken_back(fold: _Fold, event: Event) -> None:
    fold.change(event.reading_id, standing=Standing.TAKEN_BACK)
    fold.move_to_step_of(event.reading_id)


def _terms_corrected(fold: _Fold, event: Event) -> None:
    """The terms were others than noted: a person noted them wrong, or the lamp showed something else than asked."""
    state = fold.states.get(event.reading_id or "")
    if state is not None:
        terms = corrected(state.reading.terms, event.field, term_from_text(event.field, event.new))
        record = "displayed" if event.kind is EventKind.LAMP_SHOWS else "corrections"
        fold.change(
            event.reading_id,
            reading=replace(state.reading, terms=terms),
            **{record: (*getattr(state, record), event)},
        )


def _source_named(fold: _Fold, event: Event) -> None:
    state = fold.states.get(event.reading_id or "")
    if state is not None:
        sources = tuple(event.new.split()) if event.new else ()
        fold.change(event.reading_id, reading=replace(state.reading, source_ids=sources))


def _suspicion(fold: _Fold, event: Event, *, suspect: bool) -> None:
    """Something moved before this reading, or it is a control point that agrees: it and what comes after it."""
    start = fold.states.get(event.reading_id or "")
    if start is None:
        return
    for state in list(fold.states.values()):
        if state.reading.sequence >= start.reading.sequence:
            fold.change(state.reading.id, suspect=suspect)


def _exposure_stated(fold: _Fold, event: Event) -> None:
    """Of one reading; or of the session: what is read from here on, and what was read before anybody stated one."""
    exposure = Exposure.of_text(event.new)
    if event.reading_id is not None:
        fold.change(event.reading_id, exposure=exposure)
        return
    for state in list(fold.states.values()):
        if state.exposure is None or state.reading.sequence > event.sequence:
            fold.change(state.reading.id, exposure=exposure)


def _noted(fold: _Fold, event: Event) -> None:
    state = fold.states.get(event.reading_id or "")
    if state is not None:
        fold.change(event.reading_id, notes=(*state.notes, event.reason))


def _repeat_asked(fold: _Fold, event: Event) -> None:
    if event.step_id in fold.required:
        fold.required[event.step_id] += 1
        fold.cursor = event.step_id


def _seen(fold: _Fold, event: Event) -> None:
    """What a step asks was said by eye: no reading is asked any more."""
    if event.step_id in fold.required:
        fold.required[event.step_id] = 0


def _moved_to(fold: _Fold, event: Event) -> None:
    fold.cursor = event.step_id
    fold.skipped.discard(event.step_id or "")


_FOLDERS: dict[EventKind, Callable[[_Fold, Event], None]] = {
    EventKind.TAKEN_BACK: _taken_back,
    EventKind.SUPERSEDED: lambda fold, event: fold.change(event.reading_id, standing=Standing.SUPERSEDED),
    EventKind.SET_ASIDE: lambda fold, event: fold.change(event.reading_id, standing=Standing.SET_ASIDE),
    EventKind.IN_DOUBT: lambda fold, event: fold.change(event.reading_id, doubt=event.reason),
    EventKind.KEPT_IN_DOUBT: lambda fold, event: fold.change(event.reading_id, kept_in_doubt=True),
    EventKind.DOUBT_CLEARED: lambda fold, event: fold.change(event.reading_id, doubt="", kept_in_doubt=False),
    EventKind.TERMS_CORRECTED: _terms_corrected,
    EventKind.LAMP_SHOWS: _terms_corrected,
    EventKind.SOURCE_NAMED: _source_named,
    EventKind.SUSPECT_FROM: lambda fold, event: _suspicion(fold, event, suspect=True),
    EventKind.AGREES_AGAIN: lambda fold, event: _suspicion(fold, event, suspect=False),
    EventKind.EXPOSURE_STATED: _exposure_stated,
    EventKind.NOTE: _noted,
    EventKind.REPEAT_ASKED: _repeat_asked,
    EventKind.STEP_INSERTED: _moved_to,
    EventKind.JUMPED: _moved_to,
    EventKind.OBSERVED: _seen,
    EventKind.STEP_SKIPPED: lambda fold, event: fold.skipped.add(event.step_id or ""),
}


def live_events(events: Iterable[Event]) -> tuple[Event, ...]:
    """The events that have not been undone, in order; an undo may itself be undone."""
    undone: set[str] = set()
    live = []
    for event in sorted(events, key=lambda e: e.sequence, reverse=True):
        if event.id in undone:
            continue
        if event.kind is EventKind.UNDONE and event.undoes is not None:
            undone.add(event.undoes)
        live.append(event)
    return tuple(reversed(live))


def fold(steps: Sequence[Step], readings: Sequence[Reading], events: Sequence[Event]) -> RunState:
    """The state of a run from its records, in any order. A reading counts until its `taken` event is undone."""
    live = live_events(events)
    inserted = {e.step_id for e in live if e.kind is EventKind.STEP_INSERTED}
    undone = {e.id for e in events} - {e.id for e in live}
    taken_back = {e.reading_id for e in events if e.kind is EventKind.TAKEN and e.id in undone}
    ordered = sorted((s for s in steps if not s.inserted or s.id in inserted), key=lambda s: s.position)
    by_sequence = sorted(readings, key=lambda r: r.sequence)
    run = _Fold(
        steps=ordered,
        states={
            r.id: ReadingState(r, r.terms, Standing.TAKEN_BACK if r.id in taken_back else Standing.COUNTED)
            for r in by_sequence
        },
        required={step.id: step.repeats for step in ordered},
    )
    for event in live:
        folder = _FOLDERS.get(event.kind)
        if folder is not None:
            folder(run, event)
    return _finished(run, live)


def _finished(run: _Fold, live: tuple[Event, ...]) -> RunState:
    for state in list(run.states.values()):
        if state.standing is Standing.COUNTED and impossible_terms(state.reading.terms) is not None:
            run.change(state.reading.id, standing=Standing.IMPOSSIBLE)  # until its terms are corrected
    by_step: dict[str | None, list[ReadingState]] = {}
    for state in run.states.values():
        if state.standing is Standing.COUNTED:
            by_step.setdefault(state.reading.step_id, []).append(state)
    steps = tuple(
        StepState(
            step,
            run.required[step.id],
            tuple(own := by_step.get(step.id, [])),
            step.id in run.skipped,
            sum(state.counts for state in own),
        )
        for step in run.steps
    )
    return RunState(steps, tuple(run.states.values()), _current(steps, run.cursor), live)


def _current(steps: tuple[StepState, ...], cursor: str | None) -> int | None:
    """The first unfinished step at or after the cursor; when there is none, the first unfinished of all."""
    start = next((i for i, s in enumerate(steps) if s.step.id == cursor), 0)
    order = [*range(start, len(steps)), *range(start)]
    return next((i for i in order if not steps[i].done), None)


# --- Terms as text, for corrections


def term_to_text(value: object) -> str:
    """The value of a field of `Terms` as an event keeps it."""
    if value is None:
        return ""
    return " + ".join(value) if isinstance(value, tuple) else str(value)


def term_from_text(name: str, text: str) -> object:
    """The value of the field `name` of `Terms` from its text. Raises `ValueError` for text that is none."""
    kind = get_type_hints(Terms)[name]
    if kind == tuple[str, ...]:
        return tuple(part.strip() for part in text.split("+") if part.strip())
    if kind is str:
        return text
    return float(text) if text else None
