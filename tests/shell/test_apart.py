"""Work in a process of its own: done, failed, left, and one after the other."""

import os
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest

from even_beam.logbook.errors import LogbookError
from even_beam.shell.apart import Apart, EndedError
from even_beam.shell.job import CancelledError


def _process() -> int:
    return os.getpid()


def _fails() -> None:
    raise LogbookError("It fell.", "Nothing broke.", "Pick it up.")


def _sleeps(seconds: float) -> float:
    time.sleep(seconds)
    return seconds


@pytest.fixture
def apart():
    one = Apart()
    yield one
    one.stop()


def _go_on() -> None:
    return None


def test_it_is_another_process_and_the_same_again(apart):
    first = apart.run(_go_on, _process)
    assert first != os.getpid()
    assert apart.run(_go_on, _process) == first


def test_what_it_raises_is_raised_here(apart):
    with pytest.raises(LogbookError, match=r"It fell. Nothing broke. Pick it up.") as raised:
        apart.run(_go_on, _fails)
    assert raised.value.do == "Pick it up."
    assert apart.run(_go_on, _process) != os.getpid()


def test_leaving_it_ends_the_process_and_the_next_is_done(apart):
    """Left in the midst: not waited for, and what was asked meanwhile is done by a new process."""
    leave = threading.Event()

    def pause() -> None:
        if leave.is_set():
            raise CancelledError

    left: list[object] = []

    def first() -> None:
        try:
            apart.run(pause, _sleeps, 60.0)
        except CancelledError as error:
            left.append(error)

    started = time.monotonic()
    one = threading.Thread(target=first)
    one.start()
    time.sleep(0.3)
    second: list[float] = []
    two = threading.Thread(target=lambda: second.append(apart.run(_go_on, _sleeps, 0.01)))
    two.start()
    time.sleep(0.2)
    assert not second, "it waits for its turn"
    leave.set()
    one.join(20.0)
    two.join(20.0)
    assert left and second == [0.01]
    assert time.monotonic() - started < 40.0


def test_a_process_that_is_killed_is_said_and_replaced(apart):
    pid = apart.run(_go_on, _process)
    os.kill(pid, 9)
    with pytest.raises(EndedError, match="the logbook is unharmed"):
        for _ in range(50):
            apart.run(_go_on, _process)
            time.sleep(0.02)
    assert apart.run(_go_on, _process) not in {pid, os.getpid()}


def _at_work(pid: int) -> bool:
    """A process that ended and that nobody has asked after yet (state Z) is not at work."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


def test_a_program_that_is_killed_leaves_no_process_behind():
    script = (
        "import os, time; from even_beam.shell.apart import Apart;"
        "print(Apart().run(lambda: None, os.getpid), flush=True); time.sleep(60)"
    )
    with subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, text=True) as program:
        assert program.stdout is not None
        pid = int(program.stdout.readline())
        assert _at_work(pid)
        program.kill()
    until = time.monotonic() + 20.0
    while _at_work(pid) and time.monotonic() < until:
        time.sleep(0.05)
    assert not _at_work(pid)
