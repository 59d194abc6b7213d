"""A line as people say it: figures, the terms they belong to, and what it leaves open.

`820 50 %` is a level and the dimmer it was read at, `spot` alone moves the terms of what is read next, and where a
bare number could be two things the line asks instead of guessing: one more letter answers.
"""

import math
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from even_beam.bench import notation, off_axis
from even_beam.bench.entry import AmbiguousEntryError, Entry, EntryError, parse
from even_beam.bench.exposure import HEADS, Exposure, ExposureError, shutter_of
from even_beam.bench.limits import impossible_term
from even_beam.bench.records import Terms
from even_beam.light.filters import correction_named

USUAL_WHITES_K = (2700.0, 2800.0, 3000.0, 3200.0, 4000.0, 4300.0, 4400.0, 4500.0, 5000.0, 5400.0, 5500.0, 5600.0,
                  6000.0, 6500.0, 7500.0, 8000.0, 10_000.0)  # fmt: skip
"""Whites that lamps are dialled to (common practice, no source)."""

ZOOMS = frozenset({"flood", "spot", "wide", "medium", "mid", "tight", "narrow"})
"""Names of a zoom that anybody understands; those of the logbook are understood beside them."""

NEAR_DIALLED_MIRED = 40.0
"""A number no farther from what is dialled may well be the white that was read."""

LONGEST = 240
"""No line takes more characters."""

FULL_GEL_CC = 30.0
"""Full plus or minus green in CC; a half is 15 and so on (common practice, no source)."""

LEVEL_SCALES = (255.0, 100.0, 1023.0, 1000.0, 65535.0)
"""Ends of the scales that lamps show instead of per cent."""


