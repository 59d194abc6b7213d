"""What the columns of a table are: named as the format names them, guessed from other headings, or said by the user."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from even_beam.bench.fields import FIELDS
from even_beam.formats.errors import FormatError
from even_beam.formats.heading_words import in_english
from even_beam.words.quantities import QUANTITIES

COLUMNS = (
    "session", "fixture", "mode", "cct_k", "tint", "dimmer_pct", "configuration", "distance", "position", "quantity",
    "value", "unit", "meter", "time", "note",
)  # fmt: skip
FURTHER_COLUMNS = (
    *(one.column for one in FIELDS if one.column and one.column not in COLUMNS), "iso", "shutter", "receptor_c",
    "ssi_reference", "fan", "power_source", "qualifier", "origin",
)  # fmt: skip
"""The columns of the format: those that it began with, in their order, and those of every other field of terms."""


class UndecidedError(FormatError):
    """A column that could be two things, and nobody said which."""


IGNORED = ""
ASKED = "?"
"""A column that could be two things: whoever brings it in says which."""
MEASURED = "measured "
"""Before the name of a quantity: a column that holds figures of that quantity."""

TARGETS = (IGNORED, ASKED, *COLUMNS, *FURTHER_COLUMNS, *(f"{MEASURED}{name}" for name in QUANTITIES))
"""Everything that a column can be."""

_ALIASES = {
    "fixture": ("lamp", "light", "unit under test", "source", "head", "name"),
    "cct_k": ("set cct", "cct set", "dialled", "set", "setting", "white set", "asked", "nominal"),
    "dimmer_pct": ("dimmer", "level", "dim", "intensity", "percent"),
    "configuration": ("modifier", "modifiers", "accessory", "config", "on the lamp", "gel"),
    "distance": ("dist", "at", "far", "range"),
    "position": ("angle", "where"),
    "time": ("date", "when", "timestamp"),
    "note": ("notes", "remark", "remarks", "comment", "comments"),
    "meter": ("instrument",),
    "session": ("test", "evening"),
    "unit": ("units",),
    "quantity": ("what",),
    "value": ("reading", "figure", "result"),
}


@dataclass(frozen=True, slots=True)
class Heading:
    """A column's heading: its words, the unit it gives, and the terms that its figures were read at (`at`), texts by
    their columns."""

    text: str
    words: str
    unit: str
    at: tuple[tuple[str, str], ...] = ()


_UNITS = {
    "ft": "ft", "feet": "ft", "foot": "ft", "m": "m", "metres": "m", "meters": "m", "cm": "cm", "lx": "lx", "lux": "lx",
    "klx": "klx", "fc": "fc", "footcandles": "fc", "foot candles": "fc", "k": "K", "kelvin": "K", "w": "W", "va": "VA",
    "a": "A", "v": "V", "db": "dB", "dba": "dB", "hz": "Hz", "khz": "kHz", "%": "%", "deg": "deg", "°": "deg",
    "cc": "CC",
}  # fmt: skip
"""Units as headings write them."""

_CRI = "cri"
"""Ra, the mean of eight, to some, and the mean of all fifteen to others."""

_IS_A_UNIT = {"lux": "lx", "lx": "lx", "klx": "klx", "fc": "fc", "footcandles": "fc", "foot candles": "fc"}
"""Headings that are a unit themselves: a column of footcandles is never one of lux."""


def is_unit(text: str) -> bool:
    """Whether a cell is a unit and nothing else."""
    return text.strip("()[] ").lower() in _UNITS


_TERMS = (
    ("distance", re.compile(r"(?<![\w.])\d{1,3}(?:[.,]\d{1,2})?\s*(?:ft|feet|'|m|cm)(?!\w)", re.IGNORECASE)),
    ("dimmer_pct", re.compile(r"(?<![\w.])\d{1,3}\s*%")),
    ("cct_k", re.compile(r"(?<![\w.])\d{4,5}\s*K(?!\w)")),
)
"""Terms that stand in headings, over one column or several."""
_AT = re.compile(r"\s*(?:@|\bat\b)?\s*$", re.IGNORECASE)


def terms_in(text: str) -> tuple[tuple[tuple[str, str], ...], str]:
    """The terms that stand in a heading, texts by their columns, and what is left of it.

    >>> terms_in("lux at 2 m, 50%")
    ((('distance', '2 m'), ('dimmer_pct', '50%')), 'lux')
    """
    found, rest = [], text
    for column, pattern in _TERMS:
        if (match := pattern.search(rest)) is not None:
            found.append((column, match[0].strip()))
            rest = f"{rest[: match.start()]} {rest[match.end() :]}"
    return tuple(found), re.sub(
        r"\s*(?:@|\bat\b)?\s*$", "", " ".join(rest.replace(",", " ").split()), flags=re.IGNORECASE
    )


def heading(text: str) -> Heading:
    """`Distance (ft)`, `Lux [lx]`, `lux at 2 m` or `power_w` as words, unit and terms."""
    short = text.strip()[:200]
    at, rest = terms_in(short)
    if not at or not rest:
        at, rest = (), short
    found = re.fullmatch(r"([^()\[\]]*)[(\[]([^()\[\]]*)[)\]]", rest)
    name, unit = (found[1], found[2].strip()) if found is not None else (rest, "")
    words = re.sub(r"[\s_\-./]+", " ", name).strip().lower()
    first, _, last = words.rpartition(" ")
    if not unit and first and last in _UNITS and last not in {"a", "v", "k", "w"}:
        words, unit = first, _UNITS[last]
    words = in_english(words)
    return Heading(short, words, unit or _IS_A_UNIT.get(words, ""), at)


def quantity_of(one: Heading) -> str | None:
    """The quantity that a heading names; None when it names none."""
    underscored = one.words.replace(" ", "_")
    if underscored in QUANTITIES:
        return underscored
    return next((name for name, known in QUANTITIES.items() if one.words in known.headings), None)


def guess(headings: Sequence[str]) -> dict[str, str]:
    """What each column is, by its heading; what tells nothing is ignored. No two columns are the same.

    Where quantity and value have columns of their own, every other one says at which terms: a white there was dialled.
    """
    found: dict[str, str] = {}
    taken: set[tuple[str, tuple[tuple[str, str], ...]]] = set()
    for text in headings:
        one = heading(text)
        target = _guessed(one)
        if (target, one.at) in taken and target != ASKED:
            target = IGNORED
        taken.add((target, one.at))
        found[text] = target
    targets = set(found.values())
    if {"quantity", "value"} <= targets and "cct_k" not in targets:
        found = {text: "cct_k" if target == f"{MEASURED}cct" else target for text, target in found.items()}
    return found


def _guessed(one: Heading) -> str:
    underscored = one.words.replace(" ", "_")
    if underscored in COLUMNS or underscored in FURTHER_COLUMNS:
        return underscored
    column = next((name for name, aliases in _ALIASES.items() if one.words in aliases), None)
    if column is not None:
        return column
    if one.words == _CRI:
        return {"ra": f"{MEASURED}ra", "re": f"{MEASURED}re"}.get(one.unit.lower(), ASKED)
    quantity = quantity_of(one)
    return f"{MEASURED}{quantity}" if quantity is not None else IGNORED


def is_known(headings: Sequence[str]) -> bool:
    """Whether the columns are just those of the format, so that nothing needs to be asked."""
    names = [heading(text).words.replace(" ", "_") for text in headings if text.strip()]
    return {"quantity", "value"} <= set(names) and all(name in COLUMNS or name in FURTHER_COLUMNS for name in names)


def checked(mapping: Mapping[str, str]) -> dict[str, str]:
    """A mapping that can be used. Raises `FormatError` when it names no figure, or two columns for one thing."""
    strangers = [target for target in mapping.values() if target not in TARGETS]
    if strangers:
        raise FormatError(f"“{strangers[0]}” is nothing that a column can be")
    if asked := [text for text, target in mapping.items() if target == ASKED]:
        raise UndecidedError(f"“{asked[0]}” is Ra, the mean of eight, or the mean of all fifteen (Re): say which")
    used = [target for target in mapping.values() if target != IGNORED]
    placed = [(target, heading(text).at) for text, target in mapping.items() if target != IGNORED]
    twice = next((target for target, at in placed if placed.count((target, at)) > 1), None)
    if twice is not None:
        raise FormatError(f"two columns are said to be “{twice}”")
    if not any(target.startswith(MEASURED) for target in used) and not {"quantity", "value"} <= set(used):
        raise FormatError("no column holds a figure: say which, or which are “quantity” and “value”")
    return dict(mapping)
