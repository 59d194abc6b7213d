"""Which law of a dimmer is named, against dimmers and scatter that the tests draw themselves."""

import numpy as np
import pytest

from benchmarks.dimming_laws import scores
from even_beam.known.findings.dimming_law import told

SEVEN = np.array([1.0, 5.0, 10.0, 25.0, 50.0, 75.0, 100.0]) / 100.0
SCATTER = 0.01


def words(shape, dial=SEVEN) -> str:
    stops = np.log2(shape(dial) / shape(dial)[-1])
    return told(np.log2(dial / dial[-1]), stops, np.full(dial.size, SCATTER)).words


def test_a_wrong_law_is_named_in_at_most_five_dimmers_of_a_hundred():
    found = scores(draws=60, seed=5)
    wrong = sum(n for counted in found.values() for what, n in counted.items() if what.startswith("wrong"))
    assert wrong <= 0.05 * sum(sum(counted.values()) for counted in found.values())
    assert found["linear"]["right"] > 50 and found["square"]["right"] > 50


@pytest.mark.parametrize("dial", [SEVEN[[2, 4, 6]], SEVEN[[3, 4, 6]]])
def test_three_levels_name_no_floor(dial):
    """A floor of 8 % from three readings is a guess: a constant that nothing could contradict."""
    said = words(lambda d: np.maximum(d, 0.15), dial)
    assert "floor" not in said.split("nearest")[0] or "cannot tell" in said


def test_laws_that_the_levels_cannot_tell_apart_are_both_named():
    dial = np.array([30.0, 50.0, 70.0, 100.0]) / 100.0
    said = words(lambda d: 0.04 + 0.96 * d, dial)
    assert said.startswith("may follow a power of the dial (exponent 0.9") and "above a floor of 4 %" in said
    assert said.endswith("these 4 levels cannot tell which")


def test_what_follows_no_law_is_set_beside_the_nearest_only_where_that_is_near():
    assert words(lambda d: 0.5 * d + 0.5 * d**6) == "follows no simple law"
    near = words(lambda d: d * np.exp(0.06 * np.cos(20.0 * d)))
    assert near.startswith("follows no law closely; nearest is a linear law, 0.0")
    assert words(lambda d: (3.0 * d**2 - 2.0 * d**3) * 0.99 + 0.01) == "follows an S"


def test_equal_stops_for_equal_steps_is_a_law_and_two_levels_below_rule_none_out():
    """Closed form: 2 ** (9 (d - 1)), told by the levels of a usual sweep; of two below the top nothing is ruled out."""
    assert words(lambda d: 2.0 ** (9.0 * (d - 1.0))) == "follows equal stops for equal steps of the dial"
    steep = words(lambda d: np.where(d > 0.6, 1.0, 1e-3 * d), np.array([0.3, 0.5, 1.0]))
    assert steep == "follows none of the laws that are looked for at these 3 levels"
