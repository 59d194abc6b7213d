"""A line of an answer in large type."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Line:
    """One line: what is said large, and what belongs to it quietly."""

    text: str
    aside: str = ""

    @property
    def plain(self) -> str:
        """It as it is copied."""
        return f"{self.text} {self.aside}".strip()
