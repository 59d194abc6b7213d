"""The terms that a line states: level, distance, white, angle, tint and hue, zoom and what sits on the lamp."""

import math
import re
from collections.abc import Iterable, Iterator
from dataclasses import replace

from even_beam.bench import off_axis, terms_in_words
from even_beam.bench.field_texts import FIXED, TermsError
from even_beam.bench.fields import FIELDS
from even_beam.bench.records import Terms
from even_beam.light.filters import correction_named
from even_beam.said import figures
from even_beam.said.figures import GEL_CAST
from even_beam.said.meaning import GROUPED, PLAIN, STRANGE, Meaning, Proposer, Stretch, Whole, refusal, term
from even_beam.said.situation import Situation
from even_beam.words import notation
from even_beam.words.entry import parse

_BEGIN_SOMETHING = frozenset({"with", "at", "dial", "dialled", "set", "read", "and", "zoom", "tint", "hue", "iso"})

ZOOMS = frozenset({"flood", "spot", "wide", "medium", "mid", "tight", "narrow"})
"""Names of a zoom that anybody understands; those of the logbook are understood beside them."""

FITTINGS = frozenset({
    "reflector", "dish", "softbox", "umbrella", "lantern", "fresnel", "lens", "grid", "honeycomb", "doors",
    "barn doors", "snoot", "diffuser", "frost", "silk",
})  # fmt: skip
"""What sits on lamps by names that anybody understands; those of the logbook are understood beside them."""

LEVEL_SCALES = (255.0, 100.0, 1023.0, 1000.0, 65535.0)
"""Ends of the scales that lamps show instead of per cent."""

SAME_HUE_DEG = 30.0
"""A hue no farther from what is dialled may well be the one that was read (common practice, no source)."""

_SET = r"(?:(?:at|dial|dialled|set|set to)\s+)?"
_PERCENT = re.compile(rf"{_SET}(\d{{1,3}}(?:[.,]\d{{1,2}})?)\s*(?:%|percent|per cent)")
_DIMMER = re.compile(
    r"(?:dimmer|dim|level|dimmed)(?:\s+(?:to|at))?\s+(\d{1,3}(?:[.,]\d{1,2})?)\s*(?:%|percent|per cent)?"
)
_POWERS = {"half power": 50.0, "quarter power": 25.0, "eighth power": 12.5}
_SCALE = re.compile(rf"{_SET}(\d{{1,5}})\s*/\s*(\d{{2,5}})")
_DISTANCE = re.compile(
    r"(?:at|@)?\s*(\d{1,4}(?:[.,]\d{1,3})?\s*(?:(?:ft|foot|feet|')\s*\d{1,2}(?:\.\d)?\s*(?:\"|in|inches)"
    r"|'\d{1,2}|m|metres?|cm|ft|foot|feet|'))"
)
_DIAL = re.compile(r"(?:dial|dialled|set|set to)\s+(\d{2,6}|\d{1,2}[ ,]\d{3})\s*k?")
_DIALLED_BEHIND = re.compile(r"(\d{4,6}|\d{1,2}[ ,]\d{3})\s*(?:k\s*)?(?:d|dial|dialled|set)")
_AT_KELVIN = re.compile(r"at\s+(\d{4,6})\s*k?")
_NUMBER = re.compile(r"[+-]?\d.*")
_BESIDE = re.compile(r"(.+?)\s+(?:to the\s+)?(left|right|up|down)")
_PLANE = re.compile(r"(?:in the )?(?:plane (?:of )?(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees)?|upright plane)")
_TINT = re.compile(rf"{_SET}tint\s*(?:(minus|plus)\s+)?([+-]?\d{{1,3}}(?:\.\d)?)")
_SATURATION = re.compile(r"((?:dial|dialled|set|set to)\s+)?(?:sat|saturation)\s*(\d{1,3}(?:\.\d)?)\s*%?(\s+dialled)?")
_HUE = re.compile(r"((?:dial|dialled|set|set to)\s+)?hue\s*(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees)?(\s+dialled)?")
_DEGREES = re.compile(r"(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees)")
_ZOOM = re.compile(r"zoom(?:ed)?(?:\s+(?:to|at))?\s+(.+)|(.+?)\s+zoom")
_ZOOM_NUMBER = re.compile(r"(\d{1,3}(?:\.\d)?)\s*(°|deg|degrees|%)?")
_GEL = re.compile(r"(?:(?:full|half|quarter|eighth|1/2|1/4|1/8)\s+)?(?:cto|ctb|cts|plus green|minus green|diffusion)")
_TAKEN_OFF = re.compile(r"(?:no|without(?: the| a| any)?)\s+(.+)|nothing on (?:it|the lamp)")
_ANYTHING = frozenset({"modifier", "modifiers", "anything"})
_NO_DIAL = frozenset({"no dial", "fixed white", "no white dial"})


