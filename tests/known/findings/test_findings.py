"""Findings on the trade's check values (common practice, no source) and on closed forms."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from even_beam.bench.beam_angle import full_angle
from even_beam.bench.records import Claim, Event, EventKind, Meter, Terms
from even_beam.known.findings import beam, claims, colour, dimming, electrical, modifiers, output, tint, white, years
from even_beam.known.findings.claims import Even, Holds
from even_beam.known.findings.everything import findings_of
from even_beam.light.photometry import METRES_PER_FOOT, cone_solid_angle
from tests.known.findings.story import METER, START, evidence, read, series

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
FIXED = Terms(mode="fixed", level_pct=100.0, distance_m=2.0)


def named(found, name: str):
    return next(f for f in found if f.name == name)


def test_full_level_is_the_highest_that_says_what_is_asked():
    """A colour read at half level answers where full level has none; what was dimmed further does not."""
    dimmed = [replace(FULL, level_pct=level) for level in (100.0, 50.0, 25.0)]
    own = evidence(
        read(1, dimmed[0], illuminance=1000.0),
        read(2, dimmed[2], illuminance=250.0, cct=5500.0),
        read(3, dimmed[1], illuminance=500.0, cct=5590.0),
        read(4, dimmed[1], illuminance=501.0, cct=5600.0),
    )
    assert [m.reading.id for m in own.full_level_of(lambda m: m.has("cct"))] == ["r3", "r4"]
    assert [m.reading.id for m in own.full_level_of(lambda m: m.has("illuminance"))] == ["r1"]


# --- output


def test_a_level_with_its_spread_and_two_uncertainties():
    (found,) = output.levels(evidence(*series([FULL] * 4, "illuminance", (1000.0, 1010.0, 990.0, 1000.0))))
    assert found.value == pytest.approx(1000.0)
    assert found.spread == pytest.approx(20.0)
    assert found.readings == ("r1", "r2", "r3", "r4")
    assert 0.05 * 1000.0 < found.uncertainty < 0.06 * 1000.0
    assert found.ratio_uncertainty == pytest.approx(np.sqrt(2.0) * 0.025 / 2.0, rel=1e-3)  # the calibration cancels
    once = output.levels(evidence(read(1, FULL, illuminance=1000.0)))[0]
    assert any("repeatability" in text for text in once.not_covered)


def test_no_level_from_a_meter_for_ratios_only():
    own = evidence(read(1, FULL, illuminance=1000.0), meters={"m": replace(METER, absolute=False)})
    assert output.levels(own) == ()
    assert output.distance_law(own) == ()


def test_the_walk_of_the_trade():
    """Check values 4 and 8: 300, 450, 800, 1800 lx at 25, 20, 15, 10 ft follow the law; E d^2 is candela."""
    marks = {25: 300.0, 20: 450.0, 15: 800.0, 10: 1800.0}
    walk = [
        read(i, replace(FIXED, distance_m=ft * METRES_PER_FOOT), illuminance=lux)
        for i, (ft, lux) in enumerate(marks.items())
    ]
    (candela, *_) = output.distance_law(evidence(*walk))
    assert candela.value == pytest.approx(1800.0 * (10 * METRES_PER_FOOT) ** 2, rel=0.05)
    assert max(abs(r) for r in candela.series["residual_stops"]) < 0.1
    assert "10 ft to 25 ft" in candela.sentence
    assert any("nearer than 10 ft" in text for text in candela.not_covered)
    (single,) = output.distance_law(evidence(walk[3]))
    assert "alone" in single.sentence
    sixty_two = read(1, replace(FIXED, distance_m=10 * METRES_PER_FOOT), illuminance=62 * 10.763910417)
    assert output.distance_law(evidence(sixty_two))[0].value == pytest.approx(6200.0, rel=1e-3)


def test_flood_and_spot_against_the_solid_angles():
    """Check values 1 and 5: 20 and 62 fc are 1.63 stops; 15 to 8 degrees promise 3.51x, 50 to 15 promise 10.95x."""
    wide, tight = replace(FIXED, zoom="15°"), replace(FIXED, zoom="8°")
    found = output.focus_range(evidence(read(1, wide, illuminance=20.0), read(2, tight, illuminance=62.0)))
    assert named(found, "focus range").value == pytest.approx(1.632, abs=0.001)
    assert named(found, "light lost in focusing").value == pytest.approx(np.log2(3.51) - 1.632, abs=0.01)
    words = output.focus_range(
        evidence(
            read(1, replace(FIXED, zoom="flood"), illuminance=20.0),
            read(2, replace(FIXED, zoom="spot"), illuminance=62.0),
        )
    )
    assert len(words) == 1
    assert "not known" in words[0].not_covered[0]
    ratio = float(cone_solid_angle(50.0) / cone_solid_angle(15.0))
    assert ratio == pytest.approx(10.95, abs=0.01)


def test_a_beam_across_its_axis():
    """A Gaussian beam of 20 degrees half-peak: closed form for both angles; a uniform cone for its lumens."""
    angles = np.arange(0.0, 31.0, 2.0)
    share = 0.5 ** ((angles / 10.0) ** 2)
    section = [
        read(i, replace(FIXED, angle_deg=float(a)), illuminance=float(1000.0 * s), cct=5600.0 - 10.0 * a)
        for i, (a, s) in enumerate(zip(angles, share, strict=True))
    ]
    found = beam.beam_sections(evidence(*section))
    assert named(found, "beam angle").value == pytest.approx(20.0, abs=0.3)
    assert named(found, "field angle").value == pytest.approx(20.0 * np.sqrt(np.log2(10.0)), abs=0.5)
    assert named(found, "evenness").value == pytest.approx(50.0, abs=3.0)
    assert named(found, "colour at the edge").value == pytest.approx(1e6 / 5300.0 - 1e6 / 5600.0)
    flat = beam.lumens_within(np.array([0.0, 10.0, 20.0]), np.full(3, 1000.0), 30.0)
    assert flat == pytest.approx(1000.0 * float(cone_solid_angle(30.0)), rel=1e-4)
    narrow = beam.beam_sections(evidence(*section[:5]))
    assert named(narrow, "beam angle").value is None
    assert "beyond" in named(narrow, "beam angle").sentence
    both_sides = full_angle(np.array([-12.0, -8.0, 0.0, 8.0, 12.0]), np.array([0.2, 0.6, 1.0, 0.6, 0.2]), 0.5)
    assert both_sides == pytest.approx(18.0)


def test_exposure_states_its_constant():
    """Check values 41 and 44: 11 200 lx is f/30.9 at ISO 640, 1/30 s with C 250."""
    known = evidence(read(1, FULL, illuminance=11_200.0))
    (found,) = output.exposure(known, output.levels(known), 640.0, 1.0 / 30.0)
    assert found.value == pytest.approx(30.9, abs=0.05)
    assert "f/22 and 9 tenths" in found.sentence
    assert "C 250" in found.sentence


def test_flash_pops_in_stops():
    pops = [read(i, FIXED, f_stop=8.0 * 2.0 ** (s / 2.0)) for i, s in enumerate((0.0, 0.1, -0.05, 0.0, 0.05))]
    (found,) = electrical.flash_pops(evidence(*pops))
    assert found.value == pytest.approx(0.15)
    assert electrical.flash_pops(evidence(*pops[:3])) == ()


# --- white


def sweep(pairs: dict[float, float], duv=None) -> list:
    return [
        read(i, replace(FULL, cct_k=asked), cct=got, duv=0.0 if duv is None else duv(got))
        for i, (asked, got) in enumerate(pairs.items())
    ]


def test_a_mean_that_hides_a_change_of_sign():
    """Check values 22 and 23: signs flip along the range, and the mean says little."""
    found = white.white_errors(evidence(*sweep({2800: 2752, 3200: 3223, 4400: 4325, 5600: 5451, 6500: 6636})))
    whole = found[0]
    assert [round(m, 1) for m in whole.series["mired"]] == [6.2, -2.2, 3.9, 4.9, -3.2]
    assert whole.value == pytest.approx(1.9, abs=0.1)
    assert "as far as can be told (±7 mired): 5 whites" in whole.sentence
    far = evidence(*sweep({2800: 2700, 3200: 3400, 4400: 4200, 5600: 6000}))
    assert white.sign_changes(white.white_points(far, far.readings)) == 3
    near = evidence(*sweep({2800: 2700, 3200: 3205, 4400: 4200}))
    assert white.sign_changes(white.white_points(near, near.readings)) == 0  # what the meter cannot tell has no sign
    assert (
        "which a mean hides" in white.white_errors(evidence(*sweep({2800: 2700, 3200: 3350, 4400: 4200})))[0].sentence
    )


def test_bands_can_be_chosen_and_gaps_are_said():
    own = evidence(*sweep({2700: 2800, 3000: 3100, 5600: 5600, 6500: 6500}))
    found = white.white_errors(own, edges_k=(3500.0,))
    bands = [f for f in found[1:] if f.name.startswith("white")]
    assert [f.name for f in bands] == ["white error 2700 to 3000 K", "white error 5600 to 6500 K"]
    assert bands[0].value < -10.0
    assert bands[1].value == pytest.approx(0.0)
    assert "Duv 2700 to 3000 K" in [f.name for f in found]
    assert found[0].not_covered == ("between 3000 and 5600 K",)


def test_how_many_lie_beyond_a_limit():
    """Check value 28's kind of count: by size, both sides."""
    own = evidence(*sweep({5600: 5881, 5000: 4763, 3200: 3389, 4000: 4010}))
    points = white.white_points(own, own.readings)
    assert "2 of 4 whites are beyond 200 K" in white.white_errors(own)[0].sentence
    assert white.beyond(points, 200.0) == 2
    assert white.beyond(points, 100.0) == 3


