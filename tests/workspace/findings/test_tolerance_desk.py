"""Tolerance sets are edited, exchanged and put back; what is wrong is refused before anything is kept."""

import json

import pytest

from even_beam.bench.tolerances import ToleranceError, shipped
from even_beam.workspace.findings.tolerance_desk import ToleranceDesk


@pytest.fixture
def sets(logbook):
    return ToleranceDesk(logbook)


def limits_of(sets, name):
    return dict(next(one for one in sets.sets() if one.name == name).limits)


def test_an_own_set_takes_the_place_of_the_shipped_one_and_gives_it_back(sets):
    before = limits_of(sets, "skin key")
    kept = sets.save("skin key", "stricter", {"white_mired": "5", "ra": "96", "duv": ""})
    assert limits_of(sets, "skin key") == {"white_mired": 5.0, "ra": 96.0}
    assert len(sets.sets()) == len(shipped())
    again = sets.save("skin key", "", {"ra": "97"})
    assert again.id == kept.id  # one set of a name
    assert sets.drop("skin key") and limits_of(sets, "skin key") == before
    assert not sets.drop("skin key")


def test_another_name_is_another_set(sets):
    sets.save(" night  exteriors ", "", {"white_mired": "30"})
    assert sets.sets()[-1].name == "night exteriors"


@pytest.mark.parametrize(
    ("name", "limits", "word"),
    [
        ("", {"ra": "90"}, "name"),
        ("x", {"ra": ""}, "limits"),
        ("x", {"ra": "ninety-ish"}, "Ra"),
        ("x", {"ra": "-3"}, "from 0 on"),
        ("x", {"ra": "90+"}, "one number"),
    ],
)
def test_what_cannot_be_a_limit_is_named(sets, name, limits, word):
    with pytest.raises(ToleranceError, match=word):
        sets.save(name, "", limits)
    assert sets.sets() == shipped()


def test_sets_travel_as_json(sets, tmp_path, logbook):
    sets.save("night exteriors", "common practice", {"white_mired": "30", "duv": "0.006"})
    path = tmp_path / "sets.json"
    sets.write(path, ["night exteriors", "product"])
    content = json.loads(path.read_text())
    assert [one["name"] for one in content["sets"]] == ["product", "night exteriors"]
    sets.drop("night exteriors")
    assert [one.name for one in sets.read(path)] == ["product", "night exteriors"]
    assert limits_of(sets, "night exteriors") == {"white_mired": 30.0, "duv": 0.006}


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
def test_a_file_that_is_none_leaves_everything(sets, tmp_path, text):
    path = tmp_path / "sets.json"
    path.write_text(text)
    with pytest.raises(ToleranceError):
        sets.read(path)
    assert sets.sets() == shipped()


def test_a_folder_that_takes_nothing_is_said(sets, tmp_path):
    with pytest.raises(ToleranceError, match="another folder"):
        sets.write(tmp_path / "missing" / "sets.json", ["product"])
