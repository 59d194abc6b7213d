"""Figures against colour-science over all CIE illuminants it carries (more than forty lamps)."""

import json

import colour
import numpy as np
import pytest
from click.testing import CliRunner
from colour.quality import colour_fidelity_index_ANSIIESTM3018, spectral_similarity_index
from scipy.optimize import minimize_scalar

from even_beam.cli import main
from even_beam.light import WAVELENGTH_NM, evaluate
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.ssi import similarity
from tests.reference.lamps import NAMES, at_1_nm, distribution, illuminants

# At 5000.07 K this lamp lies on the edge where the reference changes from Planckian to daylight; the library takes
# its temperature from Robertson's isotherms as 4999.5 K, and so another reference.
AT_REFERENCE_CHANGE = {"FL3.10"}
# A sample lies within a few hundredths of a degree of a hue bin's edge and changes bin with a tenth of a kelvin.
AT_BIN_EDGE = {"FL7"}


def nearest_planckian(u: float, v: float, near: float) -> tuple[float, float]:
    """The nearest point of the library's own Planckian locus, by Brent's method of SciPy on its full spectra."""
    cmfs = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]

    def distance(mired: float) -> float:
        black_body = colour.colorimetry.planck_law(cmfs.wavelengths * 1e-9, 1e6 / mired)
        xyz = black_body @ cmfs.values
        there = colour.UCS_to_uv(colour.XYZ_to_UCS(xyz / xyz[1]))
        return float(np.hypot(there[0] - u, there[1] - v))

    found = minimize_scalar(
        distance, bounds=(1e6 / near - 10, 1e6 / near + 10), method="bounded", options={"xatol": 1e-7}
    )
    return 1e6 / found.x, found.fun


@pytest.mark.parametrize("name", NAMES)
def test_white(name):
    figures = evaluate(WAVELENGTH_NM, at_1_nm(name))
    xyz = colour.sd_to_XYZ(distribution(name), method="Integration")
    x, y = colour.XYZ_to_xy(xyz)
    assert float(figures.x) == pytest.approx(x, abs=1e-4)  # the library goes on to 360 and 830 nm
    assert float(figures.y) == pytest.approx(y, abs=1e-4)
    u, v = colour.UCS_to_uv(colour.XYZ_to_UCS(colour.xy_to_XYZ([float(figures.x), float(figures.y)])))
    cct, distance = nearest_planckian(u, v, float(figures.cct_k))
    assert float(figures.cct_k) == pytest.approx(cct, abs=0.3)
    assert abs(float(figures.duv)) == pytest.approx(distance, abs=1e-5)


@pytest.mark.parametrize("name", [n for n in NAMES if n not in AT_REFERENCE_CHANGE])
def test_rendering(name):
    ours = evaluate(WAVELENGTH_NM, at_1_nm(name)).cri
    theirs = colour.colour_rendering_index(distribution(name), additional_data=True)
    samples = np.array([theirs.Q_as[i + 1].Q_a for i in range(14)])
    off = np.abs(ours.R[:14] - samples)
    assert float(ours.Ra) == pytest.approx(theirs.Q_a, abs=0.1)
    assert off[8] < 1.0
    assert np.delete(off, 8).max() < 0.3


@pytest.mark.parametrize("name", NAMES)
def test_fidelity(name):
    ours = evaluate(WAVELENGTH_NM, at_1_nm(name)).tm30
    theirs = colour_fidelity_index_ANSIIESTM3018(distribution(name), additional_data=True)
    assert float(ours.Rf) == pytest.approx(theirs.R_f, abs=0.1)
    assert float(ours.Rg) == pytest.approx(theirs.R_g, abs=0.3)
    if name not in AT_BIN_EDGE:
        np.testing.assert_allclose(ours.Rcs_h, theirs.R_cs, atol=0.3)
        np.testing.assert_allclose(ours.Rf_h, theirs.R_fs, atol=0.3)
        np.testing.assert_allclose(ours.Rhs_h, theirs.R_hs, atol=0.003)


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("reference", ["P3200", "D55"])
def test_similarity(name, reference):
    spectrum = planckian(3200.0) if reference == "P3200" else daylight(5503.0)
    grid = np.arange(375.0, 676.0)
    # the library wants 375 nm on: both are zero below 380 nm, as ours are cut alike
    both = [np.interp(grid, WAVELENGTH_NM, values, left=0.0) for values in (at_1_nm(name), spectrum)]
    distributions = [colour.SpectralDistribution(dict(zip(grid, values, strict=True))) for values in both]
    theirs = spectral_similarity_index(*distributions, round_result=False)
    assert float(similarity(at_1_nm(name), spectrum)) == pytest.approx(theirs, abs=0.5)


