"""Reference spectra by the names that people quote."""

import re

import numpy as np

from even_beam.light.illuminants import daylight, planckian
from even_beam.light.spectra import FloatArray

NOMINAL_FACTOR = 1.4388 / 1.4380
"""CIE 15: a nominal daylight temperature is multiplied by this, since c2 was revised after the D series was fixed."""


def reference_spectrum(name: str) -> FloatArray | None:
    """The spectrum of `P3200` (Planckian at any temperature), `D55` (CIE daylight, two digits) or `E`; None for another
    name.

    Shape (401,). D55 is CIE daylight of 5503 K.
    """
    if match := re.fullmatch(r"[Pp](\d{4,5})", name):
        return planckian(float(match[1]))
    if match := re.fullmatch(r"[Dd](\d{2})", name):
        return daylight(float(match[1]) * 100.0 * NOMINAL_FACTOR)
    return np.ones(401) if name in {"E", "e"} else None


QUOTED = ("P3200", "D55")
"""The references that people quote SSI against; they are printed first, a matched reference after them."""

PRINT_VIEWING = "D50"
"""The reference for viewing prints (ISO 3664, from memory)."""
