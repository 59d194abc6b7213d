"""The one home of uncertainty: a figure with what it is uncertain by, part by part, each by its name and its cause.

A part belongs to a cause: this meter's calibration, this lamp's place at this mark in this session, the scatter of
these
readings. In a difference two parts of one cause are one error and cancel exactly as far as they are equal; all others
add up. Levels are kept in stops (log2), so that a ratio of levels is a difference of estimates.

Source: JCGM 100:2008 (GUM), equation 13 for correlated inputs; clause G.3 for Student's t. Half widths are 95 %.
"""

import math
from collections.abc import Hashable, Sequence
from functools import cache, lru_cache
from statistics import fmean
from typing import NamedTuple

import numpy as np

from even_beam.bench.fields import key_of_terms
from even_beam.bench.measured import AN_F_NUMBER, Figure, Measured
from even_beam.bench.records import Meter, Origin
from even_beam.light.photometry import LUX_PER_FOOTCANDLE
from even_beam.light.uncertainty import SCORES, USUAL_XY, WhiteSensitivity, white_sensitivity
from even_beam.words.quantities import QUANTITIES

DISTANCE_M = 0.01
"""A mark is set to this (95 %; common practice, no source)."""

PLANE_M = 0.01
"""The reference plane of a lamp is found to this (95 %; common practice, no source)."""

AIM_DEG = 2.0
"""A lamp is pointed at the meter to this (95 %; common practice, no source)."""

ASSUMED_BEAM_DEG = 60.0
"""The beam that an aim error is reckoned with where none was measured, claimed or named."""

ORIGIN_M = 0.3
"""How far before or behind its front a lamp's light may seem to come from, where no walk tells (95 %; no source)."""

XY_REPEAT = 0.0001
"""Two readings of one white agree in x and y to this (95 %; common practice, no source: 0 to 6 K at 5600 K)."""

TELLS = 1.1
"""A difference is published when it is larger than its 95 % half width by this: 97 % two-sided, so that lamps which are
the same are called different in at most five evenings of a hundred, even where the errors were a little underrated."""

TYPED_LEVEL = 0.025
"""A level that was typed once repeats to this, of a meter of which nothing was stated (relative, 95 %; no source)."""

TYPED_REPEATS = {"cct": 2.4, "duv": 0.0013}
"""... and what is read off a display to so many mired and so much Duv, of a meter whose repeatability nobody stated
(95 %; common practice, no source): a single typed figure tells nothing of its own scatter."""

XY_SETTING = 0.0005
"""A lamp that is set anew comes back to its white to this in x and y (95 %; common practice, no source: 30 K at 5600
K), so that two settings read once each are not told apart by less."""

XY_WARMTH = 0.0003
"""A lamp's white is the same from one evening to another, and so is the meter's zero, to this in x and y (95 %; no
source)."""

ASSUMED_WHITE_K = 5600.0
"""The white at which a tint is reckoned that was typed without one."""

UNKNOWN_METER = Meter("", "meter not named")

TENTH_STOPS = 0.1
"""f-numbers are read in full stops and tenths."""

_PER_NATURAL = 1.0 / float(np.log(2.0))


class Part(NamedTuple):
    """One reason for which a figure is uncertain: its 95 % half width with a sign, and its cause."""

    name: str
    cause: Hashable
    size: float


