"""What is known of one lamp at any of its terms: every level, white, tint, score and mean that any door says is asked
for here, of the readings that were taken there."""

import math
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from statistics import fmean
from typing import Any, NamedTuple, TypeVar

from even_beam.bench import estimate, fields, terms, terms_in_words
from even_beam.bench.beam_angle import BeamAngles
from even_beam.bench.estimate import UNKNOWN_METER, Estimate
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF, SOURCE_KINDS, Claim, Cost, Gear, Meter, Terms
from even_beam.words import notation

Found = TypeVar("Found")


class Disagreeing(NamedTuple):
    """Repeats of a level at one set of terms: those that `stand`, none where nothing tells, and those that are left
    `out`."""

    stand: tuple[Measured, ...]
    out: tuple[Measured, ...]


@dataclass(frozen=True, eq=False)
class Evidence:
    """One fixture with the readings that count, of one session or of many, and what is known of it beside.

    `session_names` are those of the sessions by id, as they are said where more than one stands beside another.
    """

    source_id: str
    name: str
    kind: str
    readings: tuple[Measured, ...]
    meters: Mapping[str, Meter] = field(default_factory=dict)
    claims: tuple[Claim, ...] = ()
    costs: tuple[Cost, ...] = ()
    gear: tuple[Gear, ...] = ()
    session_names: Mapping[str, str] = field(default_factory=dict)

    def meter_of(self, measured: Measured) -> Meter:
        """The meter of a reading; a handheld one's promises where it was not named."""
        return self.meters.get(measured.reading.meter_id or "", UNKNOWN_METER)

    def is_bright(self, measured: Measured) -> bool:
        """Whether there was light enough for the meter's colour figures; where no level was read nothing says
        otherwise."""
        level = measured.value("illuminance")
        return level is None or level >= self.meter_of(measured).dim_lx

    def having(self, quantity: str) -> list[Measured]:
        """The readings with a plain figure of a quantity; looked for once."""
        if quantity not in self._having:
            self._having[quantity] = [m for m in self.readings if m.value(quantity) is not None]
        return self._having[quantity]

    @cached_property
    def _having(self) -> dict[str, list[Measured]]:
        return {}

    @cached_property
    def lit(self) -> list[Measured]:
        """The readings with an illuminance above zero, on the beam axis."""
        return [m for m in self.across if m.terms.angle_deg == 0.0]

    @cached_property
    def full(self) -> list[Measured]:
        """Those at full level, as `full_level` has it."""
        return full_level(self.lit)

    @cached_property
    def _falling(self) -> Sequence[Sequence[Measured]]:
        """Groups that differ in their level alone, the highest first; what stated no level comes last."""
        groups = terms.grouped(self.readings, "level").values()
        return [sorted(group, key=lambda m: (_level(m) is None, -(_level(m) or 0.0))) for group in groups]

    def full_level_of(self, usable: Callable[[Measured], bool]) -> list[Measured]:
        """The `full_level` of the readings that are of use; readings are grouped once for all questions."""
        found: list[Measured] = []
        for group in self._falling:
            first: Measured | None = None
            for m in group:
                if first is not None and m.terms.level_pct != first.terms.level_pct:
                    break
                if usable(m):
                    first = first or m
                    found.append(m)
        return found

    @cached_property
    def across(self) -> list[Measured]:
        """The readings with an illuminance above zero, at any angle, whose repeats do not contradict it."""
        out = {m.reading.id for group in self.disagreeing for m in group.out}
        return [m for m in self._with_a_level if m.reading.id not in out]

    @cached_property
    def _with_a_level(self) -> list[Measured]:
        return [m for m in self.readings if m.terms.mode != OFF and (m.value("illuminance") or 0.0) > 0.0]

    @cached_property
    def disagreeing(self) -> list["Disagreeing"]:
        """Repeats of a level that do not agree, at each set of terms."""
        found = []
        for repeats in terms.grouped(self._with_a_level).values():
            stand = estimate.standing(repeats) if len(repeats) > 1 else repeats
            if len(stand) < len(repeats):
                found.append(Disagreeing(tuple(stand), tuple(m for m in repeats if m not in stand)))
        return found

    @cached_property
    def _said(self) -> Mapping[str, str]:
        """Meters and sessions by what they are called, as far as there is more than one of each."""
        meters = {m.reading.meter_id for m in self.readings}
        sessions = {m.reading.session_id for m in self.readings}
        names = {i or "": self.meters.get(i or "", UNKNOWN_METER).nickname for i in meters} if len(meters) > 1 else {}
        return {**names, **({i: self.session_names.get(i, "") for i in sessions} if len(sessions) > 1 else {})}

    def at(self, measured: Measured, *but: str) -> str:
        """The terms of a reading in a line, those in `but` left out; meter and session where there are several."""
        if not (self.is_fixture or measured.terms.configuration):
            but = (*but, "configuration")
        asked = measured.terms, but
        if asked not in self._lines:
            self._lines[asked] = terms.said_of(measured.terms, *but)
        return terms.with_names(self._lines[asked], measured, *but, names=self._said) or "terms that were not stated"

    def apart(self, measured: Measured, base: Measured, *but: str) -> str:
        """The terms in which a reading differs from another, those in `but` left out, as they follow a sentence: at
        3200 K, by Wall meter, on 2 Nov 2026; empty where none does. What was stated of the other alone is said not to
        be."""
        same = [name for name in fields.NAMES if terms.value(measured, name) == terms.value(base, name)]
        left = (*but, *same)
        said = terms.said_of(measured.terms, *left)
        meter = self._said.get(measured.reading.meter_id or "", "") if "meter" not in left else ""
        session = self._said.get(measured.reading.session_id, "") if "session" not in left else ""
        unstated = [
            fields.BY_NAME[name].label
            for name in fields.NAMES
            if name not in {*left, *terms.READ, "distance"} and terms.value(measured, name) is fields.UNSTATED
        ]
        silent = f"{notation.listed(unstated)} not stated" if unstated else ""
        placed = (said and f"at {said}", meter and f"by {meter}", session and f"on {session}", silent)
        return ", ".join(part for part in placed if part)

    @cached_property
    def _lines(self) -> dict[tuple[Terms, tuple[str, ...]], str]:
        return {}

    @property
    def is_fixture(self) -> bool:
        """Whether it has something to dial; sun, window and flash are read as they are found."""
        return self.kind not in SOURCE_KINDS[1:]

    @cached_property
    def beam_angles(self) -> BeamAngles:
        """The half-peak angles of its beams, where they are known."""
        return BeamAngles(self.readings, self.claims)

    @cached_property
    def _found(self) -> dict[Hashable, Any]:
        return {}

    def level_of(self, repeats: Sequence[Measured]) -> Estimate:
        """log2 of the mean illuminance of repeats at one set of terms, with what meter and placement leave open.

        Many questions rest on the same repeats: each mean is taken once.
        """
        first = repeats[0]
        return self._once(
            "level", repeats, lambda: estimate.level(repeats, self.meter_of(first), self.beam_angles.of(first))
        )

    def white_of(self, repeats: Sequence[Measured]) -> Estimate:
        """The white of repeats at one set of terms in mired; taken once."""
        return self._once("white", repeats, lambda: estimate.white(repeats, self.meter_of(repeats[0])))

    def tint_of(self, repeats: Sequence[Measured]) -> Estimate:
        """The Duv of repeats at one set of terms; taken once."""
        return self._once("tint", repeats, lambda: estimate.tint(repeats, self.meter_of(repeats[0])))

    def score_of(self, repeats: Sequence[Measured], name: str) -> Estimate:
        """A colour score of repeats at one set of terms; taken once."""
        return self._once(name, repeats, lambda: estimate.score(repeats, name, self.meter_of(repeats[0])))

    def exposure_of(self, repeats: Sequence[Measured]) -> Estimate:
        """The f-numbers of repeats in stops of exposure, for ratios alone."""
        return self._once("exposure", repeats, lambda: estimate.exposure(repeats, self.meter_of(repeats[0])))

    def _once(self, what: str, repeats: Sequence[Measured], find: Callable[[], Estimate]) -> Estimate:
        return self.once((what, ids(repeats)), find)

    def once(self, what: Hashable, find: Callable[[], Found]) -> Found:
        """What several questions rest on, found for the first of them."""
        if what not in self._found:
            self._found[what] = find()
        found: Found = self._found[what]
        return found


