"""What a few words change in the terms of a step, and what differs between terms, in words."""

from dataclasses import fields, replace

from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import BY_NAME, BY_STORED, terms_of_texts
from even_beam.bench.records import Terms
from even_beam.bench.terms import value_of
from even_beam.said import Situation, understand
from even_beam.words.entry import EntryError, parse


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


def shown_terms(text: str, asked: Terms) -> Terms:
    """The terms that a lamp shows instead of those asked: any setting, a bare number being the level.

    Raises `TermsError`.
    """
    terms = asked
    for part in (part for part in text.split(";") if part.strip()):
        try:
            said = understand(part, Situation((), terms))
            if said.entries or said.choices or not said.terms:
                raise EntryError(part)
            terms = replace(terms, **said.terms)  # type: ignore[arg-type]
        except EntryError:
            terms = step_terms(part, terms)
    return terms


def step_terms(text: str, here: Terms) -> Terms:
    """The terms of an inserted step from a few words: `33` (level), `4400 K`, `3 m`. Raises `TermsError`."""
    terms = here
    for part in (part for part in text.split(";") if part.strip()):
        try:
            entry = parse(part, "level")
        except EntryError as error:
            raise TermsError("level", str(error)) from error
        if entry.value is None:
            raise TermsError("level", f"“{part.strip()}” is a bound; a step needs one value")
        if entry.quantity in {"level", "percent"}:
            terms = terms_of_texts({"level": f"{entry.value:.15g}"}, terms)
        elif entry.quantity == "cct":
            terms = replace(terms_of_texts({"cct": f"{entry.value:.15g}"}, terms), mode="CCT")
        elif entry.quantity == "distance":
            terms = replace(terms_of_texts({"distance": part}, terms), placement="on axis")
        else:
            raise TermsError(
                "level", f"“{part.strip()}” is neither a level (33), a white (4400 K) nor a distance (3 m)"
            )
    return terms
