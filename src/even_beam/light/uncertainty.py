"""What a meter's tolerance on x and y means for the figures read with it: first order for whites, sigma points for
scores."""

from functools import cache
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.colorimetry import tristimulus, uv_1960, uv_at, xy, xy_from_uv_1960
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray, resample, validate

USUAL_XY = 0.003
"""What a handheld spectrometer is good for on x and y each, as a limit that nearly all readings keep (95 %)."""


class WhiteSensitivity(NamedTuple):
    """How mired and Duv of a white answer to a small error of x and of y: partial derivatives, shapes broadcast."""

    mired_by_x: FloatArray
    mired_by_y: FloatArray
    duv_by_x: FloatArray
    duv_by_y: FloatArray


def white_sensitivity(cct: ArrayLike, duv: ArrayLike = 0.0) -> WhiteSensitivity:
    """Partial derivatives of mired and Duv by CIE 1931 x and y at a white, by central differences; shapes broadcast.

    The step along x, y is carried into the direction along the Planckian locus (mired) and across it (Duv) in
    CIE 1960 u, v. Source: JCGM 100:2008 (GUM), clause 5.1.3 (sensitivity coefficients).
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
    return WhiteSensitivity(
        (by_x * along).sum(-1) / speed, (by_y * along).sum(-1) / speed, (by_x * across).sum(-1), (by_y * across).sum(-1)
    )


def white_tolerance(cct: ArrayLike, xy_tolerance: float, duv: ArrayLike = 0.0) -> tuple[FloatArray, FloatArray]:
    """Tolerance in mired and in Duv that `xy_tolerance` (on x and y each, independent) means at a white; shapes
    broadcast.

    Source: JCGM 100:2008 (GUM), equation 10.
    """
    cct, duv = np.asarray(cct, np.float64), np.asarray(duv, np.float64)
    by = white_sensitivity(cct, duv) if np.any(duv) else _on_the_locus(cct)
    return xy_tolerance * np.hypot(by.mired_by_x, by.mired_by_y), xy_tolerance * np.hypot(by.duv_by_x, by.duv_by_y)


@cache
def _locus_table() -> tuple[FloatArray, FloatArray]:
    """The sensitivity on the locus, (4, n), by mired, (n,): asked of every reading, and smooth."""
    mired = np.arange(5.0, 1101.0, 2.0).astype(np.float64)
    return mired, np.stack(white_sensitivity(1e6 / mired))


def _on_the_locus(cct: FloatArray) -> WhiteSensitivity:
    """`white_sensitivity` without a tint: off by less than a thousandth of a tolerance."""
    mired, known = _locus_table()
    return WhiteSensitivity(*(np.interp(1e6 / cct, mired, own) for own in known))


SCORES = ("ra", "rf", "rg", "ssi", "tlci", *(f"r{i}" for i in range(1, 16)))
"""The scores whose uncertainty is found from their own spectrum, in the order of `score_half_widths`."""

_PLACE = (WAVELENGTH_NM - 580.0) / 200.0
_WAVES = np.stack([_PLACE, _PLACE**2 - 0.33, np.sin(2.2 * np.pi * _PLACE), np.cos(2.2 * np.pi * _PLACE)])
"""Smooth distortions of a spectrum, shape (4, 401): tilts and slow waves, as an error of calibration looks like."""


def distortions(spectra: FloatArray, xy_tolerance: float = USUAL_XY) -> FloatArray:
    """Relative distortions of one standard deviation along four independent directions, shape (..., 4, 401).

    Of spectra (..., 401) on the working grid. Two of them move x and y independently by the tolerance (95 %), and two
    as large again move neither. A specification of x and y says nothing of the rest of a spectrum, so what follows for
    scores is an estimate.
    """
    small = 1e-4
    white = np.stack(xy(tristimulus(spectra)), axis=-1)
    bent = spectra[..., None, :] * (1.0 + small * _WAVES)
    moved = (np.stack(xy(tristimulus(bent)), axis=-1) - white[..., None, :]) / small  # (..., 4, 2)
    inverse = np.linalg.pinv(moved)  # (..., 2, 4)
    seen = inverse * (xy_tolerance / 1.96)
    unseen = np.eye(4) - moved @ inverse
    size = np.sqrt((seen**2).sum(axis=(-2, -1)) / 4.0)
    # two directions that move neither: the eigenvectors of the projection that belong to one
    _, vectors = np.linalg.eigh((unseen + np.swapaxes(unseen, -2, -1)) / 2.0)
    neither = np.swapaxes(vectors[..., -2:], -2, -1) * size[..., None, None]
    return np.concatenate([seen, neither], axis=-2) @ _WAVES


def score_half_widths(wavelength_nm: ArrayLike, spectra: ArrayLike, xy_tolerance: float = USUAL_XY) -> FloatArray:
    """95 % half widths of `SCORES` for spectra (n_wavelengths,) or (n, n_wavelengths): shape (20,) or (n, 20).

    Sigma points (the unscented transform): each spectrum is evaluated with each distortion once added and once taken
    off, and the mean squares of what that changes add up. A test holds it against a Monte Carlo of the same
    distortions (JCGM 101:2008). NaN where a score has no answer.
    """
    from even_beam.light.batch import evaluate

    wavelength, values = validate(wavelength_nm, spectra)
    own = resample(wavelength, np.atleast_2d(values))
    bent = distortions(own, xy_tolerance)
    both = np.concatenate([1.0 + bent, 1.0 - bent], axis=-2)  # (n, 8, 401)
    inside = (WAVELENGTH_NM >= wavelength[0]) & (WAVELENGTH_NM <= wavelength[-1])
    grid = WAVELENGTH_NM[inside]
    figures = evaluate(grid, np.concatenate([own[:, None, :], own[:, None, :] * both], axis=1)[..., inside])
    scores = np.concatenate(
        [
            np.stack([figures.cri.Ra, figures.tm30.Rf, figures.tm30.Rg, figures.ssi.value, figures.tlci.Qa], axis=-1),
            figures.cri.R,
        ],
        axis=-1,
    )
    changed = scores[:, 1:, :] - scores[:, :1, :]
    found = 1.96 * np.sqrt((changed**2).sum(axis=1) / 2.0)
    return found[0] if values.ndim == 1 else found
