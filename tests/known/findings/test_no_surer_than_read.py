"""Conclusions with a right to be drawn: how often a lamp that is the same is called another, and what repeats that
disagree give. Truth and scatter are drawn here, not by the program."""

import re
from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from even_beam.bench import estimate
from even_beam.bench.measured import Measured
from even_beam.bench.records import Terms
from even_beam.bench.run import ReadingState
from even_beam.bench.terms import said_of
from even_beam.known.evidence import mean_of
from even_beam.known.findings import dimming, modifiers, output, white, years
from even_beam.known.findings.everything import findings_of
from even_beam.light.colorimetry import cct_and_duv
from even_beam.light.white import daylight_white
from tests.known.findings.story import METER, START, evidence, read, series

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
WHITES = (2700.0, 3200.0, 4300.0, 5600.0, 6500.0)
DRAWS = 200


# --- repeats that disagree


@pytest.mark.parametrize(
    ("levels", "stand"),
    [
        ((1000.0, 1004.0), (0, 1)),
        ((1000.0, 10010.0), ()),
        ((1000.0, 10010.0, 1004.0, 1002.0), (0, 2, 3)),
        ((690.0, 800.0, 470.0, 860.0), ()),
        ((100.0, 100.0, 200.0, 200.0), ()),
        ((500.0,), (0,)),
    ],
)
def test_most_repeats_stand_where_they_agree_and_none_where_nothing_tells(levels, stand):
    assert estimate.agreeing(levels) == stand


def test_one_slip_among_repeats_is_left_out_at_every_door():
    own = evidence(*series([FULL] * 4, "illuminance", (806.0, 8100.0, 811.0, 809.0)))
    (level,) = output.levels(own)
    assert level.value == pytest.approx(808.67, abs=0.01) and len(level.readings) == 3
    (told,) = output.disagreeing(own)
    assert told.sentence.startswith("A reading of 8\u202f100 lx disagrees with 3 others and is left out, at bare")
    assert mean_of(own.readings, "illuminance") == pytest.approx(level.value)


def test_repeats_of_which_nothing_tells_the_right_one_give_no_level():
    own = evidence(*series([FULL] * 2, "illuminance", (806.0, 8100.0)))
    assert output.levels(own) == () and output.distance_law(own) == ()
    (told,) = output.disagreeing(own)
    assert "disagree: no level is stated before one more is read" in told.sentence
    assert told.value is None and told.not_covered == ("the level at these terms",)
    assert mean_of(own.readings, "illuminance") is None
    both = estimate.level(own.readings, own.meter_of(own.readings[0]))
    assert both.value is None and (2.0**both.low, 2.0**both.high) == pytest.approx((806.0, 8100.0))
    findings_of(own)  # no other question falls over it


def test_whites_of_repeats_are_one_figure_in_mired():
    own = series([FULL] * 2, "cct", (5000.0, 6000.0))
    assert mean_of(own, "cct") == pytest.approx(1e6 / ((1e6 / 5000 + 1e6 / 6000) / 2))


# --- terms


def test_a_turned_tint_is_said_where_the_white_is_not():
    turned = replace(FULL, tint="+30")
    assert "tint +30" in said_of(turned, "cct") and "tint +30" in said_of(turned)
    assert "tint" not in said_of(turned, "cct", "tint")
    assert said_of(replace(FULL, cct_k=None, hue_deg=30.0, mode="HSI"), "cct").count("hue 30°") == 1


# --- most light, curves, drifts


def _lamp(rng, levels):
    return evidence(
        *[
            read(i, replace(FULL, cct_k=k), illuminance=float(f"{lux * np.exp(rng.normal(0.0, 0.012)):.4g}"))
            for i, (k, lux) in enumerate(levels.items())
        ]
    )


