import sqlite3
import sys
import threading

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QWidget

from even_beam.answers.compare.questions import Ask
from even_beam.app import dialogs, theme
from even_beam.app import window as window_module
from even_beam.app.crash import CrashGuard
from even_beam.app.stations.kit import station as kit_station
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.window import BENCH, COMPARE, KIT, REPORT
from even_beam.desk.kit.form_error import FormError
from even_beam.light import METHOD_VERSION
from even_beam.logbook.errors import DestroyedError, LogbookError
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import load
from tests.app.waiting import compare_of


@pytest.fixture
def window(open_window, demo):
    return open_window(demo)


def luminance(colour: str) -> float:
    """Relative luminance, WCAG 2.2."""
    channels = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


@pytest.mark.parametrize("tokens", [theme.STUDIO, theme.PAPER], ids=lambda t: t.name)
def test_all_that_must_be_read_has_contrast(tokens):
    """At least 4.5:1 (WCAG 2.2, success criterion 1.4.3) on every ground."""
    for ground in (tokens.ground, tokens.panel, tokens.raised):
        for text in (
            tokens.text,
            tokens.secondary,
            tokens.coming,
            tokens.accent,
            tokens.fault,
            tokens.green,
            tokens.magenta,
        ):
            lighter, darker = sorted((luminance(text), luminance(ground)), reverse=True)
            assert (lighter + 0.05) / (darker + 0.05) >= 4.5, (text, ground)


def test_greys_are_neutral():
    for tokens in (theme.STUDIO,):
        for grey in (tokens.ground, tokens.panel, tokens.raised, tokens.hairline, tokens.line, tokens.text):
            assert grey[1:3] == grey[3:5] == grey[5:7]


def test_every_station_opens_in_both_themes(window, qtbot):
    for _ in range(2):
        for station in (KIT, BENCH, COMPARE, REPORT):
            window.go(station)
            qtbot.waitUntil(lambda: not window.busy, timeout=60_000)
            assert not window.grab().isNull()
        window._change_theme()
    assert load().theme == "studio"


def test_another_theme_dresses_the_window_its_charts_and_its_dialogs(window, qtbot):
    from even_beam.app.settings_dialog import SettingsDialog

    def grounds():
        window.go(COMPARE)
        qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
        chart = next(c for c in window.findChildren(ChartView) if c.isVisible())
        qtbot.waitUntil(lambda: chart.getPlotItem().isVisible(), timeout=5_000)
        dialog = SettingsDialog(window, window._settings)
        return [w.grab().toImage().pixelColor(1, 1).name() for w in (chart, window, dialog)]

    studio = [theme.STUDIO.ground, theme.STUDIO.panel, theme.STUDIO.raised]
    paper = [theme.PAPER.ground, theme.PAPER.panel, theme.PAPER.raised]
    assert grounds() == studio
    for wanted in (paper, studio):
        window._change_theme()
        assert not window.updatesEnabled()  # nobody sees it half dressed
        qtbot.waitUntil(window.updatesEnabled, timeout=5_000)
        assert grounds() == wanted
    window._change_theme()
    window._change_theme()
    qtbot.wait(100)
    assert grounds() == studio


def test_every_control_has_a_name(window, qtbot):
    from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QPlainTextEdit, QSpinBox

    nameless = []
    for kind in (QAbstractButton, QComboBox, QLineEdit, QPlainTextEdit, QSpinBox):
        for control in window.findChildren(kind):
            named = control.accessibleName() or getattr(control, "text", lambda: "")()
            if not named and not control.objectName().startswith("qt_"):
                nameless.append(control)
    assert nameless == []
    for chart in window.findChildren(
        QWidget, options=__import__("PyQt6.QtCore", fromlist=["Qt"]).Qt.FindChildOption.FindChildrenRecursively
    ):
        if type(chart).__name__ == "ChartView" and chart.chart is not None:
            assert chart.accessibleDescription()


