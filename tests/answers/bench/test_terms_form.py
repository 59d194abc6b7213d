"""A form of terms changes what was changed in it and nothing else."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.answers.bench.terms_form import differences, form_of, terms_of
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
    assert terms_of(form_of(terms, unit), terms, unit) == terms


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
    changed = terms_of(replace(form_of(terms, unit), **{field: text}), terms, unit)
    assert differences(terms, changed).keys() <= touched
    assert getattr(form_of(changed, "m"), field).split()[0] == text.split()[0].replace("4.5", "4.50")


def test_a_flag_before_the_meter_stays_though_the_meter_is_moved():
    shaded = Terms(distance_m=2.0, placement=SHADED)
    moved = terms_of(replace(form_of(shaded, "m"), distance="3 m"), shaded, "m")
    assert (moved.distance_m, moved.placement) == (3.0, SHADED)
