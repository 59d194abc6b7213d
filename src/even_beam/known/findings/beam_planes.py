"""A beam that was read in several planes through its axis: how wide and how high it is, and its light in all."""

from collections.abc import Hashable, Sequence

from even_beam.bench.beam_angle import aside_of, half_peak_angle, plane_of
from even_beam.bench.measured import Measured
from even_beam.bench.off_axis import UPRIGHT_DEG
from even_beam.known.evidence import Evidence, ids
from even_beam.known.findings.beam import beam_of, lumens_of, sections
from even_beam.known.findings.finding import Finding

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
        by_turn = {plane_of(section): section for section in planes}
        if set(by_turn) == {0.0, UPRIGHT_DEG}:
            found += _shape(evidence, by_turn[0.0], by_turn[UPRIGHT_DEG])
    return tuple(found)


def _shape(evidence: Evidence, level: Sequence[Measured], upright: Sequence[Measured]) -> list[Finding]:
    wide, high = half_peak_angle(level), half_peak_angle(upright)
    if wide is None or high is None:
        return []
    said = evidence.at(aside_of(level), "angle", "turn")
    return [
        Finding(
            question="output",
            name="width by height of the beam",
            value=wide / high,
            unit="",
            words=f"The beam is {wide:.0f}° wide and {high:.0f}° high at half its peak",
            terms=said,
            readings=ids(list(dict.fromkeys((*level, *upright)))),
            axis=("angle", "turn"),
            not_covered=("the planes between level and upright",),
            weight=44,
        ),
        *lumens_of(evidence, [level, upright], [wide, high], said=said, shape=BETWEEN_PLANES),
    ]
