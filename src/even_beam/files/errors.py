"""What can go wrong with a file that is to be written."""

from even_beam.errors import TellableError


class OutputError(TellableError):
    """A file could not be written; what stood there is as it was."""
