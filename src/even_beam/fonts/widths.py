"""How wide text is in the shipped family, for what must fit a given size exactly."""

import io
from functools import cache, lru_cache

from even_beam.fonts import font_data

POINT_MM = 25.4 / 72.0

UNKNOWN_EM = 1.0
"""A character that the family lacks is set in another one; it is taken to be as wide as it is high."""


def width_mm(text: str, size_pt: float, *, bold: bool = False) -> float:
    """The width of a line of text set in points, in millimetres; kerning, which only narrows, is left out."""
    return _width_em(text, bold=bold) * size_pt * POINT_MM


@lru_cache(maxsize=4096)
def _width_em(text: str, *, bold: bool) -> float:
    """The same in ems; a word is measured once, whatever the sizes it is tried in."""
    advances, units = _advances("Bold" if bold else "Regular")
    return sum(advances.get(ord(character), UNKNOWN_EM * units) for character in text) / units


@cache
def _advances(weight: str) -> tuple[dict[int, int], int]:
    """Advance widths by code point, and the units of an em."""
    from fontTools.ttLib import TTFont  # slow to import: only where labels are made

    with TTFont(io.BytesIO(font_data(f"B612-{weight}.otf"))) as font:
        metrics = font["hmtx"]
        return {code: metrics[name][0] for code, name in font.getBestCmap().items()}, font["head"].unitsPerEm
