"""A logbook shared with a hub, both ways: what came, what was sent, and what must wait."""

import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Any

from even_beam.answers.sharing.merging import Merged, merge_whole
from even_beam.hubs import Fetched, Hub, hub_at, kept_address
from even_beam.logbook import parts
from even_beam.logbook.errors import NamesNothingError
from even_beam.logbook.store import Logbook
from even_beam.words import notation


@dataclass(slots=True)
class Shared:
    """What came of it: what was taken in, how many records went, and what had to be left, in words."""

    address: str
    came: Merged = field(default_factory=Merged)
    sent: int = 0
    left: list[str] = field(default_factory=list)
    strange: list[str] = field(default_factory=list)
    is_newer: bool = False
    was_reached: bool = True

    @property
    def is_whole(self) -> bool:
        """Whether both have all."""
        return not self.left and not self.is_newer

    @property
    def words(self) -> str:
        """What came and went, in sentences."""
        came = notation.count(self.came.came, "record") if self.came.came else "Nothing"
        readings = f", {notation.count(self.came.readings, 'reading')} among them," if self.came.readings else ""
        went = notation.count(self.sent, "record") if self.sent else "nothing"
        return f"{came}{readings} came from the hub, {went} went to it."

    def lines(self) -> Sequence[str]:
        """All of it, a sentence a line."""
        told = [self.words, *list(self.came.lines())[1:], *self.left]
        if self.strange:
            told.append(f"{notation.count(len(self.strange), 'file')} there that no bench wrote: passed over.")
        if self.is_newer:
            told.append("The hub is of a newer Even Beam: it was read as far as this one understands, and not written.")
        return told

    def as_json(self) -> dict[str, Any]:
        """For other programs (docs/sharing.md)."""
        return {
            "hub": self.address,
            "came": self.came.came,
            "sent": self.sent,
            "whole": self.is_whole,
            "left": list(self.left),
            **self.came.as_json(),
        }


def share(
    logbook: Logbook,
    address: str,
    clock: Callable[[], datetime],
    progress: Callable[[str], None] = lambda what: None,
    ask: Callable[[str], str] | None = None,
) -> Shared:
    """Take in what a hub has, and give it what it has not. Broken off at any moment, nothing is lost and nothing there
    twice. `progress` is told what is being done, and may raise; `ask` is asked for a password where one is wanted.

    Raises `HubError` for a hub that cannot be reached or used, and `LogbookError`.
    """
    kept = kept_address(address)
    is_known = any(one.address == kept and one.shared_at for one in logbook.hubs())
    hub = hub_at(address, is_known=is_known, ask=ask)
    try:
        return _Sharing(logbook, hub, kept, clock, progress).done()
    finally:
        hub.close()


_Several = tuple[str, Sequence[tuple[Path, Sequence[str]]]]
"""Where parts are from, and the parts with the names of what stands in them."""


class _Sharing:
    def __init__(
        self,
        logbook: Logbook,
        hub: Hub,
        address: str,
        clock: Callable[[], datetime],
        progress: Callable[[str], None],
    ) -> None:
        self._logbook, self._hub, self._clock, self._progress = logbook, hub, clock, progress
        self._state = logbook.hub(address)
        self._shared = Shared(address)

    def done(self) -> Shared:
        known = self._logbook.known_parts(self._state)
        self._progress("looks what is new")
        news = self._hub.news(known, self._state.taken)
        if news.went_back:
            self._state = self._logbook.forget_shared(self._state)
            news = self._hub.news((), "")
        taken = self._take(news.names, news.taken)
        self._shared.is_newer |= news.is_newer
        sent, name = self._send()
        heard = [*([name] if name else []), *self._shared.strange]
        self._logbook.note_shared(self._state, sent, taken, heard, self._clock())
        return self._shared

    def _take(self, names: Sequence[str], taken: str) -> str:
        """Take in what is new; how far the hub has been read."""
        if not names:
            return taken
        with tempfile.TemporaryDirectory(prefix="even-beam-") as folder:
            self._progress(f"fetches {notation.count(len(names), 'part')}")
            fetched = self._hub.fetch(names, Path(folder))
            self._shared.left += fetched.left
            self._shared.strange += fetched.strange
            self._shared.is_newer |= not fetched.understood
            whole = self._take_in(fetched, Path(folder))
        return taken if whole and not fetched.left and fetched.understood else self._state.taken

    def _take_in(self, fetched: Fetched, folder: Path) -> bool:
        """Bench by bench, for what has no name of its own is told by the bench it is from; else all at once, for each
        may name records of the other; else part by part: one that names records that are nowhere yet must wait."""
        by_origin: dict[str, list[tuple[Path, Sequence[str]]]] = {}
        for part, names in fetched.parts:
            by_origin.setdefault(parts.origin_of(part), []).append((part, names))
        waiting = self._taken(list(by_origin.items()), fetched, folder)
        if len(waiting) > 1:
            together = [one for _, several in waiting for one in several]
            origins = notation.listed([origin for origin, _ in waiting])
            waiting = self._taken([(origins, together)], fetched, folder)
        apart = [(origin, [one]) for origin, several in waiting for one in several]
        if len(apart) > 1:
            waiting = self._taken(apart, fetched, folder)
        if waiting:
            self._must_wait(len(waiting))
        return not waiting

    def _taken(self, waiting: Sequence[_Several], fetched: Fetched, folder: Path) -> Sequence[_Several]:
        """Take in one after the other as long as any can be; those that cannot."""
        while waiting:
            later = [one for one in waiting if not self._is_taken(*one, fetched, folder)]
            if len(later) == len(waiting):
                break
            waiting = later
        return waiting

    def _must_wait(self, count: int) -> None:
        belongs = "belongs" if count == 1 else "belong"
        self._shared.left.append(f"{notation.count(count, 'part')} must wait: what it {belongs} to is not there yet.")

    def _is_taken(
        self, origin: str, several: Sequence[tuple[Path, Sequence[str]]], fetched: Fetched, folder: Path
    ) -> bool:
        together = folder / "together.evenbeam"
        parts.combine([part for part, _ in several], together)
        self._progress("takes in what came")
        heard = [name for _, names in several for name in names] if fetched.understood else []
        try:
            found = merge_whole(self._logbook, together, origin, self._clock(), {}, hub_id=self._state.id, heard=heard)
        except NamesNothingError:
            return False
        finally:
            together.unlink()
        self._shared.came.add(found)
        return True

    def _send(self) -> tuple[int, str]:
        """Send what the hub has not; up to where it is told, and the name of what went."""
        if self._shared.is_newer:
            return self._state.sent, ""
        with tempfile.TemporaryDirectory(prefix="even-beam-") as folder:
            part = Path(folder) / "going.evenbeam"
            sent = self._logbook.write_part(self._state, part)
            if not part.exists():
                return sent, ""
            self._progress("sends what is new here")
            count = parts.records_in(part)
            name = self._hub.add(part)
        self._shared.sent = count
        return sent, name
