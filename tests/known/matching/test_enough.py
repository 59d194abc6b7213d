"""Light enough for a stop: by the exposure equation, the lamp's own dimmer and its own walk."""

from dataclasses import replace

import pytest

from even_beam.bench.exposure import Exposure
from even_beam.bench.records import Terms
from even_beam.known.matching.enough import enough, lux_hours, needed_lux, page_beside_display
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
DOME = Exposure(800.0, 0.02, 340.0)


def asked(*readings, stop=8.0, exposure=DOME):
    own = evidence(*readings)
    return enough(own, own.readings[:1], stop, exposure)


def test_what_a_stop_needs():
    """Check value 44 (common practice, no source): f/22 and 9 tenths at ISO 640 and 1/30 are 11 200 lx with C 250 and
    15 200 lx with C 340."""
    f_number = 22.627 * 2.0 ** (9.0 / 20.0)
    assert needed_lux(f_number, Exposure(640.0, 1.0 / 30.0, 250.0)) == pytest.approx(11_200.0, rel=0.01)
    assert needed_lux(f_number, Exposure(640.0, 1.0 / 30.0, 340.0)) == pytest.approx(15_200.0, rel=0.01)
    with pytest.raises(ValueError, match="no stop"):
        needed_lux(0.0, DOME)


def test_too_much_is_dimmed_or_moved():
    needed = needed_lux(8.0, DOME)
    marks = [
        read(i, replace(FULL, distance_m=d), illuminance=4.0 * needed * 4.0 / d**2) for i, d in enumerate((2, 3, 5))
    ]
    dimmed = [
        read(10 + i, replace(FULL, level_pct=p), illuminance=4.0 * needed * p / 100.0) for i, p in enumerate((50, 10))
    ]
    found = asked(*marks, *dimmed)
    assert found.stops_over == pytest.approx(2.0, abs=1e-6)
    assert found.f_number == pytest.approx(16.0)
    assert found.dial_pct == pytest.approx(25.0, abs=0.1)
    assert found.distance_m == pytest.approx(4.0, abs=0.03)
    assert found.is_enough
    assert "2.0 stops more than needed; dial 25 % or move it to 4 m" in found.sentence


def test_too_little_is_never_brought_inward_and_never_says_that_one_can_run_so_many():
    needed = needed_lux(8.0, DOME)
    found = asked(read(1, FULL, illuminance=needed / 3.5))
    assert found.lamps == 4
    assert found.distance_m is None
    assert found.dial_pct is None
    assert not found.is_enough
    assert "4 that give as much in the same place would do" in found.sentence
    assert "nothing is brought inward" in found.sentence
    assert "you can run" not in found.sentence


def test_within_what_can_be_told_it_is_just_enough():
    needed = needed_lux(8.0, DOME)
    for share in (0.97, 1.0, 1.03):
        assert "just enough, as far as can be told" in asked(read(1, FULL, illuminance=needed * share)).sentence


def test_a_dimmer_that_was_not_read_so_low_is_not_told():
    needed = needed_lux(2.8, DOME)
    full = 64.0 * needed
    found = asked(
        read(1, FULL, illuminance=full), read(2, replace(FULL, level_pct=50.0), illuminance=full / 2.0), stop=2.8
    )
    assert found.dial_pct is None


def test_readings_at_other_terms_change_nothing():
    needed = needed_lux(8.0, DOME)
    alone = asked(read(1, FULL, illuminance=2.0 * needed))
    with_others = asked(
        read(1, FULL, illuminance=2.0 * needed),
        read(2, replace(FULL, level_pct=10.0, configuration=("softbox",)), illuminance=needed / 9.0),
        read(3, replace(FULL, distance_m=6.0, zoom="spot"), illuminance=50.0 * needed),
    )
    assert alone.sentence == with_others.sentence
    assert alone.dial_pct is with_others.dial_pct is None


def test_without_a_level_there_is_no_answer():
    assert asked(read(1, FULL, cct=5600.0)) is None


def test_pages_and_delicate_subjects():
    """Check value 56 (common practice, no source): 80 cd/m2 are 251 to 296 lx on paper."""
    assert page_beside_display(80.0) == pytest.approx((251.3, 295.7), abs=0.2)
    assert lux_hours(50.0, 8.0) == 400.0
