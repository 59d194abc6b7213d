"""Display colours that stand for hues."""

from functools import lru_cache

import numpy as np

from even_beam.light.rendering import display_of_lab


@lru_cache(maxsize=2)
def hue_colours(count: int) -> tuple[tuple[int, int, int], ...]:
    """A display colour for each of `count` equal hues of CIELAB, of one lightness and chroma, the first at its
    beginning."""
    angle = (np.arange(count) + 0.5) * 2.0 * np.pi / count
    lab = np.stack([np.full(count, 62.0), 42.0 * np.cos(angle), 42.0 * np.sin(angle)], axis=-1)
    rgb = np.round(255.0 * np.clip(display_of_lab(lab), 0.0, 1.0)).astype(int)
    return tuple((int(r), int(g), int(b)) for r, g, b in rgb)
