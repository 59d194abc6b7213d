"""Every station on small and large screens: nothing cut, nothing overlapping, every control named and reached."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QAbstractScrollArea,
    QAbstractSpinBox,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QPushButton,
    QStackedWidget,
    QWidget,
)

from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.drawer import Drawer
from even_beam.app.widgets.rail import Rail, RailButton
from even_beam.app.widgets.said_line import SaidLine
from even_beam.app.widgets.text import Column
from even_beam.app.widgets.veil import Veil
from even_beam.app.window import BENCH, CAMERA, COMPARE, KIT, MATCH, PLAN, REPORT, SPECTRUM, Window

SIZES = [(960, 540), (1024, 700), (1280, 800), (2400, 1350)]
"""Logical pixels: 960x540 is a 1920x1080 screen at 200 %, 2400x1350 a 3840x2160 screen at 160 %."""

STATIONS = {
    "kit": KIT, "plan": PLAN, "bench": BENCH, "compare": COMPARE, "match": MATCH, "report": REPORT,
    "spectrum": SPECTRUM, "camera": CAMERA,
}  # fmt: skip
LYING_OVER = (Veil, SaidLine, Drawer)  # what lies over others, or has others lie over it
VIEWS = ["kit", "plan", "bench", "compare 1", "compare 2", "compare 3", "compare 4", "compare 5",
         "match 1", "match 3", "report", "spectrum", "spectrum figures",
         "camera 1", "camera 2", "camera 3"]  # fmt: skip


def settle(window: Window, qtbot) -> None:
    qtbot.waitUntil(lambda: not window.busy, timeout=60_000)
    qtbot.wait(60)
    qtbot.waitUntil(lambda: not window.busy, timeout=60_000)
    qtbot.wait(20)


def show(window: Window, view: str, qtbot) -> None:
    name, _, which = view.partition(" ")
    window.go(STATIONS[name])
    settle(window, qtbot)
    if name == "plan":
        window.plan.choose(
            [card.source.id for card in window.document.kit.lamps()][:2], ["dimming sweep", "distance walk"]
        )
    elif name == "compare":
        window.compare.show_session("Specimen table: Tansy or tungsten?")
        window.compare.press(which)
    elif name in {"match", "camera"}:
        getattr(window, name).press(which)
    elif name == "spectrum":
        window.go(BENCH)
        window.bench.press("I")
        settle(window, qtbot)
        if which:
            window.spectrum.press("F")
    settle(window, qtbot)


def seen(window: Window) -> list[QWidget]:
    return [w for w in window.findChildren(QWidget) if w.isVisible() and not isinstance(w, LYING_OVER)]


def cut(window: Window) -> list[str]:
    found = []
    for widget in seen(window):
        if isinstance(widget, QLabel) and widget.text() and widget.textFormat() != Qt.TextFormat.RichText:
            if widget.wordWrap():
                if widget.heightForWidth(widget.width()) > widget.height() + 1:
                    found.append(f"cut below: {widget.text()[:60]}")
            elif widget.fontMetrics().horizontalAdvance(widget.text()) > widget.width() + 1:
                found.append(f"cut at the side: {widget.text()[:60]}")
        hint, layout = widget.minimumSizeHint(), widget.layout()
        if layout is not None and layout.hasHeightForWidth():  # what holds scrolled columns is asked through them
            hint.setHeight(layout.minimumHeightForWidth(widget.width()) if isinstance(widget, Column) else 0)
        if type(widget).__module__.startswith("even_beam") and (
            hint.height() > widget.height() + 1 or hint.width() > widget.width() + 1
        ):
            found.append(f"{type(widget).__name__}: {widget.size()} of {hint}")
    return found


def overlapping(window: Window) -> list[str]:
    found = []
    for parent in [window, *seen(window)]:
        if isinstance(parent, QAbstractScrollArea | QStackedWidget):
            continue
        kids = [k for k in parent.children() if isinstance(k, QWidget) and k.isVisible() and not k.isWindow()]
        kids = [k for k in kids if not isinstance(k, LYING_OVER)]
        for place, one in enumerate(kids):
            for other in kids[place + 1 :]:
                shared = one.geometry().intersected(other.geometry())
                if shared.width() > 2 and shared.height() > 2:
                    found.append(
                        f"{type(one).__name__} and {type(other).__name__} by {shared.width()}x{shared.height()}"
                    )
    return found


@pytest.mark.long
@pytest.mark.parametrize("size", SIZES, ids=lambda size: f"{size[0]}x{size[1]}")
def test_nothing_is_cut_and_nothing_overlaps(open_window, demo, qtbot, size):
    window = open_window(demo)
    window.resize(*size)
    for view in VIEWS:
        show(window, view, qtbot)
        assert (window.width(), window.height()) == size, f"{view} asks for more than there is"
        assert cut(window) == [], view
        assert overlapping(window) == [], view


CONTROLS = (QLineEdit, QComboBox, QCheckBox, QAbstractSpinBox, QPlainTextEdit, QPushButton, QAbstractItemView)


@pytest.mark.long
def test_every_control_has_a_name_every_picture_its_axes_and_tab_leads_on(open_window, demo, qtbot):
    window = open_window(demo)
    for view in VIEWS:
        show(window, view, qtbot)
        for widget in seen(window):
            if isinstance(widget, CONTROLS) and widget.focusPolicy() != Qt.FocusPolicy.NoFocus:
                inside = isinstance(widget.parent(), QAbstractSpinBox | QComboBox | QAbstractItemView)
                named = widget.accessibleName() or (isinstance(widget, QPushButton | QCheckBox) and widget.text())
                assert named or inside, f"{view}: {type(widget).__name__} has no name"
            if isinstance(widget, ChartView) and widget.chart is not None:
                chart = widget.chart
                relative = "spectr" in chart.title  # a relative spectrum has no unit to name
                assert chart.x.label or chart.rows or "ladder" in chart.title or "each line one stop" in chart.title, (
                    chart.title
                )
                assert chart.y.label or relative, chart.title
                assert widget.accessibleDescription(), chart.title
        start = window.focusWidget()
        reached: list[QWidget] = []
        for _ in range(60):
            window.focusNextChild()
            if window.focusWidget() is start and reached:
                break
            reached.append(window.focusWidget())
        assert len(set(reached)) >= 2, f"{view}: Tab is trapped at {start}"


def test_the_rail_gives_its_names_away_where_width_is_short(open_window, demo, qtbot):
    window = open_window(demo)
    rail = window.findChild(Rail)
    window.resize(1280, 800)
    settle(window, qtbot)
    wide = rail.width()
    window.resize(960, 540)
    settle(window, qtbot)
    assert rail.width() < 0.6 * wide
    buttons = rail.findChildren(RailButton)
    assert len(buttons) == 9
    for button in buttons:
        assert button.accessibleName()
        assert button.accessibleName() in button.toolTip()
        assert button.height() >= 44, "a finger finds it"
    window.resize(1280, 800)
    settle(window, qtbot)
    assert rail.width() == wide
