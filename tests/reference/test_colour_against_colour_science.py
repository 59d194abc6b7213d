"""Coloured light, efficacy, adaptation and TM-27 files against colour-science."""

import colour
import numpy as np
import pytest

from even_beam.formats import NamedSpectrum, tm27
from even_beam.light import WAVELENGTH_NM, daylight, planckian
from even_beam.light.adaptation import D65_WHITE, adapted_to_d65, lab, srgb
from even_beam.light.colorimetry import observer, tristimulus, xy
from even_beam.light.colour import (
    centroid_wavelength,
    dominant_wavelength,
    hue_and_saturation,
    hue_difference,
    luminous_efficacy,
)
from even_beam.light.colour_difference import ciede2000
from even_beam.light.rendering import seen_by_camera, seen_by_eye, subjects, white_balance_rescue

EQUAL_ENERGY = np.array([1 / 3, 1 / 3])


@pytest.mark.parametrize("point", [(0.26, 0.62), (0.45, 0.45), (0.20, 0.12), (0.60, 0.33), (0.1, 0.4)])
def test_dominant_wavelength_and_purity(point):
    theirs, *_ = colour.dominant_wavelength(np.array(point), EQUAL_ENERGY)
    purity = colour.excitation_purity(np.array(point), EQUAL_ENERGY)
    ours, our_purity = dominant_wavelength(*point)
    assert float(ours) == pytest.approx(float(theirs), abs=1.0)  # the library steps by whole nanometres
    assert float(our_purity) == pytest.approx(float(purity), abs=0.01)


def test_purples_by_their_complement():
    ours, purity = dominant_wavelength(0.35, 0.2)
    theirs, *_ = colour.complementary_wavelength(np.array([0.35, 0.2]), EQUAL_ENERGY)
    assert float(ours) == pytest.approx(-abs(float(theirs)), abs=1.5)
    assert 0.0 < purity < 1.0
    assert np.isnan(dominant_wavelength(1 / 3, 1 / 3)[0])


@pytest.mark.parametrize("name", ["A", "D65", "FL2", "FL11", "LED-B3"])
def test_efficacy_and_centroid(name):
    from tests.reference.lamps import at_1_nm, distribution

    theirs = colour.luminous_efficacy(distribution(name))
    assert float(luminous_efficacy(at_1_nm(name))) == pytest.approx(float(theirs), rel=3e-3)
    weights = at_1_nm(name)
    assert float(centroid_wavelength(weights)) == pytest.approx(np.average(WAVELENGTH_NM, weights=weights))


@pytest.mark.parametrize(
    ("rgb", "hue"),
    [
        ((1, 0, 0), 0.0),
        ((1, 1, 0), 60.0),
        ((0, 1, 0), 120.0),
        ((0, 1, 1), 180.0),
        ((0, 0, 1), 240.0),
        ((1, 0, 1), 300.0),
        ((0.9, 0.3, 0.5), None),
    ],
)
def test_hue_and_saturation_against_the_library(rgb, hue):
    xyz = colour.RGB_to_XYZ(np.array(rgb, dtype=float), "sRGB")
    point = colour.XYZ_to_xy(xyz)
    ours, saturation = hue_and_saturation(*point)
    theirs = colour.RGB_to_HSV(np.array(rgb, dtype=float))
    assert float(hue_difference(ours, 360.0 * theirs[0])) == pytest.approx(0.0, abs=0.1)
    assert float(saturation) == pytest.approx(100.0 * theirs[1], abs=0.1)
    if hue is not None:
        assert float(hue_difference(ours, hue)) == pytest.approx(0.0, abs=0.1)


def test_white_has_no_hue_against_itself():
    x, y = xy(tristimulus(planckian(3200.0)))
    _, saturation = hue_and_saturation(x, y, float(x), float(y))
    assert float(saturation) == pytest.approx(0.0, abs=1e-9)
    assert float(hue_and_saturation(x, y)[1]) > 30.0  # against daylight it is orange


