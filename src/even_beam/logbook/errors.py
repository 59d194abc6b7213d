"""What can go wrong with a logbook file, said so that a person can act on it."""

from pathlib import Path

from even_beam.errors import TellableError


class LogbookError(TellableError):
    """Something could not be done with a logbook: what happened, what was kept, what to do."""

    def __init__(self, what: str, kept: str, do: str) -> None:
        super().__init__(f"{what} {kept} {do}")
        self.what, self.kept, self.do = what, kept, do

    def __reduce__(self) -> tuple[type["LogbookError"], tuple[object, ...]]:
        """As it goes from one process to another."""
        return type(self), (self.what, self.kept, self.do)


class NamesNothingError(LogbookError):
    """Records could not be kept, for what they belong to is not there."""


class DestroyedError(LogbookError):
    """The file of an open logbook was taken away or written into by something else; `rescued` is the logbook that what
    was still held was kept in, None where it could be kept nowhere."""

    def __init__(self, what: str, kept: str, do: str, rescued: Path | None) -> None:
        super().__init__(what, kept, do)
        self.rescued = rescued

    def __reduce__(self) -> tuple[type["LogbookError"], tuple[object, ...]]:
        """As it goes from one process to another."""
        return type(self), (self.what, self.kept, self.do, self.rescued)
