"""A typed line without a window: from a script, a foot pedal or speech, judged and kept as at the Bench."""

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from typing import TYPE_CHECKING, Any

from even_beam.answers.bench.terms_form import TermsError, form_of, terms_of
from even_beam.bench.judging.expectation import expected_illuminance
from even_beam.bench.limits import impossible_term
from even_beam.bench.records import Session, Source, Terms, new_id
from even_beam.desk.session.desk import Proposal, SessionDesk
from even_beam.desk.session.record import Clock
from even_beam.desk.session.situation import situation_of
from even_beam.errors import TellableError
from even_beam.said import Said, understand
from even_beam.words.entry import Entry

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

_FORM = {"cct": "white", "white": "white", "level": "level", "distance": "distance", "configuration": "configuration",
         "on": "configuration", "zoom": "zoom", "tint": "tint", "angle": "angle"}  # fmt: skip
_PLAIN = {"mode": "mode", "plane": "reference_plane"}
_NUMBERS = {"hue": "hue_deg", "saturation": "saturation_pct"}


class EnterError(TellableError, ValueError):
    """What was asked cannot be done; the message says what to say instead."""


@dataclass(frozen=True, slots=True)
class Entered:
    """What became of a line: `kept` is whether anything was kept of it."""

    said: Said
    terms: Terms
    proposal: Proposal | None
    kept: bool
    expected: tuple[float, float] | None

    def as_json(self) -> dict[str, Any]:
        """The answer as the command prints it."""
        look = self.proposal.look if self.proposal is not None else None
        return {
            "understood": [_entry(entry) for entry in self.said.entries],
            "terms": {k: list(v) if isinstance(v, tuple) else v for k, v in asdict(self.terms).items()},
            "asks": [asdict(choice) for choice in self.said.choices] or None,
            "question": self.said.question,
            "look": None
            if look is None
            else {
                "in_doubt": look.in_doubt,
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
            return f"{self.said.question} Say one of: " + "; ".join(choice.text for choice in self.said.choices)
        look = self.proposal.look.explained if self.proposal is not None else ""
        standing = "kept" if self.kept else "not kept"
        return ". ".join(part for part in (f"{self.said.written}: {standing}", look) if part)


def _entry(entry: Entry) -> dict[str, Any]:
    names = ("quantity", "value", "low", "high", "unit", "qualifier", "written")
    return {name: getattr(entry, name) for name in names} | {"text": entry.text}


def enter(
    logbook: "Logbook", clock: Clock, *, fixture: str, at: str, meter: str, text: Sequence[str], keep: bool
) -> Entered:
    """Understand a line, look at it, and keep it; one in doubt only with `keep`, one that asks never.

    Its session is the one that was entered into that day. Raises `EnterError` for names and terms that are not known,
    `EntryError` for a line that is not understood, `ImpossibleError` for a figure that cannot be.
    """
    desk = _desk(logbook, clock)
    desk.free_source = _source(desk, fixture).id
    desk.free_meter = _meter(desk, meter) if meter else None
    desk.free_terms = _terms(at, desk.free_terms)
    line = "; ".join(text) if len(text) > 1 else "".join(text)
    said = understand(line, situation_of(desk))
    if said.choices:
        return Entered(said, desk.free_terms, None, False, None)
    proposal = desk.propose(line)
    expected = expected_illuminance(desk.counted, desk.free_source, proposal.terms)
    bounds = None if expected is None else (expected.low, expected.high)
    if not proposal.entries:
        desk.settle(proposal)
        return Entered(said, proposal.terms, proposal, proposal.said.exposure is not None, bounds)
    kept = keep or not proposal.look.in_doubt
    if kept:
        desk.confirm(proposal, keep_in_doubt=keep)
    return Entered(said, proposal.terms, proposal, kept, bounds)


def _desk(logbook: "Logbook", clock: Clock) -> SessionDesk:
    name = f"Entered on {clock():%-d %B %Y}"
    session = next((s for s in reversed(logbook.sessions()) if s.name == name), None)
    if session is None:
        session = Session(new_id(), name, clock())
        logbook.save(session)
    return SessionDesk(logbook, session, clock)


def lamp_at_terms(desk: SessionDesk, text: str) -> tuple[tuple[str, ...], Terms]:
    """A lamp by its id and the terms after it, `Tansy@cct=5600;level=50;distance=2 m`; no name is no lamp. Raises
    `EnterError`."""
    name, _, at = text.partition("@")
    sources = (_source(desk, name.strip()).id,) if name.strip() else ()
    return sources, _terms(at, Terms())


def said_of(name: str, terms: Terms) -> str:
    """A lamp at terms as it is typed: what `lamp_at_terms` understands."""
    form = form_of(terms, "m")
    parts = {
        "mode": terms.mode if form.fixed else "",
        "cct": form.white,
        "tint": form.tint,
        "level": form.level,
        "hue": "" if terms.hue_deg is None else f"{terms.hue_deg:g}",
        "saturation": "" if terms.saturation_pct is None else f"{terms.saturation_pct:g}",
        "distance": form.distance,
        "angle": form.angle,
        "zoom": form.zoom,
        "configuration": form.configuration,
    }
    return f"{name}@{';'.join(f'{field}={value}' for field, value in parts.items() if value)}"


def _source(desk: SessionDesk, name: str) -> Source:
    found = [s for s in desk.sources.values() if s.nickname.casefold() == name.casefold()]
    if not found:
        known = ", ".join(sorted(s.nickname for s in desk.sources.values())) or "none yet"
        raise EnterError(f"there is no lamp “{name}”; the Kit has {known}")
    return found[0]


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
    form = form_of(before, "m")
    other: dict[str, Any] = {}
    for part in (part for part in at.split(";" if ";" in at else ",") if part.strip()):
        name, sign, value = (word.strip() for word in part.partition("="))
        key = name.casefold()
        if not sign or key not in {*_FORM, *_PLAIN, *_NUMBERS}:
            known = ", ".join([*_FORM, *_PLAIN, *_NUMBERS])
            raise EnterError(
                f"“{part.strip()}” is not understood; write cct=5600;level=100;distance=2 m. Terms: {known}"
            )
        if value.casefold() in {"none", "not stated"}:
            value = ""
        if key in _FORM:
            form = replace(form, **{_FORM[key]: value})  # type: ignore[arg-type]
        elif key in _PLAIN:
            other[_PLAIN[key]] = value
        else:
            other |= _number(_NUMBERS[key], key, value)
    try:
        return replace(terms_of(form, before, "m"), **other)
    except TermsError as error:
        raise EnterError(str(error)) from error


def _number(field: str, name: str, value: str) -> dict[str, Any]:
    try:
        number = float(value.rstrip("°% ")) if value else None
    except ValueError:
        number = math.nan
    if number is not None and (not math.isfinite(number) or impossible_term(field, number) is not None):
        raise EnterError(f"“{value}” is no {name}; write a number")
    return {field: number}