@pytest.mark.parametrize(
    ("asked", "read", "difference"), [(60, 36, -24), (180, 229, 49), (300, 269, -31), (350, 10, 20), (10, 350, -20)]
)
def test_hues_go_round(asked, read, difference):
    """Check value 55."""
    assert float(hue_difference(read, asked)) == difference


def test_adaptation_and_lab_and_display():
    white = np.array([1.09850, 1.0, 0.35585])  # illuminant A
    xyz = np.array([[0.4, 0.3, 0.1], [0.2, 0.25, 0.12]])
    theirs = colour.adaptation.chromatic_adaptation_VonKries(xyz, white, D65_WHITE, transform="Bradford")
    ours = adapted_to_d65(xyz, white)
    np.testing.assert_allclose(ours, theirs, atol=1e-6)
    np.testing.assert_allclose(lab(ours / D65_WHITE), colour.XYZ_to_Lab(theirs, colour.XYZ_to_xy(D65_WHITE)), atol=1e-3)
    np.testing.assert_allclose(srgb(ours), np.clip(colour.XYZ_to_sRGB(theirs), 0, 1), atol=2e-4)


def test_patches_for_eye_and_camera():
    lamp, reference = daylight(5600.0) * (1 - 0.4 * np.exp(-(((WAVELENGTH_NM - 600) / 20) ** 2))), daylight(5600.0)
    same = seen_by_eye(reference, reference)
    assert same.delta_e.max() < 1e-9
    assert seen_by_camera(reference, reference).delta_e.max() < 1e-9
    seen = seen_by_eye(lamp, reference)
    assert len(seen.names) == seen.delta_e.size == 26
    assert seen.delta_e.max() > 1.0
    # the difference again, by the library from the tristimulus values on
    _, reflectance = subjects()
    labs = []
    for light in (reference, lamp):
        white = tristimulus(light)
        xyz = (light * reflectance) @ observer() / white[1]
        adapted = colour.adaptation.chromatic_adaptation_VonKries(
            xyz, white / white[1], D65_WHITE, transform="Bradford"
        )
        labs.append(colour.XYZ_to_Lab(adapted, colour.XYZ_to_xy(D65_WHITE)))
    np.testing.assert_allclose(seen.delta_e, colour.delta_E(labs[0], labs[1], method="CIE 2000"), atol=1e-3)
    np.testing.assert_allclose(ciede2000(labs[0], labs[1]), seen.delta_e, atol=1e-3)


def test_what_a_white_balance_repairs():
    cast = daylight(5600.0) * np.exp(0.15 * (WAVELENGTH_NM - 560) / 100)  # a mere tilt is repaired
    missing = np.where((WAVELENGTH_NM > 600) & (WAVELENGTH_NM < 660), 0.2, 1.0) * daylight(5600.0)
    tilt, hole = (white_balance_rescue(light, daylight(5600.0)) for light in (cast, missing))
    assert tilt.repaired > 0.7 * tilt.without
    assert hole.with_balance > 3.0 * tilt.with_balance


def test_tm27_files_are_those_of_the_library(tmp_path):
    values = planckian(3200.0)
    text = tm27.write([NamedSpectrum("Yarrow", WAVELENGTH_NM, values)])
    path = tmp_path / "yarrow.spdx"
    path.write_text(text, encoding="utf-8")
    theirs = colour.SpectralDistribution_IESTM2714(str(path)).read()
    np.testing.assert_array_equal(theirs.wavelengths, WAVELENGTH_NM)
    np.testing.assert_allclose(theirs.values, values, rtol=1e-15)
    theirs.path = str(tmp_path / "back.spdx")
    theirs.write()
    (back,) = tm27.read((tmp_path / "back.spdx").read_bytes(), "back")
    np.testing.assert_allclose(back.values, values, rtol=1e-10)  # the library writes eleven figures
