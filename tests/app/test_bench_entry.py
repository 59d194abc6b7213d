"""Typing at the Bench as people do: questions, letters that are keys too, doubts given up, waits, earlier readings."""

import threading
from datetime import timedelta

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from even_beam.answers.bench import earlier
from even_beam.app.stations.bench.earlier_dialog import EarlierDialog
from even_beam.app.stations.bench.lamp_dialog import LampDialog
from even_beam.app.stations.bench.list_dialog import ListDialog
from even_beam.app.stations.bench.terms_dialog import TermsDialog
from even_beam.bench.records import Event, EventKind, Meter, Session, Source, Step, Terms, new_id
from even_beam.logbook.store import Logbook

HAND = Meter("hand", "Hand meter", kind="light meter", quantities=("illuminance",))
COLOUR = Meter("colour", "Colour meter", kind="colour meter", quantities=("illuminance", "cct"))
ENTER = Qt.Key.Key_Return


def look(window) -> str:
    return window.bench.board.look.accessibleName()


@pytest.fixture
def bench(tmp_path, open_window):
    """A window on a logbook of two lamps and two meters, nothing read."""
    book = Logbook.create(tmp_path / "new.evenbeam")
    book.save(HAND, COLOUR, Source("one", "Tansy"), Source("two", "Sorrel"))
    book.close()
    window = open_window(tmp_path / "new.evenbeam")
    window.bench.desk.free_source, window.bench.desk.free_meter = "one", "hand"
    return window


def test_a_line_that_asks_stays_open_until_a_letter_answers(bench, hands):
    bench.bench.desk.free_meter = "colour"
    hands.press(bench, *"5594")
    assert "L: 5594 lx; K: 5594 K read" in bench.bench.board.entry.offer
    hands.press(bench, ENTER)
    assert bench.bench.board.entry.isVisible()  # nothing is guessed
    assert bench.bench.desk.measured == ()
    hands.press(bench, "k", ENTER)
    assert bench.bench.desk.counted[-1].value("cct") == 5594.0


def test_a_letter_that_begins_a_quantity_offers_both(bench, hands):
    hands.press(bench, "r")
    assert "R: plan a run? Enter" in bench.bench.board.entry.offer
    hands.press(bench, *"a 96", ENTER)
    assert bench.bench.desk.counted[-1].value("ra") == 96.0
    opened = []

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        opened.append(type(dialog))
        dialog.reject()

    QTimer.singleShot(300, act)
    hands.act(bench, "t")
    assert opened == [TermsDialog]


def test_terms_alone_move_what_comes_next(bench, hands):
    hands.type(bench, "spot; at 3 m; 50 %")
    terms = bench.bench.desk.next_terms
    assert (terms.zoom, terms.distance_m, terms.level_pct) == ("spot", 3.0, 50.0)
    assert "from the next reading on" in look(bench)
    hands.press(bench, Qt.Key.Key_PageDown)
    assert bench.bench.desk.next_terms.level_pct == 25.0
    hands.press(bench, Qt.Key.Key_PageUp, Qt.Key.Key_PageUp)
    assert bench.bench.desk.next_terms.level_pct == 100.0


def test_terms_alone_ask_whether_the_last_reading_was_so_too(bench, hands):
    desk = bench.bench.desk
    hands.type(bench, "820 lx at 2 m dial 5600 100 %")
    hands.press(bench, *"spot", ENTER)
    entry = bench.bench.board.entry
    assert [choice.letter for choice in entry.question.choices] == ["n", "l"]
    hands.press(bench, "l")
    assert desk.counted[-1].terms.zoom == "spot" and desk.next_terms.zoom == "spot"
    hands.type(bench, "flood")
    assert desk.counted[-1].terms.zoom == "spot" and desk.next_terms.zoom == "flood"
    hands.press(bench, *"tight", ENTER)
    assert not entry.asks, "what comes next stands otherwise already: it was not said of the last"


def test_what_is_undone_is_named_and_what_is_true_then(bench, hands):
    hands.type(bench, "820 lx at 2 m dial 5600 100 %")
    hands.type(bench, "405 lx 50 %")
    assert bench.bench.undo() == "405 lx of Tansy at 5600 K, 50 %"
    assert "Undone: 405 lx" in look(bench) and "820 lx of Tansy" in look(bench)


