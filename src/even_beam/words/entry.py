"""Figures as people write and say them: text to values with unit and qualifier.

What was understood is always shown and what was typed always kept; a text that could mean two things asks.
"""

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import NamedTuple

from even_beam.errors import TellableError
from even_beam.light.photometry import METRES_PER_FOOT, exact_f_number
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Kind, score_names, unit_of


class EntryError(TellableError, ValueError):
    """A text that no figure could be read from; the message says what to type instead."""


class AmbiguousEntryError(EntryError):
    """A text with two readings; `choices` are texts that mean one thing each."""

    def __init__(self, message: str, choices: tuple[str, ...]) -> None:
        super().__init__(message)
        self.choices = choices


@dataclass(frozen=True, slots=True)
class Entry:
    """What was understood: `value` in the stored unit, or a bound (`low`, `high`) that is never sharpened.

    `quantity` is None while only a bare number is known; `written` is the figure as a person would confirm it.
    """

    text: str
    value: float | None
    unit: str = ""
    quantity: str | None = None
    low: float | None = None
    high: float | None = None
    qualifier: str = ""
    written: str = ""

    @property
    def middle(self) -> float:
        """A single number to judge by: the value, or the middle of a range, or its one bound."""
        if self.value is not None:
            return self.value
        bounds = [bound for bound in (self.low, self.high) if bound is not None]
        return sum(bounds) / len(bounds)


class _Unit(NamedTuple):
    quantity: str
    unit: str
    factor: float


_UNITS: dict[str, _Unit] = {
    **{word: _Unit(one.name, one.unit, by) for one in QUANTITIES.values() for word, by in one.units.items()},
    "m": _Unit("distance", "m", 1.0),
    "metre": _Unit("distance", "m", 1.0),
    "metres": _Unit("distance", "m", 1.0),
    "cm": _Unit("distance", "m", 0.01),
    "ft": _Unit("distance", "m", METRES_PER_FOOT),
    "foot": _Unit("distance", "m", METRES_PER_FOOT),
    "feet": _Unit("distance", "m", METRES_PER_FOOT),
    "'": _Unit("distance", "m", METRES_PER_FOOT),
    "in": _Unit("distance", "m", METRES_PER_FOOT / 12.0),
    '"': _Unit("distance", "m", METRES_PER_FOOT / 12.0),
    "%": _Unit("percent", "%", 1.0),
    "percent": _Unit("percent", "%", 1.0),
    "°": _Unit("angle", "°", 1.0),
    "deg": _Unit("angle", "°", 1.0),
    "degrees": _Unit("angle", "°", 1.0),
    "stop": _Unit("stops", "stops", 1.0),
    "stops": _Unit("stops", "stops", 1.0),
    "mired": _Unit("mired", "mired", 1.0),
}
"""Words behind a figure: those of the quantities, and of what only says where or how a reading was taken."""


def _one_of(words: Iterable[str]) -> str:
    """A pattern of any of some words, the longer before what they begin with."""
    return "|".join(re.escape(word) for word in sorted(words, key=len, reverse=True))


_NAMES = {word: one.name for one in QUANTITIES.values() for word in one.names}
_NAMED = re.compile(rf"({_one_of(_NAMES)})\s*[:=]?\s*(?=[\d+\-.<>~a-z])(.+)")
_SSI_REFERENCE = re.compile(r"(.*\d\+?)\s+(?:against\s+)?([pd]\d{2,5}|matched|[a-e]|[a-z]+ ?\d{4,5} ?k?)")
"""An SSI means nothing without its reference, which is said behind it."""

_SHOWN_UNITS = {
    "k": "K", "kelvin": "K", "duv": "Duv", "cc": "CC", "l": "lx",
    **{word: one.label for one in QUANTITIES.values() if one.kind in {Kind.SCORE, Kind.SAMPLE} for word in one.names},
}  # fmt: skip

NOMINAL_F_NUMBERS = (
    "0.7", "1", "1.4", "2", "2.8", "4", "5.6", "8", "11", "16", "22", "32", "45", "64", "90",
)  # fmt: skip
# f/4.5, 3.5 and 6.3 are stops of their own, although they look like tenths of a full stop; the other intermediate
# stops with one decimal on a whole full stop (none of them a lens mark in common use) are read as tenths.
_THEMSELVES = frozenset({"1.4", "2.8", "5.6", "4.5", "3.5", "6.3"})

