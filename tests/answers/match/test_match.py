"""Matching from a logbook: the answers, the gels of the Kit, targets as they are written, and pairs that clash."""

import json
import re
from dataclasses import replace

import numpy as np
import pytest
from click.testing import CliRunner

from even_beam.answers.findings.named_lamps import named_lamps
from even_beam.answers.findings.witness import Witness
from even_beam.answers.match import together
from even_beam.answers.match.as_json import match
from even_beam.answers.match.stock import UnknownGelError, stock_of
from even_beam.answers.match.target_text import TargetTextError, target_of, usual_target
from even_beam.bench.records import Gear, Model, Source, Terms
from even_beam.cli import main
from even_beam.collection.collection import Collection
from even_beam.light.colorimetry import cct_and_duv, uv_1960, uv_1976, uv_at, xy_from_uv_1960
from even_beam.light.filters import correction, shift, tinted
from even_beam.logbook.store import Logbook
from even_beam.said.white import white_said
from tests.answers.match.story import Evening, at, filled


@pytest.fixture
def evening(logbook):
    return filled(logbook)


@pytest.fixture
def collection(evening):
    return Collection(evening.logbook)


def of(found, name):
    return next(one for one in found["answers"] if one["fixture"] == name)


def test_a_lamp_that_gives_its_white_at_another_dial(collection):
    """Tansy is 12 mired too cold at every dial: 5600 is had 12 mired warmer, at 5247 on the dial."""
    tansy = of(match(collection, "cct=5600;duv=0.001"), "Tansy")
    assert tansy["dial"] == {"cct_k": 5250.0, "tint": None}
    assert tansy["reachable"]
    assert tansy["gels"] == []
    assert tansy["expected"]["mired_off"] == pytest.approx(0.0, abs=0.4)
    assert tansy["expected"]["duv"] == pytest.approx(0.001, abs=2e-4)
    assert tansy["uncertainty"]["mired"] > 1.0
    # between 4300 and 5600 it falls in level as mired do: 1000 to 1100 lx
    assert -0.06 < tansy["level_stops"] < 0.0
    assert tansy["sentence"].startswith("Tansy is 12 mired cooler, same tint: dial 5250")
    assert len(tansy["readings"]) == 2, "it rests on both readings that the dial goes by"


def test_green_is_clipped_away_and_the_dial_follows(collection):
    sorrel = of(match(collection, "cct=5000;duv=0.001", ["Sorrel"], "all"), "Sorrel")
    assert all("minus green" in name for name in sorrel["gels"][0]["pack"])
    assert abs(sorrel["expected"]["mired_off"]) < 1.0
    assert abs(sorrel["expected"]["duv_off"]) <= 0.0025
    # the gel warms or cools too: the dial makes up for it and is not the one without a gel
    plain = of(match(collection, "cct=5000;duv=0.001", ["Sorrel"], "none"), "Sorrel")
    assert plain["gels"] == []
    assert plain["dial"]["cct_k"] != sorrel["dial"]["cct_k"]
    assert "costs" in sorrel["sentence"]


def test_what_the_dial_does_not_reach_is_left_to_gels(collection):
    tansy = of(match(collection, "cct=9000", ["Tansy"], "all"), "Tansy")
    assert tansy["dial"]["cct_k"] == 5600.0
    assert all("CTB" in name or "green" in name for name in tansy["gels"][0]["pack"])
    assert "no dial that was read reaches it, 5600 comes nearest" in tansy["sentence"]
    alone = of(match(collection, "cct=9000", ["Tansy"], "none"), "Tansy")
    assert alone["reachable"] is False
    assert "no gels were tried" in alone["sentence"]


def test_a_typed_white_alone_says_that_its_tint_is_unknown(collection):
    yarrow = of(match(collection, "cct=5600", ["Yarrow"], "all"), "Yarrow")
    assert yarrow["reading"] == {"cct_k": pytest.approx(3190.0), "duv": None}
    assert yarrow["expected"]["duv_off"] is None
    assert not any("green" in name for gel in yarrow["gels"] for name in gel["pack"])
    assert "its tint is unknown" in yarrow["sentence"]
    assert yarrow["gels_on"] == "reference spectrum"


