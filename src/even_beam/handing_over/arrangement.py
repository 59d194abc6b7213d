"""How the sections of a report are arranged: which are left out, in which order, and what the author adds to each."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from even_beam.bench.records import ReportLayout, Session, new_id
from even_beam.handing_over.kinds import PLANS, READINGS, Kind

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


@dataclass(frozen=True, slots=True)
class Arrangement:
    """Keys of sections in the author's order (those that are not named follow in the kind's own), those left out, and
    a sentence of one's own by key."""

    order: tuple[str, ...] = ()
    out: frozenset[str] = frozenset()
    own: Mapping[str, str] = field(default_factory=dict)

    def applied(self, group: Sequence[str]) -> tuple[str, ...]:
        """The sections of a group that stand in the report, in their order."""
        return tuple(key for key in self.ordered(group) if key not in self.out)

    def ordered(self, group: Sequence[str]) -> tuple[str, ...]:
        """All sections of a group in their order, those left out as well."""
        first = [key for key in self.order if key in group]
        return (*first, *(key for key in group if key not in first))

    def moved(self, groups: Sequence[Sequence[str]], key: str, by: int) -> "Arrangement":
        """A section one or more places further up (negative) or down within its group."""
        ordered = [list(self.ordered(group)) for group in groups]
        own = next(group for group in ordered if key in group)
        place = own.index(key)
        own.insert(min(max(place + by, 0), len(own) - 1), own.pop(place))
        return replace(self, order=tuple(one for group in ordered for one in group))

    def toggled(self, key: str) -> "Arrangement":
        """A section left out, or taken in again."""
        return replace(self, out=self.out ^ {key})

    def with_sentence(self, key: str, text: str) -> "Arrangement":
        """A sentence of the author's at a section; none for an empty text."""
        own = {name: said for name, said in self.own.items() if name != key}
        return replace(self, own={**own, key: text.strip()} if text.strip() else own)


def usual_arrangement(kind: Kind) -> Arrangement:
    """As a kind is where nobody arranged it."""
    return Arrangement(out=frozenset({READINGS, *PLANS[kind].on_request}))


def kept_arrangement(logbook: "Logbook", session: Session | None, kind: Kind) -> Arrangement:
    """As the session keeps it, else the usual one."""
    kept = _layout(logbook, session, kind) if session is not None else None
    if kept is None:
        return usual_arrangement(kind)
    return Arrangement(kept.section_order, frozenset(kept.left_out), kept.own)


def keep_arrangement(logbook: "Logbook", session: Session, kind: Kind, arranged: Arrangement) -> None:
    """Keep it with the session. Raises `LogbookError`."""
    kept = _layout(logbook, session, kind)
    logbook.save(
        ReportLayout(
            id=kept.id if kept is not None else new_id(),
            session_id=session.id,
            kind=str(kind),
            section_order=arranged.order,
            left_out=tuple(sorted(arranged.out)),
            own=dict(arranged.own),
        )
    )


def _layout(logbook: "Logbook", session: Session, kind: Kind) -> ReportLayout | None:
    rows = logbook.of_session(ReportLayout, session.id)
    return next((row for row in rows if row.kind == kind), None)
