"""What the room was like and what was done to the meter, from a line: `21 °C; 231 V; 0.4 lx; two fans on; zeroed on
Yarrow`."""

from dataclasses import dataclass
from datetime import datetime

from even_beam.answers.bench.calibration_form import calibration_of, calibration_words
from even_beam.bench.limits import impossible_figure
from even_beam.bench.records import Calibration, Conditions, Meter, new_id
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse

_FIGURES = {"temperature_c": "temperature_c", "voltage_v": "mains_v", "illuminance": "ambient_lx"}


@dataclass(frozen=True, slots=True)
class Noted:
    """What a line says: a row of the room, where it says anything of it, and calibrations of the meter."""

    room: Conditions | None
    calibrations: tuple[Calibration, ...] = ()

    def words(self, meter: Meter | None) -> str:
        """It all as it is said."""
        named = meter.nickname if meter is not None else ""
        said = [conditions_words(self.room)] if self.room is not None else []
        return "; ".join([*said, *(calibration_words(row, named) for row in self.calibrations)])


def noted_of(text: str, session_id: str, at: datetime, meter: Meter | None) -> Noted:
    """A line taken apart. Raises `EntryError` for a figure that cannot be, and for a calibration of no meter."""
    parts = [part.strip() for part in text.replace(", ", ";").split(";") if part.strip()]
    calibrations: list[Calibration] = []
    room: list[str] = []
    for part in parts:
        found = calibration_of(part, meter or Meter("", ""), at)
        if found is None:
            room.append(part)
        elif meter is None:
            raise EntryError("no meter is chosen that could have been calibrated; M chooses one")
        else:
            calibrations.append(found)
    row = conditions_of("; ".join(room), session_id, at) if room or not calibrations else None
    return Noted(row, tuple(calibrations))


def conditions_of(text: str, session_id: str, at: datetime) -> Conditions:
    """A timed row of the room. What is no temperature, voltage or level is kept in words, the first as the room.

    Raises `EntryError` for a figure that cannot be.
    """
    figures: dict[str, float] = {}
    words: list[str] = []
    for part in (part.strip() for part in text.replace(", ", ";").split(";")):
        if not part:
            continue
        found = _figure(part)
        if found is None:
            words.append(part)
        else:
            figures[found[0]] = found[1]
    if not figures and not words:
        raise EntryError("say what the room is like, such as 21 °C; 231 V; 0.4 lx; blacked out; a fan on")
    room, note = (words[0], "; ".join(words[1:])) if words else ("", "")
    return Conditions(
        id=new_id(),
        session_id=session_id,
        at=at,
        room=room,
        ambient_lx=figures.get("ambient_lx"),
        temperature_c=figures.get("temperature_c"),
        mains_v=figures.get("mains_v"),
        note=note,
    )


def _figure(part: str) -> tuple[str, float] | None:
    """The field and the figure of a part; None for words."""
    try:
        entry = parse(part)
    except EntryError:
        return None
    field = _FIGURES.get(entry.quantity or "")
    if field is None or entry.value is None:
        return None
    if (problem := impossible_figure(entry.quantity or "", entry.value)) is not None:
        raise EntryError(problem)
    return field, entry.value


def conditions_words(row: Conditions) -> str:
    """A row as it is said."""
    parts = [
        row.room,
        f"{notation.light(row.ambient_lx)} of its own" if row.ambient_lx is not None else "",
        f"{notation.plain(row.temperature_c)} °C" if row.temperature_c is not None else "",
        f"{notation.plain(row.mains_v)} V" if row.mains_v is not None else "",
        row.note,
    ]
    return ", ".join(part for part in parts if part)
