"""What stands side by side: lamps, what sits on each, or the sessions of each."""

from collections.abc import Mapping
from dataclasses import replace
from enum import StrEnum

from even_beam.bench import terms_in_words
from even_beam.bench.measured import Measured
from even_beam.known.choice import Entrant


class Split(StrEnum):
    """What stands side by side in a comparison."""

    LAMPS = "lamps"
    CONFIGURATIONS = "what sits on each lamp"
    SESSIONS = "each lamp's sessions"


def part_of(reading: Measured, by: Split) -> str:
    """To which part of a lamp's readings one belongs."""
    if by is Split.CONFIGURATIONS:
        return terms_in_words.configuration(reading.terms)
    return reading.reading.session_id if by is Split.SESSIONS else ""


def parted(entrant: Entrant, by: Split, names: Mapping[str, str]) -> list[Entrant]:
    """A lamp as one entrant a configuration or a session, in the order first read; `names` are those of sessions."""
    if by is Split.LAMPS:
        return [entrant]
    parts: dict[str, list[Measured]] = {}
    for reading in entrant.readings:
        parts.setdefault(part_of(reading, by), []).append(reading)
    return [
        replace(entrant, name=f"{entrant.name}, {names.get(part, part)}", readings=tuple(readings), part=part)
        for part, readings in parts.items()
    ]
