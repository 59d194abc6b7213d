"""Places across a beam as people say them, and as tables keep them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench import terms_in_words
from even_beam.bench.off_axis import Aside, plane_words, understood, written
from even_beam.bench.records import Terms


@pytest.mark.parametrize(
    ("text", "aside"),
    [
        ("centre", Aside(0.0, None)),
        ("On axis", Aside(0.0, None)),
        ("15", Aside(15.0, None)),
        ("−15°", Aside(-15.0, None)),
        ("20 deg off axis", Aside(20.0, None)),
        ("15 left", Aside(-15.0, 0.0)),
        ("15° to the right", Aside(15.0, 0.0)),
        ("7.5 up", Aside(7.5, 90.0)),
        ("10 deg down", Aside(-10.0, 90.0)),
        ("20 deg in the upright plane", Aside(20.0, 90.0)),
        ("-20 in the plane of 45°", Aside(-20.0, 45.0)),
        ("15 up in the plane of 45", None),
        ("somewhere", None),
        ("", None),
    ],
)
def test_what_is_understood(text, aside):
    assert understood(text) == aside


@given(
    st.integers(-1800, 1800).map(lambda tenths: tenths / 10.0),
    st.integers(0, 358).map(lambda halves: halves / 2.0),
)
def test_what_is_written_is_understood(angle, turn):
    aside = understood(written(angle, turn))
    assert aside is not None
    assert aside.angle_deg == angle
    assert (aside.turn_deg or 0.0) == (turn if angle else 0.0)


def test_words():
    assert [plane_words(turn) for turn in (0.0, 90.0, 45.0)] == ["", "in the upright plane", "in the plane of 45°"]
    assert terms_in_words.axis(Terms(angle_deg=-20.0, turn_deg=90.0)) == "−20° off axis in the upright plane"
    assert terms_in_words.axis(Terms(turn_deg=90.0)) == "on axis"
