import json
import os
import subprocess
import sys

import pytest
from click.testing import CliRunner

from even_beam.cli import handing_over, main
from even_beam.figures.picture_renderer import GROUNDS
from even_beam.handing_over.kinds import Kind
from even_beam.light import WAVELENGTH_NM, planckian
from even_beam.paper.label import SIZES


def run(*args: object):
    return CliRunner().invoke(main, [str(a) for a in args])


@pytest.fixture
def spectrum(tmp_path):
    path = tmp_path / "lamp.csv"
    rows = "\n".join(f"{w:g},{v!r}" for w, v in zip(WAVELENGTH_NM, (planckian(3200.0) * 1e-3).tolist(), strict=True))
    path.write_text(f"nm,irradiance W/m2/nm\n{rows}")
    return path


def test_inspect_prints_every_key(spectrum):
    result = run("inspect", spectrum, "--json")
    assert result.exit_code == 0
    figures = json.loads(result.output)
    assert set(figures) == {
        "file",
        "illuminance_lx",
        "cct_k",
        "duv",
        "x",
        "y",
        "u_prime",
        "v_prime",
        "peak_nm",
        "cri",
        "tm30",
        "ssi",
        "tlci",
    }
    assert figures["cct_k"] == pytest.approx(3200.0, rel=1e-5)
    assert figures["illuminance_lx"] > 0
    assert set(figures["tm30"]) == {"Rf", "Rg", "Rf_h", "Rcs_h", "Rhs_h"}
    assert len(figures["tm30"]["Rcs_h"]) == 16
    assert figures["ssi"]["reference"] == "matched"
    assert "3\u202f200 K" in run("inspect", spectrum).output


def test_inspect_against_and_references(spectrum, tmp_path):
    other = tmp_path / "other.csv"
    other.write_text(spectrum.read_text().replace("e-", "e-"))
    figures = json.loads(run("inspect", spectrum, "--against", other, "--ssi-reference", "P3200", "--json").output)
    assert figures["against"]["ssi"] == pytest.approx(100.0)
    assert figures["against"]["tlmf"] == pytest.approx(100.0)
    assert figures["against"]["stops"] == pytest.approx(0.0)
    assert figures["against"]["delta_u_v_prime"] == pytest.approx(0.0)
    assert figures["ssi"] == {"reference": "P3200", "value": pytest.approx(100.0)}
    d55 = json.loads(run("inspect", spectrum, "--ssi-reference", "D55", "--json").output)
    assert d55["ssi"]["value"] < 70.0
    assert run("inspect", spectrum, "--ssi-reference", "moonlight").exit_code == 2


def test_inspect_of_several_goes_on_after_a_bad_one(spectrum, tmp_path):
    bad = tmp_path / "bad.csv"
    bad.write_text("hello")
    result = CliRunner().invoke(main, ["inspect", str(spectrum), str(bad), str(spectrum), "--json"])
    assert result.exit_code == 1
    assert len(json.loads(result.stdout)) == 2
    assert "bad.csv" in result.stderr or "bad" in result.stderr
    assert run("inspect").exit_code == 2


def test_inspect_of_a_folder_streams_and_survives_a_bad_file(spectrum, tmp_path):
    folder = tmp_path / "many"
    folder.mkdir()
    for number in range(60):
        (folder / f"{number:02d}.csv").write_text(spectrum.read_text())
    (folder / "30.csv").write_text("hello")
    (folder / "notes.pdf").write_text("not a spectrum")
    result = CliRunner().invoke(main, ["inspect", str(folder), "--json"])
    assert result.exit_code == 1
    figures = json.loads(result.stdout)
    assert len(figures) == 59
    assert [f["file"] for f in figures] == sorted(f["file"] for f in figures)
    assert "30.csv: no table" in result.stderr
    empty = tmp_path / "empty"
    empty.mkdir()
    assert run("inspect", empty).exit_code == 2


