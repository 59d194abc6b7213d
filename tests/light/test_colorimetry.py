import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, evaluate
from even_beam.light.colorimetry import (
    cct_and_duv,
    illuminance,
    mired_error,
    tristimulus,
    uv_1960,
    uv_at,
    xy,
    xy_from_uv_1960,
)
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.tables import table


def test_round_trip_over_the_whole_range():
    cct = np.geomspace(1000.0, 50_000.0, 300)[:, None]
    duv = np.linspace(-0.03, 0.03, 61)
    back_cct, back_duv = cct_and_duv(*uv_at(cct, duv))
    assert np.abs(back_cct / cct - 1.0).max() < 1e-4
    assert np.abs(back_duv - duv).max() < 1e-5


def black_body(cct: float) -> tuple[float, float]:
    """CIE 1931 x, y of Planck's law over all of the standard observer, 360-830 nm (ISO/CIE 11664-1; c2 of CIE 15)."""
    wavelength, observer = table("cie-1931-2-degree-observer")
    radiance = wavelength**-5.0 / np.expm1(1.4388e7 / (wavelength * cct))
    return xy(radiance @ observer)


@pytest.mark.parametrize("cct", [1000.0, 1800.0, 2700.0, 3200.0, 5600.0, 6500.0, 8000.0, 15_000.0, 25_000.0, 50_000.0])
def test_a_black_body_has_its_own_temperature(cct):
    found, duv = cct_and_duv(*uv_1960(*black_body(cct)))
    assert float(found) == pytest.approx(cct, rel=1e-5)
    assert float(duv) == pytest.approx(0.0, abs=1e-7)


def test_what_an_instrument_does_not_see_is_small_for_film_lights():
    """Summed over 380-780 nm alone a black body reads 1 K low at 5600 K and 28 K at 15 000 K (docs/methods.md)."""
    assert float(evaluate(WAVELENGTH_NM, planckian(3200.0)).cct_k) == pytest.approx(3200.0, abs=0.1)
    assert float(evaluate(WAVELENGTH_NM, planckian(5600.0)).cct_k) == pytest.approx(5599.05, abs=0.1)
    assert float(evaluate(WAVELENGTH_NM, planckian(15_000.0)).cct_k) == pytest.approx(14_972.0, abs=3.0)


def test_outside_the_range_there_is_no_temperature():
    assert np.isnan(evaluate(WAVELENGTH_NM, planckian(900.0)).cct_k)


@pytest.mark.parametrize(("cct", "duv"), [(5600.0, 0.0033), (10_000.0, 0.0030)])
def test_daylight_lies_on_the_green_side(cct, duv):
    # NEEDS check value 31, recomputed: CIE D series against the Planckian locus
    assert float(evaluate(WAVELENGTH_NM, daylight(cct)).duv) == pytest.approx(duv, abs=1e-4)


def test_sign_of_duv():
    """Check value 34: green above, magenta below the locus."""
    bump = np.exp(-(((WAVELENGTH_NM - 545.0) / 40.0) ** 2))
    assert evaluate(WAVELENGTH_NM, planckian(4000.0) * (1 + 0.1 * bump)).duv > 0.0
    assert evaluate(WAVELENGTH_NM, planckian(4000.0) * (1 - 0.1 * bump)).duv < 0.0


def test_coloured_light_has_no_temperature_and_no_scores():
    green = np.exp(-(((WAVELENGTH_NM - 525.0) / 15.0) ** 2))
    figures = evaluate(WAVELENGTH_NM, green)
    assert np.isnan(figures.cct_k)
    assert np.isnan(figures.cri.Ra)
    assert np.isnan(figures.tm30.Rf)
    assert np.isnan(figures.ssi.value)
    assert np.isnan(figures.tlci.Qa)
    assert float(figures.peak_nm) == 525.0


def test_illuminance_of_555_nm():
    # one watt per square metre at 555 nm is 683 lm/m2 by the definition of the lumen
    line = np.where(WAVELENGTH_NM == 555.0, 1.0, 0.0)
    assert float(illuminance(line)) == pytest.approx(683.0, abs=0.1)


def test_coordinates_go_back_and_forth():
    x, y = xy(tristimulus(daylight(6500.0)))
    back = xy_from_uv_1960(*uv_1960(x, y))
    assert back.first == pytest.approx(x)
    assert back.second == pytest.approx(y)


@pytest.mark.parametrize(
    ("asked", "read", "mired"),
    [
        (5600, 4265, 55.9),
        (5000, 4763, 10.0),
        (3200, 2970, 24.2),
        (5600, 6317, -20.3),
        (8000, 10472, -29.5),
        (10000, 14760, -32.2),
        (1800, 1839, -11.8),
        (20000, 19602, 1.0),
        (2800, 2752, 6.2),
        (3200, 3223, -2.2),
        (4400, 4325, 3.9),
        (5600, 5451, 4.9),
        (6500, 6636, -3.2),
    ],
)
def test_mired_errors(asked, read, mired):
    """Check values 18-23 (common practice, no source): positive is warmer than asked."""
    assert float(mired_error(read, asked)) == pytest.approx(mired, abs=0.06)


def test_difference_of_two_whites():
    assert float(mired_error(3200, 5500)) == pytest.approx(130.7, abs=0.05)  # check value 17
