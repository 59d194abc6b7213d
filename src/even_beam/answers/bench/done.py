"""What was done in a session, in words: what an undo would take back, and the list of it."""

from collections.abc import Sequence

from even_beam.bench import terms_in_words
from even_beam.bench.records import Event, EventKind
from even_beam.desk.session.desk import SessionDesk
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES


def done(desk: SessionDesk) -> list[str]:
    """Everything that can be taken back, the newest first: `1 480 lx of Heron at 50 %`."""
    return [act_words(desk, events) for events in desk.acts()]


def act_words(desk: SessionDesk, events: Sequence[Event]) -> str:
    """One act: the reading that it was about and what became of it."""
    first = events[0]
    if first.kind is EventKind.OBSERVED:
        return first.reason
    of = reading_words(desk, first.reading_id) if first.reading_id is not None else ""
    more = f" and {len(events) - 1} more" if len({event.reading_id for event in events}) > 2 else ""
    if first.kind is EventKind.TAKEN:
        return of or str(first.kind)
    said = f"{first.kind} “{first.reason}”" if first.kind is EventKind.NOTE else str(first.kind)
    return f"{said}: {of}{more}" if of else said


def reading_words(desk: SessionDesk, reading_id: str) -> str:
    """A reading by its first figure, its lamp and what was set."""
    measured = next((one for one in desk.measured if one.reading.id == reading_id), None)
    if measured is None:
        return ""
    set_to = terms_in_words.setting(measured.terms)
    of = f"of {desk.name_of(measured.reading.source_ids)} at {set_to}"
    level, white = measured.value("illuminance"), measured.value("cct")
    if level is not None:
        return f"{notation.light(level)} {of}"
    if white is not None:
        return f"{notation.kelvin(white)} K {of}"
    value = next(iter(measured.reading.values), None)
    return f"{QUANTITIES[value.quantity].label} {of}" if value is not None and value.quantity in QUANTITIES else of


def standing(desk: SessionDesk) -> str:
    """What is true now, for after an undo."""
    last = desk.counted[-1] if desk.counted else None
    here = f"Last that counts: {reading_words(desk, last.reading.id)}." if last is not None else "No reading counts."
    return f"{notation.count(len(desk.counted), 'reading')}. {here}" if last is not None else here
