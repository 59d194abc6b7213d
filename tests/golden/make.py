"""Writes the golden figures anew: `python -m tests.golden.make`, after METHOD_VERSION was raised."""

import json
from pathlib import Path

import numpy as np

from even_beam.light import METHOD_VERSION, WAVELENGTH_NM, FloatArray, daylight, evaluate, planckian

KEPT = Path(__file__).with_name("figures.json")


def spectra() -> dict[str, tuple[FloatArray, FloatArray]]:
    """Wavelengths and values by name: smooth, narrow, banded, tinted, coarse, cut off at the red end, coloured."""
    fine = np.asarray(WAVELENGTH_NM, dtype=np.float64)
    coarse = np.arange(380.0, 781.0, 5.0)
    white_led = 0.9 * _bump(fine, 452.0, 10.0) + _bump(fine, 570.0, 55.0)
    lines = sum(_bump(fine, centre, 6.0) * size for centre, size in ((446.0, 0.7), (530.0, 0.9), (612.0, 1.0)))
    return {
        "black body 3200 K": (fine, planckian(3200.0)),
        "daylight 5600 K": (fine, daylight(5600.0)),
        "phosphor": (fine, white_led),
        "three bands": (fine, lines),
        "three bands at 5 nm": (coarse, np.interp(coarse, fine, lines)),
        "tinted green": (fine, planckian(4300.0) * (1.0 + 0.3 * _bump(fine, 540.0, 25.0))),
        "up to 700 nm": (fine[fine <= 700.0], white_led[fine <= 700.0]),
        "red": (fine, _bump(fine, 635.0, 9.0)),
    }


def _bump(wavelength: FloatArray, centre: float, width: float) -> FloatArray:
    return np.exp(-0.5 * ((wavelength - centre) / width) ** 2)


def figures() -> dict[str, dict[str, list[float | None]]]:
    """Every figure of every spectrum, as lists; None where there is no answer."""
    found = {}
    for name, (wavelength, values) in spectra().items():
        own = evaluate(wavelength, 1e-3 * values, absolute=True)
        every = {
            "illuminance": own.illuminance_lx, "cct": own.cct_k, "duv": own.duv, "x": own.x, "y": own.y,
            "peak": own.peak_nm, "R": own.cri.R, "Ra": own.cri.Ra, "Rf": own.tm30.Rf, "Rg": own.tm30.Rg,
            "Rcs": own.tm30.Rcs_h, "Rhs": own.tm30.Rhs_h, "SSI": own.ssi.value, "TLCI": own.tlci.Qa,
        }  # fmt: skip
        found[name] = {
            key: [float(v) if np.isfinite(v) else None for v in np.atleast_1d(value)] for key, value in every.items()
        }
    return found


if __name__ == "__main__":
    text = json.dumps({"method_version": METHOD_VERSION, "figures": figures()}, indent=1)
    KEPT.write_text(text + "\n", encoding="utf-8")
