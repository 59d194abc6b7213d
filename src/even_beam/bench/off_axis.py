"""Where across a beam the meter stands, in words: an angle off the axis, in a plane through the axis.

The plane of 0° is level: left and right, right positive. That of 90° is upright: up and down, up positive. Planes
between them turn from the one to the other.
"""

import re
from typing import NamedTuple

UPRIGHT_DEG = 90.0
_SIDES = {"right": (1.0, 0.0), "left": (-1.0, 0.0), "up": (1.0, UPRIGHT_DEG), "down": (-1.0, UPRIGHT_DEG)}
_CENTRE = frozenset({"centre", "center", "on axis", "axis"})
_WRITTEN = re.compile(
    r"(?:at\s+)?([+\-−]?\d{1,3}(?:\.\d+)?)\s*(?:°|deg|degrees)?\s*(?:off(?:\s+axis)?)?\s*(?:to the\s+)?"
    r"(left|right|up|down)?\s*(?:in the (?:(upright) plane|plane of (\d{1,3}(?:\.\d+)?)\s*(?:°|deg|degrees)?))?"
)


class Aside(NamedTuple):
    """An angle off the axis, and its plane where one was named."""

    angle_deg: float
    turn_deg: float | None


def side(word: str) -> tuple[float, float]:
    """The sign and the plane of left, right, up and down. Raises `KeyError` for another word."""
    return _SIDES[word]


_BARE = re.compile(r"(?:at\s+)?[+\-−]?[\d.]+")


def understood(text: str, *, bare: bool = True) -> Aside | None:
    """`centre`, `15 left`, `15° up`, `15 deg in the plane of 45`; where `bare` numbers are angles, one is an angle in
    the plane at hand. None for what is no place across a beam, such as a number with two planes."""
    words = text.strip().casefold()
    if words in _CENTRE:
        return Aside(0.0, None)
    match = _WRITTEN.fullmatch(words)
    if match is None or (match[2] and (match[3] or match[4])) or (not bare and _BARE.fullmatch(words)):
        return None
    sign, plane = side(match[2]) if match[2] else (1.0, None)
    if match[3] or match[4]:
        plane = UPRIGHT_DEG if match[3] else float(match[4])
    return Aside(sign * float(match[1].replace("−", "-")), plane)


def plane_words(turn_deg: float) -> str:
    """A plane as it is said after an angle; empty for the level one, which goes without saying."""
    if turn_deg == 0.0:
        return ""
    return "in the upright plane" if turn_deg == UPRIGHT_DEG else f"in the plane of {turn_deg:g}°"


def written(angle_deg: float, turn_deg: float) -> str:
    """A place as tables keep it, and as `understood` takes it."""
    return "centre" if angle_deg == 0.0 else " ".join([f"{angle_deg:g} deg", plane_words(turn_deg)]).strip()
