"""Lines as people say them: what each means, what it asks, and what is refused."""

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench.exposure import Exposure
from even_beam.bench.records import Terms
from even_beam.said import Situation, understand
from even_beam.words.entry import EntryError

HERE = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
SPECTROMETER = Situation(("illuminance", "cct", "duv", "ra"), HERE, fitted=("dish", "softbox"))
HAND = Situation(("illuminance",), HERE)
COLOUR = Situation(("cct", "duv"), HERE)
HUES = Situation(("hue", "saturation"), Terms(mode="HSI", hue_deg=30.0, saturation_pct=100.0), firm=True)


def figures(text: str, situation: Situation = SPECTROMETER) -> dict[str, float | None]:
    return {entry.quantity: entry.value for entry in understand(text, situation).entries}


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("820", {"illuminance": 820.0}),
        ("1 600", {"illuminance": 1600.0}),
        ("640 5594 K", {"illuminance": 640.0, "cct": 5594.0}),
        ("0.0012", {"duv": 0.0012}),
        ("Ra 96 5590 K", {"ra": 96.0, "cct": 5590.0}),
        ("TLMF 93", {"tlmf": 93.0}),
        ("R9 -12", {"r9": -12.0}),
        ("4M", {"cc": -4.0}),
        ("4 G", {"cc": 4.0}),
        ("G4", {"cc": 4.0}),
        ("½ green", {"cc": 15.0}),
        ("quarter magenta", {"cc": -7.5}),
        ("20 foot candles", {"illuminance": pytest.approx(215.278, abs=1e-3)}),
        ("5594 l", {"illuminance": 5594.0}),
        ("95 r", {"ra": 95.0}),
        ("5.6 K k", {"cct": 5600.0}),
    ],
)
def test_figures(text, expected):
    assert figures(text) == expected


def test_an_f_number_with_its_tenths_in_words():
    """f/22 and nine tenths is 2^((9 + 0.9) / 2) = 30.91: powers of the square root of two."""
    assert figures("f/22 and nine tenths") == {"f_stop": pytest.approx(2.0 ** (9.9 / 2.0))}


@pytest.mark.parametrize(
    ("text", "low", "high"),
    [
        ("Ra 96 to 97", 96.0, 97.0),
        ("Ra > 95", 95.0, None),
        ("Ra 95+", 95.0, None),
        ("96-97 Ra", 96.0, 97.0),
        ("low 90's Ra", 90.0, 93.0),
        ("Ra less than 90", None, 90.0),
    ],
)
def test_bounds_and_ranges_before_and_after_the_name(text, low, high):
    (entry,) = understand(text, SPECTROMETER).entries
    assert (entry.quantity, entry.value, entry.low, entry.high) == ("ra", None, low, high)


def test_less_than_so_much_off_what_is_dialled():
    (entry,) = understand("less than 60 off", SPECTROMETER).entries
    assert (entry.quantity, entry.low, entry.high) == ("cct", 5540.0, 5660.0)
    (mired,) = understand("under 10 mired off", SPECTROMETER).entries
    assert (mired.low, mired.high) == (pytest.approx(1e6 / (1e6 / 5600 + 10)), pytest.approx(1e6 / (1e6 / 5600 - 10)))
    with pytest.raises(EntryError, match="off what"):
        understand("less than 60 off", Situation(("cct",), Terms()))


def test_an_ssi_keeps_its_reference():
    (entry,) = understand("SSI 84 P3200", SPECTROMETER).entries
    assert (entry.quantity, entry.value, entry.qualifier) == ("ssi", 84.0, "P3200")


