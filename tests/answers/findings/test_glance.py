"""A lamp at a glance, against figures that were drawn here: what was typed, with the colour arithmetic of CIE 15."""

import random

import numpy as np
import pytest

from even_beam.answers.findings import glance_words
from even_beam.answers.findings.glance import Glance
from even_beam.answers.findings.witness import Witness
from even_beam.answers.intake.importing import AsSaid, import_files
from even_beam.collection.collection import Collection
from even_beam.words import notation

HEAD = "fixture,cct_k,tint,dimmer_pct,configuration,distance,meter,quantity,value,unit"
EXPOSED = "ISO 800, 1/50"


@pytest.fixture
def glance_of(tmp_path, logbook, clock):
    def of(rows: list[str]) -> Glance:
        path = tmp_path / "rows.csv"
        path.write_text("\n".join([HEAD, *rows]))
        import_files([path], logbook, clock, AsSaid(guess=True))
        witness = Witness(Collection(logbook))
        (entrant,) = witness.entrants()
        return Glance(witness, entrant)

    return of


def rows(
    white: int, lux: float, gives: float, duv: float | None = None, level: int = 100, at: str = "bare,2 m"
) -> list:
    place = f"Alder,{white},,{level},{at},Wall meter"
    found = [f"{place},illuminance,{lux},lx", f"{place},cct,{gives},K"]
    return [*found, *([f"{place},duv,{duv},"] if duv is not None else [])]


def texts(glance: Glance) -> list[str]:
    return [text for text, _ in glance_words.sentences(glance)]


def test_the_sentences_of_a_lamp_that_is_warm_below_and_right_above(glance_of):
    """3200 K dialled and 3020 K read are 18.6 mired, 4400 and 4120 are 15.4 (1e6 over each); a meter tells 6."""
    glance = glance_of([*rows(3200, 2140, 3020), *rows(4400, 2400, 4120), *rows(5600, 2290, 5630)])
    assert texts(glance) == [
        "Alder gives 2\u202f290 lx at 2 m.",
        "Its white is right at 5600 K and warm at 3200 and 4400 K (by up to 19 mired).",
    ]
    assert [row.dial for row in glance.whites] == ["3400", "4640", "leave"]
    assert glance.at is not None and glance.at.dialled_k == 5600.0


def test_the_dial_told_gives_the_white_on_the_line_between_the_readings(glance_of):
    """Brute force: the white that the told dial gives, interpolated in mired, is the one that was asked for."""
    pairs = {3200: 3020, 4400: 4120, 5600: 5630}
    glance = glance_of([line for white, gives in pairs.items() for line in rows(white, 1000, gives)])
    dialled, gives = (np.sort(1e6 / np.array(side, dtype=float)) for side in (list(pairs), list(pairs.values())))
    for row in glance.whites:
        if row.dial != "leave":
            got = 1e6 / np.interp(1e6 / float(row.dial), dialled, gives)
            assert got == pytest.approx(row.dialled_k, rel=0.003), row.dial


@pytest.mark.parametrize(
    ("low", "says"),
    [
        (10.2, "and dims to 1 % of it"),
        (110, "and at 1 % still gives 11 % of it"),
        (2, "and at 1 % only gives 0.2 % of it"),
    ],
)
def test_what_the_lowest_level_gives(glance_of, low, says):
    glance = glance_of([*rows(5600, 1000, 5600), *rows(5600, 500, 5600, level=50), *rows(5600, low, 5600, level=1)])
    assert texts(glance)[0] == f"Alder gives 1\u202f000 lx at 2 m {says}."


@pytest.mark.parametrize(
    ("duv", "says"),
    [
        (-0.0066, "It leans magenta (0.007): an eighth plus green puts it right."),
        (0.0033, "It has no tint that this meter can see."),
        (0.0083, "It leans green (0.005): an eighth minus green puts it right."),
    ],
)
def test_a_tint_is_told_beyond_daylight_and_the_planckian_with_what_mends_it(glance_of, duv, says):
    """CIE daylight of 5600 K lies 0.0033 above the Planckian: what lies between the two is no tint."""
    assert texts(glance_of(rows(5600, 1000, 5600, duv)))[-1] == says


def test_it_is_of_the_lamp_as_it_usually_stands(glance_of):
    """Not behind a gel, not with its tint turned, at the level and the mark where it is bright and most was read."""
    turned = "Alder,5600,+30,100,bare,2 m,Wall meter,cct,5000,K"
    behind = [line for white in (3200, 4300, 5600, 6500) for line in rows(white, 300, 2900, at="full CTO,2 m")]
    glance = glance_of([*rows(5600, 1000, 5600), *rows(5600, 500, 5610, level=50), turned, *behind])
    assert glance.at is not None and glance.at.lux == pytest.approx(1000.0)
    assert glance.at.cct_k == pytest.approx(5600.0)
    assert glance_words.terms_line(glance).startswith("dialled 5600 K, bare, 100 %, 2 m, Wall meter, ")


