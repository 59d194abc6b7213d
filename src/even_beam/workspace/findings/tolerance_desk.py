"""Tolerance sets at work: those that come with the program, and a logbook's own, which replace them by name."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench.entry import EntryError, parse
from even_beam.bench.records import ToleranceSet, new_id
from even_beam.bench.tolerances import LIMITS, ToleranceError, content_of, set_of, shipped

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


def tolerance_sets(logbook: "Logbook") -> tuple[ToleranceSet, ...]:
    """Every set by which lamps can be judged."""
    found = {one.name: one for one in (*shipped(), *logbook.all(ToleranceSet))}
    return tuple(found.values())


def limit_of(name: str, text: str) -> float | None:
    """A limit as it is typed, None for one that is not asked. Raises `ToleranceError`."""
    if not text.strip():
        return None
    try:
        value = parse(text, None).value
    except EntryError as error:
        raise ToleranceError(f"{LIMITS[name].label}: {error}") from error
    if value is None or not 0.0 <= value < 1e6:
        raise ToleranceError(f"{LIMITS[name].label} must be one number from 0 on")
    return value


class ToleranceDesk:
    """Edits the sets of one logbook."""

    def __init__(self, logbook: "Logbook") -> None:
        self._logbook = logbook

    def sets(self) -> tuple[ToleranceSet, ...]:
        """Every set."""
        return tolerance_sets(self._logbook)

    def own(self, name: str) -> ToleranceSet | None:
        """The logbook's own set of a name."""
        return next((one for one in self._logbook.all(ToleranceSet) if one.name == name), None)

    def save(self, name: str, purpose: str, limits: Mapping[str, str]) -> ToleranceSet:
        """Keep a set from its texts, in place of one of the same name. Raises `ToleranceError`."""
        values = {limit: value for limit, text in limits.items() if (value := limit_of(limit, text)) is not None}
        return self._keep(set_of({"name": " ".join(name.split()), "purpose": purpose.strip(), "limits": values}))

    def _keep(self, one: ToleranceSet) -> ToleranceSet:
        before = self.own(one.name)
        kept = replace(one, id=before.id if before is not None else new_id())
        self._logbook.save(kept)
        return kept

    def drop(self, name: str) -> bool:
        """Remove the logbook's own set; the shipped one of that name, if any, is back. False when there is none."""
        own = self.own(name)
        if own is not None:
            self._logbook.remove(own)
        return own is not None

    def read(self, path: Path) -> list[ToleranceSet]:
        """Keep the sets of a JSON file (docs/file-format.md). Raises `ToleranceError` before anything is kept."""
        try:
            content = json.loads(path.read_text(encoding="utf-8"))
            entries = content["sets"]
            found = [set_of(entry) for entry in entries]
        except (OSError, UnicodeDecodeError, json.JSONDecodeError) as error:
            raise ToleranceError(f"{path.name} cannot be read: {error}") from error
        except (TypeError, KeyError, AttributeError) as error:
            raise ToleranceError(f"{path.name} holds no tolerance sets: it needs a list “sets”") from error
        return [self._keep(one) for one in found]

    def write(self, path: Path, names: Sequence[str]) -> None:
        """Write sets as JSON. Raises `ToleranceError`."""
        content = {"sets": [content_of(one) for one in self.sets() if one.name in names]}
        partial = path.with_name(path.name + ".part")
        try:
            partial.write_text(json.dumps(content, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
            partial.replace(path)
        except OSError as error:
            raise ToleranceError(
                f"{path.name} could not be written: {error.strerror}. Choose another folder"
            ) from error
