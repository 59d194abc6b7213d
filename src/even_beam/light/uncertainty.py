"""What a meter's specification means for the figures read with it."""

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.colorimetry import uv_1960, uv_at, xy_from_uv_1960
from even_beam.light.spectra import FloatArray


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
