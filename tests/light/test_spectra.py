import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.light.illuminants import planckian
from even_beam.light.spectra import WAVELENGTH_NM, SpectrumError, resample, validate

GRID = np.arange(380.0, 781.0, 5.0)


@pytest.mark.parametrize(
    ("wavelength", "values", "words"),
    [
        (np.array([400.0, 500, 450, 550, 600, 650, 700, 750]), np.ones(8), "must increase, but 450 nm follows 500 nm"),
        (np.array([400.0, 500, 600, 700]), np.ones(4), "at least 8"),
        (np.arange(450.0, 781.0), np.ones(331), "covers 450-780 nm"),
        (np.arange(380.0, 651.0), np.ones(271), "covers 380-650 nm"),
        (GRID, np.where(GRID == 500, np.nan, 1.0), "not numbers (first at 500 nm)"),
        (GRID, np.where(GRID == 500, np.inf, 1.0), "not numbers"),
        (GRID, np.zeros(GRID.size), "zero or negative throughout"),
        (GRID, -np.ones(GRID.size), "zero or negative throughout"),
        (GRID, np.where(GRID == 600, -0.5, 1.0), "negative values beyond noise (first at 600 nm)"),
        (GRID, np.ones(12), "81 wavelengths but 12 values"),
        (np.where(GRID == 500, np.nan, GRID), np.ones(GRID.size), "a wavelength is not a number"),
    ],
)
def test_bad_input_says_why(wavelength, values, words):
    with pytest.raises(SpectrumError, match=None) as raised:
        validate(wavelength, values)
    assert words in str(raised.value)


def test_a_batch_names_the_spectrum():
    batch = np.ones((3, GRID.size))
    batch[1, 4] = np.nan
    with pytest.raises(SpectrumError, match="spectrum 2"):
        validate(GRID, batch)


def test_noise_below_zero_is_not_an_error():
    values = np.where(GRID < 420, -0.01, 1.0)
    wavelength, checked = validate(GRID, values)
    # as it was read: cut it would add light
    assert resample(wavelength, checked)[:20].mean() == pytest.approx(-0.01, abs=1e-6)


def test_working_grid_passes_through_unchanged():
    values = np.random.default_rng(1).random(401)
    np.testing.assert_allclose(resample(WAVELENGTH_NM, values), values, atol=1e-12)


@pytest.mark.parametrize("step", [2.0, 5.0, 10.0])
def test_a_smooth_spectrum_survives_coarse_sampling(step):
    fine = planckian(3200.0)
    coarse = np.arange(380.0, 781.0, step)
    values = np.interp(coarse, WAVELENGTH_NM, fine)
    assert np.abs(resample(coarse, values) / fine - 1.0).max() < 1e-3


def test_an_irregular_grid_is_followed():
    random = np.random.default_rng(3)
    wavelength = np.sort(np.concatenate([[380.0, 780.0], random.uniform(380, 780, 130)]))
    values = np.interp(wavelength, WAVELENGTH_NM, planckian(4000.0))
    assert np.abs(resample(wavelength, values) / planckian(4000.0) - 1.0).max() < 0.02


def test_a_fine_grid_keeps_the_energy_of_a_line():
    wavelength = np.arange(380.0, 780.01, 0.1)
    line = np.exp(-(((wavelength - 546.07) / 0.15) ** 2))
    assert resample(wavelength, line).sum() == pytest.approx(line.sum() * 0.1, rel=2e-3)


def test_outside_the_measured_range_is_zero():
    wavelength = np.arange(400.0, 701.0, 5.0)
    result = resample(wavelength, np.ones(wavelength.size))
    assert result[:20].max() == 0.0
    assert result[-80:].max() == 0.0
    np.testing.assert_allclose(result[20:321], 1.0, atol=1e-12)


@given(st.lists(st.floats(0.0, 1e3), min_size=81, max_size=81).filter(lambda v: max(v) > 1.0))
def test_resampling_is_linear_and_keeps_the_light_of_a_line(values):
    """Cutting what interpolation makes negative would make neither true: a lamp of lines would move by kelvins."""
    first, second = np.array(values), np.array(values[::-1])
    together = resample(GRID, first) + resample(GRID, second)
    np.testing.assert_allclose(resample(GRID, first + second), together, atol=1e-9 * max(values))
    line = np.zeros(81)
    line[40] = 1.0
    assert resample(GRID, line).sum() == pytest.approx(5.0, rel=1e-6)
    assert resample(GRID, line).min() < 0.0


@pytest.mark.parametrize("points", [2048, 20_000, 100_000])
def test_a_fine_sensor_takes_memory_in_proportion_to_its_points(points):
    import tracemalloc

    wavelength = np.linspace(350.0, 1000.0, points)
    smooth = 1.0 + 0.3 * np.sin(wavelength / 40.0)
    tracemalloc.start()
    found = resample(wavelength, smooth)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert peak < 2000 * points + 5_000_000
    np.testing.assert_allclose(found, 1.0 + 0.3 * np.sin(WAVELENGTH_NM / 40.0), atol=1e-4)
