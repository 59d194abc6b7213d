from datetime import UTC, datetime, timedelta

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from even_beam.app.start import application
from even_beam.app.window import BENCH, Window
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.shell.settings import Settings


@pytest.fixture(scope="session")
def qapp():
    return application("studio")


class Ticking:
    def __init__(self) -> None:
        self.now = datetime(2026, 11, 19, 18, 30, tzinfo=UTC)

    def __call__(self) -> datetime:
        self.now += timedelta(seconds=2)
        return self.now


@pytest.fixture
def open_window(qtbot, qapp):
    """Opens a window on a logbook, as often as asked."""
    windows = []

    def opener(path, station: int = BENCH, settings: Settings | None = None) -> Window:
        window = Window(settings or Settings(), Ticking(), lambda clock: Instruments(clock, seed=5))
        qtbot.addWidget(window)
        window.show()
        assert window.open_logbook(path)
        window.go(station)
        windows.append(window)
        return window

    yield opener
    for window in windows:
        window.close()


@pytest.fixture
def hands(qtbot):
    """One hand on the number pad: presses keys where the focus is, and waits for the meter."""

    class Hands:
        def press(self, window: Window, *keys: object) -> None:
            for key in keys:
                target = window.focusWidget() or window
                if isinstance(key, str):
                    QTest.keyClicks(target, key)
                else:
                    QTest.keyClick(target, key)
                qtbot.waitUntil(lambda: not window.busy, timeout=10_000)

        def act(self, window: Window, letter: str) -> None:
            """Alt and a letter: an act of the Bench at once."""
            target = window.focusWidget() or window
            QTest.keyClick(target, Qt.Key(ord(letter.upper())), Qt.KeyboardModifier.AltModifier)
            qtbot.waitUntil(lambda: not window.busy, timeout=10_000)

        def enter(self, window: Window) -> None:
            self.press(window, Qt.Key.Key_Enter)

        def type(self, window: Window, text: str) -> None:
            self.press(window, *text, Qt.Key.Key_Enter)
            while window.bench.board.entry.asks:  # the first meter, once an evening; terms from the next reading on
                self.press(window, Qt.Key.Key_Enter)

        def hold(self, window: Window, key: str, ms: int) -> None:
            target = window.focusWidget() or window
            code = {"+": Qt.Key.Key_Plus}[key]
            QTest.keyPress(target, code, Qt.KeyboardModifier.KeypadModifier)
            qtbot.wait(ms)
            QTest.keyRelease(target, code, Qt.KeyboardModifier.KeypadModifier)

    return Hands()
