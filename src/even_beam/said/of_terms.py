"""The terms that a line states: level, distance, white, angle, tint and hue, zoom and what sits on the lamp."""

import math
import re
from dataclasses import replace

from even_beam.bench import off_axis, terms_in_words
from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import FIELDS
from even_beam.light.filters import correction_named
from even_beam.said.line import Line, Taker
from even_beam.said.of_figures import GEL_CAST
from even_beam.words import notation
from even_beam.words.entry import Entry, EntryError, parse

ZOOMS = frozenset({"flood", "spot", "wide", "medium", "mid", "tight", "narrow"})
"""Names of a zoom that anybody understands; those of the logbook are understood beside them."""

FITTINGS = frozenset({
    "reflector", "dish", "softbox", "umbrella", "lantern", "fresnel", "lens", "grid", "honeycomb", "doors",
    "barn doors", "snoot", "diffuser", "frost", "silk",
})  # fmt: skip
"""What sits on lamps by names that anybody understands; those of the logbook are understood beside them."""

LEVEL_SCALES = (255.0, 100.0, 1023.0, 1000.0, 65535.0)
"""Ends of the scales that lamps show instead of per cent."""

_PERCENT = re.compile(r"(?:at\s+)?(\d{1,3}(?:[.,]\d{1,2})?)\s*(?:%|percent|per cent)")
_SCALE = re.compile(r"(?:at\s+)?(\d{1,5})\s*/\s*(\d{2,5})")
_DISTANCE = re.compile(
    r"(?:at|@)?\s*(\d{1,4}(?:[.,]\d{1,3})?\s*(?:(?:ft|foot|feet|')\s*\d{1,2}(?:\.\d)?\s*(?:\"|in|inches)"
    r"|'\d{1,2}|m|metres?|cm|ft|foot|feet|'))"
)
_DIAL = re.compile(r"(?:dial|dialled|set|set to)\s+(\d{2,6})\s*k?|(\d{4,5})\s*(?:k\s+)?(?:d|dialled|dial)")
_BESIDE = re.compile(r"(.+?)\s+(?:to the\s+)?(left|right|up|down)")
_PLANE = re.compile(r"(?:in the )?(?:plane (?:of )?(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees)?|upright plane)")
_TINT = re.compile(r"tint\s*([+-]?\d{1,3}(?:\.\d)?)")
_SATURATION = re.compile(r"(?:sat|saturation)\s*(\d{1,3}(?:\.\d)?)\s*%?")
_HUE = re.compile(r"(?:hue)\s*(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees)?|(\d{1,3}(?:\.\d)?)\s*°")
_ZOOM = re.compile(r"zoom(?:ed)?(?:\s+(?:to|at))?\s+(.+)|(.+?)\s+zoom")
_ZOOM_NUMBER = re.compile(r"(\d{1,3}(?:\.\d)?)\s*(°|deg|degrees|%)?")
_GEL = re.compile(r"(?:(?:full|half|quarter|eighth|1/2|1/4|1/8)\s+)?(?:cto|ctb|cts|plus green|minus green|diffusion)")


def _level(piece: str, line: Line) -> bool:
    words = piece.lower()
    if words in {"full", "at full", "full power"}:
        line.set("level_pct", 100.0, "100 %")
        return True
    if match := _PERCENT.fullmatch(words):
        value = float(match[1].replace(",", "."))
        line.set("level_pct", value, f"{notation.percent(value)} %")
        return True
    match = _SCALE.fullmatch(words)
    if match is None or float(match[2]) not in LEVEL_SCALES:
        return False
    value = 100.0 * float(match[1]) / float(match[2])
    line.set("level_pct", round(value, 2), f"{match[1]}/{match[2]} = {notation.percent(value)} %")
    return True


def _distance(piece: str, line: Line) -> bool:
    match = _DISTANCE.fullmatch(piece)  # 4M is CC: a distance is never written with a capital
    if match is None:
        return False
    metres = parse(match[1].replace(",", "."), "distance").middle
    if metres <= 0.0:
        raise EntryError(f"“{piece}” is not a distance")
    line.set("distance_m", metres, f"at {notation.distance(metres)}")
    line.terms["placement"] = "on axis"
    return True


def _white(piece: str, line: Line) -> bool:
    match = _DIAL.fullmatch(piece.lower())
    if match is None:
        return False
    white = float(match[1] or match[2])
    line.set("cct_k", white, f"dialled {notation.dialled(white)} K")
    line.terms["mode"] = "CCT"
    return True