def test_tab_order_reaches_every_station_control(window):
    window.go(COMPARE)
    seen = set()
    focus = window.compare._lamps
    for _ in range(2000):
        focus = focus.nextInFocusChain()
        seen.add(focus)
    answer = window.compare._answer
    assert {answer.bar, answer.terms, answer.table, window.compare._filter} <= seen


def test_compare_follows_the_bench(window):
    window.go(COMPARE)
    compare_of(window).show_session("Specimen table: Tansy or tungsten?")
    assert "Burdock (with reflector) is 1.2 stops" in compare_of(window)._shown.published
    assert "differs: white: none was dialled on Yarrow" in compare_of(window)._answer.terms.toolTip().replace(
        "differs:", "differs:"
    )
    desk = window.document.work_on(next(s for s in window.document.logbook.sessions() if s.name.startswith("Specimen")))
    for measured in list(desk.counted):
        if desk.name_of(measured.reading.source_ids) == "Burdock" and measured.terms.level_pct == 100.0:
            desk.set_aside(measured.reading.id, "aim was off")
    said = compare_of(window)._shown.published
    assert "5600 K dialled, 100 %" not in said  # 75 % is the highest that all share now
    for number, _ in enumerate(Ask, start=1):
        compare_of(window).press(str(number))
        assert compare_of(window)._answer.table.shown()[1:] or compare_of(window)._shown.judged
        assert all(not chart.chart.empty for chart in compare_of(window)._answer.charts)
    compare_of(window).press("1")
    compare_of(window).press("Ctrl Shift C")
    from PyQt6.QtGui import QGuiApplication

    assert "series\t" in QGuiApplication.clipboard().text()


def test_lock_another_reference_and_leave_a_lamp_out(window):
    window.go(COMPARE)
    compare_of(window).show_session("Specimen table: Tansy or tungsten?")
    compare_of(window)._lamps.setCurrentRow(1)
    compare_of(window).press("L")
    assert compare_of(window).head()[1] == "reference: Burdock"
    assert "than Burdock" in compare_of(window)._shown.published
    compare_of(window)._lamps.setCurrentRow(2)
    compare_of(window).press("Space")
    assert "Yarrow" not in compare_of(window)._shown.published


def say(window, text: str) -> None:
    """A line in the Kit."""
    QTest.keyClicks(window.kit._line._line, text)
    QTest.keyClick(window.kit._line._line, Qt.Key.Key_Return)


def under(window) -> str:
    """What the cursor of the Kit is on."""
    return window.kit._list.currentItem().text()


def named(window, nickname: str):
    return next(card for card in window.document.kit.lamps() if card.source.nickname == nickname)


def test_the_kit_by_keys(window, qtbot):
    window.go(KIT)
    assert under(window) == "Tansy", "it opens on the lamp that was read last"
    window.kit.press("A")
    say(window, "Foxglove; 640 EUR; 97 Ra")
    card = named(window, "Foxglove")
    assert (card.costs[0].amount, card.claim("ra").text) == (640.0, "97")
    assert under(window) == "Foxglove"
    window.kit.press("Enter")
    say(window, "twelve euros fifty x")
    assert "is not" in window.said or "known" in window.said
    assert window.kit._line.isVisible(), "what is not understood stays to be mended"
    window.kit._line._line.clear()
    say(window, "back by 1 December 2026")
    assert named(window, "Foxglove").source.return_by == "2026-12-01"
    window._undo()
    assert named(window, "Foxglove").source.return_by == ""
    window._undo()
    assert "Foxglove" not in [card.source.nickname for card in window.document.kit.lamps()]
    window.kit._filter.setText("tungsten")
    assert window.kit._list.count() >= 1
    window.kit._filter.setText("nothing like it")
    assert "No lamp has" in window.kit._empty.text()
    window.kit._filter.clear()
    window.kit._list.setCurrentRow(0)
    name = under(window)
    window.kit.press("Del")
    assert under(window) != name
    window.kit.press("R")
    window.kit._list.setCurrentRow(0)
    assert under(window) == name and window.kit._list.currentItem().data(Qt.ItemDataRole.UserRole).faint
    window.kit.press("Del")
    assert named(window, name)


