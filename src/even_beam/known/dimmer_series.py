"""A quantity against the dimmer setting, a series a lamp, for the pictures."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.bench.measured import Measured, mean_level
from even_beam.known.choice import Entrant, along
from even_beam.known.comparison import Comparison, Entry
from even_beam.light.photometry import stops


@dataclass(frozen=True, slots=True)
class Series:
    """One lamp's values against dimmer setting, with the readings behind each point."""

    key: str
    name: str
    levels_pct: tuple[float, ...]
    values: tuple[float, ...]
    reading_ids: tuple[str, ...]


def against_dimmer(entrants: Sequence[Entrant], comparison: Comparison, quantity: str) -> tuple[Series, ...]:
    """A quantity against dimmer setting, one point a reading, of readings that differ from those compared in it alone.

    `stops` is output relative to each lamp's own full level, `mired` the error against the white dialled; any
    other name is the figure itself.
    """
    return tuple(_series(entrant, comparison.entry(entrant.key), quantity) for entrant in entrants)


def _series(entrant: Entrant, entry: Entry | None, quantity: str) -> Series:
    first = entry.first if entry is not None else None
    readings = [m for m in along(entrant.readings, first, "level") if m.terms.level_pct] if first is not None else []
    top = max((m.terms.level_pct or 0.0 for m in readings), default=0.0)
    full = mean_level([m for m in readings if m.terms.level_pct == top])
    points = []
    for reading in sorted(readings, key=lambda m: (m.terms.level_pct or 0.0, m.reading.sequence)):
        value = _series_value(reading, quantity, full)
        if value is not None:
            points.append((reading.terms.level_pct or 0.0, value, reading.reading.id))
    return Series(
        entrant.key, entrant.name, tuple(p[0] for p in points), tuple(p[1] for p in points), tuple(p[2] for p in points)
    )


def _series_value(reading: Measured, quantity: str, full: float | None) -> float | None:
    if quantity == "stops":
        level = reading.value("illuminance")
        return float(stops(level / full)) if level and full else None
    if quantity == "mired":
        cct, asked = reading.value("cct"), reading.terms.cct_k
        return 1e6 / cct - 1e6 / asked if cct and asked else None
    return reading.value(quantity)
