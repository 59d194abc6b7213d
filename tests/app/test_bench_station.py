"""The Bench in the real window, by keys."""

from dataclasses import replace

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QTimer, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QLabel

from even_beam.answers.bench.tone_samples import Tone
from even_beam.app.stations.bench import file_intake, questions
from even_beam.app.stations.bench.station import HOLD_MS
from even_beam.app.tone_player import Tones
from even_beam.bench.run import Standing
from even_beam.shell.settings import Settings


@pytest.fixture
def window(open_window, tmp_path):
    return open_window(tmp_path / "new.evenbeam")


@pytest.fixture
def demo_window(open_window, demo):
    return open_window(demo)


def look(window) -> str:
    return window.bench.board.look.accessibleName()


def go_to(window, name: str) -> None:
    window.document.work_on(next(s for s in window.document.logbook.sessions() if s.name == name))


def test_just_read_needs_no_form(window, hands):
    hands.press(window, Qt.Key.Key_Return)
    assert window.bench.board.entry.isVisible()  # nothing simulated is read of a lamp that has no stand-in
    hands.type(window, "820 lx")
    desk = window.document.desk
    assert len(desk.counted) == 1
    assert desk.counted[0].source_id is None
    assert not desk.meters[desk.counted[0].reading.meter_id].simulated  # it was asked for, once
    assert "lamp not named yet" in window.bench.board.prompt.accessibleName()
    hands.type(window, "1.6k")
    assert desk.counted[-1].value("illuminance") == 1600.0
    assert desk.counted[-1].figure("illuminance").text == "1.6k"


def test_what_is_understood_is_shown_before_it_counts(window, hands):
    hands.type(window, "820 lx")
    hands.press(window, *"160 fc")
    entry = window.bench.board.entry
    assert entry.isVisible()
    assert "1722 lx" in entry.offer
    assert len(window.document.desk.counted) == 1
    hands.press(window, Qt.Key.Key_Escape)
    assert not entry.isVisible()
    assert len(window.document.desk.counted) == 1


def test_letters_in_a_number_keep_the_text(window, hands):
    hands.type(window, "820 lx")
    hands.type(window, "16oo")
    assert "Not understood" in look(window)
    assert window.bench.board.entry.text == "16oo"
    assert len(window.document.desk.counted) == 1


def test_a_whole_run_by_the_number_pad(demo_window, hands):
    window, desk = demo_window, demo_window.document.desk
    assert desk.session.name == "Tansy, second evening"
    assert "Taken up where it was left" in look(window)
    before = len(desk.counted)
    for _ in range(4):
        hands.enter(window)
    assert len(desk.counted) == before + 4
    assert "Fits" in look(window)
    hands.press(window, "/")
    assert len(desk.counted) == before + 3
    hands.press(window, "*")  # one more of the last step that was read
    assert len(desk.counted) == before + 4
    hands.press(window, "+")
    hands.type(window, "33")
    assert desk.next_terms.level_pct == 33.0
    hands.enter(window)
    assert desk.counted[-1].terms.level_pct == 33.0
    hands.act(window, "n")
    hands.type(window, "fan came on")
    assert desk.counted[-1].state.notes == ("fan came on",)
    asked = []

    def since_the_newest() -> None:
        dialog = QApplication.activeModalWidget()
        asked.append(" ".join(label.text() for label in dialog.findChildren(QLabel)))
        QTest.keyClick(dialog.focusWidget(), Qt.Key.Key_End)
        QTest.keyClick(dialog.focusWidget(), Qt.Key.Key_Return)

    QTimer.singleShot(300, since_the_newest)
    hands.press(window, "-")
    assert "Something moved: since when?" in asked[0]
    assert [m.state.suspect for m in desk.counted][-2:] == [False, True]
    assert "A repeat of" in look(window) and " tells: Set it right" in look(window)
    while desk.step is not None:
        hands.enter(window)
        if desk.pending_doubt is not None:
            hands.hold(window, "+", HOLD_MS + 200)
    assert "all read" in window.bench.board.prompt.accessibleName()


def test_the_helper_sees_step_figure_and_verdict_but_never_what_was_expected(demo_window, hands, qtbot):
    window = demo_window
    go_to(window, "Walk with Bracken")
    hands.act(window, "w")
    reader = window.bench.reader
    assert reader.isVisible()
    for _ in range(11):
        window.document.desk.take_back()
    hands.type(window, "1180")
    plain = str.maketrans("", "", "\N{NARROW NO-BREAK SPACE} ")
    assert "1638" in look(window).translate(plain)
    shown = reader.accessibleName()
    assert "15 ft" in shown
    assert shown.endswith("lx read again")
    assert not any(digits in shown.translate(plain) for digits in ("1661", "1908", "1780"))
    reader.grab()
    QTest.keyClick(reader, Qt.Key.Key_F11)
    assert reader.isFullScreen()
    QTest.keyClick(reader, Qt.Key.Key_Escape)
    assert not reader.isVisible()


