"""How figures are written on screen, in reports and in sentences: the only place that formats numbers."""

import math
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from datetime import date

from even_beam.light.photometry import LUX_PER_FOOTCANDLE, METRES_PER_FOOT, nominal_and_tenths

THIN_SPACE = "\u202f"
"""Between groups of digits: narrow, and no line breaks there."""
_ZEROS = f"0.{THIN_SPACE}"
MINUS = "\u2212"
NONE = "\u2013"
"""Shown where there is no figure."""


def sentence(words: str) -> str:
    """Words as a sentence begins: the first letter large, TLCI and Ra as they are."""
    return words[:1].upper() + words[1:]


def day(iso: str) -> str:
    """A day kept as ISO 8601, as it is said."""
    return f"{date.fromisoformat(iso):%-d %B %Y}"


def count(number: int, what: str) -> str:
    """So many of something: 1 reading, 2 readings."""
    return f"{number} {what}{'' if number == 1 else 's'}"


def listed(names: Sequence[str]) -> str:
    """Names in a sentence: Tansy, Burdock and Yarrow."""
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


_HEARD = str.maketrans({THIN_SPACE: "", MINUS: "minus ", "·": ",", "≥": "at least ", "≤": "at most ", "×": "times"})


def heard(words: str) -> str:
    """Words as a voice should read them: 5162 in one go, minus said, no signs that voices leave out or name."""
    return words.translate(_HEARD).replace(" ,", ",")


def number(value: float | None, decimals: int = 0, *, signed: bool = False) -> str:
    """A number with grouped digits and a true minus sign; a dash for None and NaN."""
    if value is None or math.isnan(value):
        return NONE
    value = _without_dust(value)
    text = f"{abs(value):,.{decimals}f}".replace(",", THIN_SPACE)
    if value == 0 or not text.strip(_ZEROS):  # what rounds to zero has no sign
        return text
    return (MINUS if value < 0 else "+" if signed else "") + text


def _without_dust(value: float) -> float:
    """Rounded to twelve figures: what two ways of reckoning leave in the last bits must not round one figure two
    ways."""
    return float(f"{value:.12g}")


def lux(value: float | None) -> str:
    """Illuminance to about four figures: 4 812, 96.3, 1.02."""
    if value is None or math.isnan(value):
        return NONE
    value = float(f"{_without_dust(value):.4g}")  # more figures than any meter is good for would only look precise
    size = abs(value)
    text = number(value, 0 if size >= 100 else 1 if size >= 10 else 2)
    return text.rstrip("0").rstrip(".") if size < 1 and "." in text else text


@dataclass(frozen=True, slots=True)
class Units:
    """The units that figures are said in, wherever no other is asked for; stored they are always lx and m."""

    light: str = "lx"
    distance: str = "m"


METRIC, IMPERIAL = Units("lx", "m"), Units("fc", "ft")
_units: ContextVar[Units] = ContextVar("units", default=METRIC)


def speak(units: Units = Units()) -> None:
    """From here on say levels and distances in these units: in this thread, and in jobs that are begun from it."""
    _units.set(units)


@contextmanager
def speaking(units: Units) -> Iterator[None]:
    """Say them so within, and nowhere else: others may speak at the same time."""
    before = _units.set(units)
    try:
        yield
    finally:
        _units.reset(before)


def light_unit() -> str:
    """The unit that levels are said in."""
    return _units.get().light


def illuminance(value: float | None, unit: str | None = None) -> str:
    """Illuminance, stored in lx, in the unit that is spoken or in another; the unit itself is not written."""
    return lux(value / LUX_PER_FOOTCANDLE if value is not None and (unit or _units.get().light) == "fc" else value)


def light(value: float | None) -> str:
    """Illuminance, stored in lx, with the unit that is spoken."""
    return f"{illuminance(value)} {_units.get().light}"


def kelvin(value: float | None) -> str:
    """Colour temperature to the kelvin."""
    return number(value)


def level(value: float | None) -> str:
    """An illuminance that was found, stored in lx, to three figures with the unit that is spoken: no meter is good for
    more, whatever it shows."""
    return f"{level_alone(value)} {_units.get().light}"


def level_alone(value: float | None) -> str:
    """The same without its unit, for a column."""
    if value is None or math.isnan(value):
        return NONE
    return lux(float(f"{value / (LUX_PER_FOOTCANDLE if _units.get().light == 'fc' else 1.0):.3g}"))


def white(value: float | None) -> str:
    """A colour temperature that was found, to ten kelvin."""
    return NONE if value is None or math.isnan(value) else number(round(value, -1))


def dialled(value: float) -> str:
    """A white as it stands on a dial: 5600, 10 000."""
    return kelvin(value) if value >= 10_000 else f"{value:.0f}"


def duv(value: float | None) -> str:
    """Duv with its sign and four decimals."""
    return number(value, 4, signed=True)


def score(value: float | None) -> str:
    """A rendering score to the whole number, as it is quoted; one that is not 100 is never called so."""
    return as_given(value)


def stops(value: float | None) -> str:
    """A ratio in stops with its sign: +1.52."""
    return number(value, 2, signed=True)


