"""Compare in the real window: uneven terms are named, restricting works, setting a reading aside changes every figure."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from even_beam.app.compare import station as compare_station
from even_beam.app.compare.readings_dialog import ReadingsDialog
from even_beam.app.window import COMPARE
from even_beam.workspace.compare_charts import View
from tests.app.waiting import compare_of


@pytest.fixture
def window(open_window, demo):
    opened = open_window(demo, COMPARE)
    opened.compare.show_session("Specimen table: Tansy or tungsten?")
    return opened


def sentence(window) -> str:
    return compare_of(window)._sentence.text()


def ratio(window) -> float:
    return next(e.ratio_stops for e in compare_of(window)._shown.comparison.entries if e.name == "Burdock")


def test_uneven_terms_are_named_and_restricted_in_two_clicks(window):
    named = compare_of(window)._terms.accessibleName()
    assert "differs: white: Yarrow cannot be dialled" in named
    assert "brought to common terms: Burdock brought from 3.00 m" in named
    compare_of(window)._level.setCurrentText("75 %")
    compare_of(window)._level.setCurrentText("10 %")
    assert "Yarrow: nothing read at these terms" in compare_of(window)._terms.accessibleName()
    assert len(compare_of(window)._shown.comparison.entries) == 3
    QTest.mouseClick(compare_of(window)._terms, Qt.MouseButton.LeftButton, pos=QPoint(200, 10))
    assert [e.name for e in compare_of(window)._shown.comparison.entries] == ["Tansy", "Burdock"]
    assert "nothing read" not in compare_of(window)._terms.accessibleName()
    QTest.mouseClick(compare_of(window)._terms, Qt.MouseButton.LeftButton, pos=QPoint(200, 10))
    assert len(compare_of(window)._shown.comparison.entries) == 3


def test_what_is_selected_in_one_is_selected_in_all(window):
    compare_of(window).show_view(View.MISS)
    chosen = compare_of(window)._shown.comparison.entries[1].readings[0].reading.id
    compare_of(window)._charts[0].chosen.emit(chosen)
    assert [len(chart._selection) for chart in compare_of(window)._charts[:2]] == [1, 1]
    compare_of(window).show_view(View.DIMMER)
    assert [len(chart._selection) for chart in compare_of(window)._charts] == [1, 1, 1]
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
    chart = compare_of(window)._charts[0]
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
    assert compare_of(window)._table._model.corner == "background and effects"
    assert "R9" not in " ".join(row.name for row in compare_of(window)._table._model.rows)


def test_the_reading_without_a_spectrum_and_the_lamp_without_readings(window):
    compare_of(window).show_session("Walk with Bracken")
    compare_of(window)._lamps.setCurrentRow(0)
    assert compare_of(window).behind()
    compare_of(window)._show_spectrum(compare_of(window).behind()[0])
    assert window.station is compare_of(window)  # nothing to show: it stays
