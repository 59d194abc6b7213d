"""A number in a file's name that is no term names a unit; and which step of a run a file belongs to. Invented names."""

import numpy as np
import pytest
from click.testing import CliRunner

from even_beam.answers.intake.assigning import steps_for
from even_beam.answers.intake.naming import NamedSo, proposed
from even_beam.answers.intake.spectra import FoundSpectrum
from even_beam.bench.records import Source, Step, Terms
from even_beam.cli import main
from even_beam.formats import NamedSpectrum
from even_beam.light import WAVELENGTH_NM, planckian
from even_beam.logbook.store import Logbook


@pytest.mark.parametrize(
    ("name", "lamp", "texts"),
    [
        ("Bittern 60", "Bittern 60", {}),
        ("Bittern 200", "Bittern 200", {}),
        ("Bittern 300 5600 50", "Bittern 300", {"cct": "5600", "level": "50"}),
        ("Panel1", "Panel1", {}),
        ("Panel2_3200K_100%", "Panel2", {"cct": "3200", "level": "100"}),
        ("Sc00", "Sc00", {}),
        ("Sc59", "Sc59", {}),
        ("Kit-A1", "Kit-A1", {}),
        ("Kit-A1-5600-50", "Kit-A1", {"cct": "5600", "level": "50"}),
        ("Heron 5600 50 001", "Heron", {"cct": "5600", "level": "50"}),
        ("Heron 60 5600", "Heron 60", {"cct": "5600"}),
        ("Heron 5600 2m", "Heron", {"cct": "5600", "distance": "2 m"}),
        ("Heron 5600 K 50 % 1.5 m", "Heron", {"cct": "5600", "level": "50", "distance": "1.5 m"}),
        ("Heron 5600 (2)", "Heron", {"cct": "5600"}),
        ("Tansy tungsten 3200", "Tansy", {}),
        ("Reed 3200", "Reed", {}),
        ("Great northern 5600 10ft", "Great northern", {"cct": "5600", "distance": "10 ft"}),
        ("2026-10-03 Heron 5600", "Heron", {"cct": "5600"}),
        ("20261003", "", {}),
        ("12", "", {}),
    ],
)
def test_what_a_name_is_taken_for(name, lamp, texts):
    assert proposed([name], ("Heron", "Tansy", "Reed"), without_dial=frozenset({"Reed"})) == NamedSo(lamp, texts)


def spectrum(path, white: float) -> None:
    rows = "\n".join(f"{w:g},{v!r}" for w, v in zip(WAVELENGTH_NM, planckian(white).tolist(), strict=True))
    path.write_text(f"nm,value\n{rows}\n", encoding="utf-8")


def test_units_of_one_model_stay_units_and_the_table_is_printed(tmp_path):
    folder = tmp_path / "Units"
    folder.mkdir()
    for number in (60, 200, 300):
        spectrum(folder / f"Bittern {number}.csv", 5000.0)
    done = CliRunner().invoke(main, ["import", str(folder), str(tmp_path / "e.evenbeam")])
    assert done.exit_code == 0, done.output
    assert "Bittern 60: Bittern 60, " in done.output
    book = Logbook.open_to_read(tmp_path / "e.evenbeam")
    assert {"Bittern 60", "Bittern 200", "Bittern 300"} <= {s.nickname for s in book.all(Source)}
    book.close()


def test_files_that_would_become_repeats_are_asked_about(tmp_path):
    folder = tmp_path / "Twice"
    folder.mkdir()
    for number in ("001", "002"):
        spectrum(folder / f"Heron 5600 {number}.csv", 5600.0)
    book = str(tmp_path / "e.evenbeam")
    asked = CliRunner().invoke(main, ["import", str(folder), book])
    assert asked.exit_code == 3 and "repeats" in asked.output and not (tmp_path / "e.evenbeam").exists()
    kept = CliRunner().invoke(main, ["import", str(folder), book, "--keep"])
    assert kept.exit_code == 0 and "2 readings" in kept.output


def test_a_table_by_its_columns_and_by_guess(tmp_path):
    sheet = tmp_path / "a.csv"
    sheet.write_text("a,b,c\nHeron,76,96\n", encoding="utf-8")
    book = str(tmp_path / "e.evenbeam")
    assert CliRunner().invoke(main, ["import", str(sheet), book]).exit_code == 1
    done = CliRunner().invoke(main, ["import", str(sheet), book, "--columns", "Lamp,fc@10 ft,Ra"])
    assert done.exit_code == 0, done.output
    assert "fc@10 ft: figures: illuminance, fc, at 10 ft" in done.output
    cri = tmp_path / "cri.csv"
    cri.write_text("Lamp,Lux,CRI\nHeron,820,96\n", encoding="utf-8")
    asked = CliRunner().invoke(main, ["import", str(cri), book, "--guess"])
    assert asked.exit_code == 3 and "mean of all fifteen" in asked.output
    other = tmp_path / "b.csv"
    other.write_text("Lamp,Lux,Mood\nHeron,820,good\nMean,820,\n", encoding="utf-8")
    guessed = CliRunner().invoke(main, ["import", str(other), book, "--guess"])
    assert guessed.exit_code == 0 and "left out: the column Mood" in guessed.output
    assert "sums up the others" in guessed.output


STEPS = [
    Step(f"s{place}", "session", float(place), (lamp,), Terms(cct_k=white, level_pct=level), ("cct",), "m")
    for place, (lamp, white, level) in enumerate(
        [("one", 3200.0, 100.0), ("one", 5600.0, 100.0), ("one", 5600.0, 50.0), ("two", 4300.0, 100.0)]
    )
]
NAMES = {"one": "Heron", "two": "Tansy"}


def found(name: str, white: float) -> FoundSpectrum:
    named = NamedSpectrum(name, np.asarray(WAVELENGTH_NM), np.asarray(planckian(white)), absolute=False)
    return FoundSpectrum(named, f"{name}.csv", proposed([name], NAMES.values()))


def test_a_file_goes_to_the_step_that_its_name_or_its_white_fits():
    files = [found("Heron 5600 50", 5600.0), found("Tansy", 4300.0), found("04", 3250.0), found("05", 5600.0)]
    assert steps_for(files, STEPS, NAMES) == [2, 3, 0, 1], "50 % by its name; the last open one of 5600 K"


def test_where_neither_tells_it_is_asked():
    assert steps_for([found("x", 5600.0)], STEPS, NAMES) == [None], "two steps of 5600 K are open"
    assert steps_for([found("y", 9000.0)], STEPS, NAMES) == [None]
    assert steps_for([found("Heron 2700", 2700.0)], STEPS, NAMES) == [None], "no step asks for that"
