"""A virtual screen for each test."""

import os
import subprocess

import pytest

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
