"""The answer in large type: true for invented logbooks, never more than the readings carry."""

import math
import re
from datetime import UTC, datetime, timedelta

import pytest

from even_beam.answers.compare.answer import Answers, Question
from even_beam.answers.compare.questions import Ask
from even_beam.answers.intake.importing import import_files
from even_beam.logbook.store import Logbook

HEAD = "session,fixture,meter,cct_k,dimmer_pct,distance,zoom,quantity,value,unit\n"


@pytest.fixture
def asked(tmp_path):
    """The answer to a question of a logbook made of rows."""

    def ask(rows: list[str], question: Ask, **more: object):
        now = datetime(2026, 11, 26, 20, tzinfo=UTC)

        def clock() -> datetime:
            nonlocal now
            now += timedelta(seconds=30)
            return now

        table, book = tmp_path / "t.csv", tmp_path / "b.evenbeam"
        table.write_text(HEAD + "\n".join(rows) + "\n")
        logbook = Logbook.create(book)
        import_files([table], logbook, clock)
        logbook.close()
        return Answers(book).ask(Question(ask=question, **more))

    return ask


def level(lamp: str, lux: float, metres: str = "2 m") -> str:
    return f"E,{lamp},Hand,5600,100,{metres},,illuminance,{lux},lx"


def figure(lamp: str, quantity: str, value: object) -> str:
    return f"E,{lamp},Colour,5600,100,,,{quantity},{value},"


@pytest.mark.parametrize(
    ("tansy", "sorrel", "word"),
    [(1000.0, 4000.0, "brighter"), (4000.0, 1000.0, "darker"), (1000.0, 2000.0, "brighter")],
)
def test_how_bright_is_the_ratio_of_the_readings(asked, tansy, sorrel, word):
    (line,) = asked([level("Tansy", tansy), level("Sorrel", sorrel)], Ask.BRIGHT).lines
    stops = abs(math.log2(sorrel / tansy))
    unit = "stop" if stops <= 1.0 else "stops"
    assert line.text == f"Sorrel is {stops:.0f} {unit} {word} than Tansy."


def test_what_cannot_be_told_apart_is_level(asked):
    (line,) = asked([level("Tansy", 1000.0), level("Sorrel", 1004.0)], Ask.BRIGHT).lines
    assert line.text == "Sorrel is level with Tansy."
    half = float(re.search(r"the ([\d.]+) stop", line.aside)[1])
    assert half > math.log2(1004.0 / 1000.0)


def test_of_many_the_farthest_are_said_and_the_rest_counted(asked):
    rows = [level("Tansy", 1000.0), *(level(f"Lamp {n}", 1000.0 * 2.0**n) for n in (1, -3, 2, 4, -5))]
    shown = asked(rows, Ask.BRIGHT, session_id="", chosen=None)
    chosen = [e.name for e in shown.comparison.entries if e.key != shown.reference]
    assert len(shown.lines) == 3
    found = [re.search(r"is ([\d.]+) stops? (brighter|darker)", line.text) for line in shown.lines]
    stops = [float(one[1]) * (1.0 if one[2] == "brighter" else -1.0) for one in found]
    assert stops == sorted(stops, reverse=True), "the brightest first, as in the picture"
    every = [abs(e.ratio_stops) for e in shown.comparison.entries if e.key != shown.reference]
    assert sorted(map(abs, stops)) == pytest.approx(sorted(every)[-3:], abs=0.05), "of those the farthest"
    assert shown.lines[-1].aside.endswith(f"{len(chosen) - 3} more below")


def test_a_single_lamp_and_lamps_without_a_distance_are_not_set_against_each_other(asked):
    (line,) = asked([level("Tansy", 1000.0)], Ask.BRIGHT).lines
    assert line.text.replace("\u202f", " ") == "Tansy gives 1 000 lx at 2 m."


def test_levels_without_a_distance(asked):
    shown = asked([level("Sun", 90_000.0, ""), level("Window", 800.0, "")], Ask.BRIGHT)
    assert [line.text.replace("\u202f", " ") for line in shown.lines] == [
        "Sun gives 90 000 lx.",
        "Window gives 800 lx.",
    ]
    assert "lx" in shown.sheet.columns, "no place is made up for them"
    assert not any("distance" in column for column in shown.sheet.columns)


def test_which_white_says_the_side_and_the_size(asked):
    rows = [
        *(figure(n, "cct", k) for n, k in (("Tansy", 5610), ("Sorrel", 5230), ("Rue", 6400))),
        *(figure(n, "duv", d) for n, d in (("Tansy", 0.0033), ("Sorrel", -0.004), ("Rue", 0.012))),
    ]
    first, second, third = asked(rows, Ask.WHITE).lines
    assert first.text.replace("\u202f", " ") == "Rue is 22 mired cool: 6 400 K for 5600 K."
    assert second.text.replace("\u202f", " ") == "Sorrel is 13 mired warm: 5 230 K for 5600 K."
    assert "Rue leans green" in third.text and "Sorrel leans magenta" in third.text
    assert "Tansy" not in third.text, "daylight on its own curve is no tint"
    assert third.aside.endswith("1 more below")


def test_of_samples_read_one_by_one_nothing_is_said_of_the_others(asked):
    rows = [figure("Tansy", "r9", 82), figure("Sorrel", "r9", -12), figure("Sorrel", "r12", 60)]
    lines = asked(rows, Ask.COLOURS).lines
    assert [line.text for line in lines] == ["Sorrel: R9 \u221212, deep reds.", "Tansy: R9 82, deep reds."]
    assert lines[0].aside == "The lowest of the 2 samples that were read."
    assert lines[1].aside == "No other sample was read."
    assert not any("every sample" in line.text for line in lines)


def test_means_alone_say_that_they_are(asked):
    lines = asked([figure("Tansy", "ra", 96), figure("Sorrel", "ra", "95+")], Ask.COLOURS).lines
    assert [line.text for line in lines] == ["Tansy: Ra 96.", "Sorrel: Ra 95+."]
    assert all("which colours" in line.aside for line in lines)


def test_what_a_question_lacks_is_said_and_nothing_else(asked):
    shown = asked([level("Tansy", 1000.0), level("Sorrel", 500.0)], Ask.COLOURS)
    assert set(shown.missing) == {Ask.WHITE, Ask.COLOURS, Ask.WORTH}
    assert shown.lines == () and shown.pictures == ()
