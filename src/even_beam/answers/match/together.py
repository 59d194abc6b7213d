"""Lamps on one subject, and light enough for a stop, from a logbook."""

from collections.abc import Sequence
from dataclasses import replace
from statistics import fmean
from typing import Any

from even_beam.answers.findings.witness import Witness
from even_beam.answers.match.lamp import answers_terms
from even_beam.bench import terms
from even_beam.bench.exposure import Exposure
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.bench.target import Target
from even_beam.bench.walks import NotBroughtError
from even_beam.collection.collection import Collection
from even_beam.collection.mean_spectrum import spectrum_of
from even_beam.errors import TellableError
from even_beam.known.choice import WORKING_WHITES_K, Entrant
from even_beam.known.evidence import Evidence, ids
from even_beam.known.matching.enough import Enough, enough
from even_beam.known.matching.mixing import Levels, Mixture, Part, levels_for, mixture
from even_beam.known.matching.moved import dimmer_of, level_at_dial, walk_of
from even_beam.light.filters import tinted
from even_beam.light.white import reference_duv
from even_beam.words import notation


class NothingToMixError(TellableError, ValueError):
    """Lamps that cannot be mixed; the message says what is missing of which."""


def parts_of(collection: Collection, entrants: Sequence[Entrant]) -> tuple[list[Part], list[str]]:
    """Each lamp at the terms asked of it, as it was read; and the names of those that lack a level or a white there."""
    witness, found, lacking = Witness(collection), [], []
    for entrant in entrants:
        evidence = witness.evidence(entrant)
        read = _read(evidence, entrant)
        if read is None:
            lacking.append(entrant.name)
            continue
        group, lux, said = read
        light = spectrum_of(ids(group), collection)
        white = 1e6 / (evidence.white_of(group).value or 1.0)
        duv = [d for m in group if (d := m.value("duv")) is not None]
        found.append(
            Part(
                name=entrant.name,
                terms=said,
                light=light if light is not None else tinted(white, fmean(duv) if duv else float(reference_duv(white))),
                lux=lux,
                readings=ids(group),
                own_spectrum=light is not None,
                tint_known=bool(duv),
            )
        )
    return found, lacking


def _read(evidence: Evidence, entrant: Entrant) -> tuple[list[Measured], float, str] | None:
    """The readings of a lamp at the terms that are asked of it, its level there, and where that is.

    Where nothing was read at the distance or the level that is asked, by its own walk and dimmer; its white as it was
    read. None where these do not tell.
    """
    own = dict(entrant.own)
    group = usual_group([m for m in _lit(evidence, entrant) if m.value("cct")])
    here = evidence.level_of(group).value if group else None
    if here is not None:
        return group, 2.0**here, evidence.at(group[0])
    distance, level = own.pop("distance", None), own.pop("level", None)
    group = usual_group([m for m in _lit(evidence, replace(entrant, own=own)) if m.value("cct")])
    if not group or not (isinstance(distance, float) or isinstance(level, float)):
        return None
    found, said = evidence.level_of(group).value or 0.0, []
    if isinstance(distance, float):
        try:
            moved = walk_of(evidence, group).at(distance)[0].value or 0.0
        except NotBroughtError:
            return None
        found, said = moved, [f"brought to {notation.distance(distance)} by its walk or the inverse square"]
    if isinstance(level, float):
        dimmed = level_at_dial(dimmer_of(evidence, group), level)
        if dimmed is None:
            return None
        found += dimmed - (evidence.level_of(group).value or 0.0)
        said.append(f"dimmed to {notation.percent(level)} % by its own dimmer")
    return group, 2.0**found, f"{evidence.at(group[0])}, {' and '.join(said)}"


def lacking_words(names: Sequence[str]) -> str:
    """What is missing of lamps that cannot be mixed."""
    return (
        f"of {notation.listed(names)} no level with a colour temperature was read at these terms: read both in one go"
    )


def usual_group(readings: Sequence[Measured]) -> list[Measured]:
    """Of readings at several terms those at the highest level, bare before dressed, nearest to a working white."""
    groups = terms.grouped(readings).values()
    return max(groups, key=_usual, default=[])


