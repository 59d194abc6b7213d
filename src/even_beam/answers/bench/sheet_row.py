"""One line of a sheet, as lists of steps and readings are shown."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class SheetRow:
    """One line of the sheet: a heading, or a step with two terms, its figure and its standing.

    Standings: done, here, doubt, kept (in doubt, on purpose), suspect, skipped, coming.
    """

    step_id: str
    first: str
    second: str = ""
    figure: str = ""
    standing: str = "coming"
    heading: bool = False
    changed: tuple[bool, bool] = (True, True)
