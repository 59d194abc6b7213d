"""Subjects in words: each direction as it is, as strong as it is, and a headline that leaves nothing bad out."""

import numpy as np
import pytest

from even_beam.answers.spectrum.subjects import AS_IT_IS, SEEN, STRONG, headline, rows_of, towards, words_of
from even_beam.light.colour_difference import ciede2000
from even_beam.light.subjects import Shift


def shift(subject: str, lightness: float, chroma: float, hue_deg: float, by: tuple[float, float, float]) -> Shift:
    """A subject of one colour, and by how much it is lighter, more vivid and turned."""
    angle, turned = np.radians(hue_deg), np.radians(hue_deg + by[2])
    before = np.array([[lightness, chroma * np.cos(angle), chroma * np.sin(angle)]])
    other = chroma + by[1]
    after = np.array([[lightness + by[0], other * np.cos(turned), other * np.sin(turned)]])
    return Shift(subject, ("one",), before, after, ciede2000(after, before))


@pytest.mark.parametrize(
    ("by", "words"),
    [
        ((0.0, 0.0, 0.0), "as they are"),
        ((0.0, -12.0, 0.0), "duller"),
        ((0.0, 12.0, 0.0), "more vivid"),
        ((-4.0, 0.0, 0.0), "darker"),
        ((5.0, 0.0, 0.0), "lighter"),
        ((0.0, 0.0, 8.0), "more orange"),
        ((0.0, 0.0, -8.0), "more pink"),
    ],
)
def test_a_direction_is_said_as_it_is(by, words):
    one = shift("deep reds", 40.0, 60.0, 30.0, by)
    assert words_of(one).removeprefix("a touch ").removeprefix("much ") == words
    assert words_of(one).startswith("a touch") == (AS_IT_IS < one.mean <= SEEN)
    assert words_of(one).startswith("much") == (one.mean > STRONG)


def test_of_several_directions_the_strongest_is_first_and_weak_ones_are_silent():
    assert words_of(shift("blues", 40.0, 50.0, 265.0, (-6.0, -10.0, 0.5))) in {
        "duller and darker",
        "much duller and darker",
    }
    assert "more" not in words_of(shift("blues", 40.0, 50.0, 265.0, (-6.0, 0.0, 0.5)))


@pytest.mark.parametrize("hue", np.arange(0.0, 360.0, 7.5))
def test_a_turn_there_and_a_turn_back_are_never_the_same_hue(hue):
    assert towards(hue, 1.0) != towards(hue, -1.0)


def test_greys_have_no_hue_to_turn():
    words = words_of(shift("whites, greys", 80.0, 1.0, 90.0, (0.0, 3.0, 170.0)))
    assert "tinted" in words
    assert "more" not in words


def rows(*sizes: float):
    names = ("skin", "deep reds", "oranges, yellows", "foliage", "blues", "violets, pinks", "pastels", "whites, greys")
    return rows_of(
        [shift(n, 50.0, 40.0, 30.0, (size, 0.0, 0.0)) for n, size in zip(names, sizes, strict=True)], {9: 12.0}
    )


def test_the_headline_leaves_nothing_bad_out():
    assert headline(rows(*[0.1] * 8)) == "Every subject stays as it is, or nearly so."
    one = headline(rows(0.1, -8.0, *[0.1] * 6))
    assert one.startswith("Good for all but deep reds; deep reds go")
    assert "darker" in one
    many = headline(rows(-5.0, -8.0, -5.0, -5.0, -5.0, 0.1, 0.1, 0.1))
    assert many.startswith("Good for violets and pinks, pastels and whites and greys; deep reds go")
    assert "3 more change plainly" in many
    every = headline(rows(*[-8.0] * 8))
    assert "Good" not in every
    assert "6 more change plainly" in every
    assert rows(*[0.1] * 8)[1].evidence == "R9 12"