@dataclass(frozen=True, slots=True)
class Situation:
    """What a line is typed into.

    `asked` are the quantities that the next reading answers, in order; `firm` where a run asks for them. `expected`
    is the level that would fit, in lx. `whites`, `zooms` and `fitted` are those of the logbook, `cri` the quantity that
    CRI stands for once that was said ("ra" or "re"), `exposure` what f-numbers stand for.
    """

    asked: tuple[str, ...]
    terms: Terms = field(default_factory=Terms)
    firm: bool = False
    expected: tuple[float, float] | None = None
    whites: frozenset[float] = frozenset()
    zooms: frozenset[str] = frozenset()
    fitted: tuple[str, ...] = ()
    cri: str = ""
    exposure: Exposure | None = None


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing that an open line could mean: the letter that says so, what it is called, and the line with it."""

    letter: str
    label: str
    text: str


@dataclass(frozen=True, slots=True)
class Said:
    """What was understood. With `choices` nothing is settled: the line asks `question`."""

    entries: tuple[Entry, ...] = ()
    terms: Mapping[str, object] = field(default_factory=dict)
    exposure: Exposure | None = None
    question: str = ""
    choices: tuple[Choice, ...] = ()
    words: tuple[str, ...] = ()

    @property
    def written(self) -> str:
        """What was understood, as a person would confirm it."""
        return self.question or " · ".join(self.words)


class _AskedError(Exception):
    """A piece that could be several things, each by the piece that would say it."""

    def __init__(self, question: str, choices: Sequence[Choice]) -> None:
        super().__init__(question)
        self.question, self.choices = question, tuple(choices)


class _RefusedError(EntryError):
    """A piece whose meaning is plain and that cannot be: no shorter piece of it means anything else."""


@dataclass(slots=True)
class _Line:
    """What has been understood of a line so far."""

    situation: Situation
    bare: int
    entries: list[Entry] = field(default_factory=list)
    terms: dict[str, object] = field(default_factory=dict)
    words: list[str] = field(default_factory=list)
    iso: float | None = None
    shutter_s: float | None = None
    constant: float | None = None

    @property
    def open(self) -> list[str]:
        """What was asked and is not answered yet."""
        answered = {entry.quantity for entry in self.entries}
        return [name for name in self.situation.asked if name not in answered]

    @property
    def here(self) -> Terms:
        """The terms with what the line says of them."""
        return replace(self.situation.terms, **self.terms)  # type: ignore[arg-type]

    def add(self, entry: Entry) -> None:
        if any(other.quantity == entry.quantity for other in self.entries):
            raise EntryError(f"two figures of the same quantity: “{entry.written}” beside the one before")
        self.entries.append(entry)
        self.words.append(entry.written)

    def set(self, name: str, value: object, words: str) -> None:
        if (problem := impossible_term(name, value)) is not None:
            raise EntryError(problem)
        if name in self.terms and self.terms[name] != value:
            raise EntryError(f"“{words}” and another before it: which of the two is it?")
        self.terms[name] = value
        self.words.append(words)


_SILENT = re.compile(r"(?<!\S)read(?!\S)", re.IGNORECASE)
"""`5594 K read` says no more than 5594 K, which is what a meter showed; `dial` is what a lamp was set to."""


def understand(text: str, situation: Situation) -> Said:
    """A whole line. Raises `EntryError` for what is neither a figure nor a term; the message says what to type."""
    said = _SILENT.sub(" ", text[: LONGEST + 1])
    parts = [part.strip() for part in re.split(r"[;\n]|,\s+", said) if part.strip()]
    if len(text) > LONGEST:
        raise EntryError(f"“{text[:20]}…” is longer than anything that is said of a reading")
    if not parts:
        raise EntryError("nothing was typed; type a figure such as 1600 or 1.6k")
    pieces = [piece for part in parts for piece in _pieces(part, situation)]
    line = _Line(situation, sum(_is_bare(piece) for piece in pieces))
    for place, piece in enumerate(pieces):
        try:
            _take(piece, line)
        except _AskedError as asks:
            before, after = "; ".join(pieces[:place]), "; ".join(pieces[place + 1 :])
            choices = tuple(
                replace(choice, text="; ".join(filter(None, (before, choice.text, after)))) for choice in asks.choices
            )
            return Said(question=asks.question, choices=choices)
    return Said(tuple(line.entries), line.terms, _exposure(line), words=tuple(line.words))


def _exposure(line: _Line) -> Exposure | None:
    """The exposure that the line states, completed by the one stated before."""
    if line.iso is None and line.shutter_s is None and line.constant is None:
        return None
    before = line.situation.exposure
    iso = line.iso or (before.iso if before else None)
    shutter_s = line.shutter_s or (before.shutter_s if before else None)
    if iso is None or shutter_s is None:
        missing = "ISO" if iso is None else "exposure time, such as 1/50"
        raise EntryError(f"what an f-number stands for needs the {missing} as well: ISO 800 1/50 dome")
    constant = line.constant or (before.constant if before else HEADS["flat"])
    try:
        found = Exposure(iso, shutter_s, constant)
    except ExposureError as error:
        raise EntryError(str(error)) from error
    line.words.append(f"f-numbers at {found.words}")
    return found


# --- pieces


def _pieces(part: str, situation: Situation) -> list[str]:
    """A part of a line as its pieces: the longest run of words that means something, then the next."""
    words = part.split()
    found, start = [], 0
    while start < len(words):
        for end in range(min(len(words), start + 8), start, -1):
            piece = " ".join(words[start:end])
            if _means_something(piece, situation) and not _name_goes_on(words[start:end], words[end:]):
                found.append(piece)
                start = end
                break
        else:
            return [*found, " ".join(words[start:])]  # whoever takes it says what is wrong with it
    return found


_SCORE = re.compile(r"ra|rf|rg|tlci|ssi|cri|r\d{1,2}")


def _name_goes_on(piece: Sequence[str], rest: Sequence[str]) -> bool:
    """Whether a score's name belongs to the number after it: `+0.001 Ra 95` is a tint and a score, no Ra of 0.001."""
    if len(piece) != 2 or not rest or not (_is_bare(piece[0]) and _is_bare(rest[0])):
        return False
    return _SCORE.fullmatch(piece[1].lower()) is not None and not 1.0 <= parse(piece[0], "ra").middle <= 100.0


def _means_something(piece: str, situation: Situation) -> bool:
    line = _Line(situation, 2)
    try:
        _take(piece, line)
    except (_AskedError, _RefusedError, AmbiguousEntryError):
        return True
    except EntryError:
        return False
    return True


def _take(piece: str, line: _Line) -> None:
    """Understand one piece. Raises `EntryError`, or `_AskedError`."""
    for take in _TAKERS:
        try:
            if take(piece, line):
                return
        except EntryError as error:
            raise _RefusedError(str(error)) from error
    if _is_bare(piece):
        _bare(piece, line)
        return
    entry = parse(piece, line.open[0] if line.open else None)
    if entry.quantity in {"percent", "angle"} and line.open[:1] != [entry.quantity]:
        raise EntryError(f"“{piece}”: of what?")
    if entry.quantity is None:
        raise EntryError(f"“{piece}”: of what? Add a unit such as lx, K or Duv")
    if entry.quantity in {"distance", "stops", "mired", "level"}:
        raise EntryError(f"“{piece}” is not a figure that a meter reads here")
    line.add(entry)


_BARE = re.compile(r"[+-]?(?:\d{1,3}(?:[ \u2009\u202f'’]\d{3})+|\d[\d,']*)(?:\.\d+)?")


def _is_bare(piece: str) -> bool:
    return _BARE.fullmatch(piece.strip().replace("−", "-")) is not None


# --- a bare number