def test_a_source_that_agrees_is_left(collection):
    found = match(collection, "fixture=North window", gels="none")
    window = of(found, "North window")
    assert window["leave"]
    assert window["dial"] is None
    assert found["headline"].startswith("Leave North window.")
    assert found["target"]["cct_k"] == pytest.approx(6480.0, rel=1e-4)
    assert found["target"]["duv"] == pytest.approx(0.0031, abs=1e-5)


def test_clashes_name_opposite_tints_first(collection):
    found = match(collection, "cct=5600;duv=0.004", ["Tansy", "Sorrel", "Burdock"], "none")
    first = found["clashes"][0]
    assert set(first["fixtures"]) == {"Tansy", "Sorrel"}
    assert first["opposite_tints"]
    assert "Sorrel is green and Tansy magenta of the target" in first["sentence"]
    assert first["tlmf"] < 100.0
    assert 0.0 < first["ssi"] < 100.0


def test_the_one_that_costs_least_to_follow(collection):
    """The window has no dial and no gel is owned for it: the lamps follow it or it follows none."""
    found = match(collection, "least", ["Tansy", "North window"], "none")
    assert found["target"]["name"].startswith(("Tansy", "North window"))
    assert any(one["leave"] for one in found["answers"])


def test_gels_of_the_kit_and_those_that_were_measured(evening):
    evening.gel("half CTO")
    evening.gel("quarter CTO")
    collection = Collection(evening.logbook)
    readings = [m for entrant in Witness(collection).entrants() for m in entrant.readings]
    own = stock_of(collection, "", readings)
    assert own.names == ("half CTO", "quarter CTO")
    # its shape is that of what was measured, a half, and not that of what it is called (both lights read alike high)
    half, quarter = (correction(name).transmission for name in ("half CTO", "quarter CTO"))
    found, by_name = own.transmissions[1] / own.transmissions[1][200], quarter / quarter[200]
    assert found == pytest.approx(half / half[200], rel=1e-3)
    assert found != pytest.approx(by_name, rel=0.05)
    assert len(stock_of(collection, "all", readings).names) == 30
    assert stock_of(collection, "none", readings).names == ()
    with pytest.raises(UnknownGelError, match="frost"):
        stock_of(collection, "frost", readings)


def test_readings_at_other_terms_change_no_answer(evening, collection):
    before = match(collection, "cct=5000", ["Tansy"], "none")
    source = next(s for s in collection.sources.values() if s.nickname == "Tansy")
    evening.read(source.id, at(5600.0, configuration=("softbox",)), lux=300.0, cct=5000.0, duv=-0.01)
    evening.read(source.id, at(4300.0, zoom="spot"), cct=4000.0)
    evening.read(source.id, at(4300.0, level_pct=10.0), cct=4100.0)
    assert match(Collection(evening.logbook), "cct=5000", ["Tansy"], "none") == before
    dressed = of(match(Collection(evening.logbook), "cct=5000", ["Tansy@configuration=softbox"], "none"), "Tansy")
    assert dressed["reading"]["cct_k"] == pytest.approx(5000.0)


@pytest.mark.parametrize(
    ("text", "cct", "duv"),
    [
        ("cct=5600;duv=0.003", 5600.0, 0.003),
        ("cct=3200 K", 3200.0, 0.0),
        ("x=0.3127;y=0.3290", 6503.0, 0.0032),
        ("white=D55", 5503.0, 0.0033),
        ("cct=5600", 5600.0, 0.0033),
        ("fixture=Tansy;cct=3200", 3327.8, 0.001),
    ],
)
def test_targets_as_they_are_written(collection, text, cct, duv):
    """D65 is x 0.3127, y 0.3290 and 6503 K (CIE 15:2018, table 11; its Duv by the libraries); daylight D55 5503 K."""
    found = target_of(text, collection, Witness(collection))
    assert found.cct_k == pytest.approx(cct, abs=1.5)
    assert found.duv == pytest.approx(duv, abs=1.5e-4)


@pytest.mark.parametrize("text", ["5600", "3200 K +0.002", "daylight 5600", "4500", "5600, 0.000"])
def test_a_white_as_it_is_said_is_the_same_at_the_bench_and_here(logbook, text):
    collection = Collection(logbook)
    assert target_of(text, collection, Witness(collection)) == white_said(text)


