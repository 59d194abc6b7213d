import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, daylight, evaluate, planckian
from even_beam.light.colorimetry import tristimulus, uv_1960, uv_at, xy
from even_beam.light.filters import cc_of_duv, duv_of_cc, gel_fraction_of_duv
from even_beam.light.references import reference_spectrum
from even_beam.light.white import (
    daylight_distance,
    daylight_white,
    named_whites,
    nearest_named_white,
    off_neutral,
    share_between_curves,
)


@pytest.mark.parametrize("cct", [4200.0, 5000.0, 5503.0, 6504.0, 10_000.0, 20_000.0])
def test_daylight_lies_on_its_own_curve_and_is_not_green(cct):
    u, v = uv_1960(*xy(tristimulus(daylight(cct))))
    distance, nominal = daylight_distance(u, v)
    # the components' tabulated spectra meet the stated chromaticity within a few units of the fifth decimal
    assert abs(float(distance)) < 1.2e-4
    assert float(nominal) == pytest.approx(cct, rel=2e-3)
    assert float(share_between_curves(u, v)) == pytest.approx(1.0, abs=0.05)


def test_black_bodies_lie_at_the_other_end():
    u, v = uv_at(np.array([4500.0, 5600.0, 8000.0]))
    assert np.abs(share_between_curves(u, v)).max() < 1e-6
    assert (daylight_distance(u, v)[0] < -0.0025).all()  # magenta of daylight


def test_half_way_is_half_way():
    planck = uv_at(5600.0)
    day = uv_1960(*xy(tristimulus(daylight(5600.0))))
    middle = [(a + b) / 2.0 for a, b in zip(planck, day, strict=True)]
    assert float(share_between_curves(*middle)) == pytest.approx(0.5, abs=0.03)


def test_there_is_no_daylight_below_4000_k():
    assert np.isnan(daylight_distance(*uv_at(3200.0))[0])
    assert np.isnan(share_between_curves(*uv_at(3200.0)))


def test_named_whites():
    names = [white.name for white in named_whites()]
    for spectrum, name in (
        (planckian(3200.0), "Planckian 3200 K"),
        (daylight(5503.0), "D55"),
        (daylight(6504.0), "D65"),
    ):
        index, distance = nearest_named_white(*xy(tristimulus(spectrum)))
        assert names[int(index)] == name
        assert float(distance) < 2e-4


def test_named_references():
    for name, cct in (("P3200", 3200.0), ("D55", 5500.0), ("D50", 5000.0)):
        figures = evaluate(WAVELENGTH_NM, reference_spectrum(name))
        assert float(figures.cct_k) == pytest.approx(cct, abs=5.0)
    assert reference_spectrum("moonlight") is None


@pytest.mark.parametrize(("white", "duv", "eighth"), [(3200.0, 0.00094, 0.0032), (5600.0, 0.0012, 0.0043)])
def test_cc_is_translated_at_the_white_in_question(white, duv, eighth):
    """NEEDS section 7 and check value 32 (common practice, calculated with ideal dyes): never by one constant."""
    assert float(duv_of_cc(1.0, white)) == pytest.approx(duv, rel=0.06)
    assert float(duv_of_cc(3.5, white)) == pytest.approx(eighth, rel=0.08)
    assert float(cc_of_duv(duv_of_cc(7.0, white), white)) == pytest.approx(7.0, abs=0.05)
    assert duv_of_cc(-3.5, white) < 0.0


def test_the_gel_that_corrects():
    assert gel_fraction_of_duv(0.0034, 3200.0) == "eighth minus green"
    assert gel_fraction_of_duv(-0.0135, 3200.0) == "half plus green"
    assert gel_fraction_of_duv(0.0005, 5600.0) == "none"


@pytest.mark.parametrize("kelvin", [4000.0, 4500.0, 5003.0, 5600.0, 6500.0, 9300.0])
def test_an_exact_planckian_and_an_exact_daylight_are_both_neutral(kelvin):
    """CIE 15: the daylight locus lies above the Planckian; between them a light is neither green nor magenta."""
    cct, duv = daylight_white(kelvin)
    assert off_neutral(kelvin, 0.0) == 0.0 and off_neutral(kelvin, duv / 2.0) == 0.0
    assert float(off_neutral(cct, duv)) == pytest.approx(0.0, abs=2e-5)
    assert float(off_neutral(kelvin, -0.002)) == pytest.approx(-0.002)
    assert float(off_neutral(cct, duv + 0.002)) == pytest.approx(0.002, abs=2e-5)
    assert float(off_neutral(3200.0, 0.002)) == 0.002, "below 4000 K there is no daylight"
