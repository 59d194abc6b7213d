"""Packs of gels on a light: every pack out of a stock tried at once, and the one that comes nearest to a white."""

from collections.abc import Sequence, Set
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations_with_replacement

import numpy as np
from numpy.typing import ArrayLike, NDArray

from even_beam.light.colorimetry import cct_and_duv, observer, uv_1960, xy
from even_beam.light.filters import Shift, shift
from even_beam.light.illuminants import daylight
from even_beam.light.photometry import stops
from even_beam.light.spectra import FloatArray

DEEPEST = 3
"""So many gels are clipped on at most: more than that dims, and warms up, more than it mends."""


WARMS, COOLS, GREENS, REDDENS = "warms", "cools", "greens", "reddens"
MIRED_BESIDE_DUV = 5000.0
"""So many mired weigh as much as a Duv of 1: the limits of a match, 10 mired and 0.002."""


_STRAYS_MIRED, _STRAYS_DUV = np.array([0.12, 800.0]), np.array([0.00006, 0.35])
"""How far dyes of one name stray from the model, by mired and by Duv of what it does to daylight (95 % of two-band dyes
that are equal on the light they are made for, on Planckian, daylight and LED lights: `tests/light/test_dyes.py`)."""

_SCORES_STRAY = {WARMS: 0.11, COOLS: 0.24, GREENS: 280.0, REDDENS: 1800.0}
"""Points of Ra and Rf by which dyes of one name differ, by mired of a warm or cold gel, by Duv of the others."""

KINDS = (WARMS, COOLS, GREENS, REDDENS)


def _against_itself(kinds: Set[str]) -> bool:
    return {WARMS, COOLS} <= kinds or {GREENS, REDDENS} <= kinds


@dataclass(frozen=True, eq=False)
class Stock:
    """The gels that may be clipped on: their names and spectral transmittances on the working grid, shape (g, 401).

    `unsure` is for each how much of what dyes of one name differ by is left open: 1 of a model, 0 where its own
    transmittance was read; all are models where nothing is said.
    """

    names: tuple[str, ...]
    transmissions: FloatArray
    unsure: tuple[float, ...] = ()

    @cached_property
    def _moved(self) -> Shift:
        return shift(daylight(5600.0), self.transmissions)

    @cached_property
    def kinds(self) -> tuple[str, ...]:
        """What each gel mostly does to daylight: warms, cools, greens or reddens."""
        white, tint = self._moved.mired / MIRED_BESIDE_DUV, self._moved.duv
        by_white = np.where(white > 0.0, WARMS, COOLS)
        by_tint = np.where(tint > 0.0, GREENS, REDDENS)
        return tuple(np.where(np.abs(white) >= np.abs(tint), by_white, by_tint).tolist())

    @cached_property
    def packs(self) -> tuple[tuple[int, ...], ...]:
        """Every pack of one to three gels by their places, none against itself; of one gel there may be two sheets."""
        places = range(len(self.names))
        every = (p for depth in range(1, DEEPEST + 1) for p in combinations_with_replacement(places, depth))
        return tuple(p for p in every if not _against_itself({self.kinds[place] for place in p}))

    def without(self, *kinds: str) -> NDArray[np.bool_]:
        """Which packs hold no gel of some kinds, shape (p,)."""
        return ~np.any([self._holding[kind] for kind in kinds], axis=0)

    @cached_property
    def _holding(self) -> dict[str, NDArray[np.bool_]]:
        """Which packs hold a gel of each kind, shape (p,)."""
        held = [{self.kinds[place] for place in pack} for pack in self.packs]
        return {kind: np.array([kind in own for own in held], dtype=np.bool_) for kind in KINDS}

    @cached_property
    def depths(self) -> NDArray[np.intp]:
        """How many gels each pack has, shape (p,)."""
        return np.array([len(pack) for pack in self.packs], dtype=np.intp)

    @cached_property
    def behind(self) -> FloatArray:
        """What each pack lets through, shape (p, 401)."""
        padded = np.vstack([self.transmissions, np.ones(self.transmissions.shape[-1])])
        bare = len(self.names)
        places = np.array([(*pack, *(bare,) * (DEEPEST - len(pack))) for pack in self.packs], dtype=np.intp)
        return np.prod(padded[places.reshape(-1, DEEPEST)], axis=1)

    @cached_property
    def strays(self) -> FloatArray:
        """Half widths (95 %) of what each pack does to a light, mired and Duv, shape (p, 2): dyes of one name that do
        the same to the white they are made for do other things to other lights. Sheets of one dye stray together."""
        mired, duv = np.abs(self._moved.mired), np.abs(self._moved.duv)
        own = np.stack([_STRAYS_MIRED @ [mired, duv], _STRAYS_DUV @ [mired, duv]], axis=-1)
        return self._together(own)

    @cached_property
    def score_strays(self) -> FloatArray:
        """Half widths (95 %) of Ra and Rf behind each pack, in points, shape (p,): what dyes of one name differ by."""
        by_white = [_SCORES_STRAY[kind] * abs(m) for kind, m in zip(self.kinds, self._moved.mired, strict=True)]
        by_tint = [_SCORES_STRAY[kind] * abs(d) for kind, d in zip(self.kinds, self._moved.duv, strict=True)]
        own = [w if kind in {WARMS, COOLS} else t for kind, w, t in zip(self.kinds, by_white, by_tint, strict=True)]
        return self._together(np.array(own).reshape(-1, 1))[:, 0]

    def _together(self, own: FloatArray) -> FloatArray:
        """What gels leave open each, shape (g, n), as packs do, shape (p, n): sheets of one dye add up, others in
        quadrature."""
        left_open = own * np.array(self.unsure or (1.0,) * len(self.names)).reshape(-1, 1)
        sheets = np.array([[pack.count(gel) for gel in range(len(self.names))] for pack in self.packs])
        found: FloatArray = np.sqrt(np.square(sheets[:, :, None] * left_open).sum(axis=1))
        return found

    def of(self, pack: Sequence[int]) -> tuple[str, ...]:
        """The names of a pack."""
        return tuple(self.names[place] for place in pack)


@dataclass(frozen=True, eq=False, slots=True)
class Packed:
    """What every pack of a stock makes of some lights: CCT, Duv and loss in stops (positive), shapes (s, p)."""

    cct: FloatArray
    duv: FloatArray
    loss_stops: FloatArray

    def off(self, cct_k: ArrayLike, duv: ArrayLike) -> tuple[FloatArray, FloatArray]:
        """How far each is from a white that broadcasts to (s, 1): mired, positive warmer, and Duv, positive greener."""
        return 1e6 / self.cct - 1e6 / np.asarray(cct_k, np.float64), self.duv - np.asarray(duv, np.float64)


def packed(lights: FloatArray, stock: Stock) -> Packed:
    """Every pack of a stock on lights on the working grid, shape (s, 401)."""
    colour = observer()
    weighted = lights[:, :, None] * colour  # (s, 401, 3)
    seen = np.einsum("pw,swc->spc", stock.behind, weighted, optimize=True)
    bare = weighted[:, :, 1].sum(axis=-1)[:, None]
    cct, duv = cct_and_duv(*uv_1960(*xy(seen)))
    return Packed(cct, duv, -stops(seen[..., 1] / bare))
