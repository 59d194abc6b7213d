"""LM-63 as another program reads it: luxpy's reader and its sample files (luxpy, K. Smet, GPL-3, from the registry)."""

from pathlib import Path

import luxpy
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from luxpy.toolboxes.iolidfiles.io_lid_files import read_lamp_data

from even_beam.answers.spectrum.beams import beam_figures, flux_of
from even_beam.formats import FormatError, lm63
from even_beam.formats.lm63 import Photometry

SAMPLE = Path(luxpy.__file__).parent / "toolboxes" / "iolidfiles" / "data" / "luxpy_test_lid_file.ies"


def _photometry(planes=(0.0, 180.0)):
    vertical = np.array([0.0, 5.0, 10.0, 20.0, 20.1, 90.0])
    candela = np.array([[1000.0 / (1 + k), 900.0, 500.5, 100.25, 0.0, 0.0] for k in range(len(planes))])
    return Photometry(
        vertical,
        np.array(planes),
        candela,
        {"TEST": ["an evening"], "OTHER": ["one · 5600 K −0.36", "two"]},
        watts=120.0,
    )


def test_another_reader_reads_what_is_written(tmp_path):
    path = tmp_path / "beam.ies"
    path.write_text(lm63.write(_photometry()), encoding="ascii")
    read = read_lamp_data(str(path), normalize=None)
    assert read["v_angs"] == pytest.approx([0.0, 5.0, 10.0, 20.0, 20.1, 90.0])
    assert read["h_angs"] == pytest.approx([0.0, 180.0])
    assert read["candela_2d"] == pytest.approx(_photometry().candela)
    assert (read["photometric_type"], read["units_type"], read["lumens_per_lamp"]) == (1, 2, -1)
    assert read["input_watts"] == 120.0


def test_we_read_what_another_program_reads():
    ours, theirs = lm63.read(SAMPLE.read_bytes(), SAMPLE.name), read_lamp_data(str(SAMPLE), normalize=None)
    assert ours.vertical_deg == pytest.approx(theirs["v_angs"])
    assert ours.horizontal_deg == pytest.approx(theirs["h_angs"])
    assert ours.candela == pytest.approx(theirs["candela_2d"] * theirs["candela_mult"])
    assert len(ours.keywords) >= 1


def test_a_round_trip_is_exact():
    ours = lm63.read(lm63.write(_photometry()).encode(), "beam")
    assert ours.candela == pytest.approx(_photometry().candela, rel=1e-6)
    assert ours.keywords == {"TEST": ["an evening"], "OTHER": ["one , 5600 K -0.36", "two"]}
    assert ours.generation_type == lm63.UNACCREDITED


@given(st.floats(1.0, 89.0), st.floats(10.0, 1e6))
def test_the_flux_of_a_cone_is_its_solid_angle(half_angle, candela):
    """Closed form: I 2 pi (1 - cos a)."""
    vertical = np.array([0.0, half_angle, half_angle + 1e-4, 90.0])
    cone = Photometry(vertical, np.array([0.0]), np.array([[candela, candela, 0.0, 0.0]]))
    assert flux_of(cone) == pytest.approx(candela * 2.0 * np.pi * (1.0 - np.cos(np.deg2rad(half_angle))), rel=1e-3)


def test_the_flux_of_a_lambertian_source_is_pi_times_its_axis():
    """Closed form: pi I0 over the half space, whatever the number of planes."""
    vertical = np.linspace(0.0, 90.0, 181)
    plane = 250.0 * np.cos(np.deg2rad(vertical))
    for planes in ((0.0,), (0.0, 90.0), (0.0, 45.0, 90.0, 180.0), (0.0, 120.0, 360.0)):
        beam = Photometry(vertical, np.array(planes), np.tile(plane, (len(planes), 1)))
        assert flux_of(beam) == pytest.approx(250.0 * np.pi, rel=1e-3)


def test_the_angles_of_a_beam(tmp_path):
    """A triangle falls to half and to a tenth where its line says."""
    path = tmp_path / "beam.ies"
    vertical = np.array([0.0, 20.0, 90.0])
    path.write_text(lm63.write(Photometry(vertical, np.array([0.0]), np.array([[1000.0, 0.0, 0.0]]))))
    found = beam_figures(path)
    assert found["beam_angle_deg"] == pytest.approx(20.0)
    assert found["field_angle_deg"] == pytest.approx(36.0)
    assert found["peak_cd"] == 1000.0


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "does not begin"),
        ("hello\nTILT=NONE\n", "does not begin"),
        ("IES:LM-63-2019\nTILT=INCLUDE\n", "only TILT=NONE"),
        ("IES:LM-63-2019\nTILT=NONE\n1 -1 1\n", "cut off"),
        ("IES:LM-63-2019\nTILT=NONE\n1 -1 1 2 1 1 2 0 0 0\n1 1 0\n0 90\n0\n5 nan\n", "none"),
        ("IES:LM-63-2019\nTILT=NONE\n1 -1 1 2 1 1 2 0 0 0\n1 1 0\n0 90\n0\n5 x\n", "where a number belongs"),
        ("IES:LM-63-2019\nTILT=NONE\n1 -1 1 2 1 1 2 0 0 0\n1 1 0\n0 90\n0\n5\n", "2 angles in 1 planes"),
        ("IES:LM-63-2019\nTILT=NONE\n1 -1 1 2 1 3 2 0 0 0\n1 1 0\n0 90\n0\n5 1\n", "type 3"),
        ("IES:LM-63-2019\nTILT=NONE\n1 -1 1 1e9 1e9 1 2 0 0 0\n1 1 0\n", "numbers"),
    ],
)
def test_what_is_no_such_file_says_why(text, words):
    with pytest.raises(FormatError, match=words):
        lm63.read(text.encode(), "beam")


def test_feet_multiplier_and_ballast_are_taken_into_account():
    """Units 1 are feet of 0.3048 m (NIST SP 811); candela are values times multiplier times ballast factor."""
    text = "IESNA:LM-63-2002\nTILT=NONE\n1 -1 3 3 2 1 1 1 2 4\n0.5 1 100\n0 45 90\n0 90\n10 20 30\n40 50 60\n"
    read = lm63.read(text.encode(), "beam")
    assert read.candela.tolist() == [[15.0, 30.0, 45.0], [60.0, 75.0, 90.0]]
    assert (read.width_m, read.length_m, read.height_m) == pytest.approx((0.3048, 0.6096, 1.2192))
    in_metres = lm63.read(text.replace("3 3 2 1 1 1 2 4", "3 3 2 1 2 1 2 4").encode(), "beam")
    assert (in_metres.width_m, in_metres.length_m, in_metres.height_m) == (1.0, 2.0, 4.0)
    assert (read.watts, read.generation_type) == (100.0, 1.0)


def test_the_file_says_how_it_was_made():
    assert (
        f"{lm63.SIMULATED:.5f}" == "1.00010" and f"{lm63.UNACCREDITED:.5f}" == "1.00000"
    )  # from memory of the standard
