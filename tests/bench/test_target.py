"""A target white and the sources about it; mired arithmetic as in NEEDS 17-20 (calc)."""

from datetime import UTC, datetime

import pytest

from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.bench.target import Target, distance, distances, rematch, target_from_text, target_to_text
from even_beam.figures.target import target_chart


def read(sequence: int, source: str, cct: float | None, duv: float | None = 0.0) -> Measured:
    figures = {"cct": cct, "duv": duv}
    values = tuple(Value(name, value, Origin.TYPED) for name, value in figures.items() if value is not None)
    record = Reading(
        f"r{sequence}",
        "s",
        datetime(2026, 1, 1, tzinfo=UTC),
        sequence,
        Terms(),
        (source,) if source else (),
        values=values,
    )
    return Measured(ReadingState(record, record.terms))


@pytest.mark.parametrize(
    ("asked", "read_k", "mired"), [(5600, 4265, 55.9), (5000, 4763, 10.0), (3200, 2970, 24.2), (5500, 3200, 130.7)]
)
def test_distance_in_mired_is_positive_when_warmer(asked, read_k, mired):
    """Check values 17-20 (calc)."""
    found = distance(read(1, "lamp", read_k), Target(asked))
    assert found.mired == pytest.approx(mired, abs=0.05)
    assert f"{mired:.0f} mired warmer" in found.words


def test_direction_in_words():
    found = distance(read(1, "window", 6317.0, 0.0031), Target(5600.0, 0.0011))
    assert found.words == "20 mired cooler, 0.0020 to green"
    assert not found.matches
    assert "to magenta" in distance(read(1, "lamp", 5600.0, -0.004), Target(5600.0)).words
    assert distance(read(1, "lamp", 5600.0, None), Target(5600.0)).words.endswith("tint not read")
    assert distance(read(1, "lamp", None), Target(5600.0)) is None
    assert distance(read(1, "lamp", 5500.0, 0.001), Target(5600.0)).matches


def test_the_newest_of_each_source_the_farthest_first():
    readings = [read(1, "lamp", 3200.0), read(2, "window", 6500.0), read(3, "lamp", 5000.0), read(4, "", 5600.0)]
    found = distances(readings, Target(5600.0))
    assert [d.measured.reading.id for d in found] == ["r2", "r3", "r4"]
    chart = target_chart(found, ["window", "lamp", "?"], Target(5600.0), readings[2])
    assert "3 sources" in chart.summary
    assert not chart.empty


def test_a_look_is_matched_again():
    then = [read(1, "lamp", 5600.0), read(2, "window", 6500.0)]
    now = [read(7, "lamp", 5400.0), read(8, "other", 5600.0)]
    found = {r.then.measured.reading.source_ids[0]: r for r in rematch(then, now, Target(5600.0))}
    assert found["lamp"].moved_mired == pytest.approx(1e6 / 5400 - 1e6 / 5600)
    assert found["window"].now is None
    assert found["window"].moved_mired is None


def test_a_target_survives_as_text():
    for target in (Target(5600.0), Target(3217.4, -0.00213, "specimen table, window side")):
        assert target_from_text(target_to_text(target)) == target