def test_one_act_is_taken_back_with_all_that_came_after_it(bench, hands):
    for line in ("820 lx 100 %", "405 lx 50 %", "203 lx 25 %"):
        hands.type(bench, line)
    assert len(bench.bench.desk.counted) == 3

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, ListDialog)
        QTest.keyClick(dialog.focusWidget(), Qt.Key.Key_Down)
        QTest.keyClick(dialog.focusWidget(), ENTER)

    QTimer.singleShot(300, act)
    hands.act(bench, "u")
    assert [m.value("illuminance") for m in bench.bench.desk.counted] == [820.0]


def test_by_eye_and_ear_keeps_only_what_somebody_said(bench, hands):
    hands.type(bench, "820 lx")

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        dialog.try_accept()
        assert dialog.fault.isVisible(), "nothing was said"
        QTest.keyClicks(dialog.focusWidget(), "a")
        QTest.keyClicks(dialog.focusWidget(), " bit of buzz")
        dialog.try_accept()

    QTimer.singleShot(300, act)
    hands.act(bench, "j")
    (seen,) = bench.bench.desk.observations()
    assert (seen.subject, seen.finding, seen.note) == ("seen", "", "a bit of buzz")


def test_the_meter_is_chosen_with_one_key(bench, hands):
    seen = []
    for _ in range(3):
        hands.act(bench, "m")
        seen.append(bench.bench.desk.meter.nickname if bench.bench.desk.meter else None)
    assert sorted(map(str, seen)) == ["Colour meter", "Hand meter", "None"]


def _walk(bench, hands) -> None:
    for metres, lux in ((1, 3200), (2, 800), (4, 200)):
        hands.type(bench, f"{lux} lx at {metres} m dial 5600 100 %")
    hands.type(bench, "1280 lx at 5 m")
    assert bench.bench.typing.proposal is not None


def test_a_doubted_figure_is_given_up_and_not_the_one_before(bench, hands):
    _walk(bench, hands)
    hands.press(bench, "/")
    assert bench.bench.typing.proposal is None
    assert [m.value("illuminance") for m in bench.bench.desk.counted] == [3200.0, 800.0, 200.0]
    assert any(e.kind is EventKind.ENTRY_WITHDRAWN for e in bench.bench.desk.state.live_events)


def test_naming_the_lamp_looks_again_at_what_is_in_doubt(bench, hands):
    _walk(bench, hands)

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, LampDialog)
        QTest.keyClicks(dialog.focusWidget(), "So")
        QTest.keyClick(dialog.focusWidget(), ENTER)

    QTimer.singleShot(300, act)
    hands.act(bench, "l")
    last = bench.bench.desk.counted[-1]
    assert (last.source_id, last.value("illuminance")) == ("two", 1280.0)  # another lamp: nothing speaks against it


def test_earlier_readings_are_set_aside_noted_and_named(bench, hands):
    for lux in ("820 lx 100 %", "410 lx 50 %"):
        hands.type(bench, lux)

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, EarlierDialog)
        for keys in (
            ("2",),
            ("n", *"a fan on", ENTER),
            ("1",),
            ("h", *"aim was off", ENTER),
            (ENTER, *"nonsense", ENTER),
        ):
            for key in keys:
                target = dialog.focusWidget()
                QTest.keyClicks(target, key) if isinstance(key, str) else QTest.keyClick(target, key)
        assert dialog.fault.isVisible()
        dialog.reject()

    QTimer.singleShot(300, act)
    hands.act(bench, "e")
    first, second = bench.bench.desk.measured
    assert first.state.notes == ("a fan on",)
    assert second.state.standing == "set aside"
    assert [m.value("illuminance") for m in bench.bench.desk.counted] == [820.0]


