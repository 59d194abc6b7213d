"""The one line for a source: leave it, what to dial, what to clip on, what that costs and what is left."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.bench.dial_steps import DialSteps
from even_beam.bench.measured import Measured
from even_beam.bench.target import Target, matches, off_words
from even_beam.known.evidence import ids
from even_beam.known.findings.white import NOMINAL_MIRED
from even_beam.known.matching.colour_dial import ColourAnswer, ColourPoint
from even_beam.known.matching.dial import DialAnswer, DialPoint
from even_beam.known.matching.gels import GelAnswer
from even_beam.words import notation

LEAST_STOPS = 0.05
"""A cost below this is none that anyone sees."""


@dataclass(frozen=True, eq=False, slots=True)
class Answer:
    """What makes one source agree with a target.

    `cct_k` and `duv` are what `repeats` read at its `terms`, Duv None without a tint; `half_` the 95 % half widths.
    `colour` is what hue and saturation would do, where both were read and the dial of whites does not reach. `gels` are
    for the light after the dial: the nearest pack first, then fewer gels. `no_spectrum` tells that they were
    reckoned on the reference spectrum of the white, for this light's own was not read; `gels_tried` is False where
    there were none to try. `off_axis` is the angle in degrees at which its white strays most from the axis, and by how
    many mired, where that was read and can be told.
    """

    name: str
    terms: str
    target: Target
    cct_k: float
    duv: float | None
    half_mired: float
    half_duv: float | None
    repeats: tuple[Measured, ...]
    dial: DialAnswer | None
    gels: tuple[GelAnswer, ...]
    no_spectrum: bool = False
    gels_tried: bool = True
    off_axis: tuple[float, float] | None = None
    colour: ColourAnswer | None = None

    @property
    def readings(self) -> tuple[str, ...]:
        """The ids of what was read."""
        return ids(self.repeats)

    @property
    def rests_on(self) -> tuple[str, ...]:
        """The ids of all that the answer rests on: what was read of it, and what the dial goes by."""
        points: tuple[DialPoint | ColourPoint, ...] = self.to_dial.rests_on if self.to_dial is not None else ()
        points += self.to_colour.rests_on if self.to_colour is not None else ()
        return tuple(dict.fromkeys([*self.readings, *(i for point in points for i in ids(point.repeats))]))

    @property
    def off(self) -> tuple[float, float | None]:
        """How far it is off as it was read: mired and Duv."""
        return _off(1e6 / self.cct_k, self.duv, self.target)

    @property
    def agrees(self) -> bool:
        """Whether it passes for the target as it was read, at whatever setting that was."""
        return matches(*self.off)

    @property
    def leaves(self) -> bool:
        """Whether nothing is to be done: it agrees as it was read, and stands so without being asked to: it has no
        dial, or was read at the very white that is asked, with its tint untouched."""
        return self.agrees and (self.dial is None or _is_usual(self.dial.nearest, self.target))

    @property
    def tint_is_told(self) -> bool:
        """Whether the meter can tell its tint, once it is dialled, from that of the target."""
        dial = self.to_dial
        half = self.half_duv if dial is None else dial.half_duv
        off = self.dialled[1]
        return off is not None and half is not None and abs(off) > half

    @property
    def to_dial(self) -> DialAnswer | None:
        """The dial that is to be turned; None where it stays as it was read."""
        dial = self.dial
        if dial is None or self.agrees or self.to_colour is not None:
            return None
        stays = dial.reachable and (dial.dial_k, dial.tint) == (dial.nearest.dial_k, dial.nearest.tint)
        return None if stays else dial

    @property
    def to_colour(self) -> ColourAnswer | None:
        """Hue and saturation to be dialled, where they alone reach the target."""
        reaches = self.dial is not None and self.dial.reachable
        return None if self.agrees or reaches else self.colour

    @property
    def dialled(self) -> tuple[float, float | None]:
        """How far it is off once it is dialled."""
        if self.to_colour is not None:
            return _off(self.to_colour.mired, self.to_colour.duv, self.target)
        return self.off if self.to_dial is None else _off(self.to_dial.mired, self.to_dial.duv, self.target)

    @property
    def left(self) -> tuple[float, float | None]:
        """How far it is off after dial and gels."""
        return (self.gels[0].mired_off, self.gels[0].duv_off) if self.gels else self.dialled

    @property
    def cost_stops(self) -> float | None:
        """What dial and gels cost in level, positive less light; None where the dial's price was not read."""
        gels = self.gels[0].loss_stops if self.gels else 0.0
        dial = self.to_colour if self.to_colour is not None else self.to_dial
        if dial is None:
            return gels
        return None if dial.level_stops is None else gels - dial.level_stops

    @property
    def expected(self) -> tuple[float, float | None]:
        """Mired and Duv after all of it."""
        mired, duv = self.left
        return 1e6 / self.target.cct_k + mired, None if duv is None else self.target.duv + duv

    @property
    def does(self) -> str:
        """What to do, short: dial 5110, half CTB + eighth minus green; leave."""
        if self.leaves:
            return "leave"
        if self.agrees and self.dial is not None:
            return _as_read(self.dial.nearest, self.dial.steps)
        if self.to_dial is not None and self.to_dial.unread:
            return _read_nearer(self.target)
        parts = [setting(self.to_dial)] if self.to_dial is not None and self.to_dial.reachable else []
        parts += [colour_setting(self.to_colour)] if self.to_colour is not None else []
        parts += [self.gels[0].words] if self.gels else []
        return ", ".join(parts) or ("nothing helps" if self.gels_tried else "no dial reaches it")

    @property
    def line(self) -> str:
        """What to do, alone, for the moment of reading: without its name and terms, which stand there already."""
        if self.leaves:
            return "Leave it: it passes for the target."
        if self.agrees and self.dial is not None:
            return f"{notation.sentence(_as_read(self.dial.nearest, self.dial.steps))}: so it passes for the target."
        left = f", leaves {self._left_words(*self.left)}" if self._does_something else ""
        return f"{notation.sentence(self._do_words)}{self._cost_words}{left}{self._strays_words}{self._limits}."

    @property
    def sentence(self) -> str:
        """The whole line, with its terms."""
        if self.leaves:
            unknown = "; its tint was not read" if self.duv is None else ""
            return f"Leave {self.name}: {off_words(*self.off)}; that passes for one white{unknown}, at {self.terms}."
        if self.agrees and self.dial is not None:
            at = _as_read(self.dial.nearest, self.dial.steps)
            unknown = "; its tint was not read" if self.duv is None else ""
            half = f"±{notation.half(self.half_mired)} mired"
            return (
                f"{self.name}: {at}, read so: {off_words(*self.off)} ({half}); that passes for one white{unknown},"
                f" at {self.terms}."
            )
        said = f"{self.name} is {off_words(*self.off)}: {self._do_words}"
        cost = self._cost_words
        left = f", leaves {self._left_words(*self.left)}" if self._does_something else ""
        strays = self._strays_words
        return f"{said}{cost}{left}{strays}{self._simpler_words}{self._limits}, at {self.terms}."

    @property
    def behind(self) -> str:
        """What dial and gels do not mend: how it shows colours behind gels, and how it strays off its axis; empty where
        neither was read."""
        scores = self.gels[0].scores_words if self.gels else ""
        return " ".join(
            [
                *([self._scores_behind(self.gels[0], scores)] if scores else []),
                *([self._off_axis_words] if self.off_axis is not None else []),
            ]
        )

    def _scores_behind(self, gel: GelAnswer, scores: str) -> str:
        if gel.is_read:
            return f"Behind {gel.words}, as it was read here, {self.name} has {scores}."
        return f"Reckoned behind {gel.words}, {self.name} has {scores}."

    @property
    def _strays_words(self) -> str:
        """How far sheets of the gels' names stray; that they were read where they were."""
        if not self.gels:
            return ""
        gel = self.gels[0]
        return f"; {gel.words} as read here" if gel.is_read else f" ({gel.strays_words})"

    @property
    def _off_axis_words(self) -> str:
        angle, mired = self.off_axis or (0.0, 0.0)
        where = f"{notation.plain(abs(angle))}° off the axis"
        way = "warmer" if mired > 0.0 else "cooler"
        return f"{notation.sentence(where)} it stays {abs(mired):.0f} mired {way} than on it."

    @property
    def _does_something(self) -> bool:
        if self.dial is not None and self.dial.unread:
            return False
        return self.to_dial is not None or self.to_colour is not None or bool(self.gels)

    @property
    def _do_words(self) -> str:
        if self.to_colour is not None:
            return ", ".join([colour_setting(self.to_colour), *([self.gels[0].words] if self.gels else [])])
        dial = self.to_dial
        if dial is not None and dial.unread:
            return _read_nearer(self.target)
        parts = []
        if dial is not None:
            parts.append(
                dial_words(dial)
                if dial.reachable
                else f"no dial that was read reaches it, {notation.dialled(dial.dial_k)} comes nearest"
            )
        if self.gels:
            parts.append(self.gels[0].words)
        elif dial is None or not matches(*self.dialled):
            helps = "no gel helps" if self.gels_tried else "no gels were tried"
            parts.append(helps if dial is None or not self.gels_tried else f"{helps} with the rest")
        return ", ".join(parts)

    @property
    def _cost_words(self) -> str:
        cost = self.cost_stops
        if self.dial is not None and self.dial.unread:
            return ""
        if cost is None:
            return "; its price in level was not read"
        if abs(cost) < LEAST_STOPS:
            return ""
        return f"; {'costs' if cost > 0 else 'gives'} {notation.number(abs(cost), 1)} stop{'s' * (abs(cost) >= 1.95)}"

    @property
    def _simpler_words(self) -> str:
        simpler = next((one for one in reversed(self.gels[1:]) if one.matches), None)
        if simpler is None:
            return ""
        saved = self.gels[0].loss_stops - simpler.loss_stops
        costs = f", {notation.number(saved, 1)} stop less" if saved >= LEAST_STOPS else ""
        return f" ({simpler.words} alone leaves {self._left_words(simpler.mired_off, simpler.duv_off)}{costs})"

    @staticmethod
    def _left_words(mired: float, duv: float | None) -> str:
        return off_words(mired, duv).removesuffix(", tint not read")

    @property
    def _limits(self) -> str:
        words = "; the gels reckoned on a reference spectrum, for its own was not read" * (
            self.no_spectrum and bool(self.gels)
        )
        return words if self.duv is not None else f"{words}; its tint is unknown: no colour reading gave it"


