"""What light is: functions on spectra and figures, with no records, files or interface."""

from even_beam.light.batch import METHOD_VERSION, Figures, evaluate
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray, SpectrumError

__all__ = [
    "METHOD_VERSION",
    "WAVELENGTH_NM",
    "Figures",
    "FloatArray",
    "SpectrumError",
    "daylight",
    "evaluate",
    "planckian",
]
