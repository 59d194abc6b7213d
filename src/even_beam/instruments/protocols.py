"""What the bench asks of an instrument, real or simulated."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Protocol

from even_beam.bench.records import Spectrum
from even_beam.errors import TellableError


class InstrumentError(TellableError):
    """A meter could not read; the message says why and what to do."""


@dataclass(frozen=True, eq=False, slots=True)
class RawReading:
    """What a spectrometer gave in one act: its spectrum, the figures on its own display, its mode and range."""

    spectrum: Spectrum
    figures: Mapping[str, float]
    saturated: bool = False
    mode: str = ""
    range: str = ""


class Spectrometer(Protocol):
    """A meter that a key reads. Both calls may take seconds and are made outside the interface's thread."""

    def read(self) -> RawReading:
        """Measure now. Raises `InstrumentError`."""
        ...

    def dark_calibrate(self) -> None:
        """Measure the sensor's own dark signal, with the light kept off it. Raises `InstrumentError`."""
        ...
