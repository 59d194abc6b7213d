"""The run that reads by itself, in the window, over real wires."""

import time

import pytest
from PyQt6.QtCore import Qt

from even_beam.app.stations.bench import by_itself as module
from even_beam.bench.ambient import is_ambient
from even_beam.bench.planning.sweep import Sweep
from even_beam.bench.records import Meter, new_id
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.logbook.store import Logbook
from tests.instruments.wires import stand_ins


class Answered:
    """The dialog, answered."""

    chosen, wants_stand_ins, offered = None, False, ()

    def __init__(self, parent, known, simulated):
        Answered.offered = tuple(simulated)

    def exec(self):
        return True


def look(window) -> str:
    return window.bench.board.look.accessibleName()


@pytest.fixture
def bench(open_window, tmp_path, monkeypatch):
    """A window with a sheet of one lamp to read, and its instruments on wires."""
    path = tmp_path / "book.evenbeam"
    book = Logbook.create(path)
    book.save(Meter(new_id(), "Wall meter"))
    book.close()
    window = open_window(path)
    document = window.document
    lamp = document.kit.add_lamp(LampForm("Tansy", "film light", simulated="six-emitter colour light"))
    sweep = Sweep((lamp.id,), (5600.0, 3200.0), (100.0, 10.0), (2.0,), repeats=1, return_to_first=False)
    document.plan_run(sweep, document.kit.meters()[0], "By itself")
    monkeypatch.setattr(module, "WiresDialog", Answered)
    with stand_ins(tmp_path) as made:
        monkeypatch.setattr(Answered, "chosen", made.file)
        yield window, made
        window.bench.rest()


def is_lit(made):
    return any(lamp.told.get("level", 0.0) > 0.0 for lamp in made.room.lamps.values())


def begin(window, qtbot):
    window.bench.press("Alt A")
    qtbot.waitUntil(lambda: "Tansy will light" in look(window), timeout=60_000)


def until_ended(window, qtbot):
    qtbot.waitUntil(lambda: not window.bench.by_itself.is_under_way and not window.busy, timeout=60_000)


def counting(window):
    return [m for m in window.bench.desk.measured if m.state.counts and not is_ambient(m)]


def test_nothing_lights_before_a_key_and_the_sheet_is_read_after_it(bench, qtbot, hands):
    window, made = bench
    begin(window, qtbot)
    time.sleep(0.5)
    assert not is_lit(made) and not counting(window)
    assert {hint.key for hint in window.bench.hints()} == {"Enter", "Esc"}
    window.bench.press("Enter")
    qtbot.waitUntil(lambda: is_lit(made), timeout=60_000)
    assert "any key" in {hint.key for hint in window.bench.hints()}
    until_ended(window, qtbot)
    assert "The sheet is read" in look(window)
    assert len(counting(window)) == 4 and window.bench.desk.step is None
    assert {m.terms.cct_k for m in counting(window)} == {5606.0, 3207.0}
    assert not is_lit(made) and made.lamps.packets[-1].is_terminated


def test_esc_puts_the_lamps_to_rest_at_once_and_keeps_nothing_of_it(bench, qtbot):
    window, made = bench
    begin(window, qtbot)
    window.bench.press("Enter")
    qtbot.waitUntil(lambda: len(counting(window)) == 1 and is_lit(made), timeout=60_000)
    began = time.monotonic()
    qtbot.keyClick(window.bench, Qt.Key.Key_Escape)
    asked = time.monotonic() - began
    assert asked < 0.1
    until_ended(window, qtbot)
    kept = len(counting(window))
    assert kept <= 2 and "Esc was pressed" in look(window)
    time.sleep(0.5)
    assert not is_lit(made)
    assert all(m.value("illuminance") > 300.0 for m in counting(window)), "none of a lamp that was put to rest"
    begin(window, qtbot)  # and it goes on there
    window.bench.press("Enter")
    until_ended(window, qtbot)
    assert len(counting(window)) == 4 and window.bench.desk.step is None


def test_any_key_pauses_after_the_reading_and_types_nothing(bench, qtbot):
    window, made = bench
    begin(window, qtbot)
    window.bench.press("Enter")
    qtbot.waitUntil(lambda: len(counting(window)) == 1, timeout=60_000)
    qtbot.keyClick(window.bench, Qt.Key.Key_5)
    until_ended(window, qtbot)
    assert "it was paused" in look(window) and not window.bench.board.entry.isVisible()
    assert len(counting(window)) < 4 and not is_lit(made)


def test_closing_the_window_puts_the_lamps_to_rest(bench, qtbot):
    window, made = bench
    begin(window, qtbot)
    window.bench.press("Enter")
    qtbot.waitUntil(lambda: is_lit(made), timeout=60_000)
    window.close()
    qtbot.waitUntil(lambda: not is_lit(made) and made.lamps.packets[-1].is_terminated, timeout=5_000)


def test_without_a_sheet_and_without_instruments_it_says_what_to_do(bench, qtbot, monkeypatch, tmp_path):
    window, _ = bench
    broken = tmp_path / "broken.toml"
    broken.write_text("[meter.A]\ndriver = 'crystal ball'")
    monkeypatch.setattr(Answered, "chosen", broken)
    window.bench.press("Alt A")
    until_ended(window, qtbot)
    assert "no driver “crystal ball”" in look(window) and "Nothing was lit" in look(window)
    window.document.begin("Just reading")
    window.bench.press("Alt A")
    assert not window.bench.by_itself.is_under_way


def test_simulated_lamps_are_offered_as_stand_ins_on_wires(bench, qtbot, monkeypatch):
    window, _ = bench
    monkeypatch.setattr(Answered, "wants_stand_ins", True)
    window.bench.press("Alt A")
    assert Answered.offered == ("Tansy",)
    qtbot.waitUntil(lambda: "Tansy will light" in look(window), timeout=60_000)
    window.bench.press("Enter")
    until_ended(window, qtbot)
    assert "The sheet is read" in look(window) and len(counting(window)) == 4


def test_a_sheet_of_another_meter_is_not_skipped_through(bench, qtbot, tmp_path):
    window, made = bench
    made.file.write_text(made.file.read_text().replace("Wall meter", "Attic meter"))
    window.bench.press("Alt A")
    until_ended(window, qtbot)
    assert "The sheet reads with Wall meter, and the bench file has Attic meter: name them alike" in look(window)
    assert all(not state.skipped for state in window.bench.desk.state.steps)
