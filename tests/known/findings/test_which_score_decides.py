"""Of several whites a claimed score is judged by the one that most surely fails it."""

import pytest

from even_beam.bench.estimate import Estimate, Part
from even_beam.known.findings.claims import _sure_least


def score(value, half):
    return Estimate(value, (Part("spectrum", "meter", half),))


def test_what_surely_fails_comes_before_what_may_be_lower():
    """94 ±0.5 surely fails 95; 93.9 ±3 may yet reach it."""
    surely, perhaps = score(94.0, 0.5), score(93.9, 3.0)
    assert min((perhaps, surely), key=lambda one: _sure_least(one, 95.0)) is surely
    assert _sure_least(surely, 95.0) == pytest.approx(-0.5)


def test_a_typed_bound_is_judged_by_what_it_may_reach():
    assert _sure_least(Estimate(None, (), 90.0, 93.0), 95.0) == pytest.approx(-2.0)
    assert _sure_least(Estimate(None, (), 96.0, None), 95.0) == pytest.approx(1.0)
