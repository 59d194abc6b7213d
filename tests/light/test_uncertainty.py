"""What a meter leaves open: sensitivities against finite differences of the chain, sigma points against a Monte
Carlo."""

import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, daylight, evaluate, planckian
from even_beam.light.colorimetry import cct_and_duv, uv_1960, uv_at, xy_from_uv_1960
from even_beam.light.uncertainty import (
    SCORES,
    USUAL_XY,
    distortions,
    score_half_widths,
    white_sensitivity,
    white_tolerance,
)
from tests.reference.lamps import at_1_nm


@pytest.mark.parametrize("cct", [2700.0, 3200.0, 5600.0, 10_000.0])
@pytest.mark.parametrize("duv", [-0.01, 0.0, 0.01])
def test_sensitivities_are_the_derivatives_of_the_whole_chain(cct, duv):
    x, y = (float(v) for v in xy_from_uv_1960(*uv_at(cct, duv)))
    by = white_sensitivity(cct, duv)

    def seen(x: float, y: float) -> tuple[float, float]:
        kelvin, tint = cct_and_duv(*uv_1960(x, y))
        return 1e6 / float(kelvin), float(tint)

    h = 1e-4
    for step, mired, tint in (((h, 0.0), by.mired_by_x, by.duv_by_x), ((0.0, h), by.mired_by_y, by.duv_by_y)):
        up, down = seen(x + step[0], y + step[1]), seen(x - step[0], y - step[1])
        assert (up[0] - down[0]) / (2.0 * h) == pytest.approx(float(mired), rel=0.06, abs=5.0)
        assert (up[1] - down[1]) / (2.0 * h) == pytest.approx(float(tint), rel=0.02, abs=0.005)


def test_what_a_chromaticity_is_good_for():
    """A handheld meter of xy 0.003 tells 5600 K to about 4.4 mired (check value 26, calculated)."""
    mired, duv = white_tolerance(5600.0, USUAL_XY)
    assert float(mired) == pytest.approx(4.4, abs=0.2)
    assert float(duv) == pytest.approx(0.002, abs=0.0003)


LAMPS = {
    "tungsten": planckian(3200.0),
    "daylight": daylight(5600.0),
    "LED": at_1_nm("LED-B3"),
    "RGB LED": at_1_nm("LED-RGB1"),
    "tube": at_1_nm("FL2"),
}


@pytest.mark.parametrize("name", LAMPS)
def test_sigma_points_agree_with_a_monte_carlo(name):
    """JCGM 101:2008: two thousand spectra distorted by the same directions, each score's root mean square change."""
    spectrum = LAMPS[name]
    random = np.random.default_rng(7).standard_normal((2000, 4))
    figures, own = (
        evaluate(WAVELENGTH_NM, spectrum * (1.0 + random @ distortions(spectrum))),
        evaluate(WAVELENGTH_NM, spectrum),
    )
    changed = {
        "ra": figures.cri.Ra - own.cri.Ra, "rf": figures.tm30.Rf - own.tm30.Rf, "rg": figures.tm30.Rg - own.tm30.Rg,
        "ssi": figures.ssi.value - own.ssi.value, "tlci": figures.tlci.Qa - own.tlci.Qa,
        "r9": figures.cri.R[:, 8] - own.cri.R[8], "r13": figures.cri.R[:, 12] - own.cri.R[12],
    }  # fmt: skip
    found = dict(zip(SCORES, score_half_widths(WAVELENGTH_NM, spectrum), strict=True))
    for score, off in changed.items():
        truth = 1.96 * float(np.sqrt(np.nanmean(off**2)))
        assert found[score] == pytest.approx(truth, rel=0.2, abs=0.25), score


def test_the_distortions_move_x_and_y_as_the_meter_promises():
    spectrum = LAMPS["LED"]
    random = np.random.default_rng(8).standard_normal((2000, 4))
    figures = evaluate(WAVELENGTH_NM, spectrum * (1.0 + random @ distortions(spectrum, 0.003)))
    for axis in (figures.x, figures.y):
        assert 1.96 * float(np.std(axis)) == pytest.approx(0.003, rel=0.08)


def test_a_better_meter_leaves_less_open_and_a_batch_is_the_same_as_one():
    stacked = np.stack([LAMPS["LED"], LAMPS["tube"]])
    together = score_half_widths(WAVELENGTH_NM, stacked)
    np.testing.assert_allclose(together[1], score_half_widths(WAVELENGTH_NM, stacked[1]), rtol=1e-3, atol=1e-4)
    half = score_half_widths(WAVELENGTH_NM, stacked[0], USUAL_XY / 2.0)
    assert half[0] == pytest.approx(together[0, 0] / 2.0, rel=0.1)


def test_what_is_read_off_the_table_is_what_the_derivatives_give():
    cct = np.geomspace(1000.0, 40_000.0, 2001)
    by = white_sensitivity(cct)
    mired, duv = white_tolerance(cct, 0.003)
    assert mired == pytest.approx(0.003 * np.hypot(by.mired_by_x, by.mired_by_y), rel=1e-3)
    assert duv == pytest.approx(0.003 * np.hypot(by.duv_by_x, by.duv_by_y), rel=1e-3)
