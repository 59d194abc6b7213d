"""What wires do for a run: lamps are set and put to rest, light is waited for, meters read.

It knows no logbook, and may be worked from another thread.
"""

import threading
import time
from collections.abc import Iterator, Mapping
from dataclasses import replace

from even_beam.bench.records import Terms
from even_beam.bench.steadiness import GONE_ON, Look, has_moved, is_steady
from even_beam.instruments.protocols import InstrumentError, LampControl, MeterDriver, MeterReading
from even_beam.words import notation

SET_BY_WIRE: Mapping[str, str] = {
    "level": "level_pct", "cct": "cct_k", "tint": "tint", "hue": "hue_deg", "saturation": "saturation_pct",
    "zoom": "zoom",
}  # fmt: skip
"""What a control calls the terms that a wire can set."""
_TEXTS = {"tint", "zoom"}

AS_ASKED: Mapping[str, float] = {"level": 0.05, "cct": 0.5, "tint": 0.05, "hue": 0.05, "saturation": 0.05, "zoom": 0.05}
"""A dial set as near as this is set as it was asked; else what it was set to stands with the reading."""

UNSEEN_S = 5.0
"""A change that nobody looks at is given so long (common practice, no source)."""
SETTLES_WITHIN_S = 20.0
"""A change that no wait is planned for is waited for so long at most."""
LOOK_EVERY_S = 0.025
"""A meter that answers faster is not asked more often: that tells no more and keeps the machine busy."""
MOST_UNMOVED, MOST_ALIKE, MOST_REREAD = 3, 3, 3
"""So many changes without effect, readings equal to the last digit, or last readings given again stop a run."""
PLENTY_PCT = 20.0
"""A lamp at this level and more adds something to the room's own light; below, it may have gone out by itself."""


class StopError(InstrumentError):
    """The run cannot go on by itself; the message says why."""


class StoppedError(InstrumentError):
    """Somebody stopped it while it read: what was read is of nothing."""


Lit = Mapping[str, Mapping[str, float]]
"""The lamps that are lit by their ids, each with its terms as its control made them."""


