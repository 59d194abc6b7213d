"""Figures typed once, of meters of which nothing was stated: how often they would say that something moved that did
not. Truth and errors are not the product's: whites that stand still, read with 0.3 % of scatter and 0.0006 Duv."""

from dataclasses import replace

import numpy as np
import pytest

from even_beam.bench.records import Terms
from even_beam.bench.walks import Walk
from even_beam.known.findings import dimming, modifiers
from even_beam.known.findings.repeatability import repeatability
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
DRAWS = 150


def once(draw, terms, sequence, lux, duv=0.002, mired=180.0):
    """A reading as a hand types it: one press of a display."""
    kelvin = 1e6 / mired * draw.normal(1.0, 0.003)
    return read(sequence, terms, illuminance=lux * draw.normal(1.0, 0.01), cct=round(kelvin),
                duv=round(duv + draw.normal(0.0, 0.0006), 4))  # fmt: skip


def says_moved(findings):
    told = [f.sentence for f in findings]
    return any(part in said for said in told for part in ("white +", "white −", "Duv +", "Duv −"))


@pytest.mark.parametrize("white_k", [2700.0, 5600.0])
def test_a_white_that_stands_while_it_is_dimmed_is_seldom_said_to_move(white_k):
    draw, wrong = np.random.default_rng(3), 0
    for _ in range(DRAWS):
        levels = [replace(FULL, cct_k=white_k, level_pct=pct) for pct in (100.0, 50.0, 25.0)]
        own = evidence(*(once(draw, t, i, 10.0 * t.level_pct, mired=1e6 / white_k) for i, t in enumerate(levels)))
        wrong += says_moved(dimming.drift(own))
    assert wrong <= 0.08 * DRAWS  # 5 in 100, and what chance makes of 150


def test_what_colours_nothing_is_seldom_said_to_colour():
    draw, wrong = np.random.default_rng(4), 0
    for _ in range(DRAWS):
        dish = replace(FULL, configuration=("dish",))
        own = evidence(once(draw, FULL, 1, 1000.0), once(draw, dish, 2, 3800.0))
        wrong += says_moved(modifiers.matrix(own))
    assert wrong <= 0.08 * DRAWS


def test_what_does_move_is_told():
    draw, told = np.random.default_rng(5), 0
    for _ in range(50):
        gel = replace(FULL, configuration=("half minus green",))
        own = evidence(once(draw, FULL, 1, 1000.0), once(draw, gel, 2, 700.0, duv=-0.010, mired=184.0))
        told += says_moved(modifiers.matrix(own))
    assert told == 50


def test_a_source_at_the_front_is_seldom_put_elsewhere_and_one_behind_it_is_found():
    draw, wrong, found = np.random.default_rng(6), 0, 0
    for behind in [0.0] * DRAWS + [0.6] * 30:
        marks = [replace(FULL, distance_m=d) for d in (2.0, 3.0, 4.0, 6.0)]
        lux = [20_000.0 / (m.distance_m + behind + draw.normal(0.0, 0.005)) ** 2 for m in marks]
        own = [once(draw, m, i, lx) for i, (m, lx) in enumerate(zip(marks, lux, strict=True))]
        said = Walk.of(own, evidence(*own).meter_of(own[0])).source_words
        wrong += behind == 0.0 and bool(said)
        found += behind > 0.0 and "behind the front" in said
    assert wrong <= 0.05 * DRAWS and found >= 28


def test_a_modifier_does_the_same_at_each_white_unless_it_can_be_told():
    """A factor of 3.8 at three whites, and one that loses a stop at one of them."""
    draw, wrong, found = np.random.default_rng(7), 0, 0
    for at_cold in [3.8] * 60 + [1.9] * 10:
        whites = ((3200.0, 3.8), (4400.0, 3.8), (5600.0, at_cold))
        lit = [(replace(FULL, cct_k=k), 1000.0, gain) for k, gain in whites]
        fitted = [(replace(t, configuration=("dish",)), lux * gain) for t, lux, gain in lit]
        both = [*((t, lux) for t, lux, _ in lit), *fitted]
        own = evidence(*(once(draw, t, i, lux) for i, (t, lux) in enumerate(both)))
        (spread,) = modifiers.spread_across_whites(own, modifiers.matrix(own))
        told = "the same as far as can be told" not in spread.sentence
        wrong += told and at_cold == 3.8
        found += told and at_cold != 3.8
    assert wrong <= 3 and found == 10


def test_a_slip_among_repeats_is_no_repeatability():
    repeats = [read(i, FULL, illuminance=lux) for i, lux in enumerate((810.0, 8100.0, 806.0, 812.0, 808.0))]
    found = next(f for f in repeatability(evidence(*repeats)) if f.name == "repeatability of level")
    assert found.spread is not None and found.spread < 0.02
