"""Each claim beside its measurement: whether the terms are those of the claim, and whether it holds."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from even_beam.bench import notation
from even_beam.bench.entry import EntryError, parse
from even_beam.bench.findings.electrical import POWER_TOLERANCE, watts_of
from even_beam.bench.findings.finding import Evidence, full_level, grouped, ids, level_mean, value_of
from even_beam.bench.findings.output import distance_law
from even_beam.bench.measured import Measured
from even_beam.bench.quantities import QUANTITIES
from even_beam.bench.records import Claim


class Even(StrEnum):
    """Whether the terms of a measurement are those of the claim."""

    EQUAL = "terms equal"
    BROUGHT = "terms equal, brought by the distance law"
    NOT_EQUAL = "terms not equal"
    NOT_MEASURED = "not measurable from these readings"


class Holds(StrEnum):
    """The verdict on a claim."""

    YES = "holds"
    NO = "does not hold"
    CANNOT_TELL = "cannot tell"


@dataclass(frozen=True, slots=True)
class ClaimVerdict:
    """A claim with what was measured (`value` with its 95 % half width), and what follows."""

    claim: Claim
    value: float | None
    uncertainty: float | None
    even: Even
    holds: Holds
    sentence: str
    readings: tuple[str, ...] = ()


SCORE_TOLERANCE = 1.0
"""What a handheld spectrometer leaves open in a score (an estimate from its chromaticity tolerance)."""


def claims(evidence: Evidence) -> tuple[ClaimVerdict, ...]:
    """Every claim of the model, judged."""
    judges = {
        "illuminance": _level,
        "cct": _white_range,
        "ra": _score,
        "rf": _score,
        "ssi": _score,
        "tlci": _score,
        "power_w": _power,
    }
    return tuple(judges.get(claim.quantity, _unknown)(evidence, claim) for claim in evidence.claims)


def _level(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """A level at a distance: read there, or brought there where a walk bears the law out."""
    distance = claimed_distance(claim.condition)
    usable = [m for m in full_level(evidence.lit) if m.terms.distance_m and not evidence.meter_of(m).for_ratios_only]
    if not usable or distance is None:
        return _nothing(claim)
    there = [m for m in usable if abs((m.terms.distance_m or 0.0) - distance) < 0.02]
    if there:
        best = max(
            grouped(there, lambda m: (m.terms, m.reading.meter_id)).values(),
            key=lambda ms: level_mean(evidence, ms).value,
        )
        mean = level_mean(evidence, best)
        return _judged(claim, mean.value, mean.absolute * mean.value, Even.EQUAL, ids(best))
    walks = [f for f in distance_law(evidence) if f.name == "candela" and f.series]
    if walks:
        walk = max(walks, key=lambda f: f.value or 0.0)
        level = (walk.value or 0.0) / distance**2
        nearest = min(float(d) for d in walk.series["distance_m"] if d is not None)
        even = Even.BROUGHT if distance >= nearest else Even.NOT_EQUAL  # never inward of the walk
        return _judged(claim, level, (walk.uncertainty or 0.0) / distance**2, even, walk.readings)
    nearest_one = min(usable, key=lambda m: abs((m.terms.distance_m or 0.0) - distance))
    mean = level_mean(evidence, [nearest_one])
    level = mean.value * ((nearest_one.terms.distance_m or 1.0) / distance) ** 2
    return _judged(claim, level, mean.absolute * level, Even.NOT_EQUAL, (nearest_one.reading.id,))


def claimed_distance(condition: str) -> float | None:
    """The distance in a claim's condition: `at 1 m, full level` is 1.0."""
    found = re.search(r"(\d+(?:[.,]\d+)?\s*(?:m|ft|cm))\b", condition)
    if found is None:
        return None
    try:
        return parse(found[1], "distance").value
    except EntryError:
        return None


