"""Turns of white and colour against what was painted: closed forms, and u', v' by colour-science."""

import colour
import cv2
import numpy as np
import pytest

from even_beam.answers.camera.fade_page import page_of_fades
from even_beam.answers.camera.fading import asked_in, fade_file, fade_json, sentences_of
from even_beam.camera.errors import CameraError
from even_beam.camera.turning import colour_turn, white_turn
from even_beam.formats import FormatError

SECONDS = np.arange(0.0, 6.0, 0.01)
SHARE = np.clip((SECONDS - 1.0) / 4.0, 0.0, 1.0)
WARM, COOL = 1e6 / 3200.0, 1e6 / 5600.0


def test_an_even_turn_of_white():
    """Linear in mired from 3200 to 5600 K over four seconds, begun after one."""
    turn = white_turn(SECONDS, 1e6 / (WARM + (COOL - WARM) * SHARE), np.full(SECONDS.size, 400.0))
    assert turn.of_white and not turn.fade.stepped and not turn.fade.rising
    assert (turn.fade.real_s, turn.fade.lag_s) == pytest.approx((4.0, 1.0), abs=0.03)
    assert turn.size == pytest.approx(WARM - COOL) and turn.astray == 0.0
    assert (turn.first[0], turn.last[0]) == pytest.approx((3200.0, 5600.0))
    assert turn.fade.exponent == pytest.approx(1.0, abs=0.02) and turn.fade.off_law < 0.01
    assert turn.level_stops == 0.0


def test_one_in_kelvin_is_not_even_to_an_eye():
    turn = white_turn(SECONDS, 2000.0 + 8000.0 * SHARE, None)
    assert turn.fade.exponent > 1.5 or turn.fade.off_law > 0.05
    assert turn.level_stops is None


def test_steps_are_told_in_mired():
    stepped = np.floor(SHARE * 8.0 + 1e-9) / 8.0
    turn = white_turn(SECONDS, 1e6 / (WARM + (COOL - WARM) * stepped), None)
    assert len(turn.fade.steps) == 8
    assert turn.largest_step == pytest.approx((WARM - COOL) / 8.0, rel=0.01)


def xy_of(uv):
    """By colour-science."""
    return np.array([colour.models.Luv_uv_to_xy(one) for one in uv])


RED, BLUE = np.array([0.45, 0.52]), np.array([0.17, 0.20])


def test_a_straight_turn_of_colour_and_one_that_goes_round():
    straight = RED + (BLUE - RED) * SHARE[:, None]
    xy = xy_of(straight)
    turn = colour_turn(SECONDS, xy[:, 0], xy[:, 1], None)
    assert not turn.of_white and turn.size == pytest.approx(float(np.hypot(*(BLUE - RED))), abs=1e-6)
    assert turn.astray < 1e-6 and turn.fade.real_s == pytest.approx(4.0, abs=0.03)
    assert turn.first == pytest.approx(tuple(xy[0])) and turn.last == pytest.approx(tuple(xy[-1]))
    beside = np.array([-(BLUE - RED)[1], (BLUE - RED)[0]]) / np.hypot(*(BLUE - RED))
    bent = xy_of(straight + 0.05 * np.sin(np.pi * SHARE)[:, None] * beside)
    assert colour_turn(SECONDS, bent[:, 0], bent[:, 1], None).astray == pytest.approx(0.05, abs=1e-3)


def test_what_stays_is_no_turn():
    with pytest.raises(CameraError, match="no turn"):
        white_turn(SECONDS, np.full(SECONDS.size, 5600.0) + SHARE, None)
    still = np.full(SECONDS.size, 0.33)
    with pytest.raises(CameraError, match="no turn"):
        colour_turn(SECONDS, still, still, None)


def write(path, **columns):
    heads = "time (s)," + ",".join(columns)
    np.savetxt(path, np.stack([SECONDS, *columns.values()], 1), "%.7g", ",", header=heads, comments="")
    return path


def test_a_log_in_which_the_white_moves_and_the_level_stays(tmp_path):
    cct = 1e6 / (WARM + (COOL - WARM) * SHARE)
    path = write(tmp_path / "turn.csv", **{"illuminance (lx)": np.full(SECONDS.size, 400.0), "CCT (K)": cct})
    found = fade_file(path, 5.0)
    told = " ".join(sentences_of(found)).replace("\u202f", " ")
    assert "from 3 200 to 5 600 K in 4" in told and "asked were 5 s" in told and "evenly with time" in told
    assert "level moves" not in told
    assert fade_json(found)["turn"]["of"] == "white" and fade_json(found)["turn"]["size"] == pytest.approx(
        134.0, abs=0.1
    )
    page = page_of_fades((found,))
    assert page.chart.y.label == "mired" and "cooler white" in page.sheet.plain
    dimming = write(tmp_path / "dim.csv", **{"illuminance (lx)": 400.0 - 350.0 * SHARE, "CCT (K)": cct})
    assert fade_file(dimming).turn is None and fade_file(dimming).drift_mired == pytest.approx(134.0, abs=0.1)


def test_a_log_of_colours_alone(tmp_path):
    xy = xy_of(RED + (BLUE - RED) * SHARE[:, None])
    found = fade_file(write(tmp_path / "colour.csv", x=xy[:, 0], y=xy[:, 1]))
    told = " ".join(sentences_of(found))
    assert "in u', v'" in told and "No steps" in told and "leaves the straight way" not in told
    assert page_of_fades((found,)).chart.y.label == "share of the way"


def test_a_fade_on_film_by_its_frames(tmp_path):
    """Linear light from 5 to 90 % over 2 s at 25 frames a second."""
    for n in range(75):
        light = 0.05 + 0.85 * min(max((n - 10) / 50.0, 0.0), 1.0)
        srgb = 1.055 * light ** (1.0 / 2.4) - 0.055
        cv2.imwrite(str(tmp_path / f"{n:03d}.png"), np.full((8, 8, 3), round(65535.0 * srgb), np.uint16))
    found = fade_file(tmp_path, 2.0, fps=25.0)
    assert found.fade.rising and found.fade.real_s == pytest.approx(2.0, abs=0.05)
    assert found.fade.lag_s == pytest.approx(0.4, abs=0.05) and found.fade.exponent == pytest.approx(1.0, abs=0.05)
    with pytest.raises(FormatError, match="frames a second"):
        fade_file(tmp_path)


def test_what_is_typed_of_a_fade():
    assert asked_in("5 s; 25 fps") == (5.0, 25.0)
    assert asked_in("2,5") == (2.5, None)
    assert asked_in("24 fps") == (None, 24.0)
    with pytest.raises(CameraError):
        asked_in("soon")