def test_of_equal_whites_one_is_called_the_brightest_in_at_most_five_lamps_of_a_hundred():
    rng = np.random.default_rng(3)
    named = [white.peak_output(_lamp(rng, dict.fromkeys(WHITES, 900.0)))[0] for _ in range(DRAWS)]
    assert sum("most light" in f.sentence for f in named) <= 0.05 * DRAWS
    tied = dict(zip(WHITES, (600.0, 750.0, 900.0, 900.0, 800.0), strict=True))
    told = [white.peak_output(_lamp(rng, tied))[0] for _ in range(DRAWS)]
    assert sum(f.value is not None for f in told) <= 0.05 * DRAWS, "two whites give the same"
    assert sum("most light at 4300 and 5600 K, which cannot be told apart" in f.sentence for f in told) > 0.9 * DRAWS


def test_a_white_that_surely_gives_most_is_named():
    rng = np.random.default_rng(4)
    levels = dict(zip(WHITES, (500.0, 650.0, 1000.0, 800.0, 700.0), strict=True))
    told = [white.peak_output(_lamp(rng, levels))[0] for _ in range(50)]
    assert all(f.value == 4300.0 and "It gives most light at 4300 K;" in f.sentence for f in told)


@pytest.mark.parametrize("follows", ["Planckian", "daylight"])
def test_the_wrong_curve_is_named_in_at_most_five_lamps_of_a_hundred(follows):
    """A handheld meter's tints are off alike for a lamp: by 0.002 in x and y (95 %), its specification here."""
    rng = np.random.default_rng(5)
    wrong = right = 0
    for _ in range(DRAWS):
        off = rng.normal(0.0, 0.001, 2)
        readings = []
        for i, k in enumerate((4300.0, 5600.0, 6500.0)):
            duv = 0.0 if follows == "Planckian" else float(daylight_white(k)[1])
            x, y = _xy(k, duv)
            cct, tint = _back(x + off[0], y + off[1])
            readings.append(read(i, replace(FULL, cct_k=k), illuminance=500.0, cct=round(cct), duv=round(tint, 4)))
        for found in white.curve(evidence(*readings)):
            other = "daylight curve rather" if follows == "Planckian" else "Planckian rather"
            wrong += f"follows the {other}" in found.sentence or "side of both" in found.sentence
            right += f"follows the {follows}" in found.sentence
    assert wrong <= 0.05 * DRAWS


def _xy(kelvin, duv):
    from even_beam.light.colorimetry import uv_at, xy_from_uv_1960

    u, v = uv_at(kelvin, duv)
    x, y = xy_from_uv_1960(u, v)
    return float(x), float(y)


def _back(x, y):
    u, v = 4.0 * x / (-2.0 * x + 12.0 * y + 3.0), 6.0 * y / (-2.0 * x + 12.0 * y + 3.0)  # CIE 1960, by definition
    cct, duv = cct_and_duv(u, v)
    return float(cct), float(duv)


def _dimmed(whites):
    return evidence(
        *[
            read(i, replace(FULL, level_pct=level), illuminance=9.0 * level, cct=kelvin, duv=0.001)
            for i, (level, kelvin) in enumerate(whites.items())
        ]
    )


def test_a_white_that_hardly_moves_is_not_said_to_move():
    (found,) = dimming.drift(_dimmed({100.0: 5600.0, 50.0: 5604.0, 10.0: 5610.0}))
    assert "Dimmed from 100 % to 10 %: white and tint as before, as far as can be told (±" in found.sentence
    assert "apart" not in found.sentence
    (far,) = dimming.drift(_dimmed({100.0: 5600.0, 10.0: 5300.0}))
    assert "Dimmed from 100 % to 10 %: white +10.1 ±" in far.sentence


def test_a_modifier_whose_repeats_disagree_gives_no_ratio():
    bare = series([FULL] * 2, "illuminance", (1000.0, 1004.0))
    on = replace(FULL, configuration=("dish",))
    dish = [read(7, on, illuminance=400.0), read(8, on, illuminance=4000.0)]
    assert modifiers.matrix(evidence(*bare, *dish)) == ()


# --- several evenings


