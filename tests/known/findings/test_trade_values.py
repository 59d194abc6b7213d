"""More of the trade's check values (common practice, no source): dial slope, repeats, CC, flicker, noise, run time."""

from dataclasses import replace

import pytest

from even_beam.bench.records import Claim, Meter, Terms
from even_beam.known.findings import electrical, modifiers, repeatability, tint, white
from even_beam.light.filters import duv_of_cc
from even_beam.light.photometry import stops
from tests.known.findings.story import METER, evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
CLAIMED = Claim("c", "model", "cct", 2700.0, 6500.0, "K", "2700 to 6500 K")


def test_how_far_the_dial_moves_the_white():
    """Check value 30: with a reflector the dial at 5600 gives 6049 K, at 5100 gives 5591 K: 0.77 mired a mired."""
    marks = [
        read(i, replace(FULL, cct_k=k), cct=read_k)
        for i, (k, read_k) in enumerate(((5600.0, 6049.0), (5100.0, 5591.0)))
    ]
    (found,) = white.dial_slope(evidence(*marks))
    assert found.value == pytest.approx(0.773, abs=0.001)
    dial = next(f for f in white.what_to_dial(evidence(*marks)) if f.name == "what to dial for 5600 K")
    assert "Dial 5110 (5100 on a dial in hundreds) for 5600 K" in dial.sentence
    assert dial.value == pytest.approx(5108.0, abs=5.0)
    other = read(9, replace(FULL, cct_k=5600.0, configuration=("softbox",)), cct=5200.0)
    # another configuration says nothing of it
    assert white.what_to_dial(evidence(*marks, other))[0].value == dial.value
    assert white.dial_slope(evidence(*marks[:1])) == ()


def test_the_first_reading_says_what_to_try_and_the_second_what_to_dial():
    """Check value 30 as it is read: after 5600 gave 6049 K, the setting worth reading next; after it was read, the
    answer."""
    first = read(1, replace(FULL, cct_k=5600.0), cct=6049.0)
    (guess,) = white.what_to_dial(evidence(first))
    assert guess.name == "what to try for 5600 K" and guess.value is None
    assert guess.sentence.startswith("For 5600 K try 5200 and read it: of what was read 5600 comes nearest and gives 6")
    second = read(2, replace(FULL, cct_k=5200.0), cct=5591.0)
    names = {f.name for f in white.what_to_dial(evidence(first, second))}
    assert "what to dial for 5600 K" in names and "what to try for 5600 K" not in names


@pytest.mark.parametrize(
    ("gave", "tried"),
    [
        (5250.0, 6000.0),  # cooler: 12 mired
        (5590.0, None),  # the meter cannot tell it from what is wanted
        (4000.0, None),  # farther off than anybody should guess
    ],
)
def test_what_to_try_is_a_small_step_beyond_what_was_read(gave, tried):
    own = evidence(read(1, FULL, cct=gave), claims=(CLAIMED,))
    found = [f for f in white.what_to_dial(own) if f.name == "what to try for 5600 K"]
    assert [f"try {tried:.0f} and" in f.sentence for f in found] == ([True] if tried else [])
    narrow = evidence(read(1, FULL, cct=gave), claims=(replace(CLAIMED, high=5600.0),))
    assert not [f for f in white.what_to_dial(narrow) if f.name == "what to try for 5600 K"], "the dial ends at 5600"


def test_a_lamp_that_hardly_follows_its_dial_is_told_nothing_to_try():
    """2700 gives 5000 K and 6500 gives 6200 K: 5600 lies between them, and no dial leads there."""
    own = evidence(read(1, replace(FULL, cct_k=2700.0), cct=5000.0), read(2, replace(FULL, cct_k=6500.0), cct=6200.0))
    assert not [f for f in white.what_to_dial(own) if "5600" in f.name]


def test_no_tint_is_told_by_the_curve_it_is_nearest_to():
    """D55 lies 0.0033 above the Planckian and 0.000 from daylight (CIE 15)."""
    (found,) = tint.tint(evidence(read(1, FULL, cct=5503.0, duv=0.0037)))
    assert found.sentence.startswith("It has no tint that this meter can tell from none (Duv +0.0037, ±")


def test_repeats_tell_what_meter_lamp_and_hand_leave_open():
    """Check value 29: 42 pairs that differ by 0 to 6 K, 1.6 K on the mean."""
    differences = [0, 1, 2, 1, 3, 0, 6] * 6  # 42, mean 13/7
    differences[:7] = [0, 1, 2, 1, 2, 0, 1]
    differences[7:14] = [0, 1, 1, 0, 2, 0, 1]
    pairs = []
    for i, apart in enumerate(differences):
        terms = replace(FULL, cct_k=2700.0 + 50.0 * i)
        pairs += [
            read(2 * i, terms, cct=5000.0, illuminance=1000.0),
            read(2 * i + 1, terms, cct=5000.0 + apart, illuminance=1010.0),
        ]
    kelvin, level = repeatability.repeatability(evidence(*pairs))
    assert kelvin.value == pytest.approx(sum(differences) / 42.0)
    assert 1.4 < kelvin.value < 1.8
    assert kelvin.spread == 6.0
    assert "42 pairs" in kelvin.sentence
    assert level.value == pytest.approx(float(stops(1.01)))
    assert repeatability.repeatability(evidence(*pairs[:4])) == ()


