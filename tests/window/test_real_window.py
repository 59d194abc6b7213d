"""The real program under a virtual X screen: started, used by keys, killed by a signal, opened again; nothing lost."""

import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from even_beam.bench.records import Reading
from even_beam.logbook.store import Logbook
from tests.window.program import Program

pytestmark = [
    pytest.mark.window,
    pytest.mark.skipif(
        shutil.which("Xvfb") is None or shutil.which("xdotool") is None, reason="needs Xvfb and xdotool"
    ),
]


def readings(path: Path) -> list[Reading]:
    book = Logbook.open_to_read(path)
    found = [r for s in book.sessions() for r in book.readings(s.id)]
    book.close()
    return found


def wait_for(path: Path, count: int) -> list[Reading]:
    for _ in range(300):
        found = readings(path)
        if len(found) >= count:
            return found
        time.sleep(0.1)
    pytest.fail(f"{len(readings(path))} readings instead of {count}")


def test_the_demo_reaches_its_window(display):
    program = Program(display, "--demo")
    program.close()
    assert program.process.returncode == 0


def test_the_demo_where_nothing_of_its_own_can_be_written(display, tmp_path):
    """A home that cannot be written, not even by root: the demo passes with the window and leaves no folder behind."""
    homes = {name: "" for name in os.environ if name.startswith("XDG_")}
    program = Program(display, "--demo", **homes, HOME="/proc/nothing", TMPDIR=str(tmp_path))
    for _ in range(300):
        if list(tmp_path.glob("even-beam-demo-*/*.evenbeam")):
            break
        time.sleep(0.1)
    program.close()
    assert program.process.returncode == 0
    assert not list(tmp_path.glob("even-beam-*"))


def test_killed_after_a_confirmed_reading_nothing_is_lost(display, demo):
    before = len(readings(demo))
    program = Program(display, str(demo))
    time.sleep(1.0)
    for number in range(1, 4):
        program.keys("KP_Enter")
        wait_for(demo, before + number)
    program.kill()
    kept = {r.id for r in readings(demo)}
    assert len(kept) == before + 3
    again = Program(display, str(demo))
    time.sleep(1.0)
    again.keys("KP_Enter")
    after = wait_for(demo, before + 4)
    assert kept <= {r.id for r in after}
    own = [r for r in after if r.session_id == after[-1].session_id]
    # the run goes on at the very step it was killed at: two readings a step, in the order of the sheet
    assert [r.terms.level_pct for r in own][-5:] == [25.0, 25.0, 10.0, 10.0, 5.0]
    again.close()


def test_every_key_does_what_it_says(display, demo):
    """Every key of F1's table, by the screen's own key events, from every station it is documented for."""
    from tests.window.every_key import NAMES, TABLE

    environment = {k: v for k, v in os.environ.items() if k != "QT_QPA_PLATFORM"} | {
        "DISPLAY": display,
        "QT_QPA_PLATFORM": "xcb",
    }
    done = subprocess.run(
        [sys.executable, "-m", "tests.window.every_key", str(demo)],
        env=environment,
        capture_output=True,
        text=True,
        timeout=400,
        check=False,
    )
    rows = [line.split("\t") for line in done.stdout.splitlines()]
    assert done.returncode == 0, done.stderr
    assert [row for row in rows if row[2] != "ok"] == []
    pressed = {(station, key) for station, key, _ in rows}
    for group, hints in TABLE.items():
        for station in NAMES.values() if group == "Everywhere" else [group]:
            for hint in hints:
                assert (station, hint.key) in pressed, f"{station}: nobody pressed {hint.key}"


@pytest.mark.parametrize("sent", [signal.SIGTERM, signal.SIGHUP, signal.SIGQUIT])
def test_a_log_out_closes_the_logbook(display, tmp_path, sent):
    """Log, index and lock stood beside it afterwards, and the next opening was after an unclean end."""
    path = tmp_path / "book.evenbeam"
    program = Program(display, str(path))
    for _ in range(100):
        if path.with_name("book.evenbeam.lock").exists():
            break
        time.sleep(0.1)
    program.process.send_signal(sent)
    assert program.process.wait(20) == 0
    assert [file.name for file in tmp_path.iterdir()] == ["book.evenbeam"]
    book = Logbook.open(path)
    assert not book.was_left_open
    book.close()
