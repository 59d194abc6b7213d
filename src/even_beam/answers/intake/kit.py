"""Lamps and meters by nickname while something is brought in, and what came of it."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from types import MappingProxyType
from typing import TYPE_CHECKING

from even_beam.answers.intake.naming import is_without_dial
from even_beam.bench.records import FIXTURE, Event, Meter, Model, Reading, Session, Source, Spectrum, new_id
from even_beam.bench.traces import Trace
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

Clock = Callable[[], datetime]


@dataclass(slots=True)
class ImportReport:
    """What came in and what did not.

    `refused` names each line with the reason, `doubts` what counts in nothing yet, `asks` what counts and is worth a
    second look, `again` counts what was there already, `taken_for` is what the names of spectra were taken for,
    `passed_over` what was not even looked at.
    """

    sessions: list[Session] = field(default_factory=list)
    readings: int = 0
    figures: int = 0
    refused: list[str] = field(default_factory=list)
    doubts: list[str] = field(default_factory=list)
    asks: list[str] = field(default_factory=list)
    again: int = 0
    taken_for: list[tuple[str, str, str]] = field(default_factory=list)
    passed_over: list[str] = field(default_factory=list)

    @property
    def words(self) -> str:
        """What came in, in a sentence."""
        names = ", ".join(f"“{name}”" for name in dict.fromkeys(session.name for session in self.sessions))
        came = f"{notation.count(self.readings, 'reading')} with {notation.count(self.figures, 'figure')} into {names}."
        was = "was" if self.again == 1 else "were"
        there = f"{notation.count(self.again, 'reading')} {was} there already and not taken twice."
        if not self.readings:
            return there if self.again else "Nothing came in."
        return f"{came} {there}" if self.again else came

    def add(self, other: "ImportReport") -> None:
        """Count another import in."""
        self.sessions += other.sessions
        self.readings += other.readings
        self.figures += other.figures
        self.refused += other.refused
        self.doubts += other.doubts
        self.asks += other.asks
        self.again += other.again
        self.taken_for += other.taken_for
        self.passed_over += other.passed_over


class Kit:
    """Lamps and meters by nickname; an import that names a new one keeps it together with what was read of it."""

    def __init__(self, logbook: "Logbook") -> None:
        self.logbook = logbook
        self._sources = {s.nickname.casefold(): s for s in logbook.all(Source)}
        self._meters = {m.nickname.casefold(): m for m in logbook.all(Meter)}
        self._there = {*(s.id for s in self._sources.values()), *(m.id for m in self._meters.values())}

    @property
    def names(self) -> list[str]:
        """The lamps there are."""
        return [source.nickname for source in self._sources.values()]

    @property
    def without_dial(self) -> frozenset[str]:
        """The lamps that have no dial for their white, as far as their kinds say."""
        kinds = {model.id: model.kind for model in self.logbook.all(Model)}
        return frozenset(
            one.nickname
            for one in self._sources.values()
            if one.kind != FIXTURE or is_without_dial(kinds.get(one.model_id or "", ""))
        )

    def source(self, name: str) -> Source | None:
        """The lamp of a name, added where there is none; None without a name."""
        if not name:
            return None
        if name.casefold() not in self._sources:
            self._sources[name.casefold()] = Source(new_id(), name)
        return self._sources[name.casefold()]

    def name_of(self, source_id: str) -> str:
        """What a lamp is called."""
        return next((s.nickname for s in self._sources.values() if s.id == source_id), "")

    def meter(self, name: str) -> Meter | None:
        """The meter of a name, added where there is none; None without a name."""
        if not name:
            return None
        if name.casefold() not in self._meters:
            self._meters[name.casefold()] = Meter(new_id(), name, kind="light meter", quantities=("illuminance",))
        return self._meters[name.casefold()]

    def keep(
        self,
        session: Session,
        taken: Sequence[tuple[Reading, Spectrum | None]],
        events: Sequence[Event],
        traces: Mapping[str, Sequence[Trace]] = MappingProxyType({}),
    ) -> None:
        """Keep a session with its readings, and the lamps and meters that they name and that were not there yet: all of
        it or nothing. Raises `LogbookError`."""
        named = {i for reading, _ in taken for i in (*reading.source_ids, reading.meter_id)}
        every: list[Source | Meter] = [*self._sources.values(), *self._meters.values()]
        fresh = [one for one in every if one.id in named - self._there]
        self.logbook.commit_readings(taken, events, traces, records=(*fresh, session))
        self._there |= {one.id for one in fresh}
