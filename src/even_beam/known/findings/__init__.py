"""What the readings of a fixture say, one function a question; each answer with the readings it came from."""

from even_beam.known.findings.finding import Evidence, Finding

__all__ = ["Evidence", "Finding"]
