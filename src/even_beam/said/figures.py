"""Figures that say what they are: by a unit, a name, a cast in words; and what f-numbers stand for."""

import re
from collections.abc import Iterable
from dataclasses import replace

from even_beam.bench.exposure import HEADS, ExposureError, shutter_of
from even_beam.said.meaning import GROUPED, PLAIN, Meaning, Proposer, Stretch, Whole, figure, may_part, refusal
from even_beam.words import notation
from even_beam.words.entry import RANGE, AmbiguousEntryError, Entry, EntryError, parse
from even_beam.words.quantities import QUANTITIES, score_names

FULL_GEL_CC = 30.0
"""Full plus or minus green in CC; a half is 15 and so on (common practice, no source)."""

_CC = re.compile(r"([+-]?\d{1,2}(?:\.\d)?)\s*([MG])|([MG])\s*(\d{1,2}(?:\.\d)?)|(\d{1,2}(?:\.\d)?)\s+(magenta|green)")
GEL_CAST = re.compile(r"(full|half|quarter|eighth|1/2|1/4|1/8|½|¼|⅛)\s*(green|magenta)", re.IGNORECASE)
_SHARES = {"full": 1.0, "half": 0.5, "quarter": 0.25, "eighth": 0.125, "1/2": 0.5, "1/4": 0.25, "1/8": 0.125,
           "½": 0.5, "¼": 0.25, "⅛": 0.125}  # fmt: skip
_OFF = re.compile(r"(?:less than|under|within|<)\s*(\d{1,4})\s*(k|kelvin|mired)?(\s*off)?(?:\s+(?:what is )?dialled)?")
_KELVIN = re.compile(r"(\d{1,3}\.\d{1,3})\s*K\s*([kl])?|(\d{1,2})\s+K\s*([kl])?")
_CRI = re.compile(r"cri\s*[:=]?\s*(.*?\d[^a-z]*?)\s*([ae])?|(.*?\d[^a-z]*)\s*cri\s*([ae])?")


def _cast(stretch: Stretch) -> Iterable[Meaning]:
    """CC as a meter shows it, and a cast in parts of a gel."""
    words = stretch.words
    if match := _CC.fullmatch(words):
        size = float(match[1] or match[4] or match[5])
        letter = (match[2] or match[3] or match[6][0]).upper()
        written = f"{abs(size):g} {letter} (CC)"
        yield figure(Entry(words, size if letter == "G" else -size, "CC", "cc", written=written), words)
    elif match := GEL_CAST.fullmatch(words):
        size = FULL_GEL_CC * _SHARES[match[1].lower()]
        letter = match[2][0].upper()
        written = f"{match[1].lower()} {match[2].lower()}, about CC {size:g} {letter}"
        cast = size if letter == "G" else -size
        yield figure(Entry(words, cast, "CC", "cc", qualifier="about", written=written), words)


def _off_dialled(stretch: Stretch) -> Iterable[Meaning]:
    """`less than 60 off`, `within 50 K`: a white that lies so near to what is dialled."""
    words = stretch.words
    match = _OFF.fullmatch(words.lower())
    if match is None or not (match[3] or (match[2] and words.lower().startswith("within"))):
        return
    by, is_mired = float(match[1]), match[2] == "mired"

    def settled(whole: Whole) -> Meaning:
        white = whole.here.cct_k
        if white is None:
            return refusal(words, f"“{words}”: off what? No white is dialled")
        low, high = white - by, white + by
        if is_mired:
            low, high = 1e6 / (1e6 / white + by), 1e6 / max(1e6 / white - by, 1.0)
        written = f"between {notation.kelvin(low)} and {notation.kelvin(high)} K"
        return figure(Entry(words, None, "K", "cct", low, high, RANGE, written), words)

    yield Meaning(words, words, settle=settled, least=PLAIN)


