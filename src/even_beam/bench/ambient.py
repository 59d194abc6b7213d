"""The room's own light at a placement: read with the lamp off, and taken off what is read there with the lamp lit.

Only illuminance and spectrum are corrected; typed colour figures and f-stops stay as they were read. It does not
remove the lamp's own bounce off walls and floor: a reading with the meter shaded from the lamp measures that.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF, SHADED, Terms


def lamp_off(terms: Terms) -> Terms:
    """The terms of a reading of the room alone, with the meter where `terms` have it."""
    return Terms(
        mode=OFF,
        distance_m=terms.distance_m,
        placement=terms.placement,
        angle_deg=terms.angle_deg,
        turn_deg=terms.turn_deg,
        reference_plane=terms.reference_plane,
    )


def shaded(terms: Terms) -> Terms:
    """The terms of a reading with the meter shaded from the lamp, all else as it is."""
    return replace(terms, placement=SHADED)


def is_ambient(measured: Measured) -> bool:
    """Whether a reading is of the room alone."""
    return measured.terms.mode == OFF


def ambient_of(measured: Measured, readings: Sequence[Measured]) -> Measured | None:
    """The counted reading of the room at this placement with this meter, the latest before it, else the first after."""
    return _latest(measured, _rooms(readings))


def ambients_of(readings: Sequence[Measured]) -> dict[str, Measured | None]:
    """The same of every reading among them, by its id."""
    rooms = _rooms(readings)
    return {measured.reading.id: _latest(measured, rooms) for measured in readings}


_Rooms = Mapping[tuple[object, ...], Sequence[Measured]]


def _rooms(readings: Sequence[Measured]) -> _Rooms:
    """The counted readings of the room, place by place."""
    found: dict[tuple[object, ...], list[Measured]] = {}
    for measured in readings:
        if is_ambient(measured) and measured.state.counts:
            found.setdefault(_place(measured), []).append(measured)
    return found


def _latest(measured: Measured, rooms: _Rooms) -> Measured | None:
    if is_ambient(measured):
        return None
    here = rooms.get(_place(measured), ())
    before = [m for m in here if m.reading.sequence < measured.reading.sequence]
    return before[-1] if before else next(iter(here), None)


def _place(measured: Measured) -> tuple[object, ...]:
    """Where the meter stands and looks; shading it moves it nowhere."""
    terms = measured.terms
    placement = "on axis" if terms.placement == SHADED else terms.placement
    return terms.distance_m, placement, terms.angle_deg, terms.turn_deg, measured.reading.meter_id


def bounce_share(shaded_reading: Measured, readings: Sequence[Measured]) -> float | None:
    """Which share of the light at this mark is the lamp's own bounce; None when it was not read in the open too."""
    if shaded_reading.terms.placement != SHADED:
        return None
    for other in reversed(readings):
        open_terms = replace(shaded_reading.terms, placement=other.terms.placement)
        same = other.terms == open_terms and other.reading.source_ids == shaded_reading.reading.source_ids
        level, behind = other.value("illuminance"), shaded_reading.value("illuminance")
        if same and other.terms.placement != SHADED and level and behind is not None:
            return behind / level
    return None