def test_the_five_figures_and_what_follows(glance_of):
    place = "Alder,5600,,100,bare,2 m,Wall meter"
    scores = [f"{place},ra,96,", f"{place},r9,84,"]
    dimmed = [line for level in (50, 10, 1) for line in rows(5600, 10 * level, 6050, 0.004, level)]
    glance = glance_of([*rows(5600, 1000, 6050, 0.004), *dimmed, *scores])
    found = {one.label: one for one in glance_words.figures(glance, EXPOSED)}
    assert list(found) == ["Light at 2 m", "White", "Tint", "Colour", "Dims by"]
    light = found["Light at 2 m"]
    assert (light.value, light.unit, light.lines[0]) == ("1\u202f000", "lx", "4\u202f000 cd")
    # N^2 = E t S / C, ISO 2720: 1000 lx at 1/50 s and ISO 800 with C 250 are N 8: f/8
    assert light.lines[1] == f"f/8 at {EXPOSED}"
    assert found["White"].lines == ("13 mired cool for 5600 K",)
    assert found["Colour"].value == "96" and found["Colour"].lines == ("deep red R9 84",)
    assert (found["Dims by"].value, found["Dims by"].lines[0]) == ("6.6", "1 % gives 1 %")


def test_nothing_is_told_that_was_not_read(glance_of):
    place = "Alder,,,,bare,,Wall meter"
    glance = glance_of([f"{place},illuminance,800,lx"])
    assert texts(glance) == ["Alder gives 800 lx."]
    assert [one.label for one in glance_words.figures(glance, EXPOSED)] == ["Light"]
    assert all(one.lines == () or "cd" not in one.lines[0] for one in glance_words.figures(glance, EXPOSED))


@pytest.mark.parametrize("seed", range(12))
def test_every_sentence_is_short_begins_with_no_figure_and_rests_on_readings(glance_of, seed):
    draw = random.Random(seed)
    every = [
        line
        for white in draw.sample([2700, 3200, 4300, 5600, 6500, 8000], draw.randint(1, 6))
        for level in draw.sample([100, 50, 10, 1], draw.randint(1, 4))
        for line in rows(
            white,
            round(draw.uniform(100, 9000) * level / 100, 2),
            round(1e6 / (1e6 / white + draw.uniform(-20, 20))),
            draw.choice([None, round(draw.uniform(-0.012, 0.012), 4)]),
            level,
        )
    ]
    glance = glance_of(every)
    own = {m.reading.id for m in glance.entrant.readings}
    for text, readings in glance_words.sentences(glance):
        assert len(text.split()) <= 25 and not text[0].isdigit() and text.endswith("."), text
        assert readings and set(readings) <= own
        assert text.count("(") == text.count(")") and "((" not in text
    for one in glance_words.figures(glance, EXPOSED):
        assert one.value not in {"", notation.NONE} and set(one.readings) <= own


def test_a_dimmed_white_does_not_stand_among_full_ones(glance_of):
    """5600 K was read at half level alone: under a line that says 100 % its level would be a false one."""
    glance = glance_of([*rows(3200, 2000, 3200), *rows(5600, 1000, 5600, level=50)])
    assert [row.dialled_k for row in glance.whites] == [3200.0]
    assert glance_words.terms_line(glance).startswith("dialled 3200 K, bare, 100 %")


def test_an_evening_that_contradicts_is_said(tmp_path, logbook, clock):
    first, second = "2026-09-03T19:00:00+00:00", "2026-11-02T19:00:00+00:00"
    at = "Alder,5600,100,bare,2 m,Wall meter,illuminance"
    path = tmp_path / "rows.csv"
    head = "session,fixture,cct_k,dimmer_pct,configuration,distance,meter,quantity,value,unit,time"
    read = [f"First,{at},3060,lx,{first}"] * 3 + [f"Second,{at},5440,lx,{second}"]
    path.write_text("\n".join([head, *read]))
    import_files([path], logbook, clock, AsSaid(guess=True))
    witness = Witness(Collection(logbook))
    said = texts(Glance(witness, witness.entrants()[0]))
    assert said[0] == "Alder gives 3\u202f060 lx at 2 m."
    assert said[-1].startswith(
        "It rests on one of two evenings that disagree (3\u202f060 lx on 3 Sep 2026 and 5\u202f440"
    )


@pytest.mark.parametrize(
    ("dials", "stands"), [((2998, 5606, 6500), 5606), ((2998, 5561, 5621), 5621), ((3207, 4400), 3207)]
)
def test_a_dial_of_steps_stands_at_the_white_that_it_means(glance_of, dials, stands):
    """Eight bits have no 5600 K; a lamp set to 5606 stands as usual, and is not told by its warmest white."""
    glance = glance_of([line for white in dials for line in rows(white, 1000.0, white)])
    assert glance.at.dialled_k == stands