def waiting_window(tmp_path, open_window, *waits: float):
    """A run of one lamp at the same terms, each step with a wait."""
    from datetime import UTC, datetime

    book = Logbook.create(tmp_path / "wait.evenbeam")
    lamp = Source("one", "Tansy", simulated="six-emitter colour light")
    meter = Meter("s", "Spectrometer", simulated="spectrometer")
    terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    session = Session(new_id(), "Warm-up", datetime(2026, 11, 19, 18, tzinfo=UTC))
    steps = [
        Step(new_id(), session.id, place + 1.0, ("one",), terms, meter.quantities, "s", wait_s=wait)
        for place, wait in enumerate(waits)
    ]
    book.save(lamp, meter, session, *steps)
    book.close()
    return open_window(tmp_path / "wait.evenbeam")


def test_a_wait_is_held_and_asked_about(tmp_path, open_window, hands):
    window = waiting_window(tmp_path, open_window, 900.0)
    assert "14 min" in window.bench.board._countdown.text(), "the wait runs from the first step on"
    window.document.clock.now += timedelta(minutes=4)
    hands.enter(window)
    assert window.document.desk.measured == ()
    assert "Still 10 min" in look(window)
    hands.enter(window)
    assert len(window.document.desk.measured) == 1


def test_a_wait_that_is_over_is_not_asked_about(tmp_path, open_window, hands):
    window = waiting_window(tmp_path, open_window, 900.0)
    window.document.clock.now += timedelta(minutes=16)
    hands.enter(window)
    assert len(window.document.desk.measured) == 1


def looked_for(window, qtbot, minutes: float) -> None:
    """Looks at the light, a quarter of a minute apart."""
    for _ in range(round(4 * minutes)):
        window.document.clock.now += timedelta(seconds=15)
        window.bench.waiting.look_at_light()
        qtbot.waitUntil(lambda: not window.busy, timeout=10_000)


def test_settled_light_ends_a_wait_early_and_nothing_is_kept_of_the_looks(tmp_path, open_window, hands, qtbot):
    window = waiting_window(tmp_path, open_window, 5400.0)
    looked_for(window, qtbot, 2.0)
    hands.enter(window)
    assert "to wait" in look(window)
    looked_for(window, qtbot, 30.0)
    assert "to wait" in look(window), "whoever insists is not looked for"
    again = tmp_path / "again"
    again.mkdir()
    window = waiting_window(again, open_window, 5400.0)
    looked_for(window, qtbot, 75.0)
    assert "The light has settled" in look(window)
    assert window.document.desk.measured == ()
    hands.enter(window)
    (reading,) = window.document.desk.measured
    assert reading.reading.terms.level_pct == 100.0


def test_a_warm_up_that_is_recorded_is_waited_for_to_the_end(tmp_path, open_window, qtbot):
    window = waiting_window(tmp_path, open_window, 5400.0, 5400.0)
    looked_for(window, qtbot, 75.0)
    assert "settled" not in look(window)
    assert "Enter asks" in window.bench.board._since.text()


def test_in_a_run_terms_go_to_the_step_that_asks_for_them(tmp_path, open_window, hands):
    book = Logbook.create(tmp_path / "run.evenbeam")
    from datetime import UTC, datetime

    session = Session(new_id(), "Sweep", datetime(2026, 11, 19, 18, tzinfo=UTC))
    at = [Terms(cct_k=5600.0, level_pct=level, distance_m=2.0) for level in (100.0, 50.0, 25.0)]
    steps = [Step(new_id(), session.id, i + 1.0, ("one",), t, ("illuminance",), "hand") for i, t in enumerate(at)]
    book.save(HAND, Source("one", "Tansy"), session, *steps)
    book.close()
    window = open_window(tmp_path / "run.evenbeam")
    desk = window.bench.desk
    hands.type(window, "25 %")
    assert desk.step.step.terms.level_pct == 25.0
    hands.type(window, "33 %")
    assert "No step asks for that" in look(window)
    hands.type(window, "410 lx 50 %")  # said with its figure: kept there, beside the step
    last = desk.counted[-1].reading
    assert (last.terms.level_pct, last.step_id) == (50.0, None)
    assert desk.step.step.terms.level_pct == 25.0


