"""A camera that is not the one used anywhere in the analysis: charts under lamps, photographed with known truth.

Its responsivities are invented: three bells with a second lobe in the red, another matrix and another balance.
"""

from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from even_beam.camera.chart import PATCH_OF_PITCH, chart_24
from even_beam.camera.sampling import homography, project
from even_beam.formats.photo_file import linear_profile
from even_beam.light import WAVELENGTH_NM, FloatArray, daylight
from even_beam.light.adaptation import SRGB_TO_XYZ
from even_beam.light.colorimetry import observer, tristimulus
from even_beam.light.rendering import subjects

FULL = 4095.0
FRAME, SURROUND = 0.04, 0.12
"""Reflectances of the chart's frame and of the wall behind it."""


@cache
def _responsivities() -> FloatArray:
    def bell(peak: float, width: float) -> FloatArray:
        return np.exp(-0.5 * ((WAVELENGTH_NM - peak) / width) ** 2)

    return np.stack([bell(603.0, 34.0) + 0.06 * bell(440.0, 18.0), bell(533.0, 40.0), bell(459.0, 26.0)])


@cache
def _to_srgb() -> FloatArray:
    """The camera's own matrix: least squares over the chart under D55, balanced there."""
    light = daylight(5500.0)
    reflectances = subjects()[1]
    own = (light * reflectances) @ _responsivities().T / (light @ _responsivities().T)
    xyz = (light * reflectances) @ observer() / tristimulus(light)[1]
    wanted = xyz / (tristimulus(light) / tristimulus(light)[1]) * (SRGB_TO_XYZ @ np.ones(3))
    matrix, *_ = np.linalg.lstsq(own, wanted @ np.linalg.inv(SRGB_TO_XYZ).T, rcond=None)
    return matrix / matrix.sum(axis=0)


@dataclass(frozen=True, slots=True)
class Scene:
    """How the chart stands before the camera: where its outer corners are in pixels, clockwise from the first patch;
    how far the light falls off to the corners of the picture (stops); blur and noise (electrons at full scale)."""

    width: int
    height: int
    corners: tuple[tuple[float, float], ...]
    exposure: float = 0.8
    vignette_stops: float = 0.15
    blur_px: float = 0.7
    full_well: float = 12_000.0
    read_noise: float = 4.0


def white_signal(light: FloatArray) -> FloatArray:
    """What a perfect white gives in the three channels, shape (3,): a balance held on it, or its level."""
    signal: FloatArray = light @ _responsivities().T
    return signal


def patch_truth(light: FloatArray, balance: FloatArray, exposure: float) -> FloatArray:
    """Linear sRGB of the 24 patches under a light, before noise and vignette, shape (24, 3)."""
    linear: FloatArray = _balanced(subjects()[1][:24], light, balance, exposure) @ _to_srgb()
    return linear


def _balanced(reflectances: FloatArray, light: FloatArray, balance: FloatArray, exposure: float) -> FloatArray:
    return exposure * ((light * reflectances) @ _responsivities().T) / balance


def photograph(light: FloatArray, balance: FloatArray, scene: Scene, seed: int) -> NDArray[np.uint16]:
    """A photograph of the chart as linear sRGB of 16 bits, shape (h, w, 3).

    `balance` is what a white gave when the balance was set (`white_signal`); a lamp twice as bright comes out twice as
    bright.
    """
    from scipy.ndimage import gaussian_filter  # only the simulator blurs

    rng = np.random.default_rng(seed)
    greys = np.array([FRAME, SURROUND])[:, None] * np.ones_like(WAVELENGTH_NM)
    colours = _balanced(np.vstack([subjects()[1][:24], greys]), light, balance, scene.exposure)
    picture = colours[_what_is_where(scene)]
    y, x = np.mgrid[0 : scene.height, 0 : scene.width]
    reach = np.hypot((x / scene.width - 0.5) * 2.0, (y / scene.height - 0.5) * 2.0) / np.sqrt(2.0)
    picture = picture * np.exp2(-scene.vignette_stops * reach**2)[..., None]
    picture = np.stack([gaussian_filter(picture[..., c], scene.blur_px) for c in range(3)], axis=-1)
    electrons = np.clip(picture, 0.0, None) * scene.full_well
    seen = rng.poisson(electrons) + rng.normal(0.0, scene.read_noise, picture.shape)
    raw = np.clip(np.round(seen / scene.full_well * FULL), 0.0, FULL) / FULL
    return np.round(np.clip(raw @ _to_srgb(), 0.0, 1.0) * 65535.0).astype(np.uint16)


def _what_is_where(scene: Scene) -> NDArray[np.int64]:
    """The number of the patch at each pixel; 24 for the frame, 25 for the wall, shape (h, w)."""
    chart = chart_24()
    back = np.asarray(np.linalg.inv(homography(scene.corners)), np.float64)
    x, y = np.meshgrid(np.arange(scene.width) + 0.5, np.arange(scene.height) + 0.5)
    place = project(back, np.asarray(np.stack([x, y], axis=-1), np.float64))
    pitch = place * [chart.columns - 1 + PATCH_OF_PITCH, chart.rows - 1 + PATCH_OF_PITCH]
    cell = np.floor(pitch).astype(int)
    inside = (pitch - cell < PATCH_OF_PITCH).all(axis=-1) & (cell >= 0).all(axis=-1)
    inside &= (cell < [chart.columns, chart.rows]).all(axis=-1)
    on_chart = (pitch > -0.35).all(axis=-1) & (pitch < [chart.columns + 0.22, chart.rows + 0.22]).all(axis=-1)
    return np.where(inside, cell[..., 0] + chart.columns * cell[..., 1], np.where(on_chart, 24, 25))


def write_tiff(path: Path, pixels: NDArray[np.uint16]) -> None:
    """A photograph as a TIFF of linear light that says so in its profile."""
    import tifffile  # only where a photograph is written

    tifffile.imwrite(path, pixels, photometric="rgb", extratags=[(34675, "B", None, linear_profile(), True)])
