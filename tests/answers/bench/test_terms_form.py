"""A form of terms changes what was changed in it and nothing else."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.answers.bench.step_terms import differences
from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import shown_texts_of, terms_of_texts, texts_of
from even_beam.bench.records import SHADED, Terms

number = st.floats(0.02, 900.0, allow_nan=False)
maybe = st.none() | number
TERMS = st.builds(
    Terms,
    mode=st.sampled_from(["CCT", "HSI", "Boost", "fixed", "gel", "off"]),
    cct_k=st.none() | st.floats(1000.0, 90_000.0),
    tint=st.sampled_from(["", "+2", "½ green"]),
    level_pct=st.none() | st.floats(0.0, 100.0),
    hue_deg=st.none() | st.floats(0.0, 360.0),
    saturation_pct=st.none() | st.floats(0.0, 100.0),
    zoom=st.sampled_from(["", "flood", "30°"]),
    configuration=st.sampled_from([(), ("dish",), ("dish", "half CTO")]),
    distance_m=maybe,
    placement=st.sampled_from(["on axis", "equal", "unknown", SHADED, "hottest point"]),
    angle_deg=st.floats(-90.0, 90.0),
    reference_plane=st.sampled_from(["", "front", "yoke"]),
    turn_deg=st.sampled_from([0.0, 45.0, 90.0]),
)


@given(TERMS, st.sampled_from(["m", "ft"]))
def test_a_form_that_nobody_touched_changes_nothing(terms, unit):
    """3.333 m became 3.33 once, and shaded on axis."""
    shown = shown_texts_of(terms, unit)
    assert terms_of_texts(shown, terms, shown) == terms


CHANGES = [
    ("level", "50 %", {"level_pct"}),
    ("zoom", "spot", {"zoom"}),
    ("tint", "-3", {"tint"}),
    ("configuration", "lens + quarter CTB", {"configuration"}),
    ("distance", "4.5 m", {"distance_m", "placement"}),
    ("angle", "33 up", {"angle_deg", "turn_deg"}),
]


@pytest.mark.parametrize(("field", "text", "touched"), CHANGES)
@given(terms=TERMS, unit=st.sampled_from(["m", "ft"]))
def test_one_field_changes_its_own_terms_alone(field, text, touched, terms, unit):
    shown = shown_texts_of(terms, unit)
    changed = terms_of_texts({**shown, field: text}, terms, shown)
    assert differences(terms, changed).keys() <= touched
    assert shown_texts_of(changed, "m")[field].split()[0] == text.split()[0]


def test_a_flag_before_the_meter_stays_though_the_meter_is_moved():
    shaded = Terms(distance_m=2.0, placement=SHADED)
    moved = terms_of_texts({"distance": "3 m"}, shaded)
    assert (moved.distance_m, moved.placement) == (3.0, SHADED)


@given(TERMS, st.integers(-900, 900))
def test_what_is_written_of_terms_is_read_as_the_same(terms, tenths):
    """By `--at`, by the cells of a table and by names of files alike; placements of one's own have no text."""
    terms = replace(terms, angle_deg=tenths / 10.0)  # no hand turns a lamp by less
    placement = "unknown" if terms.distance_m is None and terms.placement not in {"equal", SHADED} else terms.placement
    terms = replace(terms, placement="on axis" if terms.distance_m is not None and placement != SHADED else placement)
    again = terms_of_texts({"mode": terms.mode, **texts_of(terms)}, Terms(mode="", placement="unknown"))
    assert again.turn_deg == (terms.turn_deg if terms.angle_deg and terms.placement != SHADED else 0.0)
    if terms.placement == SHADED:
        assert again.placement == SHADED
        again = replace(again, angle_deg=terms.angle_deg)  # where it is shaded, nobody asks for a place in the beam
    if terms.mode == "fixed":
        terms = replace(terms, mode=again.mode)  # what has a white that was dialled is not fixed
    assert replace(again, turn_deg=terms.turn_deg, angle_deg=again.angle_deg) == replace(
        terms, angle_deg=again.angle_deg
    )
    assert again.angle_deg == pytest.approx(terms.angle_deg, rel=1e-5, abs=1e-9)


@pytest.mark.parametrize(
    ("field", "text"),
    [
        ("hue", "100 lx"),
        ("level", "3 m"),
        ("cct", "2 m"),
        ("saturation", "50 lx"),
        ("turn", "5600 K"),
        ("cct", "20 °C"),
    ],
)
def test_a_unit_that_does_not_belong_is_refused(field, text):
    with pytest.raises(TermsError, match="does not belong there") as raised:
        terms_of_texts({field: text}, Terms())
    assert raised.value.field == field


@pytest.mark.parametrize(
    ("field", "text", "stored", "value"),
    [
        ("hue", "240°", "hue_deg", 240.0), ("level", "50 %", "level_pct", 50.0), ("cct", "5600 K", "cct_k", 5600.0),
        ("saturation", "80%", "saturation_pct", 80.0), ("turn", "upright", "turn_deg", 90.0),
    ],
)  # fmt: skip
def test_its_own_unit_is_understood(field, text, stored, value):
    assert getattr(terms_of_texts({field: text}, Terms()), stored) == value


def test_a_field_that_there_is_not_is_no_typing_error():
    with pytest.raises(KeyError, match="mood"):
        terms_of_texts({"mood": "good"}, Terms())
