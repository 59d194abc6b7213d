"""Sessions and meters joined by choice. Truth: readings drawn from stated errors, and differences worked by hand."""

import math
from dataclasses import replace

import numpy as np
import pytest

from even_beam.bench import estimate
from even_beam.bench.records import Meter, Terms
from even_beam.known import compare
from even_beam.known.choice import JOINED
from even_beam.known.comparison import Evenness
from tests.known.test_compare import FULL, METERS, both, lamp

STOP = math.log(2.0)


def told(*entrants, **asked):
    return compare.compare(list(entrants), asked, entrants[0].key, METERS)


def test_sessions_are_joined_only_where_it_is_asked_and_then_said():
    tansy = both(lamp("Tansy", (FULL, 1000.0), session="s1"), lamp("Tansy", (FULL, 1100.0), session="s2"))
    sorrel = both(lamp("Sorrel", (FULL, 2000.0), session="s1"), lamp("Sorrel", (FULL, 2300.0), session="s2"))
    alone = told(tansy, sorrel)
    assert {len(entry.readings) for entry in alone.entries} == {1}
    result = told(tansy, sorrel, session=JOINED)
    assert [len(entry.readings) for entry in result.entries] == [2, 2]
    assert result.entries[0].illuminance == pytest.approx(math.sqrt(1000.0 * 1100.0))
    assert result.entries[1].ratio == pytest.approx(math.sqrt(2000.0 * 2300.0 / 1000.0 / 1100.0))
    assert (
        "Sorrel the mean of 2 sessions" in result.sentences[0] and "Tansy the mean of 2 sessions" in result.sentences[0]
    )
    assert result.entries[0].joined_fields == {"session"} and "session" not in result.at
    assert any(n.evenness is Evenness.BROUGHT and "mean of 2 sessions" in n.text for n in result.notes)


def test_what_is_a_sessions_own_is_averaged_and_what_is_the_meters_is_not():
    one = lamp("Tansy", (FULL, 1000.0), session="s1")
    two = both(one, lamp("Tansy", (FULL, 1000.0), session="s2"))
    single = told(one).entries[0].level
    joined = told(two, session=JOINED).entries[0].level
    for name in ("distance of the mark", "aim", "repeatability"):
        assert joined.shares[name] == pytest.approx(single.shares[name] / math.sqrt(2.0))
    assert joined.shares["calibration of the meter"] == pytest.approx(single.shares["calibration of the meter"])


def test_a_light_that_both_meters_read_brings_one_to_the_other():
    """The second meter reads 12 % low, at one light that both read; at full its figure is brought up by as much."""
    half = replace(FULL, level_pct=50.0)
    tansy = both(
        lamp("Tansy", (FULL, 1000.0), (half, 500.0), meter="m1"),
        lamp("Tansy", (replace(FULL, cct_k=3200.0), 704.0), (half, 440.0), meter="m2"),
    )
    at_3200 = both(tansy, lamp("Tansy", (replace(FULL, cct_k=3200.0), 800.0), (FULL, 1000.0), meter="m1"))
    result = told(at_3200, cct=3200.0, meter=JOINED)
    (entry,) = result.entries
    assert entry.illuminance == pytest.approx(800.0)
    assert "2 meters (Spectrometer 2 brought to Spectrometer 1 by 2 lights that both read)" in entry.joined
    assert entry.level.shares["calibration of the meter"] == pytest.approx(METERS["m1"].level_tolerance / STOP)


def test_lamps_of_two_meters_are_brought_to_one_by_a_light_that_both_read():
    """One lamp an each meter; a window read with both ties them: 880 of the low meter are 1000 of the other."""
    low = both(lamp("Sorrel", (FULL, 880.0), meter="m2"))
    window = both(
        lamp("Window", (Terms(), 5000.0), kind="window", meter="m1"),
        lamp("Window", (Terms(), 4400.0), kind="window", meter="m2"),
    )
    result = told(lamp("Tansy", (FULL, 1000.0), (replace(FULL, level_pct=50.0), 500.0)), low, window, meter=JOINED)
    sorrel = result.entries[1]
    assert sorrel.illuminance == pytest.approx(1000.0) and sorrel.tie
    assert sorrel.joined == "Spectrometer 2 brought to Spectrometer 1 by one light that both read"
    assert "calibration of the meter" not in sorrel.ratio_estimate.shares
    apart = told(lamp("Tansy", (FULL, 1000.0), (replace(FULL, level_pct=50.0), 500.0)), low, window)
    assert apart.entries[1].illuminance == pytest.approx(880.0)


