"""A run of 400 steps through the real window by a simulated operator: interface time from key to next prompt, and
memory.

A step ends when the next prompt has been painted; the charts, which follow, are timed with it a second time.
"""

import resource
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from time import perf_counter

import numpy as np

from even_beam.bench.records import Meter, Source
from even_beam.logbook.store import Logbook
from even_beam.shell import memory

STEPS = 400
WANTED_MS = 50.0


def report() -> list[str]:
    """Lines with the times of a step, painting of the whole window in software included."""
    with tempfile.TemporaryDirectory() as folder:
        prompts, wholes, grown_mb = _run(Path(folder) / "run.evenbeam")
    milliseconds, whole = 1000.0 * prompts, 1000.0 * wholes
    middle, late = np.median(milliseconds), np.median(milliseconds[-50:])
    return [
        (
            f"{STEPS} steps: median {middle:.1f} ms, 99 % within {np.percentile(milliseconds, 99):.1f} ms, longest"
            f" {milliseconds.max():.1f} ms (wanted: at most {WANTED_MS:.0f} ms)"
        ),
        (
            f"charts included: median {np.median(whole):.1f} ms, 99 % within {np.percentile(whole, 99):.1f} ms, longest"
            f" {whole.max():.1f} ms"
        ),
        f"the last 50 steps: median {late:.1f} ms, {late / np.median(milliseconds[:50]):.2f}x the first 50",
        f"memory grew by {grown_mb:.0f} MB from step 50 to the last",
    ]


def _run(path: Path) -> tuple[np.ndarray, np.ndarray, float]:
    from PyQt6.QtCore import QEvent, QObject, Qt
    from PyQt6.QtTest import QTest

    from even_beam.app.start import application
    from even_beam.app.window import BENCH, Window
    from even_beam.bench.planning.sweep import Sweep
    from even_beam.shell.settings import Settings

    memory.look_seldom()  # as the command does
    moment = datetime(2026, 3, 5, 20, tzinfo=UTC)

    def clock() -> datetime:
        nonlocal moment
        moment += timedelta(seconds=1)
        return moment

    meter = _logbook_of_one_lamp(path)
    app = application("studio")
    window = Window(Settings(), clock)
    window.resize(1280, 800)
    window.show()
    window.open_logbook(path)
    if window.document is None:
        raise RuntimeError("the logbook was not opened")
    whites = tuple(float(k) for k in np.linspace(2700.0, 6500.0, STEPS // 4))
    sweep = Sweep(("lamp",), whites, (100.0, 50.0, 25.0, 10.0), (2.0,), repeats=1, return_to_first=False)
    desk = window.document.plan_run(sweep, meter, "Long evening", "")
    window.go(BENCH)
    app.processEvents()
    painted: list[float] = []

    class Watch(QObject):
        """Notes when the prompt is painted."""

        def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
            if event is not None and event.type() == QEvent.Type.Paint:
                painted.append(perf_counter())
            return False

    watch = Watch()
    window.bench.board.prompt.installEventFilter(watch)
    taken, wholes, used_mb = [], [], 0.0
    while desk.step is not None:
        level = 20.0 * (desk.next_terms.level_pct or 0.0)
        for digit in f"{level:.0f}":
            QTest.keyClick(window.windowHandle(), digit)
        app.processEvents()
        painted.clear()
        began = perf_counter()
        QTest.keyClick(window.windowHandle(), Qt.Key.Key_Enter)
        app.processEvents()
        wholes.append(perf_counter() - began)
        taken.append(painted[0] - began if painted else wholes[-1])
        if desk.counted[-1].state.doubt or len(desk.counted) != len(taken):
            raise RuntimeError("an even run is doubted")
        if len(taken) == 50:
            used_mb = _memory_mb()
    grown = _memory_mb() - used_mb
    window.close()
    return np.array(taken), np.array(wholes), grown


def _logbook_of_one_lamp(path: Path) -> Meter:
    """A logbook with a lamp and the meter that reads it."""
    meter = Meter("meter", "Light meter", kind="light meter", quantities=("illuminance",))
    logbook = Logbook.create(path)
    logbook.save(Source("lamp", "Tansy"), meter)
    logbook.close()
    return meter


def _memory_mb() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0
