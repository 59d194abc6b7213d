"""A beam that is not round: each plane through its axis by itself, with the readings on the axis in all of them."""

import numpy as np
import pytest

from even_beam.bench import terms
from even_beam.bench.beam_angle import BeamAngles, planes_of
from even_beam.bench.records import Terms
from even_beam.known.findings.beam import beam_sections
from even_beam.known.findings.beam_planes import shape_and_flux
from tests.known.findings.story import evidence, series

WIDE, HIGH = 12.0, 6.0
ANGLES = (0.0, 4.0, 8.0, 12.0, 16.0, 24.0)
"""In degrees; the widths are those at which a Gaussian has fallen to 1/e."""


def _beam(*turns: float):
    across = [
        Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0, angle_deg=angle, turn_deg=turn)
        for turn in turns
        for angle in ANGLES
        if angle or turn == turns[0]
    ]
    width = {0.0: WIDE, 90.0: HIGH}
    return series(across, "illuminance", [1000.0 * np.exp(-((t.angle_deg / width[t.turn_deg]) ** 2)) for t in across])


def test_each_plane_has_its_own_angle():
    """A Gaussian that falls to 1/e at w is 2 w sqrt(ln 2) wide at its half."""
    found = {f.sentence: f for f in beam_sections(evidence(*_beam(0.0, 90.0))) if f.name == "beam angle"}
    level, upright = sorted(found.values(), key=lambda f: -(f.value or 0.0))
    assert level.value == pytest.approx(2.0 * WIDE * np.sqrt(np.log(2.0)), abs=0.6)
    assert upright.value == pytest.approx(2.0 * HIGH * np.sqrt(np.log(2.0)), abs=0.6)
    assert "in the upright plane" in upright.sentence
    assert "plane" not in level.sentence
    assert (level.axis, upright.axis) == (("angle",), ("angle", "turn"))
    assert len(level.readings) == len(upright.readings) == len(ANGLES)


@pytest.mark.parametrize(("wide", "high"), [(WIDE, HIGH), (10.0, 10.0), (7.0, 16.0)])
def test_the_light_of_an_ellipse_is_held_to_an_integral_all_about(wide, high):
    """Brute force over azimuth and polar angle, within the line of half the peak."""
    marks = np.arange(0.0, 40.1, 1.0)
    across = [
        Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0, angle_deg=float(angle), turn_deg=turn)
        for turn in (0.0, 90.0)
        for angle in marks
        if angle or turn == 0.0
    ]
    widths = {0.0: wide, 90.0: high}
    levels = [1000.0 * np.exp(-((t.angle_deg / widths[t.turn_deg]) ** 2)) for t in across]
    found = {f.name: f for f in shape_and_flux(evidence(*series(across, "illuminance", levels)))}
    around = np.linspace(0.0, 2.0 * np.pi, 1441)[:-1]
    width = 1.0 / np.hypot(np.cos(around) / wide, np.sin(around) / high)
    polar = np.linspace(0.0, 1.0, 801)[None, :] * width[:, None] * np.sqrt(np.log(2.0))
    candela = 4000.0 * np.exp(-((polar / width[:, None]) ** 2))
    rings = np.trapezoid(candela * np.sin(np.deg2rad(polar)), np.deg2rad(polar), axis=1)
    true = 2.0 * np.pi * float(rings.mean())
    assert found["lumens in the beam"].value == pytest.approx(true, rel=0.02)
    assert f"{2 * wide * np.sqrt(np.log(2.0)):.0f}° wide" in found["width by height of the beam"].sentence


def test_no_light_is_told_of_one_plane_of_a_beam_that_was_read_in_two():
    names = [f.name for f in beam_sections(evidence(*_beam(0.0, 90.0)))]
    assert "lumens in the beam" not in names
    assert "lumens in the beam" in [f.name for f in beam_sections(evidence(*_beam(0.0)))]


def test_the_axis_stands_in_every_plane_and_aside_is_not_mixed():
    read = _beam(0.0, 90.0)
    assert terms.key(series([Terms(turn_deg=90.0)], "cct", [5600.0])[0]) == terms.key(
        series([Terms()], "cct", [5600.0])[0]
    )
    for section in planes_of(read):
        assert {m.terms.turn_deg for m in section if m.terms.angle_deg} in ({0.0}, {90.0})
        assert sum(m.terms.angle_deg == 0.0 for m in section) == 1


def test_a_plane_more_changes_nothing_of_the_level_one():
    alone = {f.sentence for f in beam_sections(evidence(*_beam(0.0))) if f.unit != "lm"}  # which took it to be round
    assert alone <= {f.sentence for f in beam_sections(evidence(*_beam(0.0, 90.0)))}
    assert BeamAngles(_beam(0.0, 90.0)).of(_beam(0.0)[0]) == BeamAngles(_beam(0.0)).of(_beam(0.0)[0])
