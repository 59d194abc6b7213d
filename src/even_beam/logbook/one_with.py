"""Records as they are told where things of two benches are one: under the identity under which they go on."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, TypeVar

from even_beam.bench.observations import Observation
from even_beam.bench.records import Calibration, Claim, Cost, Event, Gear, Meter, Model, Reading, Source, Step

Record = TypeVar("Record")

_NAMES_ONE: Mapping[type, tuple[str, ...]] = {
    Source: ("model_id",), Claim: ("model_id",), Cost: ("model_id",), Gear: ("model_id",),
    Calibration: ("meter_id",), Step: ("meter_id",), Reading: ("meter_id",),
}  # fmt: skip
_NAMES_SEVERAL: Mapping[type, str] = {Reading: "source_ids", Step: "source_ids", Observation: "source_ids"}
_CAN_BE_ONE = (Source, Meter, Model)


@dataclass(frozen=True)
class OneWith:
    """`goes_on` has the identity under which each goes on that is one with another."""

    goes_on: Mapping[str, str]

    def all_of(self, record_id: str) -> list[str]:
        """All identities of a thing, the one under which it goes on first."""
        return [record_id, *(other for other, one in self.goes_on.items() if one == record_id)]

    def named(self, ids: Sequence[str]) -> list[str]:
        """Identities as they go on, each once."""
        return list(dict.fromkeys(self.goes_on.get(one, one) for one in ids))

    def without_others(self, records: list[Record]) -> list[Record]:
        """Without the records of things that go on as others."""
        if not self.goes_on:
            return records
        return [one for one in records if not isinstance(one, _CAN_BE_ONE) or one.id not in self.goes_on]

    def in_records(self, records: list[Record]) -> list[Record]:
        """Records that name others, with these named as they go on."""
        if not self.goes_on or not records:
            return records
        kind = type(records[0])
        if kind is Event:
            return [self._in_event(one) for one in records]  # type: ignore[arg-type,misc]
        if kind not in _NAMES_ONE and kind not in _NAMES_SEVERAL:
            return records
        return [self._in_record(one, _NAMES_ONE.get(kind, ()), _NAMES_SEVERAL.get(kind)) for one in records]

    def _in_record(self, record: Record, one: Iterable[str], several: str | None) -> Record:
        named: dict[str, Any] = {
            name: self.goes_on[getattr(record, name)] for name in one if getattr(record, name) in self.goes_on
        }
        if several is not None and any(own in self.goes_on for own in getattr(record, several)):
            named[several] = tuple(self.named(getattr(record, several)))
        return replace(record, **named) if named else record  # type: ignore[type-var]

    def _in_event(self, event: Event) -> Event:
        """An event names lamps and meters in the texts of what was and what is."""
        old, new = (self._in_text(text) for text in (event.old, event.new))
        return replace(event, old=old, new=new) if (old, new) != (event.old, event.new) else event

    def _in_text(self, text: str) -> str:
        words = text.split()
        return " ".join(self.named(words)) if any(word in self.goes_on for word in words) else text


NOTHING_JOINED = OneWith({})
