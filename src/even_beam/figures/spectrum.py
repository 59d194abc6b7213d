"""Spectra: one with its reference, or several overlaid."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from even_beam.bench.records import Spectrum
from even_beam.figures.chart import Axis, Chart, Line, Mark, Points, Rule, Text, Tone
from even_beam.light import WAVELENGTH_NM, FloatArray
from even_beam.light.colorimetry import illuminance
from even_beam.light.spectra import resample
from even_beam.light.ssi import matched_reference
from even_beam.words import notation


class Scaling(StrEnum):
    """What is made equal when spectra are laid over each other."""

    PEAK = "equal peak"
    ILLUMINANCE = "equal illuminance"


@dataclass(frozen=True, eq=False, slots=True)
class Curve:
    """A spectrum to draw, with the number and name of its lamp; one `laid_over` is told apart by dashes and named in
    the picture."""

    spectrum: Spectrum
    series: int | None = None
    label: str = ""
    laid_over: bool = False


_LEGEND_ROW = 0.1
"""The height of a named row above the curves, as a part of the highest."""


def on_working_grid(spectrum: Spectrum) -> FloatArray:
    """The values at 380-780 nm, shape (401,)."""
    return resample(spectrum.wavelength_nm, spectrum.values)


_AXIS = Axis("wavelength, nm", 380.0, 780.0, tuple((float(nm), str(nm)) for nm in range(400, 800, 50)))


_HUES = ((412.0, "violet"), (465.0, "blue"), (532.0, "green"), (600.0, "orange"), (662.0, "red"))
"""Where the names of colours stand under a spectrum: no coloured light in a dark room."""

_FOOT = 0.2
"""The part of the height below zero, for the names of colours."""


def _height(top: float) -> Axis:
    return Axis("", -_FOOT * top, top)


def _named_hues(top: float) -> list[Mark]:
    """Thin ticks with the names of the colours."""
    marks: list[Mark] = [Rule("y", 0.0)]
    for at, name in _HUES:
        marks += [
            Line([at, at], [0.0, -0.02 * top], tone=Tone.QUIET),
            Text(at, -0.02 * top, name, anchor="centre", above=False),
        ]
    return marks


def spectrum_chart(spectrum: Spectrum, cct_k: float | None) -> Chart:
    """One spectrum, peak at one, over the reference light of its own colour temperature at equal illuminance."""
    values = on_working_grid(spectrum)
    peak = float(values.max()) or 1.0
    marks: list[Mark] = []
    high = 1.0
    if cct_k is not None and np.isfinite(cct_k):
        reference = matched_reference(np.array([cct_k]))[0]
        scaled = reference * float(illuminance(values) / illuminance(reference)) / peak
        marks.append(Line(WAVELENGTH_NM.tolist(), scaled.tolist(), tone=Tone.QUIET, dashed=True, label="reference"))
        high = max(high, min(float(scaled.max()), 1.6))
    marks.append(Line(WAVELENGTH_NM.tolist(), (values / peak).tolist(), label="spectrum"))
    at = float(WAVELENGTH_NM[int(values.argmax())])
    summary = f"Spectrum, highest at {at:.0f} nm." + (
        f" Dashed: a reference light of {notation.kelvin(cct_k)} K at the same illuminance." if cct_k else ""
    )
    return Chart("relative spectrum", _AXIS, _height(1.06 * high), (*_named_hues(1.06 * high), *marks), summary)


def overlay_chart(curves: Sequence[Curve], scaling: Scaling) -> Chart:
    """Several spectra, scaled to equal peak or to equal illuminance."""
    marks: list[Mark] = []
    high = 0.0
    for curve in sorted(curves, key=lambda one: one.series is not None):
        values = on_working_grid(curve.spectrum)
        scale = float(values.max()) if scaling is Scaling.PEAK else float(illuminance(values))
        if scale <= 0.0:
            continue
        values = values / scale
        high = max(high, float(values.max()))
        marks.append(
            Line(
                WAVELENGTH_NM.tolist(),
                values.tolist(),
                curve.series,
                Tone.QUIET,
                dashed=curve.laid_over,
                label=curve.label,
            )
        )
    laid_over = [curve for curve in curves if curve.laid_over]
    top = (high or 1.0) * (1.06 + _LEGEND_ROW * len(laid_over))
    for row, curve in enumerate(laid_over):  # named above the curves, where none of them passes
        height = top - (high or 1.0) * _LEGEND_ROW * (row + 0.5)
        marks += [Points([386.0], [height], curve.series), Text(391.0, height + 0.04 * high, curve.label, above=False)]
    names = ", ".join(curve.label for curve in curves)
    legend = tuple((curve.series, curve.label) for curve in curves if curve.series is not None)
    return Chart(
        title=f"spectra at {scaling}",
        x=_AXIS,
        y=_height(top),
        marks=(*_named_hues(top), *marks),
        summary=f"Spectra of {names}, laid over each other at {scaling}." if names else "No spectrum to show.",
        legend=legend,
    )
