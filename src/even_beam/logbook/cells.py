"""Values as they stand in a cell of SQLite, and back: times and lists are text there.

What a cell holds is looked at by its kind before it is believed, a column at a time: files come from strangers too.
"""

import json
import math
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime
from enum import Enum
from functools import lru_cache
from types import NoneType
from typing import Any, get_args, get_origin

import numpy as np
from numpy.typing import NDArray

_AS_THEY_ARE = frozenset({str, int, float, bool, NoneType})


def kept(value: Any) -> Any:
    """A value as it is kept. Raises `ValueError` for a time without a zone."""
    if type(value) in _AS_THEY_ARE:
        return value
    if isinstance(value, Enum):
        return value.value
    if isinstance(value, datetime):
        return utc_text(value)
    if isinstance(value, tuple | list | Mapping):
        return json_text(value)
    return value


def utc_text(moment: datetime) -> str:
    """An aware time as ISO 8601 UTC text. Raises `ValueError` for one without a zone."""
    if moment.tzinfo is None:
        raise ValueError("a time without a zone cannot be kept")
    try:
        moment = moment.astimezone(UTC)
    except OverflowError:  # within a day of the first or last moment that there is
        moment = moment.replace(tzinfo=UTC)
    return moment.isoformat(timespec="milliseconds").replace("+00:00", "Z")


def json_text(value: tuple[Any, ...] | list[Any] | Mapping[str, Any]) -> str:
    """A list or a mapping as JSON text, the same for what is equal."""
    return json.dumps(dict(value) if isinstance(value, Mapping) else value, ensure_ascii=False, sort_keys=True)


def structure(text: str) -> Any:
    """The tuple or mapping of a JSON text. Raises `ValueError` for what is neither."""
    value = json.loads(text)
    if not isinstance(value, list | dict):
        raise ValueError(f"neither a list nor an object: {text[:40]}")
    return frozen(value)


def frozen(value: Any) -> Any:
    """JSON values with lists as tuples."""
    if isinstance(value, list):
        return tuple(frozen(item) for item in value)
    if isinstance(value, dict):
        return {key: frozen(item) for key, item in value.items()}
    return value


# --- what a column may hold


Fits = Callable[[Sequence[Any]], str | None]

_CELLS: dict[Any, frozenset[type]] = {
    str: frozenset({str}),
    bytes: frozenset({bytes}),
    int: frozenset({int}),
    bool: frozenset({int}),
    float: frozenset({float, int}),
}
_WORDS: dict[type, str] = {str: "a text", bytes: "bytes", int: "a number", float: "a number", NoneType: "nothing"}
_UNCOUNTABLE = 2**53
"""Beyond it a whole number is no exact double."""


def fitting(hint: Any, *, infinite: bool = False) -> Fits:
    """What says of a column of a type what does not belong in it, None where all does; infinity only where it may."""
    options = get_args(hint) if NoneType in get_args(hint) else (hint,)
    base = next(option for option in options if option is not NoneType)
    plain = _CELLS.get(base, _CELLS[str])  # times, words and lists are kept as text
    allowed = plain | (frozenset({NoneType}) if NoneType in options else frozenset())
    number = base in (float, int, bool)

    def fits(column: Sequence[Any]) -> str | None:
        found = set(map(type, column))
        if not found <= allowed:
            return _WORDS.get(next(iter(found - allowed)), "something else")
        if number and not infinite and (math.inf in column or -math.inf in column):
            return "an infinite number"
        if base is float and int in found and any(type(v) is int and abs(v) > _UNCOUNTABLE for v in column):
            return "a number beyond all measure"
        return None

    return fits


def conversion(hint: Any) -> Callable[[Any], Any] | None:
    """From what SQLite keeps to a field's type; None where it is the same. Raises what reading the text raises."""
    base = get_origin(hint) or hint
    if not isinstance(base, type):
        return None
    if issubclass(base, Enum):
        return {member.value: member for member in base}.__getitem__
    if issubclass(base, bool):
        return bool
    if issubclass(base, datetime):
        return _moment
    if issubclass(base, tuple):
        return texts if str in get_args(hint) else _numbers
    if issubclass(base, Mapping):
        return _mapping if get_args(hint)[1] is object else _mapping_of(get_args(hint)[1])
    return None


def _moment(text: str) -> datetime:
    moment = datetime.fromisoformat(text)
    if moment.tzinfo is None:
        raise ValueError(f"a time without a zone: {text}")
    return moment


@lru_cache(maxsize=8192)
def texts(text: str) -> tuple[str, ...]:
    """A list of texts; lists, which many rows share, are read once. Raises `ValueError` for anything else."""
    found = structure(text)
    if not isinstance(found, tuple) or not all(isinstance(one, str) for one in found):
        raise ValueError(f"no list of texts: {text[:40]}")
    return found


def _numbers(text: str) -> tuple[float, ...]:
    found = structure(text)
    if not isinstance(found, tuple) or not all(_is_number(one) for one in found):
        raise ValueError(f"no list of numbers: {text[:40]}")
    return found


def _mapping(text: str) -> Mapping[str, Any]:
    found = structure(text)
    if not isinstance(found, Mapping):
        raise ValueError(f"no object: {text[:40]}")
    return found


def _mapping_of(kind: type) -> Callable[[str], Mapping[str, Any]]:
    def read(text: str) -> Mapping[str, Any]:
        found = _mapping(text)
        if not all(_is_number(one) if kind is float else isinstance(one, kind) for one in found.values()):
            raise ValueError(f"an object with something else in it: {text[:40]}")
        return found

    return read


def _is_number(value: object) -> bool:
    return isinstance(value, float | int) and not isinstance(value, bool) and math.isfinite(value)


def doubles(kept: object, least: int = 0) -> NDArray[np.float64]:
    """The little-endian doubles of a cell, all of them numbers. Raises `ValueError`."""
    if not isinstance(kept, bytes) or len(kept) % 8 or len(kept) < 8 * least:
        raise ValueError("its samples are cut off")
    found = np.frombuffer(kept, dtype="<f8")
    if not np.all(np.isfinite(found)):
        raise ValueError("a sample is no number")
    return found
