"""`even-beam enter`: figures as they are said, from a script."""

import json

import pytest
from click.testing import CliRunner

from even_beam.bench.records import Meter, Source
from even_beam.cli import main
from even_beam.logbook.store import Logbook

AT = "cct=5600;level=100;distance=2 m"


@pytest.fixture
def book(tmp_path):
    path = tmp_path / "kit.evenbeam"
    logbook = Logbook.create(path)
    logbook.save(Source("lamp", "Tansy"), Meter("hand", "Hand meter", kind="light meter", quantities=("illuminance",)))
    logbook.close()
    return path


def enter(book, *text: str, at: str = AT, more: tuple[str, ...] = ()) -> tuple[int, dict]:
    arguments = ["enter", str(book), *text, "--fixture", "tansy", "--at", at, "--json", *more]
    done = CliRunner().invoke(main, arguments)
    return done.exit_code, json.loads(done.output) if done.output.startswith("{") else {"error": done.output}


def kept(book) -> list[tuple[float, float | None]]:
    logbook = Logbook.open_to_read(book)
    found = [
        (reading.values[0].value, reading.terms.level_pct)
        for session in logbook.sessions()
        for reading in logbook.readings(session.id)
    ]
    logbook.close()
    return found


def test_a_figure_is_understood_judged_and_kept(book):
    code, found = enter(book, "820 lx", more=("--meter", "hand meter"))
    assert code == 0
    assert found["kept"] is True
    assert (
        found["understood"][0] | {"quantity": "illuminance", "value": 820.0, "text": "820 lx"} == found["understood"][0]
    )
    assert found["terms"]["distance"] == 2.0
    assert found["asks"] is None
    assert found["look"]["in_doubt"] is False
    code, found = enter(book, "410 lx 50 %")
    assert found["terms"]["level"] == 50.0
    assert kept(book) == [(820.0, 100.0), (410.0, 50.0)]


def test_what_asks_is_not_kept(book):
    code, found = enter(book, "5594")
    assert code == 3
    assert found["kept"] is False
    assert [choice["text"] for choice in found["asks"]] == ["5594 lx", "5594 K"]
    assert kept(book) == []


def test_a_doubt_is_kept_only_on_purpose(book):
    for metres, lux in ((1, 3200), (2, 800), (4, 200)):
        assert enter(book, f"{lux} lx", at=f"cct=5600;level=100;distance={metres} m")[0] == 0
    code, found = enter(book, "1280 lx", at="cct=5600;level=100;distance=5 m")
    assert code == 3
    assert found["look"]["in_doubt"] is True
    assert 128.0 in found["look"]["candidates"]  # the inverse square of 3200 lx at 1 m
    assert found["look"]["expected"][0] < 128.0 < found["look"]["expected"][1]
    assert len(kept(book)) == 3
    code, found = enter(book, "1280 lx", at="cct=5600;level=100;distance=5 m", more=("--keep",))
    assert (code, found["kept"]) == (0, True)
    assert len(kept(book)) == 4


@pytest.mark.parametrize(
    ("text", "fits"),
    [
        ("700 to 900 lx", True),
        ("790+ lx", True),
        ("under 850 lx", True),
        ("200 to 3000 lx", True),  # it says little, and nothing against it
        ("80 to 90 lx", False),  # a factor of ten
        ("8k+ lx", False),
        ("under 300 lx", False),
    ],
)
def test_bounds_and_ranges_are_looked_at_by_what_fits_best_of_them(book, text, fits):
    for metres, lux in ((1, 3200), (4, 200)):
        enter(book, f"{lux} lx", at=f"cct=5600;level=100;distance={metres} m")
    code, found = enter(book, text)
    assert (code, found["kept"], found["look"]["in_doubt"]) == ((0, True, False) if fits else (3, False, True))


def test_the_line_says_which_slip_would_explain_it(book):
    enter(book, "3200 lx", at="cct=5600;level=100;distance=2 m")
    done = CliRunner().invoke(main, ["enter", str(book), "320 lx", "--fixture", "tansy", "--at", AT])
    assert done.exit_code == 3
    assert "A factor of ten would make it 3" in done.output.replace("\u2009", "").replace("\u202f", "")


def test_several_marks_put_it_and_one_reading_puts_it(book):
    for metres, lux in ((8, 156), (6, 278), (4, 625)):
        enter(book, f"{lux} lx", at=f"cct=5600;level=100;distance={metres} m")
    _, near = enter(book, "100 lx", at="cct=5600;level=100;distance=2 m")
    _, again = enter(book, "27 lx", at="cct=5600;level=100;distance=6 m")
    assert "marks farther out put it at" in " ".join(near["look"]["sentences"])
    assert "The first reading here puts it at" in " ".join(again["look"]["sentences"])


def test_a_meter_that_is_simulated_is_not_exchanged_for_another(book):
    """What is typed was never booked on it, and would stand under the name of a meter that nobody held."""
    logbook = Logbook.open(book)
    logbook.save(Meter("played", "Played meter", simulated="spectrometer"))
    logbook.close()
    code, found = enter(book, "820 lx", more=("--meter", "played meter"))
    assert code == 1 and "simulated" in found["error"] and kept(book) == []


@pytest.mark.parametrize(
    ("text", "at", "words"),
    [
        ("16oo", AT, "16oo"),
        ("820 lx", "level=250", "cannot be"),
        ("820 lx", "mood=blue", "not understood"),
        ("1e999 lx", AT, "1e999"),
    ],
)
def test_what_cannot_be_understood(book, text, at, words):
    code, found = enter(book, text, at=at)
    assert code == 1
    assert words in found["error"]
    assert kept(book) == []


def test_a_lamp_that_is_not_in_the_kit(book):
    done = CliRunner().invoke(main, ["enter", str(book), "820 lx", "--fixture", "Foxglove"])
    assert done.exit_code == 1
    assert "the Kit has Tansy" in done.output


def test_a_logbook_and_a_lamp_are_begun_where_that_is_said(tmp_path):
    path = tmp_path / "new.evenbeam"
    told = ["enter", str(path), "820 lx dial 5600 50 %", "--fixture", "Foxglove"]
    refused = CliRunner().invoke(main, told)
    assert refused.exit_code == 2 and "--new" in refused.output and not path.exists()
    unknown = CliRunner().invoke(main, [*told, "--new"])
    assert unknown.exit_code == 1 and "--new-lamp" in unknown.output and not path.exists()
    done = CliRunner().invoke(main, [*told, "--new", "--new-lamp"])
    assert done.exit_code == 0 and "Foxglove is new in the Kit" in done.output
    again = CliRunner().invoke(main, [*told[:2], "405 lx 25 %", "--fixture", "foxglove", "--new-lamp"])
    assert again.exit_code == 0 and "is new in the Kit" not in again.output


def test_a_line_of_another_lamp_than_the_one_named_is_not_kept(book):
    logbook = Logbook.open(book)
    logbook.save(Source("other", "Burdock"))
    logbook.close()
    code, found = enter(book, "Burdock 820 lx")
    assert code == 1 and "--fixture says Tansy" in found["error"] and kept(book) == []
