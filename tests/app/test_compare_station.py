"""Compare in the real window: uneven terms are named, restricting works, setting a reading aside changes every
figure."""

import re
from dataclasses import replace
from itertools import pairwise

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtTest import QTest

from even_beam.answers.compare.questions import Ask
from even_beam.answers.spectrum.patches import Against, Seen
from even_beam.app.stations.compare import station as compare_station
from even_beam.app.stations.compare.readings_dialog import ReadingsDialog
from even_beam.app.window import COMPARE, KIT
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import form_of
from even_beam.known.split import Split
from even_beam.logbook import LogbookError
from tests.app.waiting import compare_of


@pytest.fixture
def window(open_window, demo):
    opened = open_window(demo, COMPARE)
    opened.compare.show_session("Specimen table: Tansy or tungsten?")
    return opened


def sentence(window) -> str:
    return compare_of(window)._shown.published


def ask(window, question: Ask):
    compare_of(window).press(str(list(Ask).index(question) + 1))
    return compare_of(window)._shown


def ratio(window) -> float:
    return next(e.ratio_stops for e in compare_of(window)._shown.comparison.entries if e.name == "Burdock")


def test_uneven_terms_are_named_and_restricted_in_two_clicks(window):
    named = compare_of(window)._answer.terms.accessibleName()
    assert "differs: white: none was dialled on Yarrow" in named
    assert "brought to common terms: Tansy, Yarrow brought from 2 m" in named
    station = compare_of(window)
    chip = next(chip for chip in station._shown.chips if chip.field == "level")
    menu = station._answer.terms.menu_of(chip)
    texts = [action.text() for action in menu.actions()]
    assert any(text.startswith("10 %") for text in texts) and texts.count("as the lamps share it") == 1
    next(action for action in menu.actions() if action.text().startswith("75 %")).trigger()
    next(action for action in menu.actions() if action.text().startswith("10 %")).trigger()
    assert "nothing read at these terms: Yarrow" in compare_of(window)._answer.terms.accessibleName()
    assert len(compare_of(window)._shown.comparison.entries) == 3
    station.press("E")
    assert [e.name for e in compare_of(window)._shown.comparison.entries] == ["Tansy", "Burdock"]
    assert "nothing read" not in compare_of(window)._answer.terms.accessibleName()
    station.press("E")
    assert len(compare_of(window)._shown.comparison.entries) == 3
    next(action for action in menu.actions() if action.text() == "as the lamps share it").trigger()
    assert all(e.readings[0].terms.level_pct == 100.0 for e in compare_of(window)._shown.comparison.entries)


def test_the_strip_goes_by_keys(window, monkeypatch):
    strip = compare_of(window)._answer.terms
    opened = []
    monkeypatch.setattr(type(strip), "_open", lambda self, chip, box: opened.append(chip.field))
    for _ in range(len(compare_of(window)._shown.chips) + 1):
        QTest.keyClick(strip, Qt.Key.Key_Right)
        QTest.keyClick(strip, Qt.Key.Key_Space)
    assert "alike" in opened and "cct" in opened and "level" not in opened
    strip.open_field("level")
    assert opened[-1] == "level", "what is folded away is opened by its name"


def test_what_is_selected_in_one_is_selected_in_all(window):
    ask(window, Ask.WHITE)
    chosen = compare_of(window)._shown.comparison.entries[1].readings[0].reading.id
    compare_of(window)._answer.charts[0].chosen.emit(chosen)
    assert [len(chart._selection) for chart in compare_of(window)._answer.charts[:2]] == [1, 1]
    assert any(chart._selection for chart in compare_of(window)._answer.charts[2:]), "in the row below as well"
    ask(window, Ask.BRIGHT)
    assert [len(chart._selection) for chart in compare_of(window)._answer.charts[:2]] == [1, 1]
    assert chosen in compare_of(window).behind()


