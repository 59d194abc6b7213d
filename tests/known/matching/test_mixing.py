"""Mixing against adding spectra by hand, and levels for a white against every level tried in turn."""

import numpy as np
import pytest

from even_beam.bench.target import Target
from even_beam.known.matching.mixing import Part, levels_for, mixture
from even_beam.light import daylight, planckian
from even_beam.light.colorimetry import cct_and_duv, illuminance, tristimulus, uv_1960, uv_at, xy
from even_beam.light.filters import tinted

WARM = Part("Tansy", "3200 K", planckian(3200.0), 800.0)
COLD = Part("Sorrel", "6500 K", daylight(6500.0), 500.0)
GREEN = Part("Comfrey", "5600 K", tinted(5600.0, 0.02), 300.0)


def scaled(part: Part) -> np.ndarray:
    return part.light / illuminance(part.light) * part.lux


def test_it_is_the_sum_of_the_spectra():
    found = mixture([WARM, COLD, GREEN], [1.0, 0.5, 0.25])
    total = scaled(WARM) + 0.5 * scaled(COLD) + 0.25 * scaled(GREEN)
    cct, duv = cct_and_duv(*uv_1960(*xy(tristimulus(total))))
    assert (found.cct_k, found.duv) == pytest.approx((float(cct), float(duv)))
    assert found.lux == pytest.approx(float(illuminance(total)))
    assert found.lux == pytest.approx(800.0 + 250.0 + 75.0)
    assert found.shares.sum() == pytest.approx(1.0)
    assert found.shares[0] == pytest.approx(800.0 / 1125.0)


def test_what_a_balance_leaves_where_one_alone_reaches():
    found = mixture([WARM, COLD])
    assert found.off[0, 0] > 0.0 > found.off[1, 0]
    text = " ".join(found.sentences)
    assert "Where Tansy alone reaches" in text
    assert "warmer" in text
    assert "cooler" in text


def test_one_lamp_is_itself():
    found = mixture([WARM])
    assert found.cct_k == pytest.approx(3200.0, abs=0.1)
    assert found.sentences == ["Together 800 lx, 3\u202f200 K, Duv 0.0000: 100 % Tansy."]


@pytest.mark.parametrize("cct", [3400.0, 4300.0, 5600.0])
def test_no_other_levels_of_two_come_nearer(cct):
    """Against a thousand shares of the two, by the distance in CIE 1960 u, v."""
    target = Target(cct)
    found = levels_for([WARM, COLD], target)
    u, v = uv_at(cct, 0.0)

    def far(share: float) -> float:
        light = share * scaled(WARM) / WARM.lux + (1.0 - share) * scaled(COLD) / COLD.lux
        return float(np.hypot(*(np.array(uv_1960(*xy(tristimulus(light)))) - (float(u), float(v)))))

    best = min(map(far, np.linspace(0.0, 1.0, 1001)))
    assert far(float(found.mixture.shares[0])) <= best + 2e-5
    assert found.mixture.factors.max() == pytest.approx(1.0), "as bright as they go"


def test_three_reach_white_and_level():
    found = levels_for([WARM, COLD, GREEN], Target(4300.0, 0.002), 300.0)
    assert found.reaches
    assert abs(found.off[0]) < 0.2
    assert abs(found.off[1]) < 1e-4
    assert found.mixture.lux == pytest.approx(300.0, rel=1e-6)


def test_white_comes_before_level_and_that_is_said():
    found = levels_for([WARM, COLD, GREEN], Target(4300.0, 0.002), 5000.0)
    assert found.mixture.lux < 1600.0
    assert not found.reaches
    assert "5\u202f000 lx is not had with this white" in found.sentence
    assert (found.mixture.factors <= 1.0 + 1e-12).all()


def test_nothing_to_mix():
    with pytest.raises(ValueError, match="nothing to mix"):
        mixture([])
    with pytest.raises(ValueError, match="nothing to mix"):
        levels_for([], Target(3200.0))
