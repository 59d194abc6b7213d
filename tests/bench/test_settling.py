"""Lamps that warm as exponentials (a closed form that the product does not have), looked at by meters that scatter."""

import numpy as np
import pytest

from even_beam.bench.settling import FEWEST, LOOK_EVERY_S, has_settled
from even_beam.bench.traces import SETTLED_SHARE


def minutes_until_settled(droop: float, tau_min: float, scatter: float, seed: int) -> float | None:
    """When the looks say that it has settled, within half an hour."""
    random = np.random.default_rng(seed)
    at = np.arange(0.0, 1800.0, LOOK_EVERY_S)
    light = (1.0 + droop * np.exp(-at / 60.0 / tau_min)) * (1.0 + scatter * random.standard_normal(at.size))
    return next((at[n - 1] / 60.0 for n in range(1, at.size + 1) if has_settled(at[:n], light[:n])), None)


def test_what_is_said_to_have_settled_hardly_moves_any_more():
    moved, cases = [], 0
    for seed in range(200):
        random = np.random.default_rng(1000 + seed)
        droop, tau, scatter = random.uniform(-0.05, 0.1), random.uniform(1.0, 12.0), random.uniform(0.0005, 0.004)
        at = minutes_until_settled(droop, tau, scatter, seed)
        cases += 1
        if at is not None:
            moved.append(abs(droop) * (np.exp(-at / tau) - np.exp(-(at + 10.0) / tau)))
    assert cases == 200
    assert np.mean(np.asarray(moved) > 1.5 * SETTLED_SHARE) <= 0.05
    assert len(moved) > 150, "half an hour is enough for nearly all"


@pytest.mark.parametrize("scatter", [0.0005, 0.002])
def test_steady_light_ends_a_wait_of_a_quarter_of_an_hour_early(scatter):
    times = [minutes_until_settled(0.0, 5.0, scatter, seed) for seed in range(40)]
    assert sum(t is not None and t < 10.0 for t in times) >= 38


def test_too_few_looks_and_no_light_say_nothing():
    assert not has_settled([], [])
    at = list(np.arange(FEWEST - 1) * 60.0)
    assert not has_settled(at, [100.0] * len(at))
    assert not has_settled(list(np.arange(20) * 2.0), [100.0] * 20), "half a minute shows no drift"
    assert not has_settled(list(np.arange(30) * LOOK_EVERY_S), [0.0] * 30)
    assert has_settled(list(np.arange(30) * LOOK_EVERY_S), [100.0] * 30)
    rising = [100.0 * (1.0 + 0.003 * n * LOOK_EVERY_S / 60.0) for n in range(30)]
    assert not has_settled(list(np.arange(30) * LOOK_EVERY_S), rising)
    assert not has_settled(list(np.arange(30) * LOOK_EVERY_S), rising[::-1])


def test_the_line_is_that_of_a_reference_library():
    """Slope and standard error against scipy's linear regression: on the edge of the verdict both say the same."""
    from scipy.stats import linregress

    for seed in range(60):
        random = np.random.default_rng(seed)
        at = np.arange(0.0, 360.0, LOOK_EVERY_S)
        light = 100.0 * (
            1.0 + random.uniform(-2e-5, 2e-5) * at + random.uniform(1e-4, 3e-3) * random.standard_normal(at.size)
        )
        theirs = linregress(at / 600.0, light / light.mean())
        assert has_settled(at, light) == (abs(theirs.slope) + 2.0 * theirs.stderr <= SETTLED_SHARE)