def test_escape_leaves_a_doubt_that_no_step_waits_for(bench, hands):
    """One reading too many after all is read: it is taken back, and what was there stands."""
    desk = bench.bench.desk
    for metres, lux in ((1, 3200), (2, 800), (4, 200)):
        desk.confirm(desk.propose(f"{lux} lx at {metres} m dial 5600 100 %"))
    odd = desk.confirm(desk.propose("1280 lx at 5 m"), keep_in_doubt=True)
    desk.undo()
    assert desk.of(odd.measured.reading.id).state.standing == "taken back"
    hands.type(bench, "1280 lx at 5 m")
    hands.press(bench, Qt.Key.Key_Escape)
    assert bench.bench.typing.proposal is None
    assert len(desk.counted) == 3


def test_one_act_far_back_is_undone_and_nothing_after_it(bench, hands):
    """One set aside, one corrected, then another: U takes the first in again and gives the second its old figure."""
    desk = bench.bench.desk
    hands.type(bench, "820 lx at 2 m dial 5600 100 %")
    hands.type(bench, "205 lx at 4 m")
    first, second = (m.reading.id for m in desk.measured)
    desk.set_aside(first, "aim was off")
    earlier.mend(desk, second, "202 lx")
    desk.note("after it all", first)
    hands.type(bench, "91 lx at 6 m")
    assert sorted(m.value("illuminance") for m in desk.counted) == [91.0, 202.0]
    assert desk.undo_on(first) == "note"
    assert desk.undo_on(first) == "set aside"
    assert sorted(m.value("illuminance") for m in desk.counted) == [91.0, 202.0, 820.0]
    assert desk.undo_on(second) == "a figure put in its place"
    assert sorted(m.value("illuminance") for m in desk.counted) == [91.0, 205.0, 820.0]
    assert desk.undo_on(second) is None
    desk.redo()
    assert sorted(m.value("illuminance") for m in desk.counted) == [91.0, 202.0, 820.0]

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, EarlierDialog)
        QTest.keyClicks(dialog.focusWidget(), "1")
        QTest.keyClicks(dialog.focusWidget(), "u")
        assert "nothing was done to it" in dialog.fault.text()
        dialog.reject()

    QTimer.singleShot(300, act)
    hands.act(bench, "e")


def test_the_next_digit_asks_first_about_a_figure_in_doubt(bench, hands):
    """It was lost without a trace."""
    _walk(bench, hands)
    hands.press(bench, "8")
    assert "Decide on it first" in look(bench) and not bench.bench.board.entry.isVisible()
    assert bench.bench.typing.proposal is not None
    hands.press(bench, ENTER)  # taken back, and typed on
    assert bench.bench.board.entry.text == "8"
    withdrawn = [e for e in bench.bench.desk.state.live_events if e.kind is EventKind.ENTRY_WITHDRAWN]
    assert [event.old for event in withdrawn] == ["1280 lx at 5 m"]
    hands.press(bench, "1", "0", ENTER)


def test_a_figure_that_nobody_decided_on_is_kept_in_doubt_when_the_window_is_closed(bench, hands):
    _walk(bench, hands)
    path, session_id = bench.document.logbook.path, bench.bench.desk.session.id
    bench.close()
    book = Logbook.open_to_read(path)
    last = book.readings(session_id)[-1]
    assert [(value.quantity, value.value) for value in last.values] == [("illuminance", 1280.0)]
    kinds = [e.kind for e in book.of_session(Event, session_id) if e.reading_id == last.id]
    assert EventKind.KEPT_IN_DOUBT in kinds
    book.close()


WORDS = (
    "bare", "with big lens", "eighth minus green", "no dial", "medium", "lens", "spot", "full flood",
    "reference plane yoke", "quarter CTO", "half green", "dial 3200", "set to 50 %", "centre", "15 left",
    "in the upright plane", "umbrella", "snoot", "honeycomb", "narrow", "tight", "wide", "grid", "doors", "frost",
    "silk", "hue 30", "zoom 30", "tint 4", "Ra 96", "TLCI 92", "SSI 84 P3200", "Rf 91", "R9 40", "duv +0.001", "kelvin",
    "illuminance", "bright", "yes",
)  # fmt: skip
"""Words that people say at a bench, some of them no terms: every letter of the alphabet begins one."""


