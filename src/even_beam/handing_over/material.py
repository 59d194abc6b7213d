"""What a report is made of: the lamps it is on with their readings, and what is found of them, each found once."""

from collections import Counter
from collections.abc import Hashable, Sequence
from functools import cached_property

from even_beam.answers.compare.answer import reference_of, series_numbers
from even_beam.answers.compare.headline import Told
from even_beam.answers.compare.loading import compared, lamps_of
from even_beam.answers.compare.pictures import Scene
from even_beam.answers.compare.sheet import Figures
from even_beam.answers.findings.glance import Glance
from even_beam.answers.findings.named_lamps import named_lamps
from even_beam.answers.findings.witness import Witness
from even_beam.answers.match.agree import MOST_PAIRS
from even_beam.answers.match.desk import Matched, Matching
from even_beam.answers.match.target_text import of_white, usual_target
from even_beam.bench.measured import Measured
from even_beam.bench.observations import Observation
from even_beam.bench.records import Event, Session
from even_beam.bench.run import live_events
from even_beam.bench.target import Target, target_set
from even_beam.collection.collection import Collection
from even_beam.known.choice import WORKING_WHITES_K, Entrant
from even_beam.known.comparison import Comparison
from even_beam.known.doubts import Flag, flags
from even_beam.shell.settings import Settings
from even_beam.words import notation


def exposed_at(settings: Settings) -> str:
    """The sensitivity and the shutter of the settings, as they stand beside an f-number."""
    return f"ISO {settings.iso}, {notation.seconds(settings.shutter_s).removesuffix(' s')}"


class Material:
    """The lamps of a session, some of them by name, lamps by name over all sessions, or `entrants` that are at hand;
    and what is known of them.

    Raises `UnknownFixtureError` and `TermsTextError` for names that are not understood.
    """

    def __init__(
        self,
        collection: Collection,
        settings: Settings,
        session: Session | None,
        fixtures: Sequence[str] = (),
        entrants: Sequence[Entrant] | None = None,
    ) -> None:
        self.collection, self.settings, self.session = collection, settings, session
        self.witness = Witness(collection, settings)
        self.fixtures = tuple(fixtures)
        if entrants is not None:
            self.entrants = list(entrants)
        elif session is not None:
            read = lamps_of(collection, session.id)
            self.entrants = [entrant for entrant in read if not fixtures or entrant.name in fixtures]
        else:
            self.entrants = named_lamps(collection, fixtures) if fixtures else collection.entrants()
        self._matched: dict[Target, Matched] = {}
        self._scenes: dict[tuple[str, ...], Scene] = {}

    @cached_property
    def readings(self) -> tuple[Measured, ...]:
        """Every reading of the report in the order taken, also what does not count: of the whole session, or of the
        lamps that are named."""
        asked = [self.session] if self.session is not None else self.collection.sessions
        every = [m for one in asked for m in self.collection.readings_in(one.id)]
        if self.session is not None and not self.fixtures:
            return tuple(every)  # the room's own light as well
        wanted = {entrant.source_id for entrant in self.entrants}
        return tuple(m for m in every if wanted & set(m.reading.source_ids))

    @property
    def simulated(self) -> int:
        """How many of the readings a program played."""
        meters = self.collection.meters
        return sum(m.reading.meter_id in meters and meters[m.reading.meter_id].simulated != "" for m in self.readings)

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
        if self.session is not None:
            standing = self.collection.entrants_in(self.session.id, doubted=True)
            return tuple(flag for e in standing if not self.fixtures or e.name in self.fixtures for flag in flags(e))
        return tuple(flag for entrant in self.entrants for flag in self.witness.flags(entrant))

    def glance(self, entrant: Entrant) -> Glance:
        """A lamp at a glance, looked at once."""
        return self.witness.kept(entrant, Glance)

    # --- side by side

    def scene(self, *entrants: Entrant) -> Scene:
        """Lamps compared as Compare does at first, all of them where none is named."""
        chosen = entrants or tuple(self.entrants)
        keys = tuple(entrant.key for entrant in chosen)
        if keys not in self._scenes:
            asked: dict[str, Hashable] = {}
            found, _ = compared(self.collection, chosen, asked, reference_of(chosen))
            numbers = series_numbers(self.collection, chosen)
            self._scenes[keys] = Scene(
                comparison=found,
                entrants=list(chosen),
                collection=self.collection,
                places={one.name: numbers[one.key] for one in chosen},
                unit=self.settings.distance_unit,
            )
        return self._scenes[keys]

    @cached_property
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
        if self.session is not None:
            set_ = target_set(live_events(self.collection.logbook.of_session(Event, self.session.id)))
            if set_ is not None:
                return set_
        return usual_target(self.collection, self.entrants, self.witness) or self.common_white
