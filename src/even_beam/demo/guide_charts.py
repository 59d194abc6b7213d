"""The charts of the user guide, computed from simulated lamps when a page is shown: they never grow old."""

from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime

import numpy as np

from even_beam.bench.measured import Measured
from even_beam.bench.records import Reading, Spectrum, Terms
from even_beam.bench.run import ReadingState
from even_beam.collection.evaluation import computed_of
from even_beam.figures.chart import Chart
from even_beam.figures.hues import hue_colours
from even_beam.figures.progress import dimming_chart, walk_chart
from even_beam.figures.scores import hue_strip_chart
from even_beam.figures.spectrum import spectrum_chart
from even_beam.figures.waves import cycles_chart
from even_beam.figures.whites import Misses, miss_plot
from even_beam.instruments.simulated_flicker import DRIVERS, waveform
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import WAVELENGTH_NM
from even_beam.light.tm30 import HUE_BINS

_NOON = datetime(2026, 11, 1, 12, tzinfo=UTC)


def _read(lamp: str, terms: Sequence[Terms]) -> list[Measured]:
    """A simulated lamp read once at each of some terms, as it stands warmed up."""
    spectra = {str(n): Spectrum(WAVELENGTH_NM, np.asarray(LAMPS[lamp].irradiance(one))) for n, one in enumerate(terms)}
    computed = {one.reading_id: one for one in computed_of(spectra)}
    readings = [Reading(str(n), "guide", _NOON, n, one, (lamp,)) for n, one in enumerate(terms)]
    return [Measured(ReadingState(one, one.terms), computed[one.id]) for one in readings]


def _walk() -> Chart:
    return walk_chart(_read("tungsten", [Terms(distance_m=metres) for metres in (2.0, 2.8, 4.0, 5.6)]), "m")


def _dimming() -> Chart:
    levels = (100.0, 75.0, 50.0, 25.0, 10.0, 5.0, 1.0)
    return dimming_chart(_read("tungsten", [Terms(level_pct=level, distance_m=2.0) for level in levels]))


def _misses() -> Chart:
    whites = tuple(float(white) for white in range(2800, 6501, 300))
    read = _read("bicolour panel", [Terms(cct_k=white, level_pct=100.0, distance_m=2.0) for white in whites])
    mired = tuple(1e6 / (m.value("cct") or white) - 1e6 / white for m, white in zip(read, whites, strict=True))
    duv = tuple(m.value("duv") or 0.0 for m in read)
    return miss_plot([Misses("bicolour panel", whites, mired, duv, tuple(m.reading.id for m in read))])


def _of_daylight() -> Measured:
    return _read("bicolour panel", [Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)])[0]


def _spectrum() -> Chart:
    one = _of_daylight()
    values = np.asarray(LAMPS["bicolour panel"].irradiance(one.terms))
    return spectrum_chart(Spectrum(WAVELENGTH_NM, values), one.value("cct"))


def _hues() -> Chart:
    vectors = _of_daylight().vectors
    title = "hue by hue: up more vivid, leaning turns"
    return hue_strip_chart(vectors["Rcs_h"], vectors["Rhs_h"], hue_colours(HUE_BINS), title)


def _cycles() -> Chart:
    return cycles_chart(waveform(DRIVERS["budget panel"], 0.5, 0.2, 20_000.0, seed=3), 100.0)


CHARTS: Mapping[str, Callable[[], Chart]] = {
    "walk": _walk,
    "dimming": _dimming,
    "misses": _misses,
    "spectrum": _spectrum,
    "hues": _hues,
    "cycles": _cycles,
}
"""By the name that a page calls each by."""
