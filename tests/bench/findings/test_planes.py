"""A beam that is not round: each plane through its axis by itself, with the readings on the axis in all of them."""

import numpy as np
import pytest

from even_beam.bench import terms
from even_beam.bench.beam_angle import BeamAngles, planes_of
from even_beam.bench.findings.beam import beam_sections
from even_beam.bench.records import Terms
from tests.bench.findings.story import evidence, series

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


def test_the_axis_stands_in_every_plane_and_aside_is_not_mixed():
    read = _beam(0.0, 90.0)
    assert terms.key(series([Terms(turn_deg=90.0)], "cct", [5600.0])[0]) == terms.key(
        series([Terms()], "cct", [5600.0])[0]
    )
    for section in planes_of(read):
        assert {m.terms.turn_deg for m in section if m.terms.angle_deg} in ({0.0}, {90.0})
        assert sum(m.terms.angle_deg == 0.0 for m in section) == 1


def test_a_plane_more_changes_nothing_of_the_level_one():
    alone = {f.sentence for f in beam_sections(evidence(*_beam(0.0)))}
    assert alone <= {f.sentence for f in beam_sections(evidence(*_beam(0.0, 90.0)))}
    assert BeamAngles(_beam(0.0, 90.0)).of(_beam(0.0)[0]) == BeamAngles(_beam(0.0)).of(_beam(0.0)[0])
