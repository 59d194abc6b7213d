"""What is compared when nobody says: the working white, full level, bare, on the axis, at a stated distance."""

from dataclasses import replace

import pytest

from even_beam.bench.fields import UNSTATED
from even_beam.bench.records import Computed, Terms
from even_beam.known import choice
from even_beam.known.choice import Entrant, choose
from tests.known.findings.story import read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def chosen(*terms: Terms, asked=None, kind="fixture") -> Terms | None:
    lamp = Entrant("lamp", "Tansy", kind, tuple(read(i, t, illuminance=800.0) for i, t in enumerate(terms, start=1)))
    (found,) = choose([lamp], asked or {})
    return found.first.terms if found.first is not None else None


@pytest.mark.parametrize(
    ("whites", "expected"),
    [
        ((3200.0, 5600.0), 5600.0),
        ((3200.0, 4400.0), 3200.0),  # a working white before one between
        ((4400.0, 20_000.0), 4400.0),
        ((5000.0, 4400.0), 5000.0),  # nearer in mired
        ((None, 6500.0), 6500.0),  # one that was dialled before one that was not stated
    ],
)
def test_the_white_nearest_to_a_working_one(whites, expected):
    assert chosen(*(replace(FULL, cct_k=white) for white in whites)).cct_k == expected


@pytest.mark.parametrize(
    ("field", "values", "expected"),
    [
        ("level_pct", (10.0, 100.0, 50.0), 100.0),
        ("level_pct", (None, 10.0), 10.0),
        ("configuration", (("dish",), (), ("dish", "full CTO")), ()),
        ("configuration", (("dish", "full CTO"), ("dish",)), ("dish",)),
        ("angle_deg", (15.0, 0.0, -15.0), 0.0),
        ("tint", ("+2", ""), ""),
        ("distance_m", (None, 3.0), 3.0),
        ("placement", ("shaded", "on axis"), "on axis"),
    ],
)
def test_what_is_plain_comes_first(field, values, expected):
    assert getattr(chosen(*(replace(FULL, **{field: value}) for value in values)), field) == expected


def test_a_colour_is_not_compared_unasked():
    colour = replace(FULL, mode="HSI", cct_k=None, hue_deg=120.0)
    assert chosen(colour, FULL).mode == "CCT"
    assert chosen(colour, replace(FULL, mode="fixed", cct_k=None)).mode == "fixed"


def test_a_fixed_lamp_answers_with_its_own_white():
    fixed = replace(FULL, mode="fixed", cct_k=None)
    assert chosen(fixed, asked={"cct": 5600.0}) == fixed
    assert chosen(fixed, asked={"mode": "cct"}) == fixed
    assert chosen(replace(FULL, cct_k=3200.0), asked={"cct": 5600.0}) is None
    assert chosen(replace(FULL, cct_k=3200.0), asked={"cct": 5600.0}, kind="sun") is not None
    assert chosen(FULL, asked={"cct": UNSTATED}) is None


def test_what_was_not_stated_answers_and_is_named():
    lamp = Entrant("lamp", "Tansy", "fixture", (read(1, replace(FULL, level_pct=None), illuminance=800.0),))
    (found,) = choose([lamp], {"level": 100.0})
    assert found.unstated == ("level",)
    assert chosen(replace(FULL, level_pct=50.0), asked={"level": 100.0}) is None


def test_what_says_nothing_of_the_light_is_no_answer():
    drawn, lit = read(1, FULL, power_w=100.0), read(2, replace(FULL, level_pct=50.0), illuminance=400.0)
    (found,) = choose([Entrant("lamp", "Tansy", "fixture", (drawn, lit))], {})
    assert found.readings == (lit,)
    assert not choice.has_light(drawn)
    assert choice.has_light(lit)
    assert choice.has_light(read(3, FULL))  # its figures were not loaded: it may
    assert choice.has_light(replace(drawn, computed=Computed("r1", 2, {"cct": 5600.0})))


def test_of_two_sessions_alike_the_later_is_compared():
    early, late = read(1, FULL, session="a", illuminance=800.0), read(2, FULL, session="b", illuminance=700.0)
    for readings in ((early, late), (late, early)):
        (found,) = choose([Entrant("lamp", "Tansy", "fixture", readings)], {})
        assert found.readings == (late,)


def test_of_marks_and_meters_alike_the_one_where_most_was_read_is_compared():
    far, dimmed = replace(FULL, distance_m=4.0), replace(FULL, level_pct=50.0)
    marks = (read(1, FULL, illuminance=800.0), read(2, dimmed, illuminance=400.0), read(3, far, illuminance=200.0))
    (found,) = choose([Entrant("lamp", "Tansy", "fixture", marks)], {})
    assert found.readings == marks[:1]
    meters = (
        read(1, FULL, meter="m", illuminance=800.0),
        read(2, dimmed, meter="m", illuminance=400.0),
        read(3, FULL, meter="phone", illuminance=950.0),
    )
    (found,) = choose([Entrant("lamp", "Tansy", "fixture", meters)], {})
    assert found.readings == meters[:1]


def test_one_dialled_lamp_decides_the_mode_for_all():
    """A fixed lamp beside one that is dialled: its mode is no vote for reading the other as it is found."""
    dialled = (read(1, FULL, illuminance=800.0), read(2, replace(FULL, mode="fixed", cct_k=None), illuminance=10.0))
    fixed = (read(3, replace(FULL, mode="fixed", cct_k=None), illuminance=500.0),)
    lamps = [Entrant("a", "Tansy", "fixture", dialled), Entrant("b", "Yarrow", "fixture", fixed)]
    first, second = choose(lamps, {})
    assert first.first.terms.mode == "CCT"
    assert second.first.terms.mode == "fixed"
