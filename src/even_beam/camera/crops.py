"""Parts of photographs, such as skin, a product, a petal, side by side at equal exposure."""

from dataclasses import dataclass

import cv2
import numpy as np

from even_beam.camera.chart_comparison import ChartReading
from even_beam.camera.errors import CameraError
from even_beam.camera.photo import Photograph, lab_of_linear, luminance
from even_beam.camera.sampling import trimmed_mean
from even_beam.light import FloatArray
from even_beam.light.adaptation import srgb_of_linear
from even_beam.light.colour_difference import ciede2000

Box = tuple[int, int, int, int]
"""Left, top, right and bottom in pixels."""

LEAST_PX = 4


@dataclass(frozen=True, eq=False, slots=True)
class Crop:
    """A part of a photograph in linear sRGB, shape (h, w, 3), brought to the exposure at which the chart's middle greys
    have their published luminance; balanced on them where that was asked."""

    name: str
    linear: FloatArray

    @property
    def mean_lab(self) -> FloatArray:
        """CIELAB of its trimmed mean, shape (3,)."""
        return lab_of_linear(trimmed_mean(self.linear.reshape(-1, 3)))

    def shown(self, height: int) -> FloatArray:
        """As a display shows it at a height in pixels, sRGB 0 to 1."""
        width = max(1, round(height * self.linear.shape[1] / self.linear.shape[0]))
        small = cv2.resize(self.linear.astype(np.float32), (width, height), interpolation=cv2.INTER_AREA)
        return srgb_of_linear(np.asarray(small, np.float64))


def crop_of(photo: Photograph, reading: ChartReading, box: Box, *, balanced: bool) -> Crop:
    """A part of a photograph whose chart was read. Raises `CameraError` for a part that is not within it."""
    left, top, right, bottom = box
    width, height = photo.size
    if not (0 <= left < right <= width and 0 <= top < bottom <= height) or min(right - left, bottom - top) < LEAST_PX:
        raise CameraError(f"{photo.name}: the part {left},{top} to {right},{bottom} is not within {width} x {height}")
    greys = reading.greys
    own = reading.sampled.linear[greys].mean(axis=0)
    wanted = float(luminance(reading.chart.linear[greys]).mean())
    scale = wanted / (own if balanced else float(luminance(own)))
    return Crop(photo.name, photo.decode(photo.pixels[top:bottom, left:right]) * scale)


def apart(crop: Crop, benchmark: Crop) -> float:
    """CIEDE2000 between the means of two crops."""
    return float(ciede2000(crop.mean_lab, benchmark.mean_lab))
