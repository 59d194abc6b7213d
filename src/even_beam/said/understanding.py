"""A line as people say it: figures, the terms they belong to, and what it leaves open.

`820 50 %` is a level and the dimmer it was read at, `spot` alone moves the terms of what is read next, and where a
bare number could be two things the line asks instead of guessing: one more letter answers.
"""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from even_beam.bench.exposure import HEADS, Exposure, ExposureError
from even_beam.bench.records import Terms
from even_beam.said import of_figures, of_terms
from even_beam.said.line import AskedError, Choice, Line, RefusedError, Said, Situation, Taker, is_bare
from even_beam.words.entry import AmbiguousEntryError, Entry, EntryError, parse
from even_beam.words.quantities import QUANTITIES, score_names

USUAL_WHITES_K = (2700.0, 2800.0, 3000.0, 3200.0, 4000.0, 4300.0, 4400.0, 4500.0, 5000.0, 5400.0, 5500.0, 5600.0,
                  6000.0, 6500.0, 7500.0, 8000.0, 10_000.0)  # fmt: skip
"""Whites that lamps are dialled to (common practice, no source)."""

NEAR_DIALLED_MIRED = 40.0
"""A number no farther from what is dialled may well be the white that was read."""

LONGEST = 240
"""No line takes more characters."""

_TAKERS: tuple[Taker, ...] = (*of_figures.BEFORE_TERMS, *of_terms.TAKERS, *of_figures.AFTER_TERMS)
"""Who may understand a piece, in this order, before it is parsed as a figure with its unit."""


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
    line = Line(situation, sum(is_bare(piece) for piece in pieces))
    for place, piece in enumerate(pieces):
        try:
            _take(piece, line)
        except AskedError as asks:
            before, after = "; ".join(pieces[:place]), "; ".join(pieces[place + 1 :])
            choices = tuple(
                replace(choice, text="; ".join(filter(None, (before, choice.text, after)))) for choice in asks.choices
            )
            return Said(question=asks.question, choices=choices)
    return Said(tuple(line.entries), line.terms, _exposure(line), words=tuple(line.words))


def _exposure(line: Line) -> Exposure | None:
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


_SCORE = re.compile(rf"cri|{'|'.join(score_names())}|r\d{{1,2}}")


def _name_goes_on(piece: Sequence[str], rest: Sequence[str]) -> bool:
    """Whether a score's name belongs to the number after it: `+0.001 Ra 95` is a tint and a score, no Ra of 0.001."""
    if len(piece) != 2 or not rest or not (is_bare(piece[0]) and is_bare(rest[0])):
        return False
    return _SCORE.fullmatch(piece[1].lower()) is not None and not 1.0 <= parse(piece[0], "ra").middle <= 100.0


def _means_something(piece: str, situation: Situation) -> bool:
    line = Line(situation, 2)
    try:
        _take(piece, line)
    except (AskedError, RefusedError, AmbiguousEntryError):
        return True
    except EntryError:
        return False
    return True


def _figure(piece: str, line: Line) -> Entry:
    """A figure with its unit; words that are none may be what sits on the lamp."""
    try:
        return parse(piece, line.open[0] if line.open else None)
    except EntryError as error:
        if isinstance(error, AmbiguousEntryError) or any(letter.isdigit() for letter in piece):
            raise
        raise EntryError(f"{error}. What sits on the lamp is said with “with”: with {piece}") from error


def _take(piece: str, line: Line) -> None:
    """Understand one piece. Raises `EntryError`, or `AskedError`."""
    for take in _TAKERS:
        try:
            if take(piece, line):
                return
        except EntryError as error:
            raise RefusedError(str(error)) from error
    if is_bare(piece):
        _bare(piece, line)
        return
    entry = _figure(piece, line)
    if entry.quantity in {"percent", "angle"} and line.open[:1] != [entry.quantity]:
        raise EntryError(f"“{piece}”: of what?")
    if entry.quantity is None:
        raise EntryError(f"“{piece}”: of what? Add a unit such as lx, K or Duv")
    if entry.quantity in {"distance", "stops", "mired", "level"}:
        raise EntryError(f"“{piece}” is not a figure that a meter reads here")
    line.add(entry)


def _bare(piece: str, line: Line) -> None:
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
        raise AskedError(possible)
    count = len(line.entries)
    _take(possible[0].text, line)
    if len(line.entries) > count:
        line.entries[-1] = replace(line.entries[-1], text=piece)  # as it was typed


def _possible(piece: str, value: float, line: Line) -> list[Choice]:
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
    for score in (QUANTITIES[name] for name in score_names() if name in asked and may["score"]):
        if score.letter:
            found.append(Choice(score.letter, f"{score.label} {piece}", f"{score.label} {piece}"))
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


def _like_a_white(value: float, line: Line) -> bool:
    white = line.here.cct_k
    if white is not None and value > 0.0:
        return abs(1e6 / value - 1e6 / white) <= 3.0 * NEAR_DIALLED_MIRED
    return 1700.0 <= value <= 20_000.0


_PLAUSIBLE: Mapping[str, Callable[[float, Line], bool]] = {
    "illuminance": lambda value, line: value >= 0.0,
    "cct": _like_a_white,
    "duv": lambda value, line: abs(value) <= 0.06 and value != round(value, 2),
    "score": lambda value, line: 20.0 <= value <= 100.0,
    "hue": lambda value, line: 0.0 <= value <= 360.0,
}