def test_which_curve():
    """The daylight curve lies at Duv +0.0033 at 5600 K: check value 31 (calc)."""
    on_daylight = sweep({4500: 4500, 5600: 5600, 6500: 6500}, duv=lambda k: float(white_daylight(k)))
    assert white.curve(evidence(*on_daylight))[0].value == pytest.approx(1.0, abs=0.05)
    on_planckian = sweep({4500: 4500, 5600: 5600, 6500: 6500})
    assert white.curve(evidence(*on_planckian))[0].value == pytest.approx(0.0, abs=0.01)
    assert "half" not in white.curve(evidence(*on_planckian))[0].sentence


def white_daylight(cct: float) -> float:
    from even_beam.light.white import daylight_white

    return float(daylight_white(cct)[1])


def test_the_tint_dial_in_duv_per_step():
    steps = [
        read(i, replace(FULL, tint=t), duv=0.001 + 0.0016 * float(t), cct=5600.0)
        for i, t in enumerate(("-2", "-1", "0", "+1", "+2"))
    ]
    (found,) = tint.tint_dial(evidence(*steps))
    assert found.value == pytest.approx(0.0016)
    assert "zero lies at +0.0010" in found.sentence
    assert tint.dial_number("½ green") is None


def test_the_white_of_most_light():
    light = [
        read(i, replace(FULL, cct_k=k), illuminance=lux)
        for i, (k, lux) in enumerate({3200.0: 800.0, 4400.0: 1000.0, 5600.0: 900.0}.items())
    ]
    (found,) = white.peak_output(evidence(*light))
    assert found.value == 4400.0
    assert "0.32 stop less at 3200 K" in found.sentence


