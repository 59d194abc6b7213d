import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.words.entry import AmbiguousEntryError, EntryError, parse


@pytest.mark.parametrize(
    ("text", "asked", "quantity", "value"),
    [
        ("1.6k", "illuminance", "illuminance", 1600.0),
        ("1,600", "illuminance", "illuminance", 1600.0),
        ("1,600,000", "illuminance", "illuminance", 1_600_000.0),
        ("1 600 lx", None, "illuminance", 1600.0),
        ("160 fc", None, "illuminance", 1722.2),
        ("1,5", "illuminance", "illuminance", 1.5),
        ("1600.", "illuminance", "illuminance", 1600.0),
        ("0.250", "illuminance", "illuminance", 0.25),
        ("2 klx", None, "illuminance", 2000.0),
        ("sixteen hundred", "illuminance", "illuminance", 1600.0),
        ("eleven eighty", "illuminance", "illuminance", 1180.0),
        ("two thousand three hundred", "illuminance", "illuminance", 2300.0),
        ("twenty-five", "illuminance", "illuminance", 25.0),
        ("10'", None, "distance", 3.048),
        ("3.05 m", None, "distance", 3.05),
        ("25 ft", None, "distance", 7.62),
        ("12'6\"", None, "distance", 3.81),
        ("250 cm", None, "distance", 2.5),
        ("5600K", None, "cct", 5600.0),
        ("5600 k", None, "cct", 5600.0),
        ("+0.0006 duv", None, "duv", 0.0006),
        ("duv −0.003", None, "duv", -0.003),
        ("R9 88", None, "r9", 88.0),
        ("R9: -12", None, "r9", -12.0),
        ("ra 95", None, "ra", 95.0),
        ("120 W", None, "power_w", 120.0),
        ("46 VA", None, "power_va", 46.0),
        ("25 kHz", None, "flicker_hz", 25_000.0),
    ],
)
def test_figures_as_people_write_them(text, asked, quantity, value):
    entry = parse(text, asked)
    assert entry.quantity == quantity
    assert entry.value == pytest.approx(value, rel=1e-4)
    assert entry.text == text


@pytest.mark.parametrize(
    ("text", "exact", "written"),
    [
        ("f/16.8", 21.1, "f/16 and 8 tenths"),
        ("f/16+8", 21.1, "f/16 and 8 tenths"),
        ("f/16 and 8", 21.1, "f/16 and 8 tenths"),
        ("f/5.6.7", 7.21, "f/5.6 and 7 tenths"),
        ("f/22.9", 30.9, "f/22 and 9 tenths"),
        ("f/8.7", 10.2, "f/8 and 7 tenths"),
        ("f/5.6", 5.657, "f/5.6"),
        ("f/1.4", 1.414, "f/1.4"),
        ("f/4.5", 4.5, "f/4.5"),
        ("f/3.5", 3.5, "f/3.5"),
        ("f/6.3", 6.3, "f/6.3"),
        ("five-six and a half", 6.73, "f/5.6 and 5 tenths"),
        ("4/5.6 split", 4.76, "f/4 and 5 tenths"),
        ("f11", 11.31, "f/11"),
    ],
)
def test_f_numbers(text, exact, written):
    """A whole full stop with one decimal is tenths; the nominal stops are themselves (check value 41)."""
    entry = parse(text)
    assert entry.quantity == "f_stop"
    assert entry.value == pytest.approx(exact, abs=0.05)
    assert entry.written == written


@pytest.mark.parametrize(
    ("text", "asked", "low", "high", "qualifier"),
    [
        ("99+", "ra", 99.0, None, "at least"),
        ("low 80s", "ra", 80.0, 83.0, "low 80s"),
        ("high 90s", "ra", 97.0, 99.0, "high 90s"),
        ("96 to 97", "ra", 96.0, 97.0, "range"),
        ("2700 to 6500 K", None, 2700.0, 6500.0, "range"),
        ("less than 60 off", "cct", None, 60.0, "below"),
        ("over 2000 lx", None, 2000.0, None, "above"),
    ],
)
def test_bounds_and_ranges_are_never_sharpened(text, asked, low, high, qualifier):
    entry = parse(text, asked)
    assert entry.value is None
    assert (entry.low, entry.high, entry.qualifier) == (low, high, qualifier)


def test_about_keeps_its_word():
    entry = parse("about 50 degrees")
    assert (entry.value, entry.qualifier) == (50.0, "about")


def test_a_range_takes_its_unit_from_its_end():
    entry = parse("20 to 62 fc")
    assert entry.low == pytest.approx(215.3, abs=0.1)
    assert entry.high == pytest.approx(667.4, abs=0.1)


@pytest.mark.parametrize("text", ["1.600", "12.500", "-1.600"])
def test_a_point_and_three_digits_ask(text):
    with pytest.raises(AmbiguousEntryError) as raised:
        parse(text, "illuminance")
    assert len(raised.value.choices) == 2
    for choice in raised.value.choices:
        assert parse(choice, "duv").value is not None


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "nothing was typed"),
        ("2a3", "“a3” is not known"),
        ("16OO", "“oo” is not known"),
        ("nonsense", "not a figure"),
        ("-5 lx", "no negative"),
        ("f/banana", "not a figure"),
        ("f/5+11", "not an f-number"),
        ("4/8 split", "neighbouring"),
        ("97 to 96", "from low to high"),
        ("5600 k warm", "kelvin, or thousands"),
        ("1,60,0", "not a number"),
    ],
)
def test_what_cannot_be_understood_says_what_to_type(text, words):
    with pytest.raises(EntryError) as raised:
        parse(text, "illuminance")
    assert words in str(raised.value)


@given(st.text(max_size=40))
def test_any_text_is_understood_or_refused_calmly(text):
    try:
        parse(text, "illuminance")
    except EntryError as error:
        assert str(error)


@given(st.floats(0.001, 1e6).map(lambda v: float(f"{v:.4g}")))
def test_a_plain_number_means_itself(value):
    try:
        assert parse(f"{value:f}".rstrip("0"), "illuminance").value == pytest.approx(value, rel=1e-6)
    except AmbiguousEntryError:
        assert f"{value:f}".rstrip("0").partition(".")[2].__len__() == 3


@pytest.mark.parametrize(
    ("typed", "written"),
    [("+0.0010 duv", "+0.0010 Duv"), ("-0.003 duv", "−0.0030 Duv"), ("0.00215 duv", "+0.00215 Duv")],
)
def test_a_tint_is_confirmed_with_its_sign(typed, written):
    assert parse(typed).written == written
