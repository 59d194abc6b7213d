"""A chart on screen is drawn in portions, and seen when it is whole."""

import pytest
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QApplication

from even_beam.app.widgets import chart_view
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.turns import turns
from even_beam.figures.chart import Axis, Chart, Points


@pytest.fixture
def view(qtbot, monkeypatch):
    shown = ChartView()
    qtbot.addWidget(shown)
    shown.show()
    qtbot.waitUntil(lambda: not turns().pending, timeout=5000)
    monkeypatch.setattr(chart_view, "_PORTION_S", 0.0005)
    return shown


def chart(count: int) -> Chart:
    marks = tuple(Points([float(n)], [float(n)], keys=(f"r{n}",)) for n in range(count))
    return Chart("many", Axis("x", 0.0, 100.0), Axis("y", 0.0, 100.0), marks, "many points")


def drawn(view: ChartView) -> int:
    return len(view.getPlotItem().listDataItems())


def test_keys_are_heard_between_the_portions_of_one_chart(view, qtbot):
    passes, counts = 0, []
    view.show_chart(chart(80))
    while turns().pending and passes < 1000:
        QApplication.processEvents()
        passes += 1
        counts.append(drawn(view))
        assert view.getPlotItem().isVisible() is not turns().pending
    assert passes > 3 and counts == sorted(counts) and counts[-1] == 80


def test_another_chart_replaces_one_that_is_half_drawn(view, qtbot):
    view.show_chart(chart(80))
    QApplication.processEvents()
    view.show_chart(chart(3))
    qtbot.waitUntil(lambda: not turns().pending, timeout=5000)
    assert drawn(view) == 3 and view.getPlotItem().isVisible()


def test_what_is_copied_or_ringed_is_whole(view, qtbot):
    view.show_chart(chart(40))
    view.select("r7")
    view.copy()
    assert drawn(view) == 41  # with the ring
    assert "many" in QGuiApplication.clipboard().text() or QGuiApplication.clipboard().mimeData().hasImage()