def test_the_reflex_key_never_keeps_a_doubt(demo_window, hands, qtbot):
    window = demo_window
    go_to(window, "Walk with Bracken")
    desk = window.document.desk
    for _ in range(11):
        desk.take_back()
    hands.type(window, "1180")
    assert "Does not fit" in look(window)
    count = len(desk.counted)
    for _ in range(3):
        hands.enter(window)  # read again: opens the line, and an empty line keeps nothing
    assert len(desk.counted) == count
    hands.press(window, Qt.Key.Key_Escape)
    hands.type(window, "1180")
    hands.hold(window, "+", HOLD_MS // 4)  # let go too early
    assert len(desk.counted) == count
    hands.hold(window, "+", HOLD_MS + 200)
    assert len(desk.counted) == count + 1
    assert desk.counted[-1].state.kept_in_doubt
    assert desk.counted[-1].value("illuminance") == 1180.0


def test_a_candidate_is_taken_with_a_key_that_no_figure_contains(demo_window, hands):
    window = demo_window
    go_to(window, "Walk with Bracken")
    desk = window.document.desk
    for _ in range(11):
        desk.take_back()
    hands.type(window, "178")
    assert "Does not fit" in look(window)
    hands.press(window, "*")
    assert "Was it 1\u202f780 lx?" in look(window)
    count = len(desk.counted)
    hands.hold(window, "+", HOLD_MS + 200)
    assert len(desk.counted) == count + 1
    value = desk.counted[-1].reading.values[0]
    assert (value.value, value.text) == (1780.0, "178")


def test_a_lamp_that_was_not_changed_is_caught_while_it_is_lit(demo_window, hands, monkeypatch):
    window, desk = demo_window, demo_window.document.desk
    hands.enter(window)  # 25 %, second
    stuck = desk.counted[-1].terms

    def stay(sources, terms) -> None:
        window.document.instruments.bench.set([(s.simulated, stuck) for s in sources])

    monkeypatch.setattr(window.document.instruments, "set_lamps", stay)
    hands.enter(window)
    assert "Was the lamp changed?" in look(window)
    doubtful = desk.pending_doubt.reading.id
    monkeypatch.undo()
    hands.enter(window)
    assert desk.pending_doubt is None
    assert desk.of(doubtful).state.standing is Standing.SUPERSEDED


def test_undo_and_redo_of_the_bench(demo_window, hands):
    window, desk = demo_window, demo_window.document.desk
    hands.enter(window)
    count = len(desk.counted)
    window._undo()
    assert len(desk.counted) == count - 1
    window._redo()
    assert len(desk.counted) == count


def test_expected_values_come_after_the_entry(demo_window, hands):
    window = demo_window
    go_to(window, "Walk with Bracken")
    for _ in range(11):
        window.document.desk.take_back()
    hands.press(window, *"17")
    shown = [
        window.bench.board.entry.offer,
        window.bench.board.entry._caption.text(),
        window.bench.board.prompt.accessibleName(),
    ]
    assert not any("expected" in text for text in shown)
    hands.press(window, *"75", Qt.Key.Key_Enter)
    assert "was expected" in window.bench.board.answers[0].accessibleName()


def spectrum_file(folder, name: str, factor: float = 1.0, last: int = 780):
    path = folder / name
    rows = "\n".join(f"{w},{factor * w / 5e6}" for w in range(380, last + 1, 5))
    path.write_text(f"nm,irradiance W/m2/nm\n{rows}", encoding="utf-8")
    return path


def drop(window, *paths) -> None:
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path)) for path in paths])
    event = QDropEvent(
        QPointF(200, 200), Qt.DropAction.CopyAction, mime, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    window.bench.dropEvent(event)


def test_a_dropped_spectrum_becomes_a_reading(window, qtbot, tmp_path):
    window.document.begin("Files")
    drop(window, spectrum_file(tmp_path, "one.csv"))
    qtbot.waitUntil(lambda: len(window.document.desk.counted) == 1, timeout=5000)
    assert window.document.desk.counted[0].value("cct") is not None
    assert window.document.desk.counted[0].value("illuminance") > 0.0


def test_twenty_dropped_spectra_are_assigned_to_steps(demo_window, qtbot, tmp_path, monkeypatch):
    window, desk = demo_window, demo_window.document.desk
    files = [spectrum_file(tmp_path, f"{i:02d}.csv", 1.0 + i) for i in range(20)]
    bad = spectrum_file(tmp_path, "bad.csv", last=600)
    seen = {}

    class Accepting(file_intake.FilesDialog):
        def exec(self) -> int:
            seen["fault"] = self.fault.text()
            self.try_accept()
            seen["asks"] = self.fault.text()
            self.put_in_order()
            return QDialog.DialogCode.Accepted

    monkeypatch.setattr(file_intake, "FilesDialog", Accepting)
    count = len(desk.measured)
    drop(window, *files, bad)
    qtbot.waitUntil(lambda: len(desk.measured) >= count + 12, timeout=10_000)
    assert "covers 380-600 nm" in seen["fault"]
    assert "which step" in seen["asks"]  # neither their names nor their whites say it
    open_steps = {m.reading.step_id for m in desk.measured[count:]}
    assert len(open_steps) >= 12


def test_terms_of_a_stretch_are_corrected_in_the_window(demo_window, monkeypatch):
    window, desk = demo_window, demo_window.document.desk

    class Answering(questions.TermsDialog):
        def exec(self) -> int:
            self._scope.setCurrentIndex(1)
            self._edits["distance"].setText("12 ft")
            self.try_accept()
            return QDialog.DialogCode.Accepted

    monkeypatch.setattr(questions, "TermsDialog", Answering)
    window.bench.press("T")
    assert all(m.terms.distance_m == pytest.approx(3.6576) for m in desk.counted)
    assert "Terms corrected" in look(window)
    window._undo()
    assert {m.terms.distance_m for m in desk.counted} == {2.0}


def test_a_lamp_is_named_after_it_was_read(window, hands, monkeypatch):
    hands.type(window, "820 lx"), hands.type(window, "412 lx")

    class Naming(questions.LampDialog):
        def exec(self) -> int:
            self._filter.setText("Foxglove")
            self.try_accept()
            return QDialog.DialogCode.Accepted

    monkeypatch.setattr(questions, "LampDialog", Naming)
    window.bench.press("L")
    names = {window.document.desk.name_of(m.reading.source_ids) for m in window.document.desk.counted}
    assert names == {"Foxglove"}


def test_a_run_is_planned_with_its_cautions(demo_window, monkeypatch):
    window = demo_window
    seen = {}

    class Planning(questions.RunDialog):
        def exec(self) -> int:
            self.check_lamp(window.document.kit.lamps()[0].source.id)
            self._distances.setText("2 m")
            self._repeats.setValue(1)
            seen["summary"], seen["caution"] = self._summary.text(), self._caution.text()
            return QDialog.DialogCode.Accepted

    monkeypatch.setattr(questions, "RunDialog", Planning)
    window.bench.press("R")
    assert "15 steps" in seen["summary"]
    assert "Do not look into the lamp" in seen["caution"]
    assert "discharge lamp" in seen["caution"]
    assert len(window.document.desk.state.steps) == 15


def test_a_full_disk_is_said_calmly(demo_window, hands):
    window, desk = demo_window, demo_window.document.desk
    desk.logbook._connection.execute("PRAGMA max_page_count=1")
    before = len(desk.measured)
    for _ in range(8):
        hands.enter(window)
        if "disk is full" in look(window):
            break
    assert "disk is full" in look(window)
    assert "is safe" in look(window)
    assert len(desk.logbook.readings(desk.session.id)) >= before


def test_keys_at_the_foot_can_be_clicked(demo_window, qtbot):
    window, desk = demo_window, demo_window.document.desk
    count = len(desk.counted)
    window.repaint()
    start, end, key = window._foot._places[0]
    assert key == "Enter"
    QTest.mouseClick(
        window._foot, Qt.MouseButton.LeftButton, pos=window._foot.rect().center().__class__((start + end) // 2, 15)
    )
    qtbot.waitUntil(lambda: len(desk.counted) == count + 1, timeout=5000)


def test_the_meter_that_fails_is_said_calmly(demo_window, hands, monkeypatch):
    window = demo_window
    driver = window.document.instruments.meter(window.document.desk.meter)

    def broken():
        raise OSError("cable")

    monkeypatch.setattr(driver, "read", broken)
    hands.enter(window)
    assert "The meter gave no reading" in look(window)
    monkeypatch.undo()
    hands.enter(window)
    assert "gave no reading" not in look(window)


def test_units_of_the_user(open_window, demo):
    from even_beam.shell.settings import Settings

    window = open_window(demo, settings=replace(Settings(), illuminance_unit="fc", distance_unit="ft"))
    assert " fc" in window.bench.board.answers[0].accessibleName()


def test_tones_and_the_fade_are_options(open_window, demo, hands, monkeypatch):
    settings = Settings(fade=False, tones=True)
    window = open_window(demo, settings=settings)
    played = []
    monkeypatch.setattr(window.bench.tones, "play", lambda verdict: played.append(str(verdict)))
    darkened = []
    monkeypatch.setattr(window.bench.veil, "fade_in", lambda: darkened.append(True))
    hands.enter(window)
    assert played == ["fits"]
    window.use_settings(replace(settings, fade=True, tones=False))
    hands.enter(window)
    assert played == ["fits"]
    assert darkened == [True]


def test_without_sound_it_says_so_once(open_window, demo, monkeypatch):
    import sys

    said = []
    monkeypatch.setitem(sys.modules, "PyQt6.QtMultimedia", None)
    tones = Tones(said.append)
    tones.play(Tone.FITS)
    tones.play(Tone.FAULT)
    assert len(said) == 1
    assert "libpulse0" in said[0]
