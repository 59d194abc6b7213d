"""What a few words change in the terms of a step, and what differs between terms, in words."""

from dataclasses import fields, replace

from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import BY_NAME, BY_STORED
from even_beam.bench.records import Terms
from even_beam.bench.terms import value_of
from even_beam.said import Situation, understand
from even_beam.words.entry import EntryError


def differences(before: Terms, after: Terms) -> dict[str, object]:
    """The fields that differ, with their new values."""
    return {
        field.name: getattr(after, field.name)
        for field in fields(Terms)
        if getattr(before, field.name) != getattr(after, field.name)
    }


def terms_changed(before: Terms, after: Terms) -> list[str]:
    """What differs, in words, field by field."""
    changed = differences(before, after)
    return [
        BY_NAME[BY_STORED[name]].words(value_of(name, value)) or f"no {BY_NAME[BY_STORED[name]].label}"
        for name, value in changed.items()
        if name != "placement"
    ]


def step_terms(text: str, here: Terms) -> Terms:
    """The settings of an inserted step, or those that a lamp shows, from a few words: `33` (level), `4400 K`, `3 m`,
    `spot`. Raises `TermsError`."""
    try:
        said = understand(text, Situation((), here, settings_alone=True))
    except EntryError as error:
        raise TermsError("level", str(error)) from error
    if said.choices:
        raise TermsError("level", said.question)
    return replace(here, **said.terms)  # type: ignore[arg-type]