def _evenings(rng, levels, planes=("",)):
    """One lamp at 2 m, an evening each: its own meter of 5 %, marks and planes to 1 cm (95 %)."""
    readings, meters = [], {}
    for i, lux in enumerate(levels):
        gain = np.exp(rng.normal(0.0, 0.05 / 1.96)) * (1.0 + rng.normal(0.0, 0.014 / 1.96))
        one = read(i, replace(FULL, reference_plane=planes[i % len(planes)]), illuminance=float(f"{lux * gain:.4g}"))
        reading = replace(one.reading, session_id=f"s{i}", meter_id=f"m{i}", at=START + timedelta(days=9 * i))
        readings.append(Measured(ReadingState(reading, reading.terms)))
        meters[f"m{i}"] = replace(METER, id=f"m{i}")
    return evidence(*readings, meters=meters)


def test_evenings_that_give_the_same_are_called_apart_in_at_most_five_of_a_hundred():
    rng = np.random.default_rng(8)
    assert sum(bool(years.sessions_apart(_evenings(rng, [900.0] * 5))) for _ in range(DRAWS)) <= 0.05 * DRAWS
    planes = ("front", "yoke", "")
    assert not any(years.sessions_apart(_evenings(rng, [900.0, 1050.0, 940.0], planes)) for _ in range(40))


def test_evenings_too_far_apart_are_told_with_both_figures_and_what_to_do():
    (found,) = years.sessions_apart(_evenings(np.random.default_rng(9), [900.0, 905.0, 1800.0]))
    assert re.search(
        r"^Two evenings disagree: (8|9)\d\d lx on \d+ Mar 2026 and 1.\d{3} lx on \d+ Mar 2026,"
        r" (0.9|1.0|1.1) stops? apart, at bare",
        found.sentence,
    ), found.sentence
    assert found.sentence.endswith("Read it once more before either is published.")
    assert len(found.readings) == 2


def _sources(rng, kelvin):
    """One lamp at one setting, each time by its own meter of 0.003 in x and y (95 %)."""
    readings, meters = [], {}
    for i, true in enumerate(kelvin):
        x, y = _xy(true, 0.003)
        off = rng.normal(0.0, 0.003 / 1.96, 2)
        cct, duv = _back(x + off[0], y + off[1])
        one = read(i, FULL, cct=round(cct), duv=round(duv, 4))
        reading = replace(one.reading, session_id=f"s{i}", meter_id=f"m{i}", at=START + timedelta(days=9 * i))
        readings.append(Measured(ReadingState(reading, reading.terms)))
        meters[f"m{i}"] = replace(METER, id=f"m{i}", nickname=f"Meter {i}")
    return evidence(*readings, meters=meters)


def test_sources_of_one_white_are_called_apart_in_at_most_five_of_a_hundred():
    rng = np.random.default_rng(12)
    assert sum(bool(years.whites_apart(_sources(rng, [5600.0] * 3))) for _ in range(DRAWS)) <= 0.05 * DRAWS


def test_a_file_and_a_meter_that_disagree_are_both_shown():
    (found,) = years.whites_apart(_sources(np.random.default_rng(13), [5600.0, 3900.0]))
    assert " K by Meter 0 on " in found.sentence and " K by Meter 1 on " in found.sentence
    assert found.sentence.endswith("mired apart, at bare · 5600 K. Nothing here tells which is right.")
    assert 60.0 < abs(found.value) < 95.0


def test_of_many_whites_that_give_equally_much_the_ends_are_named():
    """A run that reads by itself has a hundred of them; nobody reads a sentence of a hundred numbers."""
    whites = [3000.0 + 31.0 * n for n in range(80)]
    levels = [2000.0 if cct > 3100.0 else 1700.0 for cct in whites]
    own = series([replace(FULL, cct_k=cct) for cct in whites], "illuminance", levels)
    (told,) = white.peak_output(evidence(*own))
    assert "It gives most light at 76 of 80 whites from 3124 to 5449 K, which cannot be told apart" in told.sentence
    assert len(told.sentence.split()) < 40 and told.value is None
