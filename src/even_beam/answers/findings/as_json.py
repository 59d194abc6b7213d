"""What the readings of a logbook say, as plain values for `even-beam findings --json` (docs/file-format.md)."""

import math
from collections.abc import Iterator
from typing import Any

from even_beam.answers.findings import told
from even_beam.answers.findings.witness import Witness
from even_beam.bench.terms_json import terms_json
from even_beam.collection.collection import Collection
from even_beam.known.choice import Entrant
from even_beam.known.doubts import Flag
from even_beam.known.findings.claims import ClaimVerdict
from even_beam.known.findings.finding import Finding
from even_beam.known.summary import SummaryRow, gaps, rows_of
from even_beam.known.verdicts import Verdict
from even_beam.shell.settings import Settings


def findings(collection: Collection, fixture: str | None = None, settings: Settings | None = None) -> dict[str, Any]:
    """Rows, findings, claims, verdicts, flags and gaps of every lamp, or of one. Raises `UnknownFixtureError`."""
    found = findings_one_by_one(collection, fixture, settings)
    return {name: list(value) if isinstance(value, Iterator) else value for name, value in found.items()}


def findings_one_by_one(
    collection: Collection, fixture: str | None = None, settings: Settings | None = None
) -> dict[str, Any]:
    """The same with fixtures and flags as iterators, to be gone through in their order; no lamp is held beside another.

    Raises `UnknownFixtureError`.
    """
    witness = Witness(collection, settings)
    entrants = witness.entrants([fixture] if fixture is not None else None)
    flags: list[dict[str, Any]] = []

    def fixtures() -> Iterator[dict[str, Any]]:
        for entrant in entrants:
            yield _fixture(entrant, collection, witness)
            flags.extend(_flag(flag) for flag in witness.flags(entrant))
            witness.forget(entrant)

    return {
        "logbook": collection.logbook.path.name,
        "fixtures": fixtures(),
        "flags": (flag for flag in flags),
        "not_measured": list(gaps(entrants, collection.sources)),
    }


def _fixture(entrant: Entrant, collection: Collection, witness: Witness) -> dict[str, Any]:
    found = witness.findings(entrant)
    return {
        "fixture": entrant.name,
        "kind": entrant.kind,
        "readings": len(entrant.readings),
        "rows": [_row(row) for row in rows_of(entrant, collection.meters)],
        "headline": [one.sentence for one in told.headline(witness, entrant)],
        "findings": [_finding(finding) for finding in found],
        "claims": [_claim(judged) for judged in witness.claims(entrant)],
        "verdicts": [_verdict(judged) for judged in witness.verdicts(entrant)],
    }


def _finding(finding: Finding) -> dict[str, Any]:
    return {
        "question": finding.question,
        "name": finding.name,
        "value": _plain(finding.value),
        "unit": finding.unit,
        "spread": finding.spread,
        "uncertainty": finding.uncertainty,
        "ratio_uncertainty": finding.ratio_uncertainty,
        "terms": finding.terms,
        "sentence": finding.sentence,
        "readings": list(finding.readings),
        "not_covered": list(finding.not_covered),
        "axis": list(finding.axis),
        "parts": dict(finding.parts),
        "series": {name: [_plain(v) for v in values] for name, values in finding.series.items()},
    }


def _plain(value: float | str | None) -> float | str | None:
    """What has no answer is null in JSON."""
    return None if isinstance(value, float) and math.isnan(value) else value


def _claim(judged: ClaimVerdict) -> dict[str, Any]:
    return {
        "quantity": judged.claim.quantity,
        "claim": judged.claim.text,
        "condition": judged.claim.condition,
        "value": judged.value,
        "uncertainty": judged.uncertainty,
        "terms": str(judged.even),
        "verdict": str(judged.holds),
        "sentence": judged.sentence,
        "readings": list(judged.readings),
    }


def _verdict(judged: Verdict) -> dict[str, Any]:
    return {
        "purpose": judged.purpose,
        "answer": str(judged.answer),
        "certain": judged.certain,
        "at": judged.at,
        "limits": [
            {
                "limit": one.limit,
                "bound": one.bound,
                "value": one.value,
                "uncertainty": one.uncertainty,
                "answer": str(one.answer),
                "certain": one.certain,
                "sentence": one.sentence,
            }
            for one in judged.judgements
        ],
    }


def _row(row: SummaryRow) -> dict[str, Any]:
    return {
        "terms": terms_json(row.terms, meter=row.meter),
        "readings": row.count,
        "spread_pct": row.spread_pct,
        "figures": dict(row.figures),
        "texts": dict(row.texts),
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