def mean_of(repeats: Sequence[Measured], quantity: str) -> float | None:
    """The one figure that repeats at one set of terms amount to, wherever it is shown: of levels the mean of those that
    stand, of whites the mean in mired, else the plain mean; None where none is plain, or levels disagree."""
    stand = estimate.standing(repeats) if quantity == "illuminance" else repeats
    values = [value for m in stand if (value := m.value(quantity)) is not None]
    return mean_figure(values, quantity) if values else None


def mean_figure(values: Sequence[float], quantity: str) -> float:
    """The mean of plain figures of one quantity: of whites in mired, in which the eye and the errors are even. Raises
    `StatisticsError` for none."""
    return 1.0 / fmean([1.0 / v for v in values]) if quantity == "cct" and all(values) else fmean(values)


def lux_of(level: Estimate) -> float:
    """The level itself. Raises `ValueError` where only a bound is known."""
    if level.value is None:
        raise ValueError("only a bound is known of this level")
    return 2.0**level.value


def relative(stops: float) -> float:
    """A half width in stops as a share: what a level may be off by, upwards and on the mean of both sides."""
    return math.sinh(stops * math.log(2.0))


def ids(readings: Sequence[Measured]) -> tuple[str, ...]:
    """The readings a finding came from."""
    return tuple([m.reading.id for m in readings])