def test_inspect_reads_several_spectra_of_one_file(tmp_path):
    path = tmp_path / "two.csv"
    path.write_text("\n".join(f"{w},{w / 500},{(900 - w) / 500}" for w in range(380, 781, 5)))
    assert len(json.loads(run("inspect", path, "--json").output)) == 2


def test_coloured_light_has_nulls(tmp_path):
    path = tmp_path / "green.csv"
    path.write_text("\n".join(f"{w},{1.0 if abs(w - 530) < 8 else 0.0}" for w in range(380, 781, 2)))
    figures = json.loads(run("inspect", path, "--json").output)
    assert figures["cct_k"] is None
    assert figures["cri"]["Ra"] is None
    assert figures["tm30"]["Rf_h"] == [None] * 16


def test_import_export_check_report(tmp_path):
    table, book = tmp_path / "old.csv", tmp_path / "mine.evenbeam"
    table.write_text(
        "fixture,quantity,value,unit,distance\nYarrow,illuminance,1600,lx,3 m\nYarrow,illuminance,16oo,lx,3 m\n"
    )
    result = CliRunner().invoke(main, ["import", str(table), str(book)])
    assert result.exit_code == 1  # one row was refused
    assert "line 3" in result.stderr
    assert "1 reading with 1 figure into" in result.stdout
    assert run("check", book).output.startswith("1 reading, 0 spectra")
    assert run("export", book, "--to", "xlsx", tmp_path / "all").exit_code == 0
    assert (tmp_path / "all.xlsx").exists()
    assert run("report", book, "--out", tmp_path / "page.html").exit_code == 0
    assert "Yarrow" in (tmp_path / "page.html").read_text()
    assert run("report", book, "--session", "none", "--out", tmp_path / "x.html").exit_code == 1


def test_an_import_of_nothing_leaves_no_logbook(tmp_path):
    bad = tmp_path / "bad.csv"
    bad.write_bytes(bytes(2000))
    done = run("import", bad, tmp_path / "new.evenbeam")
    assert done.exit_code == 1
    assert done.stderr.startswith("even-beam: bad.csv: ")
    assert not (tmp_path / "new.evenbeam").exists()


def test_messages_for_what_is_no_logbook(tmp_path):
    foreign = tmp_path / "foreign.evenbeam"
    foreign.write_text("hello")
    for command in (
        ["check", foreign],
        ["export", foreign, "--to", "csv", tmp_path / "x"],
        ["report", foreign, "--out", tmp_path / "x.pdf"],
    ):
        result = CliRunner().invoke(main, [str(a) for a in command])
        assert result.exit_code == 1
        assert "not an Even Beam logbook" in result.stderr
    assert run("check", tmp_path / "none.evenbeam").exit_code == 1


@pytest.mark.parametrize(("display", "words"), [({}, "no screen"), ({"DISPLAY": ":77"}, "does not answer")])
def test_without_a_screen_it_says_so_and_does_not_abort(tmp_path, display, words):
    environment = {k: v for k, v in os.environ.items() if k not in {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}}
    environment |= display
    result = subprocess.run(
        [sys.executable, "-m", "even_beam", "--demo"],
        capture_output=True,
        text=True,
        env=environment,
        check=False,
        timeout=60,
    )
    assert result.returncode == 1
    assert words in result.stderr


def test_start_up_imports_nothing_heavy():
    script = (
        "import sys, even_beam.app.window, even_beam.app.stations.bench.station; print([m for m in ('scipy',"
        " 'matplotlib', 'weasyprint', 'alembic', 'openpyxl', 'cv2', 'tifffile', 'imagecodecs', 'colour', 'luxpy')"
        " if m in sys.modules])"
    )
    result = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True, timeout=60)
    assert result.stdout.strip() == "[]"


