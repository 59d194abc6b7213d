"""Levels along a distance walk: the law they follow, whether it holds, and what it says of a mark between them.

A level is brought to another distance only inside the distances walked, where the law holds, or from the farthest mark
outward by the inverse square. Never inward, and never along a walk that strays: then each distance stands by itself.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from even_beam.bench import estimate
from even_beam.bench.estimate import Estimate, Part
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter
from even_beam.light.photometry import DistanceLaw, fit_distance_law, like_a_disc
from even_beam.words import notation

LEAST_MARKS = 3
"""So many distances make a walk."""

HOLDS_STOPS = 0.1
"""A walk follows its law when no mark that it is fitted through strays farther than this."""

LARGEST_PANEL_M = 0.6
"""Panels and softboxes have at most so large a radius (common practice, no source)."""

LEAST_SOURCE_M = 0.1
"""A source nearer to the front than this is not told: marks, hand and a meter's scatter make as much (no source)."""

SAME_MARK_M = 0.002


class NotBroughtError(ValueError):
    """A level that cannot be had at a distance; the message says why."""


@dataclass(frozen=True, slots=True)
class Brought:
    """How a level was had where it was not read: along its own walk (`walk` says how that bears its law out), or by
    the inverse square from the mark at `from_m` alone."""

    from_m: float | None = None
    walk: str = ""

    @property
    def words(self) -> str:
        """In a clause."""
        if self.from_m is None:
            return f"brought along its own walk ({self.walk})"
        return f"brought from {notation.distance(self.from_m)} by the inverse-square law"

    @property
    def caution(self) -> str:
        """In a clause that says what it rests on: a walk, or none."""
        if self.from_m is None:
            return self.words
        return f"brought from {notation.distance(self.from_m)} (by the inverse-square law, no walk read)"


