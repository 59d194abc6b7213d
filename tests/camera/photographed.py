"""Photographs of the chart with known truth, as files."""

from pathlib import Path

import numpy as np

from even_beam.camera.chart import chart_24
from even_beam.instruments.simulated_camera import Scene, photograph, white_signal, write_tiff

WIDTH, HEIGHT = 720, 480


def scene(
    seed: int, *, turned: bool = True, exposure: float = 0.7, vignette_stops: float = 0.15, small: float = 1.0
) -> Scene:
    """A chart somewhere in the picture: large or small, turned by any angle, seen from the side."""
    rng = np.random.default_rng(seed)
    width = rng.uniform(240.0, 460.0)
    height = width / chart_24().aspect
    angle = np.deg2rad(rng.uniform(-25.0, 25.0) + (rng.choice([0.0, 90.0, 180.0, 270.0]) if turned else 0.0))
    corners = np.array([[-width, -height], [width, -height], [width, height], [-width, height]]) / 2.0
    corners = corners + rng.uniform(-0.05, 0.05, (4, 2)) * width
    corners = corners @ np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
    corners *= min(1.0, 0.85 * WIDTH / np.ptp(corners[:, 0]), 0.85 * HEIGHT / np.ptp(corners[:, 1]))
    room = (np.array([WIDTH, HEIGHT]) - np.ptp(corners, axis=0)) / 2.0
    corners += np.array([WIDTH, HEIGHT]) / 2.0 - (corners.max(axis=0) + corners.min(axis=0)) / 2.0
    corners += rng.uniform(-0.8, 0.8, 2) * room
    corners *= small
    size = round(WIDTH * small), round(HEIGHT * small)
    return Scene(*size, tuple((float(x), float(y)) for x, y in corners), exposure, vignette_stops)


def shot(path: Path, light: np.ndarray, balance: np.ndarray, at: Scene, seed: int = 0) -> Path:
    """A photograph under a light as a file; `balance` is the light that the white balance is held on."""
    write_tiff(path, photograph(light, white_signal(balance), at, seed))
    return path
