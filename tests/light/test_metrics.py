import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, cri, daylight, evaluate, planckian, ssi, tlci, tm30
from even_beam.light.temperature_table import TemperatureTable


@pytest.mark.parametrize("cct", [2000.0, 3000.0, 3400.0, 3900.0, 4200.0, 4999.0, 5000.0, 7000.0])
def test_tlci_of_every_reference_luminaire_is_full(cct):
    spectrum = tlci.reference_luminaire(np.array([cct]))
    own = evaluate(WAVELENGTH_NM, spectrum[0]).cct_k
    # between 3400 and 5000 K the reference is a blend whose own temperature is not exactly the one asked
    again = tlci.reference_luminaire(np.atleast_1d(own))
    score, difference = tlci.consistency(again, np.atleast_1d(own))
    assert float(score[0]) == pytest.approx(100.0, abs=0.05)
    assert difference.max() < 0.05


def test_tlci_knows_the_order_of_lamps():
    """Tungsten, then a good phosphor LED, then three narrow bands, then sodium (common practice, no source)."""
    from even_beam.instruments import emitters

    narrow = sum(h * emitters.line(p, 12.0) for p, h in ((450, 0.9), (545, 1.0), (610, 1.1)))
    sodium = emitters.line(589.0, 8.0) + 0.02
    scores = [
        float(evaluate(WAVELENGTH_NM, s).tlci.Qa) for s in (planckian(3200.0), emitters.cool_white(), narrow, sodium)
    ]
    assert scores == sorted(scores, reverse=True)
    assert scores[0] > 99.5
    assert scores[-1] < 30.0


def test_tlmf_of_a_lamp_with_itself_is_full_and_falls_with_distance():
    spectra = [planckian(3200.0), planckian(3300.0), planckian(5600.0)]
    scores = [float(tlci.matching(s, spectra[0])) for s in spectra]
    assert scores[0] == pytest.approx(100.0)
    assert scores == sorted(scores, reverse=True)
    assert float(tlci.matching(7.0 * spectra[1], spectra[0])) == pytest.approx(scores[1])
    # check value 37: about 3 for lamps 115 mired apart (monotone; the number itself is common practice, no source)
    assert float(tlci.matching(planckian(1e6 / (1e6 / 5600 + 115)), planckian(5600.0))) < 15.0


def test_ssi_of_anything_with_itself_is_full():
    random = np.random.default_rng(5)
    spectra = random.random((10, 401)) + 0.05
    np.testing.assert_allclose(ssi.similarity(spectra, spectra), 100.0)


def test_ssi_does_not_punish_what_was_not_measured():
    """A spectrum that starts at 400 nm is compared where it was measured, and nowhere else."""
    cut = np.where(WAVELENGTH_NM >= 400.0, planckian(3200.0), 0.0)
    measured = (WAVELENGTH_NM >= 400.0).astype(float)
    assert float(ssi.similarity(cut, planckian(3200.0), measured)) == pytest.approx(100.0)
    assert float(ssi.similarity(cut, planckian(3200.0))) < 100.0
    figures = evaluate(np.arange(400.0, 781.0), planckian(3200.0)[20:])
    assert float(figures.ssi.value) > 99.0


def test_ssi_of_common_leds():
    """Check values 38 and 39 (common practice, no source): 71-72 at 5600 K and 83-84 at 3200 K are usual."""
    from even_beam.bench.records import Terms
    from even_beam.instruments.simulated_lamps import LAMPS

    lamp = LAMPS["five-emitter colour light"]
    for white, reference, low, high in ((5600.0, daylight(5503.0), 65, 80), (3200.0, planckian(3200.0), 75, 90)):
        value = float(ssi.similarity(lamp.irradiance(Terms(cct_k=white, level_pct=100.0)), reference))
        assert low < value < high


def test_the_local_shifts_of_a_red_boost():
    """More red chroma at hue bin 1, less nowhere near: the sign and place of local chroma shift."""
    boosted = planckian(3200.0) * (1.0 + 0.25 * np.exp(-(((WAVELENGTH_NM - 640.0) / 25.0) ** 2)))
    boosted *= 1.0 - 0.2 * np.exp(-(((WAVELENGTH_NM - 585.0) / 20.0) ** 2))
    figures = evaluate(WAVELENGTH_NM, boosted)
    assert figures.tm30.Rcs_h[0] > 1.0
    assert figures.tm30.Rg > 101.0


@pytest.mark.parametrize(
    ("table", "direct"),
    [
        (cri._REFERENCE, cri._reference),
        (tm30._REFERENCE, lambda t, inside: tm30._appearance(tm30.reference_illuminant(t, inside))),
        (tlci._REFERENCE, lambda t, inside: tlci._own_balance_lab(tlci.reference_luminaire(t, inside))),
    ],
    ids=["CRI", "TM-30", "TLCI"],
)
def test_tabulated_references_are_as_good_as_computed_ones(table: TemperatureTable, direct):
    temperatures = np.array(
        [1003.0, 1500.3, 2856.7, 3399.4, 3999.2, 4000.9, 4567.8, 4999.3, 5000.4, 6504.1, 12_345.6, 49_000.0]
    )
    for t in temperatures:
        one = np.array([t])
        np.testing.assert_allclose(table.at(one), direct(one, t), atol=1e-5)
    with np.errstate(invalid="ignore"):
        assert np.isnan(table.at(np.array([np.nan]))).all()
