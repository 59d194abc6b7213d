"""How a ratio of levels may be put into words for a script, and which words it does not carry.

A word holds where the ratio is what it says as closely as ears take it, and the readings can tell that much. The
limits are common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.words import notation

ABOUT_STOPS = 0.1
"""“About three times” may be 2.8 to 3.2 times."""
TOLD_STOPS = 0.2
"""Where the readings leave more than this open, no round number is carried."""
TEMPTING_STOPS = 0.7
"""A round number as near as this is what somebody is tempted to say."""
ROUND_STOPS = 0.04
LEVEL_STOPS = 0.5
"""Lamps are called level only where so much could have been told; beyond, they cannot be told apart."""
NEAR_STOPS = 0.35
"""Lamps no farther apart are readily called equal."""

_TIMES = {
    1.25: "a quarter brighter",
    4.0 / 3.0: "a third brighter",
    1.5: "half as bright again",
    2.0: "twice as bright",
    2.5: "two and a half times as bright",
    3.0: "three times as bright",
    4.0: "four times as bright",
    5.0: "five times as bright",
    6.0: "six times as bright",
    8.0: "eight times as bright",
    10.0: "ten times as bright",
    0.75: "three quarters as bright",
    2.0 / 3.0: "two thirds as bright",
    0.5: "half as bright",
    0.4: "two fifths as bright",
    1.0 / 3.0: "a third as bright",
    0.25: "a quarter as bright",
    0.2: "a fifth as bright",
    0.1: "a tenth as bright",
}

_TEMPTING = {2.0: "twice as bright", 3.0: "three times as bright", 4.0: "four times as bright", 0.5: "half as bright"}

_PARTS = {0.25: "a quarter", 1.0 / 3.0: "a third", 0.5: "half", 2.0 / 3.0: "two thirds", 0.75: "three quarters"}
_NUMBERS = ("", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")


@dataclass(frozen=True, slots=True)
class Unsaid:
    """Words that must not be said, and why."""

    words: str
    why: str


def _nearest(stops: float, phrases: Sequence[float]) -> tuple[float, float]:
    """The factor of a phrase that is nearest to so many stops, and how far off it is."""
    off = np.abs(np.log2(np.asarray(phrases)) - stops)
    place = int(np.argmin(off))
    return phrases[place], float(off[place])


def times_words(stops: float, half: float) -> str:
    """The ratio as people say it, `about three times as bright`; empty where no such words hold."""
    factor, off = _nearest(stops, list(_TIMES))
    if off > ABOUT_STOPS or half > TOLD_STOPS or abs(stops) <= half:
        return ""
    return f"{'' if off + half < ROUND_STOPS else 'about '}{_TIMES[factor]}"


def stops_words(stops: float) -> str:
    """The size of a ratio in stops as it is said on set: half a stop, a stop and a third, 1.17 stops."""
    size = abs(stops)
    whole = int(size + ROUND_STOPS)
    part, off = min(((part, abs(size - whole - part)) for part in (0.0, *_PARTS)), key=lambda pair: pair[1])
    if off > ROUND_STOPS or whole >= len(_NUMBERS) or (whole == 0 and part == 0.0):
        return f"{notation.number(size, 2)} {notation.stop_word(size)}"
    if whole == 0:
        return f"{_PARTS[part]} {'' if part == 0.5 else 'of '}a stop"
    stop = "a stop" if whole == 1 else f"{_NUMBERS[whole]} stops"
    return f"{stop} and {'a half' if part == 0.5 else _PARTS[part]}" if part else stop


def unsaid_of(stops: float, half: float) -> tuple[Unsaid, ...]:
    """What must not be said of a ratio, each with its reason: double at 0.68 stop, brighter within what can be told."""
    size = f"{notation.number(abs(stops), 2)} {notation.stop_word(stops)}"
    if abs(stops) <= half:
        told = f"the difference, {size}, is less than the {notation.number(half, 2)} stop that these readings can tell"
        instead = "say “level”" if half <= LEVEL_STOPS else "say that they cannot be told apart here"
        return Unsaid("brighter" if stops >= 0.0 else "darker", told), Unsaid("equal", f"{told}; {instead}")
    found = (
        [Unsaid("as bright as", f"they are {size} apart, and the readings can tell it")] if abs(stops) < 0.35 else []
    )
    for factor, words in _TEMPTING.items():
        off = abs(np.log2(factor) - stops)
        if off <= TEMPTING_STOPS and not (off <= ABOUT_STOPS and half <= TOLD_STOPS):
            open_ = f", ±{notation.number(half, 2)}" if off <= ABOUT_STOPS else ""
            found.append(Unsaid(words, f"it is {notation.times(2.0**stops)}×, {size}{open_}"))
    return tuple(found)
