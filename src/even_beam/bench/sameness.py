"""Which records of two benches are one thing: what was said so, and under which identity it goes on."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True)
class Same:
    """That two records of a kind (`what`: source, meter, model ...) are one thing, which goes on as `one_id`; or, where
    it `undoes` another of these, that it was taken back."""

    id: str
    at: datetime
    what: str
    one_id: str
    other_id: str
    undoes: str | None = None


def in_force(said: Iterable[Same]) -> list[Same]:
    """What was said and not taken back, in the order said."""
    ordered = sorted(said, key=lambda one: (one.at, one.id))
    undone = {one.undoes for one in ordered}
    return [one for one in ordered if one.undoes is None and one.id not in undone]


def goes_on_as(said: Iterable[Same]) -> Mapping[str, str]:
    """Of each record that is one with another, the identity under which it goes on, where that is not its own.

    Whoever has heard the same things says the same, in whatever order they were heard: of all that are one the last
    word names it.
    """
    group: dict[str, set[str]] = {}
    named: dict[str, str] = {}
    for one in in_force(said):
        joined = group.get(one.one_id, {one.one_id}) | group.get(one.other_id, {one.other_id})
        for member in joined:
            group[member] = joined
            named[member] = one.one_id
    return {member: name for member, name in named.items() if member != name}
