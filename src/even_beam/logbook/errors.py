"""What can go wrong with a logbook file, said so that a person can act on it."""


class LogbookError(Exception):
    """Something could not be done with a logbook: what happened, what was kept, what to do."""

    def __init__(self, what: str, kept: str, do: str) -> None:
        super().__init__(f"{what} {kept} {do}")
        self.what, self.kept, self.do = what, kept, do

    def __reduce__(self) -> tuple[type["LogbookError"], tuple[str, str, str]]:
        """As it goes from one process to another."""
        return type(self), (self.what, self.kept, self.do)
