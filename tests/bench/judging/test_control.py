from datetime import UTC, datetime

import pytest

from even_beam.bench.judging.control import compared, drift_words, session_drift, suspect_stretch
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState

MINUS = "\N{MINUS SIGN}"
FULL, HALF, LOW = (Terms(level_pct=level) for level in (100.0, 50.0, 10.0))


def walk(*points: tuple[Terms, float], suspect: int | None = None) -> list[Measured]:
    readings = []
    for place, (terms, lux) in enumerate(points):
        values = (Value("illuminance", lux, Origin.TYPED), Value("cct", 5600.0 + place, Origin.TYPED))
        at = datetime(2026, 3, 5, 20, place % 60, tzinfo=UTC)
        reading = Reading(f"r{place}", "s", at, place, terms, ("tansy",), f"step {terms.level_pct}", "m", "", values)
        readings.append(Measured(ReadingState(reading, terms, suspect=place == suspect)))
    return readings


def test_neighbouring_repeats_are_no_control():
    readings = walk((FULL, 1000.0), (FULL, 1010.0), (HALF, 500.0))
    assert compared(readings[1], readings[:1]) is None
    assert session_drift(readings) is None
    assert "not repeated" in drift_words(None)


def test_a_control_is_held_against_the_latest_one_that_is_trusted():
    readings = walk((FULL, 1000.0), (HALF, 500.0), (FULL, 700.0), (LOW, 100.0), (FULL, 1040.0), suspect=2)
    drift = compared(readings[4], readings[:4])
    assert drift.first is readings[0]
    assert drift.stops == pytest.approx(0.0566, abs=1e-4)  # log2(1.04)
    assert drift.agrees


def test_the_stretch_runs_from_the_last_control_that_agrees():
    readings = walk((FULL, 1000.0), (HALF, 500.0), (FULL, 1010.0), (LOW, 100.0), (HALF, 400.0))
    assert suspect_stretch(readings) == readings[3:]  # half light is 0.3 stop off: it does not end the stretch
    assert suspect_stretch(readings[:3]) == readings[2:3]
    assert suspect_stretch(readings[:1]) == readings[:1]
    assert not suspect_stretch([])
    repeated = walk((FULL, 1000.0), (FULL, 1010.0), (HALF, 500.0), (HALF, 505.0))
    assert suspect_stretch(repeated) == repeated[2:]  # half light agrees with itself, which proves nothing


@pytest.mark.parametrize(
    ("last", "words"), [(1010.0, "held ("), (860.0, "doubt what lies between"), (0.0, "not repeated")]
)
def test_the_end_is_held_against_the_beginning(last, words):
    readings = walk((FULL, 1000.0), (HALF, 500.0), (FULL, last))
    assert words in drift_words(session_drift(readings))


def test_drift_of_the_white_is_in_mired():
    text = drift_words(session_drift(walk((FULL, 1000.0), *[(HALF, 500.0)] * 99, (FULL, 1000.0))))
    assert f"{MINUS}3.1 mired" in text  # 1e6/5700 - 1e6/5600
