"""What can be wrong with a file that is read or written."""

from pathlib import Path

from even_beam.errors import TellableError


class FormatError(TellableError):
    """A file that could not be understood or written; the message says why and what would be understood."""

    def of(self, path: Path) -> str:
        """The message with the name of its file, which stands in it once."""
        said = str(self)
        return said if path.name in said else f"{path.name}: {said}"
