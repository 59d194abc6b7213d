"""What hue and saturation to dial for a white that the dial of whites does not reach, from readings of both.

Hue and saturation are taken as polar coordinates of a plane that goes over into CIE 1976 u', v' smoothly: near readings
the chromaticity moves in proportion to them, from the nearest reading on, as the plane says that fits them best about
it.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from even_beam.bench.measured import Measured
from even_beam.bench.target import Target
from even_beam.light.colorimetry import cct_and_duv, uv_1976, uv_at
from even_beam.light.spectra import FloatArray

MOST_NEAR = 8
"""The plane rests on so many readings that lie nearest."""

LEAST_APART, LEAST_SLOPE = 1e-3, 1e-6
"""In u', v', and its square a part of full saturation: nearer readings weigh no more, and flatter dials do nothing."""

LEAST_SHARE = 0.02
"""Three readings whose triangle has less area than this share of its longest side squared lie on a line."""

BEYOND = 0.15
"""A setting so far outside the readings that it rests on, in parts of full saturation, is still told."""

_CURVED = 0.1
"""The share of a move that the lamp's own curve may add to it (common practice, no source)."""


@dataclass(frozen=True, eq=False, slots=True)
class ColourPoint:
    """A setting of hue and saturation that was read: its x and y, log2 of its level, and the readings."""

    hue_deg: float
    saturation_pct: float
    x: float
    y: float
    level_stops: float | None
    repeats: tuple[Measured, ...]

    @property
    def dials(self) -> FloatArray:
        """Hue and saturation in the plane, shape (2,); full saturation is one."""
        turn = np.deg2rad(self.hue_deg)
        return self.saturation_pct / 100.0 * np.array([np.cos(turn), np.sin(turn)])

    @property
    def uv(self) -> FloatArray:
        """CIE 1976 u' and v', shape (2,)."""
        return np.array([float(v) for v in uv_1976(self.x, self.y)])


@dataclass(frozen=True, eq=False, slots=True)
class ColourAnswer:
    """What to dial, the white that is expected then in mired and Duv with 95 % half widths, its level in stops against
    the nearest reading, and the readings it rests on."""

    hue_deg: float
    saturation_pct: float
    mired: float
    duv: float
    half_mired: float
    half_duv: float
    level_stops: float | None
    rests_on: tuple[ColourPoint, ...]


def colour_answer(points: Sequence[ColourPoint], target: Target) -> ColourAnswer | None:
    """What to dial for a target; None where no three readings span the plane about it, or it lies beyond them."""
    u, v = uv_at(target.cct_k, target.duv)
    wanted = np.array([float(u), 1.5 * float(v)])
    near = sorted(points, key=lambda one: _distance(one.uv, wanted))[:MOST_NEAR]
    corners = [np.stack([one.dials for one in those]) for those in combinations(near, 3)]
    spanned = [those for those in corners if _spans(those)]
    if not spanned:
        return None
    nearest = near[0]  # from there on, so that each further reading leaves less to the slopes
    slopes, levels = _slopes(near, wanted)
    if abs(float(np.linalg.det(slopes))) < LEAST_SLOPE:
        return None
    place = nearest.dials + np.linalg.solve(slopes, wanted - nearest.uv)
    if float(np.hypot(*place)) > 1.0 or min(_outside(place, those) for those in spanned) > BEYOND:
        return None
    hue, saturation = float(np.rad2deg(np.arctan2(place[1], place[0]))) % 360.0, 100.0 * float(np.hypot(*place))
    dialled = ColourPoint(round(hue, 1) % 360.0, round(saturation, 1), 0.0, 0.0, None, ())
    moved = dialled.dials - nearest.dials
    expected = nearest.uv + slopes @ moved
    mired, duv = _white(expected)
    slack = _CURVED * float(np.hypot(*moved)) * float(np.abs(slopes).max())
    aside = [_white(expected + shift) for shift in slack * np.eye(2)]
    return ColourAnswer(
        hue_deg=dialled.hue_deg,
        saturation_pct=dialled.saturation_pct,
        mired=mired,
        duv=duv,
        half_mired=float(np.hypot(aside[0][0] - mired, aside[1][0] - mired)),
        half_duv=float(np.hypot(aside[0][1] - duv, aside[1][1] - duv)),
        level_stops=None if levels is None else float(levels @ moved),
        rests_on=tuple(near),
    )


def _distance(a: FloatArray, b: FloatArray) -> float:
    return float(np.hypot(*(a - b)))


def _slopes(near: Sequence[ColourPoint], wanted: FloatArray) -> tuple[FloatArray, FloatArray | None]:
    """How u' and v' go with the dials, shape (2, 2), and stops over them, (2,).

    The plane that fits readings best, each by the inverse square of its distance from what is wanted, but the nearest
    exactly.
    """
    first, others = near[0], near[1:]
    weight = np.array([1.0 / max(_distance(one.uv, wanted), LEAST_APART) ** 2 for one in others])[:, None]
    moves = np.stack([one.dials - first.dials for one in others])
    answers = np.stack([one.uv - first.uv for one in others])
    slopes = np.linalg.lstsq(moves * weight, answers * weight, rcond=None)[0].T
    levels = [one.level_stops for one in near if one.level_stops is not None]
    if len(levels) < len(near):
        return slopes, None
    rises = np.array(levels[1:]) - levels[0]
    return slopes, np.linalg.lstsq(moves * weight, rises * weight[:, 0], rcond=None)[0]


def _spans(places: FloatArray) -> bool:
    a, b, c = places
    area = 0.5 * abs(float((b - a)[0] * (c - a)[1] - (b - a)[1] * (c - a)[0]))
    longest = max(float(np.hypot(*side)) for side in (b - a, c - b, a - c))
    return longest > 0.0 and area > LEAST_SHARE * longest**2


def _outside(place: FloatArray, dials: FloatArray) -> float:
    """How far a place lies outside the triangle of three, 0 within it."""
    weights = np.linalg.solve(np.vstack([dials.T, np.ones(3)]), np.array([*place, 1.0]))
    if (weights >= 0.0).all():
        return 0.0
    return min(_to_side(place, dials[i], dials[j]) for i, j in ((0, 1), (1, 2), (2, 0)))


def _to_side(place: FloatArray, a: FloatArray, b: FloatArray) -> float:
    along = b - a
    share = float(np.clip((place - a) @ along / (along @ along), 0.0, 1.0))
    return float(np.hypot(*(place - a - share * along)))


def _white(uv: FloatArray) -> tuple[float, float]:
    """Mired and Duv of u' and v'."""
    cct, duv = cct_and_duv(uv[0], uv[1] / 1.5)
    return 1e6 / float(cct), float(duv)
