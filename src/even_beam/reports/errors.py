"""What can go wrong with a report."""


class ReportError(Exception):
    """A report that could not be made or written; the message says why and what to do."""
