"""What is said of a lamp in a line becomes the fields it belongs to, and nothing else is touched."""

from dataclasses import replace

import pytest

from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.kit.lamp_line import changed, partly_changed, words_of
from even_beam.desk.kit.price_line import priced

LAMP = LampForm("Tansy", "six-emitter", "spot, 260 W", price="640", notes="keep", claims={"ra": "95+"})


@pytest.mark.parametrize(
    ("text", "fields"),
    [
        ("97 Ra", {"claims": {"ra": "97"}}),
        ("Ra 97", {"claims": {"ra": "97"}}),
        ("95+ Ra, with the reflector", {"claims": {"ra": "95+, with the reflector"}}),
        ("5600 K", {"claims": {"cct": "5600"}}),
        ("2700 to 6500 K", {"claims": {"cct": "2700 to 6500"}}),
        ("46k lx at 1 m", {"claims": {"illuminance": "46k lx"}}),
        ("900 fc", {"claims": {"illuminance": "900 fc"}}),
        ("200 W", {"claims": {"power_w": "200"}}),
        ("820 EUR", {"price": "820", "currency": "EUR"}),
        ("1,480 $", {"price": "1480", "currency": "USD"}),
        ("£ 310", {"price": "310", "currency": "GBP"}),
        ("460 to 550 USD", {"price": "460 to 550", "currency": "USD"}),
        ("4 200 SEK", {"price": "4200", "currency": "SEK"}),
        ("1460 EUR for 3", {"price": "1460", "currency": "EUR", "price_terms": "for 3"}),
        (
            "460-550 USD each at the corner shop, October 2026",
            {"price": "460 to 550", "currency": "USD", "price_terms": "at the corner shop, October 2026"},
        ),
        ("optional frame 45 EUR", {"beside": (("frame", "45 EUR, optional"),)}),
        ("frame 45 EUR, optional", {"beside": (("frame", "45 EUR, optional"),)}),
        (
            "for dark rooms; for night; against rain",
            {"gear": (("for", "dark rooms"), ("for", "night"), ("against", "rain"))},
        ),
        ("5600 K ±200 K", {"claims": {"cct": "5600 K ±200"}}),
        ("5600 K; within 50 K", {"claims": {"cct": "5600, within 50 K"}}),
        ("3 % typical", {"gear": (("tolerance", "3 % typical"),)}),
        ("power 300 W", {"claims": {"power_w": "300"}}),
        ("back by 2026-12-01", {"return_by": "2026-12-01"}),
        ("goes back by 1 December 2026", {"return_by": "2026-12-01"}),
        ("lent by the herbarium", {"supplied_by": "lent by the herbarium"}),
        ("on approval until Friday", {"supplied_by": "on approval until Friday"}),
        ("serial S6-0417", {"serial": "S6-0417"}),
        ("note leans green, 97 Ra", {"notes": "leans green, 97 Ra"}),
        ("no Ra", {"claims": {}}),
        ("no price", {"price": ""}),
        ("kind panel; model soft panel, 200 W", {"kind": "panel", "model": "soft panel, 200 W"}),
        ("frame 45 EUR", {"beside": (("frame", "45 EUR"),)}),
        ("second supply € 120.50", {"beside": (("second supply", "120.5 EUR"),)}),
        ("weight 2.4 kg; mount common bayonet", {"gear": (("weight", "2.4 kg"), ("mount", "common bayonet"))}),
        ("dimmer curve: switchable", {"gear": (("dimmer curve", "switchable"),)}),
        ("in the box supply, cable", {"gear": (("in the box", "supply, cable"),)}),
        ("93 Rf; R9 88; 71 SSI; TLCI 95", {"claims": {"rf": "93", "r9": "88", "ssi": "71", "tlci": "95"}}),
        ("beam 30°", {"claims": {"beam_deg": "30"}}),
        ("15 to 50° beam, with the lens", {"claims": {"beam_deg": "15 to 50, with the lens"}}),
        ("is a window", {"what": "window"}),
        ("played by the simulated bicolour panel", {"simulated": "bicolour panel"}),
        ("97 Ra; 820 EUR; 200 W", {"claims": {"ra": "97", "power_w": "200"}, "price": "820"}),
    ],
)
def test_each_part_goes_to_its_field(text, fields):
    if fields.get("claims"):
        fields = {**fields, "claims": {**LAMP.claims, **fields["claims"]}}
    assert changed(text, LAMP) == replace(LAMP, **fields)


@pytest.mark.parametrize(
    "text",
    [
        "",
        " ; ",
        "banana",
        "5 dB",
        "back by soon",
        "97 Ra; banana",
        "nonsense 12 x",
        "is a banana",
        "played by a banana",
    ],
)
def test_what_is_nothing_of_a_lamp_is_refused_and_says_how(text):
    with pytest.raises(FormError) as raised:
        changed(text, LAMP)
    assert raised.value.field == "line"
    assert str(raised.value)


def test_a_row_is_told_anew_in_its_place_and_taken_back():
    lamp = changed("weight 2 kg; frame 45 EUR; mount bayonet", LAMP)
    assert changed("Weight 2.4 kg", lamp).gear == (("weight", "2.4 kg"), ("mount", "bayonet"))
    assert changed("no weight; no frame", lamp) == replace(lamp, gear=(("mount", "bayonet"),), beside=())
    assert words_of("weight 2.4 kg; no frame", lamp) == "frame: taken back; weight: 2.4 kg"


def test_what_a_line_changes_is_said_before_it_counts():
    assert words_of("97 Ra; 820 EUR", LAMP) == "claimed Ra: 97; price: 820 EUR"
    assert words_of("no Ra", LAMP) == "claimed Ra: taken back"
    assert words_of("95+ Ra", LAMP) == "nothing new"


def test_one_part_that_is_not_understood_takes_nothing_with_it():
    after, left = partly_changed("97 Ra; banana; 820 EUR", LAMP)
    assert (after.claims["ra"], after.price) == ("97", "820")
    assert [part for part, _ in left] == ["banana"]


@pytest.mark.parametrize("text", ["550 to 460 USD", "820 EUR banana", "820 EUR for 0"])
def test_prices_that_are_none(text):
    with pytest.raises(FormError):
        changed(text, LAMP)


@pytest.mark.parametrize(
    "text",
    [
        "460 to 550 USD, at the corner shop",
        "1460 EUR, for 3, optional",
        "45.5 CHF",
        "85 EUR, optional, seen 2026-10-03",
    ],
)
def test_a_price_written_by_the_program_is_understood_as_the_same(text):
    told = priced(text)
    assert told is not None and told[1].text == text