def _bare(piece: str, line: _Line) -> None:
    """A number alone: what is asked and fits. Where two readings are possible it asks."""
    if line.entries and re.fullmatch(r"0+", piece):
        raise EntryError(f"“{piece}” after a figure: blanks group digits in threes only, such as 1 600")
    if not line.open:
        raise EntryError(f"“{piece}”: of what? Add a unit such as lx, K or Duv")
    signed = piece[0] in "+-−" and "duv" in line.open  # nobody signs a level
    entry = parse(piece, "duv" if signed else line.open[0])
    value = entry.middle
    possible = _possible(piece, value, line)
    if line.bare > 1 or not possible:  # several bare numbers answer what is asked, in its order
        line.add(entry)
        return
    if len(possible) > 1:
        raise _AskedError(_question(possible), possible)
    count = len(line.entries)
    _take(possible[0].text, line)
    if len(line.entries) > count:
        line.entries[-1] = replace(line.entries[-1], text=piece)  # as it was typed


def _question(choices: Sequence[Choice]) -> str:
    """What the line asks: a letter more answers."""
    return " · ".join(f"{choice.letter.upper()}: {choice.label}" for choice in choices) + " ?"


def _possible(piece: str, value: float, line: _Line) -> list[Choice]:
    """What a bare number could be here."""
    here, asked = line.here, line.open
    found = []
    may = {name: test(value, line) for name, test in _PLAUSIBLE.items()}
    if here.hue_deg is not None and "hue" in asked and may["hue"]:
        return [Choice("h", f"hue {piece}°", f"hue {piece}")]
    if may["duv"] and "duv" in asked:
        return [Choice("d", f"Duv {piece}", f"{piece} duv")]
    if "illuminance" in asked and may["illuminance"]:
        found.append(Choice("l", f"{piece} lx", f"{piece} lx"))
    if may["cct"] and ("cct" in asked or _near_dialled(value, here)) and not _fits(value, line.situation):
        found.append(Choice("k", f"{piece} K read", f"{piece} K"))
    for name in ("ra", "rf", "tlci", "ssi"):
        if name in asked and may["score"]:
            label = {"ra": "Ra", "rf": "Rf", "tlci": "TLCI", "ssi": "SSI"}[name]
            letter = "r" if name == "ra" else name[-1] if name == "rf" else name[0]
            found.append(Choice(letter, f"{label} {piece}", f"{label} {piece}"))
    is_dial = value in USUAL_WHITES_K or value in line.situation.whites
    if is_dial and not line.situation.firm and here.mode != "fixed" and value != here.cct_k:
        if not found and "cct" in asked:
            found.append(Choice("k", f"{piece} K read", f"{piece} K"))
        found.append(Choice("d", f"{piece} K dialled", f"dial {piece}"))
    return found


def _fits(value: float, situation: Situation) -> bool:
    """Whether a number is the level that is expected."""
    return situation.expected is not None and situation.expected[0] <= value <= situation.expected[1]


def _near_dialled(value: float, terms: Terms) -> bool:
    if terms.cct_k is None or value <= 0.0:
        return False
    return abs(1e6 / value - 1e6 / terms.cct_k) <= NEAR_DIALLED_MIRED


def _like_a_white(value: float, line: _Line) -> bool:
    white = line.here.cct_k
    if white is not None and value > 0.0:
        return abs(1e6 / value - 1e6 / white) <= 3.0 * NEAR_DIALLED_MIRED
    return 1700.0 <= value <= 20_000.0


_PLAUSIBLE: Mapping[str, Callable[[float, _Line], bool]] = {
    "illuminance": lambda value, line: value >= 0.0,
    "cct": _like_a_white,
    "duv": lambda value, line: abs(value) <= 0.06 and value != round(value, 2),
    "score": lambda value, line: 20.0 <= value <= 100.0,
    "hue": lambda value, line: 0.0 <= value <= 360.0,
}


# --- terms

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


def _level(piece: str, line: _Line) -> bool:
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


def _distance(piece: str, line: _Line) -> bool:
    match = _DISTANCE.fullmatch(piece)  # 4M is CC: a distance is never written with a capital
    if match is None:
        return False
    metres = parse(match[1].replace(",", "."), "distance").middle
    if metres <= 0.0:
        raise EntryError(f"“{piece}” is not a distance")
    line.set("distance_m", metres, f"at {notation.distance(metres)}")
    line.terms["placement"] = "on axis"
    return True


def _white(piece: str, line: _Line) -> bool:
    match = _DIAL.fullmatch(piece.lower())
    if match is None:
        return False
    white = float(match[1] or match[2])
    line.set("cct_k", white, f"dialled {notation.dialled(white)} K")
    line.terms["mode"] = "CCT"
    return True


def _aside(piece: str, line: _Line) -> bool:
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
    line.set("angle_deg", aside.angle_deg, f"{said}{notation.axis(there)}")
    return True


def _colour(piece: str, line: _Line) -> bool:
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


