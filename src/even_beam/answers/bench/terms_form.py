"""Terms as a person fills them in, to records and back."""

from collections.abc import Callable
from dataclasses import dataclass, fields, replace

from even_beam.bench import off_axis
from even_beam.bench.fields import BY_NAME, BY_STORED
from even_beam.bench.limits import impossible_term
from even_beam.bench.records import SHADED, Terms
from even_beam.bench.terms import value_of
from even_beam.errors import TellableError
from even_beam.said import Situation, understand
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse


@dataclass(frozen=True, slots=True)
class TermsForm:
    """Terms as texts."""

    white: str = ""
    level: str = ""
    distance: str = ""
    configuration: str = ""
    zoom: str = ""
    tint: str = ""
    angle: str = ""
    fixed: bool = False


class TermsError(TellableError, ValueError):
    """A field that could not be understood: `field` names it."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


def form_of(terms: Terms, unit: str) -> TermsForm:
    """Terms as texts, distances in the user's unit."""
    distance = "equal" if terms.placement == "equal" else ""
    if terms.distance_m is not None:
        distance = notation.distance(terms.distance_m, unit).replace(notation.THIN_SPACE, "")
    return TermsForm(
        white="" if terms.cct_k is None else f"{terms.cct_k:g}",
        level="" if terms.level_pct is None else f"{terms.level_pct:g}",
        distance=distance,
        configuration=" + ".join(terms.configuration),
        zoom=terms.zoom,
        tint=terms.tint,
        angle="" if terms.angle_deg == 0.0 else _aside_words(terms),
        fixed=terms.mode == "fixed",
    )


def terms_of(form: TermsForm, before: Terms, unit: str) -> Terms:
    """Texts to terms, of what stands otherwise in the form than `before` was shown there; all else is as it was, for a
    form shows fewer digits and fewer things than terms have. Raises `TermsError`."""
    shown = form_of(before, unit)
    changes: dict[str, object] = {}
    for field in fields(TermsForm):
        if getattr(form, field.name) != getattr(shown, field.name):
            changes |= _CHANGES[field.name](form, before)
    return replace(before, **changes)  # type: ignore[arg-type]


def _changed_mode(form: TermsForm, before: Terms) -> dict[str, object]:
    return {"mode": "fixed", "cct_k": None} if form.fixed else {"mode": "CCT"}


def _changed_white(form: TermsForm, before: Terms) -> dict[str, object]:
    white = _number("white", form.white, "cct_k")
    return {} if form.fixed else {"cct_k": white}


def _changed_distance(form: TermsForm, before: Terms) -> dict[str, object]:
    distance, placement = _distance(form.distance)
    stays = before.placement == SHADED and distance is not None  # a flag does not go because the meter moved
    return {"distance_m": distance, "placement": SHADED if stays else placement}


def _changed_configuration(form: TermsForm, before: Terms) -> dict[str, object]:
    names = (part.strip() for part in form.configuration.split("+"))
    return {"configuration": tuple(name for name in names if name and name.lower() != "bare")}


def _changed_angle(form: TermsForm, before: Terms) -> dict[str, object]:
    aside = _aside(form.angle)
    return {"angle_deg": aside.angle_deg, "turn_deg": aside.turn_deg or 0.0}


_CHANGES: dict[str, Callable[[TermsForm, Terms], dict[str, object]]] = {
    "fixed": _changed_mode,
    "white": _changed_white,
    "level": lambda form, _: {"level_pct": _number("level", form.level.removesuffix("%"), "level_pct")},
    "distance": _changed_distance,
    "configuration": _changed_configuration,
    "zoom": lambda form, _: {"zoom": form.zoom.strip()},
    "tint": lambda form, _: {"tint": form.tint.strip()},
    "angle": _changed_angle,
}
"""What a text of the form changes in terms."""


def _aside_words(terms: Terms) -> str:
    return f"{terms.angle_deg:g} {off_axis.plane_words(terms.turn_deg)}".rstrip()


def _aside(text: str) -> off_axis.Aside:
    aside = off_axis.understood(text or "centre")
    if aside is None:
        raise TermsError("angle", f"“{text}” is no place across a beam; write 15, 15 left, 15 up or centre")
    for term, value in (("angle_deg", aside.angle_deg), ("turn_deg", aside.turn_deg)):
        if value is not None and (problem := impossible_term(term, value)) is not None:
            raise TermsError("angle", notation.sentence(problem))
    return aside


_ASKED = {"cct_k": "cct", "level_pct": "level", "distance_m": "distance"}
"""What a bare number means where a term is filled in."""


def _number(field: str, text: str, term: str) -> float | None:
    if not text.strip():
        return None
    try:
        value = parse(text, _ASKED[term]).value
    except EntryError as error:
        raise TermsError(field, str(error)) from error
    if value is None:
        raise TermsError(field, f"“{text}” is a bound; a term needs one value")
    if (problem := impossible_term(term, value)) is not None:
        raise TermsError(field, notation.sentence(problem))
    return value


def _distance(text: str) -> tuple[float | None, str]:
    words = text.strip().lower()
    if not words or words == "unknown":
        return None, "unknown"
    if words.startswith("equal"):
        return None, "equal"
    try:
        entry = parse(words, "distance")
    except EntryError as error:
        raise TermsError("distance", str(error)) from error
    if entry.value is None or entry.value <= 0.0 or entry.quantity != "distance":
        raise TermsError("distance", f"“{text}” is not a distance; write 3 m, 10 ft or equal")
    if (problem := impossible_term("distance_m", entry.value)) is not None:
        raise TermsError("distance", notation.sentence(problem))
    return entry.value, "on axis"


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
            terms = replace(terms, level_pct=_number("level", f"{entry.value:g}", "level_pct"))
        elif entry.quantity == "cct":
            terms = replace(terms, cct_k=_number("white", f"{entry.value:g}", "cct_k"), mode="CCT")
        elif entry.quantity == "distance":
            terms = replace(terms, distance_m=_distance(part)[0], placement="on axis")
        else:
            raise TermsError(
                "level", f"“{part.strip()}” is neither a level (33), a white (4400 K) nor a distance (3 m)"
            )
    return terms
