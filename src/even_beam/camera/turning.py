"""Turns: a light that goes from one white to another, or from one colour to another, its level apart."""

from dataclasses import dataclass

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.camera.fades import Fade, fade_of
from even_beam.light import FloatArray
from even_beam.light.colorimetry import uv_1976, xy_from_uv_1960

LEAST_MIRED, LEAST_UV = 10.0, 0.01
"""What moves by less is no turn (common practice, no source)."""


@dataclass(frozen=True, eq=False, slots=True)
class Turn:
    """A turn as it was recorded: `fade` is its progress, told as that of a level is: part of the way against time.

    `size` of the whole way in mired, or for colours in CIE 1976 u', v' (`of_white`); `first` and `last` in kelvin, or x
    and y; `astray` how far it left the straight way between two colours, 0 for whites; `level_stops` between the least
    and the most light on the way.
    """

    fade: Fade
    of_white: bool
    size: float
    first: tuple[float, ...]
    last: tuple[float, ...]
    astray: float
    level_stops: float | None

    @property
    def largest_step(self) -> float | None:
        """The largest of its steps in the unit of its size; None for a smooth one."""
        return max((abs(s.after - s.before) for s in self.fade.steps), default=0.0) * self.size or None


def white_turn(seconds: FloatArray, cct_k: FloatArray, level: FloatArray | None) -> Turn:
    """A turn between two whites, reckoned in mired; arrays of shape (n,). Raises `CameraError` for what is none."""
    mired = 1e6 / cct_k
    first, last = _ends(mired)
    if abs(last - first) < LEAST_MIRED:
        raise CameraError(f"the white moves by less than {LEAST_MIRED:g} mired: this is no turn")
    fade = fade_of(seconds, np.maximum(mired - min(first, last), 0.0))
    return Turn(fade, True, abs(last - first), (1e6 / first,), (1e6 / last,), 0.0, _moved(level))


def colour_turn(seconds: FloatArray, x: FloatArray, y: FloatArray, level: FloatArray | None) -> Turn:
    """A turn between two colours along the straight way in u', v' (CIE 15:2018, 8.1.1); arrays of shape (n,).

    Raises `CameraError` for what is none.
    """
    uv = np.stack(uv_1976(x, y), axis=1)
    ends = [np.array(_ends(uv[:, k])) for k in (0, 1)]
    first, last = np.array([ends[0][0], ends[1][0]]), np.array([ends[0][1], ends[1][1]])
    size = float(np.hypot(*(last - first)))
    if size < LEAST_UV:
        raise CameraError(f"the colour moves by less than {LEAST_UV:g} in u', v': this is no turn")
    along = (last - first) / size
    way = (uv - first) @ along
    beside = (uv - first) @ np.array([-along[1], along[0]])
    fade = fade_of(seconds, np.maximum(way, 0.0))
    return Turn(fade, False, size, _xy(first), _xy(last), float(np.abs(beside).max()), _moved(level))


def _ends(values: FloatArray) -> tuple[float, float]:
    few = max(3, values.size // 50)
    return float(np.median(values[:few])), float(np.median(values[-few:]))


def _xy(uv: FloatArray) -> tuple[float, float]:
    x, y = xy_from_uv_1960(uv[0], uv[1] / 1.5)
    return float(x), float(y)


def _moved(level: FloatArray | None) -> float | None:
    if level is None or float(level.min()) <= 0.0:
        return None
    return float(np.log2(level.max() / level.min()))
