import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, SpectrumError, daylight, evaluate, planckian
from even_beam.light.colorimetry import illuminance
from even_beam.light.filters import correction, correction_names, filled, shift, transmittance
from even_beam.light.mixing import at_illuminance, mixed


@pytest.mark.parametrize("name", correction_names())
def test_models_keep_what_defines_them(name):
    model = correction(name)
    assert "model" in model.name
    assert "typical loss" in model.defined_by
    assert 0.0 < model.transmission.min()
    assert model.transmission.max() <= 1.0
    light = daylight(5500.0) if name.endswith("CTO") else planckian(3200.0)
    found = shift(light, model.transmission)
    if name.endswith(("CTO", "CTB")):
        stated = float(model.defined_by.split()[0])
        assert float(found.mired) == pytest.approx(stated, abs=0.01)
        assert float(found.duv) == pytest.approx(0.0, abs=1e-6)
    else:
        assert float(found.mired) == pytest.approx(0.0, abs=0.01)
        assert (found.duv > 0) == name.endswith("plus green")
    stated_loss = float(model.defined_by.rpartition("loss ")[2].split()[0])
    assert float(found.loss_stops) == pytest.approx(stated_loss, abs=0.16)


@pytest.mark.parametrize(("name", "white"), [("full CTO", 2900.0), ("three quarters CTO", 3270.0)])
def test_orange_on_daylight_gives_tungsten(name, white):
    """NEEDS section 7: full orange on 5500 K gives about 2900 K, three quarters about 3200 K."""
    behind = evaluate(WAVELENGTH_NM, daylight(5503.0) * correction(name).transmission)
    assert float(behind.cct_k) == pytest.approx(white, rel=0.03)


def test_fractions_are_not_linear():
    half, full = (float(shift(daylight(5500.0), correction(f"{f} CTO").transmission).mired) for f in ("half", "full"))
    assert half > 0.6 * full


def test_a_measured_filter_predicts_what_stands_behind_it():
    bare, gel = planckian(3200.0), correction("half CTB").transmission
    measured = transmittance(bare * gel, bare)
    np.testing.assert_allclose(measured, gel)
    other = daylight(5600.0)
    np.testing.assert_allclose(
        evaluate(WAVELENGTH_NM, other * measured).cct_k, evaluate(WAVELENGTH_NM, other * gel).cct_k
    )


def test_where_there_was_no_light_there_is_no_transmittance():
    bare = np.where(WAVELENGTH_NM < 420.0, 0.0, planckian(3200.0))
    measured = transmittance(bare * 0.5, bare)
    assert np.isnan(measured[:40]).all()
    np.testing.assert_allclose(filled(measured), 0.5)


@pytest.mark.parametrize(("pair", "factor", "stop"), [((1000.0, 350.0), 0.35, 1.51), ((62.0, 27.0), 0.435, 1.20)])
def test_loss_as_a_ratio_of_pairs(pair, factor, stop):
    """Check values 14 and 15 (common practice, no source): measured pairs, not the rule of a half."""
    light = planckian(3200.0)
    without, behind = at_illuminance(light, pair[0]), at_illuminance(light, pair[1])
    found = shift(light, transmittance(behind, without))
    assert float(found.factor) == pytest.approx(factor, abs=0.005)
    assert float(found.loss_stops) == pytest.approx(stop, abs=0.01)


def test_mixing_adds_light():
    two = np.stack([planckian(3200.0), daylight(6500.0)])
    lux = at_illuminance(two, [400.0, 600.0])
    np.testing.assert_allclose(illuminance(mixed(lux, [1.0, 1.0])), 1000.0)
    between = evaluate(WAVELENGTH_NM, mixed(lux, [[1.0, 0.0], [0.5, 0.5], [0.0, 1.0]]))
    assert between.cct_k[0] < between.cct_k[1] < between.cct_k[2]
    assert between.duv[1] < between.duv[2]  # the chord runs below the curve
    with pytest.raises(SpectrumError, match="negative weight"):
        mixed(two, [1.0, -0.1])