@pytest.mark.long
def test_snapshot_draws_views(tmp_path):
    """A run, a dialog and the other theme. `make snapshot` draws them all."""
    result = run("snapshot", tmp_path / "shots", "--only", "bench,labels,paper-report")
    assert result.exit_code == 0, result.output
    from PIL import Image

    names = sorted(path.name for path in (tmp_path / "shots").glob("*.png"))
    assert len(names) == len(result.output.split()) == 3
    for name in names:
        picture = Image.open(tmp_path / "shots" / name)
        assert picture.size == (1280, 800)
        assert len(picture.convert("RGB").getcolors(1 << 24)) > 30  # not an empty window


def test_findings_of_one_lamp_in_words_and_as_json(demo):
    result = run("findings", demo, "--fixture", "comfrey", "--json")
    assert result.exit_code == 0, result.output
    (fixture,) = json.loads(result.stdout)["fixtures"]
    names = {f["name"] for f in fixture["findings"]}
    assert {"illuminance", "white error", "true minimum", "weakest sample"} <= names
    minimum = next(f for f in fixture["findings"] if f["name"] == "true minimum")
    assert minimum["value"] == pytest.approx(-3.2, abs=0.1)  # its 1 % is 11 %
    assert minimum["readings"]
    assert {"claim", "value", "terms", "verdict"} <= set(fixture["claims"][0])
    purposes = {v["purpose"]: v for v in fixture["verdicts"]}
    assert purposes["skin key"]["answer"] == "outside"
    assert purposes["skin key"]["certain"]
    words = run("findings", demo, "--fixture", "Comfrey").stdout
    assert len(words.splitlines()) <= 15
    assert len(set(words.splitlines())) == len(words.splitlines())
    assert len(run("findings", demo, "--fixture", "Comfrey", "--all").stdout.splitlines()) > 60
    assert "dimming: At 1 %, the lowest read, it gives 11 % of full" in words
    assert "purpose: It is not good enough for skin key" in words
    assert "claim: Ra 90+ claimed" in words
    missing = run("findings", demo, "--fixture", "Foxglove", "--json")
    assert missing.exit_code == 1
    assert "there are readings of" in missing.stderr


def test_compare_on_the_command_line(demo):
    result = run("compare", demo, "--fixtures", "Tansy,Burdock", "--at", "cct=5600,level=100,distance=3 m", "--json")
    assert result.exit_code == 0, result.output
    found = json.loads(result.stdout)
    assert found["reference"] == "Tansy"
    assert found["at"] == {"cct_k": 5600.0, "level_pct": 100.0, "distance_m": 3.0}
    burdock = found["entries"][1]
    assert burdock["stops"] == pytest.approx(1.25, abs=0.05)
    assert burdock["read_at_m"] == 3.0
    assert any(t["evenness"] == "brought to common terms" for t in found["terms"])
    assert "stops" in found["sentences"][0]
    assert "Tansy brought from 2 m by the inverse-square law" in found["sentences"][0]
    assert burdock["uncertainty"]["parts"].keys() >= {"distance law", "repeatability"}
    assert "calibration of the meter" not in burdock["uncertainty"]["parts"]  # one meter: it cancels
    inward = json.loads(run("compare", demo, "--fixtures", "Tansy,Burdock", "--at", "distance=2 m", "--json").stdout)
    assert inward["entries"][1]["ratio"] is None
    assert "nothing is brought inward" in inward["entries"][1]["why_not"]
    assert "brighter than Tansy" in run("compare", demo, "--fixtures", "Tansy,Burdock").stdout
    for arguments, words in (
        (("--fixtures", "Tansy,Nobody"), "no readings of"),
        (("--fixtures", "Tansy", "--at", "mood=1"), "write cct="),
        (("--fixtures", "Tansy", "--at", "cct=warm"), "warm"),
    ):
        wrong = run("compare", demo, *arguments)
        assert wrong.exit_code == 1
        assert words in wrong.stderr
    assert run("compare", demo, "--fixtures", " , ").exit_code == 2


def test_choices_of_the_command_line_are_those_of_the_reports():
    assert tuple(Kind) == handing_over.KINDS
    assert tuple(SIZES) == handing_over.SIZES
    assert tuple(GROUNDS) == handing_over.GROUNDS
