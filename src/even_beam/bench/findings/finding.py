"""What a finding is, and the means, spreads and uncertainties that all of them rest on."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np

from even_beam.bench import notation
from even_beam.bench.measured import Measured
from even_beam.bench.records import Claim, Cost, Meter, Terms
from even_beam.light.uncertainty import MeterSpecification, Placement, level_uncertainty

UNKNOWN_METER = Meter("", "meter not named")


@dataclass(frozen=True, eq=False, slots=True)
class Finding:
    """A figure computed from readings.

    `value` in `unit`; `spread` is the range of the readings it came from, `uncertainty` the 95 % half width of the
    figure itself and `ratio_uncertainty` that of its ratio to another read with the same meter (relative, for levels).
    `series` are the figures behind it by name, all of one length. `not_covered` says what it does not speak of.
    """

    question: str
    name: str
    value: float | None
    unit: str
    sentence: str
    terms: str
    readings: tuple[str, ...]
    spread: float | None = None
    uncertainty: float | None = None
    ratio_uncertainty: float | None = None
    not_covered: tuple[str, ...] = ()
    series: Mapping[str, tuple[float | str | None, ...]] = field(default_factory=dict)


@dataclass(frozen=True, eq=False)
class Evidence:
    """One fixture with the readings that count, of one session or of many, and what is known of it beside."""

    source_id: str
    name: str
    kind: str
    readings: tuple[Measured, ...]
    meters: Mapping[str, Meter] = field(default_factory=dict)
    claims: tuple[Claim, ...] = ()
    costs: tuple[Cost, ...] = ()

    def meter_of(self, measured: Measured) -> Meter:
        """The meter of a reading; a handheld one's promises where it was not named."""
        return self.meters.get(measured.reading.meter_id or "", UNKNOWN_METER)

    def having(self, quantity: str) -> list[Measured]:
        """The readings with a plain figure of a quantity."""
        return [m for m in self.readings if m.value(quantity) is not None]

    @cached_property
    def lit(self) -> list[Measured]:
        """The readings with an illuminance above zero, on the beam axis."""
        return [m for m in self.readings if (m.value("illuminance") or 0.0) > 0.0 and m.terms.angle_deg == 0.0]


class Mean(NamedTuple):
    """A level from repeats: mean, range, how many, and its relative 95 % uncertainties."""

    value: float
    spread: float
    repeats: int
    absolute: float
    ratio: float


AIM_DEG = 2.0
DISTANCE_M = 0.01


def level_mean(evidence: Evidence, repeats: Sequence[Measured]) -> Mean:
    """The mean illuminance of repeats at one set of terms, above zero, with what meter and placement leave open.

    Distance and reference plane are taken as known to a centimetre each; a lamp of unknown beam as 60 degrees wide.
    """
    levels = np.array([m.value("illuminance") for m in repeats], dtype=np.float64)
    meter = evidence.meter_of(repeats[0])
    distance = repeats[0].terms.distance_m
    placement = Placement(distance, DISTANCE_M, DISTANCE_M, AIM_DEG) if distance else None
    specification = MeterSpecification(meter.level_tolerance, meter.xy_tolerance, meter.ratio_tolerance)
    one = level_uncertainty(specification, placement, levels.size)
    return Mean(float(levels.mean()), float(np.ptp(levels)), levels.size, one.absolute, one.ratio)


def grouped(readings: Sequence[Measured], key: Callable[[Measured], object]) -> dict[object, list[Measured]]:
    """Readings by a key, in the order of their first occurrence."""
    found: dict[object, list[Measured]] = {}
    for measured in readings:
        found.setdefault(key(measured), []).append(measured)
    return found


def without(*names: str) -> Callable[[Measured], object]:
    """A key: session's meter and all terms but those named."""
    return lambda measured: (_blanked(measured.terms, names), measured.reading.meter_id)


@lru_cache(maxsize=4096)
def _blanked(terms: Terms, names: tuple[str, ...]) -> Terms:
    """Terms with some at their defaults; few of a fixture's are distinct."""
    return replace(terms, **{name: getattr(Terms(), name) for name in names})


def at(terms: Terms, *but: str) -> str:
    """Terms in a line, those left open not named."""
    parts = {
        "configuration": notation.configuration(terms),
        "white": notation.white(terms) if terms.cct_k is not None or terms.mode != "CCT" else "",
        "zoom": terms.zoom,
        "level": notation.level(terms) if terms.level_pct is not None else "",
        "distance": notation.placement(terms) if terms.distance_m is not None else "",
    }
    return " · ".join(text for name, text in parts.items() if text and name not in but)


def ids(readings: Sequence[Measured]) -> tuple[str, ...]:
    """The readings a finding came from."""
    return tuple(m.reading.id for m in readings)


def value_of(measured: Measured, quantity: str) -> float:
    """A figure that is known to be there."""
    value = measured.value(quantity)
    if value is None:
        raise ValueError(f"the reading has no {quantity}")
    return value


def full_level(readings: Sequence[Measured]) -> list[Measured]:
    """The readings at the highest level among them; all where no level was dialled."""
    top = max((m.terms.level_pct for m in readings if m.terms.level_pct is not None), default=None)
    return [m for m in readings if m.terms.level_pct == top]