@pytest.mark.parametrize(
    ("text", "terms"),
    [
        ("50 %", {"level_pct": 50.0}),
        ("255/255", {"level_pct": 100.0}),
        ("128/255", {"level_pct": 50.2}),
        ("spot", {"zoom": "spot"}),
        ("at 25 ft", {"distance_m": pytest.approx(7.62), "placement": "on axis"}),
        ("25 ft", {"distance_m": pytest.approx(7.62), "placement": "on axis"}),
        ("dish + full CTO", {"configuration": ("dish", "full CTO")}),
        ("bare", {"configuration": ()}),
        ("dial 3200", {"cct_k": 3200.0, "mode": "CCT"}),
        ("tint 12", {"tint": "12"}),
        ("sat 80", {"saturation_pct": 80.0}),
        ("15°", {"angle_deg": 15.0}),
        ("15° left", {"angle_deg": -15.0, "turn_deg": 0.0}),
        ("15 left", {"angle_deg": -15.0, "turn_deg": 0.0}),
        ("15° up", {"angle_deg": 15.0, "turn_deg": 90.0}),
        ("15 deg down", {"angle_deg": -15.0, "turn_deg": 90.0}),
        ("plane 45", {"turn_deg": 45.0}),
        ("in the upright plane", {"turn_deg": 90.0}),
        ("centre", {"angle_deg": 0.0}),
        ("hue 200", {"hue_deg": 200.0, "mode": "HSI", "cct_k": None}),
    ],
)
def test_terms_alone(text, terms):
    said = understand(text, SPECTROMETER)
    assert said.entries == ()
    assert said.terms == terms


@pytest.mark.parametrize(
    ("text", "figures"),
    [
        ("1250 lx 3188 K +0.001 Ra 95", {"illuminance": 1250.0, "cct": 3188.0, "duv": 0.001, "ra": 95.0}),
        ("3188 K -0.002 TLCI 92", {"cct": 3188.0, "duv": -0.002, "tlci": 92.0}),
        ("95 Ra 3188 K", {"ra": 95.0, "cct": 3188.0}),
        ("3188 K +0.001 duv Ra 95", {"cct": 3188.0, "duv": 0.001, "ra": 95.0}),
        ("3188 K −0.002", {"cct": 3188.0, "duv": -0.002}),
        ("1,250 lx, 3188 K, +0.001, Ra 95", {"illuminance": 1250.0, "cct": 3188.0, "duv": 0.001, "ra": 95.0}),
    ],
)
def test_a_name_between_two_numbers_goes_with_the_one_it_can_be_of(text, figures):
    said = understand(text, Situation(("illuminance", "cct", "duv"), Terms()))
    assert {entry.quantity: entry.value for entry in said.entries} == figures


def test_an_angle_is_said_with_the_plane_in_force():
    """After `10 up` a number alone stays upright, and says so; a bare number is never an angle."""
    up = Situation(("illuminance",), Terms(distance_m=3.0, angle_deg=10.0, turn_deg=90.0))
    said = understand("20 deg", up)
    assert said.terms == {"angle_deg": 20.0}
    assert "20° off axis in the upright plane" in said.written
    assert "in the plane of 45°" in understand("plane 45; 20 deg", up).written
    assert "angle_deg" not in understand("820", up).terms


def test_an_angle_by_the_distance():
    """A foot beside the axis at 3 m: the arc tangent of 0.3048 / 3 is 5.80 degrees."""
    assert understand("1 ft right", SPECTROMETER).terms == {"angle_deg": pytest.approx(5.8), "turn_deg": 0.0}
    assert understand("at 10 ft 1 ft left", HAND).terms["angle_deg"] == pytest.approx(-5.7)
    with pytest.raises(EntryError, match="distance"):
        understand("1 ft right", Situation(("illuminance",), Terms()))


def test_a_figure_with_the_terms_it_belongs_to():
    said = understand("820 50%", SPECTROMETER)
    assert (said.entries[0].value, said.terms) == (820.0, {"level_pct": 50.0})
    said = understand("spot; dial 3200; 1610 lx at 25 ft", SPECTROMETER)
    assert said.entries[0].value == 1610.0
    assert set(said.terms) == {"zoom", "cct_k", "mode", "distance_m", "placement"}


