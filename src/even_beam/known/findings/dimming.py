"""What the dimmer does: the law it follows, the true minimum, drift of white and tint, settings that change by
themselves."""

import math
import operator
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from statistics import fmean

import numpy as np

from even_beam.bench import fields, terms
from even_beam.bench.estimate import Estimate, picked
from even_beam.bench.measured import Measured
from even_beam.known.evidence import Evidence, ids, numbers, value_of
from even_beam.known.findings import dimming_law
from even_beam.known.findings.finding import Finding, shift_words
from even_beam.light.spectra import FloatArray
from even_beam.words import notation


@dataclass(frozen=True, eq=False)
class Curve:
    """Readings that differ in their level alone: dial in %, rising, and the light at each.

    `full` is whether the highest that was read is 100 %; without it nothing is said of full.
    """

    dial_pct: FloatArray
    levels: tuple[Estimate, ...]
    readings: tuple[Measured, ...]

    @cached_property
    def got(self) -> FloatArray:
        """Stops below the highest."""
        levels = np.array([one.value or 0.0 for one in self.levels])
        return levels - levels[-1]

    @cached_property
    def least(self) -> Estimate:
        """The lowest level that was read against the highest, in stops."""
        return self.levels[0].less(self.levels[-1])

    @cached_property
    def set_(self) -> FloatArray:
        """Stops that the dial would be below the highest in proportion."""
        return np.log2(self.dial_pct / self.dial_pct[-1])

    @property
    def scatter(self) -> FloatArray:
        """The standard deviation of each level by itself, in stops."""
        own = [sum(p.size for p in one.parts if p.name == "repeatability") for one in self.levels]
        return np.array(own) / 1.96

    @property
    def full(self) -> bool:
        """Whether the highest level read is full."""
        return float(self.dial_pct[-1]) == 100.0

    @property
    def of_what(self) -> str:
        """What the shares are of, in words."""
        return "of full" if self.full else f"of its level at {self.dial_pct[-1]:g} %, for full was not read"


def curves(evidence: Evidence) -> list[Curve]:
    """Every dimmer curve of three levels or more."""
    found = []
    for group in _dimmed(evidence):
        by_level = numbers(terms.by_value(group, "level"))
        levels = tuple(evidence.level_of(repeats) for _, repeats in by_level)
        found.append(Curve(np.array([level for level, _ in by_level]), levels, tuple(group)))
    return found


def _dimmed(evidence: Evidence) -> list[list[Measured]]:
    """Readings that differ in their level alone, of three levels or more."""

    def found() -> list[list[Measured]]:
        groups = terms.grouped([m for m in evidence.lit if m.terms.level_pct], "level").values()
        return [group for group in groups if len(terms.by_value(group, "level")) >= 3]

    return evidence.once("dimmed", found)


def law(evidence: Evidence) -> tuple[Finding, ...]:
    """Actual output against the dial, the law it follows, the true minimum and the largest departure from
    proportion."""
    found: list[Finding] = []
    for curve in curves(evidence):
        words = dimming_law.told(curve.set_, curve.got, curve.scatter).words
        exponent = _exponent_of(curve)
        scatter = float(np.abs(curve.got[:-1] - exponent * curve.set_[:-1]).mean())
        said, readings = evidence.at(curve.readings[0], "level"), ids(curve.readings)
        dial, share = curve.dial_pct.tolist(), (100.0 * np.exp2(curve.got)).tolist()
        off = (curve.got - curve.set_).tolist()
        worst = max(range(len(off)), key=lambda n: abs(off[n]))
        series = {"dial_pct": tuple(dial), "output_pct": tuple(share), "stops": tuple(curve.got.tolist())}
        far = (
            f"Farthest from proportion at {dial[worst]:g} %: {notation.percent(float(f'{share[worst]:.2g}'))} %"
            f" {curve.of_what}, {notation.number(abs(off[worst]), 2)} {notation.stop_word(off[worst])}"
            f" {'below' if off[worst] < 0.0 else 'above'} it."
            if abs(off[worst]) > 0.1
            else ""
        )
        found.append(
            Finding(
                question="dimming",
                name="exponent of the dimmer",
                value=exponent,
                unit="",
                words=f"The dimmer {words}",
                aside=far,
                terms=said,
                readings=readings,
                axis=("level",),
                spread=scatter,
                uncertainty=_exponent_uncertainty(curve),
                series=series,
                not_covered=() if curve.full else ("full level: it was not read",),
                weight=44,
            )
        )
        low, half = curve.least, curve.least.half_width
        found.append(
            Finding(
                question="dimming",
                name="true minimum",
                value=low.value,
                unit="stops",
                words=(
                    f"At {dial[0]:g} %, the lowest read, it gives {notation.percent(float(f'{share[0]:.2g}'))} %"
                    f" {curve.of_what} ({notation.stops(low.value)} stops)"
                ),
                terms=said,
                readings=readings,
                axis=("level",),
                uncertainty=half,
                ratio_uncertainty=half,
                not_covered=(f"below {dial[0]:g} %",),
                rests_on=low,
                weight=43,
            )
        )
    return tuple(found)


