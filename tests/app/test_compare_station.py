"""Compare in the real window: uneven terms are named, restricting works, setting a reading aside changes every
figure."""

from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from even_beam.app.compare import station as compare_station
from even_beam.app.compare.readings_dialog import ReadingsDialog
from even_beam.app.compare.tolerance_dialog import ToleranceDialog
from even_beam.app.window import COMPARE
from even_beam.logbook import LogbookError
from even_beam.workspace.compare.charts import View
from even_beam.workspace.kit.lamp_form import FormError, form_of
from tests.app.waiting import compare_of


@pytest.fixture
def window(open_window, demo):
    opened = open_window(demo, COMPARE)
    opened.compare.show_session("Specimen table: Tansy or tungsten?")
    return opened


def sentence(window) -> str:
    return compare_of(window)._answer.sentence.text()


def ratio(window) -> float:
    return next(e.ratio_stops for e in compare_of(window)._shown.comparison.entries if e.name == "Burdock")


def test_uneven_terms_are_named_and_restricted_in_two_clicks(window):
    named = compare_of(window)._answer.terms.accessibleName()
    assert "differs: white: Yarrow cannot be dialled" in named
    assert "brought to common terms: Tansy, Yarrow brought from 2.00 m" in named
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
    for _ in range(len(compare_of(window)._shown.chips)):
        QTest.keyClick(strip, Qt.Key.Key_Right)
        QTest.keyClick(strip, Qt.Key.Key_Space)
    assert "level" in opened and "cct" in opened


def test_what_is_selected_in_one_is_selected_in_all(window):
    compare_of(window).show_view(View.MISS)
    chosen = compare_of(window)._shown.comparison.entries[1].readings[0].reading.id
    compare_of(window)._answer.charts[0].chosen.emit(chosen)
    assert [len(chart._selection) for chart in compare_of(window)._answer.charts[:2]] == [1, 1]
    compare_of(window).show_view(View.DIMMER)
    assert [len(chart._selection) for chart in compare_of(window)._answer.charts[:3]] == [1, 1, 1]
    assert chosen in compare_of(window).behind()


def test_a_reading_set_aside_changes_the_figures_and_undo_restores_them(window, monkeypatch):
    before, said = ratio(window), sentence(window)
    assert "1.25 stops" in said
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
    compare_of(window).show_view(View.VERDICT)
    assert "Tansy: Send it back" in sentence(window)
    compare_of(window)._purpose.setCurrentText("background and effects")
    assert compare_of(window)._answer.table._model.corner == "background and effects"
    assert "R9" not in " ".join(row.name for row in compare_of(window)._answer.table._model.rows)


def test_the_reading_without_a_spectrum_and_the_lamp_without_readings(window):
    compare_of(window).show_session("Walk with Bracken")
    compare_of(window)._lamps.setCurrentRow(0)
    assert compare_of(window).behind()
    compare_of(window)._show_spectrum(compare_of(window).behind()[0])
    assert window.station is compare_of(window)  # nothing to show: it stays


def test_any_reading_is_laid_over_the_spectra(window):
    compare_of(window).show_view(View.SPECTRA)
    compare_of(window).press("O")
    assert "Click a mark first" in window._head._right
    other = window.bench.desk.counted[3].reading.id
    compare_of(window).select(other)
    before = len(compare_of(window)._shown.charts[0].legend)
    compare_of(window).press("O")
    assert len(compare_of(window)._shown.charts[0].legend) == before + 1
    compare_of(window).press("O")
    assert len(compare_of(window)._shown.charts[0].legend) == before


def test_split_patches_against_the_reference_lamp(window):
    compare_of(window).show_view(View.PATCHES)
    assert [one.title.split()[0] for one in compare_of(window)._shown.patches] == ["Tansy", "Burdock", "Yarrow"]
    assert compare_of(window)._answer.patches.isVisible() and not compare_of(window)._answer.pictures.isVisible()
    compare_of(window)._against.setCurrentIndex(1)
    assert [one.title for one in compare_of(window)._shown.patches] == [
        "Burdock below, Tansy above",
        "Yarrow below, Tansy above",
    ]
    first = compare_of(window)._shown.patches[0].mean
    compare_of(window)._seen.setCurrentIndex(2)
    assert compare_of(window)._shown.patches[0].mean != first
    compare_of(window).show_view(View.OUTPUT)
    assert not compare_of(window)._answer.patches.isVisible()


def test_a_lamp_is_found_by_a_word(window):
    station = compare_of(window)
    station._filter.setText("fresnel")
    hidden = [station._lamps.item(i).isHidden() for i in range(station._lamps.count())]
    assert hidden == [True, True, False]
    station._filter.setText("")
    assert not any(station._lamps.item(i).isHidden() for i in range(station._lamps.count()))


