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

pytestmark = [
    pytest.mark.window,
    pytest.mark.skipif(
        shutil.which("Xvfb") is None or shutil.which("xdotool") is None, reason="needs Xvfb and xdotool"
    ),
]

SCREEN = "1600x1000x24"


@pytest.fixture
def display(tmp_path):
    """A virtual screen of its own; the server picks a free number and writes it to a pipe."""
    reader, writer = os.pipe()
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", str(writer), "-screen", "0", SCREEN, "-nolisten", "tcp", "-noreset"],
        pass_fds=[writer],
        stderr=subprocess.DEVNULL,
    )
    os.close(writer)
    number = os.read(reader, 16).decode().strip()
    yield f":{number}"
    server.terminate()
    server.wait(10)
    os.close(reader)  # not before: the server ends when it cannot write there


class Program:
    """`even-beam` in a process of its own, with keys sent to its window."""

    def __init__(self, display: str, *arguments: str, **surroundings: str) -> None:
        self.environment = {k: v for k, v in os.environ.items() if k != "QT_QPA_PLATFORM"} | {
            "DISPLAY": display,
            "QT_QPA_PLATFORM": "xcb",
            **surroundings,
        }
        self.process = subprocess.Popen([sys.executable, "-m", "even_beam", *arguments], env=self.environment)
        self.window = self._find()

    def _find(self) -> str:
        for _ in range(240):
            assert self.process.poll() is None, "the program ended before its window was shown"
            found = subprocess.run(
                ["xdotool", "search", "--onlyvisible", "--name", "Even Beam"],
                env=self.environment,
                capture_output=True,
                text=True,
                check=False,
            )
            if found.stdout.split():
                return found.stdout.split()[-1]
            time.sleep(0.25)
        pytest.fail("no window within a minute")

    def keys(self, *names: str, check: bool = True) -> None:
        subprocess.run(
            ["xdotool", "windowfocus", "--sync", self.window, "key", "--delay", "60", *names],
            env=self.environment,
            check=check and self.process.poll() is None,
        )

    def kill(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.process.wait(20)

    def close(self) -> None:
        for _ in range(6):  # on a machine that is busy a key may come before the window has the focus
            self.keys("ctrl+q", check=False)  # the window may be gone while its process still ends
            try:
                self.process.wait(10)
                return
            except subprocess.TimeoutExpired:
                continue
        self.kill()
        pytest.fail("the window did not close")


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