def test_equal_light_at_every_white_is_told_with_what_can_be_told():
    light = [read(i, replace(FULL, cct_k=k), illuminance=400.0) for i, k in enumerate((3200.0, 4400.0, 5600.0))]
    (found,) = white.peak_output(evidence(*light))
    assert "It gives as much light at every white read" in found.sentence and "±0.00" not in found.sentence


# --- dimming


def dimmed(law, levels=(100.0, 75.0, 50.0, 25.0, 10.0, 5.0, 1.0)):
    return evidence(
        *[read(i, replace(FULL, level_pct=p), illuminance=2000.0 * law(p / 100.0)) for i, p in enumerate(levels)]
    )


@pytest.mark.parametrize(
    ("law", "name", "exponent"),
    [
        (lambda d: d, "a linear law", 1.0),
        (lambda d: d**2, "a square law", 2.0),
        (lambda d: d**1.5, "a power of the dial", 1.5),
        (lambda d: d**0.88, "a power of the dial", 0.88),  # 0.8 stop above a linear law at 1 %
        (lambda d: 0.1 + 0.9 * d, "the dial in proportion above a floor of 10 %", None),
        (lambda d: np.maximum(d, 0.1), "the dial in proportion down to 10 %, then a floor of 10 %", None),
        (lambda d: (3.0 * d**2 - 2.0 * d**3) * 0.99 + 0.01, "an S", None),
    ],
)
def test_the_law_of_a_dimmer(law, name, exponent):
    found = named(dimming.law(dimmed(law)), "exponent of the dimmer")
    assert f"The dimmer follows {name}" in found.sentence
    if exponent is not None:
        assert found.value == pytest.approx(exponent, abs=1e-6)


