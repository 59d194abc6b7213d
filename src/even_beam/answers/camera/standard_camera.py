"""A photographed chart beside what the standard camera makes of the same two lights by their spectra."""

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from even_beam.bench.records import Source, Spectrum
from even_beam.camera.chart import chart_24
from even_beam.camera.chart_comparison import ChartDifference
from even_beam.camera.errors import CameraError
from even_beam.collection.collection import Collection
from even_beam.formats import read_spectra
from even_beam.light import FloatArray
from even_beam.light.rendering import seen_by_camera
from even_beam.light.spectra import resample

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

ALIKE = 0.5
"""Means that differ by less are the same to anybody (common practice, no source)."""


@dataclass(frozen=True, eq=False, slots=True)
class Beside:
    """CIEDE2000 of each patch once greys agree, by the photograph and by the standard camera of EBU Tech 3355, shapes
    (24,); NaN for a patch that the photograph left out."""

    photo: FloatArray
    standard: FloatArray

    @property
    def means(self) -> tuple[float, float]:
        """The means over the patches that count in the photograph."""
        good = np.isfinite(self.photo)
        return float(self.photo[good].mean()), float(self.standard[good].mean())


def spectrum_in(path: Path) -> Spectrum:
    """The first spectrum of a file. Raises `FormatError`."""
    named = read_spectra(path)[0]
    return Spectrum(named.wavelength_nm, named.values, named.absolute)


def spectra_of(logbook: "Logbook", text: str) -> tuple[Spectrum, Spectrum]:
    """The newest spectra of two sources by their nicknames, `lamp, benchmark`. Raises `CameraError`."""
    names = [name.strip() for name in text.split(",") if name.strip()]
    if len(names) != 2:
        raise CameraError("name two: the lamp, and the benchmark, such as Tansy, North window")
    first, second = (_newest(logbook, name) for name in names)
    return first, second


def _newest(logbook: "Logbook", name: str) -> Spectrum:
    source = next((s for s in logbook.all(Source) if s.nickname.casefold() == name.casefold()), None)
    if source is None:
        raise CameraError(f"nothing is called “{name}” in this logbook")
    read = Collection(logbook).entrants([source.id])
    ids = [m.reading.id for entrant in read for m in entrant.readings if m.computed is not None]
    found = logbook.spectra(ids[-1:])
    if not found:
        raise CameraError(f"no spectrum was read of {source.nickname}")
    return next(iter(found.values()))


def beside_standard(one: ChartDifference, lamp: Spectrum, benchmark: Spectrum) -> Beside:
    """The patches of a photograph beside those of the standard camera balanced on each light.

    Raises `CameraError` for a chart whose reflectances are not known.
    """
    if one.reading.chart.name != chart_24().name:
        raise CameraError("spectra tell what the standard camera sees of the chart of 24 patches alone")
    first, second = (resample(s.wavelength_nm, s.values) for s in (lamp, benchmark))
    standard = seen_by_camera(first, second).delta_e[: len(chart_24().patches)]
    return Beside(one.balanced, np.where(np.isfinite(one.balanced), standard, np.nan))


def sentence_of(one: Beside) -> str:
    """How far this camera and the standard one differ, in words."""
    photo, standard = one.means
    apart = photo - standard
    if abs(apart) < ALIKE:
        verdict = "this camera agrees with it"
    else:
        verdict = f"this camera sees {abs(apart):.1f} {'more' if apart > 0.0 else 'less'}"
    gaps = np.abs(one.photo - one.standard)
    worst = int(np.nanargmax(gaps))
    name, seen, known = chart_24().patches[worst].name, one.photo[worst], one.standard[worst]
    return (
        f"By their spectra the standard camera has them {standard:.1f} apart: {verdict}; most of all they differ at"
        f" {name} ({seen:.1f} in the photograph, {known:.1f} by the spectra)."
    )


def beside_json(one: Beside) -> dict[str, Any]:
    """It as plain values (docs/file-format.md)."""
    photo, standard = one.means
    return {
        "mean_photo": photo,
        "mean_standard": standard,
        "delta_e_standard": [float(v) if np.isfinite(v) else None for v in one.standard],
    }
