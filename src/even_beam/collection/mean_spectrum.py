"""The spectrum of readings that belong together."""

from collections.abc import Sequence

import numpy as np

from even_beam.collection.collection import Collection
from even_beam.light.spectra import FloatArray, SpectrumError, resample, validate


def spectrum_of(reading_ids: Sequence[str], collection: Collection) -> FloatArray | None:
    """The mean spectrum of readings on the working grid, shape (401,); None where none has one."""
    found = []
    for kept in collection.logbook.spectra(reading_ids).values():
        try:
            found.append(resample(*validate(kept.wavelength_nm, kept.values)))
        except SpectrumError:
            continue  # a dark one, or one cut off: nothing can be tried on it
    return np.mean(found, axis=0) if found else None
