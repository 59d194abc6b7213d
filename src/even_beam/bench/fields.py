"""Which fields terms have, when two values of one are the same, and how each is said.

What was dialled (`mode` to `zoom`), what sits on the lamp, where the meter stands, which meter, and which session (its
room, power and warm-up). A new field is added to `FIELDS`, and nothing else can forget it.
"""

import re
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass
from functools import cache, lru_cache

from even_beam.bench import off_axis
from even_beam.bench.records import Reading, Terms
from even_beam.words import notation

UNSTATED = None
"""The value of a field that was not stated."""

Key = tuple[Hashable, ...]
"""Every field's value, in the order of `FIELDS`; equal keys are equal terms."""


@dataclass(frozen=True, slots=True)
class Field:
    """One field of terms.

    `name` is what it is called on the command line and by figures that have it as their axis, `stored` the field of
    `Terms` (empty for what a reading itself keeps). `value` gives it as it is compared: rounded to `tolerance`, so that
    sameness is an equivalence; `words` say a value.
    """

    name: str
    label: str
    stored: str
    value: Callable[[Reading], Hashable]
    words: Callable[[Hashable], str]
    tolerance: float = 0.0
    axis: bool = False


def _number(stored: str, tolerance: float) -> Callable[[Reading], Hashable]:
    def value(reading: Reading) -> Hashable:
        found = getattr(reading.terms, stored)
        return UNSTATED if found is None else round(round(found / tolerance) * tolerance, 6)

    return value


def _text(stored: str) -> Callable[[Reading], Hashable]:
    def value(reading: Reading) -> Hashable:
        return plain(getattr(reading.terms, stored)) or UNSTATED

    return value


@cache
def plain(text: str) -> str:
    """A text as it is compared: letters' case and blanks tell nothing apart."""
    return " ".join(text.casefold().split())


def _tint(reading: Reading) -> Hashable:
    """A tint dial at zero is a tint dial that nobody touched."""
    text = plain(reading.terms.tint).replace("−", "-")
    number = re.fullmatch(r"[+\-±]?(\d+(?:\.\d+)?)", text)
    if number is not None:
        size = float(text.replace("±", ""))
        return UNSTATED if size == 0.0 else f"{size:+g}"
    return text or UNSTATED


def _configuration(reading: Reading) -> Hashable:
    """What sits on it, in order; nothing is a statement: bare."""
    return tuple(plain(name) for name in reading.terms.configuration)


def _placement(reading: Reading) -> Hashable:
    """How the meter stands; on axis and unknown say nothing that distance and angle do not."""
    placement = plain(reading.terms.placement)
    return UNSTATED if placement in {"on axis", "unknown", ""} else placement


def _angle(reading: Reading) -> Hashable:
    return round(reading.terms.angle_deg * 2.0) / 2.0


def _turn(reading: Reading) -> Hashable:
    """The plane of an angle; what stands on the axis stands in all of them."""
    return 0.0 if _angle(reading) == 0.0 else round(reading.terms.turn_deg * 2.0) / 2.0


def _kelvin(value: Hashable) -> str:
    return "" if value is UNSTATED else f"{notation.dialled(float(str(value)))} K"


def _percent(value: Hashable) -> str:
    return "level not stated" if value is UNSTATED else f"{notation.percent(float(str(value)))} %"


def _degrees(what: str) -> Callable[[Hashable], str]:
    return lambda value: "" if value is UNSTATED else f"{what}{notation.plain(float(str(value)))}°"


def _said(value: Hashable) -> str:
    return "" if value is UNSTATED else str(value)


def _tint_words(value: Hashable) -> str:
    return "" if value is UNSTATED else f"tint {value}"


def _configuration_words(value: Hashable) -> str:
    return " + ".join(value) if isinstance(value, tuple) and value else "bare"


def _distance_words(value: Hashable) -> str:
    return "distance not stated" if value is UNSTATED else notation.distance(float(str(value)))


def _angle_words(value: Hashable) -> str:
    return "" if not value else f"{notation.plain(float(str(value)))}° off axis"


def _turn_words(value: Hashable) -> str:
    return off_axis.plane_words(float(str(value)))


def _plane_words(value: Hashable) -> str:
    return "" if value is UNSTATED else f"from the {value}"


def _placement_words(value: Hashable) -> str:
    words = {"equal": "equal distance, not measured", "shaded": "meter shaded"}
    return "" if value is UNSTATED else words.get(str(value), str(value))


def _saturation_words(value: Hashable) -> str:
    return "" if value is UNSTATED else f"saturation {notation.percent(float(str(value)))} %"


FIELDS: tuple[Field, ...] = (
    Field("mode", "mode", "mode", _text("mode"), _said),
    Field("cct", "white", "cct_k", _number("cct_k", 1.0), _kelvin, 1.0),
    Field("tint", "tint", "tint", _tint, _tint_words),
    Field("hue", "hue", "hue_deg", _number("hue_deg", 0.5), _degrees("hue "), 0.5),
    Field("saturation", "saturation", "saturation_pct", _number("saturation_pct", 0.5), _saturation_words, 0.5),
    Field("configuration", "on the lamp", "configuration", _configuration, _configuration_words),
    Field("zoom", "zoom", "zoom", _text("zoom"), _said),
    Field("level", "level", "level_pct", _number("level_pct", 0.01), _percent, 0.01),
    Field("angle", "angle", "angle_deg", _angle, _angle_words, 0.5),
    Field("turn", "plane of the angle", "turn_deg", _turn, _turn_words, 0.5),
    Field("placement", "placement", "placement", _placement, _placement_words),
    Field("distance", "distance", "distance_m", _number("distance_m", 0.002), _distance_words, 0.002),
    Field("plane", "reference plane", "reference_plane", _text("reference_plane"), _plane_words),
    Field("meter", "meter", "", lambda reading: reading.meter_id, _said),
    Field("session", "session", "", lambda reading: reading.session_id, _said),
)  # fmt: skip
"""Every field, in the order in which they are said and chosen."""

PLAIN: Mapping[str, str] = {"angle": "on axis", "turn": "in the level plane"}
"""What values that go without saying are called where they stand beside others."""

NAMES: tuple[str, ...] = tuple(one.name for one in FIELDS)
BY_NAME: Mapping[str, Field] = {one.name: one for one in FIELDS}
BY_STORED: Mapping[str, str] = {one.stored: one.name for one in FIELDS if one.stored}
PLACE_OF: Mapping[str, int] = {one.name: place for place, one in enumerate(FIELDS)}
"""Where a field stands in a key."""


@lru_cache(maxsize=65_536)
def key_of_terms(terms: Terms) -> Key:
    """The fields that terms themselves have, in the order of `FIELDS`."""
    reading = Reading("", "", None, 0, terms)  # type: ignore[arg-type]  # only its terms are looked at
    return tuple(one.value(reading) for one in FIELDS if one.stored)


def key_of(reading: Reading) -> Key:
    """Every field of a reading as it is compared; meter and session, which stand last, are the reading's own."""
    return (*key_of_terms(reading.terms), reading.meter_id, reading.session_id)
