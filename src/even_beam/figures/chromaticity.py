"""Readings on the chromaticity diagram with both curves: CIE 1976 u', v', near the whites."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.figures.chart import Axis, Chart, Line, Mark, Places, Points, Text, Tone, behind_first, series_of
from even_beam.light.colorimetry import uv_1976, uv_at, xy_from_uv_1960
from even_beam.light.illuminants import daylight_chromaticity
from even_beam.light.spectra import FloatArray
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class Whites:
    """One lamp's readings as CCT and Duv, with the reading behind each."""

    name: str
    cct_k: tuple[float, ...]
    duv: tuple[float, ...]
    reading_ids: tuple[str, ...]


_MARKED_K = (2700.0, 3200.0, 4000.0, 5000.0, 5600.0, 6500.0, 10_000.0)


def _u_v_prime(cct: FloatArray, duv: FloatArray) -> tuple[FloatArray, FloatArray]:
    return tuple(uv_1976(*xy_from_uv_1960(*uv_at(cct, duv))))  # type: ignore[return-value]


def chromaticity_chart(lamps: Sequence[Whites], places: Places | None = None) -> Chart:
    """The readings beside the Planckian locus (with its temperatures) and the daylight locus."""
    locus = 1e6 / np.linspace(1e6 / 20_000.0, 1e6 / 1800.0, 160)
    planck = _u_v_prime(locus, np.zeros_like(locus))
    day = uv_1976(*daylight_chromaticity(1e6 / np.linspace(1e6 / 20_000.0, 1e6 / 4000.0, 80)))
    marks: list[Mark] = [
        Line(planck[0].tolist(), planck[1].tolist(), tone=Tone.QUIET, label="Planckian"),
        Line(day[0].tolist(), day[1].tolist(), tone=Tone.QUIET, dashed=True, label="daylight"),
    ]
    xs: list[float] = []
    ys: list[float] = []
    numbers = series_of([lamp.name for lamp in lamps], places)
    for number, lamp in behind_first(numbers, lamps):
        u, v = _u_v_prime(np.array(lamp.cct_k), np.array(lamp.duv))
        xs += u.tolist()
        ys += v.tolist()
        hints = tuple(
            f"{lamp.name}: {notation.kelvin(k)} K, Duv {notation.duv(d)}"
            for k, d in zip(lamp.cct_k, lamp.duv, strict=True)
        )
        marks.append(
            Points(u.tolist(), v.tolist(), number, Tone.QUIET, keys=lamp.reading_ids, hints=hints, label=lamp.name)
        )
    low_x, high_x = _span(xs, 0.19, 0.26)
    low_y, high_y = _span(ys, 0.46, 0.53)
    for kelvin in _MARKED_K:
        across, up = (float(c) for c in _u_v_prime(np.array(kelvin), np.array(0.0)))
        if low_x < across < high_x and low_y < up < high_y:
            side = "right" if across > low_x + 0.85 * (high_x - low_x) else "left"  # words beyond the edge are cut
            marks.append(Text(across, up, f" {notation.dialled(kelvin)} K ", anchor=side, above=False))
    ticks_x = tuple((t, notation.number(t, 2)) for t in np.arange(np.ceil(low_x * 50) / 50, high_x, 0.02))
    ticks_y = tuple((t, notation.number(t, 2)) for t in np.arange(np.ceil(low_y * 50) / 50, high_y, 0.02))
    return Chart(
        title="chromaticity u′ v′: Planckian (line) and daylight (dashed)",
        x=Axis("u′", low_x, high_x, ticks_x),
        y=Axis("v′", low_y, high_y, ticks_y),
        marks=tuple(marks),
        summary=f"{notation.count(len(xs), 'reading')} of {notation.count(len(lamps), 'lamp')} beside both curves.",
        legend=tuple((i, lamp.name) for i, lamp in zip(numbers, lamps, strict=True) if i is not None),
    )


def _span(values: Sequence[float], low: float, high: float) -> tuple[float, float]:
    """The span of the readings with a margin, at least as wide as a usual one in its middle."""
    if not values:
        return low, high
    middle, half = (min(values) + max(values)) / 2.0, max((max(values) - min(values)) * 0.65, 0.35 * (high - low))
    return middle - half, middle + half
