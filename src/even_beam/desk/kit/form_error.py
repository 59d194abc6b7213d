"""What is wrong with what was filled in."""

from even_beam.errors import TellableError


class FormError(TellableError, ValueError):
    """A field that could not be understood: `field` names it."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field
