"""A photograph as it was stored, with the way back to linear light and what the file says of its exposure."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from even_beam.light import FloatArray
from even_beam.light.adaptation import D65_WHITE, SRGB_TO_XYZ, XYZ_TO_SRGB, lab, xyz_of_lab

Stored = NDArray[np.integer[Any] | np.floating[Any]]
"""Values as a file holds them."""

CLIPPED_FROM = 0.995
"""From this share of the greatest value on that a file can hold a channel counts as clipped (common practice, no
source)."""


@dataclass(frozen=True, slots=True)
class Capture:
    """What a file says of how it was taken; None for what it does not say.

    `shutter_s` in seconds, `f_number`, `iso`; whether exposure and white balance were automatic.
    """

    shutter_s: float | None = None
    f_number: float | None = None
    iso: float | None = None
    auto_exposure: bool | None = None
    auto_balance: bool | None = None

    @property
    def stops(self) -> float | None:
        """How much light these settings let in, in stops over 1 s, f/1, ISO 100; None where one is not said."""
        if not self.shutter_s or not self.f_number or not self.iso:
            return None
        return float(np.log2(self.shutter_s * self.iso / 100.0 / self.f_number**2))


@dataclass(frozen=True, eq=False, slots=True)
class Photograph:
    """Pixels as stored, shape (h, w, 3), and `decode`, which turns such values, shape (..., 3), into linear sRGB with
    1.0 where the file is full. `greatest` is the greatest value that the file can hold; `understood` says how its
    colours were read."""

    name: str
    pixels: Stored
    decode: Callable[[Stored], FloatArray]
    greatest: float
    capture: Capture = Capture()
    understood: str = ""

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return int(self.pixels.shape[1]), int(self.pixels.shape[0])

    def clipped(self, pixels: Stored) -> NDArray[np.bool_]:
        """Which of stored pixels, shape (..., 3), are at the end of their range in a channel, shape (...)."""
        return np.any(pixels >= CLIPPED_FROM * self.greatest, axis=-1)


def linear_of_srgb(encoded: FloatArray) -> FloatArray:
    """Linear light of sRGB values 0 to 1 (IEC 61966-2-1, 5.2)."""
    return np.where(encoded <= 0.04045, encoded / 12.92, ((np.maximum(encoded, 0.0) + 0.055) / 1.055) ** 2.4)


def luminance(linear: FloatArray) -> FloatArray:
    """Y of linear sRGB, shape (..., 3) to (...)."""
    y: FloatArray = linear @ SRGB_TO_XYZ[1]
    return y


def lab_of_linear(linear: FloatArray) -> FloatArray:
    """CIELAB on D65 of linear sRGB, shape (..., 3)."""
    return lab(linear @ SRGB_TO_XYZ.T / D65_WHITE)


def linear_of_lab(colour: FloatArray) -> FloatArray:
    """Linear sRGB of CIELAB on D65, shape (..., 3); colours outside the gamut have channels below 0 or above 1."""
    linear: FloatArray = xyz_of_lab(colour) @ XYZ_TO_SRGB.T
    return linear
