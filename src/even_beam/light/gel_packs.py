"""Packs of gels on a light: every pack out of a stock tried at once, and the one that comes nearest to a white."""

from collections.abc import Sequence, Set
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations_with_replacement

import numpy as np
from numpy.typing import ArrayLike, NDArray

from even_beam.light.colorimetry import cct_and_duv, observer, uv_1960, xy
from even_beam.light.filters import shift
from even_beam.light.illuminants import daylight
from even_beam.light.photometry import stops
from even_beam.light.spectra import FloatArray

DEEPEST = 3
"""So many gels are clipped on at most: more than that dims, and warms up, more than it mends."""


WARMS, COOLS, GREENS, REDDENS = "warms", "cools", "greens", "reddens"
MIRED_BESIDE_DUV = 5000.0
"""So many mired weigh as much as a Duv of 1: the limits of a match, 10 mired and 0.002."""


KINDS = (WARMS, COOLS, GREENS, REDDENS)


def _against_itself(kinds: Set[str]) -> bool:
    return {WARMS, COOLS} <= kinds or {GREENS, REDDENS} <= kinds


@dataclass(frozen=True, eq=False)
class Stock:
    """The gels that may be clipped on: their names and spectral transmittances on the working grid, shape (g, 401)."""

    names: tuple[str, ...]
    transmissions: FloatArray

    @cached_property
    def kinds(self) -> tuple[str, ...]:
        """What each gel mostly does to daylight: warms, cools, greens or reddens."""
        moved = shift(daylight(5600.0), self.transmissions)
        white, tint = moved.mired / MIRED_BESIDE_DUV, moved.duv
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
