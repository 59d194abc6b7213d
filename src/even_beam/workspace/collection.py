"""Readings of a whole logbook, gathered by lamp for comparisons and reports."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from even_beam.bench.compare import Entrant
from even_beam.bench.measured import Measured
from even_beam.bench.observations import Observation
from even_beam.bench.records import SHADED, Event, EventKind, Meter, Model, Session, Source, Spectrum, Step
from even_beam.bench.run import RunState, fold, live_events
from even_beam.workspace.net_figures import NetFigures

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


def session_state(logbook: "Logbook", session_id: str) -> tuple[RunState, tuple[Measured, ...]]:
    """A session's state and its readings with their figures."""
    state = fold(
        logbook.of_session(Step, session_id), logbook.readings(session_id), logbook.of_session(Event, session_id)
    )
    computed = logbook.computed(session_id)
    readings = [Measured(s, computed.get(s.reading.id)) for s in state.readings]
    return state, NetFigures(logbook.spectra).applied(readings)


class Collection:
    """All counted readings of a logbook, loaded once and gathered by lamp."""

    def __init__(self, logbook: "Logbook", pause: Callable[[], None] = lambda: None) -> None:
        self.logbook = logbook
        self.sources = {source.id: source for source in logbook.all(Source)}
        self.models = {model.id: model for model in logbook.all(Model)}
        self.meters = {meter.id: meter for meter in logbook.all(Meter)}
        self.sessions: list[Session] = logbook.sessions()
        self.by_session: dict[str, tuple[Measured, ...]] = {}
        for session in self.sessions:
            pause()
            self.by_session[session.id] = session_state(logbook, session.id)[1]

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

    def entrants(self, session_ids: Sequence[str] | None = None) -> list[Entrant]:
        """One entrant a lamp that has counted readings, of all sessions or of some."""
        by_source: dict[str, list[Measured]] = {}
        for session_id, readings in self.by_session.items():
            if session_ids is not None and session_id not in session_ids:
                continue
            for measured in readings:
                if measured.state.counts and measured.source_id is not None and measured.terms.placement != SHADED:
                    by_source.setdefault(measured.source_id, []).append(measured)
        found = [
            Entrant(source_id, self.sources[source_id].nickname, self.kind_of(self.sources[source_id]), tuple(readings))
            for source_id, readings in by_source.items()
            if source_id in self.sources
        ]
        return sorted(found, key=lambda entrant: -len(entrant.readings))

    def spectra(self, readings: Sequence[Measured]) -> dict[str, Spectrum]:
        """The spectra of readings, for those that have one."""
        return self.logbook.spectra(m.reading.id for m in readings)