@dataclass(frozen=True, eq=False)
class Walk:
    """Readings of one lamp that differ in their distance alone, by mark, the nearest first; each mark has a level."""

    marks: tuple[tuple[Measured, ...], ...]
    meter: Meter
    beam_deg: float | None = None

    @classmethod
    def of(cls, readings: Sequence[Measured], meter: Meter, beam_deg: float | None = None) -> "Walk":
        """The walk of readings at one set of terms but for the distance; those without one are left out."""
        by_mark: dict[float, list[Measured]] = {}
        for measured in readings:
            lit = not measured.is_loaded or measured.figure("illuminance") is not None
            if measured.terms.distance_m and lit:
                by_mark.setdefault(round(measured.terms.distance_m / SAME_MARK_M), []).append(measured)
        return cls(tuple(tuple(by_mark[mark]) for mark in sorted(by_mark)), meter, beam_deg)

    @cached_property
    def distances_m(self) -> tuple[float, ...]:
        """The marks, rising."""
        return tuple(float(mark[0].terms.distance_m or 0.0) for mark in self.marks)

    @cached_property
    def levels(self) -> tuple[Estimate, ...]:
        """The level at each mark, log2 lx."""
        return tuple(estimate.level(mark, self.meter, self.beam_deg) for mark in self.marks)

    @cached_property
    def law(self) -> DistanceLaw | None:
        """The fitted law; None for fewer than three marks with a plain level."""
        known = [(d, one) for d, one in zip(self.distances_m, self.levels, strict=True) if one.value is not None]
        if len(known) < LEAST_MARKS:
            return None
        errors = [self._own_error(one) for _, one in known]
        values = np.exp2([float(one.value or 0.0) for _, one in known])
        return fit_distance_law(np.array([d for d, _ in known]), values, np.array(errors), estimate.PLANE_M / 1.96)

    @staticmethod
    def _own_error(level: Estimate) -> float:
        """What scatters each mark by itself, as a relative standard deviation: neither the meter nor the plane."""
        own = [p.size for p in level.parts if p.name not in {"calibration of the meter", "reference plane"}]
        return max(float(np.sqrt(sum(size**2 for size in own))) * float(np.log(2.0)) / 1.96, 1e-3)

    @cached_property
    def used_m(self) -> tuple[float, ...]:
        """The marks that the law is fitted through."""
        if self.law is None:
            return ()
        return tuple(d for d, near in zip(self._known_m, self.law.near_field, strict=True) if not near)

    @property
    def _known_m(self) -> list[float]:
        return [d for d, one in zip(self.distances_m, self.levels, strict=True) if one.value is not None]

    @cached_property
    def worst_stops(self) -> float:
        """How far the mark strays that strays most, of those that are not near field; infinite without a law."""
        if self.law is None:
            return float("inf")
        inside = ~self.law.near_field
        return float(np.max(np.abs(self.law.residual_stops[inside])))

    @property
    def holds(self) -> bool:
        """Whether the walk bears a law out: three marks or more, none of which strays by more than a tenth of a
        stop."""
        return len(self.used_m) >= LEAST_MARKS and self.worst_stops <= HOLDS_STOPS

    @cached_property
    def may_be_a_panel(self) -> bool:
        """Whether light from a disc at the front explains the walk as well: then nothing comes from behind it."""
        known = [(d, one) for d, one in zip(self.distances_m, self.levels, strict=True) if one.value is not None]
        levels = np.exp2([float(one.value or 0.0) for _, one in known])
        errors = np.array([self._own_error(one) for _, one in known])
        marks = np.array([d for d, _ in known])
        return like_a_disc(marks, levels, np.hypot(errors, 2.0 * estimate.PLANE_M / 1.96 / marks), LARGEST_PANEL_M)

    @property
    def source_words(self) -> str:
        """Where the light seems to come from, in words; empty where the walk cannot tell it from the front, or from a
        panel there."""
        if self.law is None or not self.law.resolved or not self.holds or self.may_be_a_panel:
            return ""
        off = self.law.offset_m
        if abs(off) < LEAST_SOURCE_M:
            return ""
        half = 1.96 * self.law.offset_error_m
        where = "behind the front" if off < 0.0 else "in front of it"
        return f"as from {notation.number(100.0 * abs(off))} ±{notation.number(100.0 * half)} cm {where}"

    @property
    def words(self) -> str:
        """How the walk bears its law out, in a clause."""
        span = f"{notation.distance(self.distances_m[0])} to {notation.distance(self.distances_m[-1])}"
        if self.law is None:
            return "no walk was read"
        if not self.holds:
            return (
                f"the walk from {span} strays {self.worst_stops:.2f} {notation.stop_word(self.worst_stops)} from the"
                " law, so each distance stands by itself"
            )
        nearest = f"{notation.distance(min(self.used_m))} to {notation.distance(self.distances_m[-1])}"
        source = f", {self.source_words}" if self.source_words else ""
        return f"the walk from {nearest} follows the law within {max(self.worst_stops, 0.01):.2f} stop{source}"

    def at(self, target_m: float) -> tuple[Estimate, tuple[Measured, ...], Brought | None]:
        """The level at a distance, the readings it rests on, and how it was had (None: read there).

        Raises `NotBroughtError` where it cannot be had.
        """
        for distance, level, mark in zip(self.distances_m, self.levels, self.marks, strict=True):
            if abs(distance - target_m) <= SAME_MARK_M:
                return level, mark, None
        if not self.marks:
            raise NotBroughtError("its distance was not stated")
        nearest, farthest = self.distances_m[0], self.distances_m[-1]
        if target_m < nearest:
            raise NotBroughtError(f"read from {notation.distance(nearest)} on, and nothing is brought inward")
        if self.law is not None and not self.holds:
            raise NotBroughtError(self.words)
        if self.law is not None and min(self.used_m) <= target_m <= farthest:
            return (
                self._between(self.law, target_m),
                tuple(m for mark in self.marks for m in mark),
                Brought(walk=self.words),
            )
        if self.law is not None and target_m < farthest:
            raise NotBroughtError(f"nearer than {notation.distance(min(self.used_m))} it falls short of the law")
        place = max(i for i, d in enumerate(self.distances_m) if d <= target_m)
        mark, level = self.marks[place], self.levels[place]
        return estimate.bring(level, mark[0], target_m), mark, Brought(self.distances_m[place])

    def at_law(self, target_m: float) -> Estimate:
        """What the law gives at a distance inside the walk, also at a mark. Raises `NotBroughtError` without a law."""
        if self.law is None:
            raise NotBroughtError("no walk was read")
        return self._between(self.law, target_m)

    def _between(self, law: DistanceLaw, target_m: float) -> Estimate:
        """The level that the law gives at a mark between those walked."""
        per_natural = 1.0 / float(np.log(2.0))
        first = self.marks[0][0]
        reading = first.reading
        place = (reading.session_id, reading.source_ids)
        fit = max(1.96 * float(law.relative_error(target_m)), self.worst_stops / per_natural / 2.0) * per_natural
        shared = [p for p in self.levels[0].parts if p.name == "calibration of the meter"]
        plane = Part("reference plane", ("plane", place), 2.0 / target_m * estimate.PLANE_M * per_natural)
        return Estimate(
            float(np.log2(law.illuminance(target_m))),
            (*shared, plane, Part("distance law", ("walk", place, target_m), fit)),
        )
