"""Fades against the curves they were made of."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from even_beam.camera.errors import CameraError
from even_beam.camera.fades import apart, fade_of


def made(curve, *, seconds=4.0, rate=400.0, before=0.5, up=False, levels=0, noise=0.0, seed=0):
    t = np.arange(int((seconds + 2.0 * before) * rate)) / rate
    u = np.clip((t - before) / seconds, 0.0, 1.0)
    light = curve(u if up else 1.0 - u)
    if levels:
        light = np.round(light * levels) / levels
    rng = np.random.default_rng(seed)
    return t, 800.0 * light + (rng.normal(0.0, noise, t.size) if noise else 0.0)


@given(st.floats(0.5, 4.0), st.floats(1.0, 8.0), st.booleans())
@settings(max_examples=15)
def test_the_law_and_the_time_of_a_power(exponent, seconds, up):
    found = fade_of(*made(lambda u: u**exponent, seconds=seconds, up=up))
    assert found.rising == up
    assert not found.stepped
    assert found.off_law < 0.02
    if found.law == "power":
        assert found.exponent == pytest.approx(exponent, rel=0.05)
    # the last two ten-thousandths of a steep law take their time
    assert seconds * (1.0 - 0.0002 ** (1.0 / max(exponent, 1.0))) - 0.05 <= found.real_s <= seconds + 0.05


def test_even_in_stops_and_an_s():
    assert fade_of(*made(lambda u: (10.0 ** (2.0 * u) - 1.0) / 99.0)).law == "even in stops"
    found = fade_of(*made(lambda u: u * u * (3.0 - 2.0 * u), up=True, noise=0.5))
    assert found.law == "S-curve"


@given(st.integers(8, 60), st.booleans())
@settings(max_examples=15)
def test_steps_are_counted_and_sized(levels, up):
    found = fade_of(*made(lambda u: u, levels=levels, up=up, noise=0.2))
    assert found.stepped
    assert len(found.steps) == levels
    largest = found.largest_step
    assert largest is not None
    assert largest.stops == pytest.approx(1.0, abs=0.1)  # from two levels to one
    assert found.falls_from == pytest.approx(1.0 / levels, rel=0.1)
    assert found.longest_hold_s == pytest.approx(4.0 / levels, rel=0.2)


@given(st.floats(0.5, 3.0), st.floats(0.0, 4.0), st.integers(0, 1000))
@settings(max_examples=25)
def test_a_smooth_fade_has_no_steps(exponent, noise, seed):
    assert not fade_of(*made(lambda u: u**exponent, noise=noise, seed=seed)).stepped


def test_where_it_goes_out_at_once():
    found = fade_of(*made(lambda u: np.where(u < 0.2, 0.0, u**2), noise=0.3))
    assert found.falls_from == pytest.approx(0.04, rel=0.1)
    assert fade_of(*made(lambda u: 0.1 + 0.9 * u)).falls_from is None
    assert fade_of(*made(lambda u: 0.125 + 0.875 * u)).change_stops == pytest.approx(3.0, abs=0.01)


def test_a_lag_and_going_back():
    t, light = made(lambda u: u, before=1.25)
    assert fade_of(t, light).lag_s == pytest.approx(1.25, abs=0.01)
    back = light + np.where((t > 3.0) & (t < 3.4), 120.0, 0.0)
    assert fade_of(t, back).back > 0.05
    assert fade_of(t, light).back == 0.0


def test_up_against_down():
    up, down = fade_of(*made(lambda u: u, up=True)), fade_of(*made(lambda u: u))
    assert apart(up, down) < 0.01
    bent = fade_of(*made(lambda u: u**2))
    assert apart(up, bent) == pytest.approx(0.25, abs=0.02)  # u - u², at the half


@pytest.mark.parametrize(
    ("seconds", "light"),
    [
        (np.arange(10.0), np.arange(10.0)),
        (np.arange(100.0), np.ones(100)),
        (np.arange(100.0), np.full(100, np.nan)),
        (np.zeros(100), np.arange(100.0)),
        (np.arange(100.0), np.zeros(100)),
    ],
)
def test_what_is_no_fade_is_refused(seconds, light):
    with pytest.raises(CameraError):
        fade_of(seconds, light)


@pytest.mark.parametrize(("law", "within"), [("linear", 0.03), ("square", 0.05), ("S", 0.03)])
@pytest.mark.parametrize("falling", [False, True])
def test_under_one_per_cent_of_noise_a_fade_takes_as_long_as_it_took(law, within, falling):
    """Truth is drawn here: the ends lie in the noise, and were found up to a sixth too early."""
    rng, off = np.random.default_rng(21), []
    for took in (1.0, 2.5, 5.0, 5.0, 2.5):
        seconds = np.arange(0.0, took + 3.0, 0.01)
        share = np.clip((seconds - 1.5) / took, 0.0, 1.0)
        level = {"linear": share, "square": share**2, "S": share * share * (3.0 - 2.0 * share)}[law]
        level = level[::-1] if falling else level
        found = fade_of(seconds, level + rng.normal(0.0, 0.01, seconds.size))
        off.append(found.real_s / took - 1.0)
        assert found.off_law < 0.03 and found.steps == ()
    assert np.abs(off).max() <= within and abs(np.median(off)) <= 0.03
