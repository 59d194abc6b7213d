"""One white by one name: what a target on the Bench and one in Match understand by it."""

import colour
import pytest

from even_beam.answers.match.target_text import of_white
from even_beam.answers.match.view import spoken
from even_beam.said.white import white_said
from even_beam.words.entry import EntryError


@pytest.mark.parametrize("white", [5000.0, 5600.0, 6500.0])
def test_a_white_without_a_tint_is_daylight_from_5000_k_on(white):
    """Duv of CIE daylight of that CCT, by colour-science: its daylight chromaticity, then Ohno's (2013) CCT and Duv."""
    found = white_said(f"{white:.0f}")
    xy = colour.temperature.CCT_to_xy_CIE_D(white * 1.4388 / 1.4380)
    _, duv = colour.temperature.uv_to_CCT_Ohno2013(colour.UCS_to_uv(colour.XYZ_to_UCS(colour.xy_to_XYZ(xy))))
    assert found.cct_k == white
    assert found.duv == pytest.approx(duv, abs=2e-4)


@pytest.mark.parametrize(
    ("text", "cct", "duv"),
    [
        ("3200", 3200.0, 0.0),
        ("3200 K", 3200.0, 0.0),
        ("3200 K +0.002", 3200.0, 0.002),
        ("+0.002 3200", 3200.0, 0.002),
        ("5600, 0.000", 5600.0, 0.0),
        ("5600 K duv -0.001", 5600.0, -0.001),
        ("4000", 4000.0, 0.0),
    ],
)
def test_whites_as_they_are_said(text, cct, duv):
    found = white_said(text)
    assert (found.cct_k, found.duv) == (cct, pytest.approx(duv, abs=1e-12))


def test_daylight_of_a_nominal_temperature():
    """CIE 15:2018: D55 and D65 have 5503 and 6504 K by the present constant c2."""
    assert white_said("D55").cct_k == pytest.approx(5503.0, abs=2.0)
    assert white_said("D65").cct_k == pytest.approx(6504.0, abs=2.0)
    assert white_said("daylight 5500").cct_k == pytest.approx(5500.0, abs=1.0) and white_said("D55").name == "D55"
    more, plain = white_said("daylight 5600 +0.002"), white_said("daylight 5600 K")
    assert more.duv == pytest.approx(plain.duv + 0.002)
    assert plain.name == "daylight 5600 K"


@pytest.mark.parametrize("text", ["", "spot", "820", "90000", "5600 3200", "daylight 3000", "5600 50 %", "0.33, 0.34"])
def test_what_is_no_white(text):
    with pytest.raises(EntryError):
        white_said(text)


@pytest.mark.parametrize("text", ["5600", "3200 K +0.002", "D55", "4500"])
def test_match_means_the_same(text):
    parts = dict(part.split("=") for part in spoken(text, []).split(";"))
    there, here = of_white(float(parts["cct"]), float(parts["duv"])), white_said(text)
    assert (there.cct_k, there.duv) == (pytest.approx(here.cct_k), pytest.approx(here.duv))