_WORDS = {
    "zero": 0, "oh": 0, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14, "fifteen": 15,
    "sixteen": 16, "seventeen": 17, "eighteen": 18, "nineteen": 19, "twenty": 20, "thirty": 30, "forty": 40,
    "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80, "ninety": 90,
}  # fmt: skip

# `1.600` is a thousand and six hundred to some and one and six tenths to others, where both are plausible.
_MAY_BE_THOUSANDS = frozenset({None, "illuminance", "luminance", "cct", "power_w", "power_va", "candela"})

_DECADES = re.compile(r"(low|mid|high|upper)[\s-]+(\d)0'?s")
_DECADES_NAMED = re.compile(rf"((?:low|mid|high|upper)[\s-]+\d0'?s)\s+({_one_of(score_names())})")
_DECADE_PARTS = {"low": (0.0, 3.0), "mid": (4.0, 6.0), "high": (7.0, 9.0), "upper": (7.0, 9.0)}
_RANGE = re.compile(r"(.+?)\s*(?:\bto\b|–|\.\.|(?<=\d)-(?=\d))\s*(.+)")
_BELOW = re.compile(r"(?:less than|under|below|<)\s*(.+?)(?:\s+off)?")
_ABOVE = re.compile(r"(?:more than|over|above|>)\s*(.+)")
_AT_LEAST = re.compile(r"(.*[\da-z%])\+\s*((?!\d).*)")
"""A plus behind the figure, before its unit or after it: `95+`, `95+ Ra`, `600 lx+`; not the `4+3` of stops."""
_PLUS_MINUS = re.compile(r"(.+?)\s*(?:±|\+/-|\+-)\s*(\d[\d.,]*)\s*(.*)")
_ABOUT = re.compile(r"(?:about|around|roughly|ca\.?|~)\s*(.+)")
_SCIENTIFIC = re.compile(r"[+-]?\d+(?:\.\d+)?e[+-]?\d+(?![a-z])")
_NUMBER = re.compile(
    r"[+\-−]?(?:\d{1,3}(?:[ \u2009\u202f]\d{3})+(?!\d)(?:[.,]\d+)?|\d[\d,.'’]*\d|\d|\.\d+)(?:\.(?!\d))?"
)
"""A number; blanks in it group digits in threes, and nothing else."""


ABOUT, BELOW, ABOVE, AT_LEAST, RANGE = "about", "below", "above", "at least", "range"
"""How a figure is meant, in its qualifier; `low 80s` stands there as it was said."""

LONGEST = 120
"""No figure takes more characters, however it is said."""


def parse(text: str, quantity: str | None = None) -> Entry:
    """Understand one figure. `quantity` is what was asked for, and decides what a bare number means.

    Raises `AmbiguousEntryError` for `1.600` (thousands or decimal?) and `EntryError` for what is not a figure.

    >>> parse("1.6k", "illuminance").value
    1600.0
    >>> parse("f/16.8").written
    'f/16 and 8 tenths'
    >>> parse("99+").low
    99.0
    """
    original = text
    words = " ".join(text.strip().lower().replace("−", "-").replace("’", "'").split())
    words = re.sub(r"\bfoot[ -]?candles?\b", "fc", words)
    if not words:
        raise EntryError("nothing was typed; type a figure such as 1600 or 1.6k")
    if len(words) > LONGEST:
        raise EntryError(f"“{words[:20]}…” is longer than any figure")
    try:
        entry = _qualified(words, quantity)
    except AmbiguousEntryError:
        raise
    except EntryError as error:
        given = " ".join(text.split())
        raise EntryError(str(error).replace(f"“{words}”", f"“{given}”")) from error  # as it was typed: 24OO
    if any(figure is not None and not math.isfinite(figure) for figure in (entry.value, entry.low, entry.high)):
        raise EntryError(f"“{words}” is no figure that can be read")
    return replace(entry, text=original)


def _qualified(words: str, quantity: str | None) -> Entry:
    """A figure with its bounds, its name before or behind it."""
    if named := _NAMED.fullmatch(words):
        return _of_name(_NAMES[named[1]], named[2], words)
    if behind := _DECADES_NAMED.fullmatch(words):
        return _of_name(behind[2], behind[1], words)
    return _bounds(words, quantity)


