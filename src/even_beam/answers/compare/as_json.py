"""Lamps on even terms as plain values for `even-beam compare --json` (docs/file-format.md)."""

import math
from collections.abc import Sequence
from typing import Any

from even_beam.answers.compare.loading import compared
from even_beam.answers.findings.named_lamps import asked_terms, named_lamps
from even_beam.answers.findings.terms_text import TermsTextError
from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.terms_json import terms_json
from even_beam.collection.collection import Collection
from even_beam.known.choice import JOINED, Entrant
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.split import Split, parted

MOST_ALSO = 12
"""So many of the other readings that answer what was asked are listed, the nearest first."""

__all__ = ["TermsTextError", "comparison"]


def comparison(
    collection: Collection, fixtures: Sequence[str], at: str = "", each: Split = Split.LAMPS
) -> dict[str, Any]:
    """Fixtures compared at terms, the first as the reference; `NAME@TERMS` asks terms of one alone, `each` sets the
    parts of each side by side.

    Raises `UnknownFixtureError` and `TermsTextError`.
    """
    asked = asked_terms(collection, at)
    named = named_lamps(collection, fixtures, figures=lambda readings: ())
    own = [part for lamp in named for part in parted(lamp, each, collection.part_names)]
    found, loaded = compared(collection, own, asked, own[0].key)
    return as_json(found, loaded, collection)


def as_json(found: Comparison, entrants: Sequence[Entrant], collection: Collection) -> dict[str, Any]:
    """A comparison as plain values."""
    first = next((entry.first for entry in found.entries if entry.first is not None), None)
    shared = {name: value for name, value in (_terms(first, collection) or {}).items() if name in found.at}
    return {
        "at": {"cct_k": shared.get("cct"), "level_pct": shared.get("level"), "distance_m": found.distance_m},
        "common": shared,
        "reference": next((e.name for e in found.entries if e.key == found.reference), None),
        "terms": [
            {"evenness": str(note.evenness), "text": note.text, "fields": list(note.fields)} for note in found.notes
        ],
        "entries": [_entry(entry, collection) for entry in found.entries],
        "sentences": list(found.sentences),
        "said": [{"text": one.text, "entries": list(one.keys), "readings": list(one.readings)} for one in found.said],
    }


def _terms(
    measured: Measured | None, collection: Collection, joined: frozenset[str] = frozenset()
) -> dict[str, Any] | None:
    """Every field of terms by name; null for what was not stated, `joined` for what has several values by choice."""
    if measured is None:
        return None
    meter = collection.meters.get(measured.reading.meter_id or "")
    session = collection.session_by_id.get(measured.reading.session_id)
    own = terms_json(
        measured.terms,
        meter=meter.nickname if meter is not None else None,
        session=session.name if session is not None else None,
    )
    return {**own, **dict.fromkeys(joined, JOINED)}


def _entry(entry: Entry, collection: Collection) -> dict[str, Any]:
    first = entry.first
    parts = entry.ratio_estimate.shares if entry.ratio_estimate is not None else {}
    return {
        "key": entry.key,
        "fixture": entry.name,
        "terms": _terms(first, collection, entry.joined_fields),
        "joined": entry.joined or None,
        "configuration": list(first.terms.configuration) if first is not None else None,
        "illuminance_lx": _finite(entry.illuminance),
        "illuminance_half_width": None
        if entry.illuminance is None or entry.level is None
        else entry.illuminance * (2.0**entry.level.half_width - 1.0),
        "at_m": entry.at_m,
        "read_at_m": entry.read_at_m,
        "as_read_lx": None if entry.ratios_only else entry.as_read,
        "brought": entry.how.words if entry.how is not None else None,
        "comparable": entry.comparable,
        "why_not": entry.why_not or None,
        "ratio": entry.ratio,
        "stops": entry.ratio_stops,
        "stops_uncertainty": entry.ratio_tolerance_stops,
        "tie": entry.tie,
        "uncertainty": {
            "stops": entry.ratio_tolerance_stops,
            "parts": dict(parts),
            "level_stops": entry.level.half_width if entry.level is not None else None,
            "level_parts": entry.level.shares if entry.level is not None else {},
            "figures": dict(entry.half_widths),
        },
        "cct_k": entry.cct_k,
        "mired_error": entry.white.mired if entry.white is not None else None,
        "figures": dict(entry.figures),
        "beyond_reference": {
            "mired" if name == "cct" else name: {
                "value": one.value,
                "half_width": one.half_width,
                "told": abs(one.value) > one.tells,
            }
            for name, one in entry.beyond.items()
            if one.value is not None
        },
        "texts": dict(entry.texts),
        "doubtful": entry.doubtful or None,
        "not_stated": list(entry.unstated),
        "readings": [m.reading.id for m in entry.readings],
        "rests_on": [m.reading.id for m in entry.rests_on],
        "colour": {"terms": _terms(entry.colour[0], collection), "readings": [m.reading.id for m in entry.colour]}
        if entry.colour
        else None,
        "also": [
            {
                "terms": _terms(group[0], collection),
                "words": terms.words(group[0]),
                "readings": [m.reading.id for m in group],
            }
            for group in entry.also[:MOST_ALSO]
        ],
        "also_count": len(entry.also),
    }


def _finite(value: float | None) -> float | None:
    return value if value is not None and math.isfinite(value) else None
