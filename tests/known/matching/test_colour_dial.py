"""Hue and saturation for a white, on lamps that mix three primaries with a white: none of them is the product's own."""

from dataclasses import dataclass

import numpy as np
import pytest

from even_beam.bench.target import Target
from even_beam.known.matching.colour_dial import ColourPoint, colour_answer
from even_beam.light.colorimetry import cct_and_duv, uv_1960


@dataclass
class Mixer:
    """Primaries of a common display, each lamp a little off, mixed in light; saturation goes by a curve of its own."""

    primaries: np.ndarray
    white: np.ndarray
    curve: float

    @classmethod
    def of(cls, random):
        corners = np.array([[0.68, 0.31], [0.20, 0.70], [0.14, 0.06]]) + random.normal(0.0, 0.01, (3, 2))
        middle = np.array([0.33, 0.34]) + random.normal(0.0, 0.01, 2)
        levels = np.array([0.3, 0.6, 0.1]) * np.exp(random.normal(0.0, 0.2, 3))
        light = [_xyz(xy, level) for xy, level in zip(corners, levels, strict=True)]
        return cls(np.stack(light), _xyz(middle, 1.0), random.uniform(0.9, 1.3))

    def read(self, hue, saturation) -> ColourPoint:
        third, along = int(hue % 360.0 // 120.0), hue % 120.0 / 120.0
        shares = np.zeros(3)
        shares[third], shares[(third + 1) % 3] = 1.0 - along, along
        share = (saturation / 100.0) ** self.curve
        light = (1.0 - share) * self.white + share * (shares @ self.primaries)
        x, y = light[:2] / light.sum()
        return ColourPoint(hue % 360.0, saturation, float(x), float(y), float(np.log2(light[1])), ())


def _xyz(xy, level):
    return np.array([xy[0] / xy[1] * level, level, (1.0 - xy.sum()) / xy[1] * level])


def test_the_dial_lands_on_whites_after_two_further_readings():
    random = np.random.default_rng(4)
    landed, answered = 0, 0
    for _ in range(200):
        lamp = Mixer.of(random)
        read = [lamp.read(0.0, 0.0), *(lamp.read(hue, 30.0) for hue in range(0, 360, 60))]
        target = Target(float(random.uniform(3000.0, 8000.0)), float(random.uniform(-0.004, 0.01)))
        answer = None
        for _ in range(3):
            answer = colour_answer(read, target)
            if answer is None:
                break
            read.append(lamp.read(answer.hue_deg, answer.saturation_pct))
        if answer is None:
            continue  # beyond what the readings span: nothing is said
        answered += 1
        cct, duv = cct_and_duv(*uv_1960(read[-1].x, read[-1].y))
        off = abs(1e6 / float(cct) - 1e6 / target.cct_k), abs(float(duv) - target.duv)
        landed += off[0] < 1.0 and off[1] < 0.0005
        assert abs(answer.mired - 1e6 / target.cct_k) < 1.0, "what is expected is the target, but for the dial's steps"
    assert answered > 110
    assert landed / answered >= 0.95


def test_the_level_is_told_by_the_plane_of_levels():
    lamp = Mixer.of(np.random.default_rng(1))
    read = [lamp.read(0.0, 0.0), *(lamp.read(hue, 10.0) for hue in range(0, 360, 60))]
    answer = colour_answer(read, Target(5600.0, 0.002))
    got = lamp.read(answer.hue_deg, answer.saturation_pct).level_stops - answer.rests_on[0].level_stops
    assert answer.level_stops == pytest.approx(got, abs=0.03)
    without = [ColourPoint(p.hue_deg, p.saturation_pct, p.x, p.y, None, ()) for p in read]
    assert colour_answer(without, Target(5600.0, 0.002)).level_stops is None


def test_readings_on_a_line_or_far_away_say_nothing():
    lamp = Mixer.of(np.random.default_rng(2))
    line = [lamp.read(40.0, s) for s in (0.0, 20.0, 40.0, 60.0)]
    assert colour_answer(line, Target(4000.0)) is None
    assert colour_answer([], Target(4000.0)) is None
    blue = [lamp.read(h, s) for h in (230.0, 240.0, 250.0) for s in (70.0, 90.0)]
    assert colour_answer(blue, Target(3200.0)) is None