def _exponent_of(curve: Curve) -> float:
    """The power of the dial that comes nearest, by least squares in stops through the highest level."""
    x, y = curve.set_[:-1], curve.got[:-1]
    return float(x @ y / (x @ x))


def _exponent_uncertainty(curve: Curve) -> float:
    """95 % half width of the exponent: each level by itself, and the highest, which is common to all shares."""
    x = curve.set_[:-1].tolist()
    *own, common = [sum(p.size for p in one.parts if p.name == "repeatability") for one in curve.levels]
    return math.hypot(*map(operator.mul, x, own), common * sum(x)) / sum(one * one for one in x)


def drift(evidence: Evidence) -> tuple[Finding, ...]:
    """How white and tint move over the levels that can be trusted: end to end, and their whole span."""
    found = []
    groups = terms.grouped([m for m in evidence.readings if m.terms.level_pct and m.value("cct")], "level").values()
    for group in groups:
        trusted = [m for m in group if evidence.is_bright(m)]
        by_level = numbers(terms.by_value(trusted, "level"))
        if len(by_level) < 2:
            continue
        whites = [evidence.white_of(repeats) for _, repeats in by_level]
        mired = [one.value or 0.0 for one in whites]
        shift = whites[0].less(whites[-1])
        span = max(mired) - min(mired)
        low, high = mired.index(min(mired)), mired.index(max(mired))
        widest = whites[high].less(whites[low])
        tints = [_mean_duv(repeats) for _, repeats in by_level]
        levels = [level for level, _ in by_level]
        said = evidence.at(group[0], "level")
        between = (
            f"; at most {span:.1f} mired apart ({levels[high]:g} % against {levels[low]:g} %)"
            if span - abs(shift.value or 0.0) > 0.5 and span > picked(len(whites)) * widest.half_width
            else ""
        )
        moved = ", ".join(shift_words(shift, _tint_shift(evidence, by_level)))
        sentence = f"Dimmed from {levels[-1]:g} % to {levels[0]:g} %: {moved}{between}"
        series = {"dial_pct": tuple(levels), "mired": tuple(mired), "duv": tuple(tints)}
        found.append(
            Finding(
                question="dimming",
                name="white drift with level",
                value=shift.value,
                unit="mired",
                words=sentence,
                terms=said,
                readings=ids(trusted),
                axis=("level",),
                spread=span,
                uncertainty=widest.half_width,
                not_covered=_too_dim(evidence, group),
                series=series,
                rests_on=shift,
                weight=41,
            )
        )
    return tuple(found)


def _tint_shift(evidence: Evidence, by_level: Sequence[tuple[float, Sequence[Measured]]]) -> Estimate | None:
    """The tint at the lowest level against that at the highest; None where one of them has none."""
    ends = [[m for m in by_level[place][1] if m.value("duv") is not None] for place in (0, -1)]
    return evidence.tint_of(ends[0]).less(evidence.tint_of(ends[1])) if all(ends) else None


def _mean_duv(repeats: Sequence[Measured]) -> float | None:
    found = [tint for m in repeats if (tint := m.value("duv")) is not None]
    return fmean(found) if found else None


def _too_dim(evidence: Evidence, group: Sequence[Measured]) -> tuple[str, ...]:
    dim = [m.terms.level_pct for m in group if not evidence.is_bright(m) and m.terms.level_pct]
    return (f"at and below {max(dim):g} %: too dim for this meter's colour figures",) if dim else ()


def noise_floor(evidence: Evidence) -> tuple[Finding, ...]:
    """The level below which colour figures are noise for the meter used."""
    found = []
    for group in _dimmed(evidence):
        dim = [m for m in group if value_of(m, "illuminance") < evidence.meter_of(m).dim_lx]
        if dim:
            level, said = max(m.terms.level_pct or 0.0 for m in dim), evidence.at(dim[0], "level")
            sentence = (
                f"At {level:g} % and below the meter sees less than {notation.light(evidence.meter_of(dim[0]).dim_lx)}"
                f": its colour figures there are mostly noise"
            )
            found.append(
                Finding(
                    question="dimming",
                    name="colour figures are noise from",
                    value=level,
                    unit="%",
                    words=sentence,
                    terms=said,
                    readings=ids(dim),
                    axis=("level",),
                )
            )
    return tuple(found)


def changed_by_themselves(evidence: Evidence) -> tuple[Finding, ...]:
    """Settings that the lamp displayed otherwise than it was asked for."""
    found = []
    for measured in evidence.readings:
        for event in measured.state.displayed:
            asked = evidence.at(measured, *_FIELD_OF.get(event.field, ()))
            sentence = (
                f"Asked for {event.field.replace('_', ' ')} {event.old or 'nothing'} it showed {event.new or 'nothing'}"
            )
            found.append(
                Finding(
                    question="dimming",
                    name="a setting that changed by itself",
                    value=None,
                    unit="",
                    words=sentence,
                    terms=asked,
                    readings=(measured.reading.id,),
                    weight=39,
                )
            )
    return tuple(found)


_FIELD_OF = {stored: (name,) for stored, name in fields.BY_STORED.items()}
