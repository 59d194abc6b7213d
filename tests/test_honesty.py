"""What is said holds, in evenings whose errors the program did not make: coverage of the stated 95 %, ties, false
sources.

The same evenings as the benchmarks print, fewer of them; the bounds leave room for chance (three standard deviations of
a binomial share) and for nothing else.
"""

import numpy as np
import pytest

from benchmarks import honesty

EVENINGS = 100


def room(share: float, cases: int) -> float:
    return 3.0 * float(np.sqrt(share * (1.0 - share) / cases))


@pytest.mark.parametrize("name", [name for name in honesty.COVERAGE if name != "Ra"])
def test_the_truth_lies_within_what_is_stated(name):
    found = honesty.coverage(name, EVENINGS)
    low, high = honesty.COVERED
    assert low - room(low, EVENINGS) <= found <= min(high + room(high, EVENINGS), 1.0)


def test_the_truth_of_a_score_lies_within_what_is_stated():
    assert honesty.coverage("Ra", 40) >= honesty.COVERED[0] - room(honesty.COVERED[0], 40)


@pytest.mark.parametrize("distance", [1.0, 2.0, 5.0])
def test_lamps_that_are_the_same_are_not_published_as_different(distance):
    assert honesty.false_differences(distance, EVENINGS) <= 0.05 + room(0.05, EVENINGS)


def test_a_quarter_of_a_stop_is_told():
    assert honesty.told(0.25, 2.0, EVENINGS) >= 0.9


@pytest.mark.parametrize("marks", honesty.WALKS_M.values(), ids=honesty.WALKS_M)
def test_no_source_is_stated_that_is_not_there(marks):
    assert honesty.false_sources(marks, EVENINGS) <= 0.05 + room(0.05, EVENINGS)