def test_a_meters_cc_is_translated_only_when_its_sign_is_known():
    """Check value 33: 4 M (CC) at 2970 K: some meters show the cast, others the filter needed."""
    reading = read(1, replace(FULL, cct_k=3200.0), cct=2970.0, cc=-4.0)
    (kept,) = tint.cc_figures(evidence(reading))
    assert kept.unit == "CC" and kept.value == -4.0 and "as typed" in kept.sentence
    assert any("cast or the filter" in text for text in kept.not_covered)
    cast = Meter("m", "Meter", cc_sign="cast")
    needed = Meter("m", "Meter", cc_sign="filter needed")
    (as_cast,) = tint.cc_figures(evidence(reading, meters={"m": cast}))
    (as_filter,) = tint.cc_figures(evidence(reading, meters={"m": needed}))
    assert as_cast.value < 0.0 and as_cast.value == pytest.approx(float(duv_of_cc(-4.0, 2970.0)))
    assert as_filter.value > 0.0
    assert tint.cc_figures(evidence(read(1, FULL, cct=5600.0, duv=0.001, cc=1.0))) == ()


def test_cycles_in_an_exposure():
    """Check value 51: 25 kHz is 3.1 cycles in 1/8000 s and 25 in 1/1000 s; alone it is no verdict."""
    (found,) = electrical.flicker(evidence(read(1, FULL, flicker_hz=25_000.0)), 0.02)
    assert found.series["cycles"] == pytest.approx((500.0, 25.0, 3.125))
    assert "25 cycles in 1/1000 s, 3.1 cycles in 1/8000 s" in found.sentence
    assert any("decide whether a camera shows it" in text for text in found.not_covered)


def test_noise_against_the_room():
    """Two equal sources are 3 dB louder than one (closed form: levels add by their energy)."""
    assert electrical.without_room(43.0103, 40.0) == pytest.approx(40.0, abs=1e-4)
    assert electrical.without_room(42.0, 40.0) is None
    room = read(1, Terms(mode="off", distance_m=1.0), sound_db=28.0)
    lamp = read(2, replace(FULL, distance_m=1.0), sound_db=38.5)
    (found,) = electrical.noise(evidence(room, lamp))
    assert found.value == pytest.approx(38.5)
    assert "+10.5 dB against the room alone (28.0 dB): 38.1 dB the lamp's own" in found.sentence
    (alone,) = electrical.noise(evidence(lamp))
    assert alone.not_covered and "the room's own sound in it" in alone.sentence
    (near,) = electrical.noise(evidence(room, read(2, replace(FULL, distance_m=1.0), sound_db=29.0)))
    assert "too little to tell" in near.sentence


def test_run_time_is_told_for_the_battery_and_the_highest_draw():
    """Check value 54's battery, 624 Wh at 300 W: 2.1 h, an estimate."""
    own = evidence(read(1, FULL, power_w=300.0), read(2, replace(FULL, cct_k=3200.0), power_w=260.0))
    (found,) = electrical.run_time(own, 624.0)
    assert found.value == pytest.approx(2.08)
    assert found.sentence.startswith("It runs 2 h 05 min from 624 Wh at 300 W") and "estimate" in found.sentence
    assert electrical.run_time(own, None) == ()
    assert electrical.run_time(evidence(read(1, FULL, illuminance=10.0)), 98.0) == ()


def test_a_statement_of_stops_and_lux_is_consistent():
    """Check value 46: half a stop and 4000 lx more is 9657 and 13 657 lx, and no other pair."""
    lower = 4000.0 / (2.0**0.5 - 1.0)
    assert lower == pytest.approx(9657.0, abs=1.0)
    assert float(stops(13_657.0 / 9657.0)) == pytest.approx(0.5, abs=1e-4)


def test_bands_are_cut_at_the_edges_asked_for():
    marks = [read(i, replace(FULL, cct_k=k), cct=k + 50.0) for i, k in enumerate((2700.0, 3200.0, 4000.0, 5000.0))]
    names = [f.name for f in white.white_errors(evidence(*marks), (3200.0, 4500.0))]
    assert names == ["white error", "white error 3200 to 4000 K"]  # a single white makes no band
    assert METER.id == "m"


def test_how_wide_a_modifier_makes_the_beam():
    """A Gaussian beam falls to half at its half width: closed form, both sides from one."""
    marks, number = [], 0
    for configuration, half_width in (((), 30.0), (("softbox",), 45.0)):
        for angle in range(0, 90, 15):
            number += 1
            level = 1000.0 * 0.5 ** ((angle / half_width) ** 2)
            marks.append(
                read(number, replace(FULL, configuration=configuration, angle_deg=float(angle)), illuminance=level)
            )
    (found,) = modifiers.beam_spread(evidence(*marks))
    assert found.name == "softbox against bare, beam"
    assert found.value == pytest.approx(30.0, abs=0.5)
    assert "90° wide at half its peak, with bare 60°" in found.sentence
    assert len(found.readings) == 12
    assert modifiers.beam_spread(evidence(*marks[:6])) == ()
