"""A run that reads by itself: meters on wires read, lamps that can be told are set, the rest is asked of a person.

Lamps are at rest whenever nothing is read: before, at the end, and however it ends.
"""

import time
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from typing import TYPE_CHECKING

from even_beam.answers.plan.run_plan import RunPlan, begin_or_go_on, step_words
from even_beam.answers.plan.view import PlanError
from even_beam.bench.ambient import is_ambient, lamp_off
from even_beam.bench.records import Meter, Source, Terms, new_id
from even_beam.bench.steadiness import GONE_ON, Look, has_moved, is_steady
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.session.desk import Aside, Asked
from even_beam.desk.session.document import Document
from even_beam.instruments.bench_file import BenchFile
from even_beam.instruments.protocols import InstrumentError, LampControl, MeterDriver, MeterReading
from even_beam.shell.settings import Settings
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

SET_BY_WIRE: Mapping[str, str] = {
    "level": "level_pct", "cct": "cct_k", "tint": "tint", "hue": "hue_deg", "saturation": "saturation_pct",
    "zoom": "zoom",
}  # fmt: skip
"""What a control calls the terms that a wire can set."""

AS_ASKED: Mapping[str, float] = {"level": 0.05, "cct": 0.5, "tint": 0.05, "hue": 0.05, "saturation": 0.05, "zoom": 0.05}
"""A dial set as near as this is set as it was asked; else what it was set to stands with the reading."""

SETTLES_WITHIN_S = 20.0
"""A change that no wait is planned for is waited for so long at most."""
MOST_DOUBTS, MOST_UNMOVED, MOST_ALIKE, MOST_REREAD = 3, 3, 3, 3
"""So many doubts that stay, changes without effect, readings equal to the last digit, or last readings given again
stop a run."""
TELLS_TIME_EVERY = 10
PLENTY_PCT = 20.0
"""A lamp at this level and more adds something to the room's own light; below, it may have gone out by itself."""

Ask = Callable[[str], bool]


class StopError(InstrumentError):
    """The run cannot go on by itself; the message says why."""


@dataclass(frozen=True, slots=True)
class _Set:
    """What a lamp was set to: its terms as the plan says them, and what a control made of them."""

    source_id: str
    terms: Mapping[str, float]


