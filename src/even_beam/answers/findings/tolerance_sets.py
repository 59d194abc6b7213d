"""Tolerance sets: those that come with the program, a logbook's own, which replace them by name, and those of files."""

import json
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench.records import ToleranceSet
from even_beam.bench.tolerances import ToleranceError, content_of, set_of, shipped
from even_beam.files.reading import InputError, read_text
from even_beam.files.writing import write

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


def tolerance_sets(logbook: "Logbook") -> tuple[ToleranceSet, ...]:
    """Every set by which lamps can be judged."""
    found = {one.name: one for one in (*shipped(), *logbook.all(ToleranceSet))}
    return tuple(found.values())


def own_set(logbook: "Logbook", name: str) -> ToleranceSet | None:
    """The logbook's own set of a name."""
    return next((one for one in logbook.all(ToleranceSet) if one.name == name), None)


def sets_in(path: Path) -> list[ToleranceSet]:
    """The sets of a JSON file (docs/file-format.md). Raises `ToleranceError`."""
    try:
        content = json.loads(read_text(path, 2**20))
        return [set_of(entry) for entry in content["sets"]]
    except (InputError, ValueError, RecursionError) as error:
        raise ToleranceError(f"{path.name} cannot be read: {error}") from error
    except (TypeError, KeyError, AttributeError) as error:
        raise ToleranceError(f"{path.name} holds no tolerance sets: it needs a list “sets”") from error


def write_sets(path: Path, sets: Sequence[ToleranceSet], *, over_others: bool = False) -> None:
    """Write sets as JSON. Raises `OutputError`."""
    content = {"sets": [content_of(one) for one in sets]}
    text = json.dumps(content, indent=1, ensure_ascii=False) + "\n"
    write(path, text.encode("utf-8"), over_others=over_others)