def _aside(piece: str, line: Line) -> bool:
    """`1 ft right` is an angle by the distance; degrees are one as they stand, right and up positive."""
    words = piece.lower()
    if match := _PLANE.fullmatch(words):
        turn = float(match[1] or off_axis.UPRIGHT_DEG)
        line.set("turn_deg", turn, off_axis.plane_words(turn) or "in the level plane")
        return True
    aside, said = off_axis.understood(words, bare=False), ""
    if aside is None and (match := _BESIDE.fullmatch(words)) and (away := _DISTANCE.fullmatch(match[1])):
        here = line.here.distance_m
        if here is None:
            raise EntryError(f"“{piece}” is an angle by the distance, which is not known yet: say 3 m first")
        sign, turn = off_axis.side(match[2])
        angle = sign * round(math.degrees(math.atan(parse(away[1], "distance").middle / here)), 1)
        aside, said = off_axis.Aside(angle, turn), f"{piece} at {notation.distance(here)}: "
    if aside is None or (aside.turn_deg is None and aside.angle_deg != 0.0 and line.here.hue_deg is not None):
        return False  # of a coloured light degrees alone are a hue
    if aside.turn_deg is not None:
        line.terms["turn_deg"] = aside.turn_deg
    there = replace(line.here, angle_deg=aside.angle_deg)
    line.set("angle_deg", aside.angle_deg, f"{said}{terms_in_words.axis(there)}")
    return True


def _colour(piece: str, line: Line) -> bool:
    """A tint dial, a saturation, a hue that is not what is read."""
    words = piece.lower().replace("−", "-")
    if match := _TINT.fullmatch(words):
        line.set("tint", match[1], f"tint {match[1]}")
        return True
    if (match := _SATURATION.fullmatch(words)) and "saturation" not in line.open:
        line.set("saturation_pct", float(match[1]), f"saturation {match[1]} %")
        return True
    match = _HUE.fullmatch(words)
    if match is None:
        return False
    hue = float(match[1] or match[2])
    if "hue" in line.open or line.here.hue_deg is not None:
        line.add(Entry(piece, hue, "°", "hue", written=f"hue {notation.plain(hue)}°"))
        return True
    if match[1] is None:
        return False
    line.set("hue_deg", hue, f"hue {notation.plain(hue)}°")
    line.terms |= {"mode": "HSI", "cct_k": None}
    return True


def _optics(piece: str, line: Line) -> bool:
    """A zoom by its name, or what sits on the lamp: `dish + full CTO`, `bare`."""
    words = piece.lower()
    zoom = _zoom(words, line.situation.zooms)
    if zoom is not None:
        line.set("zoom", zoom, terms_in_words.zoom(replace(line.here, zoom=zoom)))
        return True
    if words == "bare":
        line.set("configuration", (), "bare")
        return True
    known = {name.casefold(): name for name in line.situation.fitted}
    named = words.removeprefix("with ").strip()
    parts = [part.strip() for part in named.split("+")]
    are_known = all(part in known or part in FITTINGS or _is_gel(part) for part in parts)
    if not all(parts) or not (are_known or words.startswith("with ")):
        return False
    fitted = tuple(known.get(part) or re.sub(r"\bct[obs]\b", lambda m: m[0].upper(), part) for part in parts)
    line.set("configuration", fitted, " + ".join(fitted))
    return True


def _zoom(words: str, known: frozenset[str]) -> str | None:
    """A zoom by a name that is known, alone or behind the word; behind it as well by the number on its scale."""
    names = {zoom.casefold(): zoom for zoom in (*ZOOMS, *known)}
    name = words.removeprefix("full ")
    if name in names:
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


def _by_its_word(piece: str, line: Line) -> bool:
    """A term behind its own word: `reference plane yoke`."""
    for field in SPOKEN:
        word, text = piece[: len(field.spoken)], piece[len(field.spoken) :]
        if word.casefold() != field.spoken or not text[:1].isspace() or field.read is None:
            continue
        try:
            changes = field.read(text.strip(), line.here)
        except TermsError as error:
            raise EntryError(str(error)) from error
        for stored, value in changes.items():
            line.set(stored, value, f"{field.spoken} {text.strip()}")
        return True
    return False


SPOKEN = tuple(one for one in FIELDS if one.spoken)

TAKERS: tuple[Taker, ...] = (_by_its_word, _level, _distance, _white, _aside, _colour, _optics)
"""Who may understand a piece as a term, in this order."""
