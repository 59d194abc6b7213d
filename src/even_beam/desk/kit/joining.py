"""That two things of the Kit are one, or two again: as it is said in a line, done, and undone."""

import re
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime
from typing import TYPE_CHECKING, Any

from even_beam.bench.records import Meter, Source, new_id
from even_beam.bench.sameness import Same, in_force
from even_beam.desk.kit.form_error import FormError

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

_SAME = re.compile(r"\s*(?:is |it is )?(?:the )?same(?: \w+)? as (?P<name>.+?)\s*", re.IGNORECASE)
_TWO = re.compile(r"\s*(?:(?:is |it is |are )?two again|(?:is )?not the same)\s*", re.IGNORECASE)

Thing = Source | Meter


def said_same_as(text: str) -> str:
    """The name of the thing that a line says this one is; empty for a line that says no such thing."""
    found = _SAME.fullmatch(text)
    return found["name"] if found is not None else ""


def is_two_again(text: str) -> bool:
    """Whether a line says that what was joined is two things."""
    return _TWO.fullmatch(text) is not None


def joined(things: Sequence[Thing], one: Thing, name: str, at: datetime) -> tuple[Same, Thing]:
    """That the thing of a name is this one, which goes on; and which that is. Raises `FormError`."""
    other = next((o for o in things if o.nickname.casefold() == name.casefold() and o.id != one.id), None)
    if other is None:
        raise FormError("line", f"There is no other “{name}” in the Kit")
    return Same(new_id(), at, _what(one), one.id, other.id), other


def parted(said: Sequence[Same], one: Thing, at: datetime) -> list[Same]:
    """That all that goes on as this thing is a thing of its own again. Raises `FormError`."""
    own = [same for same in in_force(said) if same.what == _what(one) and one.id in (same.one_id, same.other_id)]
    if not own:
        raise FormError("line", f"{one.nickname} was never joined with another")
    return [Same(new_id(), at, same.what, same.one_id, same.other_id, undoes=same.id) for same in own]


def _what(one: Thing) -> str:
    return "source" if isinstance(one, Source) else "meter"


class Exchange:
    """Records put out and in for the Kit's undo: what was said to be the same is never taken out, it is taken back."""

    def __init__(self, logbook: "Logbook", clock: Callable[[], datetime]) -> None:
        self._logbook, self._clock = logbook, clock
        self._stands_as: dict[str, str] = {}

    def __call__(self, out: Sequence[Any], in_: Sequence[Any]) -> None:
        """Take records out and others in, all or nothing. Raises `LogbookError`."""
        taken_back = [self._taken_back(one) for one in out if isinstance(one, Same)]
        said = [self._said(one) if isinstance(one, Same) else one for one in in_]
        self._logbook.exchange([one for one in out if not isinstance(one, Same)], [*said, *taken_back])

    def _said(self, one: Same) -> Same:
        """Said once more it is a new word: the former one was taken back."""
        undoes = self._standing(one.undoes) if one.undoes is not None else None
        again = replace(one, id=new_id(), at=self._clock(), undoes=undoes)
        self._stands_as[one.id] = again.id
        return again

    def _taken_back(self, one: Same) -> Same:
        if one.undoes is None:
            return replace(one, id=new_id(), at=self._clock(), undoes=self._standing(one.id))
        joined_again = replace(one, id=new_id(), at=self._clock(), undoes=None)
        self._stands_as[self._standing(one.undoes)] = joined_again.id
        return joined_again

    def _standing(self, said_id: str) -> str:
        """The word that stands for one that was taken back and said again."""
        while said_id in self._stands_as:
            said_id = self._stands_as[said_id]
        return said_id
