"""Which things of two logbooks are the same, as far as that can be known; what cannot is asked.

One identity, or the same model with the same serial number, is one lamp. The same name alone says nothing.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from enum import StrEnum
from typing import TypeVar

from even_beam.bench.records import Event, Meter, Model, Modifier, Source, Step, Subject, ToleranceSet, new_id
from even_beam.bench.sameness import Same
from even_beam.errors import TellableError
from even_beam.logbook.reader import Reader
from even_beam.logbook.taking_in import Decided
from even_beam.words import notation


class Answer(StrEnum):
    """What a thing there is that has the name of one here."""

    SAME = "the same"
    UNIT = "another unit of that model"
    OTHER = "another one"


@dataclass(frozen=True, slots=True)
class Question:
    """Whether a lamp or meter there is the one here of the same name; what is known of either, in words."""

    there: Source | Meter
    here: Source | Meter
    of_there: str = ""
    of_here: str = ""

    @property
    def name(self) -> str:
        """What both are called."""
        return self.here.nickname

    @property
    def is_of_lamps(self) -> bool:
        """Whether it asks of a lamp."""
        return isinstance(self.here, Source)


@dataclass(frozen=True, slots=True)
class Joined:
    """A thing there that is one here, and by what it is known."""

    there: str
    here: str
    by: str


@dataclass(slots=True)
class Decision:
    """What is to be done, and what was not known: `questions`, answered or not."""

    decided: Decided = field(default_factory=Decided)
    same: list[Same] = field(default_factory=list)
    of_models: dict[str, str] = field(default_factory=dict)
    joined: list[Joined] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)


class UnknownNameError(TellableError):
    """A name that was said to be the same as another is not there; the message says which."""


Answers = Callable[[Question], Answer]
IDENTITY, SERIAL, SAID, NAME = "identity", "model and serial number", "said", "name"


def apart(question: Question) -> Answer:
    """What is not answered is kept apart."""
    return Answer.OTHER


def decide(here: Reader, there: Reader, at: datetime, said: Mapping[str, str], answers: Answers = apart) -> Decision:
    """Decide of a logbook that is to be taken in; `said` are names there with the names here of the same thing."""
    found = Decision()
    models = _models(here, there, at, found)
    known = {there_name.casefold(): here_name.casefold() for there_name, here_name in said.items()}
    lamps, meters = _Things(here, there, Source), _Things(here, there, Meter)
    serials = {serial: one for one in lamps.told if (serial := _serial(one, models)) is not None}
    for lamp in lamps.coming:
        serial = _serial(lamp, models)
        _one(lamp, lamps, serials.get(serial) if serial is not None else None, known, found, at, answers)
    for meter in meters.coming:
        _one(meter, meters, None, known, found, at, answers)
    left_out = [("modifier", one.id) for one in _modifiers(here, there, found)]
    left_out += [("subject", one.id) for one in _alike(here, there, Subject)]
    left_out += [("tolerance_set", one.id) for one in _alike(here, there, ToleranceSet)]
    found.decided = Decided(without_sessions=_unsound(there), left_out=left_out)
    return found


class _Things:
    """The lamps or the meters of both: the identities here, those that are told here, and those that come."""

    def __init__(self, here: Reader, there: Reader, kind: type[Source] | type[Meter]) -> None:
        self.ids = {one.id for one in here.identities(kind)}
        self.told: list[Source | Meter] = [*here.all(kind)]
        self.coming: list[Source | Meter] = [*there.all(kind)]
        self.by_name = {one.nickname.casefold(): one for one in self.told}
        self.by_id = {one.id: one for one in self.told}
        self._readers = here, there

    def is_unused_twin(self, there: Source | Meter, here: Source | Meter) -> bool:
        """Whether both say the same of themselves, and one of them was never used: nothing is mixed then."""
        if replace(there, id=here.id) != here:
            return False
        if isinstance(here, Meter) and here.simulated:
            return True
        return any(not _is_used(reader, one) for reader, one in zip(self._readers, (here, there), strict=True))

    def told_of(self, there: Source | Meter, here: Source | Meter) -> tuple[str, str]:
        """What is known of one there and of one here."""
        readers = reversed(self._readers)
        words = [_told(reader, one) for reader, one in zip(readers, (there, here), strict=True)]
        return words[0], words[1]


def _told(reader: Reader, one: Source | Meter) -> str:
    if isinstance(one, Meter):
        return f"{one.kind}, {notation.count(reader.uses_of_meter(one.id), 'use')}"
    model = next((model.name for model in reader.all(Model) if model.id == one.model_id), "")
    read = reader.sessions_reading().get(one.id, {})
    parts = [
        model,
        f"serial {one.serial}" if one.serial else "",
        f"{notation.count(sum(read.values()), 'reading')} in {notation.count(len(read), 'session')}"
        if read
        else "not read",
    ]
    return ", ".join(filter(None, parts))


def _is_used(reader: Reader, one: Source | Meter) -> bool:
    if isinstance(one, Meter):
        return reader.uses_of_meter(one.id) > 0
    return one.id in reader.sessions_reading()


def _one(
    thing: Source | Meter,
    things: _Things,
    by_serial: Source | Meter | None,
    known: Mapping[str, str],
    found: Decision,
    at: datetime,
    answers: Answers,
) -> None:
    """Decide of one lamp or meter that comes."""
    name = thing.nickname.casefold()
    said = things.by_name.get(known.get(name, ""))
    if thing.id in things.ids and (said is None or said.id == thing.id):
        own = things.by_id.get(thing.id)
        found.joined.append(Joined(thing.nickname, own.nickname if own is not None else thing.nickname, IDENTITY))
        return
    one, by = (said, SAID) if said is not None else (by_serial, SERIAL)
    alike = things.by_name.get(name)
    if one is None and alike is not None and things.is_unused_twin(thing, alike):
        one, by = alike, NAME
    if one is None and alike is not None:
        question = Question(thing, alike, *things.told_of(thing, alike))
        found.questions.append(question)
        match answers(question):
            case Answer.SAME:
                one, by = alike, SAID
            case Answer.UNIT if isinstance(alike, Source) and alike.model_id:
                found.of_models[thing.id] = alike.model_id
            case _:
                pass
    if one is not None:
        what = "source" if isinstance(thing, Source) else "meter"
        found.same.append(Same(new_id(), at, what, one.id, thing.id))
        found.joined.append(Joined(thing.nickname, one.nickname, by))


def _models(here: Reader, there: Reader, at: datetime, found: Decision) -> Mapping[str, str]:
    """Makes of lamps are what they are called; the name of each by its identity."""
    own = {model.name.casefold(): model for model in here.all(Model) if model.name}
    ids = {model.id for model in here.identities(Model)}
    names = {model.id: model.name.casefold() for model in here.all(Model)}
    for model in there.all(Model):
        names.setdefault(model.id, model.name.casefold())
        one = own.get(model.name.casefold())
        if model.id not in ids and one is not None:
            found.same.append(Same(new_id(), at, "model", one.id, model.id))
    return names


def _serial(thing: Source | Meter, models: Mapping[str, str]) -> tuple[str, str] | None:
    """The model and serial number of a lamp that has both."""
    if not isinstance(thing, Source) or not thing.model_id or not thing.serial.strip():
        return None
    return models.get(thing.model_id, thing.model_id), thing.serial.strip().casefold()


def _modifiers(here: Reader, there: Reader, found: Decision) -> Iterable[Modifier]:
    """What sits on a lamp is named by what it is: the same name is the same thing, as terms have it."""
    own = {one.nickname.casefold(): one for one in here.all(Modifier)}
    for modifier in there.all(Modifier):
        one = own.get(modifier.nickname.casefold())
        if one is not None and one.id != modifier.id:
            found.joined.append(Joined(modifier.nickname, one.nickname, NAME))
            yield modifier


Named = TypeVar("Named", Subject, ToleranceSet)


def _alike(here: Reader, there: Reader, kind: type[Named]) -> Iterable[Named]:
    """Those there that are here word for word, under another identity."""
    own = here.all(kind)
    ids = {one.id for one in own}
    for one in there.all(kind):
        if one.id not in ids and any(replace(other, id=one.id) == one for other in own):
            yield one


def _unsound(there: Reader) -> list[str]:
    """The sessions there of which a row cannot be read: they are left out whole."""
    sessions = there.sessions()
    for session in sessions:
        there.readings(session.id)
        there.of_session(Event, session.id)
        there.of_session(Step, session.id)
    return [session.id for session in sessions if there.is_set_apart(session.id)]
