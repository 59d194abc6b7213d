import pytest

from even_beam.bench.planning import cautions
from even_beam.bench.records import Meter, Terms
from even_beam.bench.terms import terms_line
from even_beam.known import in_words as words
from even_beam.words import notation

METER = Meter("m", "Spectrometer")


@pytest.mark.parametrize(
    ("function", "value", "text"),
    [
        (notation.lux, 4812.4, "4\u202f812"),
        (notation.lux, 96.34, "96.3"),
        (notation.lux, 1.023, "1.02"),
        (notation.lux, 0.4, "0.4"),
        (notation.lux, 11_592.0, "11\u202f590"),
        (notation.lux, None, "–"),
        (notation.lux, float("nan"), "–"),
        (notation.kelvin, 5547.2, "5\u202f547"),
        (notation.dialled, 5600.0, "5600"),
        (notation.dialled, 10_000.0, "10\u202f000"),
        (notation.duv, 0.0006, "+0.0006"),
        (notation.duv, -0.0031, "−0.0031"),
        (notation.duv, 0.00001, "0.0000"),
        (notation.stops, 0.678, "+0.68"),
        (notation.stops, -0.001, "0.00"),
        (notation.percent, 0.39, "0.39"),
        (notation.percent, 38.9, "38.9"),
        (notation.percent, 50.0, "50"),
        (notation.percent, 100.0, "100"),
        (notation.times, 2.3784, "2.38"),
    ],
)
def test_numbers(function, value, text):
    assert function(value) == text


@pytest.mark.parametrize(
    ("metres", "unit", "text"),
    [
        (2.0, "m", "2 m"),
        (4.572, "m", "15 ft"),
        (3.048, "ft", "10 ft"),
        (2.0, "ft", "2 m"),
        (2.37, "ft", "7.78 ft"),
        (None, "m", "distance unknown"),
    ],
)
def test_distances_keep_the_unit_they_are_round_in(metres, unit, text):
    assert notation.distance(metres, unit) == text


def test_terms_in_one_line():
    terms = Terms(cct_k=5600.0, level_pct=25.0, configuration=("reflector",), distance_m=2.0)
    assert terms_line(terms) == "reflector · 5600 K · 25 % · 2 m · on axis"
    assert terms_line(Terms(mode="fixed", placement="equal")) == (
        "bare · no white dialled · level not stated · equal distance, not measured · on axis"
    )


def test_direction_only_where_the_meter_can_tell():
    """Check value 26: 5804 K against 5600 cannot be told from 5800 by a handheld meter; 5881 can from 5600."""
    small = words.white_error(5547.0, 5600.0, METER)
    assert not small.certain
    assert small.words == words.NO_SURE_DIFFERENCE
    assert words.white_error(5881.0, 5600.0, METER).words == "cooler than dialled"
    assert words.white_error(2970.0, 3200.0, METER).words == "warmer than dialled"
    assert words.tint_words(0.0006, 3200.0, METER) == words.NO_SURE_TINT
    assert words.tint_words(0.0040, 3200.0, METER) == "towards green"
    assert words.tint_words(-0.0040, 3200.0, METER) == "towards magenta"
    # CIE 15: the daylight locus lies above the Planckian; D56 is at Duv +0.0033 and is no green light
    assert words.tint_words(0.0033, 5600.0, METER) == words.NO_SURE_TINT
    assert words.tint_words(0.0070, 5600.0, METER) == "towards green"
    assert words.tint_words(0.0000, 5600.0, METER) == words.NO_SURE_TINT, "an exact Planckian is no magenta light"
    assert words.tint_words(-0.0030, 5600.0, METER) == "towards magenta"


def test_a_sharper_meter_may_say_more():
    sharp = Meter("m", "Bench instrument", xy_tolerance=0.0005)
    assert words.white_error(5547.0, 5600.0, sharp).words == "warmer than dialled"


def test_error_line():
    assert (
        words.error_line(words.white_error(5547.0, 5600.0, METER))
        == "−53 K · +1.7 mired · no difference you can be sure of"
    )


def test_cautions_defer_and_never_declare_safe():
    for text in (*cautions.for_run(("discharge lamp",), (1.0,)), cautions.MAINS):
        assert " is safe" not in text
        assert "safe to" not in text
    assert cautions.NEAR in cautions.for_run((), (2.0,))
    assert cautions.NEAR not in cautions.for_run((), (5.0,))
    assert cautions.DISCHARGE in cautions.for_run(("discharge lamp",), ())
    assert "licensed electrician" in cautions.MAINS
