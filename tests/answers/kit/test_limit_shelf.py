"""Sets of limits are said in words, exchanged and put back; what is wrong is refused before anything is kept."""

import json

import pytest

from even_beam.answers.findings.tolerance_sets import tolerance_sets
from even_beam.answers.kit.limit_shelf import LimitShelf
from even_beam.bench.tolerances import LIMITS, shipped
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.limit_line import changed, limit_words


@pytest.fixture
def shelf(logbook):
    return LimitShelf(KitDesk(logbook))


def limits_of(logbook, name):
    return dict(next(one for one in tolerance_sets(logbook) if one.name == name).limits)


def test_an_own_set_takes_the_place_of_the_shipped_one_and_gives_it_back(shelf, logbook):
    before = limits_of(logbook, "skin key")
    shelf.say("Ra 96; white 5 mired; no tint; purpose stricter", "skin key")
    kept = limits_of(logbook, "skin key")
    assert kept == {name: value for name, value in (before | {"ra": 96.0, "white_mired": 5.0}).items() if name != "duv"}
    assert len(tolerance_sets(logbook)) == len(shipped())
    assert {t.name: t.line for t in shelf.things()}["skin key"] == "changed here"
    shelf.say("Ra 97", "skin key")
    shelf._kit.undo()
    assert limits_of(logbook, "skin key")["ra"] == 96.0
    assert "as it was shipped" in shelf.remove("skin key")
    assert limits_of(logbook, "skin key") == before
    with pytest.raises(FormError, match="as it was shipped"):
        shelf.remove("skin key")
    shelf._kit.undo()
    assert limits_of(logbook, "skin key") == kept


def test_another_name_is_another_set(shelf, logbook):
    key, _ = shelf.say(" night  exteriors ; white 30 mired; purpose moonlight", None)
    assert key == "night exteriors"
    assert limits_of(logbook, key) == {"white_mired": 30.0}
    assert shelf.page(key).line == "moonlight"
    assert "gone" in shelf.remove(key) and shelf.page(key) is None


@pytest.mark.parametrize(
    ("text", "limit", "value"),
    [
        ("Ra 95", "ra", 95.0), ("95 Ra", "ra", 95.0), ("R9 80", "r9", 80.0), ("TLCI 90", "tlci", 90.0),
        ("white 2 mired", "white_mired", 2.0), ("white off 150 K", "white_kelvin", 150.0),
        ("at 5003 K", "white_k", 5003.0),
        ("tint 0.002", "duv", 0.002), ("Duv 0.0025", "duv", 0.0025), ("drift 6", "drift_mired", 6.0),
        ("lowest of R1-R8 80", "r1_to_r8", 80.0), ("evenness 75 %", "evenness_pct", 75.0),
        ("unit 0.15 stops", "unit_stops", 0.15), ("ageing 0.3", "ageing_stops", 0.3),
        ("level 1500 lx", "level_lx_low", 1500.0), ("level 2500 lx at most", "level_lx_high", 2500.0),
    ],
)  # fmt: skip
def test_a_limit_as_it_is_said(text, limit, value):
    assert changed(text, {}) == {limit: pytest.approx(value)}


def test_every_limit_can_be_said_and_read_back():
    """What stands on the page, said again, is the same limit; so none is left out of the words."""
    names = {"white_kelvin": "white", "white_mired": "white", "white_k": "at", "duv": "tint", "drift_mired": "drift",
             "r1_to_r8": "lowest of R1-R8", "r13": "R13", "r15": "R15", "evenness_pct": "evenness",
             "level_lx_low": "level", "unit_stops": "unit", "ageing_stops": "ageing"}  # fmt: skip
    for limit in LIMITS:
        if limit == "level_lx_high":
            continue  # said as `at most` behind the level
        words = limit_words(limit, 3.0).removeprefix("at most ").removeprefix("at least ").replace(" Duv", "")
        assert changed(f"{names.get(limit, limit)} {words}", {}) == {limit: 3.0}, limit


@pytest.mark.parametrize("text", ["Ra many", "Ra -3", "Ra 90+", "warmth 3", "Ra", "95"])
def test_what_cannot_be_a_limit_is_refused(shelf, logbook, text):
    with pytest.raises(FormError):
        shelf.say(text, "skin key")
    assert tolerance_sets(logbook) == shipped()


@pytest.mark.parametrize("text", ["; Ra 90", "x", "x; no Ra"])
def test_a_set_needs_a_name_and_limits(shelf, logbook, text):
    with pytest.raises(FormError):
        shelf.say(text, None)
    assert tolerance_sets(logbook) == shipped()


def test_sets_travel_as_json(shelf, logbook, tmp_path):
    shelf.say("night exteriors; white 30 mired; tint 0.006", None)
    path = tmp_path / "sets.json"
    assert "sets.json" in shelf.write(path)
    content = json.loads(path.read_text())
    assert [one["name"] for one in content["sets"]] == [one.name for one in tolerance_sets(logbook)]
    shelf.remove("night exteriors")
    shelf.take(path)
    assert limits_of(logbook, "night exteriors") == {"white_mired": 30.0, "duv": 0.006}
    shelf._kit.undo()
    assert tolerance_sets(logbook) == shipped()


@pytest.mark.parametrize(
    "text",
    [
        "",
        "[]",
        "{}",
        '{"sets": [3]}',
        '{"sets": [{"name": "a", "limits": {"warmth": 3}}]}',
        '{"sets": [{"name": "ok", "limits": {"ra": 90}}, {"name": "a", "limits": {"ra": "x"}}]}',
    ],
)
def test_a_file_that_is_none_leaves_everything(shelf, logbook, tmp_path, text):
    path = tmp_path / "sets.json"
    path.write_text(text)
    with pytest.raises(FormError):
        shelf.take(path)
    assert tolerance_sets(logbook) == shipped()


def test_a_folder_that_takes_nothing_is_said(shelf, tmp_path):
    with pytest.raises(FormError, match="another place"):
        shelf.write(tmp_path / "missing" / "sets.json")
