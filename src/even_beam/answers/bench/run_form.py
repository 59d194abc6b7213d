"""A run as a person asks for it, to a sweep."""

import re
from dataclasses import dataclass

from even_beam.bench import off_axis
from even_beam.bench.limits import impossible_term
from even_beam.bench.planning.sweep import Sweep
from even_beam.errors import TellableError
from even_beam.words.entry import EntryError, parse


class RunFormError(TellableError, ValueError):
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
    angles: str = ""


def sweep_of(form: RunForm) -> Sweep:
    """Texts to a sweep. Raises `RunFormError`."""
    if not form.source_ids:
        raise RunFormError("Take at least one lamp.")
    whites = _numbers(form.whites, "cct", "a white", 1000.0, 50_000.0)
    levels = _numbers(form.levels.replace("%", " "), "level", "a level", 0.01, 100.0)
    return Sweep(
        source_ids=form.source_ids,
        whites_k=whites,
        levels_pct=levels or (100.0,),
        distances_m=distances(form.distances),
        configurations=configurations_of(form.configuration),
        zooms=zooms_of(form.zoom) or ("",),
        angles_deg=angles_of(form.angles),
        repeats=form.repeats,
    )


def zooms_of(text: str) -> tuple[str, ...]:
    """`flood, spot`: the zooms in turn."""
    return tuple(dict.fromkeys(z.strip() for z in re.split(r"[,;]", text) if z.strip()))


def configurations_of(text: str) -> tuple[tuple[str, ...], ...]:
    """`bare; reflector; reflector + full CTO`: what sits on the lamp, in turn."""
    return tuple(
        dict.fromkeys(
            tuple(p.strip() for p in one.split("+") if p.strip() and p.strip().lower() != "bare")
            for one in re.split(r"[,;]", text)
        )
    )


def angles_of(text: str) -> tuple[float, ...]:
    """`centre, left 15, right 15` or `-15 0 15` in degrees, right positive. Raises `RunFormError`."""
    found = []
    words = re.sub(r"(?i)\b(left|right)\s+(\d+(?:\.\d+)?)", r"\2 \1", text)
    for part in re.split(r"[,;]|(?<=\d)\s+(?=[-+\d])", words):
        if not part.strip():
            continue
        aside = off_axis.understood(part)
        if aside is None or aside.turn_deg:
            raise RunFormError(f"“{part.strip()}” is not an angle, such as centre, left 15, right 15.")
        if (problem := impossible_term("angle_deg", aside.angle_deg)) is not None:
            raise RunFormError(problem)
        found.append(aside.angle_deg)
    return tuple(dict.fromkeys(found)) or (0.0,)


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


_LENGTH = re.compile(r"(\d+(?:[.,]\d+)?)\s*(metres?|m|feet|foot|ft|'|cm)?(?:\s*(\d{1,2})\s*(?:\"|in|inches))?")


def distances(text: str) -> tuple[float, ...]:
    """Distances in metres from `2 m`, `10 15 20 25 ft`, `1 m 5 ft 10 ft`, or none (equal, not measured).

    A figure without a unit has that of the next one that says its own; none at all is metres. Raises `RunFormError`.
    """
    words = text.strip().lower().replace(";", " ").replace(", ", " ")
    if not words or words.startswith("equal"):
        return ()
    if not re.fullmatch(rf"(?:\s*{_LENGTH.pattern}[\s,]*)+", words):
        raise RunFormError(f"“{text.strip()}” is not a list of distances, such as 1 m 5 ft 10 ft.")
    found: list[float] = []
    unit = "m"
    for match in reversed(list(_LENGTH.finditer(words))):
        unit = match[2] or unit
        inches = f" {match[3]} in" if match[3] else ""
        try:
            entry = parse(f"{match[1]} {unit}{inches}", "distance")
        except EntryError as error:
            raise RunFormError(str(error)) from error
        if entry.value is None or impossible_term("distance_m", entry.value) or entry.quantity != "distance":
            raise RunFormError(f"“{match[0].strip()}” is not a distance.")
        found.insert(0, entry.value)
    return tuple(dict.fromkeys(found))
