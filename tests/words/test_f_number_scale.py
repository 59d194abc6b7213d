"""f-numbers of a table: plain numbers or full stops with tenths, as the others beside them tell."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.words.entry import parse
from even_beam.words.f_number_scale import are_plain, exactly, plain_number


@given(st.integers(-1, 13))
def test_every_full_stop_as_a_number_is_that_stop(half_steps):
    """ISO 517:2008: full stops are powers of the square root of two."""
    number = round(2.0 ** (half_steps / 2.0), 1)
    assert parse(exactly(number)).value == pytest.approx(2.0 ** (half_steps / 2.0), rel=0.011)


@given(st.sampled_from(["8", "11", "16", "22", "32"]), st.integers(1, 9))
def test_tenths_that_are_no_step_of_the_scale_tell(whole, tenths):
    number = float(f"{whole}.{tenths}")
    stops = 2.0 * math.log2(number)
    off = min(abs(stops * parts - round(stops * parts)) / parts for parts in (2, 3))
    if off > 0.02:
        assert plain_number(f"{whole}.{tenths}") is None
        assert not are_plain([f"{whole}.{tenths}", "11.3"])


def test_what_stands_beside_it_tells():
    assert are_plain(["22.6"]) and are_plain(["f/11.3", "8", "5.6"]) and not are_plain(["5.6", "8"])
    assert not are_plain(["22.6", "16.8"])
    assert exactly(22.6) == "f/22" and exactly(11.3) == "f/11" and exactly(4.8) == "f/4.80"
