"""How files of one shape are read, kept in the logbook and used again."""

from collections.abc import Mapping as AnyMapping
from typing import TYPE_CHECKING

from even_beam.bench.records import FileMapping, new_id
from even_beam.formats.delimited import Mapping
from even_beam.formats.errors import FormatError
from even_beam.formats.registry import KnownMappings

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


def known_mappings(logbook: "Logbook") -> KnownMappings:
    """The kept mappings by shape, read now: the result may be used in another thread."""
    found: dict[str, Mapping] = {}
    for kept in logbook.all(FileMapping):
        if kept.shape.startswith("readings "):
            continue
        try:
            found[kept.shape] = Mapping.from_content(kept.content)
        except FormatError:
            continue  # of another version: the guess stands in
    return found.get


def remember_mapping(logbook: "Logbook", shape: str, mapping: Mapping) -> None:
    """Keep a mapping for files of a shape, in place of an earlier one."""
    _remember(logbook, shape, mapping.as_content())


def known_columns(logbook: "Logbook", shape: str) -> dict[str, str] | None:
    """What the columns of a table of readings of this shape are, as the user once said; None when never asked."""
    kept = next((kept for kept in logbook.all(FileMapping) if kept.shape == shape), None)
    return {str(heading): str(target) for heading, target in kept.content.items()} if kept is not None else None


def remember_columns(logbook: "Logbook", shape: str, mapping: AnyMapping[str, str]) -> None:
    """Keep what the columns of a table of readings are, in place of an earlier answer."""
    _remember(logbook, shape, dict(mapping))


def _remember(logbook: "Logbook", shape: str, content: AnyMapping[str, object]) -> None:
    before = next((kept for kept in logbook.all(FileMapping) if kept.shape == shape), None)
    logbook.save(FileMapping(before.id if before is not None else new_id(), shape, content))
