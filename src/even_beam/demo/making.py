"""The demo made in a process of its own, so that the window that waits for it answers; it says how far it is."""

import tempfile
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from even_beam.shell.apart import APART


def make_apart(path: Path, pause: Callable[[], None], told: Callable[[float, str], None]) -> None:
    """Build the demo at `path`; `told` its share and what is being played. `pause` may raise to leave it.

    Raises what building raises, and `EndedError`.
    """
    with tempfile.TemporaryDirectory(prefix="even-beam-") as folder:
        progress, last = Path(folder) / "progress", [""]

        def look() -> None:
            with suppress(OSError, ValueError):
                if (said := progress.read_text(encoding="utf-8")) != last[0]:
                    last[0] = said
                    done, of, words = said.split(" ", 2)
                    told(int(done) / int(of), words)
            pause()

        APART.run(look, _make, path, progress)


def _make(path: Path, progress: Path) -> None:
    from even_beam.demo.scenario import build

    build(path, lambda done, of, words: _say(progress, f"{done} {of} {words}"))


def _say(progress: Path, words: str) -> None:
    """Whole or not at all, for somebody reads it."""
    with suppress(OSError):  # how far it is matters less than that it goes on
        fresh = progress.with_suffix(".new")
        fresh.write_text(words, encoding="utf-8")
        fresh.replace(progress)