@pytest.mark.parametrize(
    ("text", "situation", "letters"),
    [
        ("5594", SPECTROMETER, "lk"),
        ("5594", HAND, "lk"),
        ("3200", HAND, "ld"),
        ("3200", COLOUR, "kd"),
        ("95", SPECTROMETER, "lr"),
        ("29.56 K", SPECTROMETER, "kl"),
        ("5.6 K", HAND, "kl"),
        ("CRI 96", SPECTROMETER, "ae"),
        ("96 CRI", SPECTROMETER, "ae"),
    ],
)
def test_where_two_readings_are_possible_it_asks_and_every_answer_settles_it(text, situation, letters):
    said = understand(text, situation)
    assert said.entries == ()
    assert "".join(choice.letter for choice in said.choices) == letters
    for choice in said.choices:
        settled = understand(choice.text, situation)
        assert not settled.choices
        assert settled.entries or settled.terms
        by_key = understand(f"{text} {choice.letter}", situation)  # one key answers
        assert by_key.terms == settled.terms
        assert [(e.quantity, e.value) for e in by_key.entries] == [(e.quantity, e.value) for e in settled.entries]


def test_what_is_not_asked_twice():
    assert figures("CRI 96", Situation(("ra",), HERE, cri="re")) == {"re": 96.0}
    assert figures("5594", COLOUR) == {"cct": 5594.0}
    assert figures("5594", Situation(("illuminance",), HERE, firm=True, expected=(5000.0, 6000.0))) == {
        "illuminance": 5594.0
    }
    assert figures("3200", Situation(("illuminance",), HERE, firm=True)) == {"illuminance": 3200.0}


@pytest.mark.parametrize("text", ["36", "36°", "hue 36"])
def test_in_a_run_of_hues_a_number_is_degrees(text):
    assert figures(text, HUES) == {"hue": 36.0}


def test_what_f_numbers_stand_for():
    assert understand("ISO 800 1/50 dome", HAND).exposure == Exposure(800.0, 0.02, 340.0)
    before = Situation(("f_stop",), HERE, exposure=Exposure(800.0, 0.02))
    assert understand("1/8000", before).exposure == Exposure(800.0, 1.0 / 8000.0)
    assert understand("240 fps", before).exposure == Exposure(800.0, 1.0 / 480.0)
    with pytest.raises(EntryError, match="ISO"):
        understand("1/8000", HAND)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("16 00", "blanks group digits"),
        ("16oo", "“16oo”"),
        ("24OO", "“24OO”"),  # as it was typed
        ("1600 lx; 150 fc", "same quantity"),
        ("250 %", "cannot be"),
        ("dial 900 K", "cannot be"),
        ("", "nothing was typed"),
    ],
)
def test_what_is_refused_says_why(text, words):
    with pytest.raises(EntryError, match=re.escape(words)):
        understand(text, HAND)


@given(st.text(max_size=60), st.sampled_from((SPECTROMETER, HAND, COLOUR, HUES)))
def test_any_line_is_understood_asked_about_or_refused_calmly(text, situation):
    try:
        said = understand(text, situation)
    except EntryError as error:
        assert str(error)
    else:
        assert said.written


@given(st.floats(0.1, 99999.0).map(lambda v: float(f"{v:.4g}")), st.integers(1, 100))
def test_a_figure_and_its_level_are_never_one_number(lux, level):
    said = understand(f"{lux:f} lx {level}%", HAND)
    assert said.entries[0].value == pytest.approx(lux, rel=1e-6)
    assert said.terms == {"level_pct": float(level)}


@pytest.mark.parametrize("line", ["5594 K read", "read 5594 K", "Read 5594 K; dial 5600"])
def test_what_was_read_may_be_said_so(line):
    """The line itself offers `5594 K read`: what it says can be typed."""
    said = understand(line, Situation(asked=("illuminance", "cct")))
    assert [(entry.quantity, entry.value) for entry in said.entries] == [("cct", 5594.0)]