class Hands:
    """The meters and lamps at hand by the ids of the Kit, and what was done with them last; `names` are the lamps'."""

    def __init__(
        self, meters: Mapping[str, MeterDriver], lamps: Mapping[str, LampControl], names: Mapping[str, str]
    ) -> None:
        self.meters, self.lamps, self._names = dict(meters), dict(lamps), dict(names)
        self.stopped = ""
        self._ended = threading.Event()
        self._lit: Lit = {}
        self._before: tuple[Lit, Look] | None = None
        self._last: MeterReading | None = None
        self._alike = self._unmoved = 0
        self._dark_lx: float | None = None

    # --- how it begins and ends

    def reach(self) -> Iterator[str]:
        """Connect everything, lamps at rest; a line for each. Raises `InstrumentError`."""
        for driver in self.meters.values():
            yield f"reads with: {driver.connect()}"
        for source_id, control in self.lamps.items():
            yield f"{self._names[source_id]} will light: {control.connect()}"

    def stop(self, reason: str) -> None:
        """Put every lamp to rest at once, and read nothing more; may be called from another thread or a signal."""
        self.stopped = self.stopped or reason
        self._ended.set()
        self.rest()

    def rest(self) -> None:
        """Every lamp at rest."""
        for control in self.lamps.values():
            try:
                control.rest()
            except (InstrumentError, OSError):
                continue

    def move(self) -> None:
        """Something is about to be moved by a person: lamps rest, and what was known of the light is of no more use."""
        self.rest()
        self._lit, self._before, self._dark_lx = {}, None, None

    def close(self) -> None:
        """Let go of everything, lamps at rest."""
        for control in self.lamps.values():
            control.close()
        for driver in self.meters.values():
            driver.close()

    # --- what it can

    def by_hand(self, sources: tuple[str, ...], terms: Terms) -> tuple[object, ...]:
        """All of a step that no wire sets: where it changes, a person is needed."""
        limits = {name for i in sources if i in self.lamps for name in self.lamps[i].limits}
        blank = {SET_BY_WIRE[name]: "" if name in _TEXTS else None for name in limits if name in SET_BY_WIRE}
        return sources, replace(terms, **blank)  # type: ignore[arg-type]

    def beyond(self, sources: tuple[str, ...], terms: Terms) -> str:
        """What of a step lies beyond what its lamp can be set to; empty for nothing."""
        for source_id in sources:
            limits = self.lamps[source_id].limits if source_id in self.lamps else {}
            for name, wanted in _wanted(terms).items():
                low, high = limits.get(name, (wanted, wanted))
                if not low <= wanted <= high:
                    return f"{name} {wanted:g} is not between {low:g} and {high:g}"
        return ""

    def can_be_dark(self, sources: tuple[str, ...]) -> bool:
        """Whether all these lamps go dark by wire."""
        return bool(sources) and all(
            i in self.lamps and self.lamps[i].limits.get("level", (1.0, 1.0))[0] == 0.0 for i in sources
        )

    # --- reading

    def read_dark(self, meter_id: str) -> MeterReading:
        """The room alone: lamps at rest, and the light stands still. Raises `InstrumentError`."""
        self.rest()
        self._lit, self._before = {}, None
        raw = self._steady(self.meters[meter_id], 0.0)
        self.know_dark(raw.figures.get("illuminance"))
        return raw

    def hold(self, seconds: float) -> None:
        """Wait, with the lamps as they are. Raises `StoppedError` as soon as somebody stops it."""
        if self._ended.wait(seconds) or self.stopped:
            raise StoppedError(self.stopped)

    def know_dark(self, lux: float | None) -> None:
        """What the room alone gave where the meter stands."""
        self._dark_lx = lux

    def read_lit(self, meter_id: str, sources: tuple[str, ...], terms: Terms, wait_s: float) -> MeterReading:
        """Set the lamps as a step asks, wait until the light stands still, and read. Raises `InstrumentError`."""
        driver, lit = self.meters[meter_id], self._light(sources, _wanted(terms))
        if lit == self._lit:
            return self._read(driver)
        self._lit = lit
        raw = self._steady(driver, wait_s)
        if self._stays_dark(raw):
            self._light(sources, _wanted(terms))  # the first packets may have been lost
            raw = self._steady(driver, wait_s)
            if self._stays_dark(raw):
                stays = f"{self._named(lit)} {'stays' if len(lit) == 1 else 'stay'} dark"
                raise StopError(f"{stays} at {_least(lit, 'level'):g} %: check power, address and mode.")
        self._look_whether_it_follows(_look_of(raw, 0.0))
        return raw

    def _light(self, sources: tuple[str, ...], wanted: Mapping[str, float]) -> Lit:
        """Light these lamps and no others; what they were set to. Raises `StoppedError` with all at rest again where
        somebody stopped it meanwhile."""
        lit: dict[str, Mapping[str, float]] = {}
        for source_id, control in self.lamps.items():
            if source_id in sources and not self.stopped:
                lit[source_id] = control.set({n: value for n, value in wanted.items() if n in control.limits})
            else:
                control.rest()
        if self.stopped:  # it may have been while one was being set, which came after its rest then
            self.rest()
            raise StoppedError(self.stopped)
        return lit

    def _named(self, lit: Lit) -> str:
        return notation.listed([self._names[source_id] for source_id in lit])

    def as_set(self, terms: Terms) -> Terms:
        """Terms of a step with what the dial of its lamp, the first of several, made of them."""
        changes: dict[str, object] = {}
        wanted = _wanted(terms)
        for name, was_set in next(iter(self._lit.values()), {}).items():
            if name in wanted and abs(was_set - wanted[name]) > AS_ASKED[name]:
                changes[SET_BY_WIRE[name]] = (
                    f"{was_set:.4g}" if name in _TEXTS else float(round(was_set, 0 if name == "cct" else 1))
                )
        return replace(terms, **changes) if changes else terms  # type: ignore[arg-type]

    def _steady(self, driver: MeterDriver, wait_s: float) -> MeterReading:
        """Look until level and white stand still, at the latest after the wait that the plan states; the last look is
        the reading. One that somebody must press is waited for and asked once."""
        if not driver.reads_at_once:
            self.hold(max(wait_s, UNSEEN_S))
            return self._read(driver)
        began = time.monotonic()
        looks: list[Look] = []
        while True:
            asked = time.monotonic()
            raw = self._read(driver)
            looks.append(_look_of(raw, time.monotonic()))
            late = time.monotonic() - began > max(wait_s, SETTLES_WITHIN_S)
            if late or looks[-1].level <= 0.0 or is_steady(looks):
                return raw
            time.sleep(max(LOOK_EVERY_S - (time.monotonic() - asked), 0.0))

    def _read(self, driver: MeterDriver) -> MeterReading:
        """A reading that is not the last one given again."""
        for _ in range(MOST_REREAD):
            raw = driver.read()
            if self.stopped:
                raise StoppedError(self.stopped)
            if raw.number and self._last is not None and raw.number == self._last.number:
                continue
            self._look_whether_it_holds(raw)
            self._last = raw
            return raw
        raise StopError("The meter gives its last reading again. Is it on hold?")

    # --- what can be wrong

    def _look_whether_it_holds(self, raw: MeterReading) -> None:
        """Figures and a spectrum equal to the last digit, again and again, are of a display that holds."""
        last, same = self._last, False
        if last is not None and last.spectrum is not None and raw.spectrum is not None:
            same = last.figures == raw.figures and bool((last.spectrum.values == raw.spectrum.values).all())
        self._alike = self._alike + 1 if same else 0
        if self._alike >= MOST_ALIKE:
            raise StopError("The meter gave the same to the last digit again and again. Does it hold its reading?")

    def _stays_dark(self, raw: MeterReading) -> bool:
        """Whether lamps that must give plenty add nothing to the room's own light."""
        level, dark = raw.figures.get("illuminance"), self._dark_lx
        if level is None or dark is None or _least(self._lit, "level") < PLENTY_PCT:
            return False
        return level <= dark * (1.0 + GONE_ON)

    def _look_whether_it_follows(self, look: Look) -> None:
        """A lamp that was set otherwise and gives the same light does not follow; after three in a row it is told."""
        before, self._before = self._before, (self._lit, look)
        if before is None or before[0].keys() != self._lit.keys() or not _differs(before[0], self._lit):
            return
        self._unmoved = 0 if has_moved(before[1], look) else self._unmoved + 1
        if self._unmoved >= MOST_UNMOVED:
            does = "does" if len(self._lit) == 1 else "do"
            did = f"{MOST_UNMOVED} changes did nothing"
            raise StopError(f"{self._named(self._lit)} {does} not follow: {did}. Check address and mode.")