def test_one_per_cent_that_gives_ten():
    """Check value 50: 1 % set and 10 % of the light is -3.32 stops, not -6.64."""
    found = named(dimming.law(dimmed(lambda d: 0.1 if d < 0.05 else d)), "true minimum")
    assert found.value == pytest.approx(-3.32, abs=0.005)
    assert found.not_covered == ("below 1 %",)


def test_drift_and_where_colour_is_noise():
    levels = {100.0: (2000.0, 5600.0), 10.0: (200.0, 5500.0), 0.3: (6.0, 4000.0)}
    own = evidence(
        *[
            read(i, replace(FULL, level_pct=p), illuminance=lux, cct=k, duv=0.001)
            for i, (p, (lux, k)) in enumerate(levels.items())
        ]
    )
    (drift,) = dimming.drift(own)
    assert drift.value == pytest.approx(1e6 / 5500 - 1e6 / 5600)  # the darkest is left out
    assert "too dim" in drift.not_covered[0]
    (noise,) = dimming.noise_floor(own)
    assert noise.value == 0.3


def test_settings_that_change_by_themselves():
    one = read(1, FULL, illuminance=100.0)
    event = Event("e", "s", 2, START, EventKind.LAMP_SHOWS, "r1", field="tint", old="+2", new="0")
    shown = replace(one, state=replace(one.state, displayed=(event,), as_taken=replace(FULL, tint="+2")))
    (found,) = dimming.changed_by_themselves(evidence(shown))
    assert "Asked for tint +2 it showed 0" in found.sentence


# --- modifiers


def test_a_gel_against_the_bare_lamp_and_the_rule():
    """Check value 14: full blue 0.35 of the light, -1.5 stop; the rule says half."""
    bare = read(1, FIXED, illuminance=1000.0, cct=3200.0, duv=0.0)
    gelled = read(2, replace(FIXED, configuration=("full blue gel",)), illuminance=350.0, cct=5500.0, duv=0.002)
    found = modifiers.matrix(evidence(bare, gelled))
    level = found[0]
    assert level.value == pytest.approx(0.35)
    assert "(−1.51 ±0.05 stops)" in level.sentence and "white −130.7 ±4.5 mired" in level.sentence
    assert found[1].value == pytest.approx(1e6 / 5500 - 1e6 / 3200)
    rule = next(f for f in found if "rule" in f.name)
    assert rule.value == pytest.approx(-0.51, abs=0.01)
    assert "a rule, not a measurement" in rule.sentence


@pytest.mark.parametrize(
    ("name", "stops"),
    [("full CTO", 1.0), ("half orange gel", 0.5), ("quarter CTB", 0.25), ("softbox", None), ("full plus green", None)],
)
def test_the_rule_is_for_conversions_alone(name, stops):
    assert modifiers.gel_rule(name) == stops


# --- colour


def test_samples_by_name_and_negative_ones():
    """Check value 35: sodium has negative samples; they are shown as they are."""
    sodium = read(1, FIXED, illuminance=500.0, ra=18.7, vectors={"R": (20.0,) * 8 + (-210.0,) + (10.0,) * 6})
    (weakest, skin) = colour.samples(evidence(sodium))
    assert weakest.value == -210.0
    assert "R9 −210 (strong red)" in weakest.sentence
    assert skin.value == 10.0


def test_hues_around_the_circle():
    """Check value 55: 60 -> 36, 180 -> 229, 300 -> 269 are -24, +49 and -31."""
    terms = Terms(mode="HSI", level_pct=100.0, saturation_pct=100.0)
    own = [
        read(i, replace(terms, hue_deg=float(a)), hue=float(b), saturation=90.0)
        for i, (a, b) in enumerate(((60, 36), (180, 229), (300, 269), (350, 4)))
    ]
    hue, saturation = colour.hue_dial(evidence(*own))
    assert [round(e) for e in hue.series["error_deg"]] == [-24, 49, -31, 14]
    assert saturation.value == -10.0


# --- electrical


def test_volt_amperes_are_not_watts():
    """Check value 48: 0.38-0.385 A at 120 V are 45.6-46.2 VA."""
    own = evidence(read(1, FIXED, voltage_v=120.0, current_a=0.38), read(2, FIXED, voltage_v=120.0, current_a=0.385))
    (found,) = electrical.power(own)
    assert found.unit == "VA"
    assert found.value == pytest.approx(45.9)
    assert "watts are not known" in found.sentence
    with_factor = electrical.watts_of(read(1, FIXED, voltage_v=120.0, current_a=0.38, power_factor=0.5))
    assert with_factor == pytest.approx(22.8)


