"""How one field of terms is read from a text and written as one: the same in a form, in a table's cell, behind `--at`
and in the name of a file. What is read are changes to terms, for a text may say two things: `fixed` has no white.
"""

from collections.abc import Callable
from dataclasses import dataclass

from even_beam.bench import off_axis
from even_beam.bench.records import SHADED, Terms
from even_beam.errors import TellableError
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse

Read = Callable[[str, Terms], dict[str, object]]
"""A text and the terms before it to what changes, by the fields of `Terms`. Raises `TermsError`."""

Write = Callable[[Terms], str]
"""Terms to the text of one field, all its digits; empty for what is not stated."""


class TermsError(TellableError, ValueError):
    """A field that could not be understood: `field` names it."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


@dataclass(frozen=True, slots=True)
class TermLimit:
    """What a term can be: its words, its unit, and its bounds, both possible."""

    label: str
    unit: str
    low: float
    high: float

    def broken_by(self, value: object) -> str | None:
        """Why a value cannot be; None when it can."""
        if isinstance(value, int | float) and self.low <= value <= self.high:
            return None
        return f"{value} {self.unit} cannot be: {self.label} lies between {self.low:g} and {self.high:g} {self.unit}"


def number(name: str, stored: str, quantity: str, limit: TermLimit) -> Read:
    """A number with or without the unit of a quantity; no text is not stated."""

    def read(text: str, before: Terms) -> dict[str, object]:
        return {stored: _one(name, text, quantity, limit)}

    return read


def _one(name: str, text: str, quantity: str, limit: TermLimit) -> float | None:
    if not text.strip():
        return None
    try:
        entry = parse(text, quantity)
    except EntryError as error:
        raise TermsError(name, str(error)) from error
    value = entry.value
    if entry.quantity != quantity:
        raise TermsError(name, f"“{text}” is not {limit.label}: “{entry.unit or entry.written}” does not belong there")
    if value is None:
        raise TermsError(name, f"“{text}” is a bound; a term needs one value")
    if (problem := limit.broken_by(value)) is not None:
        raise TermsError(name, notation.sentence(problem))
    return value


def white(limit: TermLimit) -> Read:
    """A white that was dialled: what is said to be fixed has one then."""

    def read(text: str, before: Terms) -> dict[str, object]:
        value = _one("cct", text, "cct", limit)
        return {"cct_k": value, **({"mode": "CCT"} if value is not None and before.mode == FIXED else {})}

    return read


FIXED = "fixed"
"""The mode of a lamp whose white nobody can dial."""


def mode(text: str, before: Terms) -> dict[str, object]:
    """A mode by its name; what is fixed has no white that was dialled."""
    name = text.strip()
    return {"mode": name, "cct_k": None} if name == FIXED else {"mode": name or "CCT"}


def text_of(stored: str) -> Read:
    """A text as it stands."""
    return lambda text, before: {stored: text.strip()}


def configuration(text: str, before: Terms) -> dict[str, object]:
    """What sits on the lamp, in order, with a plus between: `reflector + half CTO`, `bare`."""
    names = (part.strip() for part in text.split("+"))
    return {"configuration": tuple(name for name in names if name and name.casefold() != "bare")}


def distance(limit: TermLimit) -> Read:
    """`3 m`, `10 ft`, `equal` (not measured) or nothing; a flag before the meter stays when the meter is moved."""

    def read(text: str, before: Terms) -> dict[str, object]:
        words = text.strip().casefold()
        if not words or words == "unknown" or "equal" in words:
            return {"distance_m": None, "placement": "equal" if "equal" in words else "unknown"}
        try:
            entry = parse(words, "distance")
        except EntryError as error:
            raise TermsError("distance", str(error)) from error
        if entry.value is None or entry.value <= 0.0 or entry.quantity != "distance":
            raise TermsError("distance", f"“{text}” is not a distance; write 3 m, 10 ft or equal")
        if (problem := limit.broken_by(entry.value)) is not None:
            raise TermsError("distance", notation.sentence(problem))
        return {"distance_m": entry.value, "placement": SHADED if before.placement == SHADED else "on axis"}

    return read


def aside(angle: TermLimit, turn: TermLimit) -> Read:
    """A place across the beam, `15`, `15 left`, `15 up`, `centre`; or the meter `shaded` from the lamp."""

    def read(text: str, before: Terms) -> dict[str, object]:
        if text.strip().casefold() == SHADED:
            return {"placement": SHADED}
        found = off_axis.understood(text or "centre")
        if found is None:
            raise TermsError("angle", f"“{text}” is no place across a beam; write 15, 15 left, 15 up or centre")
        for limit, value in ((angle, found.angle_deg), (turn, found.turn_deg)):
            if value is not None and (problem := limit.broken_by(value)) is not None:
                raise TermsError("angle", notation.sentence(problem))
        return {"angle_deg": found.angle_deg, "turn_deg": found.turn_deg or 0.0}

    return read


def plane(limit: TermLimit) -> Read:
    """The plane of an angle alone, which mostly is said with its angle: `90`, `upright`."""

    def read(text: str, before: Terms) -> dict[str, object]:
        upright = text.strip().casefold() in {"upright", "in the upright plane"}
        return {"turn_deg": off_axis.UPRIGHT_DEG if upright else _one("turn", text, "angle", limit) or 0.0}

    return read


def written_number(stored: str) -> Write:
    """A number with all its digits."""

    def write(terms: Terms) -> str:
        value = getattr(terms, stored)
        return "" if value is None else _digits(value)

    return write


def _digits(value: float) -> str:
    return repr(float(value)).removesuffix(".0")


def written_text(stored: str) -> Write:
    """A text as it stands."""
    return lambda terms: str(getattr(terms, stored))


def written_configuration(terms: Terms) -> str:
    """What sits on the lamp, and `bare` when nothing does."""
    return " + ".join(terms.configuration) or "bare"


def written_distance(terms: Terms) -> str:
    """A distance in metres; `equal, not measured` for one that was only made equal."""
    if terms.distance_m is not None:
        return f"{_digits(terms.distance_m)} m"
    return "equal, not measured" if terms.placement == "equal" else ""


def written_place(terms: Terms) -> str:
    """Where across the beam, `centre` on its axis; or shaded."""
    return SHADED if terms.placement == SHADED else off_axis.written(terms.angle_deg, terms.turn_deg)