def percent(value: float | None) -> str:
    """A percentage with as many decimals as it needs below ten: 100, 38.9, 1.25, 0.39."""
    if value is None or math.isnan(value):
        return NONE
    text = number(value, 0 if abs(value) >= 100 else 1 if abs(value) >= 10 else 2)
    return text.rstrip("0").rstrip(".") if "." in text else text


def stop_word(size: float) -> str:
    """`stop` up to one of them, as it is written with two decimals, else `stops`."""
    return "stop" if round(abs(size), 2) <= 1.0 else "stops"


def stops_told(size: float, half: float) -> str:
    """A difference without its sign, in the digits that its half width lets it have, with its word: 1.2 stops."""
    shown = plain(abs(size), 2 if half < FINE_STOPS else 1)
    return f"{shown} {stop_word(float(shown))}"


FINE_STOPS = 0.05
"""A difference that is told better than this has a second decimal."""


def times(ratio: float | None) -> str:
    """A ratio as a factor: 1.60."""
    return number(ratio, 2)


def distance(metres: float | None, unit: str | None = None) -> str:
    """A distance in metres or feet; unknown when there is none.

    A mark that is round in the other unit is shown in it: nobody walks to 4.57 m.
    """
    if metres is None:
        return "distance unknown"
    feet = metres / METRES_PER_FOOT
    whole_feet = abs(feet * 2.0 - round(feet * 2.0)) < 2e-3
    whole_metres = abs(metres * 20.0 - round(metres * 20.0)) < 2e-3
    if ((unit or _units.get().distance) == "ft" and not (whole_metres and not whole_feet)) or (
        whole_feet and not whole_metres
    ):
        return f"{plain(feet, 2)} ft"
    return f"{plain(metres, 2)} m"


def breadth(metres: float) -> str:
    """How wide something is, to two figures, in metres or feet."""
    unit = _units.get().distance
    value = metres / METRES_PER_FOOT if unit == "ft" else metres
    return f"{significant(value, 2)} {unit}"


def as_given(value: float | None, text: str = "") -> str:
    """A score with the decimals it was given with, one at most; a whole number when its text is not known.

    What would be rounded up to a perfect 100 keeps a decimal: 99.8.
    """
    if value is None or math.isnan(value):
        return NONE
    decimals = 1 if "." in text.strip().strip(".") else 0
    if decimals == 0 and value != 100.0 and round(value) == 100:
        decimals = 1
    return plain(value, decimals)


def half(value: float) -> str:
    """A half width as it is said, to two figures: 5.3, 0.04, 12."""
    if value == 0.0 or not math.isfinite(value):
        return "0"
    decimals = max(0, 1 - math.floor(math.log10(abs(value))))
    return plain(value, min(decimals, 5))


def significant(value: float | None, figures: int = 3) -> str:
    """A number to so many figures, its digits grouped: 16 000."""
    if value is None or math.isnan(value):
        return NONE
    rounded = float(f"{value:.{figures}g}")
    return plain(rounded, 0 if abs(rounded) >= 10.0 ** (figures - 1) else figures)


_NOMINAL = {5.7: "5.6", 11.3: "11", 22.6: "22", 45.3: "45", 90.5: "90"}
"""Full stops by the names they go by."""


def f_stop(number_: float) -> str:
    """An f-number as it is said on set, in full stops and tenths: f/16 and 8 tenths, f/5.6."""
    full, tenths = (float(v) for v in nominal_and_tenths(number_))
    name = f"f/{_NOMINAL.get(round(full, 1), plain(full))}"
    return f"{name} and {tenths:.0f} tenth{'s' * (tenths != 1)}" if tenths else name


_THIRDS = ("", "\N{VULGAR FRACTION ONE THIRD}", "\N{VULGAR FRACTION TWO THIRDS}")


def f_thirds(number_: float) -> str:
    """An f-number in full stops and thirds, in little room: f/16⅓ is a third of a stop beyond f/16."""
    full, tenths = (float(v) for v in nominal_and_tenths(number_))
    thirds = round(tenths * 0.3)
    if thirds == 3:
        full, thirds = full * 2.0**0.5, 0
    return f"f/{_NOMINAL.get(round(full, 1), plain(full))}{_THIRDS[thirds]}"


def span(seconds_: float) -> str:
    """How long something is, roughly: 40 s, 12 min, 3 h, 2 days."""
    for size, unit in ((86_400.0, "day"), (3600.0, "h"), (60.0, "min")):
        if seconds_ >= size:
            whole = round(seconds_ / size)
            return count(whole, unit) if unit == "day" else f"{whole} {unit}"
    return f"{round(seconds_)} s"


def working_time(seconds_: float) -> str:
    """How long work takes, in whole minutes and at least one: 1 min, 85 min, 2 h 05 min."""
    minutes = max(1, round(seconds_ / 60.0))
    return f"{minutes} min" if minutes < 90 else f"{minutes // 60} h {minutes % 60:02d} min"


def seconds(exposure_s: float) -> str:
    """An exposure time: 1/50 s, 2 s."""
    return f"1/{1.0 / exposure_s:.0f} s" if exposure_s < 0.5 else f"{plain(exposure_s, 1)} s"


def plain(value: float, decimals: int = 1) -> str:
    """Without superfluous zeros: 25, 12.5."""
    text = number(value, decimals)
    return text.rstrip("0").rstrip(".") if "." in text else text