@pytest.mark.parametrize(
    "text", ["", "soon", "56", "cct=x", "cct=nan", "cct=200", "duv=0.1", "cct=5600;duv=0.2", "x=0.7;y=0.2", "x=2;y=0.3",
             "look=Nothing", "kept=Nothing", "white=puce", "x=0.3"],
)  # fmt: skip
def test_what_is_no_target_is_said(logbook, text):
    collection = Collection(logbook)
    with pytest.raises(TargetTextError):
        target_of(text, collection, Witness(collection))


def run(*arguments):
    return CliRunner().invoke(main, [str(a) for a in arguments])


def test_on_the_command_line(evening):
    path = evening.logbook.path
    done = run("match", path, "--target", "cct=5600;duv=0.001", "--fixtures", "Tansy,Sorrel", "--gels", "all", "--json")
    assert done.exit_code == 0, done.output
    found = json.loads(done.output)
    assert {"target", "answers", "clashes"} <= set(found)
    assert {"fixture", "terms", "reading", "dial", "expected", "uncertainty", "level_stops", "reachable", "gels",
            "sentence"} <= set(found["answers"][0])  # fmt: skip
    words = run("match", path, "--target", "cct=5600", "--gels", "half CTO")
    assert words.exit_code == 0
    assert "dial" in words.output
    aim = ["--target", "cct=5600"]
    for wrong in (
        ["--target", "cct=1"],
        [*aim, "--gels", "frost"],
        [*aim, "--fixtures", "Nobody"],
        [*aim, "--fixtures", "Tansy@z=1"],
    ):
        refused = run("match", path, *wrong)
        assert refused.exit_code == 1
        assert refused.stderr.startswith("even-beam: ")
        assert "Traceback" not in refused.output


def test_mix_and_enough_on_the_command_line(evening):
    path = evening.logbook.path
    done = run("mix", path, "--fixtures", "Tansy@cct=3200,Sorrel@cct=5600", "--json")
    found = json.loads(done.output)
    assert found["illuminance_lx"] == pytest.approx(1600.0, rel=1e-6)
    assert sum(part["share"] for part in found["parts"]) == pytest.approx(1.0)
    aimed = json.loads(
        run(
            "mix",
            path,
            "--fixtures",
            "Tansy@cct=3200,Sorrel@cct=5600",
            "--target",
            "cct=4300",
            "--lux",
            "500",
            "--json",
        ).output
    )
    assert aimed["illuminance_lx"] == pytest.approx(500.0, rel=1e-6)
    assert abs(aimed["off"]["mired"]) < 5.0
    assert "could" not in run("mix", path, "--fixtures", "Nobody").output
    assert run("mix", path, "--fixtures", "Tansy", "--lux", "-1").exit_code == 2
    done = run("enough", path, "--stop", "8", "--iso", "800", "--shutter", "1/50", "--fixtures", "Tansy", "--json")
    (tansy,) = json.loads(done.output)["answers"]
    # 340 * 64 / (800 * 0.02) = 1360 lx; 1100 were read at 5600 K
    assert tansy["stops_over"] == pytest.approx(-0.306, abs=0.01)
    for wrong in (["--shutter", "x"], ["--iso", "nan"], ["--stop", "0"], ["--constant", "soup"]):
        options = {"--stop": "8", "--iso": "800", "--shutter": "1/50"} | dict([wrong])
        refused = run("enough", path, *[part for pair in options.items() for part in pair])
        assert refused.exit_code == 1, wrong
        assert refused.stderr.startswith("even-beam: ")


@pytest.mark.parametrize("gels", ["all", "none", "half CTB, eighth minus green"])
@pytest.mark.parametrize(
    "target", ["least", "cct=1800", "cct=5600;duv=-0.02", "cct=20000", "white=D65", "fixture=Bracken"]
)
def test_the_demo_is_matched_to_anything_in_whole_sentences(demo, target, gels):
    book = Logbook.open_to_read(demo)
    try:
        found = match(Collection(book), target, gels=gels)
    except TargetTextError as error:
        assert "no colour temperature of Bracken was read" in str(error)
        return
    finally:
        book.close()
    json.dumps(found, allow_nan=False)
    said = [found["headline"], *(one["sentence"] for one in found["answers"] + found["clashes"])]
    for sentence in said:
        assert sentence.endswith((".", "?"))
        assert not re.search(r"\bnan\b|None|\binf\b|  |\.\.|, ,", sentence), sentence
    for one in found["answers"]:
        mired_off, duv_off = one["expected"]["mired_off"], one["expected"]["duv_off"]
        if one["leave"]:
            assert one["gels"] == []
        # an answer never makes it worse in both axes at once
        elif duv_off is not None and one["off"]["duv"] is not None and (one["gels"] or one["reachable"]):
            assert abs(mired_off) <= abs(one["off"]["mired"]) + 1.0 or abs(duv_off) <= abs(one["off"]["duv"]) + 1e-4, (
                one
            )


