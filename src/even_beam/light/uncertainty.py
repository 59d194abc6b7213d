"""What a meter's specification means for the figures read with it."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.colorimetry import tristimulus, uv_1960, uv_at, xy, xy_from_uv_1960
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray


def white_tolerance(cct: ArrayLike, xy_tolerance: float, duv: ArrayLike = 0.0) -> tuple[FloatArray, FloatArray]:
    """Tolerance in mired and in Duv that `xy_tolerance` (on x and y each, independent) means at a white; shapes broadcast.

    The two axes of CIE 1931 x, y are carried into the direction along the Planckian locus and across it by central
    differences, and add in quadrature. Source: JCGM 100:2008 (GUM), equation 10.
    """
    cct, duv = np.broadcast_arrays(np.asarray(cct, np.float64), np.asarray(duv, np.float64))
    u, v = uv_at(cct, duv)
    x, y = xy_from_uv_1960(u, v)
    mired = 1e6 / cct
    half_step_mired = 0.5
    ahead = np.stack(uv_at(1e6 / (mired + half_step_mired), duv), axis=-1)
    behind = np.stack(uv_at(1e6 / (mired - half_step_mired), duv), axis=-1)
    tangent = (ahead - behind) / (2.0 * half_step_mired)
    speed = np.hypot(tangent[..., 0], tangent[..., 1])
    along = tangent / speed[..., None]
    across = np.stack([-along[..., 1], along[..., 0]], axis=-1)
    h = 1e-5
    by_x = (np.stack(uv_1960(x + h, y), -1) - np.stack(uv_1960(x - h, y), -1)) / (2.0 * h)
    by_y = (np.stack(uv_1960(x, y + h), -1) - np.stack(uv_1960(x, y - h), -1)) / (2.0 * h)
    mired_tolerance = xy_tolerance * np.hypot((by_x * along).sum(-1), (by_y * along).sum(-1)) / speed
    duv_tolerance = xy_tolerance * np.hypot((by_x * across).sum(-1), (by_y * across).sum(-1))
    return mired_tolerance, duv_tolerance


@dataclass(frozen=True, slots=True)
class MeterSpecification:
    """What a spectrometer's specification promises, as limits that nearly all readings keep (taken as 95 %).

    `level` (relative) and `xy` are common to all readings of the meter; `repeatability` (relative) scatters each.
    """

    level: float = 0.05
    xy: float = 0.003
    repeatability: float = 0.01


@dataclass(frozen=True, slots=True)
class Placement:
    """How well the distance, its reference plane and the aim are known: 95 % limits."""

    distance_m: float
    distance_error_m: float = 0.01
    reference_plane_error_m: float = 0.01
    aim_error_deg: float = 2.0
    half_peak_deg: float = 60.0


@dataclass(frozen=True, slots=True)
class LevelUncertainty:
    """Relative 95 % uncertainty of an illuminance: of the figure itself, and of its ratio to another of the same meter."""

    absolute: float
    ratio: float


def level_uncertainty(
    meter: MeterSpecification, placement: Placement | None = None, repeats: int = 1
) -> LevelUncertainty:
    """Propagate to an illuminance (JCGM 100:2008, equation 10).

    The common part (calibration, and the reference plane of one set-up) cancels between two readings of one meter at
    one mark; repeatability is divided by the root of `repeats`, and counts twice in a ratio.
    """
    random = meter.repeatability / np.sqrt(repeats)
    placed = 0.0
    if placement is not None:
        distance = 2.0 * np.hypot(placement.distance_error_m, placement.reference_plane_error_m) / placement.distance_m
        # at the peak of a beam the level falls with the square of the angle: a first-order term does not exist
        aim = np.log(2.0) * (placement.aim_error_deg / (placement.half_peak_deg / 2.0)) ** 2
        placed = float(np.hypot(distance, aim))
    return LevelUncertainty(float(np.sqrt(meter.level**2 + random**2 + placed**2)), float(np.sqrt(2.0) * random))


@dataclass(frozen=True, eq=False, slots=True)
class FigureUncertainty:
    """95 % uncertainty (half width) of each figure of one spectrum."""

    mired: float
    duv: float
    Ra: float
    Rf: float
    ssi: float
    samples: int


def spectrum_uncertainty(spectrum: FloatArray, meter: MeterSpecification, *, samples: int = 400, seed: int = 0) -> FigureUncertainty:  # fmt: skip
    """What a meter's chromaticity tolerance means for the figures of a spectrum on the working grid, shape (401,).

    Monte Carlo over the batch path (JCGM 101:2008): the spectrum is distorted smoothly, by tilts and slow waves over
    the wavelength, scaled so that x and y scatter by the meter's tolerance (95 %), and every figure is computed anew. A
    distortion that moves x and y as the specification says is what a calibration error looks like; the specification
    itself says nothing of spectra, so the scores' uncertainty is an estimate.
    """
    from even_beam.light.batch import evaluate

    random = np.random.default_rng(seed)
    place = (WAVELENGTH_NM - 580.0) / 200.0
    waves = np.stack([place, place**2 - 0.33, np.sin(2.2 * np.pi * place), np.cos(2.2 * np.pi * place)])
    white = np.stack(xy(tristimulus(spectrum)))
    small = 1e-4
    moved = (np.stack(xy(tristimulus(spectrum * (1.0 + small * waves))), axis=-1) - white) / small  # (4, 2)
    # amounts of the waves that move x and y independently by the tolerance, and as much again of what moves neither
    amounts = random.standard_normal((samples, 2)) * (meter.xy / 1.96) @ np.linalg.pinv(moved)
    unseen = np.eye(waves.shape[0]) - moved @ np.linalg.pinv(moved)
    amounts += random.standard_normal((samples, waves.shape[0])) @ unseen * float(np.sqrt((amounts**2).mean()))
    pattern = amounts @ waves
    figures = evaluate(WAVELENGTH_NM, np.maximum(spectrum * (1.0 + pattern), 0.0))
    own = evaluate(WAVELENGTH_NM, spectrum)

    def half_width(values: FloatArray, centre: FloatArray) -> float:
        return float(1.96 * np.sqrt(np.nanmean((values - centre) ** 2)))

    return FigureUncertainty(
        half_width(1e6 / figures.cct_k, 1e6 / own.cct_k),
        half_width(figures.duv, own.duv),
        half_width(figures.cri.Ra, own.cri.Ra),
        half_width(figures.tm30.Rf, own.tm30.Rf),
        half_width(figures.ssi.value, own.ssi.value),
        samples,
    )
