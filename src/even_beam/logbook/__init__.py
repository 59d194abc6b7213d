"""Where everything is kept: one SQLite file, opened like a document."""

from even_beam.logbook.errors import LogbookError
from even_beam.logbook.store import Logbook

__all__ = ["Logbook", "LogbookError"]
