"""Readings of a whole logbook, gathered by lamp for findings, comparisons and reports; each part loaded when first
asked for."""

from collections import Counter
from collections.abc import Callable, Iterable, Sequence, Set
from dataclasses import dataclass
from functools import cached_property
from itertools import groupby
from typing import TYPE_CHECKING

from even_beam.bench.ambient import is_ambient
from even_beam.bench.measured import Measured
from even_beam.bench.observations import Observation
from even_beam.bench.records import SHADED, Claim, Event, EventKind, Meter, Model, Session, Source, Step
from even_beam.bench.run import ReadingState, RunState, Standing, fold, live_events
from even_beam.collection.net_figures import NetFigures
from even_beam.known.choice import Entrant, key_of
from even_beam.known.claim_order import in_order
from even_beam.known.split import Split, parted

if TYPE_CHECKING:
    from even_beam.logbook.reader import History, KeptFigures
    from even_beam.logbook.store import Logbook


def session_state(logbook: "Logbook", session_id: str) -> tuple[RunState, tuple[Measured, ...]]:
    """A session's state and its readings with their figures."""
    state = fold(
        logbook.of_session(Step, session_id), logbook.readings(session_id), logbook.of_session(Event, session_id)
    )
    computed = logbook.computed(session_id)
    if logbook.is_set_apart(session_id):
        return fold((), (), ()), ()
    readings = [Measured(s, computed.get(s.reading.id)) for s in state.readings]
    return state, NetFigures(logbook.spectra).applied(readings)


Wanted = Callable[[Sequence[Measured]], Sequence[Measured]]
"""From readings whose terms are known to those whose figures are needed."""


_COUNTED = frozenset({Split.LAMPS, Split.CONFIGURATIONS, Split.SESSIONS})
"""The parts that the logbook counts by itself."""


@dataclass(frozen=True, slots=True)
class Lamp:
    """A lamp that was read, or a part of its readings, before these are looked at."""

    source_id: str
    name: str
    kind: str
    part: str = ""

    @property
    def key(self) -> str:
        """That of its entrant."""
        return key_of(self.source_id, self.part)


