"""Readings for the findings: a lamp told in a few words."""

from datetime import UTC, datetime, timedelta

from even_beam.bench.measured import Measured
from even_beam.bench.records import Claim, Computed, Meter, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.known.evidence import Evidence

START = datetime(2026, 3, 1, 20, tzinfo=UTC)
METER = Meter("m", "Spectrometer")


def read(
    sequence: int,
    terms: Terms,
    meter: str = "m",
    session: str = "s",
    at: datetime | None = None,
    vectors=None,
    values: tuple[Value, ...] = (),
    **figures: float,
) -> Measured:
    values += tuple(Value(name, value, Origin.TYPED) for name, value in figures.items())
    when = at or START + timedelta(seconds=30 * sequence)
    record = Reading(f"r{sequence}", session, when, sequence, terms, ("lamp",), meter_id=meter, values=values)
    computed = Computed(record.id, 1, {}, vectors) if vectors else None
    return Measured(ReadingState(record, terms), computed)


def evidence(
    *readings: Measured, claims: tuple[Claim, ...] = (), meters: dict[str, Meter] | None = None, name: str = "Tansy"
) -> Evidence:
    return Evidence("lamp", name, "panel", readings, meters or {"m": METER}, claims)


def series(terms: list[Terms], quantity: str, values, start: int = 1) -> list[Measured]:
    return [read(start + i, t, **{quantity: v}) for i, (t, v) in enumerate(zip(terms, values, strict=True))]
