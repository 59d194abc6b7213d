"""Spectral shapes of light emitters, on the working grid, each with its peak at one. Invented but plausible."""

import numpy as np

from even_beam.light import WAVELENGTH_NM, FloatArray

_SIGMA_PER_WIDTH = 1.0 / (2.0 * np.sqrt(2.0 * np.log(2.0)))


def line(peak_nm: float, width_nm: float) -> FloatArray:
    """A Gaussian of full width `width_nm` at half height: an LED die or a broadened line."""
    offset = (WAVELENGTH_NM - peak_nm) / (width_nm * _SIGMA_PER_WIDTH)
    return np.exp(-0.5 * offset**2)


def phosphor(peak_nm: float, below_nm: float, above_nm: float) -> FloatArray:
    """A broad band with different half widths below and above its peak."""
    width = np.where(WAVELENGTH_NM < peak_nm, below_nm, above_nm)
    return np.exp(-np.log(2.0) * ((WAVELENGTH_NM - peak_nm) / width) ** 2)


def warm_white() -> FloatArray:
    """A phosphor LED of about 2700 K and high rendering."""
    return 0.383 * line(452.0, 20.0) + 0.360 * phosphor(528.0, 40.0, 52.0) + 1.0 * phosphor(636.0, 62.0, 46.0)


def cool_white() -> FloatArray:
    """A phosphor LED of about 6500 K and high rendering."""
    blue_and_cyan = line(451.0, 21.0) + 0.25 * line(480.0, 30.0)
    return blue_and_cyan + 0.488 * phosphor(525.0, 38.0, 58.0) + 0.366 * phosphor(636.0, 54.0, 44.0)


def old_cool_white() -> FloatArray:
    """A phosphor LED of an early kind: short of red and cyan, and green."""
    return 1.0 * line(449.0, 19.0) + 0.52 * phosphor(556.0, 46.0, 62.0)


def old_warm_white() -> FloatArray:
    """The warm partner of `old_cool_white`."""
    return 0.60 * line(449.0, 19.0) + 1.0 * phosphor(574.0, 50.0, 62.0) + 0.52 * phosphor(630.0, 40.0, 40.0)


def discharge() -> FloatArray:
    """A metal-halide discharge: a continuum under many lines, about 5900 K."""
    continuum = 0.36 * phosphor(520.0, 150.0, 260.0) + 0.10 * phosphor(430.0, 60.0, 60.0)
    lines = sum(
        height * line(peak, 5.0)
        for peak, height in (
            (404.7, 0.42),
            (422.0, 0.38),
            (435.8, 0.62),
            (453.0, 0.30),
            (475.0, 0.22),
            (493.0, 0.20),
            (510.0, 0.22),
            (546.1, 0.80),
            (557.0, 0.22),
            (577.0, 0.62),
            (590.0, 0.40),
            (605.0, 0.22),
            (622.0, 0.24),
            (641.0, 0.24),
            (655.0, 0.20),
            (671.0, 0.30),
        )
    )
    spectrum: FloatArray = continuum + lines
    return spectrum