def test_draw_depends_on_white():
    """Check value 49: 303.2 W at 3200 K, 341.2 W at 5600 K, 345.7 W at the most."""
    own = evidence(
        *[
            read(i, replace(FULL, cct_k=k), power_w=w, illuminance=1000.0)
            for i, (k, w) in enumerate({3200.0: 303.2, 4300.0: 345.7, 5600.0: 341.2}.items())
        ]
    )
    found = electrical.power(own)
    assert named(found, "most power").value == 345.7
    assert named(electrical.light_per_watt(own), "lux per watt").value == pytest.approx(1000.0 / 303.2)


def test_run_time_and_circuit():
    """Check values 53 and 54: 16 x 150 W are 20.0 A at 120 V, past the line of a 20 A circuit; 624 Wh are 2.1 h at 300
    W."""
    assert electrical.run_time_hours(2 * 26.0 * 12.0, 300.0) == pytest.approx(2.08)
    amperes, line, over = electrical.circuit_load([150.0] * 16, 120.0, 20.0)
    assert (amperes, line, over) == (20.0, 16.0, True)
    assert not electrical.circuit_load([150.0] * 12, 120.0, 20.0)[2]
    assert not electrical.circuit_load([150.0] * 11, 110.0, 20.0)[2]
    assert electrical.circuit_load([150.0] * 12, 110.0, 20.0)[2]
    with pytest.raises(ValueError, match="run time"):
        electrical.run_time_hours(0.0, 300.0)


# --- years and units


def test_ageing_names_the_meters_between():
    then = read(1, FULL, illuminance=1000.0, cct=5600.0, session="old")
    now = read(2, FULL, illuminance=800.0, cct=5400.0, session="new", meter="n", at=START + timedelta(days=400))
    own = evidence(then, now, meters={"m": METER, "n": Meter("n", "Other meter")})
    level, shift = years.ageing(own, {})
    assert level.value == pytest.approx(np.log2(0.8))
    assert "Spectrometer then and Other meter now" in level.sentence
    assert level.uncertainty > 0.1  # two calibrations stand between
    assert shift.value == pytest.approx(1e6 / 5400 - 1e6 / 5600)
    assert len(years.meter_changes(own)) == 1
    week = read(3, FULL, illuminance=900.0, session="new", at=START + timedelta(days=7))
    assert years.ageing(evidence(then, week), {}) == ()


def test_two_units_of_one_model():
    ours = evidence(read(1, FULL, illuminance=1000.0))
    theirs = evidence(read(2, FULL, illuminance=1100.0), name="Tansy 2")
    (found,) = years.unit_to_unit(ours, [theirs])
    assert found.value == pytest.approx(-0.1375, abs=1e-3)
    assert "darker than Tansy 2" in found.sentence


# --- claims


def claim(quantity: str, low: float, text: str = "", condition: str = "", high: float | None = None) -> Claim:
    return Claim(
        f"c {quantity}",
        "model",
        quantity,
        low,
        high if high is not None else low,
        "lx" if quantity == "illuminance" else "",
        text or f"{low:g}",
        condition,
    )


AT_1_M = replace(FULL, distance_m=1.0)


@pytest.mark.parametrize(("lux", "holds"), [(12_000.0, Holds.YES), (9800.0, Holds.CANNOT_TELL), (8000.0, Holds.NO)])
def test_a_level_that_is_claimed(lux, holds):
    own = evidence(
        read(1, AT_1_M, illuminance=lux),
        read(2, AT_1_M, illuminance=lux),
        claims=(claim("illuminance", 10_000.0, condition="at 1 m, full level"),),
    )
    (found,) = claims.claims(own)
    assert (found.even, found.holds) == (Even.EQUAL, holds)
    assert str(holds) in found.sentence


