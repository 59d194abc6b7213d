"""The second look of a session: what it knows when a line is typed or a reading arrives, and what it says of either."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from typing import TYPE_CHECKING

from even_beam.bench import ambient
from even_beam.bench.judging.expectation import expected_illuminance
from even_beam.bench.judging.second_look import Context, SecondLook, Subject, second_look
from even_beam.bench.measured import Measured
from even_beam.bench.records import Reading, Terms
from even_beam.bench.run import ReadingState, Standing
from even_beam.words.entry import Entry
from even_beam.words.quantities import USUALLY_ASKED

if TYPE_CHECKING:
    from even_beam.desk.session.desk import SessionDesk


def at_a_line(desk: "SessionDesk", entries: Sequence[Entry], terms: Terms) -> SecondLook:
    """What is said of figures that were typed and not kept yet, at their terms."""
    figures = {e.quantity: e.value for e in entries if e.quantity is not None and e.value is not None}
    bounded = next((e for e in entries if e.quantity == "illuminance" and e.value is None), None)
    if bounded is None:
        return _typed(desk, figures, terms)
    if (nearest := _nearest_expected(desk, bounded, terms)) is not None:
        figures["illuminance"] = nearest
    return replace(_typed(desk, figures, terms), candidates=())  # none of them would be a bound


def _nearest_expected(desk: "SessionDesk", bounded: Entry, terms: Terms) -> float | None:
    """What is looked at of a level that was typed as a bound or a range: what would fit best of all it leaves open."""
    expected, room = expected_illuminance(desk.counted, desk.next_source, terms), ambient_here(desk)
    if expected is None:
        return None
    low, high = (None if end is None else end - room for end in (bounded.low, bounded.high))
    return expected.nearest(low, high) + room


def _typed(desk: "SessionDesk", figures: Mapping[str, float], terms: Terms) -> SecondLook:
    room = ambient_here(desk)
    net = dict(figures)
    if room and "illuminance" in net:
        net["illuminance"] = max(net["illuminance"] - room, 0.0)
    subject = Subject(net, terms, desk.next_source, desk.typed_meter, typed=True, ambient_lx=room)
    return second_look(subject, context_of(desk, desk.step_at_work, desk.next_sources))


def at_a_reading(desk: "SessionDesk", measured: Measured, context: Context, *, saturated: bool) -> SecondLook:
    """What is said of a reading that has just come, in the context of what was known before it."""
    reading = measured.reading
    subject = Subject(
        {name: value for name in USUALLY_ASKED if (value := measured.value(name)) is not None},
        reading.terms,
        measured.source_id,
        desk.meters.get(reading.meter_id or ""),
        saturated=saturated,
        ambient_lx=measured.ambient.illuminance_lx if measured.ambient is not None else 0.0,
    )
    return second_look(subject, context)


def context_of(
    desk: "SessionDesk", step_id: str | None, source_ids: tuple[str, ...], without: str | None = None
) -> Context:
    """What is known when something is read of these lamps, `without` the reading that it takes the place of."""
    lit = [m for m in desk.counted if not ambient.is_ambient(m) and m.reading.id != without]
    again = [
        m
        for m in desk.measured
        if m.reading.step_id == step_id
        and step_id is not None
        and m.state.doubt
        and not m.state.counts
        and m.state.standing in (Standing.COUNTED, Standing.SUPERSEDED)
    ]
    first = next((m.reading.at for m in desk.measured if m.reading.source_ids == source_ids and source_ids), None)
    now = desk.now()
    return Context(
        [m for m in lit if not m.state.suspect],
        lit[-1] if lit else None,
        again,
        _kin(desk, source_ids),
        lit_s=seconds_between(first, now),
        dark_s=seconds_between(desk.dark_calibrated_at, now),
        whites_k=desk.dialable.get(source_ids[0]) if len(source_ids) == 1 else None,
        gels=desk.gels,
    )


def _kin(desk: "SessionDesk", source_ids: tuple[str, ...]) -> frozenset[str]:
    """Other lamps of the same model."""
    models = {desk.sources[i].model_id for i in source_ids if i in desk.sources} - {None}
    return frozenset(s.id for s in desk.sources.values() if s.model_id in models) - set(source_ids)


def ambient_here(desk: "SessionDesk") -> float:
    """The room's light at the next placement, in lx; 0 where it was not read."""
    here = Reading(
        "next",
        desk.session.id,
        desk.now(),
        desk.logbook.next_sequence(desk.session.id),
        desk.next_terms,
        meter_id=desk.meter.id if desk.meter is not None else None,
    )
    room = ambient.ambient_of(Measured(ReadingState(here, here.terms)), desk.measured)
    return (room.value("illuminance") or 0.0) if room is not None else 0.0


def seconds_between(earlier: datetime | None, later: datetime) -> float | None:
    """Seconds from a moment to a later one; None where there is none, or the clock has gone back."""
    seconds = (later - earlier).total_seconds() if earlier is not None else -1.0
    return seconds if seconds >= 0.0 else None
