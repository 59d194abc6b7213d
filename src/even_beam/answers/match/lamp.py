"""A lamp as it stands for a match: one set of terms out of its readings, its settings there, and its own spectrum."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

import numpy as np

from even_beam.bench import terms, terms_in_words
from even_beam.bench.dial_steps import dial_of
from even_beam.bench.judging.gels import named_shift
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.bench.target import Target
from even_beam.known.choice import Entrant
from even_beam.known.evidence import Evidence, mean_of
from even_beam.known.matching.answer import Answer
from even_beam.known.matching.colour_dial import ColourPoint, colour_answer
from even_beam.known.matching.dial import DialPoint, dial_answer
from even_beam.light.filters import brought, tinted
from even_beam.light.spectra import FloatArray

_DIALS = ("cct", "tint")
"""What is turned to match; everything else stays as it was read."""

_COLOUR_DIALS = ("mode", "cct", "hue", "saturation")
"""What is turned where colours are mixed to match."""

_NUMBER = re.compile(r"[+-]?\d+(?:\.\d+)?")


@dataclass(frozen=True, eq=False, slots=True)
class Lamp:
    """One source with the readings that a match rests on, all at one set of terms but for white and tint."""

    name: str
    evidence: Evidence
    group: tuple[Measured, ...]

    @classmethod
    def of(cls, entrant: Entrant, evidence: Evidence) -> "Lamp | None":
        """The set of terms with most settings read, at the highest level, as it usually stands (`_worth`); None without
        a colour temperature at the terms that are asked of it."""
        usable = [m for m in evidence.readings if m.terms.mode != OFF and m.value("cct") and answers_terms(m, entrant)]
        best = max(terms.grouped(usable, *_DIALS).values(), key=_worth, default=None)
        return cls(entrant.name, evidence, tuple(best)) if best is not None else None

    @property
    def settings(self) -> list[list[Measured]]:
        """Its readings by setting, the newest last."""
        return list(terms.grouped(self.group).values())

    @property
    def dialled(self) -> list[DialPoint]:
        """The settings with a dialled white; a tint dial that is not a number is none that can be reckoned with."""
        points = [self._point(repeats) for repeats in self.settings if repeats[0].terms.cct_k is not None]
        return [p for p in points if p is not None]

    def _point(self, repeats: Sequence[Measured]) -> DialPoint | None:
        tint = _tint_of(repeats[0])
        if tint is None:
            return None
        white = self.evidence.white_of(repeats)
        duv = [d for m in repeats if (d := m.value("duv")) is not None]
        levels = [m for m in repeats if m.value("illuminance")]
        return DialPoint(
            dial_k=repeats[0].terms.cct_k or 0.0,
            tint=tint,
            mired=white.value or 0.0,
            duv=fmean(duv) if duv else None,
            half_mired=white.half_width,
            half_duv=self.evidence.tint_of([m for m in repeats if m.value("duv") is not None]).half_width
            if duv
            else 0.0,
            level_stops=self.evidence.level_of(levels).value if levels else None,
            repeats=tuple(repeats),
        )

    def answer(self, target: Target) -> Answer:
        """What is read of it and what to dial; gels are reckoned for several lamps at once (`gels`)."""
        steps = dial_of(self.evidence.gear)
        dial = dial_answer(self.dialled, target, steps)
        repeats = dial.nearest.repeats if dial is not None else tuple(self.settings[-1])
        white = self.evidence.white_of(repeats)
        tinted_ = [m for m in repeats if m.value("duv") is not None]
        tint = self.evidence.tint_of(tinted_) if tinted_ else None
        return Answer(
            name=self.name,
            terms=self.evidence.at(repeats[0]) or "terms not stated",
            target=target,
            cct_k=1e6 / (white.value or 1.0),
            duv=tint.value if tint is not None else None,
            half_mired=white.half_width,
            half_duv=tint.half_width if tint is not None else None,
            repeats=tuple(repeats),
            dial=dial,
            gels=(),
            off_axis=self._off_axis(repeats),
            colour=None if dial is not None and dial.reachable else colour_answer(self._coloured, target),
        )

    @property
    def _coloured(self) -> list[ColourPoint]:
        """The settings of hue and saturation at one set of terms, of those the one with most; at least one colour, for
        whites alone span nothing."""
        read = [
            m for m in self.evidence.readings if m.terms.saturation_pct is not None and m.value("x") and m.value("y")
        ]
        groups = list(terms.grouped(read, *_COLOUR_DIALS).values())
        best = max(groups, key=len, default=[])
        return [self._colour_point(repeats) for repeats in terms.grouped(best).values()]

    @staticmethod
    def _colour_point(repeats: Sequence[Measured]) -> ColourPoint:
        level = mean_of(repeats, "illuminance")
        return ColourPoint(
            hue_deg=repeats[0].terms.hue_deg or 0.0,
            saturation_pct=repeats[0].terms.saturation_pct or 0.0,
            x=fmean([m.value("x") or 0.0 for m in repeats]),
            y=fmean([m.value("y") or 0.0 for m in repeats]),
            level_stops=float(np.log2(level)) if level else None,
            repeats=tuple(repeats),
        )

    def _off_axis(self, repeats: Sequence[Measured]) -> tuple[float, float] | None:
        """The angle at which the white strays most from that of some readings on the axis, all else equal; None where
        that was not read, or cannot be told."""
        key, here = terms.key(repeats[0], "angle"), self.evidence.white_of(repeats)
        aside = [m for m in self.evidence.readings if m.value("cct") and terms.key(m, "angle") == key]
        found = [
            (ms[0].terms.angle_deg, self.evidence.white_of(ms).less(here))
            for ms in terms.grouped(aside).values()
            if ms[0].terms.angle_deg != repeats[0].terms.angle_deg
        ]
        told = [(angle, off.value or 0.0) for angle, off in found if abs(off.value or 0.0) > off.half_width]
        return max(told, key=lambda one: abs(one[1]), default=None)


def light_of(answer: Answer, own: FloatArray | None) -> FloatArray:
    """The light that gels are tried on, shape (401,): its own spectrum, or a reference one, as it is once it is
    dialled."""
    mired, duv = answer.dialled
    cct_k = 1e6 / (1e6 / answer.target.cct_k + mired)
    tint = answer.target.duv + (duv or 0.0)
    if own is None:
        return tinted(cct_k, tint)
    return own if answer.to_dial is None or duv is None else brought(own, cct_k, tint)


def answers_terms(measured: Measured, entrant: Entrant) -> bool:
    """Whether a reading is at the terms that are asked of its lamp alone."""
    return all(terms.value(measured, name) == wanted for name, wanted in entrant.own.items())


def _worth(group: list[Measured]) -> tuple[bool, bool, bool, int, float, bool, int]:
    """A lamp as it usually stands before any other way of it: on its axis, behind no gel, in no mode of its own."""
    settings = {(m.terms.cct_k, m.terms.tint) for m in group if m.terms.cct_k is not None}
    level = group[0].terms.level_pct
    return (
        group[0].terms.angle_deg == 0.0,
        named_shift(group[0].terms.configuration) == (0.0, 0.0),
        group[0].terms.mode in terms_in_words.PLAIN_MODES,
        len(settings),
        -1.0 if level is None else level,
        not group[0].terms.configuration,
        len(group),
    )


def _tint_of(measured: Measured) -> float | None:
    """The tint dial as a number; untouched is zero, and words are none."""
    text = measured.terms.tint.replace("\u2212", "-").strip()
    if not text:
        return 0.0
    return float(text) if _NUMBER.fullmatch(text) else None
