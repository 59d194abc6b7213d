"""A beam that was read in several planes through its axis: how wide and how high it is, and its light in all."""

from collections.abc import Hashable, Sequence

import numpy as np

from even_beam.bench import notation
from even_beam.bench.beam_angle import aside_of, half_peak_angle, levels_across
from even_beam.bench.findings.beam import beam_of, lumens_within, sections
from even_beam.bench.findings.finding import Evidence, Finding, ids, relative
from even_beam.bench.measured import Measured
from even_beam.bench.off_axis import UPRIGHT_DEG

BETWEEN_PLANES = 0.05
"""What two planes leave open of a beam's lumens (common practice, no source)."""


def beams_in_planes(evidence: Evidence) -> list[list[list[Measured]]]:
    """The planes of each beam that was read in more than one, each of four angles or more."""
    beams: dict[Hashable, list[list[Measured]]] = {}
    for section in sections(evidence):
        beams.setdefault(beam_of(section), []).append(section)
    return [planes for planes in beams.values() if len(planes) > 1]


def shape_and_flux(evidence: Evidence) -> tuple[Finding, ...]:
    """Width and height at half the peak, and lumens within, of beams that were read level and upright."""
    found: list[Finding] = []
    for planes in beams_in_planes(evidence):
        by_turn = {aside_of(section).terms.turn_deg: section for section in planes}
        if set(by_turn) == {0.0, UPRIGHT_DEG}:
            found += _shape(evidence, by_turn[0.0], by_turn[UPRIGHT_DEG])
    return tuple(found)


def _shape(evidence: Evidence, level: Sequence[Measured], upright: Sequence[Measured]) -> list[Finding]:
    wide, high = half_peak_angle(level), half_peak_angle(upright)
    if wide is None or high is None:
        return []
    both, said = list(dict.fromkeys((*level, *upright))), evidence.at(aside_of(level), "angle", "turn")
    found = [
        Finding(
            question="output",
            name="width by height of the beam",
            value=wide / high,
            unit="",
            sentence=f"The beam is {wide:.0f}° wide and {high:.0f}° high at half its peak, at {said}.",
            terms=said,
            readings=ids(both),
            axis=("angle", "turn"),
            not_covered=("the planes between level and upright",),
            weight=44,
        )
    ]
    distance = level[0].terms.distance_m
    if distance and not evidence.meter_of(level[0]).for_ratios_only:
        lumens = _flux(level, wide, distance) ** 0.5 * _flux(upright, high, distance) ** 0.5
        one = evidence.level_of([m for m in both if m.terms.angle_deg == level[0].terms.angle_deg])
        found.append(
            Finding(
                question="output",
                name="lumens in the beam",
                value=lumens,
                unit="lm",
                sentence=f"{notation.significant(lumens)} lm within {wide:.0f}° by {high:.0f}°, at {said}.",
                terms=said,
                readings=ids(both),
                axis=("angle", "turn"),
                uncertainty=lumens * float(np.hypot(relative(one.half_width), BETWEEN_PLANES)),
                not_covered=("a beam whose lines of equal light are no ellipses",),
            )
        )
    return found


def _flux(section: Sequence[Measured], full_deg: float, distance_m: float) -> float:
    """As if the beam were round and like this plane all about. Of an ellipse with these two axes the light is the
    geometric mean of both: each goes with the square of its axis, the ellipse with their product."""
    angle, level = levels_across(section)
    return lumens_within(angle, level * distance_m**2, full_deg)
