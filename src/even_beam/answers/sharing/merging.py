"""A logbook merged into another one: what came, what was there, what goes by another name, what both had changed."""

import json
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import ExitStack
from dataclasses import dataclass, replace
from dataclasses import field as having
from datetime import datetime
from pathlib import Path
from typing import Any

from even_beam.answers.sharing.deciding import (
    IDENTITY,
    Answers,
    Decision,
    Joined,
    Question,
    UnknownNameError,
    apart,
    decide,
)
from even_beam.bench.records import Meter, Modifier, Source, Subject, ToleranceSet
from even_beam.bench.target import Look
from even_beam.logbook import parts
from even_beam.logbook.creation import borrowed
from even_beam.logbook.errors import LogbookError
from even_beam.logbook.reader import Reader
from even_beam.logbook.store import Logbook
from even_beam.logbook.taking_in import Conflict, TakenIn
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class Renamed:
    """A thing that goes by another name here than there, for the name was taken."""

    there: str
    here: str


@dataclass(frozen=True, slots=True)
class Disputed:
    """A field that both had changed: what it is of, what either made of it, and what stands."""

    what: str
    here: str
    there: str
    kept: str


@dataclass(slots=True)
class Merged:
    """What came of it."""

    sessions: int = 0
    readings: int = 0
    already: int = 0
    joined: list[Joined] = having(default_factory=list)
    renamed: list[Renamed] = having(default_factory=list)
    conflicts: list[Disputed] = having(default_factory=list)
    came: int = 0

    def add(self, other: "Merged") -> None:
        """Count another one in."""
        self.sessions += other.sessions
        self.readings += other.readings
        self.already += other.already
        self.came += other.came
        self.joined += other.joined
        self.renamed += other.renamed
        self.conflicts += other.conflicts

    def as_json(self) -> dict[str, Any]:
        """For other programs (docs/file-format.md)."""
        return {
            "sessions": self.sessions,
            "readings": self.readings,
            "already": self.already,
            "joined": [{"there": one.there, "here": one.here, "by": one.by} for one in self.joined],
            "renamed": [{"there": one.there, "here": one.here} for one in self.renamed],
            "conflicts": [
                {"what": one.what, "here": one.here, "there": one.there, "kept": one.kept} for one in self.conflicts
            ],
        }

    def lines(self) -> Iterable[str]:
        """What came of it, in sentences."""
        yield self.words
        for one in self.joined:
            if one.by != IDENTITY and one.there.casefold() != one.here.casefold():
                yield f"{one.there} there is {one.here} here, by {one.by}."
        for renamed in self.renamed:
            yield f"{renamed.there} there is called {renamed.here} here: {renamed.there} was taken."
        for field in self.conflicts:
            both = f"“{field.here}” here, “{field.there}” there"
            yield f"{field.what} was changed on both: {both}; “{field.kept}” is the later."

    @property
    def words(self) -> str:
        """What came, in a sentence."""
        there = ""
        if self.already:
            was = "was" if self.already == 1 else "were"
            there = f" {notation.count(self.already, 'reading')} {was} there already."
        if not self.came:
            return f"Nothing is new.{there}"
        if not self.readings:
            return f"No new readings, {notation.count(self.came, 'other record')}.{there}"
        came = f"{notation.count(self.readings, 'reading')} came"
        if not self.sessions:
            return f"{came}.{there}"
        new = f"{notation.count(self.sessions, 'session')} that {'was' if self.sessions == 1 else 'were'} not there"
        return f"{came}, with {new}.{there}"


def questions(logbook: Logbook, other: Path, at: datetime) -> list[Question]:
    """What has to be asked before another logbook is merged: what there has the name of something here.

    Raises `LogbookError`.
    """
    with borrowed(_another(logbook, other)) as copied:
        there = Logbook.open_to_read(copied)
        try:
            return decide(logbook, there, at, {}).questions
        finally:
            there.close()


def merge(
    logbook: Logbook,
    others: Sequence[Path],
    at: datetime,
    said: Mapping[str, str],
    answers: Answers = apart,
    progress: Callable[[str], None] = lambda table: None,
) -> Iterator[Merged]:
    """Take in other logbooks one after the other, which are left as they are; what came of each.

    Raises `LogbookError`, and `UnknownNameError` before anything is taken in.
    """
    with ExitStack() as borrowing:
        files = [borrowing.enter_context(borrowed(_another(logbook, other))) for other in others]
        _hold_names(logbook, files, said)
        for file in files:
            yield merge_whole(logbook, file, file.stem, at, said, answers, progress)