def _optics(piece: str, line: _Line) -> bool:
    """A zoom by its name, or what sits on the lamp: `dish + full CTO`, `bare`."""
    words = piece.lower()
    zoom = _zoom(words, line.situation.zooms)
    if zoom is not None:
        line.set("zoom", zoom, zoom if zoom in ZOOMS else f"zoom {zoom}")
        return True
    if words == "bare":
        line.set("configuration", (), "bare")
        return True
    known = {name.casefold(): name for name in line.situation.fitted}
    named = words.removeprefix("with ").strip()
    parts = [part.strip() for part in named.split("+")]
    if not all(parts) or not (words.startswith("with ") or all(p in known or _is_gel(p) for p in parts)):
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
    known = correction_named(words) is not None and not _GEL_CAST.fullmatch(words)
    return known or _GEL.fullmatch(words) is not None


# --- figures that need more than a number and a unit

_CC = re.compile(r"([+-]?\d{1,2}(?:\.\d)?)\s*([MG])|([MG])\s*(\d{1,2}(?:\.\d)?)|(\d{1,2}(?:\.\d)?)\s+(magenta|green)")
_GEL_CAST = re.compile(r"(full|half|quarter|eighth|1/2|1/4|1/8|½|¼|⅛)\s*(green|magenta)", re.IGNORECASE)
_SHARES = {"full": 1.0, "half": 0.5, "quarter": 0.25, "eighth": 0.125, "1/2": 0.5, "1/4": 0.25, "1/8": 0.125,
           "½": 0.5, "¼": 0.25, "⅛": 0.125}  # fmt: skip
_OFF = re.compile(r"(?:less than|under|within|<)\s*(\d{1,4})\s*(k|kelvin|mired)?\s*off")
_KELVIN = re.compile(r"(\d{1,3}\.\d{1,3})\s*K\s*([kl])?|(\d{1,2})\s+K\s*([kl])?")
_CRI = re.compile(r"cri\s*[:=]?\s*(.*?\d[^a-z]*?)\s*([ae])?|(.*?\d[^a-z]*)\s*cri\s*([ae])?")


def _tint_figure(piece: str, line: _Line) -> bool:
    """CC as a meter shows it, and a cast in parts of a gel."""
    if match := _CC.fullmatch(piece):
        size = float(match[1] or match[4] or match[5])
        letter = (match[2] or match[3] or match[6][0]).upper()
        line.add(Entry(piece, size if letter == "G" else -size, "CC", "cc", written=f"{abs(size):g} {letter} (CC)"))
        return True
    match = _GEL_CAST.fullmatch(piece)
    if match is None:
        return False
    size = FULL_GEL_CC * _SHARES[match[1].lower()]
    letter = match[2][0].upper()
    written = f"{match[1].lower()} {match[2].lower()}, about CC {size:g} {letter}"
    line.add(Entry(piece, size if letter == "G" else -size, "CC", "cc", qualifier="about", written=written))
    return True


def _off_dialled(piece: str, line: _Line) -> bool:
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


def _small_kelvin(piece: str, line: _Line) -> bool:
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
    raise _AskedError(_question(choices), choices)


def _cri(piece: str, line: _Line) -> bool:
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
        raise _AskedError(_question(choices), choices)
    entry = parse(figure, means)
    label = "Ra" if means == "ra" else "mean of R1–R15"
    line.add(replace(entry, text=piece, quantity=means, written=f"{label} {entry.written}"))
    return True


_LETTERED = re.compile(r"(\S.*?\d)\s*([lrfts])")
_LETTERS = {"l": "lx", "r": "ra", "f": "rf", "t": "tlci", "s": "ssi"}


def _lettered(piece: str, line: _Line) -> bool:
    """A bare number with the letter that answers what it is: `95 r`."""
    match = _LETTERED.fullmatch(piece.lower())
    if match is None or not _is_bare(match[1]):
        return False
    line.add(parse(f"{match[1]} {_LETTERS[match[2]]}"))
    return True


_FRAMES = re.compile(r"(\d{1,4}(?:\.\d{1,3})?)\s*fps(?:\s+(?:at\s+)?(\d{1,3}(?:\.\d)?)\s*(?:°|deg|degrees))?")
_SHUTTER = re.compile(r"1\s*/\s*\d{1,6}\s*s?|\d{1,3}(?:\.\d)?\s*(?:°|deg)\s*(?:at|@)\s*\d{1,4}(?:\.\d{1,3})?\s*fps")


def _camera(piece: str, line: _Line) -> bool:
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


_TAKERS: tuple[Callable[[str, _Line], bool], ...] = (
    _camera, _lettered, _level, _distance, _white, _aside, _colour, _optics,
    _tint_figure, _off_dialled, _small_kelvin, _cri,
)  # fmt: skip
"""Who may understand a piece, in this order, before it is parsed as a figure with its unit."""
