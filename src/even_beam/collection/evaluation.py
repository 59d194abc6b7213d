"""Figures of kept spectra: computed once at the reading, and anew in bulk when the method changes."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from even_beam.bench.records import Computed, Spectrum
from even_beam.light import METHOD_VERSION, Figures, FloatArray, SpectrumError, evaluate
from even_beam.light.uncertainty import score_half_widths

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

BATCH = 256


def computed_figures(reading_id: str, spectrum: Spectrum) -> Computed:
    """The figures of one spectrum. Raises `SpectrumError` for a spectrum that no figure can be computed from."""
    figures = evaluate(spectrum.wavelength_nm, spectrum.values, absolute=spectrum.absolute)
    return _computed(reading_id, figures, score_half_widths(spectrum.wavelength_nm, spectrum.values), ())


def _computed(reading_id: str, figures: Figures, half_widths: FloatArray, index: tuple[int, ...]) -> Computed:
    scalars = {
        "illuminance": figures.illuminance_lx, "cct": figures.cct_k, "duv": figures.duv, "x": figures.x,
        "y": figures.y, "u_prime": figures.u_prime, "v_prime": figures.v_prime, "peak_nm": figures.peak_nm,
        "ra": figures.cri.Ra, "r9": figures.cri.R[..., 8], "rf": figures.tm30.Rf, "rg": figures.tm30.Rg,
        "ssi": figures.ssi.value, "tlci": figures.tlci.Qa,
    }  # fmt: skip
    vectors = {
        "R": figures.cri.R,
        "Rf_h": figures.tm30.Rf_h,
        "Rcs_h": figures.tm30.Rcs_h,
        "Rhs_h": figures.tm30.Rhs_h,
        "half_widths": half_widths,
    }
    return Computed(
        reading_id,
        METHOD_VERSION,
        {name: float(value[index]) for name, value in scalars.items() if np.isfinite(value[index])},
        {name: tuple(float(v) for v in value[index]) for name, value in vectors.items()},
    )


def evaluate_outdated(
    logbook: "Logbook", progress: Callable[[float], None] = lambda share: None, pause: Callable[[], None] = lambda: None
) -> int:
    """Compute what is missing or of an older method; returns how many. `pause` may raise to stop between batches."""
    due = logbook.out_of_date(METHOD_VERSION)
    for start in range(0, len(due), BATCH):
        pause()
        spectra = logbook.spectra(due[start : start + BATCH])
        logbook.save_computed(computed_of(spectra))
        progress(min(1.0, (start + BATCH) / len(due)))
    return len(due)


def renewed_batch(path: Path) -> list[Computed]:
    """New figures for some readings that have none or old ones, read from a file that is open elsewhere; none when all
    are new."""
    from even_beam.logbook.store import Logbook

    logbook = Logbook.open_to_read(path)
    try:
        return computed_of(logbook.spectra(logbook.out_of_date(METHOD_VERSION, BATCH)))
    finally:
        logbook.close()


def computed_of(spectra: Mapping[str, Spectrum]) -> list[Computed]:
    """The figures of spectra by reading. Those of one grid are evaluated together; one that cannot be has none."""
    groups: dict[tuple[bytes, bool], list[str]] = {}
    for reading_id, spectrum in spectra.items():
        groups.setdefault((spectrum.wavelength_nm.tobytes(), spectrum.absolute), []).append(reading_id)
    computed: list[Computed] = []
    for ids in groups.values():
        stacked = np.stack([spectra[i].values for i in ids])
        first = spectra[ids[0]]
        try:
            figures = evaluate(first.wavelength_nm, stacked, absolute=first.absolute)
            half_widths = score_half_widths(first.wavelength_nm, stacked)
            computed += [_computed(reading_id, figures, half_widths, (row,)) for row, reading_id in enumerate(ids)]
        except SpectrumError:
            computed += _one_by_one(ids, spectra)
    return computed


def _one_by_one(ids: Sequence[str], spectra: Mapping[str, Spectrum]) -> list[Computed]:
    computed = []
    for reading_id in ids:
        try:
            computed.append(computed_figures(reading_id, spectra[reading_id]))
        except SpectrumError:
            computed.append(Computed(reading_id, METHOD_VERSION))
    return computed