@pytest.mark.parametrize(
    ("text", "terms"),
    [
        ("zoom 30", {"zoom": "30"}),
        ("zoom 30°", {"zoom": "30°"}),
        ("zoomed to 45 degrees", {"zoom": "45°"}),
        ("zoom 50 %", {"zoom": "50 %"}),
        ("5.5 zoom", {"zoom": "5.5"}),
        ("zoom spot", {"zoom": "spot"}),
        ("full flood", {"zoom": "flood"}),
        ("narrow", {"zoom": "narrow"}),
        ("full", {"level_pct": 100.0}),
        ("full power zoom 30", {"level_pct": 100.0, "zoom": "30"}),
        ("half blue", {"configuration": ("half blue",)}),
        ("Fresnel", {"configuration": ("fresnel",)}),
        ("umbrella + barn doors + half CTO", {"configuration": ("umbrella", "barn doors", "half CTO")}),
        ("softbox + three quarters CTO", {"configuration": ("softbox", "three quarters CTO")}),
    ],
)
def test_zoom_level_and_gels_as_people_say_them(text, terms):
    said = understand(text, SPECTROMETER)
    assert said.terms == terms and not said.entries


def test_a_zoom_beside_a_figure_and_as_it_was_written_before():
    said = understand("zoom 30 1200 lx", replace(SPECTROMETER, zooms=frozenset({"30°"})))
    assert said.terms == {"zoom": "30°"} and figures("zoom 30 1200 lx") == {"illuminance": 1200.0}
    assert figures("half green") == {"cc": 15.0}, "a cast that a meter shows, and no gel"
    assert figures("full 800") == {"illuminance": 800.0}


@pytest.mark.parametrize("text", ["full 50 %", "3 m 4 m 800 lx", "spot flood", "dial 5600 dial 3200"])
def test_one_term_twice_is_asked_and_not_overwritten(text):
    with pytest.raises(EntryError, match="which of the two"):
        understand(text, SPECTROMETER)


@pytest.mark.parametrize("text", ["zoom", "zoom 30 ft", "zoom somewhere"])
def test_a_zoom_that_is_none(text):
    with pytest.raises(EntryError):
        understand(text, SPECTROMETER)


def test_words_that_are_nothing_known_may_sit_on_the_lamp():
    with pytest.raises(EntryError, match="with gizmo"):
        understand("gizmo", SPECTROMETER)
    assert understand("with gizmo", SPECTROMETER).terms == {"configuration": ("gizmo",)}


@pytest.mark.parametrize("name", ["ra", "rf", "tlci", "ssi"])
def test_a_bare_number_may_be_a_score_that_is_asked(name):
    asked = Situation(("illuminance", name), HERE)
    for value in ("20", "100"):
        by_letter = {choice.label: choice for choice in understand(value, asked).choices}
        assert len(by_letter) == 2, "a level, or the score"
        label = {"ra": "Ra", "rf": "Rf", "tlci": "TLCI", "ssi": "SSI"}[name]
        assert figures(f"{value} {by_letter[f'{label} {value}'].letter}", asked) == {name: float(value)}
    assert figures("19", asked) == {"illuminance": 19.0} and figures("101", asked) == {"illuminance": 101.0}


@pytest.mark.parametrize(
    "white", [2700, 2800, 3000, 3200, 4000, 4300, 4400, 4500, 5000, 5400, 5500, 6000, 6500, 7500, 8000]
)
def test_usual_whites_may_be_dialled(white):
    said = understand(str(white), HAND)
    assert [choice.letter for choice in said.choices][-1] == "d"
    assert understand(f"{white} d", HAND).terms["cct_k"] == white