def _small_kelvin(stretch: Stretch) -> Iterable[Meaning]:
    """`5.6 K` is 5600 K to some and 5600 lx to others, and `29.56 K` may be a slip."""
    match = _KELVIN.fullmatch(stretch.words)
    if match is None:
        return
    value, answered = float(match[1] or match[3]), match[2] or match[4]
    white = next((value * by for by in (1000.0, 100.0) if 1500.0 <= value * by <= 20_000.0), None)
    texts = {"k": f"{white:.0f} K" if white is not None else "", "l": f"{value:g}k lx"}
    labels = {"k": f"{notation.dialled(white or 0.0)} K", "l": f"{notation.plain(1000.0 * value)} lx"}
    for letter, text in texts.items():
        if text and answered in {None, letter}:
            yield figure(parse(text), text, words=labels[letter], letter=letter)


def _cri(stretch: Stretch) -> Iterable[Meaning]:
    """What people call CRI is Ra, the mean of eight, or the mean of all fifteen: asked once a session."""
    match = _CRI.fullmatch(stretch.words.lower())
    if match is None:
        return
    said, letter = (match[1] or match[3]).strip(), match[2] or match[4]
    known = {"a": "ra", "e": "re"}.get(letter or "", stretch.situation.cri)
    labels = {"ra": ("a", f"Ra {said}, the mean of eight"), "re": ("e", f"{said}, the mean of all fifteen")}
    for means, (its_letter, label) in labels.items():
        if known not in {"", means}:
            continue
        try:
            entry = parse(said, means)
        except EntryError:
            return
        name = "Ra" if means == "ra" else "mean of R1–R15"
        entry = replace(entry, text=stretch.words, quantity=means, written=f"{name} {entry.written}")
        words = entry.written if known else label
        yield figure(entry, f"CRI {said} {its_letter}", words=words, letter=its_letter)


_LETTERS = {"l": "lx", "h": "hue", **{QUANTITIES[n].letter: n for n in score_names() if QUANTITIES[n].letter}}
_LETTERED = re.compile(rf"([+-]?[\d.,' ]*\d)\s*([{''.join(_LETTERS)}])")


def _lettered(stretch: Stretch) -> Iterable[Meaning]:
    """A bare number with the letter that answers what it is: `95 r`."""
    match = _LETTERED.fullmatch(stretch.words.lower())
    if match is None:
        return
    if match[2] == "h":
        yield colour_read("hue", match[1], stretch.words)
        return
    try:
        entry = parse(f"{match[1]} {_LETTERS[match[2]]}")
    except EntryError:
        return
    yield figure(replace(entry, text=stretch.words), stretch.words)


_TINT_READ = re.compile(r"(?:(tint|duv)\s*)?([+-−]|minus|plus)?\s*(0?\.0\d{1,4})\s*(?:read|(tint|duv))?")


def _tint_read(stretch: Stretch) -> Iterable[Meaning]:
    """`tint +0.002`, `minus 0.002`: no dial has such marks, so it is a Duv."""
    match = _TINT_READ.fullmatch(stretch.words.lower())
    if match is None or not (match[1] or match[4] or match[2] in {"minus", "plus"}):
        return
    number = ("-" if match[2] in {"minus", "-", "−"} else "") + match[3]
    yield figure(replace(parse(number, "duv"), text=stretch.words), f"{number} duv")


COLOUR_READ = {"hue": "°", "saturation": "%"}
"""What a meter shows of a coloured light and lamps are dialled to as well, with its unit."""


def colour_read(name: str, number: str, text: str) -> Meaning:
    """A hue or a saturation that was read."""
    value, unit = float(number), COLOUR_READ[name]
    written = f"{name} {notation.plain(value)}{' ' if unit == '%' else ''}{unit} read"
    entry = Entry(text, value, unit, name, written=written)
    return replace(figure(entry, f"{name} {value:g} read"), letter=name[0])


_READ = re.compile(r"(?:read\s+)?(hue|sat|saturation)\s*(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees|%)?(?:\s+read)?")