def _least(lit: Lit, name: str) -> float:
    """The least of a term among lamps; nothing where one does not set it, or none is lit."""
    return min((terms.get(name, 0.0) for terms in lit.values()), default=0.0)


def _wanted(terms: Terms) -> dict[str, float]:
    """The terms of a step that a wire may set, as numbers."""
    found: dict[str, float] = {}
    for name, stored in SET_BY_WIRE.items():
        value = getattr(terms, stored)
        try:
            number = float(value) if value not in (None, "") else None
        except ValueError:
            number = None  # flood and spot are words, and set by hand
        if number is not None:
            found[name] = number
    return found


def _differs(before: Lit, now: Lit) -> bool:
    """Whether two settings of the same lamps must give another light."""
    a, b = _least(before, "level"), _least(now, "level")
    if a and b and max(a, b) >= 1.5 * min(a, b):
        return True
    white, other = _least(before, "cct"), _least(now, "cct")
    return bool(white and other and abs(1e6 / white - 1e6 / other) >= 20.0)


def _look_of(raw: MeterReading, at_s: float) -> Look:
    """A look at the light; without a level by what its spectrum sums up to."""
    cct, level = raw.figures.get("cct"), raw.figures.get("illuminance")
    if level is None:
        level = float(raw.spectrum.values.sum()) if raw.spectrum is not None else 1.0
    return Look(at_s, level, 1e6 / cct if cct else None)
