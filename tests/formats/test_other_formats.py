import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from openpyxl import Workbook

from even_beam.files.errors import OutputError
from even_beam.formats import FormatError, NamedSpectrum, cgats, delimited, read_spectra, tm27, write_spectra
from even_beam.formats.delimited import Mapping

GRID = np.arange(380.0, 781.0, 5.0)
VALUES = np.random.default_rng(3).random(GRID.size) * np.pi
TANSY = NamedSpectrum("Tansy, reflector", GRID, VALUES, True)


@pytest.mark.parametrize("suffix", [".xml", ".json", ".cgats"])
def test_round_trips_are_exact(tmp_path, suffix):
    path = tmp_path / f"tansy{suffix}"
    write_spectra(path, [TANSY])
    (found,) = read_spectra(path)
    np.testing.assert_array_equal(found.wavelength_nm, GRID)
    np.testing.assert_array_equal(found.values, VALUES)
    assert "Tansy" in found.name
    assert found.absolute == (suffix != ".cgats")


def test_writing_says_what_cannot_be(tmp_path):
    with pytest.raises(FormatError, match="one spectrum a file"):
        write_spectra(tmp_path / "x.xml", [TANSY, TANSY])
    with pytest.raises(FormatError, match="written as"):
        write_spectra(tmp_path / "x.doc", [TANSY])
    with pytest.raises(OutputError, match="could not be written"):
        write_spectra(tmp_path / "no" / "x.json", [TANSY])
    with pytest.raises(FormatError, match="one wavelength grid"):
        cgats.write([TANSY, NamedSpectrum("b", GRID[1:], VALUES[1:])])


BOMB = """<?xml version="1.0"?>
<!DOCTYPE lolz [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">
<!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;">]>
<IESTM2714><SpectralDistribution><SpectralData wavelength="400">&c;</SpectralData></SpectralDistribution></IESTM2714>"""
OUTSIDE = """<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/hostname">]><IESTM2714>&e;</IESTM2714>"""


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (BOMB, "entities"),
        (OUTSIDE, "entities"),
        ("<?xml version='1.0'?><IESTM2714>", "not well-formed"),
        ("<?xml version='1.0'?><other/>", "not <IESTM2714>"),
        ("<?xml version='1.0'?><IESTM2714/>", "no <SpectralDistribution>"),
        (
            "<?xml version='1.0'?><IESTM2714><SpectralDistribution><SpectralQuantity>mood</SpectralQuantity>"
            "</SpectralDistribution></IESTM2714>",
            "the standard has",
        ),
        (tm27.write([TANSY]).replace('wavelength="400.0"', 'wavelength="379.0"'), "must increase"),
        (tm27.write([TANSY]).replace('wavelength="400.0"', 'w="400"'), "without a wavelength"),
    ],
)
def test_hostile_and_broken_xml(text, words):
    with pytest.raises(FormatError, match=words):
        tm27.read(text.encode(), "lamp")


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda t: t.replace("END_DATA\n", ""), "cut off"),
        (lambda t: t.replace("SPECTRAL_NM", "FIELD_"), "none of its"),
        (lambda t: t.replace(repr(float(VALUES[3])), "l2"), "letters in a number"),
        (lambda t: t.replace(f" {float(VALUES[3])!r}", ""), "cells for"),
        (lambda t: t.replace("SPECTRAL_NM385", "SPECTRAL_NM380"), "stands twice"),
    ],
)
def test_broken_cgats(change, words):
    with pytest.raises(FormatError, match=words):
        cgats.read(change(cgats.write([TANSY])).encode(), "lamp")


def test_cgats_with_several_rows_and_other_field_names():
    text = cgats.write([TANSY, NamedSpectrum("Sorrel", GRID, 2 * VALUES)]).replace("SPECTRAL_NM", "SPEC_")
    found = cgats.read(text.replace("\n", "\r\n").encode(), "lamps")
    assert [s.name for s in found] == ["lamps Tansy, reflector", "lamps Sorrel"]
    np.testing.assert_array_equal(found[1].values, 2 * VALUES)


