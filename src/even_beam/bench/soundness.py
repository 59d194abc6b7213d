"""Whether a record can be one at all, beyond the types of its fields: for what comes from files of strangers."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import fields

from even_beam.bench.exposure import Exposure
from even_beam.bench.limits import impossible_term
from even_beam.bench.records import Event, EventKind, Subject, Terms
from even_beam.bench.run import term_from_text
from even_beam.bench.target import target_from_text

MOST_LETTERS = 100_000
"""No text of a record is longer: a note of so many letters is a book."""

MOST_LETTERS_OF_A_NAME = 1000

_NAMES = frozenset({"nickname", "name"})
_TERMS = frozenset(field.name for field in fields(Terms))


def flaw_in(record: object) -> str | None:
    """What is wrong with a record, in words; None where nothing is."""
    for name, text in _texts_of(record):
        if (flaw := flaw_in_text(text, MOST_LETTERS_OF_A_NAME if name in _NAMES else MOST_LETTERS)) is not None:
            return f"{name.replace('_', ' ')}: {flaw}"
    if isinstance(record, Event):
        return _flaw_in_event(record)
    if isinstance(record, Subject):
        nm, shares = record.wavelength_nm, record.reflectance
        if len(nm) != len(shares) or len(nm) < 2 or list(nm) != sorted(set(nm)):
            return "as many shares of light as rising wavelengths are not there"
    return None


def flaw_in_text(text: str, most: int = MOST_LETTERS) -> str | None:
    """What a text has that none can have: a NUL, half a letter, or more than anybody writes."""
    if len(text) > most:
        return f"more than {most} letters"
    if "\0" in text:
        return "a letter that is none (NUL)"
    if not text.isascii() and any("\ud800" <= letter <= "\udfff" for letter in text):
        return "half a letter (a surrogate that stands alone)"
    return None


def _texts_of(record: object) -> Iterator[tuple[str, str]]:
    for field in fields(record):  # type: ignore[arg-type]
        value = getattr(record, field.name)
        if isinstance(value, str):
            yield field.name, value
        elif isinstance(value, tuple):
            yield from ((field.name, one) for one in value if isinstance(one, str))
        elif isinstance(value, Mapping):
            yield from ((field.name, str(key)) for key in value)
        elif isinstance(value, Terms):
            yield from _texts_of(value)


def _flaw_in_event(event: Event) -> str | None:
    try:
        if event.kind in (EventKind.TERMS_CORRECTED, EventKind.LAMP_SHOWS):
            if event.field not in _TERMS:
                return f"a correction of “{event.field}”, which is none of the terms"
            value = term_from_text(event.field, event.new)
            if isinstance(value, float) and not math.isfinite(value):
                return f"a correction to {event.new}"
            return impossible_term(event.field, value)
        if event.kind is EventKind.TARGET_SET and event.new:
            target_from_text(event.new)
        if event.kind is EventKind.EXPOSURE_STATED and event.new:
            Exposure.of_text(event.new)
    except ValueError as error:
        return f"{event.kind}: {error}"
    return None