@pytest.mark.parametrize("name", NAMES)
def test_interpolation(name):
    """From 5 nm, where no polynomial dips below zero, by the library's own Sprague interpolation."""
    wavelength, values = illuminants()[name]
    native = colour.SpectralDistribution(dict(zip(wavelength, values, strict=True)))
    theirs = native.align(colour.SpectralShape(380, 780, 1)).values
    if theirs.min() < 0.0:
        pytest.skip("the library leaves negative light; we cut it")
    np.testing.assert_allclose(at_1_nm(name), theirs, atol=1e-9 * theirs.max())


@pytest.mark.parametrize("name", ["A", "D65", "FL2", "FL11", "LED-B3"])
@pytest.mark.parametrize("step", [1, 5])
def test_inspect_command(name, step, tmp_path):
    """The same through the command line, from a file exported by the library at either step."""
    wavelength, values = illuminants()[name]
    native = colour.SpectralDistribution(dict(zip(wavelength, values, strict=True)), name=name)
    sd = native.align(colour.SpectralShape(380, 780, step))
    path = tmp_path / f"{name}.csv"
    path.write_text(
        "wavelength,value\n"
        + "\n".join(f"{w:g},{v!r}" for w, v in zip(sd.wavelengths, sd.values.tolist(), strict=True))
    )
    result = CliRunner().invoke(main, ["inspect", str(path), "--json"])
    assert result.exit_code == 0, result.output
    figures = json.loads(result.output)
    rendering = colour.colour_rendering_index(sd.copy(), additional_data=True)
    fidelity = colour_fidelity_index_ANSIIESTM3018(sd.copy(), additional_data=True)
    tolerance = 2.0 if fidelity.CCT <= 4000 else 0.0005 * fidelity.CCT
    assert figures["cct_k"] == pytest.approx(fidelity.CCT, abs=tolerance)
    assert figures["duv"] == pytest.approx(fidelity.D_uv, abs=1e-4)
    assert figures["cri"]["Ra"] == pytest.approx(rendering.Q_a, abs=0.1)
    for index in range(14):
        theirs = rendering.Q_as[index + 1].Q_a
        assert figures["cri"]["R"][index] == pytest.approx(theirs, abs=1.0 if index == 8 else 0.3)
    assert len(figures["cri"]["R"]) == 15
    assert figures["illuminance_lx"] is None


@pytest.mark.parametrize("name", [n for n in NAMES if not n.startswith("FL3.10")])
def test_interpolation_from_5_nm(name):
    """What a 5 nm file gives: Sprague's method, uncut, as the library interpolates a regular grid (CIE 167:2005)."""
    wavelength, values = illuminants()[name]
    if not np.allclose(np.diff(wavelength), 5.0):
        pytest.skip("not on a grid of 5 nm")
    ours = evaluate(wavelength, values)
    inside = colour.SpectralShape(max(380.0, wavelength[0]), min(780.0, wavelength[-1]), 1)
    theirs = (
        colour.SpectralDistribution(dict(zip(wavelength, values, strict=True)))
        .interpolate(colour.SpectralShape(wavelength[0], wavelength[-1], 1), interpolator=colour.SpragueInterpolator)
        .trim(inside)
    )
    x, y = colour.XYZ_to_xy(colour.sd_to_XYZ(theirs.align(colour.SpectralShape(380, 780, 1)), method="Integration"))
    assert float(ours.x) == pytest.approx(x, abs=1e-4)  # the library goes on to 360 and 830 nm
    assert float(ours.y) == pytest.approx(y, abs=1e-4)