def test_spreadsheets(tmp_path):
    book = Workbook()
    sheet = book.active
    sheet.append(["nm", "Tansy mW/m2/nm", "Sorrel"])
    for nm, value in zip(GRID.tolist(), VALUES.tolist(), strict=True):
        sheet.append([nm, value, 2 * value])
    path = tmp_path / "lamps.xlsx"
    book.save(path)
    found = read_spectra(path)
    assert len(found) == 2
    np.testing.assert_allclose(found[1].values, 2e-3 * VALUES)
    assert found[0].absolute
    path.write_bytes(path.read_bytes()[:500])
    with pytest.raises(FormatError, match="not a readable spreadsheet"):
        read_spectra(path)


def test_a_mapping_overrules_the_guess_and_is_remembered(tmp_path, logbook):
    from even_beam.answers.intake.mappings import known_mappings, remember_mapping
    from even_beam.answers.spectrum.files import open_file, preview, read_again

    text = "run;7\nnm;dark;lamp\n" + "\n".join(f"{w:g};0.001;{v:.5f}" for w, v in zip(GRID, VALUES, strict=True))
    path = tmp_path / "first.csv"
    path.write_text(text)
    opened = open_file(path, known_mappings(logbook))
    assert len(opened.spectra) == 2
    wanted = Mapping(**{**opened.mapping.as_content(), "columns": (2,), "unit": "mW/m2"})
    shown = preview(list(opened.lines), "first", wanted)
    assert shown.good
    assert "one spectrum" in shown.words
    again = read_again(opened, wanted)
    assert len(again.spectra) == 1
    assert again.spectra[0].absolute
    np.testing.assert_allclose(again.spectra[0].values, 1e-3 * VALUES, atol=1e-8)
    remember_mapping(logbook, opened.shape, wanted)
    other = tmp_path / "second.csv"
    other.write_text(text.replace("run;7", "run;8"))
    found = read_spectra(other, known_mappings(logbook))
    assert len(found) == 1
    assert found[0].absolute
    stranger = tmp_path / "third.csv"
    stranger.write_text(text.replace("dark", "background"))
    assert len(read_spectra(stranger, known_mappings(logbook))) == 2
    bad = preview(list(opened.lines), "first", Mapping(first_line=40))
    assert not bad.good
    with pytest.raises(FormatError):
        Mapping.from_content({"colour": "red"})
    assert Mapping.from_content(json.loads(json.dumps(wanted.as_content()))) == wanted


def test_content_tells_where_the_suffix_does_not(tmp_path):
    xml, rows = tmp_path / "lamp.dat", tmp_path / "rows.txt"
    xml.write_text(tm27.write([TANSY]))
    rows.write_text(cgats.write([TANSY]))
    assert read_spectra(xml)[0].understood.startswith("IES TM-27")
    assert read_spectra(rows)[0].understood.startswith("CGATS")


@given(st.binary(max_size=2000) | st.text(max_size=1500).map(str.encode))
@settings(max_examples=120, deadline=None)
def test_any_bytes_end_in_spectra_or_a_clear_error(data):
    for reader in (tm27.read, cgats.read, delimited.read):
        try:
            reader(data, "x")
        except FormatError as error:
            assert str(error)


@given(st.integers(0, 3000), st.binary(min_size=1, max_size=6))
@settings(max_examples=120, deadline=None)
def test_a_damaged_file_ends_in_spectra_or_a_clear_error(place, noise):
    for text, reader in ((tm27.write([TANSY]), tm27.read), (cgats.write([TANSY]), cgats.read)):
        data = bytearray(text.encode())
        data[place % len(data) : place % len(data) + len(noise)] = noise
        try:
            reader(bytes(data), "x")
        except FormatError as error:
            assert str(error)
