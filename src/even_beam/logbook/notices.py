"""Who is told what was found of a logbook's file that a person must know: logs put aside, sessions set apart, a file
that was destroyed."""

from collections.abc import Callable
from pathlib import Path

LISTENERS: list[Callable[[Path, str, Path | None], None]] = []
"""Called with the file, what is to be said, and where what was still held was rescued, in whatever thread it was found.

Of the process, not of a logbook: jobs open the file for themselves, and find it too."""
