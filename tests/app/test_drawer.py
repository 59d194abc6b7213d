"""The list at the side gives its room to the page where the window is narrow, and comes when it is moved through."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from even_beam.app.window import COMPARE, KIT, MATCH


@pytest.fixture(params=[COMPARE, MATCH, KIT], ids=["compare", "match", "kit"])
def window(request, open_window, demo, qtbot):
    one = open_window(demo, request.param)
    qtbot.waitUntil(lambda: not one.busy, timeout=20_000)
    return one


def _inside(window):
    return window.station.drawer._inside


def test_wide_it_stands_beside_the_page(window):
    drawer = window.station.drawer
    assert not drawer.is_folded
    assert _inside(window).geometry() == drawer.geometry()


def test_narrow_the_first_arrow_brings_it_and_escape_puts_it_back(window, qtbot):
    window.resize(960, 540)
    qtbot.wait(50)
    drawer, lamps = window.station.drawer, window.focusWidget()
    assert drawer.is_folded
    assert not drawer.is_open
    assert _inside(window).x() < -100
    row = lamps.currentRow()
    QTest.keyClick(lamps, Qt.Key.Key_Down)
    assert drawer.is_open
    assert _inside(window).x() >= 0
    assert lamps.currentRow() == row + 1
    assert window.focusWidget() is lamps  # the keys of the station go on
    QTest.keyClick(lamps, Qt.Key.Key_Escape)
    assert not drawer.is_open
    assert window.focusWidget() is lamps


def test_another_focus_puts_it_back_and_a_click_brings_it(window, qtbot):
    window.resize(960, 540)
    qtbot.wait(50)
    drawer = window.station.drawer
    drawer.click()
    assert drawer.is_open
    window._rail.menu_button.setFocus()
    assert not drawer.is_open
    window.resize(1280, 800)
    qtbot.wait(50)
    assert not drawer.is_folded
    assert _inside(window).geometry() == drawer.geometry()
