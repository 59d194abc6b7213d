"""Where everything is kept: one SQLite file, opened like a document.

`Logbook` itself is in `store`: whoever only needs to know what can go wrong does not load all that it reads and writes.
"""

from even_beam.logbook.errors import LogbookError

__all__ = ["LogbookError"]
