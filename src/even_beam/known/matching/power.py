"""Lamps on one circuit or one battery, from what was measured of each. Nothing here says that anything may be run."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.bench.measured import Measured
from even_beam.errors import TellableError
from even_beam.known.evidence import Evidence
from even_beam.known.findings.electrical import apparent_of, circuit_load, drawing, run_time_hours, watts_of
from even_beam.words import notation

BATTERY_SHARE = (0.8, 1.0)
"""How much of what a battery is labelled with it gives, cold or old or new (common practice, no source)."""

LAW = "What else is on the circuit is not in it; local code and a licensed electrician decide."
CARE = "Highest discharge, voltage, polarity and transport rules are the battery's own: see its label."


class SupplyError(TellableError, ValueError):
    """A circuit or a battery that could not be understood; the message says how it is written."""


@dataclass(frozen=True, slots=True)
class Supply:
    """A circuit of so many amperes at a voltage, or a battery of so many watt-hours (the other is None)."""

    volts: float | None = None
    amperes: float | None = None
    battery_wh: float | None = None

    @property
    def words(self) -> str:
        """As it is said."""
        if self.battery_wh is not None:
            return f"{notation.number(self.battery_wh)} Wh"
        return f"{notation.plain(self.amperes or 0.0)} A at {notation.plain(self.volts or 0.0)} V"


_AH = re.compile(r"(?:(\d{1,3})\s*[x×*]\s*)?(\d{1,4}(?:\.\d+)?)\s*v\s*[x×*,;]?\s*(\d{1,4}(?:\.\d+)?)\s*ah")
_WH = re.compile(r"(?:(\d{1,3})\s*[x×*]\s*)?(\d{1,6}(?:\.\d+)?)\s*wh")
_CIRCUIT = re.compile(r"(\d{1,3}(?:\.\d+)?)\s*a\s*(?:at|,|;)?\s*(\d{2,3}(?:\.\d+)?)\s*v")


def supply_of(text: str) -> Supply:
    """The supply of a line: `20 A 120 V`, `16 A at 230 V`, `98 Wh`, `2 x 26 V 12 Ah`. Raises `SupplyError`.

    >>> supply_of("2 x 26 V 12 Ah").battery_wh
    624.0
    """
    words = " ".join(text.casefold().split())
    if found := _AH.fullmatch(words):
        return _battery(float(found[1] or 1) * float(found[2]) * float(found[3]), text)
    if found := _WH.fullmatch(words):
        return _battery(float(found[1] or 1) * float(found[2]), text)
    if (found := _CIRCUIT.fullmatch(words)) and float(found[1]) > 0.0 and float(found[2]) > 0.0:
        return Supply(float(found[2]), float(found[1]))
    raise SupplyError(f"“{text.strip()}” is no circuit and no battery; write 20 A 120 V, 98 Wh or 2 x 26 V 12 Ah")


def _battery(watt_hours: float, text: str) -> Supply:
    if not watt_hours > 0.0:
        raise SupplyError(f"“{text.strip()}” holds nothing")
    return Supply(battery_wh=watt_hours)


@dataclass(frozen=True, eq=False, slots=True)
class Draw:
    """The most that was measured of one lamp: volt-amperes, watts, and the voltage it had then, each None where it was
    not read. `surge_a` is what it takes as it starts, where that was written down."""

    name: str
    apparent_va: float | None
    watts: float | None
    volts: float | None
    terms: str
    readings: tuple[str, ...]
    surge_a: float | None = None


SURGE = "surge"
"""The row of gear that says what a lamp takes as it starts, `45 A`: as it was written down, not measured."""


def surge_of(evidence: Evidence) -> float | None:
    """What a lamp takes as it starts, in amperes, where somebody wrote it down."""
    for row in evidence.gear:
        found = re.search(r"(\d+(?:[.,]\d+)?)\s*a\b", row.text.casefold()) if row.name.casefold() == SURGE else None
        if found is not None:
            return float(found[1].replace(",", "."))
    return None


def draw_of(evidence: Evidence) -> Draw | None:
    """The most that a lamp drew at any setting that was read; None where no draw was read. Nameplates are not asked."""
    read = drawing(evidence)
    if not read:
        return None

    def size(measured: Measured) -> float:
        return apparent_of(measured) or watts_of(measured) or 0.0

    most = max(read, key=size)
    said = evidence.at(most, "configuration", "zoom", "distance", "placement", "plane", "angle")
    volts = most.value("voltage_v")
    return Draw(
        name=evidence.name,
        apparent_va=apparent_of(most),
        watts=watts_of(most),
        volts=volts,
        terms=said,
        readings=(most.reading.id,),
        surge_a=surge_of(evidence),
    )


@dataclass(frozen=True, eq=False, slots=True)
class Load:
    """Lamps on one supply. `unread` are lamps of which no draw was read: what is said leaves them out."""

    supply: Supply
    draws: tuple[Draw, ...]
    unread: tuple[str, ...]

    @property
    def volt_amperes(self) -> list[float]:
        """Of each lamp; watts stand in where VA were not read, and are less than these."""
        return [d.apparent_va if d.apparent_va is not None else d.watts or 0.0 for d in self.draws]

    @property
    def amperes(self) -> float:
        """What they draw together at the circuit's voltage."""
        return circuit_load(self.volt_amperes, self.supply.volts or 1.0, self.supply.amperes or 0.0)[0]

    @property
    def line_a(self) -> float:
        """The circuit's continuous line: 80 %, a common rule."""
        return circuit_load(self.volt_amperes, self.supply.volts or 1.0, self.supply.amperes or 0.0)[1]

    @property
    def passes_the_line(self) -> bool:
        """Whether they draw more than that."""
        return self.amperes > self.line_a

    @property
    def hours(self) -> tuple[float, float] | None:
        """How long a battery lasts, from least to most; None without watts."""
        watts = sum(d.watts if d.watts is not None else d.apparent_va or 0.0 for d in self.draws)
        if self.supply.battery_wh is None or not watts > 0.0:
            return None
        low, high = (run_time_hours(self.supply.battery_wh, watts, share) for share in BATTERY_SHARE)
        return low, high

    @property
    def answer(self) -> str:
        """What the supply is asked for."""
        if not self.draws:
            return "No draw was read of these lamps: type V and A, or W, with a reading."
        names = notation.listed([d.name for d in self.draws])
        if self.supply.battery_wh is not None:
            hours = self.hours
            if hours is None:
                return f"The draw of {names} is not known in watts."
            span = f"{hours[0]:.1f} to {hours[1]:.1f} h"
            return f"{self.supply.words} feed {names} for about {span} at the highest draw read, an estimate."
        total = notation.number(sum(self.volt_amperes))
        side = "over" if self.passes_the_line else "below"
        line = f"{side} the line of {self.line_a:.1f} A that is usual for steady load on {self.supply.words} (80 %)"
        whole = all(d.apparent_va is not None for d in self.draws)
        least, mixed = ("", "") if whole else ("at least ", " (watts where VA were not read)")
        draws = f"draw{'s' * (len(self.draws) == 1)}"
        return f"{names} {draws} {least}{total} VA as measured{mixed}, {least}{self.amperes:.1f} A: {line}."

    @property
    def cautions(self) -> tuple[str, ...]:
        """What is to be minded, and what is not in it."""
        if not self.draws:
            return ()
        minded = (CARE,) if self.supply.battery_wh is not None else (self._sag, self._surge, LAW)
        unread = f"{notation.listed(self.unread)}: no draw was read, not in it." if self.unread else ""
        return tuple(one.strip() for one in (*minded, unread) if one)

    @property
    def sentence(self) -> str:
        """All of it in a row."""
        return " ".join([self.answer, *self.cautions])

    @property
    def _surge(self) -> str:
        """What lamps take as they start: it is written down or unknown, never measured here."""
        known = [d for d in self.draws if d.surge_a is not None]
        if not known:
            return "Start-up surge is unknown and not in it."
        said = notation.listed([f"{d.name} {notation.plain(d.surge_a or 0.0, 1)} A" for d in known])
        others = [d.name for d in self.draws if d.surge_a is None]
        unknown = f"; of {notation.listed(others)} it is unknown" if others else ""
        return f"At start {said}, as written down and not measured{unknown}: start lamps one after the other."

    @property
    def _sag(self) -> str:
        """A voltage under load that was lower than the circuit's: amperes rise as it falls, where a lamp holds its
        draw."""
        read = [d.volts for d in self.draws if d.volts is not None]
        if not read or min(read) >= 0.99 * (self.supply.volts or 0.0):
            return ""
        more = sum(self.volt_amperes) / min(read)
        return f" Under load {min(read):.0f} V was read: at that they would be {more:.1f} A."


def load_of(evidence: Sequence[Evidence], supply: Supply) -> Load:
    """Lamps on one supply."""
    draws = [(one.name, draw_of(one)) for one in evidence]
    return Load(supply, tuple(d for _, d in draws if d is not None), tuple(name for name, d in draws if d is None))
