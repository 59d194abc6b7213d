"""Lamps on even terms as plain values for `even-beam compare --json` (docs/file-format.md)."""

from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from typing import Any

from even_beam.bench import compare
from even_beam.bench.compare import At, Comparison, Entrant, Entry
from even_beam.bench.entry import EntryError, parse
from even_beam.workspace.collection import Collection
from even_beam.workspace.evidence import Witness


class TermsTextError(ValueError):
    """Terms that could not be understood; the message says how they are written."""


def at_of(text: str, entrants: Sequence[Entrant]) -> At:
    """Terms of a comparison from `cct=5600,level=100,distance=2 m`; what is not named is what most lamps share.

    Raises `TermsTextError`.
    """
    found = compare.default_terms(entrants)
    for part in (part for part in text.split(",") if part.strip()):
        name, sign, value = (word.strip() for word in part.partition("="))
        fields = {"cct": "cct_k", "level": "level_pct", "distance": "distance_m"}
        if not sign or name not in fields:
            raise TermsTextError(f"“{part.strip()}” is not understood; write cct=5600,level=100,distance=2 m")
        try:
            figure = parse(value, name).value
        except EntryError as error:
            raise TermsTextError(str(error)) from error
        if figure is None or figure < 0.0:
            raise TermsTextError(f"“{value}” is not one {name}")
        found = replace(found, **{fields[name]: figure})  # type: ignore[arg-type]
    return found


def comparison(collection: Collection, fixtures: Sequence[str], at: str = "") -> dict[str, Any]:
    """Fixtures compared at terms, the first as the reference. Raises `UnknownFixtureError` and `TermsTextError`."""
    read = Witness(collection).entrants(fixtures, figures=lambda readings: ())
    terms = at_of(at, read)
    entrants = [
        one for e in read for one in collection.entrants([e.source_id], partial(compare.needed, key=e.key, at=terms))
    ]  # fmt: skip
    return as_json(compare.compare(entrants, terms, entrants[0].key, collection.meters))


def as_json(compared: Comparison) -> dict[str, Any]:
    """A comparison as plain values."""
    return {
        "at": {"cct_k": compared.at.cct_k, "level_pct": compared.at.level_pct, "distance_m": compared.at.distance_m},
        "reference": next((e.name for e in compared.entries if e.key == compared.reference), None),
        "terms": [{"evenness": str(note.evenness), "text": note.text} for note in compared.notes],
        "entries": [_entry(entry) for entry in compared.entries],
        "sentences": list(compared.sentences),
    }


def _entry(entry: Entry) -> dict[str, Any]:
    return {
        "fixture": entry.name,
        "configuration": list(entry.readings[0].terms.configuration) if entry.readings else None,
        "illuminance_lx": None if entry.ratios_only else entry.illuminance,
        "read_at_m": entry.read_at_m,
        "as_read_lx": None if entry.ratios_only else entry.as_read,
        "comparable": entry.comparable,
        "ratio": entry.ratio,
        "stops": entry.ratio_stops,
        "stops_uncertainty": entry.ratio_tolerance_stops,
        "tie": entry.tie,
        "cct_k": entry.cct_k,
        "mired_error": entry.white.mired if entry.white is not None else None,
        "figures": dict(entry.figures),
        "readings": [m.reading.id for m in entry.readings],
    }
