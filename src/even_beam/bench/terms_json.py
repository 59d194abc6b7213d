"""Terms as plain values: one shape for all that prints JSON, and for open data."""

from typing import Any

from even_beam.bench.fields import FIELDS
from even_beam.bench.records import Terms


def terms_json(terms: Terms, **beside: str | None) -> dict[str, Any]:
    """Every field of terms by its name, as it was stated and not as it is compared: null for what was not stated, what
    sits on the lamp as `--at` takes it (`bare`, `reflector + half CTO`). `beside` are meter and session by their names.
    """
    own = {one.name: _plain(getattr(terms, one.stored)) for one in FIELDS if one.stored}
    return own | beside


def _plain(value: object) -> Any:
    if isinstance(value, tuple):
        return " + ".join(value) or "bare"
    return None if value == "" else value