def _level(stretch: Stretch) -> Iterable[Meaning]:
    words = stretch.words.lower()
    if words in {"full", "at full", "full power"}:
        yield term(words, "100 %", level_pct=100.0)
    elif words in _POWERS:
        yield term(words, f"{notation.percent(_POWERS[words])} %", level_pct=_POWERS[words])
    elif match := _DIMMER.fullmatch(words):
        value = float(match[1].replace(",", "."))
        yield term(words, f"{notation.percent(value)} %", level_pct=value)
    elif match := _PERCENT.fullmatch(words):
        value = float(match[1].replace(",", "."))
        if "saturation" in stretch.situation.asked:
            yield figures.colour_read("saturation", match[1], stretch.words)
        yield replace(term(f"set {value:g} %" if "saturation" in stretch.situation.asked else words,
                           f"{notation.percent(value)} %", level_pct=value), letter="l")  # fmt: skip
    elif (match := _SCALE.fullmatch(words)) and float(match[2]) in LEVEL_SCALES:
        value = 100.0 * float(match[1]) / float(match[2])
        yield term(words, f"{match[1]}/{match[2]} = {notation.percent(value)} %", level_pct=round(value, 2))


def _distance(stretch: Stretch) -> Iterable[Meaning]:
    match = _DISTANCE.fullmatch(stretch.words)  # 4M is CC: a distance is never written with a capital
    if match is None:
        return
    metres = parse(match[1].replace(",", "."), "distance").middle
    if metres <= 0.0:
        yield refusal(stretch.words, f"“{stretch.words}” is not a distance")
    else:
        said = f"at {notation.distance(metres)}"
        yield term(stretch.words, said, distance_m=metres, placement="on axis")


def dialled(white: float, text: str = "", **more: object) -> Meaning:
    """A white that was dialled."""
    said = term(text or f"dial {white:g}", f"dialled {notation.dialled(white)} K", cct_k=white, mode="CCT")
    return replace(said, **more)  # type: ignore[arg-type]


def _white(stretch: Stretch) -> Iterable[Meaning]:
    """A dial goes with the number after it, and with the one before only where none follows."""
    words = stretch.words.lower()
    match = _DIAL.fullmatch(words)
    if match is None and not _NUMBER.fullmatch(stretch.behind):
        match = _DIALLED_BEHIND.fullmatch(words)
    if match is not None:
        value = float(re.sub(r"[ ,]", "", match[1]))
        yield _hue_dialled(value) if _is_hue(value, stretch.situation) else dialled(value, words)
    elif words in _NO_DIAL:
        yield term(words, "no dial for white", cct_k=None, mode=FIXED)


_WHITE = re.compile(r"(\d{4,6}|\d{1,2}[ ,]\d{3})\s*k?")
_LEVEL = re.compile(r"\d{1,3}(?:[.,]\d{1,2})?")


def _setting_alone(stretch: Stretch) -> Iterable[Meaning]:
    """Where only settings are said a number is one: 33 a level, 4400 K a white."""
    words = stretch.words.lower()
    if not stretch.situation.settings_alone:
        return
    if match := _WHITE.fullmatch(words):
        yield dialled(float(re.sub(r"[ ,]", "", match[1])))
    elif _LEVEL.fullmatch(words):
        value = float(words.replace(",", "."))
        yield term(f"{value:g} %", f"{notation.percent(value)} %", level_pct=value)