def _white_range(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """A range of whites holds when both its ends were dialled and read within 5 %; a single white likewise."""
    single = claim.low == claim.high  # a lamp of one white is read as it is, without any gel
    usable = [m for m in full_level(evidence.readings) if m.value("cct")]
    dialled = [m for m in usable if m.terms.cct_k is not None or (single and not m.terms.configuration)]
    ends = [k for k in dict.fromkeys((claim.low, claim.high)) if k is not None]
    at_ends = {k: [m for m in dialled if m.terms.cct_k in (k, None)] for k in ends}
    missing = [k for k, ms in at_ends.items() if not ms]
    if missing or not ends:
        return ClaimVerdict(
            claim,
            None,
            None,
            Even.NOT_MEASURED,
            Holds.CANNOT_TELL,
            f"{claim.text} K: {', '.join(notation.dialled(k) for k in missing)} K was not read.",
        )
    errors = {k: float(np.mean([1e6 / value_of(m, "cct") for m in ms])) - 1e6 / k for k, ms in at_ends.items()}
    worst = max(errors, key=lambda k: abs(errors[k]))
    measured = 1e6 / (errors[worst] + 1e6 / worst)
    readings = ids([m for ms in at_ends.values() for m in ms])
    off = abs(measured / worst - 1.0)
    holds = Holds.YES if off <= 0.05 else Holds.NO
    sentence = f"White {claim.text} K claimed; at {notation.dialled(worst)} K it reads {notation.kelvin(measured)} K ({notation.number(errors[worst], 1, signed=True)} mired): {holds}."
    return ClaimVerdict(claim, measured, None, Even.EQUAL, holds, sentence, readings)


def _score(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    own = _barest([m for m in full_level(evidence.readings) if m.value(claim.quantity) is not None])
    if not own:
        return _nothing(claim)
    lowest = min(own, key=lambda m: value_of(m, claim.quantity))
    return _judged(claim, value_of(lowest, claim.quantity), SCORE_TOLERANCE, Even.EQUAL, ids(own))


def _barest(readings: Sequence[Measured]) -> list[Measured]:
    """The readings with the least on the lamp: a claim is not made of its gels."""
    least = min((len(m.terms.configuration) for m in readings), default=0)
    return [m for m in readings if len(m.terms.configuration) == least]


def _power(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """The most that was drawn must not pass what is claimed."""
    drawn = [m for m in evidence.readings if watts_of(m) is not None]
    if not drawn or claim.high is None:
        return _nothing(claim)
    most = max(drawn, key=lambda m: watts_of(m) or 0.0)
    value = watts_of(most) or 0.0
    tolerance = POWER_TOLERANCE * value
    over = value - claim.high
    holds = Holds.YES if over + tolerance <= 0.0 else Holds.NO if over > tolerance else Holds.CANNOT_TELL
    return ClaimVerdict(
        claim,
        value,
        tolerance,
        Even.EQUAL,
        holds,
        f"{claim.text} W claimed, {value:.0f} ±{tolerance:.0f} W drawn at most: {holds}.",
        (most.reading.id,),
    )


def _unknown(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    return _nothing(claim)


def _nothing(claim: Claim) -> ClaimVerdict:
    label = QUANTITIES[claim.quantity].label if claim.quantity in QUANTITIES else claim.quantity
    return ClaimVerdict(
        claim,
        None,
        None,
        Even.NOT_MEASURED,
        Holds.CANNOT_TELL,
        f"{notation.sentence(label)} {claim.text} {claim.unit}: {Even.NOT_MEASURED}.",
    )


def _judged(claim: Claim, value: float, uncertainty: float, even: Even, readings: Sequence[str]) -> ClaimVerdict:
    """A claim of at least so much: it holds beyond the uncertainty, fails beyond it, and between the meter cannot tell."""
    least = claim.low if claim.low is not None else claim.high or 0.0
    if even is Even.NOT_EQUAL:
        holds = Holds.CANNOT_TELL
    else:
        holds = (
            Holds.YES
            if value - uncertainty >= least
            else Holds.NO
            if value + uncertainty < least
            else Holds.CANNOT_TELL
        )
    unit = f" {claim.unit}" if claim.unit else ""
    shown = notation.lux(value) if claim.quantity == "illuminance" else notation.number(value, 1)
    half = notation.lux(uncertainty) if claim.quantity == "illuminance" else notation.number(uncertainty, 1)
    at = f" {claim.condition}" if claim.condition else ""
    label = QUANTITIES[claim.quantity].label
    sentence = f"{notation.sentence(label)} {claim.text}{'' if unit.strip() and unit.strip() in claim.text else unit} claimed{at}; {shown} ±{half}{unit} measured, {even}: {holds}."
    return ClaimVerdict(claim, value, uncertainty, even, holds, sentence, tuple(readings))
