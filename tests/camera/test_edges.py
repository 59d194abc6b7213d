"""Edges, walls and films against what was painted."""

import numpy as np
import pytest
from scipy.special import erf

from even_beam.camera.edges import edge_along, wall_of
from even_beam.camera.errors import CameraError
from even_beam.camera.film import film_seen
from even_beam.camera.photo import Photograph


def photo_of(linear) -> Photograph:
    return Photograph("p", np.asarray(linear, np.float64), lambda p: np.asarray(p, np.float64), 1.5)


def across(profile, colour=(1.0, 1.0, 1.0)) -> Photograph:
    row = np.asarray(profile, np.float64)
    return photo_of(np.repeat((row[:, None] * np.array(colour))[None], 80, axis=0))


X = np.arange(400.0)


@pytest.mark.parametrize("width", [6.0, 15.0, 40.0])
@pytest.mark.parametrize("mirrored", [False, True])
def test_the_width_of_an_edge(width, mirrored):
    """A Gaussian edge is 2.563 standard deviations wide from 10 to 90 % (closed form)."""
    profile = 0.05 + 0.4 * (1.0 - erf((X - 200.0) / (width / 2.563 * np.sqrt(2.0)))) / 2.0 * 2.0
    photo = across(profile[::-1] if mirrored else profile)
    found = edge_along(photo, (40.0, 40.0), (360.0, 40.0))
    assert found.width_px == pytest.approx(width, rel=0.05, abs=0.5)
    assert found.steps == 1
    assert found.fringe_uv < 0.002
    assert found.contrast_stops == pytest.approx(np.log2(0.85 / 0.05), abs=0.02)


def test_a_line_askew_is_as_wide_along_itself():
    profile = 0.05 + 0.8 * (1.0 - erf((X - 200.0) / (15.0 / 2.563 * np.sqrt(2.0)))) / 2.0
    picture = np.repeat(profile[None], 300, axis=0)[..., None] * np.ones(3)
    found = edge_along(photo_of(picture), (140.0, 100.0), (260.0, 220.0))
    assert found.width_px == pytest.approx(15.0 * np.sqrt(2.0), rel=0.06)


def test_a_double_shadow_has_two_steps():
    double = 0.9 - 0.4 * (X > 160) - 0.45 * (X > 230)
    assert edge_along(across(double), (20.0, 40.0), (380.0, 40.0)).steps == 2


@pytest.mark.parametrize(
    ("colour", "names"), [((1.6, 0.9, 0.9), {"red", "orange"}), ((0.8, 0.9, 1.8), {"blue", "violet"})]
)
def test_a_fringe_has_its_colour(colour, names):
    profile = 0.9 - 0.85 * (X > 200)
    picture = np.repeat(profile[None], 80, axis=0)[..., None] * np.ones(3)
    picture[:, 180:201] *= colour
    found = edge_along(photo_of(picture), (20.0, 40.0), (380.0, 40.0))
    assert found.fringe_uv > 0.01
    assert found.fringe in names
    assert 155 < found.fringe_at < 185


def test_lines_that_cross_no_edge_are_refused():
    with pytest.raises(CameraError, match="across an edge"):
        edge_along(across(np.full(400, 0.5)), (10.0, 10.0), (300.0, 10.0))
    with pytest.raises(CameraError, match="too short"):
        edge_along(across(0.9 - 0.8 * (X > 200)), (10.0, 10.0), (12.0, 10.0))
    with pytest.raises(CameraError, match="leaves"):
        edge_along(across(0.9 - 0.8 * (X > 200)), (10.0, 10.0), (900.0, 10.0))


def test_a_wall_in_stops():
    y, x = np.mgrid[0:240, 0:360] / np.array([240.0, 360.0])[:, None, None]
    light = np.exp2(-2.0 * np.hypot(x - 0.5, y - 0.5) ** 2)
    wall = wall_of(photo_of(light[..., None] * np.ones(3)), columns=36)
    assert wall.share == pytest.approx(np.exp2(-1.0), rel=0.06)
    assert wall.stops.max() == 0.0
    with pytest.raises(CameraError, match="clipped"):
        wall_of(photo_of(np.full((100, 100, 3), 1.6)))


@pytest.mark.parametrize("hz", [3.0, 7.5])
def test_a_film_that_beats(hz):
    fps, frames = 25.0, 100
    level = 1.0 + 0.1 * np.sin(2.0 * np.pi * hz * np.arange(frames) / fps)
    picture = np.linspace(0.2, 0.8, 60)  # what is in the picture does not count
    found = film_seen(level[:, None] * picture, fps)
    assert found.frame_to_frame_pct == pytest.approx(100.0 * np.ptp(level) / (level.max() + level.min()), abs=0.01)
    assert found.band_depth_pct == pytest.approx(0.0, abs=0.01)
    assert found.beat_hz == pytest.approx(hz, abs=0.26)
    assert found.verdict == "banding"


def test_a_film_with_wandering_bands():
    rows, frames = np.arange(120), np.arange(40)
    light = 1.0 + 0.05 * np.sin(2.0 * np.pi * (rows[None] / 40.0 + frames[:, None] * 0.13))
    found = film_seen(light, 25.0)
    assert found.band_depth_pct == pytest.approx(5.0, abs=0.4)
    assert found.frame_to_frame_pct < 0.5
    with pytest.raises(CameraError):
        film_seen(light[:2], 25.0)
    with pytest.raises(CameraError, match="black"):
        film_seen(np.zeros((10, 10)), 25.0)
