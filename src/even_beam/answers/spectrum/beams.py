"""Beams in files of LM-63, looked at: peak, angles and flux."""

from pathlib import Path
from typing import Any

import numpy as np

from even_beam.bench.beam_angle import HALF, full_angle
from even_beam.formats import lm63
from even_beam.formats.lm63 import Photometry
from even_beam.formats.spectrum_file import read_bytes
from even_beam.known.findings.beam import TENTH


def beam_figures(path: Path) -> dict[str, Any]:
    """What a file says of its beam: in the plane of 0 and 180 degrees, and all round. Raises `FormatError`."""
    photometry = lm63.read(read_bytes(path), path.name)
    angle, candela = _section(photometry)
    share = candela / max(float(candela.max()), np.finfo(float).tiny)
    return {
        "file": str(path),
        "luminaire": " ".join(photometry.keywords.get("LUMINAIRE", ())),
        "said": [text for word in ("TEST", "OTHER") for text in photometry.keywords.get(word, ())],
        "peak_cd": float(photometry.candela.max()),
        "axis_cd": float(photometry.candela[0, 0]),
        "beam_angle_deg": full_angle(angle, share, HALF),
        "field_angle_deg": full_angle(angle, share, TENTH),
        "lumens": flux_of(photometry),
        "planes": int(photometry.horizontal_deg.size),
    }


def _section(photometry: Photometry) -> tuple[np.ndarray, np.ndarray]:
    """The section through the first plane, and through the one across where there is one; angles rising."""
    angle, first = photometry.vertical_deg, photometry.candela[0]
    across = np.flatnonzero(photometry.horizontal_deg == 180.0)
    if across.size == 0:
        return angle, first
    return (
        np.concatenate([-angle[:0:-1], angle]),
        np.concatenate([photometry.candela[across[0]][:0:-1], first]),
    )


def flux_of(photometry: Photometry) -> float:
    """Luminous flux in lm: the integral of intensity over the solid angle, planes between those that are given by
    interpolation and by the symmetry that the last plane stands for."""
    planes = np.deg2rad(photometry.horizontal_deg)
    rings = photometry.candela[0]
    if planes.size > 1:
        rings = np.trapezoid(photometry.candela, planes, axis=0) / (planes[-1] - planes[0])
    polar = np.deg2rad(photometry.vertical_deg)
    fine = np.unique(np.concatenate([polar, np.linspace(polar[0], polar[-1], 4000)]))
    return float(2.0 * np.pi * np.trapezoid(np.interp(fine, polar, rings) * np.sin(fine), fine))