def test_a_gel_that_was_typed_with_and_without_is_taken_as_measured(logbook):
    """Levels and whites alone: 1000 lx of 5600 K become 600 lx of 3800 K, 0.74 stop and 84.6 mired."""
    evening = Evening(logbook)
    tansy = evening.lamp("Tansy")
    evening.read(tansy, at(), illuminance=1000.0, cct=5600.0)
    evening.read(tansy, at(configuration=("half CTO",)), illuminance=600.0, cct=3800.0)
    collection = Collection(logbook)
    readings = [m for entrant in Witness(collection).entrants() for m in entrant.readings]
    measured = stock_of(collection, "half CTO", readings).transmissions[0]
    moved = shift(tinted(5600.0, 0.0033), measured)
    assert float(moved.mired) == pytest.approx(1e6 / 3800.0 - 1e6 / 5600.0, abs=0.2)
    assert float(moved.loss_stops) == pytest.approx(0.737, abs=0.01)
    found = of(match(collection, "cct=3800", ["Tansy@configuration=bare"], "half CTO"), "Tansy")
    assert found["gels"][0]["loss_stops"] == pytest.approx(0.737, abs=0.02)
    assert found["gels"][0]["ra"] is None, "no spectrum was read: nothing is known of how it shows colours"


def test_what_was_not_read_is_not_said_of_a_mixture(logbook):
    evening = Evening(logbook)
    for name, kelvin in (("Tansy", 5600.0), ("Sorrel", 3200.0)):
        evening.read(evening.lamp(name), at(kelvin), illuminance=500.0, cct=kelvin)
    collection = Collection(logbook)
    found = together.mix_json(together.mix(collection, Witness(collection).entrants()))
    assert set(found["scores"].values()) == {None}
    assert "its tint not known" in found["sentences"][0]
    assert "was not read and is taken as none" in found["sentences"][1]


def test_a_lamp_is_mixed_at_a_distance_and_a_level_that_were_not_read(logbook):
    """By its own walk, its own dimmer: 1000 lx at 2 m and 250 lx at 4 m are 444 lx at 3 m; half of that at 50 %."""
    evening = Evening(logbook)
    tansy = evening.lamp("Tansy")
    light = tinted(5600.0, 0.0033)
    for metres in (2.0, 4.0):
        evening.read(tansy, at(5600.0, distance_m=metres), light, 4000.0 / metres**2)
    for level in (25.0, 10.0):
        evening.read(tansy, at(5600.0, level_pct=level), light, 10.0 * level)
    evening.evaluated()
    collection = Collection(logbook)

    def lux(terms: str) -> float:
        return together.mix(collection, named_lamps(collection, [f"Tansy@{terms}"])).lux

    assert lux("distance=2 m") == pytest.approx(1000.0, rel=1e-6)
    assert lux("distance=3 m") == pytest.approx(4000.0 / 9.0, rel=0.01)
    assert lux("distance=3 m;level=50") == pytest.approx(2000.0 / 9.0, rel=0.01)
    assert lux("distance=2 m;level=50") == pytest.approx(500.0, rel=0.01)
    for refused in ("distance=1 m", "level=5", "zoom=spot"):
        with pytest.raises(together.NothingToMixError, match="of Tansy"):
            lux(refused)
    said = together.mix(collection, named_lamps(collection, ["Tansy@distance=3 m;level=50"])).parts[0].terms
    assert "brought to 3 m" in said
    assert "dimmed to 50 % by its own dimmer" in said