def _of_name(name: str, figure: str, words: str) -> Entry:
    """`Ra 96 to 97`, `TLCI > 90`, `SSI 84 P3200`: the name says of what."""
    reference = ""
    if name == "ssi" and (told := _SSI_REFERENCE.fullmatch(figure)):
        figure, reference = told[1], told[2].upper() if len(told[2]) < 6 else told[2]
    entry = _bounds(figure, name)
    unit = unit_of(name)
    if entry.quantity != name:
        raise EntryError(f"“{words}”: what is “{figure}” of {name}?")
    shown = "" if name in {"cct", "duv"} else f"{_SHOWN_UNITS.get(name, name.upper())} "
    behind = f" against {reference}" if reference else ""
    return replace(
        entry,
        unit=unit,
        qualifier=reference.replace("MATCHED", "") or entry.qualifier,
        written=f"{shown}{entry.written}{behind}",
    )


def says_how(qualifier: str) -> bool:
    """Whether a qualifier says how a figure is meant, not against what it was read."""
    return qualifier in {ABOUT, BELOW, ABOVE, AT_LEAST, RANGE} or _DECADES.fullmatch(qualifier) is not None


def _bounds(words: str, quantity: str | None) -> Entry:
    if decades := _DECADES.fullmatch(words):
        start = float(decades[2]) * 10.0
        low, high = _DECADE_PARTS[decades[1]]
        return _bounded(quantity, start + low, start + high, words, f"{words} ({start + low:g} to {start + high:g})")
    if about := _ABOUT.fullmatch(words):
        entry = _figure(about[1], quantity)
        return replace(entry, qualifier=ABOUT, written=f"about {entry.written}")
    if below := _BELOW.fullmatch(words):
        entry = _figure(below[1], quantity)
        return replace(entry, value=None, high=entry.value, qualifier=BELOW, written=f"less than {entry.written}")
    if above := _ABOVE.fullmatch(words):
        entry = _figure(above[1], quantity)
        return replace(entry, value=None, low=entry.value, qualifier=ABOVE, written=f"more than {entry.written}")
    if at_least := _AT_LEAST.fullmatch(words):
        entry = _figure(f"{at_least[1]} {at_least[2]}".strip(), quantity)
        return replace(entry, value=None, low=entry.value, qualifier=AT_LEAST, written=f"{entry.written} or more")
    if give := _PLUS_MINUS.fullmatch(words):
        return _give_or_take(give, words, quantity)
    if "f/" not in words and (span := _RANGE.fullmatch(words)) and any(c.isdigit() for c in span[1]):
        second = _figure(span[2], quantity)
        unit = span[2].lstrip("+-0123456789., ")
        first = _figure(span[1] if span[1].endswith(unit) else f"{span[1]} {unit}", quantity)
        if first.value is None or second.value is None or first.value > second.value:
            raise EntryError(f"“{words}” is not a range from low to high")
        return replace(
            second,
            value=None,
            low=first.value,
            high=second.value,
            qualifier=RANGE,
            written=f"{first.written} to {second.written}",
        )
    return _figure(words, quantity)


def _give_or_take(give: re.Match[str], words: str, quantity: str | None) -> Entry:
    """`5600 K ±200 K`, `820 ± 5 %`: a range about its middle."""
    entry = _figure(give[1], quantity)
    of_it = give[3] in {"%", "percent", "per cent"} and entry.unit != "%"
    unit = give[1].lstrip("+-0123456789., ")
    by = _figure(give[2], None) if of_it else _figure(f"{give[2]} {give[3] or unit}".strip(), entry.quantity)
    if entry.value is None or by.value is None or (not of_it and by.quantity != entry.quantity):
        raise EntryError(f"“{words}” is not a figure with what it may be off by")
    half = abs(entry.value) * by.value / 100.0 if of_it else by.value
    said = f"{entry.written} ± {give[2]} {'%' if of_it else by.unit}".strip()
    return replace(entry, value=None, low=entry.value - half, high=entry.value + half, qualifier=RANGE, written=said)


def _bounded(quantity: str | None, low: float, high: float, qualifier: str, written: str) -> Entry:
    return Entry("", None, "", quantity, low, high, qualifier, written)


