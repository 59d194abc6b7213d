"""A window that reads step after step by its own key, printing how many readings it has confirmed: made to be killed.

`python -m benchmarks.window_at_work LOGBOOK` ends by itself when the run is done.
"""

import sys
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest

from even_beam.app.start import application
from even_beam.app.window import BENCH, Window
from even_beam.shell.settings import Settings


def work(path: Path) -> int:
    """Read until nothing is left to read; each line is one more reading that the screen shows."""
    app = application("studio")
    window = Window(Settings())
    window.show()
    if not window.open_logbook(path):
        return 1
    window.go(BENCH)
    desk = window.bench.desk
    confirmed = len(desk.measured)

    def go_on() -> None:
        nonlocal confirmed
        if window.busy:
            return
        for number in range(confirmed, len(desk.measured)):
            print(number + 1, flush=True)
        confirmed = len(desk.measured)
        if desk.step is None:
            app.quit()
        else:
            QTest.keyClick(window.focusWidget() or window, Qt.Key.Key_Enter)

    timer = QTimer()
    timer.timeout.connect(go_on)
    timer.start(2)
    return app.exec()


if __name__ == "__main__":
    sys.exit(work(Path(sys.argv[1])))