def test_what_strays_off_the_axis_is_said_and_never_matched(logbook):
    """Ten readings aside do not make the axis: the answer is for the axis, and says how the side differs."""
    evening = Evening(logbook)
    tansy = evening.lamp("Tansy")
    evening.read(tansy, at(5600.0), illuminance=1000.0, cct=5000.0, duv=0.002)
    for white in (5600.0, 4300.0, 3200.0):
        evening.read(tansy, at(white, angle_deg=20.0), illuminance=300.0, cct=white * 0.8, duv=0.002)
    found = of(match(Collection(logbook), "cct=5600", gels="none"), "Tansy")
    assert found["reading"]["cct_k"] == pytest.approx(5000.0)
    assert found["terms"]["angle"] == 0.0
    assert found["behind"] == "20° off the axis it stays 23 mired warmer than on it."


def test_a_lamp_without_a_dial_of_whites_is_told_hue_and_saturation(logbook):
    """Readings on a plane: u', v' are 0.20, 0.47 and 0.1 for a full saturation along each; so the answer is exact."""
    evening = Evening(logbook)
    tansy = evening.lamp("Tansy")
    for hue, saturation in ((0.0, 0.0), (0.0, 30.0), (90.0, 30.0), (180.0, 30.0), (270.0, 30.0)):
        turn = np.deg2rad(hue)
        u, v = 0.20 + 0.001 * saturation * np.cos(turn), 0.47 + 0.001 * saturation * np.sin(turn)
        down = 6.0 * u - 16.0 * v + 12.0
        x, y = 9.0 * u / down, 4.0 * v / down
        cct, duv = cct_and_duv(*uv_1960(x, y))
        terms = at(mode="HSI", hue_deg=hue, saturation_pct=saturation)
        evening.read(tansy, terms, illuminance=400.0, cct=float(cct), duv=float(duv), x=float(x), y=float(y))
    found = match(Collection(logbook), "cct=5000;duv=0.0", gels="none")
    dial = found["answers"][0]["dial"]
    u, v = uv_1976(*xy_from_uv_1960(*uv_at(5000.0, 0.0)))
    wanted = np.array([float(u) - 0.20, float(v) - 0.47]) / 0.1
    assert dial["cct_k"] is None
    assert dial["hue"] == pytest.approx(np.rad2deg(np.arctan2(wanted[1], wanted[0])) % 360.0, abs=0.1)
    assert dial["saturation"] == pytest.approx(100.0 * np.hypot(*wanted), abs=0.06)
    assert "dial hue" in found["headline"] and "dial hue" in found["answers"][0]["sentence"]
    assert found["answers"][0]["expected"]["mired_off"] == pytest.approx(0.0, abs=0.2)
    assert found["answers"][0]["level_stops"] == pytest.approx(0.0, abs=1e-6)


def test_the_dial_of_the_kit_is_the_one_that_is_told(collection, evening):
    tansy = of(match(collection, "cct=5600;duv=0.001"), "Tansy")
    assert tansy["dial"]["cct_k"] == 5250.0
    source = next(s for s in evening.logbook.all(Source) if s.nickname == "Tansy")
    model = Model("m", "spot")
    evening.logbook.save(model, replace(source, model_id="m"), Gear("g", "m", "dial", "2700, 3200, 4300, 5000, 5600"))
    then = of(match(Collection(evening.logbook), "cct=5600;duv=0.001"), "Tansy")
    assert then["dial"]["cct_k"] == 5000.0
    assert abs(then["expected"]["mired_off"]) > abs(tansy["expected"]["mired_off"])


def test_the_usual_target_is_a_source_whose_white_is_known(logbook):
    """A flash that was only metered in f-stops has no white to follow; the sun beside it has."""
    evening = Evening(logbook)
    flash, sun = evening.lamp("Teasel", "flash"), evening.lamp("Noon sun", "sun")
    for _ in range(2):
        evening.read(flash, Terms(distance_m=2.0), f_stop=11.3)
    assert usual_of(logbook) is None
    evening.read(sun, Terms(), cct=5420.0, duv=0.0031)
    found = usual_of(logbook)
    assert found is not None and found.cct_k == pytest.approx(5420.0)


def usual_of(logbook):
    collection = Collection(logbook)
    return usual_target(collection, collection.lamps(), Witness(collection))
