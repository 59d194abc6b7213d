"""Which fields terms have, when two values of one are the same, and how each is said.

What was dialled (`mode` to `zoom`), what sits on the lamp, where the meter stands, which meter, and which session (its
room, power and warm-up). A new field is added to `FIELDS`, and nothing else can forget it.
"""

import re
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, replace
from functools import cache, lru_cache
from typing import Any

from even_beam.bench import field_texts, off_axis
from even_beam.bench.field_texts import Read, TermLimit, Write
from even_beam.bench.records import Reading, Terms
from even_beam.words import notation

KNOB = "knob_s"

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

    `read` and `write` are its text, `nothing` what that is where nothing is to be said; None for what another field
    says (the plane of an angle) or no terms hold. `column` heads it in a table of readings, `also` are further names,
    `caption` and `example` stand in a form that asks for it (no caption: it is not asked there). `cost` is what it
    takes to change it (`planning.costs`), empty where hands change nothing. `spoken` is the word that it is said behind
    in a line where nobody knows it better.
    """

    name: str
    label: str
    stored: str
    value: Callable[[Reading], Hashable]
    words: Callable[[Hashable], str]
    tolerance: float = 0.0
    read: Read | None = None
    write: Write | None = None
    nothing: str = ""
    column: str = ""
    also: tuple[str, ...] = ()
    caption: str = ""
    example: str = ""
    cost: str = ""
    spoken: str = ""
    limit: TermLimit | None = None


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


def _mode(reading: Reading) -> Hashable:
    """Ways of a lamp of its own; that a hue is one of hue and saturation, the hue says."""
    mode = plain(reading.terms.mode) or UNSTATED
    return "hsi" if reading.terms.hue_deg is not None and mode in {UNSTATED, "cct", field_texts.FIXED} else mode


def _saturation(reading: Reading) -> Hashable:
    """How far from white a hue is; of a white it says nothing."""
    return _number("saturation_pct", 0.5)(reading) if reading.terms.hue_deg is not None else UNSTATED


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
    is_said = placement == "equal" and reading.terms.distance_m is not None  # by the distance, which is known
    return UNSTATED if placement in {"on axis", "unknown", ""} or is_said else placement


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


_WHITE = TermLimit("a white", "K", 1000.0, 100_000.0)
_LEVEL = TermLimit("a level", "%", 0.0, 100.0)
_HUE = TermLimit("a hue", "°", 0.0, 360.0)
_SATURATION = TermLimit("a saturation", "%", 0.0, 100.0)
_DISTANCE = TermLimit("a distance", "m", 0.01, 1000.0)
_ANGLE = TermLimit("an angle", "°", -180.0, 180.0)
_TURN = TermLimit("the plane of an angle", "°", 0.0, 179.9)


def text_field(name: str, label: str, stored: str, words: Callable[[Hashable], str] = _said, **more: Any) -> Field:
    """A field that is a text."""
    texts = {"read": field_texts.text_of(stored), "write": field_texts.written_text(stored), "column": name}
    return Field(name, label, stored, _text(stored), words, **{**texts, **more})


def number_field(
    name: str,
    label: str,
    stored: str,
    words: Callable[[Hashable], str],
    tolerance: float,
    limit: TermLimit,
    *,
    quantity: str,
    **more: Any,
) -> Field:
    """A field that is a number; a bare one is understood as one of `quantity`."""
    texts = {
        "read": field_texts.number(name, stored, quantity, limit),
        "write": field_texts.written_number(stored),
        "column": name,
    }
    return Field(name, label, stored, _number(stored, tolerance), words, tolerance, limit=limit, **{**texts, **more})


FIELDS: tuple[Field, ...] = (
    Field(
        "mode", "mode", "mode", _mode, _said, read=field_texts.mode, write=field_texts.written_text("mode"),
        column="mode", cost=KNOB,
    ),
    number_field(
        "cct", "white", "cct_k", _kelvin, 1.0, _WHITE, quantity="cct", read=field_texts.white(_WHITE), column="cct_k",
        also=("white",), caption="White dialled, K", example="5600, or empty as found", cost=KNOB,
    ),
    Field(
        "tint", "tint", "tint", _tint, _tint_words, read=field_texts.text_of("tint"),
        write=field_texts.written_text("tint"), column="tint", caption="Tint dialled", example="+2, ½ green", cost=KNOB,
    ),
    number_field(
        "hue", "hue", "hue_deg", _degrees("hue "), 0.5, _HUE, quantity="hue", also=("hue_deg",),
        caption="Hue dialled, degrees", example="240, of a coloured light", cost=KNOB,
    ),
    Field(
        "saturation", "saturation", "saturation_pct", _saturation, _saturation_words, 0.5, limit=_SATURATION,
        read=field_texts.number("saturation", "saturation_pct", "saturation", _SATURATION),
        write=field_texts.written_number("saturation_pct"), column="saturation", caption="Saturation dialled, %",
        example="100, of a coloured light", cost=KNOB,
    ),
    Field(
        "configuration", "on the lamp", "configuration", _configuration, _configuration_words,
        read=field_texts.configuration, write=field_texts.written_configuration, nothing="bare", column="configuration",
        also=("on", "modifier"), caption="On the lamp, in order", example="bare, or reflector + full blue gel",
        cost="modifier_s",
    ),
    text_field("zoom", "zoom", "zoom", caption="Zoom", example="flood, spot, 30°", cost="zoom_s"),
    number_field(
        "level", "level", "level_pct", _percent, 0.01, _LEVEL, quantity="level", column="dimmer_pct",
        also=("level_pct", "dimmer"), caption="Level, %", example="100", cost=KNOB,
    ),
    Field(
        "angle", "angle", "angle_deg", _angle, _angle_words, 0.5, limit=_ANGLE, read=field_texts.aside(_ANGLE, _TURN),
        write=field_texts.written_place, nothing="centre", column="position", also=("position",),
        caption="Off the beam axis, degrees", example="0", cost="aim_s",
    ),
    Field(
        "turn", "plane of the angle", "turn_deg", _turn, _turn_words, 0.5, limit=_TURN, read=field_texts.plane(_TURN),
        cost="aim_s",
    ),
    Field("placement", "placement", "placement", _placement, _placement_words),
    Field(
        "distance", "distance", "distance_m", _number("distance_m", 0.002), _distance_words, 0.002, limit=_DISTANCE,
        read=field_texts.distance(_DISTANCE), write=field_texts.written_distance, column="distance",
        caption="Distance to the reference plane", example="3 m, 10 ft, or equal", cost="distance_s",
    ),
    text_field(
        "plane", "reference plane", "reference_plane", _plane_words, column="reference_plane",
        also=("reference_plane",), caption="Measured from", example="front, yoke", spoken="reference plane",
    ),
    Field("meter", "meter", "", lambda reading: reading.meter_id, _said, column="meter"),
    Field("session", "session", "", lambda reading: reading.session_id, _said, column="session"),
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


# --- terms as texts


def texts_of(terms: Terms) -> dict[str, str]:
    """The text of every field that has one, all its digits; empty where there is nothing to say."""
    found = {one.name: (one.write(terms), one.nothing) for one in FIELDS if one.write is not None}
    return {name: "" if text == nothing else text for name, (text, nothing) in found.items()}


def shown_texts_of(terms: Terms, unit: str) -> dict[str, str]:
    """The same as a form shows it: distances in the user's unit, rounded as they are said, and the place of a meter
    that is shaded there."""
    place = off_axis.written(terms.angle_deg, terms.turn_deg)
    texts = {**texts_of(terms), "angle": "" if place == BY_NAME["angle"].nothing else place}
    if terms.distance_m is not None:
        texts["distance"] = notation.distance(terms.distance_m, unit).replace(notation.THIN_SPACE, "")
    return texts


def terms_of_texts(texts: Mapping[str, str], before: Terms, shown: Mapping[str, str] | None = None) -> Terms:
    """Terms by what texts of fields say otherwise than was `shown` of those before; all else is as it was, for a form
    shows fewer digits and fewer things than terms have. Raises `TermsError`, and `KeyError` for a field that there is
    not."""
    if strangers := texts.keys() - BY_NAME.keys():
        raise KeyError(*sorted(strangers))
    known = texts_of(before) if shown is None else shown
    terms = before
    for one in FIELDS:
        if one.read is not None and one.name in texts and texts[one.name] != known.get(one.name, ""):
            terms = replace(terms, **one.read(texts[one.name], terms))  # type: ignore[arg-type]
    return terms


def named(word: str) -> Field | None:
    """The field that is called so, in whichever of its names; None for what none is."""
    called = word.casefold()
    return next((one for one in FIELDS if called == one.name or called in one.also), None)