def test_what_is_alike_is_one_word_until_it_is_opened(window):
    strip = compare_of(window)._answer.terms
    shown = [chip.text for chip in strip._chips]
    assert any(re.fullmatch(r"\d alike", text) for text in shown) and "100 %" not in shown
    lines = strip.height()
    strip.open_field("alike")
    assert "100 %" in [chip.text for chip in strip._chips] and strip.height() >= lines
    strip.open_field("alike")
    assert [chip.text for chip in strip._chips] == shown
    assert "same: " in strip.accessibleName(), "a reader hears all of it"


def test_a_reading_set_aside_changes_the_figures_and_undo_restores_them(window, monkeypatch):
    before, said = ratio(window), sentence(window)
    assert "1.2 stops" in said
    seen = []

    class Asking(ReadingsDialog):
        def exec(self) -> int:
            seen.append(self._list.count())
            self.set_aside()
            assert "Say why" in self.fault.text()
            for place in range(3):
                self._list.setCurrentRow(place)
                self._reason.setText("aim was off")
                self.set_aside()
            assert "set aside" in self._list.item(2).text()
            self.accept()
            return 1

    monkeypatch.setattr(compare_station, "ReadingsDialog", Asking)
    compare_of(window)._lamps.setCurrentRow(1)
    compare_of(window).press("I")
    assert seen == [4]
    after = next(e for e in compare_of(window)._shown.comparison.entries if e.name == "Burdock")
    assert len(after.readings) == 1
    assert after.ratio_stops != before
    for _ in range(3):
        window._undo()
    assert ratio(window) == pytest.approx(before)
    assert sentence(window) == said
    window._undo()
    assert ratio(window) == pytest.approx(before)


def test_a_chart_is_zoomed_and_shown_whole_again(window):
    chart = compare_of(window)._answer.charts[0]
    whole = chart.getPlotItem().viewRange()
    chart.getPlotItem().getViewBox().scaleBy((0.5, 0.5))
    assert chart.getPlotItem().viewRange() != whole
    QTest.mouseDClick(chart.viewport(), Qt.MouseButton.LeftButton)
    for now, then in zip(chart.getPlotItem().viewRange(), whole, strict=True):
        assert now == pytest.approx(then)


def test_judged_for_another_purpose(window):
    shown = ask(window, Ask.ENOUGH)
    assert [lamp.word for lamp in shown.judged.lamps] == ["no", "cannot tell", "no"]
    assert compare_of(window)._answer.grid.isVisible() and not compare_of(window)._answer.table.isVisible()
    assert "R9" in compare_of(window)._answer.grid.accessibleDescription()
    compare_of(window).ask_term("purpose", "background and effects")
    assert compare_of(window)._shown.judged.purpose == "background and effects"
    assert "R9" not in compare_of(window)._answer.grid.accessibleDescription()


def test_more_lamps_than_stand_side_by_side_are_judged_as_rows(window):
    compare_of(window).ask_term("session_id", "")
    compare_of(window).press("A")
    shown = ask(window, Ask.ENOUGH)
    assert len(shown.judged.lamps) == len(shown.lamps) > 4
    assert not compare_of(window)._answer.grid.isVisible()
    assert compare_of(window)._answer.table.shown()[0][1] == shown.purpose
    assert len(compare_of(window)._answer.table.shown()) == len(shown.lamps) + 1


def test_figures_are_sorted_by_any_column_and_back(window):
    table = compare_of(window)._answer.table
    as_they_stand = table.shown()
    column = as_they_stand[0].index("stops from Tansy")
    table.sort_by(column)
    assert [row[0] for row in table.shown()[1:]] == ["Burdock", "Tansy", "Yarrow"]
    table.sort_by(column)
    assert [row[0] for row in table.shown()[1:]] == ["Yarrow", "Tansy", "Burdock"]
    table.sort_by(column)
    assert table.shown() == as_they_stand
    table.sort_by(as_they_stand[0].index("×"))
    assert [row[0] for row in table.shown()[1:]] == ["Burdock", "Yarrow", "Tansy"], "what has no figure is last"
    compare_of(window).press("S")
    assert "Sorted by" in window.said


