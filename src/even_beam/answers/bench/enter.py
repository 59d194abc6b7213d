"""A typed line without a window: from a script, a foot pedal or speech, judged and kept as at the Bench."""

from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass
from typing import TYPE_CHECKING, Any

from even_beam.bench import fields
from even_beam.bench.field_texts import TermsError
from even_beam.bench.judging.expectation import expected_illuminance
from even_beam.bench.records import Session, Source, Terms, new_id
from even_beam.bench.terms_json import terms_json
from even_beam.desk.session.desk import Proposal, SessionDesk
from even_beam.desk.session.record import Clock
from even_beam.desk.session.situation import situation_of
from even_beam.errors import TellableError
from even_beam.said import Said, understand
from even_beam.words.entry import Entry

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


class EnterError(TellableError, ValueError):
    """What was asked cannot be done; the message says what to say instead."""


@dataclass(frozen=True, slots=True)
class Entered:
    """What became of a line: `kept` is whether anything was kept of it, `added` the lamp that is new to the Kit."""

    said: Said
    terms: Terms
    proposal: Proposal | None
    kept: bool
    expected: tuple[float, float] | None
    added: str = ""

    def as_json(self) -> dict[str, Any]:
        """The answer as the command prints it."""
        look = self.proposal.look if self.proposal is not None else None
        return {
            "understood": [_entry(entry) for entry in self.said.entries],
            "terms": terms_json(self.terms),
            "asks": [asdict(choice) for choice in self.said.choices] or None,
            "question": self.said.question,
            "look": None
            if look is None
            else {
                "in_doubt": look.in_doubt,
                "asks": look.asks,
                "sentences": list(look.sentences),
                "expected": list(self.expected) if self.expected is not None else None,
                "cause": look.cause,
                "candidates": [candidate.value for candidate in look.candidates],
            },
            "kept": self.kept,
        }

    @property
    def words(self) -> str:
        """The answer in a line."""
        if self.said.choices:
            choices = " or ".join(f"“{choice.text}”" for choice in self.said.choices)
            return f"{self.said.question} Say {choices}"
        look = self.proposal.look.explained if self.proposal is not None else ""
        standing = "kept" if self.kept else "not kept"
        added = f"{self.added} is new in the Kit" if self.added else ""
        asks = "" if self.kept or self.proposal is None else self.proposal.look.asks
        return ". ".join(part for part in (f"{self.said.written}: {standing}", added, asks or look) if part)


def _entry(entry: Entry) -> dict[str, Any]:
    names = ("quantity", "value", "low", "high", "unit", "qualifier", "written")
    return {name: getattr(entry, name) for name in names} | {"text": entry.text}


def enter(
    logbook: "Logbook",
    clock: Clock,
    *,
    fixture: str,
    at: str,
    meter: str,
    text: Sequence[str],
    keep: bool,
    new_lamp: bool = False,
) -> Entered:
    """Understand a line, look at it, and keep it; one in doubt only with `keep`, one that asks never.

    Its session is the one that was entered into that day; a lamp that is not there yet is added with `new_lamp`.
    Raises `EnterError` for names and terms that are not known, `EntryError` for a line that is not understood,
    `ImpossibleError` for a figure that cannot be.
    """
    lamp, terms = _lamp(logbook, fixture, new=new_lamp), _terms(at, Terms())
    session = _session(logbook, clock)
    desk = SessionDesk(logbook, session, clock)
    added = "" if lamp.id in desk.sources else lamp.nickname
    desk.free_source, desk.free_terms = lamp.id, terms
    desk.free_meter = _meter(desk, meter) if meter else None
    line = "; ".join(text) if len(text) > 1 else "".join(text)
    said = understand(line, situation_of(desk))
    if said.choices:
        return Entered(said, terms, None, False, None)
    if said.lamp not in {"", lamp.id}:
        raise EnterError(f"the line is of {desk.name_of((said.lamp,))}, and --fixture says {lamp.nickname}")
    proposal = desk.propose(line)
    expected = expected_illuminance(desk.counted, lamp.id, proposal.terms)
    bounds = None if expected is None else (expected.low, expected.high)
    kept = (
        (keep or not (proposal.look.in_doubt or proposal.look.asks))
        if proposal.entries
        else proposal.said.exposure is not None
    )
    if not kept:
        return Entered(said, proposal.terms, proposal, False, bounds)
    logbook.save(session, lamp)
    desk.reload_kit()
    if proposal.entries:
        desk.confirm(proposal, keep_in_doubt=keep)
    else:
        desk.settle(proposal)
    return Entered(said, proposal.terms, proposal, True, bounds, added)


