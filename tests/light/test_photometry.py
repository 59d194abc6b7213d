"""The trade's check values (common practice, no source; recomputed) on levels, distance and exposure."""

import numpy as np
import pytest

from even_beam.known.in_words import ratio_words
from even_beam.light.photometry import (
    DOME_CONSTANT,
    FLAT_CONSTANT,
    LUX_PER_FOOTCANDLE,
    METRES_PER_FOOT,
    at_distance,
    exact_f_number,
    illuminance_from_exposure,
    luminous_intensity,
    ratio_of_stops,
    stops,
)
from even_beam.light.uncertainty import white_tolerance


@pytest.mark.parametrize(
    ("ratio", "stop"),
    [
        (62 / 20, 1.63),
        (32 / 20, 0.68),
        (185 / 62, 1.58),
        (42_000 / 7600, 2.47),
        (32_000 / 7600, 2.07),
        (1309 / 3368, -1.36),
        (2086 / 3368, -0.69),
        (78 / 6.9, 3.50),
        (80 / 6.9, 3.54),
        ((14 / 12) ** 2, 0.44),
        (0.35, -1.51),
        (0.1, -3.32),
        (0.01, -6.64),
    ],
)
def test_stops(ratio, stop):
    """Check values 1-3, 6, 7, 14, 47, 50, 57."""
    assert float(stops(ratio)) == pytest.approx(stop, abs=0.01)
    assert float(ratio_of_stops(stops(ratio))) == pytest.approx(ratio)


def test_no_stops_without_light():
    assert np.isnan(stops(0.0))
    assert np.isnan(stops(-1.0))


def test_three_stops_down():
    assert float(ratio_of_stops(-3.0)) == 0.125  # check value 16


def test_words_only_where_the_number_supports_them():
    """Check values 2, 3 and 47: 1.6 is not double, 2.98 is about three times, 3.5 stops are not."""
    assert "double" not in ratio_words(1.6)
    assert ratio_words(185 / 62).endswith("(about three times)")
    assert ratio_words(2.04).endswith("(about double)")
    assert "three" not in ratio_words(78 / 6.9)
    assert ratio_words(1.6) == "1.60× · 160 % · +0.68 stop"


def test_footcandles_and_candela():
    """Check value 4: 62 fc are 667 lx, and 6200 cd at 10 ft."""
    assert 62 * LUX_PER_FOOTCANDLE == pytest.approx(667.4, abs=0.1)
    assert float(luminous_intensity(62 * LUX_PER_FOOTCANDLE, 10 * METRES_PER_FOOT)) == pytest.approx(6200, rel=1e-3)


def test_inverse_square():
    """Check values 8 and 12."""
    assert float(at_distance(800.0, 10.0, 5.0)) == 3200.0
    walk = [(300, 25), (450, 20), (800, 15), (1800, 10)]
    intensity = np.log2([level * feet**2 for level, feet in walk])
    assert np.abs(intensity - np.median(intensity)).max() < 0.07


@pytest.mark.parametrize(
    ("nominal", "tenths", "exact"), [(16, 8, 21.1), (22, 9, 30.9), (8, 7, 10.2), (22, 0, 22.63), (5.6, 0, 5.657)]
)
def test_tenths_of_a_stop(nominal, tenths, exact):
    """Check value 41."""
    assert float(exact_f_number(nominal, tenths)) == pytest.approx(exact, abs=0.05)


def test_exposure_difference():
    """Check value 40: f/22 and 9 tenths less f/16 and 8 tenths is 1.1 stop."""
    ratio = (exact_f_number(22, 9) / exact_f_number(16, 8)) ** 2
    assert float(stops(ratio)) == pytest.approx(1.1)
    assert float(ratio) == pytest.approx(2.14, abs=0.01)


@pytest.mark.parametrize(("constant", "lux"), [(FLAT_CONSTANT, 11_200), (DOME_CONSTANT, 15_200)])
def test_illuminance_of_an_exposure(constant, lux):
    """Check value 44: the same f-number is two levels, by the receptor's constant."""
    assert float(illuminance_from_exposure(exact_f_number(22, 9), 640, 1 / 30, constant)) == pytest.approx(
        lux, rel=0.01
    )


def test_what_a_meter_specification_means_at_5600_k():
    mired, duv = white_tolerance(5600.0, 0.003)
    assert float(mired) == pytest.approx(4.4, abs=0.2)
    assert float(duv) == pytest.approx(0.002, abs=0.0003)


def test_a_k_tolerance_is_not_symmetric_in_mired():
    """Check values 24 and 25."""
    for white, limit, low, high in (
        (5600, 200, 6.2, 6.6),
        (3200, 200, 18.4, 20.8),
        (5000, 300, 11.3, 12.8),
        (4000, 300, 17.4, 20.3),
        (2700, 300, 37, 46),
    ):
        assert 1e6 / white - 1e6 / (white + limit) == pytest.approx(low, abs=0.1)
        assert 1e6 / (white - limit) - 1e6 / white == pytest.approx(high, abs=0.4)
