"""What can be at all: one set of physical limits for every door by which a figure or a term comes in.

A figure beyond them is a slip of the hand or a broken file and is never kept; one within may still be in doubt.
"""

from collections.abc import Iterable
from functools import lru_cache

from even_beam.bench.field_texts import TermLimit
from even_beam.bench.fields import FIELDS
from even_beam.bench.records import Reading, Terms, Value
from even_beam.errors import TellableError
from even_beam.words.quantities import QUANTITIES

TERM_LIMITS: dict[str, TermLimit] = {one.stored: one.limit for one in FIELDS if one.limit is not None}
"""Every term that is a number."""

IMPOSSIBLE = "impossible"
"""The qualifier of a figure that an earlier program kept and that cannot be."""


class ImpossibleError(TellableError, ValueError):
    """A figure or a term that cannot be; the message says what can."""


def impossible_figure(quantity: str, *figures: float | None) -> str | None:
    """Why a figure, or one end of a bound or range, cannot be; None when all can. NaN and infinity never can."""
    known = QUANTITIES.get(quantity)
    if known is None:
        return f"there is no quantity “{quantity}”"
    for figure in figures:
        if figure is not None and not known.low <= figure <= known.high:  # NaN is not within either
            unit = f" {known.unit}" if known.unit else ""
            return f"{figure:g}{unit} cannot be: {known.label} lies between {known.low:g} and {known.high:g}{unit}"
    return None


def impossible_value(value: Value) -> str | None:
    """Why a figure cannot be; None when it can."""
    return impossible_figure(value.quantity, value.value, value.low, value.high)


def impossible_term(name: str, value: object) -> str | None:
    """Why a term cannot be; None when it can, and for terms that are no numbers or not stated."""
    limit = TERM_LIMITS.get(name)
    return None if limit is None or value is None else limit.broken_by(value)


@lru_cache(maxsize=4096)
def impossible_terms(terms: Terms) -> str | None:
    """Why terms cannot be, of the first that cannot; None when all can."""
    return next((found for name in TERM_LIMITS if (found := impossible_term(name, getattr(terms, name)))), None)


def checked(terms: Terms) -> Terms:
    """The same terms. Raises `ImpossibleError` for terms that cannot be."""
    if (problem := impossible_terms(terms)) is not None:
        raise ImpossibleError(problem)
    return terms


def impossible_in(readings: Iterable[Reading]) -> str | None:
    """Why a reading among these cannot be kept; None when all can."""
    for reading in readings:
        problem = impossible_terms(reading.terms)
        for value in reading.values:
            problem = problem or impossible_value(value)
        if problem is not None:
            return problem
    return None


def without_impossible(value: Value) -> Value:
    """A figure as it is used: one that cannot be keeps its text alone, and says so."""
    if impossible_value(value) is None or value.quantity not in QUANTITIES:
        return value
    text = value.text or f"{value.value}"
    return Value(
        quantity=value.quantity,
        value=None,
        origin=value.origin,
        low=None,
        high=None,
        text=text,
        unit=value.unit,
        qualifier=IMPOSSIBLE,
    )
