"""The metrics of a spectrum in a compact table, and its white in a sentence."""

import math
from dataclasses import dataclass

import numpy as np

from even_beam.known.in_words import tint_tolerance
from even_beam.light import Figures, FloatArray
from even_beam.light.colour import luminous_efficacy
from even_beam.light.references import QUOTED, reference_spectrum
from even_beam.light.spectra import WAVELENGTH_NM
from even_beam.light.ssi import similarity
from even_beam.light.uncertainty import SCORES, USUAL_XY, score_half_widths, white_tolerance
from even_beam.light.white import TINT_REFERENCE_K, daylight_duv, off_neutral
from even_beam.words import notation
from even_beam.words.metrics import METRICS


@dataclass(frozen=True, slots=True)
class Metric:
    """A metric in one line: its figure, what a handheld meter can tell of it, and its meaning and limits in words."""

    name: str
    value: str
    told: str
    limits: str


def _between(cct: float, duv: float) -> str:
    """Which of the two curves a neutral light lies on, where it lies on one."""
    if abs(duv) < ON_A_CURVE_DUV:
        return "on the black-body curve"
    return "on the daylight curve" if abs(duv - float(daylight_duv(cct))) < ON_A_CURVE_DUV else "between the curves"


ON_A_CURVE_DUV = 0.0005
"""A spectrum lies on a curve within this."""


def white_words(figures: Figures) -> str:
    """White and tint in a sentence, off the curve that the white belongs to."""
    cct, duv = float(figures.cct_k), float(figures.duv)
    if not math.isfinite(cct):
        return "It has no colour temperature."
    off = float(off_neutral(cct, duv))
    curve = "the daylight curve" if off > 0.0 and cct >= TINT_REFERENCE_K[0] else "the black-body curve"
    if abs(off) <= tint_tolerance(cct, None):
        said = f"on {curve}" if off or cct < TINT_REFERENCE_K[0] else _between(cct, duv)
        return f"{notation.kelvin(cct)} K, {said}: neither green nor magenta, as far as a handheld meter can tell."
    side = "green" if off > 0.0 else "magenta"
    return f"{notation.kelvin(cct)} K, {side} of {curve} by {notation.number(abs(off), 4)} Duv."


def metrics_of(figures: Figures, grid: FloatArray, measured: FloatArray) -> tuple[Metric, ...]:
    """The metrics in a compact table, each with what a handheld meter can tell and its limits in words."""
    cct = float(figures.cct_k)
    efficacy = Metric("radiation gives", f"{notation.number(float(luminous_efficacy(grid)))} lm/W", "", "")
    if not math.isfinite(cct):
        return (efficacy,)
    mired, tint = white_tolerance(np.array(cct), USUAL_XY, np.array(float(figures.duv)))
    half = dict(zip(SCORES, score_half_widths(WAVELENGTH_NM, grid), strict=True))

    def told(*names: str) -> str:
        return "±" + " · ".join(notation.number(float(half[name]), 1) for name in names)

    against = [(name, reference_spectrum(name)) for name in reversed(QUOTED)]
    similar = [(n, float(similarity(grid, r, measured))) for n, r in against if r is not None]
    return (
        Metric("white", f"{notation.kelvin(cct)} K", f"±{notation.number(float(mired))} mired", _limits("white")),
        Metric(
            "tint", f"{notation.duv(float(figures.duv))} Duv", f"±{notation.number(float(tint), 4)}", _limits("curves")
        ),
        Metric(
            "Ra · R9",
            f"{notation.score(float(figures.cri.Ra))} · {notation.score(float(figures.cri.R[8]))}",
            told("ra", "r9"),
            _limits("cri"),
        ),
        Metric(
            "Rf · Rg",
            f"{notation.score(float(figures.tm30.Rf))} · {notation.score(float(figures.tm30.Rg))}",
            told("rf"),
            _limits("tm30"),
        ),
        Metric(
            f"SSI {' · '.join(name for name, _ in similar)}",
            " · ".join(notation.score(value) for _, value in similar),
            told("ssi"),
            _limits("ssi"),
        ),
        Metric("TLCI", notation.score(float(figures.tlci.Qa)), told("tlci"), _limits("tlci")),
        efficacy,
    )


def _limits(name: str) -> str:
    return f"{METRICS[name].says} {METRICS[name].limits}"