def _is_usual(point: DialPoint, target: Target) -> bool:
    """Whether a lamp was read at the very white that is asked, its tint untouched: as it stands when nobody corrects
    it."""
    return abs(1e6 / point.dial_k - 1e6 / target.cct_k) <= NOMINAL_MIRED and point.tint in {None, 0.0}


def _as_read(point: DialPoint, steps: DialSteps) -> str:
    """The setting at which it was read."""
    tint = f", tint {notation.number(point.tint, _decimals(point.tint), signed=True)}" if point.tint else ""
    return f"{'dial' if steps.numbered else 'turn it to'} {steps.words(point.dial_k)}{tint}"


def _read_nearer(target: Target) -> str:
    """What is asked of a dial that was read too far away."""
    return f"no dial near it was read: dial {notation.dialled(round(target.cct_k, -2))} and read it"


def dial_words(dial: DialAnswer) -> str:
    """The setting as it is said: dial 5110 (5100 on a dial in hundreds), tint +3."""
    hundreds = round(dial.exact_k, -2)
    is_fine = not dial.steps.is_known and abs(hundreds - dial.dial_k) > 5.0
    coarse = f" ({notation.dialled(hundreds)} on a dial in hundreds)" if is_fine else ""
    return setting(dial, coarse)


def colour_setting(dial: ColourAnswer) -> str:
    """Hue and saturation: dial hue 31.5°, saturation 18.2 %."""
    return f"dial hue {notation.plain(dial.hue_deg, 1)}°, saturation {notation.plain(dial.saturation_pct, 1)} %"


def setting(dial: DialAnswer, coarse: str = "") -> str:
    """The setting alone: dial 5110, tint +3."""
    tint = "" if dial.tint is None else f", tint {notation.number(dial.tint, _decimals(dial.tint), signed=True)}"
    verb = "dial" if dial.steps.numbered else "turn it to"
    verb = f"try to {verb}" if dial.tried else verb
    return f"{verb} {dial.steps.words(dial.dial_k)}{coarse}{tint}"


def _decimals(tint: float) -> int:
    """Tint dials go by whole steps, by tenths where they end at one; none is none."""
    return 0 if abs(tint) >= 10.0 or tint == 0.0 else 1 if abs(tint) >= 1.5 else 2


def _off(mired: float, duv: float | None, target: Target) -> tuple[float, float | None]:
    return mired - 1e6 / target.cct_k, None if duv is None else duv - target.duv


def headline(answers: Sequence[Answer]) -> str:
    """All of it in one line: leave these, then what to do with each."""
    left = [one.name for one in answers if one.leaves]
    parts = [f"Leave {notation.listed(left)}."] if left else []
    parts += [f"{one.name}: {one.does}." for one in answers if not one.leaves]
    return " ".join(parts) or "Nothing was read that could be matched."
