"""Beams that were read as LM-63 files: what was read, and what is assumed where nothing was."""

from collections.abc import Hashable, Sequence
from typing import NamedTuple

import numpy as np

from even_beam.bench import terms
from even_beam.bench.beam_angle import aside_of, levels_across, plane_of
from even_beam.bench.measured import Measured
from even_beam.bench.off_axis import UPRIGHT_DEG, plane_words
from even_beam.formats.lm63 import SIMULATED, UNACCREDITED, Photometry
from even_beam.handing_over.material import Material
from even_beam.known.choice import Entrant
from even_beam.known.evidence import Evidence
from even_beam.known.findings.beam import sections
from even_beam.known.findings.electrical import watts_of
from even_beam.light.spectra import FloatArray
from even_beam.words import notation

EDGE_DEG = 0.1
"""So far beyond the last angle that was read the light is set to nothing."""


def beams_of(material: Material, entrant: Entrant) -> list[tuple[str, Photometry]]:
    """A file for each beam of a lamp that was read through its axis at a stated distance, by what it is of in words;
    planes that were read make one file together where the format has words for what lies between them."""
    evidence = material.witness.evidence(entrant)
    found = []
    beams: dict[Hashable, list[Sequence[Measured]]] = {}
    for section in sections(evidence):
        angles = {m.terms.angle_deg for m in section}
        if 0.0 in angles and section[0].terms.distance_m and not evidence.meter_of(section[0]).for_ratios_only:
            beams.setdefault(terms.key(aside_of(section), "angle", "turn"), []).append(section)
    for planes in beams.values():
        grid = _grid_of(planes)
        if grid is not None:
            words = evidence.at(aside_of(planes[0]), "angle", "turn")
            found.append((words, _photometry(material, evidence, grid, [m for own in planes for m in own])))
            continue
        for one in planes:
            words = evidence.at(aside_of(one), "angle")
            found.append((words, _photometry(material, evidence, _one_plane(one), one)))
    return found


class _Grid(NamedTuple):
    """Sides of a beam by their horizontal angle: angles off the axis, rising, with candela; and what lies between."""

    horizontal_deg: tuple[float, ...]
    sides: list[tuple[FloatArray, FloatArray]]
    words: str


def _sides_of(section: Sequence[Measured]) -> list[tuple[FloatArray, FloatArray]]:
    """One side or both, from the axis outwards."""
    angle, level = levels_across(section)
    candela = level * (section[0].terms.distance_m or 0.0) ** 2
    sides = [(angle[angle >= 0.0], candela[angle >= 0.0])]
    if (angle < 0.0).sum() >= 2:
        sides.append((-angle[angle <= 0.0][::-1], candela[angle <= 0.0][::-1]))
    return sides


def _one_plane(section: Sequence[Measured]) -> _Grid:
    sides, plane = _sides_of(section), plane_words(plane_of(section)) or "in one plane"
    if len(sides) == 2:
        words = f"Read {plane} on both sides of the axis; planes between them follow from these two."
        return _Grid((0.0, 180.0), sides, words)
    return _Grid((0.0,), sides, f"Read {plane} on one side of the axis; the beam is taken to be round about it.")


def _grid_of(planes: Sequence[Sequence[Measured]]) -> _Grid | None:
    """Several planes, the level one among them: all round where both sides of each were read, a quarter where it ends
    upright. None where the format cannot say what lies between."""
    by_turn = {plane_of(section): _sides_of(section) for section in planes}
    turns = sorted(by_turn)
    if len(turns) < 2 or turns[0] != 0.0:
        return None
    read = " and ".join(f"{turn:g}" for turn in turns)
    if all(len(sides) == 2 for sides in by_turn.values()):
        around = [*turns, *(turn + 180.0 for turn in turns), 360.0]
        sides = [by_turn[turn % 180.0][int(turn % 360.0 >= 180.0)] for turn in around]
        return _Grid(tuple(around), sides, f"Read on both sides of the axis in the planes of {read} deg, not between.")
    if turns[-1] != UPRIGHT_DEG:
        return None
    words = f"Read on one side of the axis in the planes of {read} deg; the other three quarters are taken to be alike."
    return _Grid(tuple(turns), [by_turn[turn][0] for turn in turns], words)


def _photometry(material: Material, evidence: Evidence, grid: _Grid, section: Sequence[Measured]) -> Photometry:
    vertical, planes = _on_common_angles(grid.sides)
    watts = next((w for m in section if (w := watts_of(m))), 0.0)
    meter = evidence.meter_of(section[0])
    return Photometry(
        vertical_deg=vertical,
        horizontal_deg=np.array(grid.horizontal_deg),
        candela=np.array(planes),
        keywords=_keywords(material, evidence, section, float(vertical[-3]), grid.words, watts),
        watts=watts,
        generation_type=SIMULATED if meter.simulated else UNACCREDITED,
    )


def _on_common_angles(sides: Sequence[tuple[FloatArray, FloatArray]]) -> tuple[FloatArray, list[FloatArray]]:
    """All sides at the angles that any was read at, as far as all were; then nothing out to 90°."""
    reach = min(float(angles[-1]) for angles, _ in sides)
    read = np.unique(np.concatenate([angles for angles, _ in sides]))
    read = read[read <= reach]
    vertical = np.concatenate([read, [reach + EDGE_DEG, 90.0]])
    return vertical, [np.concatenate([np.interp(read, *side), [0.0, 0.0]]) for side in sides]


def _keywords(
    material: Material, evidence: Evidence, section: Sequence[Measured], reach: float, between: str, watts: float
) -> dict[str, list[str]]:
    first = section[0]
    meter, said = evidence.meter_of(first), evidence.at(aside_of(section), "angle", "turn")
    of_session = next(s.name for s in material.sessions if s.id == first.reading.session_id)
    return {
        "TEST": [f"{of_session}, {first.reading.at:%Y-%m-%d}"],
        "TESTLAB": [material.settings.publisher or "not stated"],
        "ISSUEDATE": [f"{max(m.reading.at for m in section):%Y-%m-%d}"],
        "MANUFAC": ["not stated"],
        "LUMINAIRE": [f"{evidence.name}, {evidence.kind}".rstrip(", ")],
        "OTHER": [
            f"At {said}, with {meter.nickname}{', simulated' if meter.simulated else ''}.",
            f"Candela are illuminance times the square of {notation.distance(first.terms.distance_m)}.",
            between,
            f"Beyond {notation.plain(reach)} deg nothing was read: it is set to zero.",
            "The luminous opening was not measured: zero stands for a point.",
            *(["Power was not measured: zero watts stand for that."] if not watts else []),
            "Absolute photometry: lumens a lamp are -1.",
        ],
    }