def test_the_shelves_by_keys(window, qtbot, tmp_path, monkeypatch):
    window.go(KIT)
    window.kit.press("3")
    assert under(window) == "beech leaf", "the first of the demo's petals and leaves"
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert "Comfrey" in window.kit._page.texts and "ΔE00" in window.kit._page.texts
    file = tmp_path / "moss.csv"
    file.write_text("nm,moss\n" + "\n".join(f"{nm},{0.1}" for nm in range(380, 781, 10)))
    monkeypatch.setattr(kit_station.QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    window.kit.press("A")
    assert under(window) == "moss" and "is in the Kit" in window.said
    window._undo()
    assert "moss" not in window.kit._page.texts
    window.kit.press("2")
    window.kit.press("A")
    say(window, "half CTB; note torn at a corner")
    assert under(window) == "half CTB" and "torn at a corner" in window.kit._page.texts
    window.kit.press("4")
    window.kit.press("Enter")
    say(window, "level 3 %")
    assert "within 3 %" in window.kit._page.texts
    window.kit.press("Del")
    assert "stays" in window.said, "it read something"
    window.kit.press("5")
    limits = tmp_path / "limits.json"
    monkeypatch.setattr(kit_station.QFileDialog, "getSaveFileName", lambda *_: (str(limits), ""))
    window.kit.press("X")
    assert limits.exists()
    window.kit.press("1")
    assert window.kit.head()[0] == ("Kit", "Lamps")


def test_a_lamps_page_leads_to_the_sessions_of_its_record(window, qtbot):
    window.go(KIT)
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert "does not hold" in window.kit._lamp_page.texts
    assert "six-emitter spot, 260 W" in window.kit._lamp_page.texts
    on_label = window.kit._lamp_page._label
    assert on_label.content.name == "Tansy" and on_label.code is not None
    assert "weight 5.2 kg with the supply" in window.kit._lamp_page.texts
    session = next(s for s in window.document.logbook.sessions() if s.name.startswith("Specimen"))
    window.kit._lamp_page.session_wanted.emit(session.id)
    assert compare_of(window)._shown.session == session.name
    assert window.station is window.compare


def test_documents_new_open_copy(window, tmp_path, monkeypatch, qtbot):
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append((title, message)))
    copy = tmp_path / "copy.evenbeam"
    window.save_copy(copy)
    qtbot.waitUntil(lambda: copy.exists() and not window.busy, timeout=5000)
    foreign = tmp_path / "foreign.evenbeam"
    foreign.write_text("hello")
    before = window.document
    assert not window.open_logbook(foreign)
    assert window.document is before
    assert "not an Even Beam logbook" in told[-1][1]
    monkeypatch.setattr(window_module.QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "fresh"), ""))
    window.ask_new()
    assert window.document.logbook.path.name == "fresh.evenbeam"
    window.ask_new()
    assert "exists and was left as it is" in told[-1][1]
    monkeypatch.setattr(window_module.QFileDialog, "getOpenFileName", lambda *_: (str(copy), ""))
    window.ask_open()
    assert window.document.logbook.path == copy
    window._fill_recent()
    assert len(window._recent.actions()) >= 2


def test_closing_gives_the_logbook_back(window, demo):
    window.close()
    book = Logbook.open(demo)
    assert not book.was_left_open
    book.close()


def test_dialogs_open(window, monkeypatch):
    from even_beam.app.about_dialog import AboutDialog
    from even_beam.app.keys_dialog import KeysDialog
    from even_beam.app.settings_dialog import SettingsDialog

    keys = KeysDialog(window)
    texts = [label.text() for label in keys.findChildren(QLabel)]
    for word in ("again", "take back", "something moved", "undo", "plan a run"):
        assert word in texts
    about = AboutDialog(window)
    assert any("GNU General Public License" in label.text() for label in about.findChildren(QLabel))
    chosen = SettingsDialog(window, window._settings)
    chosen._boxes["distance_unit"].setCurrentText("ft")
    chosen.try_accept()
    window.use_settings(chosen.settings)
    assert load().distance_unit == "ft"


