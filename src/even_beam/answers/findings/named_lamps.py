"""Lamps as they are named on the command line: `A@zoom=flood;configuration=bare,A@zoom=spot,B`."""

from collections import Counter
from collections.abc import Hashable, Sequence
from dataclasses import replace

from even_beam.answers.findings.terms_text import terms_of
from even_beam.answers.findings.witness import Witness
from even_beam.bench import fields
from even_beam.collection.collection import Collection, Wanted
from even_beam.known.choice import JOINED, Entrant


def named_lamps(collection: Collection, fixtures: Sequence[str], figures: Wanted | None = None) -> list[Entrant]:
    """Each lamp with the terms that are asked of it alone; one that stands there twice is told apart by them.

    Raises `UnknownFixtureError` and `TermsTextError`.
    """
    named = [_parted(text) for text in fixtures]
    entrants = Witness(collection).entrants([name for name, _ in named], figures=figures)
    count = Counter(name.casefold() for name, _ in named)
    return [
        _standing(entrant, text, asked_terms(collection, text), twice=count[name.casefold()] > 1)
        for entrant, (name, text) in zip(entrants, named, strict=True)
    ]


def asked_terms(collection: Collection, text: str) -> dict[str, Hashable]:
    """Terms as they are written, meters and sessions by their names. Raises `TermsTextError`."""
    meters = {meter.nickname.casefold(): meter.id for meter in collection.meters.values()}
    sessions = {session.name.casefold(): session.id for session in collection.sessions}
    return terms_of(text, meters, sessions)


def _parted(text: str) -> tuple[str, str]:
    """A nickname and the terms that are asked of it alone."""
    name, sign, own = text.partition("@")
    return (name.strip(), own) if sign and "=" in own else (text.strip(), "")


def _standing(entrant: Entrant, text: str, own: dict[str, Hashable], *, twice: bool) -> Entrant:
    if not twice:
        return replace(entrant, own=own)
    words = ", ".join(_own_words(name, value) for name, value in own.items())
    return replace(entrant, own=own, part=text, name=f"{entrant.name}, {words}" if words else entrant.name)


def _own_words(name: str, value: Hashable) -> str:
    if value == JOINED:
        return f"{fields.BY_NAME[name].label}s joined"
    return fields.BY_NAME[name].words(value) or fields.PLAIN.get(name) or f"no {fields.BY_NAME[name].label} stated"