def _session(logbook: "Logbook", clock: Clock) -> Session:
    """The session that is entered into on a day, kept once there is something to keep in it."""
    name = f"Entered on {clock():%-d %B %Y}"
    known = next((s for s in reversed(logbook.sessions()) if s.name == name), None)
    return known or Session(new_id(), name, clock())


def lamp_at_terms(desk: SessionDesk, text: str) -> tuple[tuple[str, ...], Terms]:
    """A lamp by its id and the terms after it, `Tansy@cct=5600;level=50;distance=2 m`; no name is no lamp. Raises
    `EnterError`."""
    name, _, at = text.partition("@")
    sources = (_source(desk.sources.values(), name.strip()).id,) if name.strip() else ()
    return sources, _terms(at, Terms())


def said_of(name: str, terms: Terms) -> str:
    """A lamp at terms as it is typed: what `lamp_at_terms` understands."""
    texts = fields.texts_of(terms)
    if terms.mode == "CCT":
        del texts["mode"]
    return f"{name}@{';'.join(f'{field}={text}' for field, text in texts.items() if text)}"


def _lamp(logbook: "Logbook", name: str, *, new: bool) -> Source:
    """The lamp of a name; one that is to be added where there is none and that was said."""
    named = " ".join(name.split())
    try:
        return _source(logbook.all(Source), named)
    except EnterError as error:
        if not new or not named:
            raise EnterError(f"{error}. --new-lamp adds it") from error
        return Source(new_id(), named)


def _source(sources: Iterable[Source], name: str) -> Source:
    known = {source.nickname.casefold(): source for source in sources}
    if name.casefold() not in known:
        names = ", ".join(sorted(source.nickname for source in known.values())) or "none yet"
        raise EnterError(f"there is no lamp “{name}”; the Kit has {names}")
    return known[name.casefold()]


def _meter(desk: SessionDesk, name: str) -> str:
    found = [m for m in desk.meters.values() if m.nickname.casefold() == name.casefold()]
    if not found:
        raise EnterError(
            f"there is no meter “{name}”; the Kit has {', '.join(m.nickname for m in desk.meters.values())}"
        )
    if found[0].simulated:  # it would be booked on another without a word
        raise EnterError(f"“{found[0].nickname}” is simulated, and nobody reads it by eye; name another meter, or none")
    return found[0].id


def _terms(at: str, before: Terms) -> Terms:
    """`cct=5600;level=100;distance=10 ft` as terms, over those before."""
    texts: dict[str, str] = {}
    for part in (part for part in at.split(";" if ";" in at else ",") if part.strip()):
        name, sign, value = (word.strip() for word in part.partition("="))
        field = fields.named(name)
        if not sign or field is None or field.read is None:
            known = ", ".join(one.name for one in fields.FIELDS if one.read is not None)
            raise EnterError(
                f"“{part.strip()}” is not understood; write cct=5600;level=100;distance=2 m. Terms: {known}"
            )
        texts[field.name] = "" if value.casefold() in {"none", "not stated"} else value
    try:
        return fields.terms_of_texts(texts, before)
    except TermsError as error:
        raise EnterError(str(error)) from error
