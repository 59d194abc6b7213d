"""A quantity against the dimmer setting, a series a lamp; or what the dimmer moves of one lamp, a series a quantity."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean

from even_beam.bench.measured import Measured
from even_beam.known.choice import Entrant, along
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.evidence import mean_of
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


CHANGES: Mapping[str, tuple[str, float]] = {
    "cct": ("white, mired", 1.0),
    "duv": ("tint, 0.001 Duv", 1000.0),
    "ra": ("Ra, points", 1.0),
    "r9": ("R9, points", 1.0),
}
"""What a dimmer moves beside the light, in units that are worth about as much to an eye, so that one scale serves."""


def changes_with_dimmer(entrant: Entrant, first: Measured) -> tuple[Series, ...]:
    """How white, tint and scores lie beyond those of full level, where the level alone differs from a reading's terms;
    what was read at one level alone is left out."""
    readings = sorted(along(entrant.readings, first, "level"), key=lambda m: m.terms.level_pct or 0.0)
    found = []
    for name, (label, scale) in CHANGES.items():
        read = [(m, _as_scaled(m, name)) for m in readings if m.terms.level_pct and m.value(name) is not None]
        if len({m.terms.level_pct for m, _ in read}) < 2:
            continue
        top = max(m.terms.level_pct or 0.0 for m, _ in read)
        full = fmean(value for m, value in read if m.terms.level_pct == top)
        found.append(
            Series(
                entrant.key,
                label,
                tuple(m.terms.level_pct or 0.0 for m, _ in read),
                tuple(scale * (value - full) for _, value in read),
                tuple(m.reading.id for m, _ in read),
            )
        )
    return tuple(found)


def _as_scaled(measured: Measured, name: str) -> float:
    """A figure on a scale on which equal steps look about equal: whites in mired."""
    value = measured.value(name) or 0.0
    return 1e6 / value if name == "cct" else value


def _series(entrant: Entrant, entry: Entry | None, quantity: str) -> Series:
    first = entry.first if entry is not None else None
    readings = [m for m in along(entrant.readings, first, "level") if m.terms.level_pct] if first is not None else []
    top = max((m.terms.level_pct or 0.0 for m in readings), default=0.0)
    full = mean_of([m for m in readings if m.terms.level_pct == top], "illuminance")
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
