"""What is known of each fixture, gathered for findings: its readings, its model's claims and costs, its meters."""

from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any, TypeVar

from even_beam.answers.findings.tolerance_sets import tolerance_sets
from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import Cost, Gear, ToleranceSet
from even_beam.collection.collection import Collection, Wanted
from even_beam.errors import TellableError
from even_beam.known.choice import Entrant
from even_beam.known.doubts import Flag, flags
from even_beam.known.evidence import Evidence
from even_beam.known.findings.claims import ClaimVerdict
from even_beam.known.findings.claims import claims as judge_claims
from even_beam.known.findings.everything import findings_of
from even_beam.known.findings.finding import Finding
from even_beam.known.trust import trusted
from even_beam.known.verdicts import Verdict, verdict, verdicts
from even_beam.shell.settings import Settings

Kept = TypeVar("Kept")


class UnknownFixtureError(TellableError, ValueError):
    """A fixture that the logbook does not have; the message names those it has."""


@dataclass(slots=True)
class _Known:
    """What was answered of a fixture, so that no answer is found twice."""

    evidence: Evidence | None = None
    findings: tuple[Finding, ...] | None = None
    flags: tuple[Flag, ...] | None = None
    claims: tuple[ClaimVerdict, ...] | None = None
    verdicts: tuple[Verdict, ...] | None = None
    made: dict[Callable[..., Any], Any] = field(default_factory=dict)


