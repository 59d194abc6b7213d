"""A wall in false colour: half a stop a band, so that each edge of a band is an isoline."""

import cv2
import numpy as np
from numpy.typing import NDArray

from even_beam.figures.scores import Rgb
from even_beam.light import FloatArray

BAND_STOPS = 0.5

# From the brightest down: even steps of lightness from pale yellow to deep blue, told apart without their hue
_BANDS: tuple[Rgb, ...] = (
    (253, 231, 130), (222, 205, 110), (186, 178, 104), (150, 152, 106), (115, 127, 110), (83, 102, 112), (55, 77, 110),
    (32, 52, 96), (18, 28, 70),
)  # fmt: skip


def wall_picture(stops: FloatArray, width: int) -> NDArray[np.uint8]:
    """Stops under the brightest part, shape (rows, columns), as a picture of shape (h, width, 3)."""
    rows, columns = stops.shape
    height = max(1, round(width * rows / columns))
    large = cv2.resize(stops.astype(np.float32), (width, height), interpolation=cv2.INTER_CUBIC)
    band = np.clip(np.floor(-large / BAND_STOPS + 1e-6), 0, len(_BANDS) - 1).astype(int)
    return np.array(_BANDS, np.uint8)[band]


def legend(stops: FloatArray) -> tuple[tuple[Rgb, str], ...]:
    """The bands that occur, the brightest first, with the stops that each goes down to."""
    last = min(int(np.floor(-float(stops.min()) / BAND_STOPS)), len(_BANDS) - 1)
    words = [f"{BAND_STOPS * (n + 1):g}" for n in range(last + 1)]
    if last == len(_BANDS) - 1:
        words[-1] = "more"
    return tuple(zip(_BANDS, words, strict=False))
