"""`even-beam` in a process of its own under a virtual screen, with keys sent to its window."""

import os
import signal
import subprocess
import sys
import time

import pytest


class Program:
    """The program and its window."""

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
