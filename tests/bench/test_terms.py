"""What terms are called, and in what two readings differ."""

from dataclasses import replace

import pytest

from even_beam.bench import terms, terms_in_words
from even_beam.bench.records import Terms
from tests.known.findings.story import read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


@pytest.mark.parametrize(
    ("at", "words"),
    [
        (FULL, "bare · 5600 K · 100 % · 2 m"),
        (replace(FULL, level_pct=None), "bare · 5600 K · 2 m"),
        (replace(FULL, distance_m=None), "bare · 5600 K · 100 %"),
        (
            replace(FULL, distance_m=None, placement="equal"),
            "bare · 5600 K · 100 % · equal distance, not measured",
        ),
        (replace(FULL, placement="shaded"), "bare · 5600 K · 100 % · 2 m · meter shaded"),
        (replace(FULL, zoom="spot", angle_deg=15.0), "bare · 5600 K · spot · 100 % · 2 m · 15° off axis"),
        (replace(FULL, configuration=("dish", "full CTO")), "dish + full CTO · 5600 K · 100 % · 2 m"),
        (
            replace(FULL, mode="HSI", cct_k=None, hue_deg=120.0, saturation_pct=80.0),
            "bare · hue 120° · 100 % · 2 m · saturation 80 %",
        ),
        (replace(FULL, saturation_pct=80.0), "bare · 5600 K · 100 % · 2 m"),  # of a white it says nothing
        (Terms(), "bare"),
        (Terms(mode="fixed", level_pct=100.0), "bare · 100 %"),
        (replace(FULL, reference_plane="front"), "bare · 5600 K · 100 % · 2 m · from the front"),
    ],
)
def test_terms_in_a_line(at, words):
    assert terms.words(read(1, at)) == words


def test_what_is_left_out_of_a_line_and_who_is_named():
    one = read(1, FULL, meter="m", session="s")
    assert terms.words(one, "distance", "level") == "bare · 5600 K"
    assert terms.words(one, names={"m": "Hand meter", "s": "Tuesday"}).endswith("2 m · Hand meter · Tuesday")


def test_in_what_two_readings_differ():
    ours = read(1, FULL)
    assert terms.differing(ours, read(2, FULL)) == ()
    assert terms.differing(ours, read(2, replace(FULL, level_pct=50.0, zoom="spot"))) == ("level",)  # zoom: not stated
    assert terms.differing(ours, read(2, replace(FULL, level_pct=50.0)), "level") == ()
    assert terms.differing(ours, read(2, FULL, meter="other")) == ("meter",)


def test_a_key_leaves_out_what_is_ignored():
    ours, theirs = read(1, FULL), read(2, replace(FULL, level_pct=50.0))
    assert terms.key(ours) != terms.key(theirs)
    assert terms.key(ours, "level") == terms.key(theirs, "level")
    everything = tuple(name for name in terms.NAMES if name != "level")
    assert terms.key(ours, *everything) == (terms.value(ours, "level"),)
    with pytest.raises(KeyError):
        terms.key(ours, "mood")


def test_what_was_not_stated():
    assert terms.unstated(read(1, FULL)) == ()
    assert terms.unstated(read(1, replace(FULL, level_pct=None, distance_m=None))) == ("level", "distance")
    assert terms.unstated(read(1, replace(FULL, distance_m=None, placement="equal"))) == ()
    assert terms.unstated(read(1, FULL, meter=None)) == ("meter",)


def test_a_plane_that_is_asked_for_is_that_of_an_angle():
    """On the axis all planes are one: what is asked by itself is meant aside."""
    assert terms.value_of("turn_deg", 90.0) == 90.0
    assert terms.value_of("angle_deg", 0.0) == 0.0
    aside, level = (Terms(angle_deg=20.0, turn_deg=turn) for turn in (90.0, 0.0))
    assert terms.stated(aside) != terms.stated(level)
    assert terms.stated(Terms(turn_deg=90.0)) == terms.stated(Terms())


@pytest.mark.parametrize(("zoom", "said"), [("flood", "flood"), ("30", "zoom 30"), ("30°", "zoom 30°"), ("", "")])
def test_a_number_alone_is_said_to_be_the_zoom(zoom, said):
    assert terms_in_words.zoom(Terms(zoom=zoom)) == said
    assert (said in terms.said_of(Terms(cct_k=5600.0, zoom=zoom)).split(" · ")) is bool(zoom)


def test_a_reading_with_a_word_where_a_number_belongs_stands_as_impossible_and_is_compared_with_none():
    """As a damaged logbook has it: it is there to be told, and nobody asks for its key."""
    broken = read(1, replace(FULL, distance_m="nonsense"), illuminance=800.0)
    assert broken.terms.distance_m == "nonsense" and broken.value("illuminance") == 800.0
