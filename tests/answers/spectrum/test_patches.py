"""Split patches: none against itself, the same light gives the same colours, a cast stays when the balance does not
follow."""

import numpy as np
import pytest

from even_beam.answers.spectrum.patches import Against, Seen, patch_sets
from even_beam.bench.records import Spectrum
from even_beam.light import WAVELENGTH_NM, daylight, planckian

WARM, COOL = Spectrum(WAVELENGTH_NM, planckian(3200.0)), Spectrum(WAVELENGTH_NM, daylight(5600.0))
GREEN = Spectrum(WAVELENGTH_NM, daylight(5600.0) * (1.0 + 0.5 * np.exp(-(((WAVELENGTH_NM - 545.0) / 30.0) ** 2))))


@pytest.mark.parametrize("seen", list(Seen))
def test_a_reference_light_against_itself_differs_in_nothing(seen):
    warm, cool = patch_sets([("warm", WARM), ("cool", COOL)], "warm", Against.OWN_REFERENCE, seen)
    assert warm.mean < 0.02 and cool.mean < 0.05
    assert "3 200 K reference above" in warm.title.replace("\u202f", " ")


def test_lamp_against_lamp():
    lamps = [("warm", WARM), ("cool", COOL), ("green", GREEN)]
    found = patch_sets(lamps, "cool", Against.REFERENCE_LAMP, Seen.UNBALANCED)
    assert [one.title for one in found] == ["warm below, cool above", "green below, cool above"]
    balanced = patch_sets(lamps, "cool", Against.REFERENCE_LAMP, Seen.BALANCED)
    assert found[0].mean > 10.0 > balanced[0].mean  # the cast is most of it, and a balance takes that away
    assert balanced[1].mean < found[1].mean
    assert len(found[0].pairs) == 26 and "on average; most" in found[0].words


def test_coloured_light_has_no_white_to_be_set_against():
    blue = Spectrum(WAVELENGTH_NM, np.exp(-(((WAVELENGTH_NM - 450.0) / 12.0) ** 2)))
    assert patch_sets([("blue", blue)], "blue", Against.OWN_REFERENCE, Seen.EYE) == ()
