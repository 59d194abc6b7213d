"""What stands side by side: lamps, or the parts of each lamp's readings: its whites, its levels, its evenings."""

from collections.abc import Mapping
from dataclasses import replace
from enum import StrEnum

from even_beam.bench import fields, terms
from even_beam.bench.fields import UNSTATED
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.known.choice import Entrant


class Split(StrEnum):
    """What stands side by side in a comparison."""

    LAMPS = "lamps"
    CONFIGURATIONS = "what sits on each lamp"
    SESSIONS = "each lamp's sessions"
    WHITES = "each lamp's whites"
    LEVELS = "each lamp's levels"
    ZOOMS = "each lamp's zooms"
    TINTS = "each lamp's tints"
    MODES = "each lamp's modes"
    METERS = "each lamp's meters"


FIELD_OF: Mapping[Split, str] = {
    Split.CONFIGURATIONS: "configuration",
    Split.SESSIONS: "session",
    Split.WHITES: "cct",
    Split.LEVELS: "level",
    Split.ZOOMS: "zoom",
    Split.TINTS: "tint",
    Split.MODES: "mode",
    Split.METERS: "meter",
}
"""The field of terms whose values are the parts."""

_BY_ID = frozenset({"session", "meter"})
"""Fields whose values are identifiers; their names are kept elsewhere."""


def split_named(name: str) -> Split:
    """What stands side by side by its field of terms, as people call it: `white`, `level`, `modifier`. Raises
    `KeyError`."""
    own = {field: by for by, field in FIELD_OF.items()}
    names = {"lamp": Split.LAMPS, "white": Split.WHITES, "modifier": Split.CONFIGURATIONS}
    return names[name] if name in names else own[name]


def part_of(reading: Measured, by: Split) -> str:
    """To which part of a lamp's readings one belongs."""
    if by is Split.LAMPS:
        return ""
    name = FIELD_OF[by]
    found = terms.value(reading, name)
    if found is UNSTATED:
        return "its own white" if by is Split.WHITES else f"{fields.BY_NAME[name].label} not stated"
    if by is Split.MODES:
        return reading.terms.mode  # as it was written
    return str(found) if name in _BY_ID else terms.value_words(reading, name) or str(found)


def says(name: str, words: str) -> bool:
    """Whether the name of a part says a value already."""
    return bool(words) and (name.endswith((f", {words}", f" {words}")) or f", {words}," in name)


def parted(entrant: Entrant, by: Split, names: Mapping[str, str]) -> list[Entrant]:
    """A lamp as one entrant a part: the brightest level first, whites and tints from the lowest, all others as first
    read. `names` are those of sessions and meters."""
    if by is Split.LAMPS:
        return [entrant]
    parts: dict[str, list[Measured]] = {}
    for reading in entrant.readings:
        if reading.terms.mode == OFF:
            continue  # the room's own light is no part of a lamp
        parts.setdefault(part_of(reading, by), []).append(reading)
    return [
        replace(entrant, name=f"{entrant.name}, {names.get(part, part)}", readings=tuple(readings), part=part)
        for part, readings in sorted(parts.items(), key=lambda one: _place(one[1][0], by))
    ]


def _place(reading: Measured, by: Split) -> float:
    """Where a part stands among the others of its lamp."""
    found = terms.value(reading, FIELD_OF[by])
    if not isinstance(found, int | float):
        return float("inf")
    return -float(found) if by is Split.LEVELS else float(found)
