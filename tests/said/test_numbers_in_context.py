"""What sits in doubt is decided by context: what is asked, what is dialled, what fits, what was typed all along."""

from dataclasses import replace

import pytest

from even_beam.bench.records import Terms
from even_beam.said import Situation, understand
from even_beam.words.entry import EntryError

HERE = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
ALL = Situation(("illuminance", "cct", "duv", "ra"), HERE)
UNDIALLED = Situation(("illuminance", "cct", "duv", "ra"), Terms())
LEVEL_RUN = Situation(("illuminance",), HERE, firm=True)
COLOUR_RUN = Situation(("cct", "duv"), HERE, firm=True)
HUES = Situation(("illuminance", "hue", "saturation"), Terms(mode="HSI", hue_deg=120.0, saturation_pct=100.0))


def figures(text: str, situation: Situation) -> dict[str, float | None]:
    said = understand(text, situation)
    assert not said.choices, said.question
    return {entry.quantity: entry.value for entry in said.entries}


def letters(text: str, situation: Situation) -> str:
    return "".join(choice.letter for choice in understand(text, situation).choices)


@pytest.mark.parametrize(
    ("text", "situation", "expected"),
    [
        ("5588", COLOUR_RUN, {"cct": 5588.0}),
        ("3200", COLOUR_RUN, {"cct": 3200.0}),
        ("5588 +0.001", COLOUR_RUN, {"cct": 5588.0, "duv": 0.001}),
        ("170 121 99", HUES, {"illuminance": 170.0, "hue": 121.0, "saturation": 99.0}),
        ("229", HUES, {"hue": 229.0}),
        ("820 5594 0.0012 96", ALL, {"illuminance": 820.0, "cct": 5594.0, "duv": 0.0012, "ra": 96.0}),
        ("96 0.0012 5594 820", ALL, {"illuminance": 820.0, "cct": 5594.0, "duv": 0.0012, "ra": 96.0}),
        ("8200 5480 dial 5600 100% at 1m", ALL, {"illuminance": 8200.0, "cct": 5480.0}),
        ("5480 8200 100% at 1m dial 5600", ALL, {"illuminance": 8200.0, "cct": 5480.0}),
        ("210 lx 4250 K dial 3300", ALL, {"illuminance": 210.0, "cct": 4250.0}),
        ("Ra 94 dial 6500 3067 K at 25 ft R9 13 29 fc", ALL,
         {"ra": 94.0, "cct": 3067.0, "r9": 13.0, "illuminance": pytest.approx(312.153, abs=1e-3)}),
        ("1500", UNDIALLED, {"illuminance": 1500.0}),
        ("21000", UNDIALLED, {"illuminance": 21_000.0}),
        ("9000", ALL, {"illuminance": 9000.0}),
        ("5594", replace(LEVEL_RUN, expected=(5000.0, 6000.0)), {"illuminance": 5594.0}),
        ("76", replace(ALL, lately=(30.0, 400.0)), {"illuminance": 76.0}),
        ("-0.002", ALL, {"duv": -0.002}),
        ("+0.01", ALL, {"duv": 0.01}),
        ("0.06", ALL, {"illuminance": 0.06}),
        ("0.0612", ALL, {"illuminance": 0.0612}),
        ("-0.06", ALL, {"duv": -0.06}),
    ],
)  # fmt: skip
def test_context_decides(text, situation, expected):
    assert figures(text, situation) == expected


@pytest.mark.parametrize(
    ("text", "situation", "asked"),
    [
        ("5594", ALL, "lk"),
        ("2500", UNDIALLED, "lk"),
        ("1800", UNDIALLED, "lk"),
        ("95 600", ALL, "lr"),
        ("95", ALL, "lr"),
        ("20", ALL, "lr"),
        ("76", replace(ALL, lately=(100.0, 400.0)), "lr"),
        ("1.600", ALL, "la"),
        ("820 at 5588 K", ALL, "kd"),
        ("hue 230; sat 54", HUES, "hd"),
    ],
)
def test_what_context_leaves_open_is_asked(text, situation, asked):
    assert letters(text, situation) == asked