def test_unexpected_errors_are_shown_and_the_program_goes_on(window, qtbot, monkeypatch):
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append(message))
    hooks = sys.excepthook, threading.excepthook
    try:
        guard = CrashGuard(window.what_is_kept)
        guard.install()
        try:
            raise ValueError("something odd")
        except ValueError as error:
            sys.excepthook(ValueError, error, error.__traceback__)
        qtbot.waitUntil(lambda: len(told) == 1)

        def fail() -> None:
            raise RuntimeError("in a thread")

        thread = threading.Thread(target=fail)
        thread.start()
        thread.join()
        qtbot.waitUntil(lambda: len(told) == 2)
    finally:
        sys.excepthook, threading.excepthook = hooks
    assert "something odd" in told[0]
    assert f"is kept in {window.document.logbook.path.name}" in told[0]
    assert "in a thread" in told[1]
    window.go(KIT)


def test_settings_that_cannot_be_are_said_and_those_that_can_are_kept(window):
    from even_beam.app.settings_dialog import SettingsDialog

    asked = SettingsDialog(window, window._settings)
    asked._bands.setText("6000, 3200")
    asked.try_accept()
    assert "the lowest first" in asked.fault.text() and asked.settings == window._settings
    asked._bands.setText("3000 5000")
    asked._battery.setValue(240.0)
    asked.try_accept()
    window.use_settings(asked.settings)
    assert load().white_bands_k == (3000.0, 5000.0) and load().battery_wh == 240.0


def test_figures_of_an_older_method_are_computed_anew_after_opening(open_window, demo, qtbot):
    before = sqlite3.connect(demo)
    kept = dict(before.execute("SELECT reading_id, cct FROM computed"))
    before.execute("UPDATE computed SET method_version = 0, cct = 1234.0")
    before.commit()
    before.close()
    window = open_window(demo)
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    anew = dict(
        sqlite3.connect(demo).execute(
            "SELECT reading_id, cct FROM computed WHERE method_version = ?", (METHOD_VERSION,)
        )
    )
    assert set(anew) == set(kept)
    assert all(anew[i] == pytest.approx(kept[i]) for i in kept if kept[i] is not None)
    shown = [m.value("cct") for m in window.document.desk.measured if m.computed is not None]
    assert 1234.0 not in shown


def test_no_cell_of_the_figures_is_cut(qtbot, qapp):
    from even_beam.app.widgets.figure_table import FigureTable
    from even_beam.shell.sheet import Cell, Sheet

    table = FigureTable()
    qtbot.addWidget(table)
    table.resize(500, 300)
    table.show()
    long = "White off \u221213.3 mired at 5600 K is beyond 10 mired; the meter's own \u00b14.2 mired cannot tell."
    rows = (("a", 0, (Cell("Tansy"), Cell("short"), Cell("2"))), ("b", None, (Cell("Sorrel"), Cell(long), Cell("3"))))
    table.show_sheet(Sheet(("lamp", "why", "readings"), rows))
    assert table.rowHeight(1) > 1.2 * table.rowHeight(0)
    assert table.columnWidth(1) <= 300
    assert table.height() >= table.rowHeight(0) + table.rowHeight(1)
    table.show_sheet(Sheet())
    assert table.height() == 0


