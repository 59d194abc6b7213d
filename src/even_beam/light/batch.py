"""Everything about a batch of spectra in one vectorised pass: `evaluate`."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.colorimetry import LUMINOUS_EFFICACY_LM_PER_W, cct_and_duv, is_white, tristimulus, uv_1960, xy
from even_beam.light.cri import colour_rendering
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray, resample, resample_linearly, validate
from even_beam.light.ssi import similarity_to_matched
from even_beam.light.tlci import consistency
from even_beam.light.tm30 import colour_fidelity

METHOD_VERSION = 2
"""Raised whenever a change alters any figure, so that kept figures are computed anew."""

CHUNK = 1024
"""Spectra a pass: large enough for the matrix products, small enough for the intermediate arrays to stay in cache."""


@dataclass(frozen=True, eq=False)
class CriFigures:
    """CIE 13.3-1995: Ra (the mean of R1-R8), shape (...), and R1-R15, shape (..., 15)."""

    Ra: FloatArray
    R: FloatArray


@dataclass(frozen=True, eq=False)
class Tm30Figures:
    """ANSI/IES TM-30: Rf, Rg, shape (...); per hue bin, shape (..., 16): fidelity, chroma shift in %, hue shift in
    rad."""

    Rf: FloatArray
    Rg: FloatArray
    Rf_h: FloatArray
    Rcs_h: FloatArray
    Rhs_h: FloatArray


@dataclass(frozen=True, eq=False)
class SsiFigures:
    """SMPTE ST 2122: the name of the reference and the index, shape (...)."""

    reference: str
    value: FloatArray


@dataclass(frozen=True, eq=False)
class TlciFigures:
    """EBU Tech 3355: Qa, shape (...)."""

    Qa: FloatArray


@dataclass(frozen=True, eq=False)
class Figures:
    """All figures of a batch, arrays of shape (...) or (..., k); NaN where there is no answer.

    Illuminance needs absolute irradiance. Beyond |Duv| 0.05, or outside 1000-50 000 K, a light is coloured: its
    temperature and every score that rests on it are NaN.
    """

    illuminance_lx: FloatArray
    cct_k: FloatArray
    duv: FloatArray
    x: FloatArray
    y: FloatArray
    u_prime: FloatArray
    v_prime: FloatArray
    peak_nm: FloatArray
    cri: CriFigures
    tm30: Tm30Figures
    ssi: SsiFigures
    tlci: TlciFigures


def evaluate(wavelength_nm: ArrayLike, spectra: ArrayLike, *, absolute: bool = False) -> Figures:
    """All figures of one spectrum or of a batch.

    `wavelength_nm` (n,) in nm, increasing; `spectra` (n,) or (..., n), relative, or spectral irradiance in
    W m-2 nm-1 when `absolute`. Raises `SpectrumError` for what no figure can be computed from (see `validate`).
    Memory beyond input and result does not grow with the batch.

    >>> from even_beam.light import WAVELENGTH_NM, evaluate, planckian
    >>> round(float(evaluate(WAVELENGTH_NM, planckian(3200.0)).cct_k), 1)
    3200.0
    """
    wavelength, values = validate(wavelength_nm, spectra)
    shape = values.shape[:-1]
    flat = values.reshape(-1, wavelength.size)
    measured = ((WAVELENGTH_NM >= wavelength[0]) & (WAVELENGTH_NM <= wavelength[-1])).astype(np.float64)
    # coloured light has no answer: NaN, whatever the caller's settings
    with np.errstate(invalid="ignore", divide="ignore"):
        parts = [
            _evaluate_chunk(*_on_the_grid(wavelength, flat[start : start + CHUNK]), measured, absolute)
            for start in range(0, flat.shape[0], CHUNK)
        ]
    figures: Figures = _joined(parts, shape)
    return figures


def _on_the_grid(wavelength: FloatArray, values: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Spectra on the working grid, and as SSI takes them."""
    return resample(wavelength, values), resample_linearly(wavelength, values)


def _evaluate_chunk(spectra: FloatArray, linear: FloatArray, measured: FloatArray, absolute: bool) -> Figures:
    xyz = tristimulus(spectra)
    luminance = xyz[:, 1]
    x, y = xy(xyz)
    u, v = uv_1960(x, y)
    cct, duv = cct_and_duv(u, v)
    cct = np.where(is_white(duv), cct, np.nan)
    rendering = colour_rendering(spectra, cct)
    fidelity = colour_fidelity(spectra, cct)
    return Figures(
        illuminance_lx=LUMINOUS_EFFICACY_LM_PER_W * luminance if absolute else np.full_like(luminance, np.nan),
        cct_k=cct,
        duv=duv,
        x=x,
        y=y,
        u_prime=u,
        v_prime=1.5 * v,
        peak_nm=WAVELENGTH_NM[np.argmax(spectra, axis=-1)],
        cri=CriFigures(rendering.Ra, rendering.R),
        tm30=Tm30Figures(fidelity.Rf, fidelity.Rg, fidelity.Rf_h, fidelity.Rcs_h, fidelity.Rhs_h),
        ssi=SsiFigures("matched", similarity_to_matched(linear, cct, measured)),
        tlci=TlciFigures(consistency(spectra, cct)[0]),
    )


def _joined(parts: list[Any], shape: tuple[int, ...]) -> Any:
    """Concatenate the chunks' arrays field by field and restore the batch's shape."""
    first = parts[0]
    if isinstance(first, np.ndarray):
        joined = first if len(parts) == 1 else np.concatenate(parts)
        return joined.reshape(shape + joined.shape[1:])
    if isinstance(first, str):
        return first
    return type(first)(**{name: _joined([vars(p)[name] for p in parts], shape) for name in vars(first)})