def test_read_and_dialled_never_overwrite_each_other():
    said = understand("170 lx hue 121 sat 99", HUES)
    assert said.terms == {} and {e.quantity for e in said.entries} == {"illuminance", "hue", "saturation"}
    dialled = understand("set hue 60 set saturation 80", HUES)
    assert dialled.entries == () and (dialled.terms["hue_deg"], dialled.terms["saturation_pct"]) == (60.0, 80.0)


def test_in_footcandles_a_bare_number_is_one():
    (entry,) = understand("76", replace(ALL, asked=("illuminance",), level_unit="fc")).entries
    assert entry.value == pytest.approx(76.0 * 10.763910416709722)
    assert "76 fc" in entry.written


def test_a_letter_at_the_end_answers_wherever_the_number_stands():
    asked = replace(ALL, terms=replace(HERE, cct_k=5400.0))
    assert letters("5594 spot at 3 m", asked) == "lk"
    assert figures("5594 spot at 3 m l", asked) == {"illuminance": 5594.0}
    assert figures("97 with wide lens 1480 lx t", replace(ALL, asked=("illuminance",))) == {
        "illuminance": 1480.0,
        "tlci": 97.0,
    }
    with pytest.raises(EntryError, match="“z”"):
        understand("5594 spot z", asked)


def test_a_number_that_nobody_asked_for_is_never_taken_alone():
    """`820 5` may be 8205, 820.5 or a level at 5 %: nothing says which."""
    hand = replace(ALL, asked=("illuminance",))
    for text in ("820 5", "820 1", "820 0.0012"):
        with pytest.raises(EntryError):
            understand(text, hand)
    assert letters("820 97", hand) == "rtp"


def test_where_it_breaks_is_named():
    with pytest.raises(EntryError, match="“gizmo”"):
        understand("820 lx gizmo 50 %", ALL)
    with pytest.raises(EntryError, match="two figures of the same quantity"):
        understand("820 lx 50 % 900 lx", ALL)


@pytest.mark.parametrize(
    ("text", "names", "zoom"),
    [
        ("with broadlens flood at 10 ft", ("broadlens",), "flood"),
        ("with wide lens", ("wide lens",), None),
        ("with deep silver dish spot", ("deep silver dish",), "spot"),
        ("with spot", None, "spot"),
        ("big lens spot", None, None),
        ("softbox+half CTO wide", ("softbox", "half CTO"), "wide"),
    ],
)
def test_a_new_name_ends_where_a_term_begins(text, names, zoom):
    if text == "big lens spot":
        with pytest.raises(EntryError, match="with big"):
            understand(text, ALL)
        return
    terms = understand(text, ALL).terms
    assert terms.get("configuration") == names and terms.get("zoom") == zoom


def test_settings_alone_are_no_figures():
    alone = Situation((), HERE, settings_alone=True)
    assert understand("33", alone).terms == {"level_pct": 33.0}
    assert understand("4400 K spot 3 m", alone).terms["cct_k"] == 4400.0
    with pytest.raises(EntryError, match="no setting"):
        understand("Ra 96", alone)


@pytest.mark.parametrize(
    ("text", "expected", "terms"),
    [
        ("lux 820 dimmer 50", {"illuminance": 820.0}, {"level_pct": 50.0}),
        ("820 lux 5594", {"illuminance": 820.0, "cct": 5594.0}, {}),
        ("K 5590 lux 820", {"illuminance": 820.0, "cct": 5590.0}, {}),
        ("half power 410", {"illuminance": 410.0}, {"level_pct": 50.0}),
        ("820 (50 %)", {"illuminance": 820.0}, {"level_pct": 50.0}),
        ("dimmed to 12,5 % 102 lx", {"illuminance": 102.0}, {"level_pct": 12.5}),
    ],
)
def test_as_some_people_say_it(text, expected, terms):
    assert figures(text, ALL) == expected
    assert understand(text, ALL).terms == terms
