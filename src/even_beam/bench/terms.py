"""The one home of sameness: when two readings are at the same terms, and what terms are called in a line.

Two readings are at the same terms when every field (`bench.fields`) is the same for both. What was not stated is not
different: it is `UNSTATED`, and said.
"""

from collections.abc import Callable, Hashable, Iterable, Mapping, Sequence
from dataclasses import replace
from functools import cache
from operator import itemgetter

from even_beam.bench import fields, terms_in_words
from even_beam.bench.fields import BY_NAME, BY_STORED, FIELDS, NAMES, PLACE_OF, UNSTATED, Key
from even_beam.bench.measured import Measured
from even_beam.bench.records import Terms

SETTING = ("mode", "cct", "tint", "hue", "saturation", "level")
"""What is dialled and draws power: neither optics nor the meter's place matter to it."""

READ = tuple(one.name for one in FIELDS if not one.stored)
"""What no terms hold, but the reading itself: meter and session."""

PLACE = ("distance", "placement", "plane", "angle", "turn")
"""Where the meter stands."""


def key(measured: Measured, *ignoring: str) -> Key:
    """What must be equal for two readings to be at the same terms, but for the fields named.

    A field ignored is an axis of the figure that ignores it. Raises `KeyError` for a field that there is not.
    """
    return _chosen(ignoring)(measured.key) if ignoring else measured.key


def choosing(*ignoring: str) -> Callable[[Key], Key]:
    """What `key` makes of the whole key of a reading, for those who look at thousands."""
    return _chosen(ignoring)


@cache
def parts_but(*ignoring: str) -> tuple[slice, ...]:
    """The parts of a key that are left without the fields named, the last first: the session, which stands last, tells
    most of thousands of readings apart."""
    places = sorted(PLACE_OF[name] for name in {*ignoring})
    starts, ends = [0, *(place + 1 for place in places)], [*places, len(FIELDS)]
    parts = [slice(start, end) for start, end in zip(starts, ends, strict=True) if start < end]
    return tuple(reversed(parts))


@cache
def _chosen(ignoring: tuple[str, ...]) -> Callable[[Key], Key]:
    for name in ignoring:
        if name not in BY_NAME:
            raise KeyError(name)
    if not ignoring:
        return lambda whole: whole
    places = [place for place, one in enumerate(FIELDS) if one.name not in ignoring]
    return itemgetter(*places) if len(places) > 1 else lambda whole: tuple(whole[place] for place in places)


def stated(terms: Terms, *ignoring: str) -> Key:
    """What must be equal of terms that nobody has read at yet: the fields of `Terms` but for those named. Of a reading
    it is `key`, with `READ` ignored as well."""
    return _chosen((*ignoring, *READ))((*fields.key_of_terms(terms), *(UNSTATED for _ in READ)))


def value_of(stored: str, given: object) -> Hashable:
    """A value of a field of `Terms` as it is compared."""
    terms = replace(Terms(angle_deg=1.0), **{stored: given})  # type: ignore[arg-type]  # aside, where planes differ
    return fields.key_of_terms(terms)[PLACE_OF[BY_STORED[stored]]]


def value(measured: Measured, name: str) -> Hashable:
    """A field as it is compared; `UNSTATED` when nobody stated it."""
    return measured.key[PLACE_OF[name]]


def differing(ours: Measured, theirs: Measured, *ignoring: str) -> tuple[str, ...]:
    """The fields in which two readings differ; one that either did not state is not among them."""
    return tuple(
        one.name
        for one, a, b in zip(FIELDS, ours.key, theirs.key, strict=True)
        if a != b and a is not UNSTATED and b is not UNSTATED and one.name not in ignoring
    )


def unstated(measured: Measured) -> tuple[str, ...]:
    """What was not stated of a reading and matters to its figures: its level, its distance, its meter."""
    terms = measured.terms
    missing = {
        "level": terms.level_pct is None,
        "distance": terms.distance_m is None and terms.placement != "equal",
        "meter": measured.reading.meter_id is None,
    }
    return tuple(name for name, is_missing in missing.items() if is_missing)


def grouped(readings: Iterable[Measured], *ignoring: str) -> dict[Key, list[Measured]]:
    """Readings by their terms but for the fields named, in the order of their first occurrence."""
    choose = _chosen(ignoring)
    found: dict[Key, list[Measured]] = {}
    for measured in readings:
        found.setdefault(choose(measured.key), []).append(measured)
    return found


def by_value_of(readings: Iterable[Measured], of: Callable[[Measured], Hashable]) -> dict[Hashable, list[Measured]]:
    """Readings by whatever is asked of each, in the order of their first occurrence."""
    found: dict[Hashable, list[Measured]] = {}
    for measured in readings:
        found.setdefault(of(measured), []).append(measured)
    return found


def by_value(readings: Iterable[Measured], name: str) -> dict[Hashable, list[Measured]]:
    """Readings by one field, in the order of their first occurrence."""
    place = PLACE_OF[name]
    return by_value_of(readings, lambda measured: measured.key[place])


