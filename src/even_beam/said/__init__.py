"""What a line means that people say or type: figures, the terms they belong to, and what it leaves open.

Its words (`words_of_line`) are covered by parts (`covering`), each of which says by itself what it is (`figures`,
`terms`) or could be several things (`bare`); where two coverings come near each other the line asks (`understanding`).
"""

from even_beam.said.answer import Choice, Part, Said
from even_beam.said.situation import Situation
from even_beam.said.understanding import understand

__all__ = ["Choice", "Part", "Said", "Situation", "understand"]
