"""What the readings of a logbook say, as plain values for `even-beam findings --json` (docs/file-format.md)."""

from typing import Any

from even_beam.bench.compare import Entrant
from even_beam.bench.doubts import Flag, flags
from even_beam.bench.summary import SummaryRow, gaps, rows_of
from even_beam.workspace.collection import Collection


class UnknownFixtureError(ValueError):
    """A fixture that the logbook does not have; the message names those it has."""


def findings(collection: Collection, fixture: str | None = None) -> dict[str, Any]:
    """Rows, flags and gaps of every lamp, or of one by its nickname. Raises `UnknownFixtureError`."""
    entrants = collection.entrants()
    if fixture is not None:
        known = [e.name for e in entrants]
        entrants = [e for e in entrants if e.name.casefold() == fixture.casefold()]
        if not entrants:
            raise UnknownFixtureError(f"no readings of “{fixture}”; there are readings of {', '.join(known)}")
    return {
        "logbook": collection.logbook.path.name,
        "fixtures": [_fixture(entrant, collection) for entrant in entrants],
        "flags": [_flag(flag) for entrant in entrants for flag in flags(entrant)],
        "not_measured": list(gaps(entrants, collection.sources)),
    }


def _fixture(entrant: Entrant, collection: Collection) -> dict[str, Any]:
    rows = [_row(row) for row in rows_of(entrant, collection.meters)]
    return {"fixture": entrant.name, "kind": entrant.kind, "readings": len(entrant.readings), "rows": rows}


def _row(row: SummaryRow) -> dict[str, Any]:
    terms = row.terms
    return {
        "mode": terms.mode,
        "cct_k": terms.cct_k,
        "dimmer_pct": terms.level_pct,
        "zoom": terms.zoom,
        "configuration": list(terms.configuration),
        "distance_m": terms.distance_m,
        "angle_deg": terms.angle_deg,
        "meter": row.meter,
        "readings": row.count,
        "spread_pct": row.spread_pct,
        "figures": dict(row.figures),
        "mired_error": row.white.mired if row.white is not None else None,
        "mired_tolerance": row.white.tolerance_mired if row.white is not None else None,
        "terms_corrected": row.corrected,
        "in_doubt": row.in_doubt,
        "suspect": row.suspect,
    }


def _flag(flag: Flag) -> dict[str, Any]:
    return {
        "fixture": flag.fixture,
        "configuration": list(flag.configuration),
        "distance_m": flag.distance_m,
        "quantity": flag.quantity,
        "value": flag.value,
        "expected": flag.expected,
        "stops_off": flag.stops_off,
        "cause": flag.cause,
        "suggestion": flag.suggestion,
        "candidates": list(flag.candidates),
    }
