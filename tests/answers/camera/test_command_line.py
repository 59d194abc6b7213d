"""`even-beam chart`, `flicker`, `fade`, `edge`, `wall`, `film`: what they print, and what they say of wrong files."""

import json

import numpy as np
import pytest
from click.testing import CliRunner
from PIL import Image

from even_beam.cli import main
from even_beam.instruments import simulated_flicker
from even_beam.light import WAVELENGTH_NM, daylight, planckian
from even_beam.light.rendering import seen_by_camera
from tests.camera.photographed import scene, shot

FLASH = daylight(5600.0)
AT = scene(5, turned=False)
CORNERS = ";".join(f"{x:.1f},{y:.1f}" for x, y in AT.corners)


def run(*args: object):
    return CliRunner().invoke(main, [str(a) for a in args])


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    folder = tmp_path_factory.mktemp("camera")
    shot(folder / "flash.tif", FLASH, FLASH, AT, 1)
    shot(folder / "warm.tif", planckian(4600.0) / planckian(4600.0)[180] * FLASH[180] * 0.7, FLASH, AT, 2)
    for name, level in (("bicolour panel", 0.3), ("six emitters", 0.5)):
        wave = simulated_flicker.waveform(simulated_flicker.DRIVERS[name], level, 1.0, 20_000.0, 1)
        _table(folder / f"{name.split()[0]}.csv", np.arange(wave.light.size) / wave.rate_hz, wave.light)
    _table(folder / "down.csv", *simulated_flicker.fade(4.0, 500.0, levels=40, exponent=2.0, floor=0.01))
    _table(folder / "up.csv", *simulated_flicker.fade(4.0, 500.0, up=True))
    (folder / "notes.txt").write_text("no picture")
    return folder


def _table(path, seconds, light):
    np.savetxt(path, np.stack([seconds, light], 1), "%.7g", ",", header="time s,light", comments="")


def test_a_chart_as_json(folder):
    found = json.loads(run("chart", folder / "warm.tif", "--against", folder / "flash.tif", "--json").output)
    assert set(found) == {
        "file", "chart", "corners", "corners_found", "patches", "mean_as_shot", "mean_balanced", "skin", "worst",
        "level_stops", "evenness_pct", "understood", "warnings",
    }  # fmt: skip
    assert set(found["patches"][0]) == {
        "name", "srgb_linear", "lab", "delta_e_as_shot", "delta_e_balanced", "skipped",
    }  # fmt: skip
    assert len(found["patches"]) == 24 and found["patches"][0]["name"] == "deep skin"
    shots = [p["delta_e_as_shot"] for p in found["patches"] if p["skipped"] is None]
    assert found["mean_as_shot"] == pytest.approx(np.mean([s for s in shots if s is not None]))
    assert found["mean_balanced"] < found["mean_as_shot"]
    assert found["corners_found"] and np.array(found["corners"]) == pytest.approx(np.array(AT.corners), abs=3.0)


def test_corners_that_are_given_are_taken(folder):
    arguments = ("chart", folder / "warm.tif", "--against", folder / "flash.tif", "--json")
    placed = json.loads(run(*arguments, "--corners", CORNERS, "--benchmark-corners", CORNERS).output)
    found = json.loads(run(*arguments).output)
    assert not placed["corners_found"]
    assert placed["mean_balanced"] == pytest.approx(found["mean_balanced"], abs=0.1)
    assert placed["level_stops"] == pytest.approx(found["level_stops"], abs=0.03)


def test_several_photographs_are_an_array_and_a_wrong_one_is_said(folder):
    result = run("chart", folder / "warm.tif", folder / "notes.txt", "--against", folder / "flash.tif", "--json")
    assert result.exit_code == 1
    assert [one["file"] for one in json.loads(result.stdout)] == ["warm.tif"]
    assert "notes.txt" in result.stderr


