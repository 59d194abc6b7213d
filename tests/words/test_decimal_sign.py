"""A table's own decimal sign, and its numbers written in one way."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.words.decimal_sign import decimal_sign_of, with_points
from even_beam.words.entry import parse


@pytest.mark.parametrize(
    ("texts", "sign"),
    [
        (["1.600"], ""),  # sixteen hundred to some
        (["1,600", "2,400"], ""),
        (["1.600", "95.6"], "."),
        (["1.600", "95,6"], ","),
        (["-0,003"], ","),  # no thousands begin with a nought
        (["0.125 lx"], "."),
        (["1234.567"], "."),  # nor are they parted once and not again
        (["1.234.567"], ","),
        (["1,234.5"], "."),
        (["1.234,5"], ","),
        (["f/16.8", "2,5 m"], ""),  # they disagree
        (["5600", "99+", "", "equal, not measured"], ""),
    ],
)
def test_what_tells_the_sign(texts, sign):
    assert decimal_sign_of(texts) == sign


@pytest.mark.parametrize(
    ("text", "sign", "plain"),
    [
        ("7.599 lx", ".", "7.5990 lx"),
        ("7,599 lx", ".", "7599 lx"),
        ("7.599 lx", ",", "7599 lx"),
        ("1.600 to 1.700,5", ",", "1600 to 1700.5"),
        ("-0,003", ",", "-0.003"),
        ("1.600", "", "1.600"),
        ("5 ft", ",", "5 ft"),
    ],
)
def test_numbers_in_one_way(text, sign, plain):
    assert with_points(text, sign) == plain


@given(st.floats(0.0005, 99_999.0), st.integers(0, 5), st.sampled_from(".,"), st.booleans())
def test_a_number_written_anywhere_is_read_as_it_was_meant(value, decimals, sign, grouped):
    """Against the formatting of Python, with its signs exchanged as half of the world has them."""
    text = f"{value:{',' * grouped}.{decimals}f}"
    written = text if sign == "." else text.translate(str.maketrans(".,", ",."))
    assert parse(with_points(written, sign), "illuminance").value == pytest.approx(float(text.replace(",", "")))


@given(st.lists(st.floats(-99_999.0, 99_999.0), min_size=1, max_size=20), st.integers(1, 5))
def test_a_table_of_one_program_never_tells_the_other_sign(values, decimals):
    points = [f"{value:.{decimals}f}" for value in values]
    assert decimal_sign_of(points) in {"", "."}
    assert decimal_sign_of([re.sub(r"\.", ",", text) for text in points]) in {"", ","}