def _colour_read(stretch: Stretch) -> Iterable[Meaning]:
    """`hue 230 read`: said to be what the meter showed."""
    words = stretch.words.lower()
    match = _READ.fullmatch(words)
    if match is not None and "read" in words.split():
        yield colour_read("hue" if match[1] == "hue" else "saturation", match[2], stretch.words)


_FRAMES = re.compile(r"(\d{1,4}(?:\.\d{1,3})?)\s*fps(?:\s+(?:at\s+)?(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees))?")
_SHUTTER = re.compile(r"1\s*/\s*\d{1,6}\s*s?|\d{1,3}(?:\.\d)?\s*(?:°|deg)\s*(?:at|@)\s*\d{1,4}(?:\.\d{1,3})?\s*fps")
_SHARE_OF_A_GEL = frozenset({"1/2", "1/4", "1/8"})


def _camera(stretch: Stretch) -> Iterable[Meaning]:
    """Sensitivity, exposure time and head: what f-numbers stand for."""
    words = stretch.words.lower()
    if match := re.fullmatch(r"iso\s*(\d{1,7})", words):
        yield Meaning(words, f"ISO {match[1]}", camera={"iso": float(match[1])})
    elif words in HEADS:
        yield Meaning(words, f"{words} head", camera={"constant": HEADS[words]})
    elif match := _FRAMES.fullmatch(words):
        time = shutter_of(f"{match[2] or 180}° {match[1]} fps")
        said = f"{match[1]} fps at {match[2] or 180}° is {notation.seconds(time)}"
        yield Meaning(words, said, camera={"shutter_s": time})
    elif _SHUTTER.fullmatch(words) and words.replace(" ", "") not in _SHARE_OF_A_GEL:
        try:
            time = shutter_of(words)
        except ExposureError as error:
            yield refusal(words, str(error))
        else:
            yield Meaning(words, notation.seconds(time), camera={"shutter_s": time})


_UNIT_FIRST = re.compile(r"(lux|lx|fc|kelvin|k)\s+([\d.,' ]*\dk?)")


def _unit_first(stretch: Stretch) -> Iterable[Meaning]:
    """`lux 820`: a unit before its figure, which most say behind it."""
    match = _UNIT_FIRST.fullmatch(stretch.words.lower())
    if match is None:
        return
    unit, number = match[1], match[2]
    try:
        entry = parse(f"{number} {unit}")
    except EntryError:
        return
    said = figure(replace(entry, text=stretch.words), f"{number} {unit}")
    yield replace(said, cost=said.cost + GROUPED)


_NO_METER_READS_THEM = frozenset({"distance", "stops", "mired", "level", "percent", "angle"})


def _with_its_unit(stretch: Stretch) -> Iterable[Meaning]:
    """A figure with its unit or its name."""
    try:
        entry = parse(stretch.words)
    except AmbiguousEntryError as asks:
        yield from _thousands_or_not(stretch, asks)
        return
    except EntryError:
        return
    if entry.quantity is not None and entry.quantity not in _NO_METER_READS_THEM:
        said = figure(entry, stretch.words)
        yield replace(said, cost=said.cost + GROUPED * may_part(stretch))


def _thousands_or_not(stretch: Stretch, asks: AmbiguousEntryError) -> Iterable[Meaning]:
    """`1.600 lx`: the figure both ways, where it has a unit."""
    for letter, number in zip("ab", asks.choices, strict=True):
        text = re.sub(r"\d{1,3}\.\d{3}", number, stretch.words, count=1)
        entry = parse(text)
        if entry.quantity is not None:
            yield figure(replace(entry, text=stretch.words), text, words=text, letter=letter)


PROPOSERS: tuple[Proposer, ...] = (
    _camera, _lettered, _cast, _tint_read, _off_dialled, _small_kelvin, _cri, _colour_read, _unit_first, _with_its_unit,
)  # fmt: skip
"""Who may know a stretch as a figure; the first that does is heard."""