def _usual(group: list[Measured]) -> tuple[float, bool, float, int, int]:
    own = group[0].terms
    white = own.cct_k or WORKING_WHITES_K[0]
    far = min((abs(1e6 / white - 1e6 / working), place) for place, working in enumerate(WORKING_WHITES_K))
    return -1.0 if own.level_pct is None else own.level_pct, not own.configuration, -far[0], -far[1], len(group)


def _lit(evidence: Evidence, entrant: Entrant) -> list[Measured]:
    return [
        m for m in evidence.readings if m.terms.mode != OFF and m.value("illuminance") and answers_terms(m, entrant)
    ]


def mix(
    collection: Collection, entrants: Sequence[Entrant], target: Target | None = None, lux: float | None = None
) -> Mixture | Levels:
    """What lamps give together; with a target the levels that come nearest to it. Raises `NothingToMixError`."""
    parts, lacking = parts_of(collection, entrants)
    if lacking or not parts:
        raise NothingToMixError(lacking_words(lacking) if lacking else "no lamp was named")
    return mixture(parts) if target is None else levels_for(parts, target, lux)


def enough_of(
    collection: Collection, entrants: Sequence[Entrant], f_number: float, exposure: Exposure
) -> tuple[list[Enough], list[str]]:
    """What each lamp gives for a stop, and the names of those of which no level was read. Raises `ExposureError`."""
    witness, found, unread = Witness(collection), [], []
    for entrant in entrants:
        evidence = witness.evidence(entrant)
        answer = enough(evidence, usual_group(_lit(evidence, entrant)), f_number, exposure)
        if answer is None:
            unread.append(entrant.name)
        else:
            found.append(answer)
    return sorted(found, key=lambda one: -one.stops_over), unread


def mix_json(found: Mixture | Levels) -> dict[str, Any]:
    """A mixture as plain values; with what is left of a target where one was asked."""
    together = found.mixture if isinstance(found, Levels) else found
    aimed = isinstance(found, Levels)
    return {
        "target": {"name": found.target.name or None, "cct_k": found.target.cct_k, "duv": found.target.duv}
        if isinstance(found, Levels)
        else None,
        "illuminance_lx": together.lux,
        "cct_k": together.cct_k if together.is_white else None,
        "duv": together.duv if together.is_white else None,
        "scores": together.scores,
        "reaches": found.reaches if isinstance(found, Levels) else None,
        "off": {"mired": found.off[0], "duv": found.off[1]} if isinstance(found, Levels) else None,
        "parts": [
            {
                "fixture": part.name,
                "terms": part.terms,
                "read_lx": part.lux,
                "factor": float(factor),
                "share": float(share),
                "alone": {"mired_off": float(off[0]), "duv_off": float(off[1])},
                "readings": list(part.readings),
            }
            for part, factor, share, off in zip(
                together.parts, together.factors, together.shares, together.off, strict=True
            )
        ],
        "sentences": [*([found.sentence] if aimed and isinstance(found, Levels) else []), *together.sentences],
    }


def enough_json(found: Sequence[Enough], unread: Sequence[str], f_number: float, exposure: Exposure) -> dict[str, Any]:
    """What lamps give for a stop as plain values."""
    return {
        "asked": {
            "f_number": f_number,
            "iso": exposure.iso,
            "shutter_s": exposure.shutter_s,
            "constant": exposure.constant,
            "illuminance_lx": exposure.lux(f_number),
        },
        "answers": [
            {
                "fixture": one.name,
                "terms": one.terms,
                "read_lx": one.read_lux,
                "f_number": one.f_number,
                "stops_over": one.stops_over,
                "uncertainty_stops": one.half_stops,
                "enough": one.is_enough,
                "dial_pct": one.dial_pct,
                "distance_m": one.distance_m,
                "lamps": one.lamps,
                "readings": list(one.readings),
                "sentence": one.sentence,
            }
            for one in found
        ],
        "not_read": list(unread),
    }