class Estimate(NamedTuple):
    """A value with the parts of its uncertainty, all in one unit; `low` and `high` bound what is only known to lie so.

    `value` is None where only a bound or a range is known.
    """

    value: float | None
    parts: tuple[Part, ...] = ()
    low: float | None = None
    high: float | None = None

    @property
    def half_width(self) -> float:
        """95 % half width: the parts in quadrature, those of one cause added first."""
        by_cause: dict[Hashable, float] = {}
        for part in self.parts:
            by_cause[part.cause] = by_cause.get(part.cause, 0.0) + part.size
        return math.hypot(*by_cause.values())

    @property
    def shares(self) -> dict[str, float]:
        """Half width by the name of its parts, the largest first; parts of one name in quadrature."""
        named: dict[str, dict[Hashable, float]] = {}
        for part in self.parts:
            causes = named.setdefault(part.name, {})
            causes[part.cause] = causes.get(part.cause, 0.0) + part.size
        sizes = {name: math.hypot(*causes.values()) for name, causes in named.items()}
        return dict(sorted(((n, s) for n, s in sizes.items() if s > 0.0), key=lambda pair: -pair[1]))

    @property
    def least(self) -> float | None:
        """The least it can be; None when nothing bounds it below."""
        bound = self.value if self.value is not None else self.low
        return None if bound is None else bound - self.half_width

    @property
    def most(self) -> float | None:
        """The most it can be; None when nothing bounds it above."""
        bound = self.value if self.value is not None else self.high
        return None if bound is None else bound + self.half_width

    def less(self, other: "Estimate") -> "Estimate":
        """What is left when the other is taken off; what is common to both cancels."""
        taken = tuple(Part(part.name, part.cause, -part.size) for part in other.parts)
        if self.value is None or other.value is None:
            return Estimate(
                None, (*self.parts, *taken), _minus(self._bottom, other._top), _minus(self._top, other._bottom)
            )
        return Estimate(self.value - other.value, (*self.parts, *taken))

    @property
    def _bottom(self) -> float | None:
        return self.value if self.value is not None else self.low

    @property
    def _top(self) -> float | None:
        return self.value if self.value is not None else self.high

    @property
    def tells(self) -> float:
        """How large a difference must be to be published."""
        return TELLS * self.half_width

    def adding(self, *parts: Part, shift: float = 0.0) -> "Estimate":
        """Moved by `shift`, and uncertain by further parts."""
        moved = [None if v is None else v + shift for v in (self.value, self.low, self.high)]
        return Estimate(moved[0], (*self.parts, *parts), moved[1], moved[2])


def _minus(a: float | None, b: float | None) -> float | None:
    return None if a is None or b is None else a - b