@pytest.mark.parametrize(
    ("whites", "holds", "reads"),
    [
        ({"s": 3190.0}, Holds.YES, 3190.0),
        ({"s": 3190.0, "late": 3120.0}, Holds.YES, 3190.0),  # a year later it cannot be told: nothing is taken back
        ({"late": 3120.0, "s": 3190.0}, Holds.YES, 3190.0),
        ({"s": 2905.0, "late": 2900.0}, Holds.NO, 2900.0),
        ({"s": 3190.0, "late": 2900.0}, Holds.CANNOT_TELL, 2900.0),  # one of them is wrong: both halves are told
        ({"s": 3120.0}, Holds.CANNOT_TELL, 3120.0),
    ],
)
@pytest.mark.parametrize("dialled", [None, 3200.0])
def test_a_white_that_is_claimed_is_judged_in_every_evening(whites, holds, reads, dialled):
    terms = replace(FULL, mode="CCT" if dialled else "fixed", cct_k=dialled)
    read_ = [read(i, terms, session=session, cct=k) for i, (session, k) in enumerate(whites.items(), start=1)]
    (found,) = claims.claims(evidence(*read_, claims=(claim("cct", 3200.0),)))
    assert found.holds is holds and found.value == pytest.approx(reads, abs=1.0)


def test_a_level_at_another_distance_cannot_be_told_without_a_walk():
    own = evidence(read(1, FULL, illuminance=4000.0), claims=(claim("illuminance", 10_000.0, condition="at 1 m"),))
    (found,) = claims.claims(own)
    assert (found.even, found.holds) == (Even.NOT_EQUAL, Holds.CANNOT_TELL)
    walk = [read(i, replace(FULL, distance_m=d), illuminance=16_000.0 / d**2) for i, d in enumerate((4.0, 3.0, 2.0))]
    brought = claims.claims(evidence(*walk, claims=(claim("illuminance", 1500.0, condition="at 3 m"),)))[0]
    assert (brought.even, brought.holds) == (Even.EQUAL, Holds.YES)
    farther = claims.claims(evidence(*walk, claims=(claim("illuminance", 500.0, condition="at 5 m"),)))[0]
    assert (farther.even, farther.holds) == (Even.BROUGHT, Holds.YES)
    inward = claims.claims(evidence(*walk, claims=(claim("illuminance", 10_000.0, condition="at 1 m"),)))[0]
    assert inward.even is Even.NOT_EQUAL  # never inward of the walk
    assert "nothing is brought inward" in inward.sentence


def test_power_15_per_cent_over_the_name_plate():
    """Check value 49: 345.7 W drawn by a lamp of the 300 W class."""
    own = evidence(read(1, FULL, power_w=345.7), claims=(claim("power_w", 300.0),))
    assert claims.claims(own)[0].holds is Holds.NO


def test_what_was_not_read_is_said():
    found = claims.claims(
        evidence(
            read(1, FULL, illuminance=1.0, cct=5600.0),
            claims=(claim("ra", 95.0), claim("cct", 2700.0, "2700 to 6500", high=6500.0)),
        )
    )
    assert [c.holds for c in found] == [Holds.CANNOT_TELL] * 2
    assert "not measurable" in found[0].sentence
    assert "2700 and 6500 K were not read" in found[1].sentence


def test_every_finding_names_its_readings_and_its_terms():
    own = evidence(
        *sweep({3200: 3223, 4400: 4325, 5600: 5451}),
        *[
            read(20 + i, replace(FULL, level_pct=p), illuminance=20.0 * p, cct=5500.0)
            for i, p in enumerate((100.0, 50.0, 10.0))
        ],
    )
    known = {m.reading.id for m in own.readings}
    found = findings_of(own)
    assert {f.question for f in found} >= {"output", "white", "dimming"}
    for finding in found:
        assert finding.readings
        assert set(finding.readings) <= known
        assert finding.sentence.endswith(".")


def test_a_typed_ssi_is_not_called_matched():
    (found,) = colour.scores(evidence(read(1, FULL, ssi=82.0, cct=5600.0)))
    assert found.name == "SSI (reference not stated)" and found.sentence.startswith("SSI (reference not stated) is 82")
    assert any("reference" in text for text in found.not_covered)


@pytest.mark.parametrize(
    ("scores", "told"),
    [
        ((93.9, 94.2), "Ra is 94 at each of 2 whites (±"),  # no range where the figures are the same as they are quoted
        ((91.0, 95.4), "Ra is 91 (3200 K) to 95 (5600 K) over 2 whites (±"),
    ],
)
def test_a_score_over_the_whites(scores, told):
    marks = [
        read(2 * i + n, replace(FULL, cct_k=k), ra=v)
        for n in (0, 1)
        for i, (k, v) in enumerate(zip((3200.0, 5600.0), scores, strict=True), start=1)
    ]
    found = next(f for f in colour.scores(evidence(*marks)) if f.name == "Ra")
    assert found.sentence.startswith(told)
