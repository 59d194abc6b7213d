"""A logbook's pages brought into the system's file cache, in one sweep.

A lamp's readings lie scattered over years of a file, and a disk is slow at that: the first comparison in a large,
cold file would take many seconds.
"""

import os
from collections.abc import Callable

_PIECE = 8 * 2**20
MOST_BYTES = 4 * 2**30


def read_ahead(file: int, pause: Callable[[], None] = lambda: None) -> None:
    """Read a file through by its descriptor, up to `MOST_BYTES`. For a worker; `pause` may raise to leave it."""
    at = 0
    while at < MOST_BYTES and (read := len(os.pread(file, _PIECE, at))):
        at += read
        pause()