@pytest.mark.parametrize(
    ("text", "percent"),
    [("128/255", 50.2), ("50/100", 50.0), ("512/1023", 50.05), ("500/1000", 50.0), ("32768/65535", 50.0)],
)
def test_levels_on_the_scales_that_lamps_show(text, percent):
    assert understand(text, HAND).terms == {"level_pct": pytest.approx(percent, abs=0.005)}


@pytest.mark.parametrize(
    ("text", "cc"),
    [("full green", 30.0), ("half magenta", -15.0), ("quarter green", 7.5), ("eighth green", 3.75), ("1/2 green", 15.0),
     ("1/4 green", 7.5), ("1/8 magenta", -3.75), ("¼ green", 7.5), ("⅛ magenta", -3.75)],
)  # fmt: skip
def test_casts_in_parts_of_a_gel(text, cc):
    assert figures(text) == {"cc": cc}


def test_a_head_stated_before_stays_in_force():
    before = Situation(("f_stop",), HERE, exposure=Exposure(800.0, 0.02, 340.0))
    assert understand("ISO 400", before).exposure == Exposure(400.0, 0.02, 340.0)


def test_degrees_of_a_hue_go_from_zero_to_360():
    assert figures("0", HUES) == {"hue": 0.0} and figures("360", HUES) == {"hue": 360.0}


def test_a_settled_number_keeps_what_was_typed():
    (entry,) = understand("0.0012", SPECTROMETER).entries
    assert (entry.text, entry.quantity) == ("0.0012", "duv")


@pytest.mark.parametrize("figure", ["1", "100", "55.5"])
def test_a_number_that_can_be_a_score_goes_with_the_name_behind_it(figure):
    assert figures(f"{figure} Ra 800 lx") == {"ra": float(figure), "illuminance": 800.0}


def test_a_small_figure_with_a_capital_k_is_thousands_of_lux_or_a_white():
    labels = [choice.label for choice in understand("5.6 K", HAND).choices]
    assert labels == ["5600 K", "5\u202f600 lx"]


WORN = replace(HERE, configuration=("reflector", "Full CTO", "red gel"), tint="+2", zoom="spot")


@pytest.mark.parametrize(
    ("text", "left"),
    [
        ("no gel", ("reflector",)),
        ("without gels", ("reflector",)),
        ("without the full CTO", ("reflector", "red gel")),
        ("no reflector", ("Full CTO", "red gel")),
        ("nothing on it", ()),
        ("no modifier", ()),
        ("without frost", ("reflector", "Full CTO", "red gel")),
    ],
)
def test_what_is_taken_off_leaves_the_rest_on(text, left):
    for line in (f"820 lx {text}", f"{text} 820 lx"):
        said = understand(line, Situation(("illuminance",), WORN))
        assert said.terms == {"configuration": left}, line
        assert [entry.value for entry in said.entries] == [820.0]


def test_what_is_not_touched_and_what_nobody_can_take_off():
    assert understand("no tint", Situation(("illuminance",), WORN)).terms == {"tint": ""}
    assert understand("no zoom 12 lx", Situation(("illuminance",), WORN)).terms == {"zoom": ""}
    with pytest.raises(EntryError, match="which of softbox is the gel"):
        understand("no gel", Situation(("illuminance",), replace(HERE, configuration=("softbox",))))
    with pytest.raises(EntryError, match="“no” is not understood"):
        understand("no bananas", Situation(("illuminance",), WORN))


@pytest.mark.parametrize(
    ("text", "duv"),
    [("minus 0.002", -0.002), ("plus .0012", 0.0012), ("duv minus 0.002", -0.002), ("minus 0.002 tint", -0.002)],
)
def test_a_sign_may_be_said_in_a_word(text, duv):
    assert figures(f"{text} 5600 K") == {"duv": duv, "cct": 5600.0}
    assert understand("tint minus 2", SPECTROMETER).terms == {"tint": "-2"}
    assert understand("tint plus 3 820 lx", SPECTROMETER).terms == {"tint": "+3"}
