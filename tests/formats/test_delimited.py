import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from even_beam.formats import FormatError, NamedSpectrum, read_spectra, spectra_json
from even_beam.formats.delimited import read
from even_beam.formats.spectrum_file import MAX_BYTES

GRID = np.arange(380.0, 781.0, 5.0)
VALUES = np.linspace(0.1, 2.5, GRID.size)


def lines(delimiter: str, decimal: str = ".", columns: int = 1) -> str:
    def number(v: float) -> str:
        return f"{v:.6f}".replace(".", decimal)

    return "\n".join(
        delimiter.join([f"{w:g}", *[number(v * (k + 1)) for k in range(columns)]])
        for w, v in zip(GRID, VALUES, strict=True)
    )


@pytest.mark.parametrize(
    "text",
    [
        lines(","),
        lines(";"),
        lines("\t"),
        lines("  "),
        lines(";", ","),
        lines("\t", ","),
        lines(" ", ","),
        "wavelength,value\n" + lines(","),
        "Instrument;bench\nSerial;0417\nIntegration;120 ms\n\nnm;value\n" + lines(";", ","),
        lines(",").replace("\n", "\r\n"),
        "\n".join(reversed(lines(",").split("\n"))),
        "\ufeff" + lines(","),
        lines(",") + "\n\nend of data\n",
    ],
    ids=[
        "comma",
        "semicolon",
        "tab",
        "blanks",
        "decimal comma",
        "tab and decimal comma",
        "blank and decimal comma",
        "header",
        "preamble",
        "crlf",
        "descending",
        "bom",
        "trailer",
    ],
)
def test_the_shapes_that_instruments_write(text):
    (spectrum,) = read(text.encode("utf-8"), "lamp")
    np.testing.assert_allclose(spectrum.wavelength_nm, GRID)
    np.testing.assert_allclose(spectrum.values, VALUES, atol=1e-6)
    assert spectrum.name == "lamp"
    assert not spectrum.absolute
    assert "nanometres" in spectrum.understood


@pytest.mark.parametrize("encoding", ["utf-16", "utf-16-le", "latin-1"])
def test_encodings(encoding):
    (spectrum,) = read(("Größe,value\n" + lines(",")).encode(encoding), "lamp")
    assert spectrum.values.size == GRID.size


def test_several_spectra_in_columns_and_in_rows():
    found = read(("nm,first,second\n" + lines(",", columns=2)).encode(), "lamps")
    assert [s.name for s in found] == ["lamps first", "lamps second"]
    np.testing.assert_allclose(found[1].values, 2 * VALUES, atol=1e-5)
    rows = (
        ",".join(f"{w:g}" for w in GRID)
        + "\n"
        + ",".join(f"{v:.6f}" for v in VALUES)
        + "\n"
        + ",".join(f"{3 * v:.6f}" for v in VALUES)
    )
    found = read(rows.encode(), "lamps")
    assert len(found) == 2
    np.testing.assert_allclose(found[1].values, 3 * VALUES, atol=1e-5)


def test_micrometres():
    text = "\n".join(f"{w / 1000:.3f},{v:.6f}" for w, v in zip(GRID, VALUES, strict=True))
    (spectrum,) = read(text.encode(), "lamp")
    np.testing.assert_allclose(spectrum.wavelength_nm, GRID)
    assert "micrometres" in spectrum.understood


@pytest.mark.parametrize(
    ("unit", "factor"),
    [("W/m2/nm", 1.0), ("mW/m²/nm", 1e-3), ("µW/cm²/nm", 1e-2), ("W m-2 nm-1", 1.0), ("uW/cm^2/nm", 1e-2)],
)
def test_units_of_irradiance_make_it_absolute(unit, factor):
    (spectrum,) = read(f"wavelength nm,irradiance [{unit}]\n{lines(',')}".encode(), "lamp")
    assert spectrum.absolute
    np.testing.assert_allclose(spectrum.values, VALUES * factor, atol=1e-8)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"hello world\n" * 20, "no table"),
        (b"1,2\n3,4\n5,6\n7,8\n9,10\n11,12\n13,14\n15,16\n", "does not look like wavelengths"),
        (b"\x00\x01\x02\x03" * 400, "not a text file"),
        (b"380,1\n385,2\n", "no table"),
    ],
)
def test_what_is_no_spectrum_is_refused(content, words):
    with pytest.raises(FormatError, match=words):
        read(content, "lamp")


def test_letters_among_the_numbers_cut_the_table_there():
    text = lines(",").replace("0.130000", "0.13oo00", 1)
    (spectrum,) = read(text.encode(), "lamp")
    assert spectrum.wavelength_nm.size < GRID.size


def test_files_have_a_bearable_size(tmp_path):
    path = tmp_path / "huge.csv"
    with path.open("wb") as file:
        file.truncate(MAX_BYTES + 1)
    with pytest.raises(FormatError, match="It was not read"):
        read_spectra(path)
    empty = tmp_path / "empty.csv"
    empty.write_bytes(b"  \n")
    with pytest.raises(FormatError, match="is empty"):
        read_spectra(empty)
    with pytest.raises(FormatError, match="cannot be read"):
        read_spectra(tmp_path / "missing.csv")


def test_json_round_trip_is_exact(tmp_path):
    spectra = [NamedSpectrum("Tansy", GRID, VALUES * np.pi, True), NamedSpectrum("Sorrel", GRID, VALUES / 3.0)]
    path = tmp_path / "lamps.json"
    path.write_text(spectra_json.write(spectra), encoding="utf-8")
    found = read_spectra(path)
    for before, after in zip(spectra, found, strict=True):
        np.testing.assert_array_equal(before.values, after.values)
        assert (before.name, before.absolute) == (after.name, after.absolute)


@pytest.mark.parametrize(
    "content",
    [
        "[1, 2]",
        "{",
        '{"spectra": [{"values": [1]}]}',
        '{"spectra": [{"wavelength_nm": [1, 2], "values": [1]}]}',
        "[" * 100_000,
    ],
)
def test_wrong_json(content):
    with pytest.raises(FormatError):
        spectra_json.read(content.encode(), "lamp")


@given(st.binary(max_size=3000))
@settings(max_examples=150, deadline=None)
def test_any_bytes_are_read_or_refused(data):
    for reader in (read, spectra_json.read):
        try:
            for spectrum in reader(data, "x"):
                assert spectrum.wavelength_nm.size == spectrum.values.size
        except FormatError as error:
            assert str(error)


@given(st.lists(st.lists(st.floats(-1e3, 1e3), min_size=2, max_size=4), max_size=30), st.sampled_from([",", ";", "\t"]))
@settings(max_examples=80, deadline=None)
def test_any_table_of_numbers_is_read_or_refused(table, delimiter):
    text = "\n".join(delimiter.join(json.dumps(v) for v in row) for row in table)
    try:
        read(text.encode(), "x")
    except FormatError as error:
        assert str(error)
