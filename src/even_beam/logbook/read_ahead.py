"""A logbook's pages brought into the system's file cache, in one sweep.

A lamp's readings lie scattered over years of a file, and a disk is slow at that: the first comparison in a large,
cold file would take many seconds.
"""

from collections.abc import Callable
from pathlib import Path

_PIECE = 8 * 2**20
MOST_BYTES = 4 * 2**30


def read_ahead(path: Path, pause: Callable[[], None] = lambda: None) -> None:
    """Read the file through, up to `MOST_BYTES`. For a worker; `pause` may raise to leave it."""
    with path.open("rb", buffering=0) as file:
        while file.tell() < MOST_BYTES and file.read(_PIECE):
            pause()