def _hold_names(logbook: Logbook, files: Sequence[Path], said: Mapping[str, str]) -> None:
    """Raises `UnknownNameError` for a pair of which one is nowhere."""
    if not said:
        return
    here, there = _nicknames(logbook), set[str]()
    for file in files:
        book = Logbook.open_to_read(file)
        try:
            there |= _nicknames(book)
        finally:
            book.close()
    for name, own in said.items():
        if name.casefold() not in there:
            raise UnknownNameError(f"there is no lamp or meter “{name}” in what shall be taken in")
        if own.casefold() not in here:
            raise UnknownNameError(f"there is no lamp or meter “{own}” in {logbook.path.name}")


def _nicknames(reader: Reader) -> set[str]:
    lamps = {lamp.nickname.casefold() for lamp in reader.all(Source)}
    return lamps | {meter.nickname.casefold() for meter in reader.all(Meter)}


def merge_whole(
    logbook: Logbook,
    file: Path,
    origin: str,
    at: datetime,
    said: Mapping[str, str],
    answers: Answers = apart,
    progress: Callable[[str], None] = lambda table: None,
    hub_id: str = "",
    heard: Sequence[str] = (),
) -> Merged:
    """Take in a file of the present format that nobody else has open, which comes from `origin`."""
    there = parts.reader(file) if hub_id else Logbook.open_to_read(file)
    try:
        decision = decide(logbook, there, at, said, answers)
        names_there = _names(there)
    finally:
        there.close()
    taken = logbook.merge(file, origin, decision.decided, decision.same, hub_id=hub_id, heard=heard, progress=progress)
    _make_units(logbook, decision.of_models)
    return _told(logbook, decision, taken, names_there)


def _another(logbook: Logbook, other: Path) -> Path:
    if other.exists() and other.samefile(logbook.path):
        raise LogbookError(
            f"{other.name} is this logbook itself.",
            "Nothing was changed.",
            "Choose the logbook that shall be taken in.",
        )
    return other


def _make_units(logbook: Logbook, of_models: Mapping[str, str]) -> None:
    changed = [replace(one, model_id=of_models[one.id]) for one in logbook.identities(Source) if one.id in of_models]
    if changed:
        logbook.save(*changed)


def _names(reader: Reader) -> dict[str, str]:
    """What everything that has a name is called, by identity."""
    names: dict[str, str] = {}
    names |= {one.id: one.nickname for one in reader.identities(Source)}
    names |= {one.id: one.nickname for one in reader.identities(Meter)}
    names |= {one.id: one.nickname for one in reader.identities(Modifier)}
    names |= {one.id: one.nickname for one in reader.identities(Subject)}
    names |= {one.id: one.name for one in reader.identities(ToleranceSet)}
    names |= {one.id: one.name for one in reader.identities(Look)}
    names |= {one.id: one.name for one in reader.sessions()}
    return names


def _told(logbook: Logbook, decision: Decision, taken: TakenIn, names_there: Mapping[str, str]) -> Merged:
    joined = {one.other_id for one in decision.same}
    names = {**names_there, **_names(logbook)}
    return Merged(
        taken.came.get("session", 0),
        taken.came.get("reading", 0),
        taken.already,
        decision.joined,
        [Renamed(old, new) for _, record_id, old, new in taken.renamed if record_id not in joined],
        [_disputed(one, names) for one in taken.conflicts],
        sum(taken.came.values()),
    )


def _disputed(one: Conflict, names: Mapping[str, str]) -> Disputed:
    """A field in dispute, in words: “Tansy: supplied by”."""
    name = names.get(one.record_id, one.what.replace("_", " "))
    what = f"{name}: {one.field.replace('_', ' ')}" if one.field else name
    return Disputed(what, _text(one.here), _text(one.there), _text(one.kept))


def _text(cell: str) -> str:
    value = json.loads(cell)
    if value is None:
        return ""
    return value if isinstance(value, str) else json.dumps(value)


def said_same(texts: Sequence[str]) -> dict[str, str]:
    """What was said as "Name there=Name here". Raises `ValueError` for what says no two names."""
    said = {}
    for text in texts:
        there, equals, here = (part.strip() for part in text.partition("="))
        if not (there and equals and here):
            raise ValueError(f"“{text}” is no pair of names: say “Name there=Name here”")
        said[there] = here
    return said