@cache
def picked(count: int) -> float:
    """By how many 95 % half widths the greatest of `count` must lead another, so that of equals one is called the
    greatest in at most five cases of a hundred: the chance is shared among the pairs (Bonferroni)."""
    from statistics import NormalDist

    return NormalDist().inv_cdf(1.0 - 0.025 / max(1, count * (count - 1) // 2)) / NormalDist().inv_cdf(0.975)


def mean_of(estimates: Sequence[Estimate]) -> Estimate:
    """The plain mean of estimates that all have a value; common causes stay common. Raises `ValueError` for none."""
    values = [one.value for one in estimates if one.value is not None]
    if not estimates or len(values) < len(estimates):
        raise ValueError("there is nothing to take the mean of")
    share = 1.0 / len(estimates)
    parts = tuple(Part(p.name, p.cause, p.size * share) for one in estimates for p in one.parts)
    return Estimate(fmean(values), parts)


# --- repeats


@cache
def student(freedom: int) -> float:
    """Student's t for 95 %, two-sided, with so many degrees of freedom."""
    from scipy.special import stdtrit  # not at start-up

    return float(stdtrit(freedom, 0.975))


@cache
def _unlikely(freedom: int) -> float:
    """A sum of squares over its expected variance that chance passes in 5 % of cases."""
    from scipy.special import chdtri

    return float(chdtri(freedom, 0.05))


def scatter(values: Sequence[float] | np.ndarray, promised: float) -> float:
    """The 95 % half width of the mean of repeats: as promised of one reading, or what was seen where that is larger.

    `promised` is the 95 % half width of a single reading. What was seen counts once chance would hardly explain it
    (5 %); with fewer than four readings it is pooled with the promise, since two alone tell little of their scatter.
    """
    n = len(values)
    if n < 2:
        return promised
    seen = np.asarray(values, dtype=np.float64)
    expected = promised / 1.96
    own = float(seen.var(ddof=1))
    if expected > 0.0 and (n - 1) * own / expected**2 <= _unlikely(n - 1):
        return promised / math.sqrt(n)
    prior = max(0, 4 - n)
    freedom = n - 1 + prior
    pooled = math.sqrt((prior * expected**2 + (n - 1) * own) / freedom)
    return max(promised, student(freedom) * pooled) / math.sqrt(n)


# --- levels

DISAGREE_STOPS = 0.3
"""Repeats of one level lie nearer together than this, whatever meter is held by hand (common practice, no source)."""


def agreeing(levels: Sequence[float]) -> tuple[int, ...]:
    """The places of the repeats of a level that stand: all where they agree, else the most that do if they are more
    than half; none where nothing tells which of them is right. All are above zero."""
    stops = np.log2(np.asarray(levels, dtype=np.float64))
    order = np.argsort(stops)
    best: list[int] = []
    for place, lowest in enumerate(order):
        within = [int(i) for i in order[place:] if stops[i] - stops[lowest] <= DISAGREE_STOPS]
        best = max(best, within, key=len)
    return tuple(sorted(best)) if 2 * len(best) > len(levels) else ()


def standing(repeats: Sequence[Measured]) -> list[Measured]:
    """The repeats at one set of terms whose level stands (`agreeing`); none where they disagree, or have none."""
    lit = [m for m in repeats if (m.value("illuminance") or 0.0) > 0.0]
    return [lit[place] for place in agreeing([m.value("illuminance") or 0.0 for m in lit])] if lit else []


def level(repeats: Sequence[Measured], meter: Meter, beam_deg: float | None = None) -> Estimate:
    """log2 of the mean illuminance of repeats at one set of terms, in stops; of repeats that disagree only the ends are
    known, and one that most others contradict does not count.

    `beam_deg` is the full half-peak angle of the beam, which sets what an aim error costs; None takes 60 degrees. All
    must have a level (`levels_of`). Bounds and ranges bound the result.
    """
    figures = [figure for m in repeats if (figure := m.figure("illuminance")) is not None]
    plain = [f.value for f in figures if f.value is not None and f.value > 0.0]
    first = repeats[0]
    parts = [*_calibration(first, meter), *_set_up(first, beam_deg)]
    rounding = max((_rounding(figure) for figure in figures), default=0.0)
    if rounding > 0.0:
        parts.append(Part("rounding of what was typed", ("rounding", first.reading.id), rounding * _PER_NATURAL))
    if not plain:
        ends = (math.log2(end) if end else None for end in bounds(repeats, "illuminance"))
        return Estimate(None, tuple(parts), *ends)
    stand = agreeing(plain)
    if not stand:
        return Estimate(None, tuple(parts), math.log2(min(plain)), math.log2(max(plain)))
    plain = [plain[place] for place in stand]
    mean = fmean(plain)
    promised = meter.ratio_tolerance
    if meter.is_assumed and any(figure.origin is Origin.TYPED for figure in figures):
        promised = max(promised, TYPED_LEVEL)
    relative = scatter([value / mean for value in plain], promised)
    parts.append(Part("repeatability", ("repeats", first.reading.id), relative * _PER_NATURAL))
    return Estimate(math.log2(mean), tuple(parts))


def _calibration(first: Measured, meter: Meter) -> list[Part]:
    """Common to all readings of one meter; an unnamed one is taken as the same within its session alone."""
    reading = first.reading
    cause = reading.meter_id or ("unnamed", reading.session_id)
    return [Part("calibration of the meter", ("calibration", cause), meter.level_tolerance * _PER_NATURAL)]


def _set_up(first: Measured, beam_deg: float | None) -> list[Part]:
    """Mark, reference plane and aim of one lamp in one session; nothing of them is known without a distance."""
    reading, terms = first.reading, first.terms
    place = (reading.session_id, reading.source_ids)
    aim = _aim(beam_deg or ASSUMED_BEAM_DEG) * _PER_NATURAL
    here = (*place, terms.distance_m, terms.angle_deg)
    if not terms.distance_m:
        return [Part("aim", ("aim", here), aim)]
    each = 2.0 / terms.distance_m * _PER_NATURAL
    return [
        Part("distance of the mark", ("mark", here), each * DISTANCE_M),
        Part("reference plane", ("plane", place), each * PLANE_M),
        Part("aim", ("aim", here), aim),
    ]


def _aim(beam_deg: float) -> float:
    """What an aim error costs at the peak of a beam, relative: second order, for there is no first."""
    return math.log(2.0) * (AIM_DEG / (beam_deg / 2.0)) ** 2


def _rounding(figure: Figure) -> float:
    """The relative 95 % half width that the last digit of a typed figure leaves open; 0 for what a device gave."""
    if figure.qualifier == AN_F_NUMBER:
        return 0.95 * TENTH_STOPS / 2.0 / _PER_NATURAL
    if figure.origin is not Origin.TYPED or figure.value is None or figure.value <= 0.0:
        return 0.0
    digits = figure.text.strip().lower()
    number = digits.rstrip("abcdefghijklmnopqrstuvwxyz/²' ").replace(" ", "").replace("\u202f", "")
    unit = LUX_PER_FOOTCANDLE if "fc" in digits or "foot" in digits else 1000.0 if digits.endswith("k") else 1.0
    if not number or not set(number) <= set("0123456789.,"):
        return 0.0
    decimals = len(number.partition(".")[2]) if "," not in number else 0
    return 0.95 * 0.5 * 10.0**-decimals * unit / figure.value


def exposure(repeats: Sequence[Measured], meter: Meter) -> Estimate:
    """Stops of exposure from f-numbers: 2 log2 N. Its zero is that of one ISO, shutter and meter: for ratios alone."""
    found = np.array([2.0 * np.log2(n) for m in repeats if (n := m.value("f_stop"))])
    first = repeats[0]
    promised = meter.ratio_tolerance * _PER_NATURAL
    parts = [*_calibration(first, meter), *_set_up(first, None)]
    parts.append(Part("repeatability", ("repeats", first.reading.id), scatter(found, promised)))
    parts.append(Part("rounding to tenths", ("tenths", first.reading.id), 0.95 * TENTH_STOPS / 2.0))
    return Estimate(float(found.mean()), tuple(parts))


def bring(found: Estimate, first: Measured, target_m: float) -> Estimate:
    """A level read at one mark, brought by the inverse square to one farther out: where its light comes from is not
    known.

    Raises `ValueError` for a mark that is not farther: nothing is brought inward.
    """
    distance = first.terms.distance_m
    if distance is None or target_m < distance:
        raise ValueError("a level is never brought inward")
    law = 2.0 * ORIGIN_M * (1.0 / distance - 1.0 / target_m) * _PER_NATURAL
    reading = first.reading
    part = Part("distance law", ("law", reading.session_id, reading.source_ids, distance, target_m), law)
    return found.adding(part, shift=2.0 * float(np.log2(distance / target_m)))


# --- whites


@lru_cache(maxsize=4096)
def _sensitivity(mired: int, duv: float) -> WhiteSensitivity:
    """At the nearest whole mired and thousandth of Duv, between which it hardly changes."""
    return white_sensitivity(1e6 / max(mired, 1), duv)


def white(repeats: Sequence[Measured], meter: Meter) -> Estimate:
    """The white of repeats in mired. All must have a colour temperature; where none is plain, bounds and ranges bound
    the result."""
    mired = [1e6 / cct for m in repeats if (cct := m.value("cct"))]
    duv = [d for m in repeats if (d := m.value("duv")) is not None]
    if mired:
        return _white(mired, duv, repeats[0], meter)
    low, high = bounds(repeats, "cct")
    coolest, warmest = (None if kelvin is None else 1e6 / kelvin for kelvin in (high, low))
    return Estimate(None, _white([_middle(coolest, warmest)], duv, repeats[0], meter).parts, coolest, warmest)


def _white(mired: Sequence[float], duv: Sequence[float], first: Measured, meter: Meter) -> Estimate:
    by = _sensitivity(round(fmean(mired)), round(fmean(duv) if duv else 0.0, 3))
    return _chromatic(
        what="cct", first=first, values=mired, meter=meter, by_x=float(by.mired_by_x), by_y=float(by.mired_by_y)
    )


def tint(repeats: Sequence[Measured], meter: Meter) -> Estimate:
    """The Duv of repeats, as its distance from the Planckian. All must have one; where none is plain, bounds and ranges
    bound the result."""
    duv = [d for m in repeats if (d := m.value("duv")) is not None]
    cct = [c for m in repeats if (c := m.value("cct"))]
    if duv:
        return _tint(duv, cct, repeats[0], meter)
    low, high = bounds(repeats, "duv")
    return Estimate(None, _tint([_middle(low, high)], cct, repeats[0], meter).parts, low, high)


def _tint(duv: Sequence[float], cct: Sequence[float], first: Measured, meter: Meter) -> Estimate:
    by = _sensitivity(round(1e6 / (fmean(cct) if cct else ASSUMED_WHITE_K)), round(fmean(duv), 3))
    return _chromatic(
        what="duv", first=first, values=duv, meter=meter, by_x=float(by.duv_by_x), by_y=float(by.duv_by_y)
    )


def bounds(repeats: Sequence[Measured], quantity: str) -> tuple[float | None, float | None]:
    """The least and the most that was typed of a quantity; None where one of the repeats leaves that end open."""
    figures = [figure for m in repeats if (figure := figure_of(m, quantity)) is not None]
    lows, highs = [f.low for f in figures if f.low is not None], [f.high for f in figures if f.high is not None]
    return (
        min(lows) if len(lows) == len(figures) and lows else None,
        max(highs) if len(highs) == len(figures) and highs else None,
    )


def _middle(*ends: float | None) -> float:
    """Where between two ends, or at the one that is known. Raises `ValueError` where neither is."""
    known = [end for end in ends if end is not None]
    if not known:
        raise ValueError("nothing bounds this figure")
    return fmean(known)


def _chromatic(what: str, first: Measured, values: Sequence[float], meter: Meter, by_x: float, by_y: float) -> Estimate:
    """A figure of chromaticity that answers to x and y by so much: the meter's error of each, the evening's, and
    chance."""
    size = math.hypot(by_x, by_y)
    figure = first.figure(what)
    is_typed = figure is not None and figure.origin is Origin.TYPED
    parts = (
        *_chromaticity(first, by_x * meter.xy_tolerance, by_y * meter.xy_tolerance),
        _evening(first, size * XY_WARMTH),
        Part("setting the lamp", ("set", first.reading.session_id, key_of_terms(first.terms)), size * XY_SETTING),
        Part(
            "repeatability",
            (what, first.reading.id),
            scatter(values, TYPED_REPEATS[what] if is_typed else size * XY_REPEAT),
        ),
    )
    return Estimate(fmean(values), parts)


def _chromaticity(first: Measured, by_x: float, by_y: float) -> list[Part]:
    """A meter's error of x and of y, the same in all its readings: it cancels between whites that are alike."""
    cause = first.reading.meter_id or ("unnamed", first.reading.session_id)
    return [Part("calibration of the meter", (axis, cause), size) for axis, size in (("x", by_x), ("y", by_y))]


def _evening(first: Measured, size: float) -> Part:
    """Lamp and meter as they are that evening: common to all that is read of one lamp in one session."""
    return Part("the evening", ("evening", first.reading.session_id, first.reading.source_ids), size)


# --- scores


def score(repeats: Sequence[Measured], quantity: str, meter: Meter) -> Estimate:
    """A score of repeats: the mean, or the bounds that were typed. What a spectrum leaves open is found from itself."""
    plain = [v for m in repeats if (v := _plain(m, quantity)) is not None]
    first = repeats[0]
    half = fmean([_score_half_width(m, quantity, meter) for m in repeats])
    cause = first.reading.meter_id or ("unnamed", first.reading.session_id)
    part = Part("spectrum as the meter sees it", (quantity, cause, first.reading.source_ids), half)
    if plain:
        return Estimate(fmean(plain), (part,))
    return Estimate(None, (part,), *bounds(repeats, quantity))


def _plain(measured: Measured, quantity: str) -> float | None:
    value = measured.value(quantity)
    found = figure_of(measured, quantity) if value is None else None
    return found.value if found is not None else value


def figure_of(measured: Measured, quantity: str) -> Figure | None:
    """A figure, also of R1-R15 where they stand in the computed vector alone."""
    found = measured.figure(quantity)
    if found is not None or not (quantity.startswith("r") and quantity[1:].isdigit()):
        return found
    vector = measured.vectors.get("R", ())
    place = int(quantity[1:]) - 1
    return Figure(vector[place], Origin.COMPUTED) if place < len(vector) and math.isfinite(vector[place]) else None


def _score_half_width(measured: Measured, quantity: str, meter: Meter) -> float:
    own = measured.vectors.get("half_widths", ())
    scale = meter.xy_tolerance / USUAL_XY
    if quantity in SCORES and own:
        found = own[SCORES.index(quantity)]
        if math.isfinite(found):
            return scale * float(found)
    return scale * QUANTITIES[quantity].half_typed