class Witness:
    """Asks the questions of a collection: findings, claims and verdicts of any of its fixtures."""

    def __init__(self, collection: Collection, settings: Settings | None = None) -> None:
        self._collection = collection
        self._settings = settings or Settings()
        self._costs = collection.logbook.all(Cost)
        self._gear = collection.logbook.all(Gear)
        self._known: dict[Entrant, _Known] = {}
        self._sets: tuple[ToleranceSet, ...] = ()

    def entrants(self, names: Sequence[str] | None = None, figures: Wanted | None = None) -> list[Entrant]:
        """Every fixture with readings, or those of some nicknames, in the order asked. Raises `UnknownFixtureError`."""
        if names is None:
            return self._collection.entrants(None, figures)
        by_name = {source.nickname.casefold(): source.id for source in self._collection.sources.values()}
        asked = [by_name.get(name.casefold(), "") for name in names]
        found = self._collection.entrants(asked, figures)
        left_out = set(asked) - {entrant.source_id for entrant in found}
        for name, source_id in zip(names, asked, strict=True):
            if source_id in left_out:
                raise UnknownFixtureError(self._why_not(name, source_id))
        return found

    def _why_not(self, name: str, source_id: str) -> str:
        read = self._collection.lamps()
        if source_id in {lamp.source_id for lamp in read}:
            return f"no reading of “{name}” counts: all were taken back, set aside or left in doubt"
        return f"no readings of “{name}”; there are readings of {', '.join(lamp.name for lamp in read)}"

    def _of(self, entrant: Entrant) -> _Known:
        return self._known.setdefault(entrant, _Known())

    def kept(self, entrant: Entrant, make: Callable[["Witness", Entrant], Kept]) -> Kept:
        """What another makes of a fixture, made once for all who ask."""
        made = self._of(entrant).made
        if make not in made:
            made[make] = make(self, entrant)
        found: Kept = made[make]
        return found

    def forget(self, entrant: Entrant) -> None:
        """Let go of what was answered of a fixture: of thousands no more is held than of one."""
        self._known.pop(entrant, None)

    def evidence(self, entrant: Entrant) -> Evidence:
        """What is known of a fixture."""
        known = self._of(entrant)
        if known.evidence is None:
            known.evidence = self._gathered(entrant)
        return known.evidence

    def _gathered(self, entrant: Entrant) -> Evidence:
        source = self._collection.sources.get(entrant.source_id)
        model = source.model_id if source is not None else None
        return Evidence(
            source_id=entrant.source_id,
            name=entrant.name,
            kind=entrant.kind,
            readings=trusted(entrant.readings),
            meters=self._collection.meters,
            claims=tuple(c for c in self._collection.claims if c.model_id == model),
            costs=tuple(c for c in self._costs if c.model_id == model),
            gear=tuple(row for row in self._gear if row.model_id == model),
            session_names=self._collection.session_names,
        )

    def findings(self, entrant: Entrant) -> tuple[Finding, ...]:
        """Every finding of a fixture."""
        known = self._of(entrant)
        if known.findings is None:
            settings = self._settings
            known.findings = findings_of(
                evidence=self.evidence(entrant),
                others=self._beside(entrant),
                sessions=self._collection.session_by_id,
                iso=settings.iso,
                shutter_s=settings.shutter_s,
                band_edges_k=settings.white_bands_k,
                battery_wh=settings.battery_wh,
            )
        return known.findings

    def _beside(self, entrant: Entrant) -> list[Evidence]:
        """Other units of the model, as far as they were read in the same sessions and at the same terms but for the
        level, of which the highest counts: with nothing else they are compared."""
        units = self._same_model(entrant)
        if not units:
            return []
        sessions = frozenset(m.reading.session_id for m in entrant.readings)
        read = self._collection.logbook.sources_read_in(sessions)
        own = {terms.key(m, "level") for m in entrant.readings}

        def shared(readings: Sequence[Measured]) -> Sequence[Measured]:
            return [m for m in readings if terms.key(m, "level") in own]

        found = self._collection.entrants([i for i in units if i in read], shared, within=sessions)
        return [self.evidence(other) for other in found]

    def _same_model(self, entrant: Entrant) -> list[str]:
        """Other units of the model."""
        sources = self._collection.sources
        own = sources.get(entrant.source_id)
        if own is None or own.model_id is None:
            return []
        return [s.id for s in sources.values() if s.model_id == own.model_id and s.id != own.id]

    def claims(self, entrant: Entrant) -> tuple[ClaimVerdict, ...]:
        """Every claim of the model, judged."""
        known = self._of(entrant)
        if known.claims is None:
            known.claims = judge_claims(self.evidence(entrant))
        return known.claims

    def flags(self, entrant: Entrant) -> tuple[Flag, ...]:
        """Every reading of the fixture that is in doubt, also what counts in nothing for it; of a part those of the
        part."""
        known = self._of(entrant)
        if known.flags is None:
            own = {m.reading.session_id for m in entrant.readings}
            standing = self._collection.entrants([entrant.source_id], doubted=True)
            every = (m for one in standing for m in one.readings)
            readings = tuple(m for m in every if m.reading.session_id in own or not entrant.part)
            known.flags = flags(replace(entrant, readings=readings or entrant.readings))
        return known.flags

    def tolerance_sets(self) -> tuple[ToleranceSet, ...]:
        """The shipped sets and the logbook's own, which replace those of the same name."""
        if not self._sets:
            self._sets = tuple(tolerance_sets(self._collection.logbook))
        return self._sets

    def verdict(
        self, entrant: Entrant, purpose: str, asked: Mapping[str, Hashable] | None = None, *, whole: bool = False
    ) -> Verdict:
        """The fixture judged for one purpose at the terms asked, or over its whole range.

        Raises `KeyError` when there is no set of that name.
        """
        sets = {one.name: one for one in self.tolerance_sets()}
        return verdict(self.evidence(entrant), self.findings(entrant), sets[purpose], asked, whole=whole)

    def return_by(self, entrant: Entrant) -> date | None:
        """The day until which the fixture can go back."""
        source = self._collection.sources.get(entrant.source_id)
        return date.fromisoformat(source.return_by) if source is not None and source.return_by else None

    def verdicts(self, entrant: Entrant) -> tuple[Verdict, ...]:
        """The fixture judged for every purpose."""
        known = self._of(entrant)
        if known.verdicts is None:
            known.verdicts = verdicts(self.evidence(entrant), self.findings(entrant), self.tolerance_sets())
        return known.verdicts
