"""A run as a person asks for it, to a sweep."""

import re
from dataclasses import dataclass

from even_beam.bench.entry import EntryError, parse
from even_beam.bench.limits import impossible_term
from even_beam.bench.planning.sweep import Sweep


class RunFormError(ValueError):
    """A run that cannot be planned; the message says what is missing."""


@dataclass(frozen=True, slots=True)
class RunForm:
    """The texts of the form."""

    source_ids: tuple[str, ...]
    whites: str
    levels: str
    distances: str
    configuration: str = ""
    zoom: str = ""
    repeats: int = 2


def sweep_of(form: RunForm) -> Sweep:
    """Texts to a sweep. Raises `RunFormError`."""
    if not form.source_ids:
        raise RunFormError("Take at least one lamp.")
    whites = _numbers(form.whites, "cct", "a white", 1000.0, 50_000.0)
    levels = _numbers(form.levels.replace("%", " "), "level", "a level", 0.01, 100.0)
    return Sweep(
        form.source_ids,
        whites,
        levels or (100.0,),
        distances(form.distances),
        tuple(p.strip() for p in form.configuration.split("+") if p.strip() and p.strip().lower() != "bare"),
        form.zoom.strip(),
        form.repeats,
    )


def _numbers(text: str, quantity: str, what: str, low: float, high: float) -> tuple[float, ...]:
    found = []
    for word in re.split(r"[\s;,]+", re.sub(r"(?i)\s*k\b", " ", text).strip()):
        if not word:
            continue
        try:
            value = parse(word, quantity).value
        except EntryError as error:
            raise RunFormError(str(error)) from error
        if value is None or not low <= value <= high:
            raise RunFormError(f"“{word}” is not {what} between {low:g} and {high:g}.")
        found.append(value)
    return tuple(dict.fromkeys(found))


def distances(text: str) -> tuple[float, ...]:
    """Distances in metres from `2 m`, `10 15 20 25 ft`, or none (equal, not measured). Raises `RunFormError`."""
    words = text.strip().lower()
    if not words or words.startswith("equal"):
        return ()
    unit = re.search(r"(m|ft|feet|')\s*$", words)
    suffix = unit[1] if unit else "m"
    found = []
    for word in re.split(r"[\s;,]+", words):
        if word in {"m", "ft", "feet", "'"}:
            continue
        try:
            entry = parse(word if word[-1].isalpha() or word[-1] == "'" else f"{word} {suffix}", "distance")
        except EntryError as error:
            raise RunFormError(str(error)) from error
        if entry.value is None or impossible_term("distance_m", entry.value) or entry.quantity != "distance":
            raise RunFormError(f"“{word}” is not a distance.")
        found.append(entry.value)
    return tuple(dict.fromkeys(found))
