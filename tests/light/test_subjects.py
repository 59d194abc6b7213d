"""What a light does to subjects: nothing under the reference itself, and what a filter does is what is said."""

import colour
import numpy as np
import pytest

from even_beam.light import WAVELENGTH_NM, daylight, planckian
from even_beam.light.subjects import SUBJECTS, reflectance_on_grid, samples_of, seen_by_camera, seen_by_eye


@pytest.mark.parametrize("seen", [seen_by_eye, seen_by_camera])
@pytest.mark.parametrize("light", [daylight(5503.0), planckian(3200.0)])
def test_under_the_reference_itself_nothing_changes(seen, light):
    shifts = seen(3.7 * light, light)
    assert tuple(shift.subject for shift in shifts) == SUBJECTS
    for shift in shifts:
        assert shift.delta_e == pytest.approx(0.0, abs=1e-6)
        assert (shift.lightness, shift.chroma, shift.hue) == pytest.approx((0.0, 0.0, 0.0), abs=1e-6)
        assert len(shift.members) == len(shift.delta_e) >= 2


def test_a_light_without_deep_red_dulls_deep_reds_most():
    white = daylight(5503.0)
    poor = white * np.where(WAVELENGTH_NM > 620.0, 0.35, 1.0)
    by_subject = {shift.subject: shift for shift in seen_by_eye(poor, white)}
    reds = by_subject["deep reds"]
    assert reds.mean == max(shift.mean for shift in by_subject.values())
    assert reds.chroma < -2.0
    assert reds.lightness < 0.0
    assert by_subject["whites, greys"].mean < reds.mean / 2.0, "an adapted eye takes the white for white"


def test_the_three_differences_make_up_the_euclidean_one():
    """ISO/CIE 11664-4: dE*ab squared is that of lightness, of chroma and of metric hue."""
    white = daylight(5503.0)
    line = white * (1.0 + 2.0 * np.exp(-0.5 * ((WAVELENGTH_NM - 545.0) / 8.0) ** 2))
    for shift in seen_by_eye(line, white):
        chroma = np.hypot(*shift.after[:, 1:].T) - np.hypot(*shift.before[:, 1:].T)
        for k in range(len(shift.members)):
            one = type(shift)(
                shift.subject,
                shift.members[k : k + 1],
                shift.before[k : k + 1],
                shift.after[k : k + 1],
                shift.delta_e[:1],
            )
            whole = float(((one.after - one.before) ** 2).sum())
            assert one.lightness**2 + one.chroma**2 + one.hue**2 == pytest.approx(whole, abs=1e-9)
            assert one.chroma == pytest.approx(chroma[k])


def test_samples_stand_for_the_subjects_they_are():
    """CIE 13.3: R9 is a strong red, R12 a strong blue, R13 and R15 (JIS) skin, R14 a leaf."""
    assert 9 in samples_of("deep reds")
    assert 12 in samples_of("blues")
    assert {13, 15} <= set(samples_of("skin"))
    assert 14 in samples_of("foliage")
    with pytest.raises(KeyError):
        samples_of("tartan")


def test_ones_own_subjects_come_after_the_published_ones_as_they_are_by_another_library():
    """The difference is that of colour-science for the same two colours (CIEDE2000)."""
    white = daylight(6500.0)
    petal = 0.1 + 0.6 / (1.0 + np.exp(-(WAVELENGTH_NM - 600.0) / 12.0))
    lamp = white * np.where(WAVELENGTH_NM > 620.0, 0.5, 1.0)
    shifts = seen_by_eye(lamp, white, {"skin": petal})
    assert [shift.subject for shift in shifts] == [*SUBJECTS, "skin"], "a name that is taken takes nothing away"
    own = shifts[-1]
    assert own.members == ("skin",)
    assert own.chroma < 0.0 and own.lightness < 0.0
    assert own.delta_e[0] == pytest.approx(
        float(colour.difference.delta_E_CIE2000(own.before[0], own.after[0])), abs=1e-3
    )


def test_a_reflectance_goes_on_as_at_its_ends_where_it_was_not_measured():
    """CIE 15:2018, 7.2.3: missing values at the ends are taken as the nearest known."""
    inside = np.arange(400.0, 701.0, 10.0)
    grid = reflectance_on_grid(inside, 0.2 + 0.001 * (inside - 400.0))
    assert grid[WAVELENGTH_NM < 400.0] == pytest.approx(0.2)
    assert grid[WAVELENGTH_NM > 700.0] == pytest.approx(0.5)
    assert grid[WAVELENGTH_NM == 555.0] == pytest.approx(0.355, abs=1e-6)
