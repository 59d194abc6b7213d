"""Figures in plain words, as far as the meter can tell."""

import math
from dataclasses import dataclass

from even_beam.bench.records import Meter
from even_beam.light.photometry import stops
from even_beam.light.uncertainty import white_tolerance
from even_beam.light.white import off_neutral
from even_beam.words import notation

NO_SURE_DIFFERENCE = "no difference you can be sure of"
NO_SURE_TINT = "no tint you can be sure of"


@dataclass(frozen=True, slots=True)
class WhiteError:
    """How far a white lies from what was dialled, and what may be said about it."""

    kelvin: float
    mired: float
    tolerance_mired: float
    words: str

    @property
    def certain(self) -> bool:
        """Whether the meter can tell the difference at all."""
        return abs(self.mired) > self.tolerance_mired


def white_error(measured_k: float, asked_k: float, meter: Meter | None) -> WhiteError:
    """The error of a white in K and mired; `warmer` and `cooler` only beyond the meter's tolerance."""
    mired = 1e6 / measured_k - 1e6 / asked_k
    tolerance = white_tolerance_mired(measured_k, meter)
    if abs(mired) <= tolerance:
        words = NO_SURE_DIFFERENCE
    else:
        words = "warmer than dialled" if mired > 0 else "cooler than dialled"
    return WhiteError(measured_k - asked_k, mired, tolerance, words)


def white_tolerance_mired(cct_k: float, meter: Meter | None) -> float:
    """What the meter's xy specification means in mired at a white; a handheld meter's when the meter is unknown."""
    return float(white_tolerance(cct_k, _xy(meter))[0])


def tint_tolerance(cct_k: float, meter: Meter | None) -> float:
    """What the meter's xy specification means in Duv at a white."""
    return float(white_tolerance(cct_k, _xy(meter))[1])


def _xy(meter: Meter | None) -> float:
    return meter.xy_tolerance if meter is not None else 0.003


def tint_words(duv: float, cct_k: float, meter: Meter | None) -> str:
    """`green` or `magenta` only beyond the meter's tolerance, off what is neutral: neither a perfect daylight nor a
    perfect Planckian is tinted. Positive Duv is green."""
    off = float(off_neutral(cct_k, duv))
    if math.isnan(off) or abs(off) <= tint_tolerance(cct_k, meter):
        return NO_SURE_TINT
    return "towards green" if off > 0 else "towards magenta"


def error_line(error: WhiteError) -> str:
    """The error as it stands under a colour temperature: `−53 K · +1.7 mired · no difference ...`."""
    kelvin = notation.number(error.kelvin, 0, signed=True)
    return f"{kelvin} K · {notation.number(error.mired, 1, signed=True)} mired · {error.words}"


def white_side(mired: float) -> str:
    """To which side a white is off."""
    return "warm" if mired > 0.0 else "cool"


def tint_side(off: float) -> str:
    """To which side a tint is off."""
    return "green" if off > 0.0 else "magenta"


_MULTIPLES = ((2.0, "about double"), (3.0, "about three times"), (4.0, "about four times"))
_MULTIPLE_TOLERANCE = 0.05


def ratio_words(ratio: float) -> str:
    """A ratio in x, % and stops, with a round word only when the number is within 5 % of it.

    >>> ratio_words(1.6)
    '1.60× · 160 % · +0.68 stop'
    """
    stop = float(stops(ratio))
    unit = "stop" if abs(stop) < 1.0 else "stops"
    text = f"{notation.times(ratio)}× · {notation.percent(100.0 * ratio)} % · {notation.stops(stop)} {unit}"
    word = next((word for multiple, word in _MULTIPLES if abs(ratio / multiple - 1.0) <= _MULTIPLE_TOLERANCE), "")
    return f"{text} ({word})" if word else text