def _figure(words: str, quantity: str | None) -> Entry:
    aperture = _aperture(words, quantity)
    if aperture is not None:
        return aperture
    if (feet := _feet_and_inches(words)) is not None:
        return Entry("", feet, "m", "distance", written=f"{feet:.2f} m")
    number, rest = _leading_number(words, quantity)
    return _with_unit(number, rest, words, quantity)


def _feet_and_inches(words: str) -> float | None:
    match = re.fullmatch(r"(\d+(?:\.\d+)?)\s*(?:'|ft|feet)\s*(\d+(?:\.\d+)?)\s*(?:\"|in|inches)?", words)
    if match is None or float(match[2]) >= 12.0:  # 1'600 is a thousand and six hundred
        return None
    return (float(match[1]) + float(match[2]) / 12.0) * METRES_PER_FOOT


def _leading_number(words: str, quantity: str | None) -> tuple[float, str]:
    if scientific := _SCIENTIFIC.match(words):  # as other programs export small numbers
        return float(scientific[0]), words[scientific.end() :].strip()
    match = _NUMBER.match(words)
    if match is None:
        return _spoken(words)
    literal, rest = match[0].strip(), words[match.end() :].strip()
    value = _decimal(literal, may_be_thousands=quantity in _MAY_BE_THOUSANDS)
    if rest == "k" or rest.startswith(("k ", "kilo")):
        return _thousands(value, literal, rest)
    return value, rest


def _thousands(value: float, literal: str, rest: str) -> tuple[float, str]:
    """`1.6k` is thousands; `5600 K` is kelvin: below 100 nobody means kelvin."""
    after = rest.removeprefix("kilo").removeprefix("k").strip()
    if abs(value) < 100.0:
        return value * 1000.0, after
    if after:
        raise EntryError(f"“{literal} {rest}”: kelvin, or thousands? Type the whole number")
    return value, "k"


def _decimal(literal: str, *, may_be_thousands: bool) -> float:
    compact = re.sub(r"[ \u2009\u202f'’]", "", literal)
    if may_be_thousands and re.fullmatch(r"[+-]?\d{1,3}\.\d{3}", compact) and not compact.lstrip("+-").startswith("0"):
        whole, thousandths = compact.split(".")
        raise AmbiguousEntryError(
            f"“{compact}” could be {whole},{thousandths} or {whole}.{thousandths.rstrip('0') or '0'}: type it with a"
            " comma for thousands, or with fewer decimals",
            (f"{whole}{thousandths}", f"{whole}.{thousandths.rstrip('0') or '0'}"),
        )
    if re.fullmatch(r"[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d*)?", compact):
        compact = compact.replace(",", "")
    elif re.fullmatch(r"[+-]?(0*,\d+|\d+,(\d{1,2}|\d{4,}))", compact):  # no thousands begin with a nought
        compact = compact.replace(",", ".")
    elif re.fullmatch(r"[+-]?\d{1,3}(\.\d{3})+,\d{1,2}", compact):
        compact = compact.replace(".", "").replace(",", ".")
    try:
        return float(compact)
    except ValueError:
        raise EntryError(f"“{literal}” is not a number; type it like 1600, 1,600, 1.6k or 0.25") from None


def _spoken(words: str) -> tuple[float, str]:
    """`sixteen hundred`, `eleven eighty`, `twenty-five`, `two thousand three hundred`."""
    tokens = words.replace("-", " ").split()
    total, current, used = 0, 0, 0
    for token in tokens:
        if token in _WORDS:
            value = _WORDS[token]
            joins = current % 100 >= 20 and current % 10 == 0 and 0 < value < 10
            current = current + value if joins or current % 100 == 0 else current * 100 + value
        elif token == "hundred" and current:
            current *= 100
        elif token == "thousand" and current:
            total, current = total + current * 1000, 0
        elif token != "and" or not used:
            break
        used += 1
    if not used:
        raise EntryError(f"“{words}” is not a figure; type it like 1600, 1.6k, 160 fc or f/5.6")
    return float(total + current), " ".join(tokens[used:])