def value_of(measured: Measured, quantity: str) -> float:
    """A figure that is known to be there."""
    value = measured.value(quantity)
    if value is None:
        raise ValueError(f"the reading has no {quantity}")
    return value


def full_level(readings: Sequence[Measured]) -> list[Measured]:
    """Of each group that differs in its level alone, the readings at the highest; all where no level was dialled."""
    return [m for group in terms.grouped(readings, "level").values() for m in _highest(group)]


def _level(measured: Measured) -> float | None:
    return measured.terms.level_pct


def _highest(group: Sequence[Measured]) -> list[Measured]:
    top = max((m.terms.level_pct for m in group if m.terms.level_pct is not None), default=None)
    return [m for m in group if m.terms.level_pct == top]


def numbers(grouped: Mapping[Hashable, list[Measured]]) -> list[tuple[float, list[Measured]]]:
    """Groups by a field that is a number, rising; those that did not state it are left out."""
    stated = ((float(v), ms) for v, ms in grouped.items() if isinstance(v, int | float))
    return sorted(stated, key=lambda pair: pair[0])


def is_near(dialled_k: float | None, white_k: float) -> bool:
    """Whether a dial stands at a white as near as its steps allow: one of eight bits has no 5600 K, but 5606."""
    return dialled_k is not None and abs(1e6 / dialled_k - 1e6 / white_k) <= DIAL_STEP_MIRED


DIAL_STEP_MIRED = 3.0
"""Half the step of a dial of eight bits over a usual range of whites, at its warm end."""


def usual(measured: Measured) -> int:
    """What moves a finding forward: a bare lamp, a working white, neither tint nor hue dialled, no mode of its own, on
    the axis, all its terms stated."""
    terms_ = measured.terms
    stated = (terms_.level_pct is not None) + (terms_.distance_m is not None)
    return (
        3 * (not terms_.configuration)
        + 2 * (terms_.cct_k is None or is_near(terms_.cct_k, 5600.0))
        + is_near(terms_.cct_k, 3200.0)
        + 6 * stated
        - 3 * (terms.value(measured, "tint") is not fields.UNSTATED)
        - 3 * (terms_.mode not in terms_in_words.PLAIN_MODES and terms_.hue_deg is None)
        - 6 * (terms_.hue_deg is not None)
        - 3 * (terms_.angle_deg != 0.0)
        - 12
    )


def most_usual(readings: Sequence[Measured]) -> int:
    """How far forward a finding on several readings stands: as the most usual of them."""
    return max(map(usual, readings))
