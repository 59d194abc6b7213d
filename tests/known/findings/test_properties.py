"""What must hold of findings for any readings: recovered lines, inverses, and answers that do not depend on units of
scale."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from even_beam.bench.records import Meter, Terms
from even_beam.bench.watts import Drawn, watt_hints
from even_beam.known.findings import dimming, electrical, output, repeatability, tint, white
from even_beam.known.value import Priced, diminishing
from even_beam.light.photometry import cycles_per_exposure
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
levels = st.floats(1.0, 1e5)


@given(st.floats(0.3, 1.6), st.floats(-40.0, 40.0))
def test_the_slope_of_the_dial_is_recovered(slope, offset):
    """A lamp whose white is a line in mired of what is dialled: least squares gives that line back."""
    whites = (2700.0, 3200.0, 4300.0, 5600.0, 6500.0)
    read_mired = [slope * (1e6 / k - 200.0) + 200.0 + offset for k in whites]
    assume(min(read_mired) > 60.0)
    marks = [
        read(i, replace(FULL, cct_k=k), cct=1e6 / m) for i, (k, m) in enumerate(zip(whites, read_mired, strict=True))
    ]
    (found,) = white.dial_slope(evidence(*marks))
    assert found.value == pytest.approx(slope, abs=1e-6)
    for advice in found.sentence.partition("; dial ")[2].rstrip(".").split(", "):
        if advice:
            dial, _, wanted = (part.strip() for part in advice.partition(" for "))
            gives = 1e6 / (slope * (1e6 / float(dial) - 200.0) + 200.0 + offset)
            assert 1e6 / gives == pytest.approx(1e6 / float(wanted.removesuffix(" K")), abs=1.0)


@given(st.floats(3.0, 40.0), st.floats(20.0, 90.0))
def test_taking_the_room_off_undoes_adding_it(above, room):
    """Levels add by their energy; taken off again, the lamp's own is what it was."""
    own = room + above
    both = 10.0 * np.log10(10.0 ** (own / 10.0) + 10.0 ** (room / 10.0))
    assert electrical.without_room(float(both), room) == pytest.approx(own, abs=1e-6)


@given(st.lists(st.tuples(st.floats(10.0, 5000.0), levels), min_size=3, max_size=7), st.floats(0.1, 10.0))
def test_watt_hints_do_not_depend_on_the_unit_of_light(lamps, factor):
    drawn = [Drawn(str(i), watts, level) for i, (watts, level) in enumerate(lamps)]
    scaled = [replace(one, level=one.level * factor) for one in drawn]
    for a, b in zip(watt_hints(drawn, "0"), watt_hints(scaled, "0"), strict=True):
        assert a.expected_stops == b.expected_stops
        assert a.off_stops == pytest.approx(b.off_stops, abs=1e-9)
    assert 2 * sum(hint.odd for hint in watt_hints(drawn, "0")) < len(drawn)  # the odd ones are few


@given(st.lists(st.tuples(st.floats(10.0, 1e4), st.floats(100.0, 1e5)), min_size=1, max_size=8))
def test_no_cheaper_lamp_outshines_the_one_beyond_which_money_buys_little(lamps):
    priced = [Priced(str(i), i, price, "EUR", "lamp", candela, None, ()) for i, (price, candela) in enumerate(lamps)]
    knee = diminishing(priced)
    if knee is not None:
        assert not any(p.price < knee.price and p.candela >= knee.candela for p in priced)
        assert any(p.price > knee.price for p in priced)


@given(st.floats(-30.0, 30.0), st.floats(2500.0, 8000.0))
def test_cast_and_filter_are_each_others_opposite(cc, kelvin):
    cast, needed = (
        tint.duv_of_meter_cc(Meter("m", "M", cc_sign=sign), cc, kelvin) for sign in ("cast", "filter needed")
    )
    assert tint.duv_of_meter_cc(Meter("m", "M"), cc, kelvin) is None
    assert np.sign(cast) == np.sign(cc) or abs(cc) < 1e-6
    assert np.sign(needed) == -np.sign(cc) or abs(cc) < 1e-6


@given(levels, st.lists(st.floats(-0.004, 0.004), min_size=1, max_size=6))
def test_a_mean_lies_within_its_readings_and_more_that_agree_tell_more(level, scatter):
    values = [level * (1.0 + off) for off in scatter]
    (found,) = output.levels(evidence(*(read(i, FULL, illuminance=v) for i, v in enumerate(values))))
    assert min(values) * (1 - 1e-12) <= found.value <= max(values) * (1 + 1e-12)
    assert found.spread == pytest.approx(max(values) - min(values))
    (once,) = output.levels(evidence(read(0, FULL, illuminance=found.value)))
    assert found.uncertainty <= once.uncertainty * (1 + 1e-9)
    assert found.ratio_uncertainty <= once.ratio_uncertainty * (1 + 1e-9)


@given(st.floats(0.6, 2.4))
def test_the_exponent_of_a_dimmer_is_recovered(exponent):
    """Output as a power of the dial (closed form)."""
    dial = (100.0, 75.0, 50.0, 25.0, 10.0)
    marks = [
        read(i, replace(FULL, level_pct=d), illuminance=10_000.0 * (d / 100.0) ** exponent) for i, d in enumerate(dial)
    ]
    (curve,) = dimming.curves(evidence(*marks))
    assert np.exp2(curve.got[curve.dial_pct == 50.0]) == pytest.approx(0.5**exponent, rel=1e-9)
    found = next(f for f in dimming.law(evidence(*marks)) if f.name == "exponent of the dimmer")
    assert found.value == pytest.approx(exponent, abs=1e-6)


@given(st.lists(st.tuples(levels, st.floats(-0.02, 0.02)), min_size=3, max_size=12))
def test_repeats_are_never_less_than_nothing_apart(pairs):
    marks = []
    for i, (level, off) in enumerate(pairs):
        terms = replace(FULL, level_pct=100.0 - i)
        marks += [read(2 * i, terms, illuminance=level), read(2 * i + 1, terms, illuminance=level * 2.0**off)]
    (found,) = repeatability.repeatability(evidence(*marks))
    apart = [abs(off) for _, off in pairs]
    assert found.value == pytest.approx(np.mean(apart), abs=1e-9)
    assert found.spread == pytest.approx(max(apart), abs=1e-9)


@given(st.floats(1.0, 1e6), st.floats(1e-5, 1.0))
def test_cycles_are_frequency_times_time(hertz, seconds):
    assert float(cycles_per_exposure(hertz, seconds)) == pytest.approx(hertz * seconds)
    assert float(cycles_per_exposure(2.0 * hertz, seconds / 2.0)) == pytest.approx(hertz * seconds)