def test_claims_and_what_speaks_for_and_against(window):
    compare_of(window).show_view(View.CLAIMS)
    cells = {row.name: [cell.text for cell in row.cells] for row in compare_of(window)._shown.rows}
    assert (
        cells["Ra 97, with the reflector"][0] == "does not hold: 94.2" and cells["Ra 97, with the reflector"][1] == "–"
    )
    assert "Ra 97 claimed" in sentence(window)
    compare_of(window).show_view(View.FOR_AND_AGAINST)
    rows = compare_of(window)._shown.rows
    assert rows[0].name == "for it" and {row.name for row in rows} == {"for it", "", "against it"}


def test_a_limit_is_edited_and_the_verdict_follows(window, monkeypatch, tmp_path):
    compare_of(window).show_view(View.VERDICT)
    assert any("Ra, at least 94" in row.name for row in compare_of(window)._shown.rows)

    class Editing(ToleranceDialog):
        def exec(self) -> int:
            self._limits["ra"].setText("many")
            self.try_accept()
            assert "Ra" in self.fault.text() and not self.changed
            self._limits["ra"].setText("85")
            self.write(tmp_path / "sets.json")
            self.try_accept()
            return 1

    monkeypatch.setattr(compare_station, "ToleranceDialog", Editing)
    compare_of(window).press("T")
    assert any("Ra, at least 85" in row.name for row in compare_of(window)._shown.rows)

    class Undoing(ToleranceDialog):
        def exec(self) -> int:
            self.put_back()
            self.put_back()
            assert "as it was shipped" in self.fault.text()
            self.read(tmp_path / "sets.json")
            self.read(tmp_path / "none.json")
            assert "cannot be read" in self.fault.text()
            return 1

    monkeypatch.setattr(compare_station, "ToleranceDialog", Undoing)
    compare_of(window).press("T")
    assert any("Ra, at least 94" in row.name for row in compare_of(window)._shown.rows)


def test_the_day_it_goes_back_stands_in_the_decision(window):
    kit = window.document.kit
    card = next(card for card in kit.lamps() if card.source.nickname == "Tansy")
    kit.edit_lamp(card, replace(form_of(card), return_by="2026-12-01"), card.source.simulated)
    compare_of(window).show_view(View.VERDICT)
    assert "Tansy: Send it back by 1 December 2026" in sentence(window)
    with pytest.raises(FormError, match="2026-12-01"):
        kit.edit_lamp(card, replace(form_of(card), return_by="soon"), card.source.simulated)


def test_a_logbook_that_goes_away_is_said(window, monkeypatch):
    def gone(self, question, pause):
        raise LogbookError("The file is gone.", "Nothing was changed.", "Open it again.")

    compare_of(window)
    monkeypatch.setattr("even_beam.workspace.compare.answer.Answers.ask", gone)
    window.compare.show_view(View.MISS)
    compare_of(window)
    assert "The lamps could not be compared: The file is gone" in window._head._right


def test_what_sits_on_a_lamp_and_its_sessions_side_by_side(window):
    compare_of(window).show_session("Specimen table: Tansy or tungsten?")
    compare_of(window)._split.setCurrentText("what sits on each lamp")
    names = [lamp.name for lamp in compare_of(window)._shown.lamps]
    assert names == ["Tansy, reflector", "Burdock, reflector", "Yarrow, full blue gel"]
    assert "Burdock, reflector is 1.25 stops (2.38×) brighter than Tansy, reflector at 3.00 m" in sentence(window)
    compare_of(window)._session.setCurrentText("the whole logbook")
    assert "Tansy, bare" in [lamp.name for lamp in compare_of(window)._shown.lamps]
    compare_of(window)._split.setCurrentText("each lamp's sessions")
    tansys = [lamp for lamp in compare_of(window)._shown.lamps if lamp.name.startswith("Tansy")]
    assert len(tansys) == len({lamp.key for lamp in tansys}) > 1
    compare_of(window)._ask(chosen=tuple(lamp.key for lamp in tansys), reference="")
    entries = compare_of(window)._shown.comparison.entries
    assert [entry.key for entry in entries] == [lamp.key for lamp in tansys]
    sessions = [{m.reading.session_id for m in entry.readings} for entry in entries if entry.readings]
    assert all(len(one) == 1 for one in sessions) and len({next(iter(one)) for one in sessions}) == len(sessions)


def test_many_lamps_scroll_and_nothing_overlaps(window):
    compare_of(window)._session.setCurrentText("the whole logbook")
    answer = compare_of(window)._answer
    QTest.qWait(50)
    assert answer.table.geometry().bottom() < answer.sentence.geometry().top()
    assert answer.pictures.height() >= 200
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
