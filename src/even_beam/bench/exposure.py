"""What an f-number stands for: sensitivity, exposure time and the constant C of the meter, stated for a session."""

import math
import re
from dataclasses import dataclass

from even_beam.errors import TellableError
from even_beam.light.photometry import DOME_CONSTANT, FLAT_CONSTANT, illuminance_from_exposure, shutter_seconds
from even_beam.words import notation

HEADS = {"flat": FLAT_CONSTANT, "dome": DOME_CONSTANT}
"""The constant C of the exposure equation by the head's name (ISO 2720 gives ranges; these are usual)."""

ISO_RANGE = (1.0, 1e7)
SHUTTER_RANGE_S = (1e-6, 3600.0)


class ExposureError(TellableError, ValueError):
    """An exposure that cannot be; the message says what can."""


@dataclass(frozen=True, slots=True)
class Exposure:
    """Sensitivity, exposure time in seconds and constant C. Raises `ExposureError` for what cannot be."""

    iso: float
    shutter_s: float
    constant: float = FLAT_CONSTANT

    def __post_init__(self) -> None:
        for name, value, (low, high) in (
            ("ISO", self.iso, ISO_RANGE),
            ("an exposure time in seconds", self.shutter_s, SHUTTER_RANGE_S),
            ("C of a meter's head", self.constant, (100.0, 600.0)),
        ):
            if not low <= value <= high:  # NaN is not within either
                raise ExposureError(f"{name} of {value:g} cannot be: it lies between {low:g} and {high:g}")

    @property
    def words(self) -> str:
        """As it is said: ISO 800, 1/50 s, C 250."""
        return f"ISO {self.iso:g}, {notation.seconds(self.shutter_s)}, C {self.constant:g}"

    @property
    def text(self) -> str:
        """As an event keeps it."""
        return f"{self.iso!r} {self.shutter_s!r} {self.constant!r}"

    @staticmethod
    def of_text(text: str) -> "Exposure | None":
        """The exposure that an event kept; None for a text that is none."""
        try:
            iso, shutter_s, constant = map(float, text.split())
            return Exposure(iso, shutter_s, constant)
        except ValueError:
            return None

    def lux(self, f_number: float | None) -> float | None:
        """The level that a meter showed as this f-number (ISO 2720:1974): E = C N^2 / (S t)."""
        if f_number is None or not math.isfinite(f_number):
            return None
        return float(illuminance_from_exposure(f_number, self.iso, self.shutter_s, self.constant))


_FRACTION = re.compile(r"1\s*/\s*(\d{1,6}(?:\.\d{1,3})?)\s*(?:s|sec|seconds?)?")
_SECONDS = re.compile(r"(\d{0,4}\.?\d{1,6})\s*(?:s|sec|seconds?)?")
_ANGLE = re.compile(r"(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees)\s*(?:at|@|,)?\s*(\d{1,5}(?:\.\d{1,3})?)\s*(?:fps|p)?")


def shutter_of(text: str) -> float:
    """Seconds of an exposure time as it is said: 1/50, 0.02 s, 180° at 24 fps. Raises `ExposureError`.

    >>> shutter_of("1/50")
    0.02
    """
    words = " ".join(text.lower().split())
    if fraction := _FRACTION.fullmatch(words):
        seconds = 1.0 / max(float(fraction[1]), 1e-9)
    elif angle := _ANGLE.fullmatch(words):
        seconds = float(shutter_seconds(float(angle[1]), max(float(angle[2]), 1e-9)))
    elif plain := _SECONDS.fullmatch(words):
        seconds = float(plain[1])
    else:
        raise ExposureError(f"“{text}” is not an exposure time; write 1/50, 0.02 s or 180° at 24 fps")
    low, high = SHUTTER_RANGE_S
    if not low <= seconds <= high:
        raise ExposureError(f"an exposure time of {seconds:g} s cannot be: it lies between {low:g} and {high:g} s")
    return seconds
