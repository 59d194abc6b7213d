import dataclasses

import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, SpectrumError, daylight, evaluate, planckian
from even_beam.light.batch import CHUNK


def lamps(count: int, seed: int = 7) -> np.ndarray:
    """Random mixtures of white light with bumps: none of them coloured."""
    random = np.random.default_rng(seed)
    base = np.where(
        random.random(count)[:, None] < 0.5,
        planckian(random.uniform(2000, 6000, count)),
        daylight(random.uniform(4500, 9000, count)),
    )
    bump = np.exp(
        -(((WAVELENGTH_NM - random.uniform(420, 680, count)[:, None]) / random.uniform(8, 60, count)[:, None]) ** 2)
    )
    return base * (1.0 + random.uniform(-0.5, 0.5, count)[:, None] * bump)


def flat(figures) -> dict[str, np.ndarray]:
    found = {}
    for field in dataclasses.fields(figures):
        value = getattr(figures, field.name)
        if dataclasses.is_dataclass(value):
            found.update({f"{field.name}.{name}": array for name, array in flat(value).items()})
        elif not isinstance(value, str):
            found[field.name] = value
    return found


def test_shapes_follow_the_input():
    batch = lamps(6).reshape(2, 3, 401)
    figures = evaluate(WAVELENGTH_NM, batch)
    assert figures.cct_k.shape == (2, 3)
    assert figures.cri.R.shape == (2, 3, 15)
    assert figures.tm30.Rcs_h.shape == (2, 3, 16)
    assert evaluate(WAVELENGTH_NM, batch[0, 0]).cct_k.shape == ()


def test_a_batch_says_the_same_as_one_by_one():
    batch = lamps(CHUNK + 5)
    together = flat(evaluate(WAVELENGTH_NM, batch))
    for index in (0, 3, CHUNK - 1, CHUNK, CHUNK + 4):
        alone = flat(evaluate(WAVELENGTH_NM, batch[index]))
        for name, values in together.items():
            np.testing.assert_allclose(values[index], alone[name], rtol=1e-9, atol=1e-9, err_msg=name)


def test_scale_does_not_matter_but_for_illuminance():
    one = lamps(20)
    first, second = flat(evaluate(WAVELENGTH_NM, one)), flat(evaluate(WAVELENGTH_NM, 1e-7 * one))
    for name in first:
        np.testing.assert_allclose(first[name], second[name], rtol=1e-7, atol=1e-7, err_msg=name)
    absolute = evaluate(WAVELENGTH_NM, one, absolute=True).illuminance_lx
    np.testing.assert_allclose(evaluate(WAVELENGTH_NM, 2 * one, absolute=True).illuminance_lx, 2 * absolute)
    assert np.isnan(evaluate(WAVELENGTH_NM, one[0]).illuminance_lx)


def test_the_references_score_full():
    for spectrum in (planckian(2700.0), planckian(3200.0), daylight(5503.0), daylight(6504.0)):
        figures = evaluate(WAVELENGTH_NM, spectrum)
        assert float(figures.cri.Ra) == pytest.approx(100.0, abs=0.05)
        assert float(figures.tm30.Rf) == pytest.approx(100.0, abs=0.05)
        assert float(figures.tm30.Rg) == pytest.approx(100.0, abs=0.05)
        assert float(figures.ssi.value) == pytest.approx(100.0, abs=0.1)
        assert float(figures.tlci.Qa) == pytest.approx(100.0, abs=0.05)


def test_tungsten_scores_as_the_trade_knows_it():
    # check value 35 (common practice, no source): tungsten 99.9 with all samples at 99.5 or more
    figures = evaluate(WAVELENGTH_NM, planckian(3190.0))
    assert figures.cri.R.min() > 99.5


def test_a_sodium_lamp_scores_low_and_negative():
    # check value 35 (common practice, no source): about 18.7, some samples negative
    lines = np.exp(-(((WAVELENGTH_NM - 589.0) / 9.0) ** 2)) + 0.16 * np.exp(-(((WAVELENGTH_NM - 569.0) / 6.0) ** 2))
    figures = evaluate(WAVELENGTH_NM, lines + 0.12 * planckian(2000.0) / planckian(2000.0).max())
    assert figures.cri.Ra < 30.0
    assert figures.cri.R.min() < 0.0


@pytest.mark.parametrize(("delta", "score"), [(15.7, 28.0), (10.4, 52.2), (0.7, 96.7)])
def test_samples_and_the_difference_behind_them(delta, score):
    """Check value 36: R = 100 - 4.6 times the difference."""
    from even_beam.light.cri import colour_rendering

    result = colour_rendering(lamps(50), evaluate(WAVELENGTH_NM, lamps(50)).cct_k)
    np.testing.assert_allclose(result.R, 100.0 - 4.6 * result.delta_e)
    assert 100.0 - 4.6 * delta == pytest.approx(score, abs=0.25)


def test_bad_spectra_are_refused():
    with pytest.raises(SpectrumError, match="zero or negative"):
        evaluate(WAVELENGTH_NM, np.zeros(401))
    with pytest.raises(SpectrumError, match="covers"):
        evaluate(np.arange(450.0, 700.0), np.ones(250))
