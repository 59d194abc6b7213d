"""Beams that were read as LM-63 files: what was read, and what is assumed where nothing was."""

from collections.abc import Sequence

import numpy as np

from even_beam.bench import notation
from even_beam.bench.beam_angle import levels_across
from even_beam.bench.choice import Entrant
from even_beam.bench.findings.beam import sections
from even_beam.bench.findings.electrical import watts_of
from even_beam.bench.findings.finding import Evidence
from even_beam.bench.measured import Measured
from even_beam.formats.lm63 import SIMULATED, UNACCREDITED, Photometry
from even_beam.light.spectra import FloatArray
from even_beam.workspace.report.material import Material

EDGE_DEG = 0.1
"""So far beyond the last angle that was read the light is set to nothing."""


def beams_of(material: Material, entrant: Entrant) -> list[tuple[str, Photometry]]:
    """A file for each section of a lamp through its axis, at a stated distance, by what it is of in words."""
    evidence = material.witness.evidence(entrant)
    found = []
    for section in sections(evidence):
        angles = {m.terms.angle_deg for m in section}
        if 0.0 in angles and section[0].terms.distance_m and not evidence.meter_of(section[0]).for_ratios_only:
            found.append((evidence.at(section[0], "angle"), _photometry(material, evidence, section)))
    return found


def _photometry(material: Material, evidence: Evidence, section: Sequence[Measured]) -> Photometry:
    distance = section[0].terms.distance_m or 0.0
    angle, level = levels_across(section)
    candela = level * distance**2
    sides = [(angle[angle >= 0.0], candela[angle >= 0.0])]
    if (angle < 0.0).sum() >= 2:
        sides.append((-angle[angle <= 0.0][::-1], candela[angle <= 0.0][::-1]))
    vertical, planes = _on_common_angles(sides)
    watts = next((w for m in section if (w := watts_of(m))), 0.0)
    meter = evidence.meter_of(section[0])
    return Photometry(
        vertical_deg=vertical,
        horizontal_deg=np.array([0.0, 180.0][: len(planes)]),
        candela=np.array(planes),
        keywords=_keywords(material, evidence, section, float(vertical[-3]), len(planes), watts),
        watts=watts,
        generation_type=SIMULATED if meter.simulated else UNACCREDITED,
    )


def _on_common_angles(sides: Sequence[tuple[FloatArray, FloatArray]]) -> tuple[FloatArray, list[FloatArray]]:
    """Both sides at the angles that either was read at, as far as both were; then nothing out to 90°."""
    reach = min(float(angles[-1]) for angles, _ in sides)
    read = np.unique(np.concatenate([angles for angles, _ in sides]))
    read = read[read <= reach]
    vertical = np.concatenate([read, [reach + EDGE_DEG, 90.0]])
    return vertical, [np.concatenate([np.interp(read, *side), [0.0, 0.0]]) for side in sides]


def _keywords(
    material: Material, evidence: Evidence, section: Sequence[Measured], reach: float, planes: int, watts: float
) -> dict[str, list[str]]:
    first = section[0]
    meter = evidence.meter_of(first)
    of_session = next(s.name for s in material.sessions if s.id == first.reading.session_id)
    round_ = (
        "Read in one plane on both sides of the axis; planes between them follow from these two."
        if planes == 2
        else "Read on one side of the axis; the beam is taken to be round about it."
    )
    return {
        "TEST": [f"{of_session}, {first.reading.at:%Y-%m-%d}"],
        "TESTLAB": [material.settings.publisher or "not stated"],
        "ISSUEDATE": [f"{max(m.reading.at for m in section):%Y-%m-%d}"],
        "MANUFAC": ["not stated"],
        "LUMINAIRE": [f"{evidence.name}, {evidence.kind}".rstrip(", ")],
        "OTHER": [
            f"At {evidence.at(first, 'angle')}, with {meter.nickname}{', simulated' if meter.simulated else ''}.",
            f"Candela are illuminance times the square of {notation.distance(first.terms.distance_m)}.",
            round_,
            f"Beyond {notation.plain(reach)} deg nothing was read: it is set to zero.",
            "The luminous opening was not measured: zero stands for a point.",
            *(["Power was not measured: zero watts stand for that."] if not watts else []),
            "Absolute photometry: lumens a lamp are -1.",
        ],
    }
