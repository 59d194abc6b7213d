"""How figures are written: one place, the same everywhere."""

import math
import threading

import pytest

from even_beam.bench import terms_in_words
from even_beam.bench.records import Terms
from even_beam.shell.job import Job
from even_beam.words import notation

THIN, MINUS = "\u202f", "\u2212"


@pytest.mark.parametrize(
    ("value", "decimals", "signed", "text"),
    [
        (1234567.0, 0, False, f"1{THIN}234{THIN}567"),
        (-0.5, 1, False, f"{MINUS}0.5"),
        (0.04, 1, True, "0.0"),
        (-0.04, 1, True, "0.0"),
        (0.5, 1, True, "+0.5"),
        (None, 1, False, "–"),
        (math.nan, 1, True, "–"),
    ],
)
def test_a_number(value, decimals, signed, text):
    assert notation.number(value, decimals, signed=signed) == text


@pytest.mark.parametrize(
    ("value", "text"),
    [(4812.4, f"4{THIN}812"), (96.34, "96.3"), (1.018, "1.02"), (11_234.0, f"11{THIN}230"), (None, "–")],
)
def test_no_more_figures_than_a_meter_is_good_for(value, text):
    assert notation.lux(value) == text


def test_words_begin_a_sentence_without_losing_their_capitals():
    assert notation.sentence("white off") == "White off"
    assert notation.sentence("TLCI") == "TLCI" and notation.sentence("R13 (skin)") == "R13 (skin)"
    assert notation.sentence("") == ""


def test_days_are_said_as_people_say_them():
    assert notation.day("2026-12-01") == "1 December 2026"
    with pytest.raises(ValueError, match="soon"):
        notation.day("soon")


@pytest.mark.parametrize(
    ("terms", "text"),
    [
        (Terms(cct_k=5600.0), "5600 K"),
        (Terms(mode="fixed"), "no white dialled"),
        (Terms(cct_k=3200.0, tint="+2"), "3200 K"),
    ],
)
def test_whites_as_dialled(terms, text):
    assert terms_in_words.white(terms).startswith(text)


@pytest.mark.parametrize(
    ("terms", "text"),
    [
        (Terms(cct_k=5600.0, level_pct=50.0), "5600 K, 50 %"),
        (Terms(mode="fixed", level_pct=50.0), "50 %"),
        (Terms(mode="HSI", hue_deg=120.0), "hue 120°"),
        (Terms(mode="fixed"), "another setting"),
        (Terms(), "another setting"),
    ],
)
def test_a_setting_says_what_was_stated(terms, text):
    assert terms_in_words.setting(terms) == text


def test_what_sits_on_a_lamp():
    assert terms_in_words.configuration(Terms()) == "bare"
    assert terms_in_words.configuration(Terms(configuration=("reflector", "full CTO"))) == "reflector + full CTO"


def test_distances_in_the_units_they_were_marked_in():
    assert notation.distance(3.048) == "10 ft" and notation.distance(3.0) == "3 m"
    assert notation.distance(None) == "distance unknown"


def test_units_are_spoken_within_and_nowhere_else():
    feet = notation.Units("fc", "ft")
    with notation.speaking(feet):
        assert notation.light(10.763910416709722) == "1.00 fc"
        told: list[str] = []
        other = threading.Thread(target=lambda: told.append(notation.light(100.0)))
        other.start()
        other.join()
        assert told == ["100 lx"], "somebody else speaks at the same time"
    assert notation.light(100.0) == "100 lx"


def test_a_job_speaks_as_where_it_was_asked_for():
    told: list[str] = []
    with notation.speaking(notation.Units("fc", "ft")):
        job = Job("words", lambda job: notation.light(10.763910416709722), told.append, lambda error: None)
    job.start().wait(5.0)
    assert told == ["1.00 fc"]