def _at_kelvin(stretch: Stretch) -> Iterable[Meaning]:
    """`820 at 5600 K`: most say so what is dialled, some what was read."""
    match = _AT_KELVIN.fullmatch(stretch.words.lower())
    if match is None:
        return
    white = float(match[1])
    if white != stretch.situation.terms.cct_k:
        entry = parse(f"{white:.0f} K")
        yield Meaning(f"{white:.0f} K", f"{entry.written} read", entry=entry, letter="k")
    yield dialled(white, letter="d")


def _aside(stretch: Stretch) -> Iterable[Meaning]:
    """`1 ft right` is an angle by the distance; degrees are one as they stand, right and up positive."""
    words = stretch.words.lower()
    if match := _PLANE.fullmatch(words):
        turn = float(match[1] or off_axis.UPRIGHT_DEG)
        yield term(words, off_axis.plane_words(turn) or "in the level plane", turn_deg=turn)
        return
    aside = off_axis.understood(words, bare=False)
    if aside is None and (match := _BESIDE.fullmatch(words)) and (away := _DISTANCE.fullmatch(match[1])):
        yield _beside(words, parse(away[1], "distance").middle, match[2])
    elif aside is not None:
        yield Meaning(words, words, settle=lambda whole: _angle(words, aside, whole.here), least=PLAIN)


def _beside(words: str, away_m: float, to: str) -> Meaning:
    sign, turn = off_axis.side(to)

    def settled(whole: Whole) -> Meaning | None:
        here = whole.here
        if here.distance_m is None:
            return refusal(words, f"“{words}” is an angle by the distance, which is not known yet: say 3 m first")
        angle = sign * round(math.degrees(math.atan(away_m / here.distance_m)), 1)
        said = f"{words} at {notation.distance(here.distance_m)}: "
        return _angle(words, off_axis.Aside(angle, turn), here, said)

    return Meaning(words, words, settle=settled, least=PLAIN)


def _angle(words: str, aside: off_axis.Aside, here: Terms, said: str = "") -> Meaning | None:
    """An angle in the plane it names or the one at hand; of a coloured light degrees alone are a hue."""
    if aside.turn_deg is None and aside.angle_deg != 0.0 and here.hue_deg is not None:
        return None
    turn = {} if aside.turn_deg is None else {"turn_deg": aside.turn_deg}
    there = replace(here, angle_deg=aside.angle_deg, turn_deg=turn.get("turn_deg", here.turn_deg))
    return term(words, f"{said}{terms_in_words.axis(there)}", angle_deg=aside.angle_deg, **turn)


def _colour(stretch: Stretch) -> Iterable[Meaning]:
    """A tint dial; a hue and a saturation, which are dialled or read."""
    words, situation = stretch.words.lower().replace("−", "-"), stretch.situation
    if match := _TINT.fullmatch(words):
        tint = {"minus": "-", "plus": "+"}.get(match[1] or "", "") + match[2]
        yield term(words, f"tint {tint}", tint=tint)
    elif match := _SATURATION.fullmatch(words):
        yield from _saturation_of(match, stretch)
    elif match := _HUE.fullmatch(words):
        yield from _hue_of(match, stretch)
    elif (match := _DEGREES.fullmatch(words)) and ("hue" in situation.asked or situation.terms.hue_deg is not None):
        yield figures.colour_read("hue", match[1], stretch.words)


