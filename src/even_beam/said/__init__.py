"""What a line means that people say or type: figures, the terms they belong to, and what it leaves open."""

from even_beam.said.line import Choice, Said, Situation
from even_beam.said.understanding import understand

__all__ = ["Choice", "Said", "Situation", "understand"]
