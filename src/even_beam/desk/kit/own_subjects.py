"""The subjects of a Kit as light falls on them."""

from typing import TYPE_CHECKING

import numpy as np

from even_beam.bench.records import Subject
from even_beam.light import FloatArray
from even_beam.light.subjects import reflectance_on_grid

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


def own_subjects(logbook: "Logbook") -> dict[str, FloatArray]:
    """The subjects of a Kit on the working grid, by their names."""
    return {one.nickname: grid_of(one) for one in logbook.all(Subject)}


def grid_of(subject: Subject) -> FloatArray:
    """A subject's reflectance on the working grid, shape (401,)."""
    return reflectance_on_grid(np.array(subject.wavelength_nm), np.array(subject.reflectance))
