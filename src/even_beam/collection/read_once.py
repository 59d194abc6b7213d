"""One logbook file read by one thread after the other: what was read is kept until it is to be read anew."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from threading import Lock

from even_beam.collection.collection import Collection


class ReadOnce:
    """A file's collection, opened when it is first used."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._one_at_a_time = Lock()
        self._collection: Collection | None = None

    def forget(self) -> None:
        """Close it; the next use reads the file anew."""
        with self._one_at_a_time:
            if self._collection is not None:
                self._collection.logbook.close()
            self._collection = None

    @contextmanager
    def collection(self) -> Iterator[Collection]:
        """The collection, for this thread alone while it is used."""
        from even_beam.logbook.store import Logbook  # the window is shown before it is loaded

        with self._one_at_a_time:
            if self._collection is None:
                self._collection = Collection(Logbook.open_to_read(self._path))
            yield self._collection