class WiredRun:
    """Runs a plan with the instruments of a bench file; `ask` has a person do what no wire can, and says whether it is
    done. Raises `PlanError` and `InstrumentError` for what cannot be run at all."""

    def __init__(
        self,
        plan: RunPlan,
        logbook: "Logbook",
        clock: Callable[[], datetime],
        bench: BenchFile,
        ask: Ask,
        *,
        anew: bool = False,
    ) -> None:
        self._document = Document(logbook, Settings(), clock)
        self._ask, self._bench = ask, bench
        self._drivers = {self._meter(name).id: bench.meter(name) for name in bench.meters}
        sources = [self._source(name) for name, _ in plan.lamps]
        self._controls: dict[str, LampControl] = {
            s.id: bench.lamp(s.nickname) for s in sources if s.nickname in bench.lamps
        }
        by_wire = [m for m in self._document.kit.meters() if m.id in self._drivers]
        ordered = sorted(by_wire, key=lambda m: not self._drivers[m.id].has_spectrum)
        self._taken_up = begin_or_go_on(self._document, plan, sources, ordered, anew=anew)
        self._desk = self._document.bench()
        self._stopped = ""
        self._placed: tuple[object, ...] | None = None
        self._set: _Set | None = None
        self._before: tuple[_Set, Look] | None = None
        self._last: MeterReading | None = None
        self._alike = self._unmoved = self._doubts = 0
        self._dark_lx: float | None = None
        self.left = ""

    # --- the Kit

    def _meter(self, name: str) -> Meter:
        """The meter of the Kit by this name; one that it has not is added, with what it promises assumed."""
        known = next((m for m in self._document.kit.meters() if m.nickname.casefold() == name.casefold()), None)
        if known is not None:
            return known
        driver = self._bench.meter(name)
        kind = "spectrometer" if driver.has_spectrum else "light meter"
        quantities = driver.quantities if not driver.has_spectrum else Meter("", "").quantities
        made = Meter(new_id(), name, kind, quantities=quantities, notes="on a wire")
        self._document.logbook.save(made)
        return made

    def _source(self, name: str) -> Source:
        kit = self._document.kit
        found = next((c.source for c in kit.lamps() if c.source.nickname.casefold() == name.casefold()), None)
        if found is not None:
            return found
        if name not in self._bench.lamps:
            there = ", ".join(self._bench.lamps) or "none"
            raise PlanError(f"“{name}” is neither in the Kit nor in the bench file, which has {there}")
        try:
            return kit.add_lamp(LampForm(name, "film light"))
        except FormError as error:
            raise PlanError(str(error)) from error

    # --- how it ends

    def stop(self, reason: str = "it was stopped") -> None:
        """Put every lamp to rest at once, and read nothing more; may be called from another thread or a signal."""
        self._stopped = self._stopped or reason
        self.rest()

    def rest(self) -> None:
        """Every lamp that can be told, at rest."""
        for control in self._controls.values():
            try:
                control.rest()
            except (InstrumentError, OSError):
                continue

    def close(self) -> None:
        """Let go of everything, lamps at rest."""
        for control in self._controls.values():
            control.close()
        for driver in self._drivers.values():
            driver.close()

    # --- the run

    def lines(self) -> Iterator[str]:
        """Read every step; a line after each committed reading. What is left at the end, and why, is in `left`."""
        if self._taken_up:
            yield self._taken_up
        try:
            yield from self._reached()
            yield from self._steps()
        except InstrumentError as error:
            self._stopped = self._stopped or str(error)
        finally:
            self.close()
        if self._desk.step is not None:
            reason = self._stopped or "it ended"
            self.left = f"stopped before {step_words(self._desk)}: {reason} The same command goes on from there."
            yield self.left

    def _reached(self) -> Iterator[str]:
        names = {meter.id: meter.nickname for meter in self._document.kit.meters()}
        for meter_id, driver in self._drivers.items():
            yield f"{names[meter_id]}: {driver.connect()}"
        for source_id, control in self._controls.items():
            name = self._desk.name_of((source_id,))
            yield f"{name} will light: {control.connect()}"

    def _steps(self) -> Iterator[str]:
        desk, began, read = self._desk, time.monotonic(), 0
        while desk.step is not None and not self._stopped:
            driver = self._drivers.get(desk.meter.id) if desk.meter is not None else None
            if driver is None:
                yield f"left out, its meter is on no wire: {step_words(desk)}"
                desk.skip()
                continue
            if (problem := self._beyond(desk.next_sources, desk.next_terms)) is not None:
                yield f"left out, {problem}: {step_words(desk)}"
                desk.skip()
                continue
            yield from self._placed_by_hand()
            yield from self._room(driver)
            if self._stopped:
                return
            words = step_words(desk)
            raw = self._read_lit(driver)
            if self._stopped:  # a reading of a lamp that was put to rest is of nothing
                return
            yield self._kept(raw, words)
            read += 1
            if read % TELLS_TIME_EVERY == 0:
                left = sum(max(s.required - s.taken, 0) for s in desk.state.steps if not s.done)
                yield f"about {notation.span((time.monotonic() - began) / read * left)} left"

    def _kept(self, raw: MeterReading, words: str) -> str:
        """Commit a reading; a doubt is read again by the next turn, and kept in doubt when it stays."""
        desk = self._desk
        again = desk.pending_doubt is not None
        taken = desk.take(raw, asked=self._as_set(desk.asked_now()))
        verdict = taken.look.title
        if taken.look.in_doubt:
            verdict = f"in doubt: {taken.look.text}"
            if again:
                desk.keep_in_doubt(taken.measured.reading.id)
                verdict = f"kept, {verdict}"
                self._doubts += 1
                if self._doubts >= MOST_DOUBTS:
                    raise StopError(f"{MOST_DOUBTS} doubts in a row stayed. Look at the bench.")
        else:
            self._doubts = 0
        level = notation.light(taken.measured.value("illuminance"))
        return f"committed {taken.measured.reading.sequence}  {words}  {level}  {verdict}"

    # --- what a person does

    def _hand(self, sources: tuple[str, ...], terms: Terms) -> tuple[object, ...]:
        """All that no wire sets."""
        by_wire = {
            SET_BY_WIRE[name] for i in sources for name in (self._controls[i].limits if i in self._controls else ())
        }
        blank = {stored: None for stored in by_wire if stored not in {"tint", "zoom"}}
        return sources, replace(terms, **blank, **dict.fromkeys(by_wire & {"tint", "zoom"}, ""))  # type: ignore[arg-type]

    def _placed_by_hand(self) -> Iterator[str]:
        """Wait for a person where something must be moved; what stands at the beginning is as the plan has it."""
        desk = self._desk
        wanted = self._hand(desk.next_sources, desk.next_terms)
        if self._placed is not None and wanted != self._placed:
            self.rest()
            self._set = self._before = None
            words = f"by hand: {step_words(desk)}"
            yield words
            if not self._ask(words):
                self._stopped = "nobody is there to set it by hand."
                return
        self._placed = wanted

    def _room(self, driver: MeterDriver) -> Iterator[str]:
        """Read the room's own light once at each place, with the lamps dark."""
        desk = self._desk
        lamps = set(desk.next_sources)
        if self._stopped or not lamps or not lamps <= set(self._controls) or "illuminance" not in driver.quantities:
            return
        off, meter = lamp_off(desk.next_terms), desk.meter
        if meter is None:
            return
        read = [m for m in desk.measured if is_ambient(m) and m.state.counts and m.terms == off]
        here = [m for m in read if m.reading.meter_id == meter.id]
        if here:
            self._dark_lx = here[-1].value("illuminance")
            return
        if any("level" not in self._controls[i].limits or self._controls[i].limits["level"][0] > 0.0 for i in lamps):
            return
        self.rest()
        self._set = None
        raw = self._steady(driver, 0.0)
        if self._stopped:
            return
        desk.read_aside(Aside.ROOM)
        taken = desk.take(raw)
        if taken.look.in_doubt:
            desk.keep_in_doubt(taken.measured.reading.id)
        desk.read_aside(Aside.NONE)
        self._dark_lx = raw.figures.get("illuminance")
        level = notation.light(taken.measured.value("illuminance"))
        yield f"committed {taken.measured.reading.sequence}  the room alone  {level}"

    # --- what a wire does

    def _beyond(self, sources: tuple[str, ...], terms: Terms) -> str | None:
        """What of a step lies beyond what a lamp can be set to."""
        for source_id in sources:
            control = self._controls.get(source_id)
            for name, wanted in _wanted(terms).items():
                low, high = control.limits.get(name, (-1e9, 1e9)) if control is not None else (-1e9, 1e9)
                if not low <= wanted <= high:
                    return f"{name} {wanted:g} is not between {low:g} and {high:g}"
        return None

    def _read_lit(self, driver: MeterDriver) -> MeterReading:
        """Set the lamps as the step asks, wait until the light stands still, and read."""
        desk = self._desk
        wanted = _wanted(desk.next_terms)
        now = None
        for source_id, control in self._controls.items():
            if source_id in desk.next_sources:
                terms = {name: value for name, value in wanted.items() if name in control.limits}
                now = _Set(source_id, control.set(terms))
            else:
                control.rest()
        if now is None or now == self._set:
            return self._read(driver)
        self._set = now
        wait_s = desk.step.step.wait_s if desk.step is not None else 0.0
        raw = self._steady(driver, wait_s)
        if self._stays_dark(now, raw) and not self._stopped:
            self._controls[now.source_id].set(now.terms)  # the first packets may have been lost
            raw = self._steady(driver, wait_s)
            if self._stays_dark(now, raw) and not self._stopped:
                name, level = desk.name_of((now.source_id,)), now.terms["level"]
                raise StopError(f"{name} stays dark at {level:g} %: check its power, its address and its mode.")
        self._look_whether_it_follows(now, _look_of(raw, 0.0))
        return raw

    def _stays_dark(self, now: _Set, raw: MeterReading) -> bool:
        """Whether a lamp that must give plenty adds nothing to the room's own light."""
        level, dark = raw.figures.get("illuminance"), self._dark_lx
        if level is None or dark is None or now.terms.get("level", 0.0) < PLENTY_PCT:
            return False
        return level <= dark * (1.0 + GONE_ON)

    def _steady(self, driver: MeterDriver, wait_s: float) -> MeterReading:
        """Look until level and white stand still, at the latest after the wait that the plan states; the last look is
        the reading."""
        began = time.monotonic()
        looks: list[Look] = []
        while True:
            raw = self._read(driver)
            looks.append(_look_of(raw, time.monotonic()))
            late = time.monotonic() - began > max(wait_s, SETTLES_WITHIN_S)
            if self._stopped or late or looks[-1].level <= 0.0 or is_steady(looks):
                return raw

    def _read(self, driver: MeterDriver) -> MeterReading:
        """A reading that is not the last one given again."""
        for _ in range(MOST_REREAD):
            raw = driver.read()
            if raw.number and self._last is not None and raw.number == self._last.number:
                continue
            self._look_whether_it_holds(raw)
            self._last = raw
            return raw
        raise StopError("The meter gives its last reading again. Is it on hold?")

    def _look_whether_it_holds(self, raw: MeterReading) -> None:
        """Figures and a spectrum equal to the last digit, again and again, are of a display that holds."""
        last = self._last
        same = (
            last is not None and last.figures == raw.figures and raw.spectrum is not None and last.spectrum is not None
        )
        if same and last is not None and last.spectrum is not None and raw.spectrum is not None:
            same = bool((last.spectrum.values == raw.spectrum.values).all())
        self._alike = self._alike + 1 if same else 0
        if self._alike >= MOST_ALIKE:
            raise StopError("The meter gave the same to the last digit again and again. Does it hold its reading?")

    def _look_whether_it_follows(self, now: _Set, look: Look) -> None:
        """A lamp that was set otherwise and gives the same light does not follow; after three in a row it is told."""
        before, self._before = self._before, (now, look)
        if before is None or before[0].source_id != now.source_id or not _differs(before[0].terms, now.terms):
            return
        self._unmoved = 0 if has_moved(before[1], look) else self._unmoved + 1
        if self._unmoved >= MOST_UNMOVED:
            name = self._desk.name_of((now.source_id,))
            raise StopError(
                f"{name} does not follow: {MOST_UNMOVED} changes did nothing. Check its address and its mode."
            )

    def _as_set(self, asked: Asked) -> Asked:
        """What was asked, with the terms that a dial of steps made of it."""
        if self._set is None:
            return asked
        changes: dict[str, object] = {}
        for name, was_set in self._set.terms.items():
            stored, wanted = SET_BY_WIRE[name], _wanted(asked.terms).get(name)
            if wanted is not None and abs(was_set - wanted) > AS_ASKED[name]:
                text = f"{was_set:.4g}"
                changes[stored] = (
                    text if stored in {"tint", "zoom"} else float(round(was_set, 1 if name != "cct" else 0))
                )
        return replace(asked, terms=replace(asked.terms, **changes)) if changes else asked  # type: ignore[arg-type]


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


def _differs(before: Mapping[str, float], now: Mapping[str, float]) -> bool:
    """Whether two settings must give another light."""
    a, b = before.get("level"), now.get("level")
    if a and b and max(a, b) >= 1.5 * min(a, b):
        return True
    white, other = before.get("cct"), now.get("cct")
    return bool(white and other and abs(1e6 / white - 1e6 / other) >= 20.0)


def _look_of(raw: MeterReading, at_s: float) -> Look:
    cct = raw.figures.get("cct")
    return Look(at_s, raw.figures.get("illuminance", 1.0), 1e6 / cct if cct else None)
