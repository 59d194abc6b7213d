"""Words for ratios hold where the ratio is what they say; everything else is said to be unsayable."""

import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.words.wording import stops_words, times_words, unsaid_of


@pytest.mark.parametrize(
    ("ratio", "half", "words"),
    [
        (2.0, 0.02, "twice as bright"),
        (2.06, 0.05, "about twice as bright"),
        (3.1, 0.05, "about three times as bright"),
        (1.6, 0.04, "about half as bright again"),
        (0.5, 0.02, "half as bright"),
        (1.78, 0.05, ""),  # between one and a half and two
        (3.5, 0.05, ""),
        (2.0, 0.5, ""),  # the readings cannot tell it
        (1.05, 0.2, ""),
    ],
)
def test_times(ratio, half, words):
    assert times_words(float(np.log2(ratio)), half) == words


@pytest.mark.parametrize(
    ("stops", "words"),
    [
        (1.0, "a stop"), (-1.0, "a stop"), (0.5, "half a stop"), (1.0 / 3.0, "a third of a stop"),
        (1.33, "a stop and a third"), (2.5, "two stops and a half"), (3.0, "three stops"),
        (0.68, "two thirds of a stop"),
        (1.17, "1.17 stops"), (0.02, "0.02 stop"), (12.5, "12.50 stops"),
    ],
)  # fmt: skip
def test_stops(stops, words):
    assert stops_words(stops) == words


def test_double_is_not_said_of_two_thirds_of_a_stop():
    (unsaid,) = unsaid_of(0.68, 0.04)
    assert unsaid.words == "twice as bright"
    assert unsaid.why == "it is 1.60×, 0.68 stop"


def test_a_difference_that_cannot_be_told_is_neither_brighter_nor_equal():
    words = [one.words for one in unsaid_of(0.03, 0.05)]
    assert words == ["brighter", "equal"]
    assert all("less than the 0.05 stop" in one.why for one in unsaid_of(0.03, 0.05))


_VALUES = {"twice": 2.0, "two and a half times": 2.5, "three times": 3.0, "four times": 4.0, "half as bright": 0.5}


@given(st.floats(-4.0, 4.0), st.floats(0.0, 0.5))
def test_no_word_is_said_and_unsaid(stops, half):
    """What is said lies within what “about” allows, and is never among what must not be said."""
    said = times_words(stops, half)
    for name, value in _VALUES.items():
        if re.fullmatch(rf"(about )?{name}( as bright)?", said):
            assert abs(np.log2(value) - stops) <= 0.1 and half <= 0.2
    assert said.removeprefix("about ") not in {one.words for one in unsaid_of(stops, half)} or said == ""


@given(st.floats(-9.9, 9.9))
def test_stops_in_words_are_the_number(stops):
    words = stops_words(stops)
    parts = {"a quarter": 0.25, "a third": 1 / 3, "two thirds": 2 / 3, "three quarters": 0.75, "half": 0.5}
    numbers = ("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
    if (plain := re.match(r"([\d.]+) stop", words)) is not None:
        value = float(plain[1])
    else:
        whole = next((n for n, name in enumerate(numbers) if words.startswith(f"{name} stops")), None)
        value = float(whole) if whole is not None else float(words.startswith("a stop"))
        value += next((v for name, v in parts.items() if words.startswith(name) or f"and {name}" in words), 0.0)
        value += 0.5 if "and a half" in words else 0.0
    assert value == pytest.approx(abs(stops), abs=0.041)


@pytest.mark.parametrize(
    ("words", "ratio"),
    [
        ("a quarter brighter", 5 / 4), ("a third brighter", 4 / 3), ("half as bright again", 3 / 2),
        ("twice as bright", 2), ("two and a half times as bright", 5 / 2), ("three times as bright", 3),
        ("four times as bright", 4), ("five times as bright", 5), ("six times as bright", 6),
        ("eight times as bright", 8),
        ("ten times as bright", 10), ("three quarters as bright", 3 / 4), ("two thirds as bright", 2 / 3),
        ("half as bright", 1 / 2), ("two fifths as bright", 2 / 5), ("a third as bright", 1 / 3),
        ("a quarter as bright", 1 / 4), ("a fifth as bright", 1 / 5), ("a tenth as bright", 1 / 10),
    ],
)  # fmt: skip
def test_each_phrase_is_the_ratio_it_names(words, ratio):
    assert times_words(float(np.log2(ratio)), 0.01) == words


@pytest.mark.parametrize(
    ("ratio", "words"), [(2.3, "twice as bright"), (2.6, "three times as bright"), (3.5, "four times as bright"),
                         (0.55, "half as bright")]
)  # fmt: skip
def test_what_is_near_a_round_number_but_not_it_must_not_be_said(ratio, words):
    assert words in {one.words for one in unsaid_of(float(np.log2(ratio)), 0.02)}


def test_equal_is_tempting_up_to_a_third_of_a_stop():
    assert "as bright as" in {one.words for one in unsaid_of(0.33, 0.05)}
    assert "as bright as" not in {one.words for one in unsaid_of(0.37, 0.05)}
