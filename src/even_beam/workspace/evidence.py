"""What is known of each fixture, gathered for findings: its readings, its model's claims and costs, its meters."""

from collections.abc import Sequence

from even_beam.bench.compare import Entrant
from even_beam.bench.findings import Evidence
from even_beam.bench.findings.claims import ClaimVerdict
from even_beam.bench.findings.claims import claims as judge_claims
from even_beam.bench.findings.everything import findings_of
from even_beam.bench.findings.finding import Finding
from even_beam.bench.records import Claim, Cost, ToleranceSet
from even_beam.bench.tolerances import shipped
from even_beam.bench.verdicts import Verdict, verdict
from even_beam.workspace.collection import Collection
from even_beam.workspace.settings import Settings


class UnknownFixtureError(ValueError):
    """A fixture that the logbook does not have; the message names those it has."""


class Witness:
    """Asks the questions of a collection: findings, claims and verdicts of any of its fixtures."""

    def __init__(self, collection: Collection, settings: Settings | None = None) -> None:
        self._collection = collection
        self._settings = settings or Settings()
        self._claims = collection.logbook.all(Claim)
        self._costs = collection.logbook.all(Cost)

    def entrants(self, names: Sequence[str] | None = None) -> list[Entrant]:
        """Every fixture with readings, or those of some nicknames, in the order asked. Raises `UnknownFixtureError`."""
        found = self._collection.entrants()
        if names is None:
            return found
        by_name = {e.name.casefold(): e for e in found}
        for name in names:
            if name.casefold() not in by_name:
                raise UnknownFixtureError(
                    f"no readings of “{name}”; there are readings of {', '.join(e.name for e in found)}"
                )
        return [by_name[name.casefold()] for name in names]

    def evidence(self, entrant: Entrant) -> Evidence:
        """What is known of a fixture."""
        source = self._collection.sources.get(entrant.source_id)
        model = source.model_id if source is not None else None
        return Evidence(
            entrant.source_id, entrant.name, entrant.kind, entrant.readings, self._collection.meters,
            tuple(c for c in self._claims if c.model_id == model), tuple(c for c in self._costs if c.model_id == model),
        )  # fmt: skip

    def findings(self, entrant: Entrant) -> tuple[Finding, ...]:
        """Every finding of a fixture."""
        own = self._collection.sources.get(entrant.source_id)
        units = [
            self.evidence(other) for other in self._collection.entrants()
            if other.source_id != entrant.source_id and own is not None and own.model_id is not None
            and self._collection.sources[other.source_id].model_id == own.model_id
        ]  # fmt: skip
        sessions = {session.id: session for session in self._collection.sessions}
        return findings_of(self.evidence(entrant), units, sessions, self._settings.iso, self._settings.shutter_s)

    def claims(self, entrant: Entrant) -> tuple[ClaimVerdict, ...]:
        """Every claim of the model, judged."""
        return judge_claims(self.evidence(entrant))

    def tolerance_sets(self) -> tuple[ToleranceSet, ...]:
        """The shipped sets and the logbook's own, which replace those of the same name."""
        found = {one.name: one for one in (*shipped(), *self._collection.logbook.all(ToleranceSet))}
        return tuple(found.values())

    def verdicts(self, entrant: Entrant, findings: Sequence[Finding]) -> tuple[Verdict, ...]:
        """The fixture judged for every purpose."""
        return tuple(verdict(self.evidence(entrant), findings, one) for one in self.tolerance_sets())
