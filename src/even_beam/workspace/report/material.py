"""What a report is made of: the lamps it is on with their readings, and what is found of them, each found once."""

from collections import Counter
from collections.abc import Hashable, Sequence
from functools import cached_property

from even_beam.bench.choice import Entrant
from even_beam.bench.comparison import Comparison
from even_beam.bench.judging.doubts import Flag, flags
from even_beam.bench.measured import Measured
from even_beam.bench.observations import Observation
from even_beam.bench.records import Event, EventKind, Session
from even_beam.bench.run import live_events
from even_beam.bench.target import Target, target_from_text
from even_beam.workspace.compare.answer import reference_of
from even_beam.workspace.compare.headline import Told
from even_beam.workspace.compare.loading import compared
from even_beam.workspace.compare.pictures import Scene
from even_beam.workspace.compare.sheet import Figures
from even_beam.workspace.findings.named_lamps import named_lamps
from even_beam.workspace.findings.witness import Witness
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.match.agree import MOST_PAIRS
from even_beam.workspace.match.desk import Matched, Matching
from even_beam.workspace.match.target_text import LEAST, of_white, target_of, usual_target
from even_beam.workspace.shell.settings import Settings

WORKING_WHITES_K = (5600.0, 3200.0)
"""The whites that lamps are set to most (common practice, no source)."""


class Material:
    """The lamps of a session, or lamps by name over all sessions, and what is known of them.

    Raises `UnknownFixtureError` and `TermsTextError` for names that are not understood.
    """

    def __init__(
        self, collection: Collection, settings: Settings, session: Session | None, fixtures: Sequence[str] = ()
    ) -> None:
        self.collection, self.settings, self.session = collection, settings, session
        self.witness = Witness(collection, settings)
        self.fixtures = tuple(fixtures)
        if fixtures:
            self.entrants = named_lamps(collection, fixtures)
        elif session is not None:
            self.entrants = collection.entrants_in(session.id)
        else:
            self.entrants = collection.entrants()
        self._matched: dict[Target, Matched] = {}
        self._scenes: dict[tuple[str, ...], Scene] = {}

    @cached_property
    def readings(self) -> tuple[Measured, ...]:
        """Every reading of the report in the order taken, also what does not count: of the whole session, or of the
        lamps that are named."""
        if self.session is not None and not self.fixtures:
            return self.collection.readings_in(self.session.id)
        wanted = {entrant.source_id for entrant in self.entrants}
        every = [m for one in self.collection.sessions for m in self.collection.readings_in(one.id)]
        return tuple(m for m in every if wanted & set(m.reading.source_ids))

    @cached_property
    def sessions(self) -> list[Session]:
        """The sessions that the readings are of."""
        own = {m.reading.session_id for m in self.readings}
        return [one for one in self.collection.sessions if one.id in own]

    @cached_property
    def observations(self) -> list[Observation]:
        """What eye and ear said of the lamps in these sessions."""
        wanted = {entrant.source_id for entrant in self.entrants}
        every = [seen for one in self.sessions for seen in self.collection.observations(one.id)]
        return [seen for seen in every if wanted & set(seen.source_ids)]

    @cached_property
    def flags(self) -> tuple[Flag, ...]:
        """Every reading of the report that is in doubt."""
        if self.session is not None and not self.fixtures:
            standing = self.collection.entrants_in(self.session.id, doubted=True)
            return tuple(flag for entrant in standing for flag in flags(entrant))
        return tuple(flag for entrant in self.entrants for flag in self.witness.flags(entrant))

    # --- side by side

    def scene(self, *entrants: Entrant) -> Scene:
        """Lamps compared as Compare does at first, all of them where none is named."""
        chosen = entrants or tuple(self.entrants)
        keys = tuple(entrant.key for entrant in chosen)
        if keys not in self._scenes:
            asked: dict[str, Hashable] = {}
            found, _ = compared(self.collection, chosen, asked, reference_of(chosen))
            arrival = self.collection.arrival
            taken: set[int] = set()
            places = {}
            for number, one in enumerate(chosen):
                own = arrival.get(one.source_id, number)
                places[one.name] = own if own not in taken else len(arrival) + number
                taken.add(own)
            self._scenes[keys] = Scene(
                comparison=found,
                entrants=list(chosen),
                collection=self.collection,
                places=places,
                unit=self.settings.distance_unit,
            )
        return self._scenes[keys]

    @property
    def comparison(self) -> Comparison:
        """All lamps compared."""
        return self.scene().comparison

    def figures(self) -> Figures:
        """What the sheets of Compare are made of."""
        return Figures(
            self.scene(),
            self.collection.meters,
            self.witness,
            self.collection,
            self.settings.illuminance_unit,
        )

    def told(self) -> Told:
        """What the lines of Compare are made of."""
        return Told(self.scene(), self.collection.meters)

    # --- matched

    @cached_property
    def matching(self) -> Matching:
        """The lamps as they stand for a match."""
        return Matching(self.collection, self.entrants)

    def matched(self, aim: Target) -> Matched | None:
        """The lamps matched to a target, once for each. None where no white was read."""
        if not self.matching.lamps:
            return None
        if aim not in self._matched:
            self._matched[aim] = self.matching.matched(aim, MOST_PAIRS)
        return self._matched[aim]

    @property
    def common_white(self) -> Target:
        """The white that most lamps are asked for, on its usual curve; 5600 K where none can be dialled."""
        asked = Counter(m.terms.cct_k for entrant in self.entrants for m in entrant.readings if m.terms.cct_k)
        found = {k: n for k, n in asked.items() if k in WORKING_WHITES_K} or asked or {WORKING_WHITES_K[0]: 1}
        return of_white(max(found, key=lambda white: found[white]), None)

    @cached_property
    def target(self) -> Target:
        """What the lamps of a room shall agree with: the target set at the session, else the newest look or a source
        that is no lamp, else the white that most are asked for."""
        for session in [self.session] if self.session is not None else []:
            events = live_events(self.collection.logbook.of_session(Event, session.id))
            last = next((e for e in reversed(events) if e.kind is EventKind.TARGET_SET), None)
            if last is not None and last.new:
                return target_from_text(last.new)
        text = usual_target(self.collection, self.entrants)
        return self.common_white if text == LEAST else target_of(text, self.collection, self.witness)