def test_sentences_of_a_chart(folder):
    said = run("chart", folder / "warm.tif", folder / "flash.tif", "--against", folder / "flash.tif").output
    assert "As shot greys are yellower" in said
    assert "darker than flash.tif" in said
    assert "0.0 from flash.tif" in said and "no cast" in said
    assert "the files do not say their exposure" in said
    repeated = run("chart", folder / "flash.tif", folder / "flash.tif", "--against", folder / "warm.tif", "--repeats")
    assert "± 0.0" in repeated.output


def test_beside_the_standard_camera(folder, tmp_path):
    """The spectra of the very lights: the standard camera's own figures are those of the library module, and the words
    say which sees more."""
    for name, light in (("warm", planckian(4600.0)), ("flash", FLASH)):
        rows = zip(WAVELENGTH_NM, light / light.max(), strict=True)
        (tmp_path / f"{name}.csv").write_text("nm,value\n" + "\n".join(f"{w:g},{v:.6f}" for w, v in rows))
    spectra = ("--spectrum", tmp_path / "warm.csv", "--benchmark-spectrum", tmp_path / "flash.csv")
    arguments = ("chart", folder / "warm.tif", "--against", folder / "flash.tif", *spectra)
    found = json.loads(run(*arguments, "--json").output)
    known = seen_by_camera(planckian(4600.0), FLASH).delta_e[:24]
    own = found["standard_camera"]["delta_e_standard"]
    assert [v for v in own if v is not None] == pytest.approx(known[[v is not None for v in own]], abs=0.02)
    assert found["standard_camera"]["mean_photo"] == pytest.approx(found["mean_balanced"])
    assert "By their spectra the standard camera has them" in run(*arguments).output
    assert run(*arguments[:6]).exit_code == 2


def test_crops_side_by_side(folder, tmp_path):
    """A patch as a crop: as far apart as the patch itself, and the picture as wide as its parts."""
    middle = np.mean(AT.corners, axis=0)
    area = f"{middle[0] - 6:.0f},{middle[1] - 40:.0f};{middle[0] + 6:.0f},{middle[1] - 30:.0f}"
    arguments = ("crops", folder / "warm.tif", "--against", folder / "flash.tif", "--area", area)
    found = json.loads(run(*arguments, "--json").output)
    shot_ = json.loads(run(*arguments, "--as-shot", "--json").output)
    assert [one["file"] for one in found] == ["flash.tif", "warm.tif"]
    assert found[0]["delta_e"] == 0.0
    assert 0.0 < found[1]["delta_e"] < shot_[1]["delta_e"]
    assert "wrote" in run(*arguments, "--out", tmp_path / "strip.png").output
    with Image.open(tmp_path / "strip.png") as strip:
        assert strip.height == 514
        assert strip.width == 2 * round(480 * 12 / 10) + 12
    outside = run("crops", folder / "warm.tif", "--against", folder / "flash.tif", "--area", "1,1;9000,2")
    assert outside.exit_code == 1 and "is not within" in outside.stderr


def test_a_waveform_as_json(folder):
    arguments = ("flicker", folder / "bicolour.csv", "--json")
    found = json.loads(run(*arguments, "--fps", 24, "--shutter", "1/48", "--readout", "15ms").output)
    assert {
        "frequency_hz", "percent_flicker", "flicker_index", "svm", "pst_lm", "samples", "duration_s", "cameras"
    } <= set(found)  # fmt: skip
    assert found["frequency_hz"] == pytest.approx(620.0, abs=0.01)
    assert found["flicker_index"] == pytest.approx(0.7, abs=0.03)  # each sample is a mean over its time
    assert found["pst_lm"] is None
    (camera,) = found["cameras"]
    assert {
        "fps", "shutter_s", "readout_s", "frame_to_frame_pct", "band_depth_pct", "bands", "verdict"
    } <= set(camera)  # fmt: skip
    assert camera["shutter_s"] == pytest.approx(1 / 48) and camera["readout_s"] == pytest.approx(0.015)
    assert camera["nearest_steady_shutter_s"] == pytest.approx(13 / 620, rel=1e-4)
    assert len(json.loads(run(*arguments).output)["cameras"]) > 40
    angle = json.loads(run(*arguments, "--fps", 24, "--shutter", "172.8°").output)["cameras"][0]
    assert angle["shutter_s"] == pytest.approx(0.02)