def _with_unit(value: float, rest: str, words: str, quantity: str | None) -> Entry:
    if rest == "":
        return _checked(Entry("", value, "", quantity, written=_bare(value, quantity)), words)
    if quantity == "temperature_c" and rest == "c":
        rest = "°c"
    unit = _UNITS.get(rest)
    if unit is None:
        raise EntryError(f"“{words}”: the unit “{rest}” is not known; try lx, fc, K, Duv, m, ft, W or f/")
    if unit.quantity in {"percent", "angle"} and quantity is not None:
        return Entry("", value, unit.unit, quantity, written=f"{value:g} {unit.unit}")
    stored = value * unit.factor
    shown = unit.unit if rest == unit.unit.casefold() else _SHOWN_UNITS.get(rest, rest)
    written = f"{value:g} {shown}" if unit.factor == 1.0 else f"{value:g} {shown} = {stored:.4g} {unit.unit}"
    if unit.quantity == "duv":
        written = _tint(value)
    return _checked(Entry("", stored, unit.unit, unit.quantity, written=written), words)


def _bare(value: float, quantity: str | None) -> str:
    if quantity == "duv":
        return _tint(value)
    units = {"illuminance": "lx", "cct": "K", "distance": "m", "level": "%"}
    return f"{value:g} {units.get(quantity or '', '')}".strip()


def _tint(value: float) -> str:
    """A tint is told by its sign; what was typed finer than usual stays so."""
    return f"{notation.duv(value) if round(value, 4) == value else f'{value:+g}'} Duv"


def _checked(entry: Entry, words: str) -> Entry:
    if entry.quantity in {"illuminance", "luminance", "distance", "power_w"} and (entry.value or 0.0) < 0.0:
        raise EntryError(f"“{words}”: there is no negative {entry.quantity.replace('power_w', 'power')}")
    return entry


def _aperture(words: str, quantity: str | None) -> Entry | None:
    """f-numbers in tenths, halves and splits; None when the text is not one."""
    text = words
    marked = re.match(r"f\s*/?\s*(?=[\d.])", text)
    if marked is not None:
        text = text[marked.end() :]
    elif quantity != "f_stop" and not re.fullmatch(r"(\S+) (?:split|and a half)|\S+/\S+ split", text):
        return None
    text = text.replace("five-six", "5.6").replace("two-eight", "2.8").replace("one-four", "1.4")
    if split := re.fullmatch(r"([\d.]+)\s*/\s*([\d.]+)\s*split", text):
        if split[1] in NOMINAL_F_NUMBERS[:-1] and NOMINAL_F_NUMBERS[NOMINAL_F_NUMBERS.index(split[1]) + 1] == split[2]:
            return _tenths(split[1], 5.0)
        raise EntryError(f"“{words}”: a split lies between two neighbouring full stops, such as 4/5.6")
    if half := re.fullmatch(r"([\d.]+)\s*and a half", text):
        return _tenths(half[1], 5.0, words)
    if plus := re.fullmatch(r"([\d.]+?)\s*(?:\+|and)\s*(?:0?\.)?(\d|[a-z]+)(?:\s*tenths?)?", text):
        return _tenths(plus[1], _spoken_tenths(plus[2], words), words)
    if double := re.fullmatch(r"(\d+\.\d)\.(\d)", text):
        return _tenths(double[1], float(double[2]), words)
    if not re.fullmatch(r"\d+(?:\.\d+)?|\.\d+", text):
        if marked is None:
            return None
        raise EntryError(f"“{words}” is not an f-number; type f/5.6, f/16.8 (16 and 8 tenths) or f/5.6.7")
    if text in NOMINAL_F_NUMBERS:
        return _tenths(text, 0.0)
    whole, _, tenth = text.partition(".")
    if text not in _THEMSELVES and len(tenth) == 1 and whole in NOMINAL_F_NUMBERS:
        return _tenths(whole, float(tenth))
    return Entry("", float(text), "f/", "f_stop", written=f"f/{text}")


def _spoken_tenths(text: str, words: str) -> float:
    tenths = _WORDS.get(text, 10) if text.isalpha() else int(text)
    if tenths > 9:
        raise EntryError(f"“{words}”: an f-number takes one to nine tenths")
    return float(tenths)


def _tenths(nominal: str, tenths: float, words: str = "") -> Entry:
    if nominal not in NOMINAL_F_NUMBERS:
        raise EntryError(f"“{words}”: f/{nominal} is not a full stop, so it takes no tenths")
    written = f"f/{nominal}" if tenths == 0.0 else f"f/{nominal} and {tenths:g} tenths"
    return Entry("", float(exact_f_number(float(nominal), tenths)), "f/", "f_stop", written=written)