def test_a_question_without_an_answer_says_what_is_missing_and_plans_it(window):
    compare_of(window).show_session("Glasshouse, north window")
    shown = ask(window, Ask.COLOURS)
    missing = shown.missing[Ask.COLOURS]
    assert missing.words in compare_of(window)._answer.empty.text()
    assert not shown.lines and not shown.pictures
    compare_of(window).press("M")
    assert window.station is window.plan
    taken = {
        card.source.nickname for card in window.document.kit.lamps() if card.source.id in window.plan._lamps.chosen
    }
    assert taken == {lamp.name for lamp in shown.lamps if lamp.key in shown.chosen}
    assert window.plan._tests.chosen == missing.protocols
    window.go(COMPARE)
    compare_of(window).show_session("Specimen table: Tansy or tungsten?")
    ask(window, Ask.BRIGHT)
    compare_of(window).press("M")
    assert window.station is window.compare
    assert "Nothing is missing" in window.said


def test_the_answer_is_copied_with_one_key(window):
    QTest.keyClick(compare_of(window)._lamps, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    copied = QGuiApplication.clipboard().text()
    assert "Burdock (with reflector) is 1.2 stops brighter than Tansy (with reflector) at 3 m" in copied
    assert "lamp\ton it" in copied
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    QTest.keyClick(compare_of(window)._lamps, Qt.Key.Key_C, both)
    assert QGuiApplication.clipboard().mimeData().hasImage()


def test_the_reading_without_a_spectrum_and_the_lamp_without_readings(window):
    compare_of(window).show_session("Walk with Bracken")
    compare_of(window)._lamps.setCurrentRow(0)
    assert compare_of(window).behind()
    compare_of(window)._show_spectrum(compare_of(window).behind()[0])
    assert window.station is compare_of(window)  # nothing to show: it stays


def test_any_reading_is_laid_over_the_spectra(window):
    ask(window, Ask.COLOURS)
    compare_of(window).press("O")
    assert "Click a mark first" in window.said
    other = window.bench.desk.counted[3].reading.id
    compare_of(window).select(other)
    before = len(compare_of(window)._shown.pictures[0].chart.legend)
    compare_of(window).press("O")
    assert len(compare_of(window)._shown.pictures[0].chart.legend) == before + 1
    compare_of(window).press("O")
    assert len(compare_of(window)._shown.pictures[0].chart.legend) == before


def test_split_patches_against_the_reference_lamp(window):
    shown = ask(window, Ask.COLOURS)
    assert [one.title.split()[0] for one in shown.patches] == ["Tansy", "Burdock", "Yarrow"]
    assert not compare_of(window)._answer.patches.isHidden()
    compare_of(window).ask_term("against", Against.REFERENCE_LAMP)
    assert [one.title for one in compare_of(window)._shown.patches] == [
        "Burdock below, Tansy above",
        "Yarrow below, Tansy above",
    ]
    first = compare_of(window)._shown.patches[0].mean
    compare_of(window).ask_term("seen", Seen.UNBALANCED)
    assert compare_of(window)._shown.patches[0].mean != first
    ask(window, Ask.BRIGHT)
    assert compare_of(window)._answer.patches.isHidden()


def test_a_lamp_is_found_by_a_word(window):
    station = compare_of(window)
    station._filter.setText("fresnel")
    hidden = [station._lamps.item(i).isHidden() for i in range(station._lamps.count())]
    assert hidden == [True, True, False]
    station._filter.setText("")
    assert not any(station._lamps.item(i).isHidden() for i in range(station._lamps.count()))


def test_claims_and_what_speaks_for_and_against(window):
    ask(window, Ask.ENOUGH)
    notes = compare_of(window)._answer.notes.text()
    assert "Tansy: Ra 97 does not hold (94.2)" in notes
    assert "for Tansy:" in notes and "against Tansy:" in notes


def bounds(window) -> dict[str, str]:
    return {limit.label: limit.bound for limit in compare_of(window)._shown.judged.limits}


def test_a_limit_is_edited_and_the_verdict_follows(window, qtbot):
    ask(window, Ask.ENOUGH)
    assert bounds(window)["Ra"] == "at least 94"
    compare_of(window).press("T")
    assert window.station is window.kit and window.kit.head()[0] == ("Kit", "Limits")
    window.kit.press("Enter")
    QTest.keyClicks(window.kit._line._line, "Ra many")
    QTest.keyClick(window.kit._line._line, Qt.Key.Key_Return)
    assert window.kit._line.isVisible() and "Ra many" in window.said
    window.kit._line._line.clear()
    QTest.keyClicks(window.kit._line._line, "Ra 85")
    QTest.keyClick(window.kit._line._line, Qt.Key.Key_Return)
    ask(window, Ask.ENOUGH)
    assert bounds(window)["Ra"] == "at least 85"
    window.go(KIT)
    window._undo()
    ask(window, Ask.ENOUGH)
    assert bounds(window)["Ra"] == "at least 94"


def test_the_day_it_goes_back_stands_in_the_decision(window):
    kit = window.document.kit
    card = next(card for card in kit.lamps() if card.source.nickname == "Tansy")
    kit.edit_lamp(card, replace(form_of(card), return_by="2026-12-01"))
    shown = ask(window, Ask.ENOUGH)
    assert shown.judged.lamps[0].act == "goes back by Tuesday 1 December"
    with pytest.raises(FormError, match="2026-12-01"):
        kit.edit_lamp(card, replace(form_of(card), return_by="soon"))


def test_a_logbook_that_goes_away_is_said(window, monkeypatch):
    def gone(self, question, pause):
        raise LogbookError("The file is gone.", "Nothing was changed.", "Open it again.")

    compare_of(window)
    monkeypatch.setattr("even_beam.answers.compare.answer.Answers.ask", gone)
    window.compare.press("2")
    compare_of(window)
    assert "The lamps could not be compared: The file is gone" in window.said


def test_what_sits_on_a_lamp_and_its_sessions_side_by_side(window):
    compare_of(window).show_session("Specimen table: Tansy or tungsten?")
    compare_of(window).ask_term("split", Split.CONFIGURATIONS)
    names = [lamp.name for lamp in compare_of(window)._shown.lamps]
    assert names == ["Tansy, reflector", "Burdock, reflector", "Yarrow, full blue gel"]
    assert "Burdock, reflector is 1.2 stops brighter than Tansy, reflector at 3 m" in sentence(window)
    compare_of(window).ask_term("session_id", "")
    assert "Tansy, bare" in [lamp.name for lamp in compare_of(window)._shown.lamps]
    compare_of(window).ask_term("split", Split.SESSIONS)
    tansys = [lamp for lamp in compare_of(window)._shown.lamps if lamp.name.startswith("Tansy")]
    assert len(tansys) == len({lamp.key for lamp in tansys}) > 1
    compare_of(window)._ask(chosen=tuple(lamp.key for lamp in tansys), reference="")
    entries = compare_of(window)._shown.comparison.entries
    assert [entry.key for entry in entries] == [lamp.key for lamp in tansys]
    sessions = [{m.reading.session_id for m in entry.readings} for entry in entries if entry.readings]
    assert all(len(one) == 1 for one in sessions) and len({next(iter(one)) for one in sessions}) == len(sessions)


def test_many_lamps_scroll_and_nothing_overlaps(window):
    compare_of(window).ask_term("session_id", "")
    answer = compare_of(window)._answer
    QTest.qWait(50)
    stack = [answer.bar, answer.terms, answer.headline, *(r for r in answer.rows if not r.isHidden()), answer.table]
    tops = [(one.geometry().top(), one.geometry().bottom()) for one in [*stack, answer.notes]]
    assert all(above[1] < below[0] for above, below in pairwise(tops)), tops
    assert answer.rows[0].height() >= 200
    bar = answer.verticalScrollBar()
    assert bar.maximum() > 0
    compare_of(window)._lamps.setFocus()
    QTest.keyClick(compare_of(window)._lamps, Qt.Key.Key_PageDown)
    assert bar.value() > 0
    QTest.keyClick(compare_of(window)._lamps, Qt.Key.Key_PageUp)
    assert bar.value() == 0


def test_a_closed_logbook_stands_alone_though_it_was_compared(window, demo):
    assert compare_of(window)._shown is not None
    window.close()
    assert [path.name for path in demo.parent.iterdir() if path.name.startswith("demo")] == ["demo.evenbeam"]