class Collection:
    """The readings of a logbook as they stood when they were first asked for here."""

    def __init__(self, logbook: "Logbook") -> None:
        self.logbook = logbook
        self.sources = {source.id: source for source in logbook.all(Source)}
        self.models = {model.id: model for model in logbook.all(Model)}
        self.meters = {meter.id: meter for meter in logbook.all(Meter)}
        self.sessions: list[Session] = logbook.sessions()
        self.session_by_id = {session.id: session for session in self.sessions}
        self._by_session: dict[str, tuple[Measured, ...]] = {}
        self._by_source: dict[str, tuple[Measured, ...]] = {}
        self._with_all: dict[str, list[Measured]] = {}
        self._figures: dict[str, KeptFigures] = {}
        self._counted: dict[Split, dict[tuple[str, str], int]] = {}

    def names_of(self, source_ids: Sequence[str]) -> str:
        """The nicknames of sources."""
        return " + ".join(self.sources[i].nickname for i in source_ids if i in self.sources) or "not named"

    def observations(self, session_id: str) -> list[Observation]:
        """What eye and ear said in a session, as far as it was not undone."""
        live = live_events(self.logbook.of_session(Event, session_id))
        named = {event.new for event in live if event.kind is EventKind.OBSERVED}
        return [seen for seen in self.logbook.of_session(Observation, session_id) if seen.id in named]

    def kind_of(self, source: Source) -> str:
        """The kind of a lamp's model."""
        model = self.models.get(source.model_id or "")
        return model.kind if model is not None else source.kind

    @cached_property
    def claims(self) -> list[Claim]:
        """What is claimed of every model, in the order in which it is asked."""
        return in_order(self.logbook.all(Claim))

    # --- lamps

    def lamps(self, by: Split = Split.LAMPS) -> list[Lamp]:
        """The lamps that were read in any session, or the parts of their readings; lamps with most readings first."""
        if by not in _COUNTED:
            bare = self.entrants(figures=lambda readings: ())
            parts = [part for entrant in bare for part in parted(entrant, by, self.part_names)]
            return [Lamp(part.source_id, part.name, part.kind, part.part) for part in parts]
        counts = self._counts(by)
        ordered = sorted((key for key in counts if key[0] in self.sources), key=lambda key: -counts[key])
        return [self._lamp(source_id, part, by) for source_id, part in ordered]

    def _lamp(self, source_id: str, part: str, by: Split) -> Lamp:
        source = self.sources[source_id]
        named = self.session_names.get(part, part) if by is Split.SESSIONS else part
        return Lamp(source_id, f"{source.nickname}, {named}" if part else source.nickname, self.kind_of(source), part)

    def _counts(self, by: Split) -> dict[tuple[str, str], int]:
        if by not in self._counted:
            self._counted[by] = self.logbook.reading_counts(by)
        return self._counted[by]

    @cached_property
    def arrival(self) -> dict[str, int]:
        """The number of each lamp in the order in which the logbook came to know them: it never changes."""
        return {source_id: number for number, source_id in enumerate(self.logbook.arrival_of_sources())}

    @cached_property
    def session_names(self) -> dict[str, str]:
        """What a session is called where it stands beside another: its day, its name where two share that, and a number
        where two benches had one of that name: the same on both."""
        days = [f"{session.created_at:%-d %b %Y}" for session in self.sessions]
        count = Counter(days)
        said = [
            day if count[day] == 1 else f"{day}, {session.name}"
            for session, day in zip(self.sessions, days, strict=True)
        ]
        seen: Counter[str] = Counter()
        names = {}
        for session, name in sorted(zip(self.sessions, said, strict=True), key=lambda one: one[0].id):
            seen[name] += 1
            names[session.id] = name if seen[name] == 1 else f"{name} ({seen[name]})"
        return names

    @cached_property
    def part_names(self) -> dict[str, str]:
        """What sessions and meters are called where they stand side by side, by their ids."""
        return {**{meter.id: meter.nickname for meter in self.meters.values()}, **self.session_names}

    def entrants_in(self, session_id: str, *, doubted: bool = False) -> list[Entrant]:
        """One entrant a lamp that has counted readings in a session, those with most readings first."""
        by_source: dict[str, list[Measured]] = {}
        for measured in self.readings_in(session_id):
            if measured.source_id is not None:
                by_source.setdefault(measured.source_id, []).append(measured)
        return self._entrants(by_source.items(), doubted=doubted)

    def entrants(
        self,
        source_ids: Iterable[str] | None = None,
        figures: Wanted | None = None,
        *,
        doubted: bool = False,
        within: frozenset[str] | None = None,
    ) -> list[Entrant]:
        """One entrant a lamp with counted readings over all sessions, of some lamps in the order asked, or of all.

        `figures` says from their terms which of a lamp's readings come with figures; the others have none. Without it
        all come with theirs. `doubted` takes in what stands in doubt as well, to be looked at. `within` are the
        sessions that are looked at, where not all of them matter.
        """
        asked = [lamp.source_id for lamp in self.lamps()] if source_ids is None else list(source_ids)
        found = ((i, self._readings_of(i, figures, within)) for i in asked)
        return self._entrants(found, ordered=source_ids is not None, doubted=doubted)

    def _entrants(
        self, found: Iterable[tuple[str, Sequence[Measured]]], *, ordered: bool = False, doubted: bool = False
    ) -> list[Entrant]:
        entrants = []
        for source_id, readings in found:
            source = self.sources.get(source_id)
            standing = (m for m in readings if m.state.counts or (doubted and m.state.standing is Standing.COUNTED))
            counted = tuple(m for m in standing if m.terms.placement != SHADED)
            if source is not None and counted:
                entrants.append(
                    Entrant(
                        source_id,
                        source.nickname,
                        self.kind_of(source),
                        counted,
                        claims=tuple(c for c in self.claims if c.model_id == source.model_id),
                    )
                )
        return entrants if ordered else sorted(entrants, key=lambda entrant: -len(entrant.readings))

    # --- readings

    def readings_in(self, session_id: str) -> tuple[Measured, ...]:
        """Every reading of a session, also what does not count."""
        if session_id not in self._by_session:
            self._by_session[session_id] = session_state(self.logbook, session_id)[1]
        return self._by_session[session_id]

    def readings(self, reading_ids: Sequence[str]) -> dict[str, Measured]:
        """Some readings with their figures, also what does not count."""
        bare = standing_in(self.logbook.history_of_readings(reading_ids))
        asked = {m.reading.id for m in bare}
        return {m.reading.id: m for m in self._with_figures(bare, asked) if m.reading.id in reading_ids}

    def readings_of(self, source_id: str, reading_ids: Set[str]) -> dict[str, Measured]:
        """Some readings of a lamp with their figures, also what does not count."""
        bare = self._bare(source_id, None)
        near = [m for m in bare if m.reading.id in reading_ids or is_ambient(m)]  # rooms are taken off the others
        fresh = self._with_figures(near, {m.reading.id for m in near})
        return {m.reading.id: m for m in fresh if m.reading.id in reading_ids}

    def _readings_of(self, source_id: str, wanted: Wanted | None, within: frozenset[str] | None) -> list[Measured]:
        if wanted is None:
            return [m for m in self._whole(source_id, within) if m.source_id == source_id]
        bare = self._bare(source_id, within)
        own = [m for m in bare if m.source_id == source_id]
        asked = {m.reading.id for m in wanted([m for m in own if m.state.standing is Standing.COUNTED])}
        if not asked:
            return own
        asked |= {m.reading.id for m in bare if is_ambient(m)}
        return [m for m in self._with_figures(bare, asked) if m.source_id == source_id]

    def _whole(self, source_id: str, within: frozenset[str] | None) -> Sequence[Measured]:
        """The readings of a lamp with their figures, read in one go; a whole history once."""
        if within is not None and source_id not in self._with_all:
            return self._net(standing_in(self.logbook.history_of(source_id, within, figures=True)))
        if source_id not in self._with_all:
            self._with_all[source_id] = self._net(standing_in(self.logbook.history_of(source_id, figures=True)))
        whole = self._with_all[source_id]
        return whole if within is None else [m for m in whole if m.reading.session_id in within]

    def _bare(self, source_id: str, within: frozenset[str] | None) -> Sequence[Measured]:
        """The readings of a lamp without their figures; a whole history is read once."""
        if within is not None:
            whole = self._by_source.get(source_id)
            if whole is None:
                return standing_in(self.logbook.history_of(source_id, within))
            return [m for m in whole if m.reading.session_id in within]
        if source_id not in self._by_source:
            self._by_source[source_id] = standing_in(self.logbook.history_of(source_id))
        return self._by_source[source_id]

    def _with_figures(self, bare: Sequence[Measured], asked: set[str]) -> list[Measured]:
        """Readings, those asked for with their figures, and these without the room's light."""
        self._figures.update(self.logbook.figures(asked - self._figures.keys()))
        return self._net([self._measured(m.state) if m.reading.id in asked else m for m in bare])

    def _net(self, readings: Sequence[Measured]) -> list[Measured]:
        """Readings without the room's light, session by session."""
        net = NetFigures(self.logbook.spectra)
        by_session = groupby(readings, lambda m: m.reading.session_id)
        return [one for _, own in by_session for one in net.applied(list(own))]

    def _measured(self, state: ReadingState) -> Measured:
        values, computed = self._figures[state.reading.id]
        return Measured(state.with_values(values), computed)


def standing_in(history: "History") -> tuple[Measured, ...]:
    """The readings of a history as they stand, session by session in the order taken, with the figures it came with."""
    events: dict[str, list[Event]] = {}
    for event in history.events:
        events.setdefault(event.session_id, []).append(event)
    states: list[ReadingState] = []
    for session_id, readings in groupby(history.readings, lambda reading: reading.session_id):
        states += fold((), tuple(readings), events.get(session_id, ())).readings
    return tuple(Measured(state, history.computed.get(state.reading.id)) for state in states)
