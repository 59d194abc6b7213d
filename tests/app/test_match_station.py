"""Match in the window, by its keys: a target typed, a lamp followed, gels owned, a stop asked, and what is wrong."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication

from even_beam.answers.match.view import Ask
from even_beam.app.window import MATCH
from even_beam.bench.records import Meter, Modifier, Source
from even_beam.bench.target import Target
from even_beam.logbook.store import Logbook
from tests.answers.match.story import filled

ENTER, ESCAPE = Qt.Key.Key_Return, Qt.Key.Key_Escape


@pytest.fixture
def window(tmp_path, open_window, qtbot):
    book = Logbook.create(tmp_path / "match.evenbeam")
    filled(book)
    book.close()
    opened = open_window(tmp_path / "match.evenbeam", MATCH)
    qtbot.waitUntil(lambda: not opened.busy and bool(opened.match._shown.lines), timeout=20_000)
    return opened


def headline(window) -> str:
    return " ".join(line.plain for line in window.match._shown.lines)


def test_it_opens_on_a_target_that_is_there(window):
    """The window of the room, which no dial moves, is what the lamps shall agree with."""
    assert "target: North window" in window.match.head()[1]
    assert headline(window).startswith("Leave North window.")
    assert window.match._chart.isVisibleTo(window.match)


def test_a_target_is_typed_as_people_say_it(window, hands):
    hands.press(window, "t")
    assert window.match.line.isVisible()
    window.match.line.edit.clear()
    hands.type(window, "5600 +0.001")
    assert not window.match.line.isVisible()
    assert "5\u202f600 K, +0.0010" in window.match.head()[1]
    assert "can be made to agree with 5\u202f600 K" in headline(window)
    assert "5250 K" in next(line for line in window.match._shown.sheet.plain.splitlines() if line.startswith("Tansy"))


def test_what_is_no_target_stands_in_its_line_until_it_is_mended(window, hands):
    before = headline(window)
    hands.press(window, "t")
    window.match.line.edit.clear()
    hands.type(window, "puce")
    assert window.match.line.isVisible()
    assert "there is no white “puce”" in window.match.line._fault.text()
    assert headline(window) == before
    hands.press(window, ESCAPE)
    assert not window.match.line.isVisible()
    assert window.match._wish.target == ""


def test_the_lamp_under_the_cursor_is_followed(window, hands):
    name = next(lamp.name for lamp in window.match._shown.lamps if lamp.key == window.match._lamps.under_cursor)
    hands.press(window, "l")
    assert window.match._wish.target == f"fixture={name}"
    told = headline(window)
    row = next(line for line in window.match._shown.sheet.plain.splitlines() if line.startswith(f"{name}\t"))
    dialled = row.split("\t")[2]
    assert f"Leave {name}" in told or dialled in {"leave", "as it stands", "5600 K"}, "as it was read, by its own dial"
    hands.press(window, "o")
    assert window.match._wish.target == "least"


def test_gels_are_owned_and_the_owning_is_undone(window, hands, qtbot):
    hands.press(window, "g")
    window.match.line.edit.clear()
    hands.type(window, "half CTB, Eighth minus green, mauve 12")
    kit = window.document.kit
    assert kit.gels() == ["Eighth minus green", "half CTB", "mauve 12"]
    qtbot.waitUntil(lambda: not window.busy, timeout=30_000)
    assert "mauve 12: only known once a lamp was read with it and without it" in window.said
    hands.press(window, "g")
    window.match.line.edit.clear()
    hands.type(window, "half CTB")
    assert kit.gels() == ["half CTB"]
    assert window.match._shown.gels == ("half CTB",)
    assert window.match.undo() == "gels owned"
    assert kit.gels() == ["Eighth minus green", "half CTB", "mauve 12"]
    window.match.undo()
    assert kit.gels() == []
    assert window.document.logbook.all(Modifier) == []


def test_a_stop_and_a_supply_are_asked(window, hands):
    hands.press(window, "3", "x")
    window.match.line.edit.clear()
    hands.type(window, "f/8; ISO 800; 1/50")
    assert window.match._wish.ask is Ask.ENOUGH
    assert "needs 1\u202f360 lx" in window.match.head()[1]
    assert "None of them gives it" in headline(window)
    hands.press(window, "x")
    window.match.line.edit.clear()
    hands.type(window, "f/8 please")
    assert "write f/4; ISO 800; 1/50" in window.match.line._fault.text()
    hands.press(window, ESCAPE, "4", "x")
    window.match.line.edit.clear()
    hands.type(window, "20 A 120 V")
    assert "No draw was read" in headline(window)


def test_lamps_are_mixed_and_set_for_a_white(window, hands):
    hands.press(window, "2")
    assert headline(window).startswith("Together")
    hands.press(window, "x")
    hands.type(window, "500")
    hands.press(window, "t")
    window.match.line.edit.clear()
    hands.type(window, "5000")
    assert "of what was read" in headline(window)
    assert window.match._wish.lux == 500.0


def test_lamps_are_taken_out_and_in_and_the_answer_copied(window, hands):
    count = len(window.match._shown.chosen)
    hands.press(window, Qt.Key.Key_Space)
    assert len(window.match._shown.chosen) == count - 1
    hands.press(window, "a")
    assert len(window.match._shown.chosen) == count
    window.match.press("Ctrl C")
    text = QGuiApplication.clipboard().text()
    assert headline(window).partition(".")[0] in text
    assert "\t" in text


def test_a_new_reading_asks_anew(window, hands, qtbot):
    before = window.match._shown
    window.document.readings_changed()
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert window.match._shown is not before


def test_an_empty_logbook_says_what_to_do(tmp_path, open_window, qtbot):
    Logbook.create(tmp_path / "empty.evenbeam").close()
    opened = open_window(tmp_path / "empty.evenbeam", MATCH)
    qtbot.waitUntil(lambda: not opened.busy and bool(opened.match._shown.lines), timeout=20_000)
    for key in "1234":
        opened.match.press(key)
        qtbot.waitUntil(lambda: not opened.busy, timeout=20_000)
        assert "Nothing to match yet" in headline(opened)


def test_on_the_bench_the_line_stands_under_the_figures_as_they_are_read(tmp_path, open_window, hands, qtbot):
    """In target mode no key is needed after the reading: what to dial by this evening's own readings, then the next."""
    book = Logbook.create(tmp_path / "target.evenbeam")
    book.save(
        Source("one", "Tansy"), Meter("hand", "Colour meter", kind="colour meter", quantities=("illuminance", "cct"))
    )
    book.close()
    opened = open_window(tmp_path / "target.evenbeam")
    opened.bench.desk.free_source, opened.bench.desk.free_meter = "one", "hand"

    def said() -> str:
        qtbot.waitUntil(lambda: not opened.busy, timeout=20_000)
        return opened.bench.board._match.text() if opened.bench.board._match.isVisibleTo(opened.bench) else ""

    def read(dial: str, kelvin: str) -> None:
        hands.type(opened, f"dial {dial}; 100 %; at 2 m")
        hands.type(opened, f"read {kelvin} K")

    read("5600", "6049")
    assert [m.value("cct") for m in opened.bench.desk.counted] == [6049.0]
    assert said() == "", "no target, no line"
    opened.bench.desk.set_target(Target(5600.0))
    opened.bench.refresh()
    assert said().startswith("Try to dial 5210"), "one reading, and the target lies beyond it"
    read("5100", "5591")
    assert said().startswith("Dial 5100: so it passes for the target")
    opened.bench.desk.set_target(Target(4500.0))
    opened.bench.refresh()
    assert said().startswith("No dial near it was read: dial 4500 and read it"), "43 mired beyond what was read"
    opened.bench.desk.set_target(Target(4600.0))
    opened.bench.refresh()
    # 0.773 mired a mired, as the two that were read say: 38.5 mired, 49.8 on the dial, on from 5100
    assert said().startswith("Try to dial 4070 (4100 on a dial in hundreds)")
    assert "its tint is unknown" in said()
    opened.bench.desk.set_target(None)
    opened.bench.refresh()
    assert said() == ""


def test_quick_keys_are_all_of_them_asked(window, hands, qtbot):
    """The second of two quick keys was asked of the lamps of before, and undid the first."""
    match = window.match
    keys = [lamp.key for lamp in match._shown.lamps][:2]
    chosen = set(match._shown.chosen)
    assert set(keys) <= chosen
    for key in keys:
        match._toggle(key)  # no answer in between
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert set(match._shown.chosen) == chosen - set(keys)


def test_a_change_is_seen_though_the_question_that_saw_it_was_left(window, qtbot):
    book = window.document.logbook
    book.save(Source("late", "Latecomer"))
    window.document.readings_changed()  # asks anew ...
    window.match.ask(Ask.MIX)  # ... and is left at once for another question
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    names = {source.nickname for source in window.match._matches._file._collection.sources.values()}
    assert "Latecomer" in names
