"""Values as they stand in a cell of SQLite, and back: times and lists are text there."""

import json
from collections.abc import Mapping
from datetime import UTC, datetime
from enum import Enum
from typing import Any


def kept(value: Any) -> Any:
    """A value as it is kept. Raises `ValueError` for a time without a zone."""
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
    return moment.astimezone(UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")


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
