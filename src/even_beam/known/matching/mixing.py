"""Several lamps on one subject: what they give together, and the levels that give a white."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench.target import Target, matches, off_words
from even_beam.known.matching.gels import off_both, scores_of
from even_beam.light.colorimetry import cct_and_duv, tristimulus, uv_1960, uv_at, xy
from even_beam.light.mixing import at_illuminance, mixed
from even_beam.light.spectra import FloatArray
from even_beam.words import notation


@dataclass(frozen=True, eq=False, slots=True)
class Part:
    """One lamp of a mixture as it was read: its spectrum on the working grid, shape (401,), and its illuminance.

    Without `own_spectrum` that is a reference spectrum of its white, which says nothing of scores; without `tint_known`
    its tint is taken as none.
    """

    name: str
    terms: str
    light: FloatArray
    lux: float
    readings: tuple[str, ...] = ()
    own_spectrum: bool = True
    tint_known: bool = True


@dataclass(frozen=True, eq=False, slots=True)
class Mixture:
    """What parts give together, each at a `factor` of what was read, shape (k,).

    `shares` of the illuminance, shape (k,); `off` is how far each alone is off the mixture in mired and Duv, shape
    (k, 2): what is seen where only that one reaches, once a camera is balanced on the mixture.
    """

    parts: tuple[Part, ...]
    factors: FloatArray
    lux: float
    cct_k: float
    duv: float
    shares: FloatArray
    off: FloatArray
    scores: dict[str, float | None]

    @property
    def is_white(self) -> bool:
        """Whether it has a temperature at all."""
        return bool(np.isfinite(self.cct_k))

    @property
    def sentences(self) -> list[str]:
        """What it is, and what a balance on it leaves."""
        each = notation.listed(
            [f"{notation.percent(100.0 * s)} % {p.name}" for s, p in zip(self.shares, self.parts, strict=True)]
        )
        unknown = [part.name for part in self.parts if not part.tint_known]
        tint = f"Duv {notation.duv(self.duv)}" if not unknown else "its tint not known"
        white = f"{notation.white(self.cct_k)} K, {tint}" if self.is_white else "a colour, no white"
        found = [f"Together {notation.level(self.lux)}, {white}: {each}."]
        found += [f"The tint of {notation.listed(unknown)} was not read and is taken as none."] if unknown else []
        if self.is_white:
            found += [
                f"Where {part.name} alone reaches, a camera balanced on all of it sees"
                f" {off_words(float(mired), float(duv)).replace('same white', 'the same white')}."
                for part, (mired, duv) in zip(self.parts, self.off, strict=True)
                if np.isfinite(mired) and not matches(float(mired), float(duv))
            ]
        return found


def mixture(parts: Sequence[Part], factors: Sequence[float] | FloatArray | None = None) -> Mixture:
    """What lamps give together, each at a share from 0 to 1 of what was read of it; all at what was read if not given.

    Raises `ValueError` without parts, and `SpectrumError` for a negative share.
    """
    if not parts:
        raise ValueError("there is nothing to mix")
    weights = np.ones(len(parts)) if factors is None else np.asarray(factors, np.float64)
    lights = at_illuminance(np.array([p.light for p in parts]), [p.lux for p in parts])
    together = mixed(lights, weights)
    lux = weights * np.array([p.lux for p in parts])
    cct, duv = cct_and_duv(*uv_1960(*xy(tristimulus(together))))
    own_cct, own_duv = cct_and_duv(*uv_1960(*xy(tristimulus(lights))))
    off = np.stack([1e6 / own_cct - 1e6 / cct, own_duv - duv], axis=-1)
    total = float(lux.sum())
    shares = lux / total if total > 0.0 else np.zeros_like(lux)
    scores = scores_of(together[None])[0]
    if not all(part.own_spectrum for part in parts):
        scores = dict.fromkeys(scores)  # nobody knows how a light shows colours whose spectrum was not read
    return Mixture(tuple(parts), weights, total, float(cct), float(duv), shares, off, scores)


@dataclass(frozen=True, eq=False, slots=True)
class Levels:
    """The levels that come nearest to a white, and to an illuminance where one was asked."""

    mixture: Mixture
    target: Target
    asked_lux: float | None

    @property
    def off(self) -> tuple[float, float]:
        """What is left in mired and Duv."""
        return 1e6 / self.mixture.cct_k - 1e6 / self.target.cct_k, self.mixture.duv - self.target.duv

    @property
    def reaches(self) -> bool:
        """Whether white and illuminance are had."""
        level = self.asked_lux is None or abs(np.log2(max(self.mixture.lux, 1e-9) / self.asked_lux)) <= 0.05
        return bool(matches(*self.off) and level)

    @property
    def sentence(self) -> str:
        """What to set each lamp to, of what was read of it."""
        each = notation.listed(
            [
                f"{p.name} to {notation.percent(100.0 * f)} % of what was read"
                for p, f in zip(self.mixture.parts, self.mixture.factors, strict=True)
            ]
        )
        left = "which is the target" if self.reaches and off_both(*self.off) < 0.1 else f"leaves {off_words(*self.off)}"
        lux = f", {notation.level(self.mixture.lux)}"
        short = (
            f"; {notation.level(self.asked_lux)} is not had with this white"
            if self.asked_lux is not None and self.mixture.lux < 0.966 * self.asked_lux
            else ""
        )
        return f"{each}: {left}{lux}{short}."


def levels_for(parts: Sequence[Part], target: Target, lux: float | None = None) -> Levels:
    """The shares from 0 to 1 that come nearest to a white, by non-negative least squares of the chromaticity, as bright
    as they go or at an illuminance.

    White comes before illuminance: where both cannot be had, the light is less. Raises `ValueError` without parts.
    """
    from scipy.optimize import nnls  # not at start-up

    if not parts:
        raise ValueError("there is nothing to mix")
    colours = tristimulus(np.array([p.light for p in parts]))
    each = colours / colours[:, 1:2]  # each at an illuminance of one
    u, v = (float(v) for v in uv_at(target.cct_k, target.duv))
    whole = each @ np.array([1.0, 15.0, 3.0])  # u = 4 X / whole, v = 6 Y / whole (CIE 1960)
    rows = np.array([4.0 * each[:, 0] - u * whole, 6.0 * each[:, 1] - v * whole, _ADD_UP * each[:, 1]])
    shares, _ = nnls(rows, np.array([0.0, 0.0, _ADD_UP]))
    wanted = shares / np.array([p.lux for p in parts])
    most = 1.0 / float(wanted.max())  # one of them is full then
    total = float(shares.sum())
    return Levels(mixture(parts, wanted * (most if lux is None else min(lux / total, most))), target, lux)


_ADD_UP = 1e4
"""How firmly the shares add up to one, beside the white that they shall have."""
