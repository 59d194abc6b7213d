"""Circuits and batteries by the trade's check values; what is said never allows anything."""

from dataclasses import replace

import pytest

from even_beam.bench.records import Gear, Terms
from even_beam.known.matching.power import SupplyError, load_of, supply_of
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def lamp(number: int, **figures: float):
    return replace(evidence(read(number, FULL, **figures)), name=f"Lamp {number}")


@pytest.mark.parametrize(("volts", "amperes", "most"), [(120.0, 20.0, 12), (110.0, 21.8, 11)])
def test_sixteen_lamps_on_a_circuit_of_twenty(volts, amperes, most):
    """Check value 53 (common practice, no source): 16 x 150 VA are 20.0 A at 120 V and 21.8 A at 110 V; the 80 % line
    is 16 A, which twelve or eleven of them keep below."""
    supply = supply_of(f"20 A {volts:g} V")
    load = load_of([lamp(n, power_va=150.0) for n in range(16)], supply)
    assert load.amperes == pytest.approx(amperes, abs=0.05)
    assert load.line_a == 16.0
    assert load.passes_the_line
    assert "over the line of 16.0 A" in load.sentence
    assert not load_of([lamp(n, power_va=150.0) for n in range(most)], supply).passes_the_line
    assert load_of([lamp(n, power_va=150.0) for n in range(most + 1)], supply).passes_the_line
    for said in (load.sentence, load_of([lamp(1, power_va=150.0)], supply).sentence):
        assert "you can" not in said
        assert "safe" not in said
        assert "licensed electrician" in said


def test_a_battery_is_an_estimate_with_a_range():
    """Check value 54 (common practice, no source): 2 x 26 V x 12 Ah are 624 Wh, 2.1 h at 300 W."""
    supply = supply_of("2 x 26 V 12 Ah")
    assert supply.battery_wh == 624.0
    load = load_of([lamp(1, power_w=300.0)], supply)
    assert load.hours == pytest.approx((1.66, 2.08), abs=0.01)
    assert "about 1.7 to 2.1 h" in load.sentence
    assert "an estimate" in load.sentence


def test_the_highest_draw_counts_and_what_was_not_read_is_named():
    own = evidence(
        read(1, FULL, voltage_v=120.0, current_a=0.38),
        read(2, replace(FULL, cct_k=3700.0), voltage_v=120.0, current_a=0.385),
    )
    load = load_of([own, lamp(9, illuminance=100.0)], supply_of("16 A at 230 V"))
    assert load.draws[0].apparent_va == pytest.approx(46.2)  # check value 48: VA, not W
    assert "3700 K" in load.draws[0].terms
    assert load.unread == ("Lamp 9",)
    assert "Lamp 9: no draw was read" in load.sentence
    assert "No draw was read" in load_of([lamp(9, illuminance=1.0)], supply_of("16 A 230 V")).sentence


@pytest.mark.parametrize(
    "text", ["", "20", "20 A", "0 A 120 V", "0 Wh", "twenty A 120 V", "20 A 0 V", "-3 Wh", "nan Wh"]
)
def test_what_is_no_supply_is_said(text):
    with pytest.raises(SupplyError):
        supply_of(text)


def test_a_voltage_that_sags_under_load_is_said():
    """Check value 53 (common practice, no source): at 110 V the same lamps draw 21.8 A instead of 20.0."""
    lamps = [lamp(n, voltage_v=110.0, current_a=150.0 / 110.0) for n in range(16)]
    load = load_of(lamps, supply_of("20 A 120 V"))
    assert load.amperes == pytest.approx(20.0, abs=0.05)
    assert "Under load 110 V was read: at that they would be 21.8 A." in load.sentence
    assert "Under load" not in load_of(lamps, supply_of("20 A 110 V")).sentence


def test_a_surge_is_told_only_where_it_was_written_down():
    def with_surge(n, text):
        return replace(lamp(n, power_va=150.0), gear=(Gear("g", "m", "surge", text),) if text else ())

    supply = supply_of("16 A 230 V")
    assert "Start-up surge is unknown and not in it" in load_of([with_surge(1, "")], supply).sentence
    said = load_of([with_surge(1, "45 A for 5 ms"), with_surge(2, "")], supply).sentence
    assert "At start" in said and "45 A, as written down and not measured" in said and "it is unknown" in said
    assert "one after the other" in said and "licensed electrician" in said
    assert load_of([with_surge(1, "a lot")], supply).draws[0].surge_a is None
