"""Spectra named by their files: eight lamps in one pass, patterns, folders, a name before each row."""

import numpy as np
import pytest
from click.testing import CliRunner

from even_beam.answers.intake.naming import NamedSo, by_pattern, proposed
from even_beam.bench.records import Source
from even_beam.cli import main
from even_beam.formats import FormatError, read_spectra
from even_beam.light import WAVELENGTH_NM, planckian
from even_beam.logbook.store import Logbook

LAMPS = ("Tansy", "Sorrel", "Heron")


@pytest.mark.parametrize(
    ("name", "expected"),
    [
        ("Heron 5600 50", NamedSo("Heron", {"cct": "5600", "level": "50"})),
        ("heron_3200K_100%", NamedSo("Heron", {"cct": "3200", "level": "100"})),
        ("2026-11-20 Tansy 4300", NamedSo("Tansy", {"cct": "4300"})),
        ("New Lamp 5600", NamedSo("Lamp", {"cct": "5600"})),
        ("Foxglove", NamedSo("Foxglove")),
        ("spectrum_001", NamedSo("")),
        ("Tansy 50%", NamedSo("Tansy", {"level": "50"})),
        ("Tansy 99999", NamedSo("Tansy 99999")),
    ],
)
def test_what_a_name_says(name, expected):
    found = proposed([name], LAMPS)
    if expected.lamp == "Lamp":
        assert found.texts == expected.texts  # words that say nothing are no part of a name
    else:
        assert found == expected


def test_a_pattern_of_ones_own():
    assert by_pattern("{lamp}_{cct}_{level}", ["Big_Heron_5600_50"]) == NamedSo(
        "Big Heron", {"cct": "5600", "level": "50"}
    )
    assert by_pattern("{any} {lamp} {cct}", ["0012 Heron 3200K"]) == NamedSo("Heron", {"cct": "3200K"})
    for pattern, names in (("{mood}", ["x"]), ("plain", ["x"]), ("{lamp} {cct}", ["Heron"])):
        with pytest.raises(FormatError):
            by_pattern(pattern, names)


def _write(path, white: float) -> None:
    rows = "\n".join(f"{w:g},{v!r}" for w, v in zip(WAVELENGTH_NM, planckian(white).tolist(), strict=True))
    path.write_text(f"nm,value\n{rows}\n", encoding="utf-8")


def test_a_folder_of_eight_lamps(tmp_path):
    folder = tmp_path / "Spring shoot"
    folder.mkdir()
    for i in range(8):
        _write(folder / f"Lamp{'ABCDEFGH'[i]} {3000 + 300 * i} 50.csv", 3000.0 + 300.0 * i)
    book = tmp_path / "kit.evenbeam"
    done = CliRunner().invoke(main, ["import", str(folder), str(book), "--map", "{lamp} {cct} {level}"])
    assert done.exit_code == 0, done.output
    assert "8 readings" in done.output
    logbook = Logbook.open_to_read(book)
    (session,) = logbook.sessions()
    assert session.name == "Spring shoot"
    names = {s.id: s.nickname for s in logbook.all(Source)}
    read = [(names[r.source_ids[0]], r.terms.cct_k, r.terms.level_pct) for r in logbook.readings(session.id)]
    assert read[0] == ("LampA", 3000.0, 50.0)
    assert len({name for name, _, _ in read}) == 8
    logbook.close()


def test_one_spectrum_a_row_with_its_name(tmp_path):
    grid = np.arange(380, 781, 5)
    rows = [",".join(["lamp", *map(str, grid)])]
    rows += [",".join([name, *(f"{1.0 + i}" for _ in grid)]) for i, name in enumerate(("Tansy 5600", "Sorrel 3200"))]
    path = tmp_path / "all.csv"
    path.write_text("\n".join(rows), encoding="utf-8")
    assert [s.name for s in read_spectra(path)] == ["all Tansy 5600", "all Sorrel 3200"]
    assert read_spectra(path)[1].values[0] == 2.0


def test_a_level_beyond_full_is_none():
    assert proposed(["Tansy 150%"], LAMPS).texts == {}
    assert proposed(["Tansy 5600 150"], LAMPS).texts == {"cct": "5600"}
    assert proposed(["Tansy 5600 100"], LAMPS).texts == {"cct": "5600", "level": "100"}


def test_what_a_pattern_finds_and_cannot_be_is_refused_not_left_out():
    with pytest.raises(FormatError, match="level"):
        by_pattern("{lamp} {cct} {level}", ["Heron 5600 150"])
