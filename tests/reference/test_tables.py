"""The shipped tables against those of the reference library (colour-science), value by value."""

import colour
import numpy as np
import pytest
from colour.colorimetry import SDS_BASIS_FUNCTIONS_CIE_ILLUMINANT_D_SERIES
from colour.quality.cfi2017 import load_TCS_CIE2017
from colour.quality.datasets import SDS_TCS

from even_beam.light.tables import column_names, table


@pytest.mark.parametrize(
    ("name", "library"),
    [
        ("cie-1931-2-degree-observer", "CIE 1931 2 Degree Standard Observer"),
        ("cie-1964-10-degree-observer", "CIE 1964 10 Degree Standard Observer"),
    ],
)
def test_observers(name, library):
    wavelength, columns = table(name)
    cmfs = colour.MSDS_CMFS[library]
    inside = np.isin(cmfs.wavelengths, wavelength)
    np.testing.assert_allclose(columns, cmfs.values[inside], rtol=1e-11)
    assert wavelength.size in (401, 471)


def test_daylight_components():
    wavelength, columns = table("cie-daylight-components")
    for column, name in zip(columns.T, ("S0", "S1", "S2"), strict=True):
        sd = SDS_BASIS_FUNCTIONS_CIE_ILLUMINANT_D_SERIES[name]
        np.testing.assert_allclose(column, sd.values[np.isin(sd.wavelengths, wavelength)], rtol=1e-11)


def test_rendering_samples():
    wavelength, columns = table("cie-13.3-samples")
    assert column_names("cie-13.3-samples")[-1] == "r15"
    for index in range(14):
        sd = SDS_TCS["CIE 1995"][f"TCS{index + 1:02d}"]
        np.testing.assert_allclose(columns[:, index], sd.values[np.isin(sd.wavelengths, wavelength)], rtol=1e-11)


def test_fidelity_samples():
    samples = load_TCS_CIE2017(colour.SpectralShape(380, 780, 1))
    np.testing.assert_allclose(table("cie-224-samples")[1], samples.values, rtol=1e-11)


def test_camera_responsivities_sum_to_one():
    # EBU Tech 3355: each channel is normalised so that its samples at 5 nm sum to one
    np.testing.assert_allclose(table("ebu-tech-3355-camera")[1].sum(axis=0), 1.0, atol=2e-5)
