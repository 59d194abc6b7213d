"""What can go wrong with a report."""

from even_beam.errors import TellableError


class ReportError(TellableError):
    """A report that could not be made or written; the message says why and what to do."""