def test_sentences_of_a_waveform(folder):
    said = run("flicker", folder / "bicolour.csv").output
    assert said.startswith("Of 48 exposures ") and " show bands" in said and "620.0 Hz, 100.0 % flicker" in said
    assert "about cameras, not about health" in said
    one = run("flicker", folder / "bicolour.csv", "--fps", 25, "--shutter", "1/1000").output
    assert "bands, 9.3 in a frame. Whole cycles: 1/620 s" in one.splitlines()[0]


def test_fades(folder):
    found = json.loads(run("fade", folder / "down.csv", "--asked", 4, "--json").output)
    assert found["direction"] == "down" and found["asked_s"] == 4.0
    assert found["steps"] == 37 and found["falls_from_pct"] == pytest.approx(1.0, abs=0.03)
    said = run("fade", folder / "down.csv", folder / "up.csv", "--asked", 4).output
    assert "asked were 4 s" in said and "in 37 steps" in said and "a linear fade" in said
    assert "one run backwards" in said


def test_an_edge_a_wall_and_a_film(folder, tmp_path):
    picture = np.full((90, 200, 3), 220, np.uint8)
    picture[:, 110:] = 40
    Image.fromarray(picture).save(tmp_path / "edge.png")
    edge = run("edge", tmp_path / "edge.png", "--line", "20,40;180,40")
    assert "in one go" in edge.output and "No colour fringe" in edge.output
    assert json.loads(run("edge", tmp_path / "edge.png", "--line", "20,40;180,40", "--json").output)["steps"] == 1
    assert "lens's own fall-off" in run("wall", tmp_path / "edge.png").output
    frames = tmp_path / "frames"
    frames.mkdir()
    for i in range(20):
        Image.new("RGB", (40, 30), (120 + 40 * (i % 4 < 2),) * 3).save(frames / f"{i:02}.png")
    film = json.loads(run("film", frames, "--fps", 24, "--json").output)
    assert film["verdict"] == "banding" and film["shows"] == "beats" and film["beat_hz"] == pytest.approx(6.0, abs=1.3)
    assert "beats at" in run("film", frames, "--fps", 24).output


@pytest.mark.parametrize(
    ("arguments", "code", "words"),
    [
        (("chart", "warm.tif", "--against", "nowhere.tif"), 1, "nowhere.tif"),
        (("chart", "warm.tif", "--against", "flash.tif", "--corners", "1,2"), 1, "clockwise from the first patch"),
        (("chart", "warm.tif", "--against", "flash.tif", "--chart", "no such"), 1, "no chart is called"),
        (("chart", "warm.tif"), 2, "--against"),
        (("flicker", "notes.txt"), 1, "no line with a time"),
        (("flicker", "bicolour.csv", "--shutter", "1/50"), 2, "--fps"),
        (("flicker", "bicolour.csv", "--fps", "-3"), 1, "above zero"),
        (("flicker", "bicolour.csv", "--fps", "24", "--shutter", "1/10"), 1, "longer than a frame"),
        (("flicker", "bicolour.csv", "--fps", "24", "--readout", "soon"), 1, "no read-out time"),
        (("fade", "six.csv"), 1, "this is no fade"),
        (("edge", "flash.tif", "--line", "1,1"), 1, "is no line"),
        (("film", "notes.txt", "--fps", "24"), 1, "a film"),
        (("film", "notes.txt", "--fps", "0"), 1, "above zero"),
    ],
)
def test_what_is_asked_wrongly_is_said(folder, monkeypatch, arguments, code, words):
    monkeypatch.chdir(folder)
    result = run(*arguments)
    assert result.exit_code == code
    assert words in result.stderr
    assert "Traceback" not in result.output
