"""Uncertainty part by part, against closed forms and against brute force."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from even_beam.bench import estimate
from even_beam.bench.estimate import Estimate, Part, scatter
from even_beam.bench.records import Origin, Terms, Value
from even_beam.words.quantities import QUANTITIES
from tests.known.findings.story import METER, read

sizes = st.floats(-2.0, 2.0)
parts = st.lists(st.builds(Part, st.just("p"), st.sampled_from("abcd"), sizes), max_size=6).map(tuple)


@given(parts, parts)
def test_a_difference_is_what_drawing_its_causes_gives(ours, theirs):
    """GUM equation 13 by brute force: every cause is one standard normal, drawn once for both."""
    difference = Estimate(3.0, ours).less(Estimate(1.0, theirs))
    coefficients = dict.fromkeys("abcd", 0.0)
    for sign, own in ((1.0, ours), (-1.0, theirs)):
        for part in own:
            coefficients[part.cause] += sign * part.size
    assert difference.value == 2.0
    assert difference.half_width == pytest.approx(np.linalg.norm(list(coefficients.values())))


@given(parts)
def test_what_is_common_to_both_cancels_wholly(own):
    one = Estimate(5.0, own)
    assert one.less(one).half_width == pytest.approx(0.0, abs=1e-12)
    assert one.less(one).value == 0.0


@given(parts, st.integers(2, 5))
def test_a_mean_of_the_same_is_no_surer(own, count):
    one = Estimate(5.0, own)
    assert estimate.mean_of([one] * count).half_width == pytest.approx(one.half_width)


def test_a_mean_of_independent_ones_is_surer_by_the_root():
    many = [Estimate(1.0, (Part("p", place, 0.4),)) for place in range(4)]
    assert estimate.mean_of(many).half_width == pytest.approx(0.2)


def test_a_mean_needs_values():
    for nothing in ([], [Estimate(1.0), Estimate(None, (), 2.0)]):
        with pytest.raises(ValueError):
            estimate.mean_of(nothing)


def test_bounds_are_carried_through_a_difference():
    found = Estimate(None, (), 99.0, None).less(Estimate(90.0))
    assert (found.value, found.low, found.high) == (None, 9.0, None)
    turned = Estimate(90.0).less(Estimate(None, (), 99.0, None))
    assert (turned.low, turned.high) == (None, -9.0)


@pytest.mark.parametrize("freedom", [1, 3, 9])
def test_student_against_the_distribution_itself(freedom):
    """GUM annex G.3: the t of 95 %, two-sided."""
    assert estimate.student(freedom) == pytest.approx(stats.t.ppf(0.975, freedom))


def share_within(repeats: int, true: float, promised: float, half) -> float:
    random = np.random.default_rng(repeats)
    seen = random.normal(1.0, true / 1.96, (800, repeats))
    return float(np.mean([abs(own.mean() - 1.0) <= half(own, promised) for own in seen]))


@pytest.mark.parametrize("repeats", [1, 2, 3, 5, 8])
def test_the_mean_of_repeats_lies_within_its_scatter(repeats):
    assert 0.93 <= share_within(repeats, 0.02, 0.02, scatter) <= 0.985


@pytest.mark.parametrize(("repeats", "least"), [(3, 0.8), (5, 0.86), (8, 0.91)])
def test_a_lamp_that_scatters_more_than_promised_is_seen_to(repeats, least):
    """Two and a half times as much: few repeats cannot show it each time, but the promise alone would be far worse."""
    found = share_within(repeats, 0.05, 0.02, scatter)
    promise_alone = share_within(repeats, 0.05, 0.02, lambda own, promised: promised / len(own) ** 0.5)
    assert found >= least > promise_alone + 0.2


def level_of(lux: float, **terms: object) -> Estimate:
    at = Terms(**{"cct_k": 5600.0, "level_pct": 100.0, "distance_m": 2.0, **terms})
    return estimate.level([read(1, at, illuminance=lux)], METER, 60.0)


def test_each_part_of_a_level_is_as_its_formula():
    """Distance: 2 dd/d of the light; aim: a cosine-like fall of the beam, half at half its angle."""
    shares = level_of(1000.0).shares
    per_stop = np.log(2.0)
    assert shares["distance of the mark"] * per_stop == pytest.approx(2.0 * estimate.DISTANCE_M / 2.0)
    assert shares["reference plane"] * per_stop == pytest.approx(2.0 * estimate.PLANE_M / 2.0)
    assert shares["aim"] == pytest.approx((estimate.AIM_DEG / 30.0) ** 2)
    assert shares["calibration of the meter"] * per_stop == pytest.approx(METER.level_tolerance)


def test_nothing_is_known_of_a_mark_that_was_not_stated():
    assert "distance of the mark" not in level_of(1000.0, distance_m=None).shares


def test_nothing_is_brought_inward():
    first = read(1, Terms(distance_m=2.0), illuminance=1000.0)
    one = estimate.level([first], METER)
    outward = estimate.bring(one, first, 4.0)
    assert outward.value == pytest.approx(one.value - 2.0)
    assert outward.half_width > one.half_width
    with pytest.raises(ValueError):
        estimate.bring(one, first, 1.0)


def test_scatter_is_the_promise_until_chance_hardly_explains_it():
    """By hand: two readings 8 % apart of a meter that promises 1.5 %, their variance pooled with two of the promise."""
    assert estimate.scatter([1.0], 0.015) == 0.015
    assert estimate.scatter([1.0, 1.0, 1.0, 1.0], 0.015) == pytest.approx(0.015 / 2.0)
    expected, own = 0.015 / 1.96, 0.08**2 / 2.0
    pooled = math.sqrt((2.0 * expected**2 + own) / 3.0)
    assert estimate.scatter([0.96, 1.04], 0.015) == pytest.approx(stats.t.ppf(0.975, 3) * pooled / math.sqrt(2.0))
    many = [1.0, 1.1, 0.9, 1.05, 0.95, 1.0]
    student = stats.t.ppf(0.975, 5) * np.std(many, ddof=1) / math.sqrt(6.0)  # no prior is left with six
    assert estimate.scatter(many, 0.015) == pytest.approx(student)


@pytest.mark.parametrize(
    ("text", "lux", "digit_lx"),
    [("820", 820.0, 1.0), ("820.5 lx", 820.5, 0.1), ("1.6k", 1600.0, 100.0), ("80 fc", 80 * 10.763910417, 10.763910417),
     ("1,600", 1600.0, 1.0)],
)  # fmt: skip
def test_a_typed_level_is_good_to_its_last_digit(text, lux, digit_lx):
    one = read(1, Terms(distance_m=2.0), values=(Value("illuminance", lux, Origin.TYPED, text=text),))
    parts = {p.name: p.size for p in estimate.level([one], METER).parts}
    assert parts["rounding of what was typed"] == pytest.approx(0.95 * 0.5 * digit_lx / lux / math.log(2.0))


def test_what_a_device_gave_is_not_rounded():
    one = read(1, Terms(distance_m=2.0), values=(Value("illuminance", 820.0, Origin.DEVICE, text="820"),))
    assert "rounding of what was typed" not in {p.name for p in estimate.level([one], METER).parts}


def test_constants_that_practice_gives():
    """Marks and planes to a centimetre, aim to two degrees, a source within 30 cm (common practice, no source)."""
    assert (estimate.DISTANCE_M, estimate.PLANE_M, estimate.AIM_DEG, estimate.ORIGIN_M) == (0.01, 0.01, 2.0, 0.3)
    assert QUANTITIES["r8"].half_typed == 3.0
    one = read(1, Terms(distance_m=2.0), illuminance=800.0)
    narrow, wide = (estimate.level([one], METER, beam).parts for beam in (20.0, 60.0))
    aim = [next(p.size for p in parts if p.name == "aim") for parts in (narrow, wide)]
    assert aim[0] == pytest.approx(9.0 * aim[1])  # second order in the angle
    assert aim[1] == pytest.approx((2.0 / 30.0) ** 2)  # half at the half angle: ln 2 of it, in stops one


def test_bounds_of_a_score_hold_only_when_all_are_bounded():
    at_least = read(1, Terms(), values=(Value("ra", None, Origin.TYPED, 95.0, None, text="95+"),))
    between = read(2, Terms(), values=(Value("ra", None, Origin.TYPED, 93.0, 97.0, text="93 to 97"),))
    both = estimate.score([at_least, between], "ra", METER)
    assert (both.value, both.low, both.high) == (None, 93.0, None)
    assert estimate.score([between], "ra", METER).high == 97.0


def test_shares_are_told_the_largest_first():
    found = Estimate(1.0, (Part("small", 1, 0.1), Part("large", 2, 0.5), Part("middle", 3, -0.3)))
    assert list(found.shares) == ["large", "middle", "small"]
    assert found.half_width == pytest.approx(math.sqrt(0.1**2 + 0.5**2 + 0.3**2))
    opposed = Estimate(1.0, (Part("a", 1, 0.4), Part("b", 1, -0.4)))
    assert opposed.half_width == 0.0


def test_bounds_of_a_level_hold_only_when_all_are_bounded():
    above = read(1, Terms(), values=(Value("illuminance", None, Origin.TYPED, 100.0, None, text=">100"),))
    within = read(2, Terms(), values=(Value("illuminance", None, Origin.TYPED, 80.0, 120.0, text="80 to 120"),))
    both = estimate.level([above, within], METER)
    assert (both.value, both.low, both.high) == (None, pytest.approx(math.log2(80.0)), None)
    alone = estimate.level([within], METER)
    assert alone.high == pytest.approx(math.log2(120.0))
    assert estimate.level([above], METER).high is None


def test_parts_of_what_is_brought_and_of_an_f_number():
    """A source within 30 cm: 2 s (1/d - 1/D) of the light; f-numbers to half a tenth, at 95 % of a flat spread."""
    first = read(1, Terms(distance_m=2.0), illuminance=1000.0)
    brought = estimate.bring(estimate.level([first], METER), first, 4.0)
    assert brought.shares["distance law"] == pytest.approx(2.0 * 0.3 * (1 / 2 - 1 / 4) / math.log(2.0))
    stops = estimate.exposure([read(1, Terms(), f_stop=8.0)], METER)
    assert stops.value == pytest.approx(6.0)
    assert stops.shares["rounding to tenths"] == pytest.approx(0.95 * 0.05)


def test_a_tint_without_its_white_is_reckoned_at_daylight():
    bare, stated = (estimate.tint([read(1, Terms(), duv=0.002, **white)], METER) for white in ({}, {"cct": 5600.0}))
    warm = estimate.tint([read(1, Terms(), duv=0.002, cct=2700.0)], METER)
    assert bare.half_width == pytest.approx(stated.half_width)
    assert abs(warm.half_width - stated.half_width) > 1e-6
