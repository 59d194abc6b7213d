"""Whether two meters agree: against evenings simulated here, with meters that differ and that do not."""

import math
from datetime import timedelta

import numpy as np
import pytest

from even_beam.bench.records import Terms
from even_beam.known.choice import Entrant
from even_beam.known.meters_agree import ASKED, agreements
from tests.known.findings.story import START, read

LEVEL, WHITE = ASKED[0], ASKED[1]
WHITES = (2700.0, 3200.0, 4300.0, 5600.0)


def evenings(chance, *, stops=0.0, mired=0.0, apart=False, lamps=3, scatter=0.01, per_year=0.0, evenings_=1):
    """Lamps that two meters read at four whites, together or on two evenings between which lamps wander by half of
    what is granted them (95 % being two standard deviations)."""
    made, number = [], 0
    for lamp in range(lamps):
        readings = []
        for evening in range(evenings_):
            at = START + timedelta(days=73 * evening)
            wander = chance.normal(0.0, 0.5 * LEVEL.wanders) if apart else 0.0
            for white in WHITES:
                level = chance.uniform(200.0, 2000.0)
                for meter, more, session in (
                    ("a", stops + per_year * evening / 5.0 + wander, f"a{evening}"),
                    ("b", 0.0, f"b{evening}" if apart else f"a{evening}"),
                ):
                    number += 1
                    lux = level * 2.0 ** (more + chance.normal(0.0, scatter))
                    kelvin = 1e6 / (1e6 / white + (mired if meter == "a" else 0.0) + chance.normal(0.0, 0.5))
                    terms = Terms(cct_k=white, level_pct=100.0, distance_m=2.0)
                    readings.append(read(number, terms, meter, session, at, illuminance=lux, cct=kelvin))
        made.append(Entrant(f"lamp{lamp}", f"Lamp {lamp}", "panel", tuple(readings)))
    return made


def told(entrants, asked):
    return next(one for one in agreements(entrants) if one.asked is asked)


@pytest.mark.parametrize("apart", [False, True])
def test_the_truth_lies_within_the_half_width_in_95_of_100(apart):
    chance = np.random.default_rng(7)
    inside = sum(
        abs(one.difference - 0.12) <= one.half_width
        for one in (told(evenings(chance, stops=0.12, apart=apart), LEVEL) for _ in range(200))
    )
    assert inside >= 184, "95 of 100, less three standard deviations of 200 draws"
    assert told(evenings(chance, stops=0.12, apart=apart), LEVEL).half_width < 0.3, "and it is not bought with width"


@pytest.mark.parametrize("apart", [False, True])
def test_meters_that_agree_are_called_different_in_at_most_five_of_a_hundred(apart):
    chance = np.random.default_rng(8)
    wrong = sum(told(evenings(chance, apart=apart), LEVEL).is_told for _ in range(200))
    assert wrong <= 18


def test_brighter_and_warmer_have_their_signs():
    chance = np.random.default_rng(9)
    found = evenings(chance, stops=-0.2, mired=6.0)
    level, white = told(found, LEVEL), told(found, WHITE)
    assert level.is_told and level.difference == pytest.approx(-0.2, abs=0.03)
    assert white.is_told and white.difference == pytest.approx(6.0, abs=1.0)
    assert (level.first, level.second) == ("a", "b") and len(level.pairs) == 12 and len(level.lamps) == 3


def test_one_or_two_pairs_tell_nothing():
    chance = np.random.default_rng(10)
    (lamp,) = evenings(chance, stops=1.0, lamps=1)
    two = Entrant("lamp0", "Lamp 0", "panel", lamp.readings[:4])
    assert not told([two], LEVEL).is_enough and not told([two], LEVEL).is_told


def test_other_terms_are_not_compared():
    terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    nearer = Terms(cct_k=5600.0, level_pct=100.0, distance_m=1.0)
    own = (read(1, terms, "a", illuminance=100.0), read(2, nearer, "b", illuminance=400.0))
    assert agreements([Entrant("l", "L", "panel", own)]) == []


def test_a_meter_that_drifts_is_seen_and_one_that_does_not_is_let_be():
    chance = np.random.default_rng(11)
    drifting = told(evenings(chance, per_year=0.3, evenings_=6), LEVEL)
    assert drifting.has_drifted and drifting.drift[0] == pytest.approx(0.3, abs=0.03)
    wrong = sum(told(evenings(chance, evenings_=6), LEVEL).has_drifted for _ in range(60))
    assert wrong <= 6


def test_two_evenings_do_not_tell_what_lamps_wandered_between_them():
    """However many whites: one lamp on two evenings tells no better than it comes back."""
    chance = np.random.default_rng(12)
    one = told(evenings(chance, apart=True, lamps=1, scatter=0.001), LEVEL)
    assert one.half_width >= LEVEL.wanders * (1 - 1e-9)
    assert math.isclose(one.half_width, LEVEL.wanders, rel_tol=0.2)


def test_figures_that_agree_by_chance_are_not_called_certain():
    chance = np.random.default_rng(13)
    assert told(evenings(chance, stops=0.1, scatter=0.0), LEVEL).half_width == pytest.approx(
        LEVEL.repeats / math.sqrt(12)
    )
