"""The window against what its libraries alone take to show an empty one, each in a process of its own."""

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from benchmarks.timing import best_of

_EMPTY = """
import sys
import numpy, pyqtgraph
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv)
window = QMainWindow()
window.resize(1280, 800)
window.show()
app.processEvents()
"""
OURS = """
import sys
from pathlib import Path
from even_beam.shell import memory
memory.look_seldom()  # as the command does
from even_beam.app.start import application
from even_beam.app.window import BENCH, Window
from even_beam.shell.settings import load
settings = load()
app = application(settings.theme)
window = Window(settings)
window.show()
app.processEvents()
if len(sys.argv) > 1:
    window.open_logbook(Path(sys.argv[1]))
    window.go(BENCH)
    app.processEvents()
"""


def run(script: str, home: Path, *arguments: str) -> None:
    """Run a script in a process of its own, without a screen."""
    environment = os.environ | {
        "QT_QPA_PLATFORM": "offscreen",
        "XDG_STATE_HOME": str(home),
        "XDG_CONFIG_HOME": str(home),
    }
    environment.pop("PYTHONDONTWRITEBYTECODE", None)  # whoever uses it has its byte code cached after the first time
    subprocess.run([sys.executable, "-c", script, *arguments], check=True, env=environment)


def report() -> list[str]:
    """Lines with the ratio."""
    from even_beam.demo.scenario import build

    with tempfile.TemporaryDirectory() as folder:
        demo = Path(folder) / "demo.evenbeam"
        build(demo)
        empty = best_of(lambda: run(_EMPTY, Path(folder)), 5)
        shown = best_of(lambda: run(OURS, Path(folder)), 5)
        ready = best_of(lambda: run(OURS, Path(folder), str(demo)), 5)
    return [
        f"an empty window with its libraries: {empty:.2f} s",
        f"our window shown: {shown:.2f} s, {shown / empty:.2f}x (wanted: at most 2.5x)",
        f"the demo open on the Bench: {ready:.2f} s, {ready / empty:.2f}x",
    ]
