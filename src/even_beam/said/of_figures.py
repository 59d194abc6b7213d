"""Figures that need more than a number and a unit: casts, whites by how far off they are, CRI, and what f-numbers
stand for."""

import re
from dataclasses import replace

from even_beam.bench.exposure import HEADS, ExposureError, shutter_of
from even_beam.said.line import AskedError, Choice, Line, Taker, is_bare
from even_beam.words import notation
from even_beam.words.entry import Entry, EntryError, parse
from even_beam.words.quantities import QUANTITIES, score_names

FULL_GEL_CC = 30.0
"""Full plus or minus green in CC; a half is 15 and so on (common practice, no source)."""

_CC = re.compile(r"([+-]?\d{1,2}(?:\.\d)?)\s*([MG])|([MG])\s*(\d{1,2}(?:\.\d)?)|(\d{1,2}(?:\.\d)?)\s+(magenta|green)")
GEL_CAST = re.compile(r"(full|half|quarter|eighth|1/2|1/4|1/8|½|¼|⅛)\s*(green|magenta)", re.IGNORECASE)
_SHARES = {"full": 1.0, "half": 0.5, "quarter": 0.25, "eighth": 0.125, "1/2": 0.5, "1/4": 0.25, "1/8": 0.125,
           "½": 0.5, "¼": 0.25, "⅛": 0.125}  # fmt: skip
_OFF = re.compile(r"(?:less than|under|within|<)\s*(\d{1,4})\s*(k|kelvin|mired)?\s*off")
_KELVIN = re.compile(r"(\d{1,3}\.\d{1,3})\s*K\s*([kl])?|(\d{1,2})\s+K\s*([kl])?")
_CRI = re.compile(r"cri\s*[:=]?\s*(.*?\d[^a-z]*?)\s*([ae])?|(.*?\d[^a-z]*)\s*cri\s*([ae])?")


def _tint_figure(piece: str, line: Line) -> bool:
    """CC as a meter shows it, and a cast in parts of a gel."""
    if match := _CC.fullmatch(piece):
        size = float(match[1] or match[4] or match[5])
        letter = (match[2] or match[3] or match[6][0]).upper()
        line.add(Entry(piece, size if letter == "G" else -size, "CC", "cc", written=f"{abs(size):g} {letter} (CC)"))
        return True
    match = GEL_CAST.fullmatch(piece)
    if match is None:
        return False
    size = FULL_GEL_CC * _SHARES[match[1].lower()]
    letter = match[2][0].upper()
    written = f"{match[1].lower()} {match[2].lower()}, about CC {size:g} {letter}"
    line.add(Entry(piece, size if letter == "G" else -size, "CC", "cc", qualifier="about", written=written))
    return True


def _off_dialled(piece: str, line: Line) -> bool:
    """`less than 60 off`: a white that lies so near to what is dialled."""
    match = _OFF.fullmatch(piece.lower())
    if match is None:
        return False
    dialled = line.here.cct_k
    if dialled is None:
        raise EntryError(f"“{piece}”: off what? No white is dialled")
    by = float(match[1])
    low, high = dialled - by, dialled + by
    if match[2] == "mired":
        low, high = 1e6 / (1e6 / dialled + by), 1e6 / max(1e6 / dialled - by, 1.0)
    written = f"between {notation.kelvin(low)} and {notation.kelvin(high)} K"
    line.add(Entry(piece, None, "K", "cct", low, high, "range", written))
    return True


def _small_kelvin(piece: str, line: Line) -> bool:
    """`5.6 K` is 5600 K to some and 5600 lx to others, and `29.56 K` may be a slip: it asks."""
    match = _KELVIN.fullmatch(piece)
    if match is None:
        return False
    value, letter = float(match[1] or match[3]), match[2] or match[4]
    white = next((value * by for by in (1000.0, 100.0) if 1500.0 <= value * by <= 20_000.0), None)
    choices = [Choice("l", f"{notation.plain(1000.0 * value)} lx", f"{value:g}k lx")]
    if white is not None:
        choices.insert(0, Choice("k", f"{notation.dialled(white)} K", f"{white:.0f} K"))
    answer = next((choice for choice in choices if choice.letter == letter), None)
    if answer is not None:
        line.add(parse(answer.text))
        return True
    raise AskedError(choices)


def _cri(piece: str, line: Line) -> bool:
    """What people call CRI is Ra, the mean of eight, or the mean of all fifteen: asked once a session."""
    match = _CRI.fullmatch(piece.lower())
    if match is None:
        return False
    figure, letter = (match[1] or match[3]).strip(), match[2] or match[4]
    means = {"a": "ra", "e": "re"}.get(letter or "", line.situation.cri)
    if not means:
        parse(figure, "ra")
        choices = [
            Choice("a", f"Ra {figure}, the mean of eight", f"CRI {figure} a"),
            Choice("e", f"{figure}, the mean of all fifteen", f"CRI {figure} e"),
        ]
        raise AskedError(choices)
    entry = parse(figure, means)
    label = "Ra" if means == "ra" else "mean of R1–R15"
    line.add(replace(entry, text=piece, quantity=means, written=f"{label} {entry.written}"))
    return True


_LETTERS = {"l": "lx", **{QUANTITIES[name].letter: name for name in score_names() if QUANTITIES[name].letter}}
_LETTERED = re.compile(rf"(\S.*?\d)\s*([{''.join(_LETTERS)}])")


def _lettered(piece: str, line: Line) -> bool:
    """A bare number with the letter that answers what it is: `95 r`."""
    match = _LETTERED.fullmatch(piece.lower())
    if match is None or not is_bare(match[1]):
        return False
    line.add(parse(f"{match[1]} {_LETTERS[match[2]]}"))
    return True


_FRAMES = re.compile(r"(\d{1,4}(?:\.\d{1,3})?)\s*fps(?:\s+(?:at\s+)?(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees))?")
_SHUTTER = re.compile(r"1\s*/\s*\d{1,6}\s*s?|\d{1,3}(?:\.\d)?\s*(?:°|deg)\s*(?:at|@)\s*\d{1,4}(?:\.\d{1,3})?\s*fps")


def _camera(piece: str, line: Line) -> bool:
    """Sensitivity, exposure time and head: what f-numbers stand for."""
    words = piece.lower()
    if match := re.fullmatch(r"iso\s*(\d{1,7})", words):
        line.iso = float(match[1])
        return True
    if words in HEADS:
        line.constant = HEADS[words]
        return True
    if match := _FRAMES.fullmatch(words):
        line.shutter_s = shutter_of(f"{match[2] or 180}° {match[1]} fps")
        line.words.append(f"{match[1]} fps at {match[2] or 180}° is {notation.seconds(line.shutter_s)}")
        return True
    if _SHUTTER.fullmatch(words):
        if words.replace(" ", "") in {"1/2", "1/4", "1/8"}:
            return False
        try:
            line.shutter_s = shutter_of(words)
        except ExposureError as error:
            raise EntryError(str(error)) from error
        return True
    return False


BEFORE_TERMS: tuple[Taker, ...] = (_camera, _lettered)
AFTER_TERMS: tuple[Taker, ...] = (_tint_figure, _off_dialled, _small_kelvin, _cri)
"""Who may understand a piece as a figure, in this order, before it is looked at as a term and after."""
