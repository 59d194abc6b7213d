"""What can be wrong with a file that is read or written."""


class FormatError(Exception):
    """A file that could not be understood or written; the message says why and what would be understood."""