def test_without_a_light_that_both_read_each_meter_keeps_its_own_calibration():
    tansy = both(
        lamp("Tansy", (FULL, 1000.0), meter="m1", session="s1"),
        lamp("Tansy", (FULL, 1060.0), meter="m2", session="s2"),
    )
    (entry,) = told(tansy, meter=JOINED, session=JOINED).entries
    assert entry.illuminance == pytest.approx(math.sqrt(1000.0 * 1060.0))
    assert (
        entry.joined
        == "the mean of 2 sessions and 2 meters (no light was read with both Spectrometer 1 and Spectrometer 2)"
    )
    own = METERS["m1"].level_tolerance / STOP
    assert entry.level.shares["calibration of the meter"] == pytest.approx(own / math.sqrt(2.0))


def test_whites_are_joined_in_mired():
    tansy = both(
        lamp("Tansy", (FULL, 1000.0), session="s1", cct=5000.0), lamp("Tansy", (FULL, 1000.0), session="s2", cct=6000.0)
    )
    (entry,) = told(tansy, session=JOINED).entries
    assert entry.cct_k == pytest.approx(2.0 / (1 / 5000.0 + 1 / 6000.0))
    assert entry.white.mired == pytest.approx(1e6 / entry.cct_k - 1e6 / 5600.0)


def test_one_lamp_alone_may_be_joined():
    tansy = both(lamp("Tansy", (FULL, 1000.0), session="s1"), lamp("Tansy", (FULL, 1100.0), session="s2"))
    sorrel = lamp("Sorrel", (FULL, 2000.0), session="s1")
    result = told(sorrel, replace(tansy, own={"session": JOINED}))
    assert [len(e.readings) for e in result.entries] == [1, 2]
    assert "Tansy the mean of 2 sessions" in result.sentences[0] and "Sorrel the mean" not in result.sentences[0]


def test_a_meter_for_ratios_only_and_f_numbers_are_not_averaged_into_lux():
    meters = {**METERS, "m3": Meter("m3", "Phone", absolute=False)}
    tansy = both(
        lamp("Tansy", (FULL, 1000.0), session="s1"),
        lamp("Tansy", (FULL, 400.0), session="s2", meter="m3"),
        lamp("Tansy", (FULL, None), session="s3", f_stop=8.0),
    )
    result = compare.compare([tansy], {"session": JOINED, "meter": JOINED}, "Tansy", meters)
    (entry,) = result.entries
    assert entry.illuminance == pytest.approx(1000.0) and not entry.ratios_only


def test_joined_levels_cover_the_truth():
    """600 lamps read in three sessions with two meters, one of them bridged; errors drawn from other sizes than stated
    (uniform, not normal): the truth lies within the half width in 91 to 99.5 %."""
    rng = np.random.default_rng(20)
    hits = 0
    for _ in range(600):
        calibration = dict(zip(("m1", "m2"), rng.uniform(-0.05, 0.05, 2), strict=True))

        def seen(truth: float, meter: str, mark: float, calibration: dict[str, float] = calibration) -> float:
            return truth * (1.0 + calibration[meter]) * (1.0 + mark) * (1.0 + rng.uniform(-0.008, 0.008))

        marks = rng.uniform(-0.006, 0.006, 3)
        dim = replace(FULL, level_pct=50.0)
        bridge_mark = marks[1]
        tansy = both(
            lamp("Tansy", (FULL, seen(1000.0, "m1", marks[0])), session="s1", meter="m1"),
            lamp(
                "Tansy",
                (FULL, seen(1000.0, "m2", marks[1])),
                (dim, seen(500.0, "m2", bridge_mark)),
                session="s2",
                meter="m2",
            ),
            lamp("Tansy", (dim, seen(500.0, "m1", bridge_mark)), session="s2", meter="m1"),
            lamp("Tansy", (FULL, seen(1000.0, "m1", marks[2])), session="s3", meter="m1"),
        )
        (entry,) = told(tansy, session=JOINED, meter=JOINED).entries
        assert len(entry.readings) == 3
        hits += abs(entry.level.value - math.log2(1000.0)) <= entry.level.half_width
    assert 0.91 <= hits / 600 <= 0.995


def test_nothing_was_read_and_one_session_alone_say_nothing_of_joining():
    tansy = lamp("Tansy", (FULL, 1000.0))
    assert told(tansy, session=JOINED).entries[0].joined == ""
    nothing = told(tansy, session=JOINED, cct=3200.0).entries[0]
    assert nothing.joined == "" and nothing.why_not


def test_a_mean_of_estimates_of_one_cause_stays_as_sure_as_one():
    level = estimate.level(lamp("Tansy", (Terms(), 100.0)).readings, Meter("m", "M"))
    assert estimate.mean_of([level, level]).half_width == pytest.approx(level.half_width)