@pytest.mark.parametrize("state", ["nothing read", "read", "in doubt"])
def test_words_typed_with_the_line_closed_do_nothing_to_what_is_kept(bench, hands, state):
    desk = bench.bench.desk
    if state == "read":
        hands.type(bench, "820 lx at 2 m dial 5600 100 %")
    elif state == "in doubt":
        _walk(bench, hands)

    def kept() -> tuple[object, ...]:
        return desk.measured, desk.state.live_events, desk.free_meter, desk.free_source, desk.aside, desk.session

    before = kept()
    for words in WORDS:
        hands.press(bench, *words)
        assert kept() == before, words
        assert QApplication.activeModalWidget() is None, words
        if state == "in doubt":
            assert bench.bench.typing.proposal is not None
        else:
            assert bench.bench.board.entry.text == words
            hands.press(bench, Qt.Key.Key_Escape)


def test_escape_leaves_a_meter_that_does_not_answer(bench, hands, monkeypatch, qtbot):
    station, hangs = bench.bench, threading.Event()

    class Hanging:
        def read(self):
            hangs.wait(20.0)
            raise AssertionError("what it says later is not kept")

    key = Meter("key", "Spectrometer")
    bench.document.logbook.save(key)
    station.desk.reload_kit()
    station.desk.free_meter = "key"
    monkeypatch.setattr(bench.document.instruments, "meter", lambda meter: Hanging())
    QTest.keyClick(bench.focusWidget() or bench, ENTER)
    qtbot.waitUntil(lambda: station._reading, timeout=5000)
    hands.press(bench, Qt.Key.Key_Escape)
    assert not station._reading
    assert "had not answered" in look(bench)
    hangs.set()
    hands.press(bench, "8", "0", "0", ENTER)
    assert [m.value("illuminance") for m in station.desk.counted] == [800.0]


def test_a_weak_doubt_is_asked_and_enter_keeps_it_looked_at(bench, hands):
    for line in ("820 lx 100 % at 2 m", "405 lx 50 %"):
        hands.type(bench, line)
    desk, entry = bench.bench.desk, bench.bench.board.entry
    hands.press(bench, *"8.2 lx 10 %", ENTER)
    assert len(desk.counted) == 2 and entry.asks, "nothing is kept before"
    assert [choice.letter for choice in entry.question.choices] == ["a", "b"]
    hands.press(bench, ENTER)
    assert desk.counted[-1].value("illuminance") == 8.2
    (note,) = desk.counted[-1].state.notes
    assert note.startswith("looked at: 8.20 lx is not ruled out, but 82.0 lx lies nearer")
    assert not [row for row in earlier.rows(desk) if row.open], "it was looked at"
    bench.bench.undo()
    hands.press(bench, *"8.2 lx 10 %", ENTER, "b")
    assert (desk.counted[-1].value("illuminance"), desk.counted[-1].state.notes) == (82.0, ())


def test_what_came_in_with_a_table_is_walked_through_weak_doubts_too(bench, hands, tmp_path):
    from even_beam.answers.intake.importing import AsSaid, import_files

    table = tmp_path / "old.csv"
    table.write_text("Lamp,Level,Lux\nTansy,100,820\nTansy,50,405\nTansy,25,203\nTansy,1,0.82\n")
    desk = bench.bench.desk
    report = import_files([table], bench.document.logbook, desk._clock, AsSaid(guess=True))
    assert report.doubts == [] and len(report.asks) == 1
    assert report.asks[0].startswith("Tansy: 0.82 lx is not ruled out, but 8.20 lx lies nearer")
    desk = bench.document.work_on(report.sessions[0])
    rows = earlier.rows(desk)
    assert [row.asks for row in rows] == [True, False, False, False]
    assert earlier.open_words(rows).startswith("1 to be looked at once more, counted")
    assert rows[0].meant[0] == "8.20 lx"

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        QTest.keyClicks(dialog.focusWidget(), "+")
        dialog.accept()

    QTimer.singleShot(300, act)
    bench.bench._earlier.walk()
    assert desk.counted[-1].state.notes[0].startswith("looked at: ")
    assert len(desk.counted) == 4 and not any(row.open for row in earlier.rows(desk))
