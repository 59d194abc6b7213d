"""How long the window answers to nothing: the longest pass of its event loop, view by view, on the demo."""

import os
import shutil
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

WANTED_MS = 100.0
SETTLED_S, LONGEST_S = 0.25, 20.0


def report() -> list[str]:
    """Lines with the passes that took longer than is wanted, the longest first."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    with tempfile.TemporaryDirectory() as folder:
        passes = _passes(Path(folder))
    slow = sorted(((ms, what) for what, ms in passes.items() if ms > WANTED_MS), reverse=True)
    lines = [f"{what}: {ms:.0f} ms" for ms, what in slow]
    return [f"{len(passes) - len(slow)} of {len(passes)} acts within {WANTED_MS:.0f} ms", *lines]


def _passes(folder: Path) -> dict[str, float]:
    from even_beam.app.start import application
    from even_beam.app.window import BENCH, COMPARE, KIT, MATCH, PLAN, REPORT, Window
    from even_beam.demo.scenario import build
    from even_beam.shell import memory
    from even_beam.shell.settings import Settings

    memory.look_seldom()  # as the command does
    build(folder / "demo.evenbeam")
    shutil.copy(folder / "demo.evenbeam", folder / "copy.evenbeam")
    app = application("studio")
    window = Window(Settings(fade=False))
    window.resize(1280, 800)
    window.show()
    found: dict[str, float] = {}

    def timed(act: Callable[[], object]) -> float:
        start = time.perf_counter()
        act()
        return 1e3 * (time.perf_counter() - start)

    def measure(what: str, act: Callable[[], object]) -> None:
        longest = timed(act)
        end, stop = time.monotonic() + SETTLED_S, time.monotonic() + LONGEST_S
        while (time.monotonic() < end or window.busy) and time.monotonic() < stop:
            longest = max(longest, timed(app.processEvents))
        found[what] = longest

    measure("open the demo", lambda: window.open_logbook(folder / "copy.evenbeam"))
    stations = (
        ("Bench", BENCH),
        ("Kit", KIT),
        ("Plan", PLAN),
        ("Compare", COMPARE),
        ("Match", MATCH),
        ("Report", REPORT),
    )
    for turn in ("first", "again"):
        for name, station in stations:
            measure(f"to {name}, {turn}", lambda s=station: window.go(s))  # type: ignore[misc]
    window.go(COMPARE)
    for key in "12345":
        measure(f"question {key}", lambda k=key: window.compare.press(k))  # type: ignore[misc]
    window.go(MATCH)
    for key in "1234":
        measure(f"wish {key}", lambda k=key: window.match.press(k))  # type: ignore[misc]
    window.go(COMPARE)
    measure("the whole logbook", lambda: window.compare.ask_term("session_id", ""))
    measure("all lamps", lambda: window.compare.press("A"))
    for key in "12345":
        measure(f"question {key}, all lamps", lambda k=key: window.compare.press(k))  # type: ignore[misc]
    window.go(BENCH)
    measure("a reading", lambda: window.bench.press("Enter"))
    measure("its spectrum", lambda: window.bench.press("I"))
    measure("all its figures", lambda: window.spectrum.press("F"))
    measure("another theme", lambda: window.use_settings(replace(window._settings, theme="paper")))
    window.close()
    return found