def _saturation_of(match: re.Match[str], stretch: Stretch) -> Iterator[Meaning]:
    """Where a hue is dialled or asked a saturation may have been read; nothing takes the place of the dialled one."""
    situation, value = stretch.situation, float(match[2])
    is_set = bool(match[1] or match[3]) or situation.settings_alone
    of_colour = situation.terms.hue_deg is not None
    if not is_set and ("saturation" in situation.asked or of_colour):
        yield _as_the_hue(figures.colour_read("saturation", match[2], stretch.words))
    if is_set or not situation.firm or "saturation" not in situation.asked:
        said = f"saturation {match[2]} %{' dialled' if of_colour else ''}"
        set_to = replace(term(f"set saturation {match[2]}", said, saturation_pct=value), letter="d")
        yield set_to if is_set else _as_the_hue(set_to)


def _as_the_hue(meaning: Meaning) -> Meaning:
    """A saturation that goes with the hue of its line: read where that was read, dialled where that was."""

    def settled(whole: Whole) -> Meaning:
        is_read = meaning.entry is not None
        other_way = "hue" in whole.read if not is_read else "hue" not in whole.read and "hue_deg" in whole.states
        return replace(meaning, cost=meaning.cost + GROUPED * other_way, settle=None)

    return replace(meaning, settle=settled, least=meaning.cost)


def _hue_of(match: re.Match[str], stretch: Stretch) -> Iterator[Meaning]:
    situation, value = stretch.situation, float(match[2])
    standing, is_set = situation.terms.hue_deg, bool(match[1] or match[3]) or situation.settings_alone
    may_be_read = not is_set and ("hue" in situation.asked or standing is not None)
    if may_be_read:
        yield figures.colour_read("hue", match[2], stretch.words)
    near = standing is not None and abs((value - standing + 180.0) % 360.0 - 180.0) <= SAME_HUE_DEG
    if is_set or not (may_be_read and (situation.firm or near)):
        yield _hue_dialled(value, " dialled" if may_be_read else "")


def _hue_dialled(value: float, more: str = " dialled") -> Meaning:
    said = f"hue {notation.plain(value)}°{more}"
    return replace(term(f"set hue {value:g}", said, hue_deg=value, mode="HSI", cct_k=None), letter="d")


def _is_hue(value: float, situation: Situation) -> bool:
    return situation.terms.hue_deg is not None and value <= 360.0


def _optics(stretch: Stretch) -> Iterable[Meaning]:
    """A zoom by its name, or what sits on the lamp: `dish + full CTO`, `bare`."""
    words, situation = stretch.words.lower(), stretch.situation
    before_a_number = words.endswith(" zoom") and _NUMBER.fullmatch(stretch.behind)
    zoom = None if before_a_number else _zoom(words.removeprefix("with "), situation.zooms)
    if zoom is not None:
        said = term(words, terms_in_words.zoom(replace(situation.terms, zoom=zoom)), zoom=zoom)
        yield replace(said, cost=said.cost + PLAIN * words.startswith("with "))
    elif words == "bare":
        yield term(words, "bare", configuration=())
    yield from _fitted(stretch)
    yield from _taken_off(stretch)


def _taken_off(stretch: Stretch) -> Iterator[Meaning]:
    """`no gel`, `without the reflector`, `nothing on it`: what sat on the lamp without it."""
    words, standing = stretch.words.lower(), stretch.situation.terms.configuration
    match = _TAKEN_OFF.fullmatch(words)
    if match is None:
        return
    what = match[1] or "anything"
    if what in {"zoom", "tint"}:
        yield term(words, f"{what} not touched", **{what: ""})
        return
    known = {name.casefold() for name in (*stretch.situation.fitted, *standing)}
    if what not in _ANYTHING | FITTINGS | known | {"gel", "gels"} and not _is_gel(what):
        return
    gone = [name for name in standing if what in _ANYTHING or _goes_by(name.casefold(), what)]
    left = tuple(name for name in standing if name not in gone)
    if standing and not gone and what in {"gel", "gels"}:
        shown = " + ".join(standing)
        yield refusal(words, f"“{words}”: which of {shown} is the gel? Say what sits on the lamp, or bare")
    else:
        yield term(words, " + ".join(left) or "bare", configuration=left)


def _goes_by(name: str, what: str) -> bool:
    """Whether something on a lamp is what a word says: by its name, as the gel it is, or by the last word of it."""
    return (
        name == what
        or (what in {"gel", "gels"} and (_is_gel(name) or "gel" in name.split()))
        or name.endswith(f" {what}")
    )


