"""What a camera sees: time against its limits, and how often a chart is found in seeded photographs."""

from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory
from time import perf_counter

import cv2
import numpy as np
from scipy.io import wavfile

from even_beam.camera.chart import chart_24
from even_beam.camera.chart_comparison import read_chart
from even_beam.camera.chart_finder import find_corners
from even_beam.camera.errors import CameraError
from even_beam.camera.flicker import flicker_of
from even_beam.formats.photo_file import read_photograph
from even_beam.formats.waveform_file import read_waveform
from even_beam.instruments.simulated_camera import Scene, photograph, white_signal, write_tiff
from even_beam.light import daylight
from tests.camera.photographed import scene, shot

SEEDS = 100
PHOTO_S, WAVEFORM_S = 1.5, 2.0
FLASH = daylight(5600.0)


def report() -> Iterator[str]:
    """A large photograph, a long waveform, and a hundred photographs."""
    with TemporaryDirectory() as name:
        folder = Path(name)
        small = Scene(1500, 1000, ((300.0, 200.0), (1200.0, 220.0), (1180.0, 820.0), (310.0, 800.0)))
        pixels = photograph(FLASH, white_signal(FLASH), small, 1)
        write_tiff(folder / "24mp.tif", cv2.resize(pixels, (6000, 4000), interpolation=cv2.INTER_CUBIC))
        began = perf_counter()
        read_chart(read_photograph(folder / "24mp.tif"), chart_24())
        yield f"a photograph of 24 megapixels read, its chart found and measured: {_told(began, PHOTO_S)}"
        light = 0.4 + 0.2 * np.sin(2.0 * np.pi * 100.0 * np.arange(6_000_000) / 1e5)
        wavfile.write(folder / "minute.wav", 100_000, light.astype(np.float32))
        began = perf_counter()
        flicker_of(read_waveform(folder / "minute.wav"))
        yield f"a minute at 100 kHz read and measured: {_told(began, WAVEFORM_S)}"
        found = sum(_found(folder, seed) for seed in range(SEEDS))
        yield f"corners found within an eighth of a patch in {found} of {SEEDS} seeded photographs (wanted 95)"


def _told(began: float, wanted_s: float) -> str:
    return f"{perf_counter() - began:.2f} s (wanted {wanted_s:g})"


def _found(folder: Path, seed: int) -> bool:
    at = scene(seed)
    light = daylight(4300.0) if seed % 2 else FLASH
    try:
        corners = find_corners(read_photograph(shot(folder / "p.tif", light, light, at, seed)), chart_24())
    except CameraError:
        return False
    pitch = float(np.hypot(*np.subtract(at.corners[1], at.corners[0]))) / 6.0
    return bool(np.abs(np.subtract(corners, at.corners)).max() < pitch / 8.0)
