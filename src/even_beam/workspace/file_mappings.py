"""How files of one shape are read, kept in the logbook and used again."""

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
        try:
            found[kept.shape] = Mapping.from_content(kept.content)
        except FormatError:
            continue  # of another version: the guess stands in
    return found.get


def remember_mapping(logbook: "Logbook", shape: str, mapping: Mapping) -> None:
    """Keep a mapping for files of a shape, in place of an earlier one."""
    before = next((kept for kept in logbook.all(FileMapping) if kept.shape == shape), None)
    logbook.save(FileMapping(before.id if before is not None else new_id(), shape, mapping.as_content()))
