"""Tint is held against the white's own curve: Planckian for tungsten, daylight for daylight, nothing in between
jumps."""

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.light.colorimetry import cct_and_duv, uv_1960
from even_beam.light.filters import FRACTIONS, NO_SUCH_GEL, correction, duv_of_cc, gel_fraction_of_duv, shift
from even_beam.light.illuminants import planckian
from even_beam.light.white import reference_duv

WORDS = {"none", NO_SUCH_GEL, *(f"{fraction} {side} green" for fraction in FRACTIONS for side in ("plus", "minus"))}


@pytest.mark.parametrize("kelvin", [1000.0, 2700.0, 3200.0, 4000.0])
def test_tungsten_is_held_against_the_planckian(kelvin):
    assert float(reference_duv(kelvin)) == 0.0


@pytest.mark.parametrize("nominal", [5000.0, 5500.0, 6500.0, 7500.0, 10_000.0, 20_000.0])
def test_daylight_is_held_against_daylight(nominal):
    """CIE 15:2018, clause 4.1.2, as colour-science has it: a perfect daylight is not green."""
    x, y = colour.temperature.CCT_to_xy_CIE_D(nominal * 1.4388 / 1.4380)
    cct, duv = cct_and_duv(*uv_1960(x, y))
    assert float(duv) - float(reference_duv(cct)) == pytest.approx(0.0, abs=1e-4)
    assert float(duv) > 0.002


def test_the_reference_never_jumps():
    kelvin = np.linspace(1000.0, 25_000.0, 4000)
    assert np.abs(np.diff(reference_duv(kelvin))).max() < 1e-4


@given(st.floats(1000.0, 25_000.0), st.floats(-0.05, 0.05))
def test_every_white_has_a_gel_in_words(kelvin, duv):
    assert gel_fraction_of_duv(duv, kelvin) in WORDS


@pytest.mark.parametrize("kelvin", [float("nan"), float("inf")])
def test_no_number_has_no_gel(kelvin):
    assert gel_fraction_of_duv(0.005, kelvin) == NO_SUCH_GEL
    assert gel_fraction_of_duv(float("nan"), 5600.0) == NO_SUCH_GEL


@pytest.mark.parametrize("cc", [3.5, 7.0, 14.0, 21.0, 28.0])
@pytest.mark.parametrize("kelvin", [3200.0, 5600.0])
def test_the_gel_named_takes_the_tint_away(cc, kelvin):
    """By the gel's own model on a tinted light: what is left is less than half of what was there."""
    green = float(duv_of_cc(cc, kelvin))
    name = gel_fraction_of_duv(green, kelvin)
    assert name.endswith("minus green")
    taken = float(shift(planckian(kelvin), correction(name).transmission).duv)
    assert taken < 0.0 and abs(green + taken) < 0.5 * green
    assert gel_fraction_of_duv(float(duv_of_cc(-cc, kelvin)), kelvin) == name.replace("minus", "plus")