def _fitted(stretch: Stretch) -> Iterator[Meaning]:
    """What sits on the lamp; a name that nothing knows is said behind `with`, and told to be new."""
    known = {name.casefold(): name for name in stretch.situation.fitted}
    has_with = stretch.words.lower().startswith("with ")
    parts = [part.strip() for part in stretch.words[5 * has_with :].split(" + ")]
    names, shown, cost = [], [], PLAIN
    for part in parts:
        words = part.lower()
        if words in known or words in FITTINGS or _is_gel(words):
            names.append(known.get(words) or re.sub(r"\bct[obs]\b", lambda m: m[0].upper(), words))
            shown.append(names[-1])
        elif has_with and part and all(_may_name(word) for word in part.split()):
            names.append(part)
            shown.append(f"{part} (new)")
            cost += _strangeness(words)
        else:
            return
    said = term(stretch.words, " + ".join(shown), configuration=tuple(names))
    yield said if said.refused else replace(said, cost=cost)


def _strangeness(name: str) -> float:
    """What speaks against a new name: each word, less where they only say which lens or dish it is."""
    *first, last = name.split()
    return 0.5 * len(first) if first and last in FITTINGS else STRANGE * (len(first) + 1)


def _may_name(word: str) -> bool:
    """Whether a word may stand in a name that is new: one that begins with a letter, and begins nothing else."""
    return word[:1].isalpha() and word.lower() not in _BEGIN_SOMETHING


def _zoom(words: str, known: frozenset[str]) -> str | None:
    """A zoom by a name that is known, alone or behind the word; behind it as well by the number on its scale."""
    names = {zoom.casefold(): zoom for zoom in (*ZOOMS, *known)}
    name = words.removeprefix("full ")
    if name in names and not name[:1].isdigit():
        return names[name]
    match = _ZOOM.fullmatch(words)
    if match is None:
        return None
    said = match[1] or match[2]
    if said in names:
        return names[said]
    number = _ZOOM_NUMBER.fullmatch(said)
    if number is None:
        return None
    unit = "°" if number[2] in {"°", "deg", "degrees"} else " %" if number[2] == "%" else ""
    return names.get(f"{number[1]}°", number[1]) if not unit else f"{number[1]}{unit}"


def _is_gel(words: str) -> bool:
    """Whether it is a gel by its name; `half green` alone is a cast that a meter shows."""
    known = correction_named(words) is not None and not GEL_CAST.fullmatch(words)
    return known or _GEL.fullmatch(words) is not None


def _by_its_word(stretch: Stretch) -> Iterable[Meaning]:
    """A term behind its own word: `reference plane yoke`."""
    for field in SPOKEN:
        word, text = stretch.words[: len(field.spoken)], stretch.words[len(field.spoken) :]
        if word.casefold() != field.spoken or not text[:1].isspace() or field.read is None:
            continue
        try:
            changes = field.read(text.strip(), stretch.situation.terms)
        except TermsError as error:
            yield refusal(stretch.words, str(error))
            return
        said = term(stretch.words, f"{field.spoken} {text.strip()}", **changes)
        yield replace(said, cost=PLAIN + (STRANGE + PLAIN) * (len(text.split()) - 1) if not said.refused else said.cost)


def _lamp(stretch: Stretch) -> Iterable[Meaning]:
    """A lamp by its name: what the line says is of it."""
    words = stretch.words.casefold()
    for name, source_id in stretch.situation.lamps.items():
        if words == name.casefold():
            yield Meaning(name, name, lamp=source_id, letter="n")


SPOKEN = tuple(one for one in FIELDS if one.spoken)

PROPOSERS: tuple[Proposer, ...] = (
    _by_its_word, _lamp, _level, _distance, _white, _setting_alone, _at_kelvin, _aside, _colour, _optics,
)  # fmt: skip
"""Who may know a stretch as a term; all of them are heard."""
