"""Check values 8-13 of the trade (common practice, no source), imported as a table and asked through the command
line."""

import json

import pytest
from click.testing import CliRunner

from even_beam.cli import main
from even_beam.known.choice import Entrant
from even_beam.known.doubts import flags
from tests.known.test_compare import FULL, lamp

HEAD = "session,fixture,dimmer_pct,zoom,distance,quantity,value,unit\n"


def found(tmp_path, *rows: str) -> list[dict]:
    """Import the rows and ask for findings; the flags."""
    table, book = tmp_path / "walk.csv", tmp_path / "walk.evenbeam"
    table.write_text(HEAD + "\n".join(rows) + "\n")
    runner = CliRunner()
    assert runner.invoke(main, ["import", str(table), str(book)]).exit_code == 0
    result = runner.invoke(main, ["findings", str(book), "--json"])
    assert result.exit_code == 0, result.output
    return json.loads(result.stdout)["flags"]


def walk(**marks: object) -> list[str]:
    return [f"Walk,Yarrow,100,spot,{name[1:]} ft,illuminance,{lux},lx" for name, lux in marks.items()]


def test_a_walk_that_follows_the_law(tmp_path):
    assert found(tmp_path, *walk(d25=300, d20=450, d15=800, d10=1800)) == []


def test_a_near_mark_that_falls_short(tmp_path):
    (flag,) = found(tmp_path, *walk(d25=300, d20=450, d15=800, d10=1800, d5=5500))
    assert flag["cause"] == "near_field"
    assert flag["distance_m"] == pytest.approx(1.524)
    assert flag["expected"] == pytest.approx(7200, rel=0.02)
    assert flag["stops_off"] == pytest.approx(-0.39, abs=0.03)
    assert flag["suggestion"] is None


def test_two_digits_swapped(tmp_path):
    (flag,) = found(tmp_path, *walk(d25=800, d20=1200, d15=1080, d10=4200))
    assert set(flag) == {
        "fixture",
        "configuration",
        "distance_m",
        "quantity",
        "value",
        "expected",
        "stops_off",
        "cause",
        "suggestion",
        "candidates",
    }
    assert flag["value"] == 1080
    assert 1867 <= flag["expected"] <= 2222
    assert flag["cause"] == "slipped_digit"
    assert flag["suggestion"] == 1800
    assert {1800, 2080} <= set(flag["candidates"])


def test_a_factor_of_ten(tmp_path):
    (flag,) = found(tmp_path, *walk(d25=260, d20=400, d15=740, d10=160))
    assert (flag["cause"], flag["suggestion"]) == ("factor_of_ten", 1600)


def test_footcandles_for_lux(tmp_path):
    (flag,) = found(tmp_path, *walk(d25=300, d20=450, d15=74.3, d10=1800))
    assert flag["cause"] in {"wrong_unit", "factor_of_ten"}
    assert any(abs(c - 800) < 5 for c in flag["candidates"])


def test_exactly_four_times(tmp_path):
    assert found(tmp_path, *walk(d10=800, d5=3200)) == []


def test_repeats_that_disagree(tmp_path):
    rows = [f"Point,Yarrow,100,spot,10 ft,illuminance,{lux},lx" for lux in (640, 640, 600, 740, 440, 800, 800)]
    (flag,) = found(tmp_path, *rows)
    assert flag["value"] == 440
    assert flag["cause"] == "disagreeing_repeats"


def test_two_repeats_that_disagree_are_both_in_doubt(tmp_path):
    rows = [f"Point,Yarrow,100,spot,10 ft,illuminance,{lux},lx" for lux in (640, 1640)]
    assert [flag["value"] for flag in found(tmp_path, *rows)] == [640, 1640]


def test_drift_between_the_first_and_the_last():
    from dataclasses import replace

    readings = [(FULL, 1000.0), (replace(FULL, level_pct=50.0), 480.0), (FULL, 880.0)]
    entrant = lamp("Tansy", *readings)
    states = [replace(m.state, reading=replace(m.reading, step_id=f"step {i}")) for i, m in enumerate(entrant.readings)]
    measured = tuple(replace(m, state=s) for m, s in zip(entrant.readings, states, strict=True))
    (flag,) = flags(Entrant(entrant.source_id, "Tansy", "panel", measured))
    assert flag.cause == "drift"
    assert flag.stops_off == pytest.approx(-0.184, abs=0.01)
    assert "drift since the first reading" in flag.sentence


def test_one_fixture_and_plain_words(tmp_path):
    table, book = tmp_path / "walk.csv", tmp_path / "walk.evenbeam"
    table.write_text(HEAD + "\n".join(walk(d25=260, d20=400, d15=740, d10=160)) + "\n")
    runner = CliRunner()
    runner.invoke(main, ["import", str(table), str(book)])
    result = runner.invoke(main, ["findings", str(book), "--fixture", "yarrow"])
    assert "it may have been 1\N{NARROW NO-BREAK SPACE}600 lx" in result.stdout
    assert "not measured:" in result.stdout
    assert runner.invoke(main, ["findings", str(book), "--fixture", "Nobody"]).exit_code == 1


def test_the_demo_has_one_near_thing_and_no_false_alarm(demo):
    result = CliRunner().invoke(main, ["findings", str(demo), "--json"])
    flagged = json.loads(result.stdout)
    assert flagged["flags"] == []
    assert {f["fixture"] for f in flagged["fixtures"]} >= {"Tansy", "Burdock", "Yarrow", "Bracken"}