def test_what_is_said_leaves_the_head_alone_and_a_saved_file_is_led_to(window, tmp_path, monkeypatch):
    head = (window._head._parts, window._head._right)
    window.say("Kept")
    assert (window._head._parts, window._head._right) == head
    assert window.said == "Kept" and window._said.isVisible()
    assert not window._said._open.isVisible()
    opened = []
    monkeypatch.setattr(
        "even_beam.app.widgets.said_line.QDesktopServices.openUrl", lambda url: opened.append(url.toLocalFile())
    )
    window.saved(tmp_path / "page.pdf", "Saved page.pdf")
    window._said._open.click()
    window._said._folder.click()
    assert opened == [str(tmp_path / "page.pdf"), str(tmp_path)]
    window.resize(960, 540)
    inside = window._said.geometry()
    assert inside.right() < window._stack.width() and inside.bottom() < window._stack.height()


def test_nothing_asks_a_closed_logbook_what_it_was_going_to_say(window, qtbot, monkeypatch):
    monkeypatch.setattr("even_beam.app.window.SAY_MS", 20)
    window.say("Kept")
    window.close()
    with qtbot.captureExceptions() as raised:
        qtbot.wait(60)
    assert raised == []


def test_what_is_said_can_be_read_however_long_it_is(window, tmp_path):
    """A longer message after a short one was cut to the width of that."""
    line = window._said
    for words in ("Kept", "Arrows move a point, Shift by ten; Space goes to the next; Enter when done", "word " * 90):
        window.say(words)
        text = line.text
        needed = text.fontMetrics().horizontalAdvance(words)
        assert text.width() >= needed or (text.wordWrap() and text.height() >= text.heightForWidth(text.width()))
        assert line.geometry().right() <= line.parentWidget().width() and line.geometry().top() >= 0
    window.saved(tmp_path / "report.pdf", "Saved report.pdf")
    assert line.text.width() >= line.text.fontMetrics().horizontalAdvance("Saved report.pdf")
    assert line._folder.geometry().right() <= line.width()


def test_what_a_person_can_mend_is_said_as_it_is_at_every_station(window, qtbot, monkeypatch):
    """Eighteen of sixty-six acts with a full disk ended in “something unexpected happened”."""
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append((title, message)))
    hook = sys.excepthook
    CrashGuard(window.what_is_kept).install()
    try:
        for error in (
            LogbookError("The disk is full.", "Nothing was changed.", "Make room."),
            FormError("nickname", "There is a Tansy already among the retired lamps"),
            PermissionError(13, "Permission denied", "/some/where"),
        ):
            sys.excepthook(type(error), error, None)
        qtbot.waitUntil(lambda: len(told) == 3)
    finally:
        sys.excepthook = hook
    assert {title for title, _ in told} == {"That could not be done"}
    assert "Make room." in told[0][1] and "retired" in told[1][1] and "/some/where" in told[2][1]


def test_what_is_open_can_be_opened(window):
    document = window.document
    assert window.open_logbook(document.logbook.path)
    assert window.document is document
    assert "open already" in window.said


def test_a_logbook_that_is_taken_away_is_rescued_and_the_work_goes_on_there(window, qtbot, monkeypatch):
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append(message))
    path, sessions = window.document.logbook.path, len(window.document.logbook.sessions())
    path.unlink()
    with pytest.raises(DestroyedError):
        window.document.begin("lost")
    qtbot.waitUntil(lambda: window.document is not None and window.document.logbook.path != path, timeout=10_000)
    assert window.document.logbook.path.name == f"{path.stem} (rescued){path.suffix}"
    assert len(told) == 1 and "(rescued)" in told[0]
    assert len(window.document.logbook.sessions()) == sessions
    window.document.begin("goes on")


def test_what_was_found_of_a_file_is_told(tmp_path, open_window, qtbot, monkeypatch):
    from tests.logbook.killed import an_evening, killed

    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append(message))
    path = killed(an_evening(tmp_path / "book.evenbeam", "thrown away", [1.0]), [2.0])
    path.unlink()
    an_evening(tmp_path / "other.evenbeam", "new", [3.0])
    (tmp_path / "other.evenbeam").rename(path)
    open_window(path)
    qtbot.waitUntil(lambda: bool(told), timeout=5000)
    assert "book (log of another file)" in told[0]
