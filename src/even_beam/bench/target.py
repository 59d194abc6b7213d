"""A target white on location: how far each source lies from it, in which direction, and looks that are kept."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from even_beam.bench.measured import Measured
from even_beam.bench.records import Event, EventKind
from even_beam.words import notation

MATCH_MIRED = 10.0
"""Two sources closer than this pass for one white in a picture (common practice, no source)."""

MATCH_DUV = 0.002
"""... and closer than this in tint (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Target:
    """The white that all sources shall have: CCT in kelvin and Duv from the Planckian, with a name for people."""

    cct_k: float
    duv: float = 0.0
    name: str = ""

    @property
    def words(self) -> str:
        """The target in words."""
        white = f"{notation.kelvin(self.cct_k)} K, {notation.duv(self.duv)}"
        return f"{self.name} ({white})" if self.name else white


@dataclass(frozen=True, slots=True)
class Look:
    """A target that is kept with the readings that were made towards it, to come back to after months."""

    id: str
    name: str
    at: datetime
    cct_k: float
    duv: float
    reading_ids: tuple[str, ...] = ()
    note: str = ""

    @property
    def target(self) -> Target:
        """The target alone."""
        return Target(self.cct_k, self.duv, self.name)


@dataclass(frozen=True, eq=False, slots=True)
class Distance:
    """How far one source lies from the target: mired positive warmer, Duv positive greener."""

    measured: Measured
    mired: float
    duv: float | None

    @property
    def matches(self) -> bool:
        """Whether it passes for the target; a source whose tint was not read is judged by its white alone."""
        return matches(self.mired, self.duv)

    @property
    def words(self) -> str:
        """Distance and direction in words."""
        return off_words(self.mired, self.duv)


def off_words(mired: float, duv: float | None, *, short: bool = False) -> str:
    """How far a light is off in words: 25 mired warmer, 0.0003 to green; `short` where a heading names mired and Duv.

    `duv` is None where its tint was not read.
    """
    unit, to, unread = ("", "", "tint ?") if short else (" mired", "to ", "tint not read")
    white = "same white"
    if abs(mired) >= 0.5:
        white = f"{abs(mired):.0f}{unit} {'warmer' if mired > 0 else 'cooler'}"
    if duv is None:
        return f"{white}, {unread}"
    if abs(duv) < 0.00005:
        return f"{white}, same tint"
    return f"{white}, {notation.duv(abs(duv)).lstrip('+')} {to}{'green' if duv > 0 else 'magenta'}"


def matches(mired: float, duv: float | None) -> bool:
    """Whether a light passes for the target; one whose tint was not read is judged by its white alone."""
    return abs(mired) <= MATCH_MIRED and (duv is None or abs(duv) <= MATCH_DUV)


def distance(measured: Measured, target: Target) -> Distance | None:
    """How far a reading lies from the target; None for one without a colour temperature."""
    cct, duv = measured.value("cct"), measured.value("duv")
    if cct is None or not cct > 0.0:
        return None
    return Distance(measured, 1e6 / cct - 1e6 / target.cct_k, None if duv is None else duv - target.duv)


def distances(readings: Sequence[Measured], target: Target) -> tuple[Distance, ...]:
    """The newest distance of each source, unnamed ones each by itself, the farthest white first."""
    newest: dict[object, Distance] = {}
    for measured in readings:
        found = distance(measured, target)
        if found is not None:
            newest[measured.reading.source_ids or measured.reading.id] = found
    return tuple(sorted(newest.values(), key=lambda d: -abs(d.mired)))


@dataclass(frozen=True, eq=False, slots=True)
class Rematch:
    """A source of a look, as it was then and as it is now (None: not read again yet)."""

    then: Distance
    now: Distance | None

    @property
    def moved_mired(self) -> float | None:
        """How much warmer it is now than then."""
        return None if self.now is None else self.now.mired - self.then.mired


def rematch(then: Sequence[Measured], now: Sequence[Measured], target: Target) -> tuple[Rematch, ...]:
    """Each source of a look beside its newest reading of now."""
    present = {d.measured.reading.source_ids: d for d in distances(now, target) if d.measured.reading.source_ids}
    return tuple(Rematch(d, present.get(d.measured.reading.source_ids)) for d in distances(then, target))


def target_to_text(target: Target) -> str:
    """The target as an event keeps it."""
    return f"{target.cct_k:.1f} {target.duv:.5f} {target.name}".strip()


def target_set(events: Sequence[Event]) -> Target | None:
    """The target that was set last among live events; None where none was, or where it was left."""
    last = next((event for event in reversed(events) if event.kind is EventKind.TARGET_SET), None)
    return target_from_text(last.new) if last is not None and last.new else None


def target_from_text(text: str) -> Target:
    """The target of an event's text. Raises `ValueError` for text that is none."""
    cct, duv, *name = text.split(maxsplit=2)
    return Target(float(cct), float(duv), name[0] if name else "")