def varying(readings: Sequence[Measured]) -> frozenset[str]:
    """The fields that are not the same for all of some readings."""
    return frozenset(name for name in NAMES if len({value(m, name) for m in readings}) > 1)


def words(measured: Measured, *but: str, names: Mapping[str, str] | None = None) -> str:
    """The terms of a reading in a line, those named in `but` left out.

    Meter and session are said only through `names`, which gives those of their ids.
    """
    return with_names(said_of(measured.terms, *but), measured, *but, names=names or {})


def said_of(terms: Terms, *but: str) -> str:
    """Terms alone in a line, those named in `but` left out: the same for all readings at them."""
    said = {**_SAID, **_WITHOUT_A_WHITE} if "cct" in but else _SAID
    texts = [say(terms) for name, say in said.items() if name not in but]
    return " · ".join(text for text in texts if text)


def with_names(said: str, measured: Measured, *but: str, names: Mapping[str, str]) -> str:
    """A line of terms with meter and session of a reading, as far as `names` says them."""
    texts = [said]
    texts += [names.get(measured.reading.meter_id or "", "")] if "meter" not in but else []
    texts += [names.get(measured.reading.session_id, "")] if "session" not in but else []
    return " · ".join(text for text in texts if text)


def value_words(measured: Measured, name: str, names: Mapping[str, str] | None = None) -> str:
    """What a reading's value of one field is called; a zoom and what sits on a lamp as they were written.

    Meter and session go by `names`, which gives those of their ids. Empty for what goes without saying, as on axis.
    """
    found = value(measured, name)
    if name in {"meter", "session"}:
        return (names or {}).get(str(found), "meter not named" if name == "meter" else "")
    if name == "zoom":
        return terms_in_words.zoom(measured.terms)
    return terms_in_words.configuration(measured.terms) if name == "configuration" else BY_NAME[name].words(found)


def _distance_words(terms: Terms) -> str:
    return terms_in_words.placement(terms) if terms.distance_m is not None or terms.placement == "equal" else ""


def _field_words(name: str) -> Callable[[Terms], str]:
    return lambda terms: BY_NAME[name].words(fields.key_of_terms(terms)[PLACE_OF[name]])


def _mode_words(terms: Terms) -> str:
    """A mode that the white does not say: one beside a white or a hue."""
    has_white = terms.cct_k is not None or terms.hue_deg is not None
    return terms.mode if has_white and fields.plain(terms.mode) not in _GO_WITHOUT_SAYING else ""


_GO_WITHOUT_SAYING = frozenset({"cct", "fixed", "hsi", "off", ""})
"""Modes that white and hue say, and the lamp that is off."""


def _beside_the_white(name: str) -> Callable[[Terms], str]:
    """A tint or a hue where no white stands before it that says it."""

    def words_(terms: Terms) -> str:
        told_by_white = terms.cct_k is not None if name == "tint" else terms.cct_k is None
        return "" if told_by_white else _field_words(name)(terms)

    return words_


_SAID_SPECIALLY: Mapping[str, Callable[[Terms], str]] = {
    "configuration": terms_in_words.configuration,
    "cct": terms_in_words.stated_white,
    "zoom": terms_in_words.zoom,
    "level": lambda terms: terms_in_words.level(terms) if terms.level_pct is not None else "",
    "distance": _distance_words,
    "angle": _field_words("angle"),
    "turn": _field_words("turn"),
    "placement": lambda terms: _field_words("placement")(terms) if terms.placement != "equal" else "",
    "plane": _field_words("plane"),
    "saturation": _field_words("saturation"),
    "mode": _mode_words,
    "tint": _beside_the_white("tint"),
    "hue": _beside_the_white("hue"),
}
_SAID: Mapping[str, Callable[[Terms], str]] = {
    **_SAID_SPECIALLY,
    **{name: _field_words(name) for name in NAMES if name not in {*_SAID_SPECIALLY, *READ}},
}
"""How each field of terms is said in a line, in the order of the line; empty where there is nothing to say. A field
that nobody words better is said by its own words."""

_WITHOUT_A_WHITE: Mapping[str, Callable[[Terms], str]] = {name: _field_words(name) for name in ("tint", "hue")}
"""What the white says beside itself, where the white is what differs and is not said."""


def terms_line(terms: Terms, unit: str | None = None) -> str:
    """Terms in one line with what was not stated of white, level and place, distances in a unit."""
    special = {
        "cct": terms_in_words.white(terms),
        "level": terms_in_words.level(terms),
        "distance": terms_in_words.placement(terms, unit),
        "angle": terms_in_words.axis(terms),
    }
    left_out = {"turn", "placement"}  # said with the axis and the distance
    texts = [special.get(name) or say(terms) for name, say in _SAID.items() if name not in left_out]
    return " · ".join(text for text in texts if text)


def said_beside(terms: Terms) -> list[tuple[str, str]]:
    """What is dialled or stands beside white, zoom, level and place, by the fields of `Terms`: a saturation, and every
    field that has no place of its own in a line."""
    names = ["saturation", "mode", "tint", "hue", *(name for name in _SAID if name not in _SAID_SPECIALLY)]
    return [(BY_NAME[name].stored, words) for name in names if (words := _SAID[name](terms))]
