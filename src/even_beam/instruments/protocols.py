"""What the bench asks of an instrument, real or simulated: a meter that reads, and a lamp that can be told.

A driver is found by an entry point (`even_beam.meters`, `even_beam.lamp_controls`): a callable that is given its name,
its address, what the bench file says of it, and the folder of that file. All calls may take seconds and are made
outside the interface's thread.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Protocol

from even_beam.bench.records import Spectrum
from even_beam.errors import TellableError


class InstrumentError(TellableError):
    """An instrument could not do what was asked; the message says why and what to do."""


class BrokenOffError(InstrumentError):
    """The instrument did not answer, or not whole: to ask once more makes sense."""


@dataclass(frozen=True, eq=False, slots=True)
class MeterReading:
    """What a meter gave in one act: the figures on its own display in the units of the logbook, its spectrum where it
    has one, its mode and range. `number` is what the meter itself counts its readings by, where it does."""

    figures: Mapping[str, float] = field(default_factory=dict)
    spectrum: Spectrum | None = None
    saturated: bool = False
    mode: str = ""
    range: str = ""
    number: str = ""


class MeterDriver(Protocol):
    """A meter that a key reads; one that does not read at once waits for somebody to press it."""

    quantities: tuple[str, ...]
    has_spectrum: bool
    reads_at_once: bool

    def connect(self) -> str:
        """Reach it; who it is, in its own words. Raises `InstrumentError`."""
        ...

    def zero(self) -> None:
        """Measure the sensor's own dark signal, with the light kept off it. Raises `InstrumentError`."""
        ...

    def read(self) -> MeterReading:
        """Measure now. Raises `InstrumentError`."""
        ...

    def close(self) -> None:
        """Let go of it; never raises."""
        ...


class LampControl(Protocol):
    """A lamp that can be told what to do: `limits` are the terms it can set, each with its ends."""

    limits: Mapping[str, tuple[float, float]]

    def connect(self) -> str:
        """Reach it, without lighting it; how, in a few words. Raises `InstrumentError`."""
        ...

    def set(self, terms: Mapping[str, float]) -> Mapping[str, float]:
        """Set terms; what they were set to, which steps of a dial may make another value. Raises `InstrumentError`."""
        ...

    def rest(self) -> None:
        """Go to where it does no harm, dark unless the bench file says otherwise. Raises `InstrumentError`."""
        ...

    def close(self) -> None:
        """Rest, and let go of it; never raises."""
        ...


Settings = Mapping[str, Any]
"""What a bench file says of an instrument beside its driver and address."""

MeterFactory = Callable[[str, str, Settings, Path], MeterDriver]
LampFactory = Callable[[str, str, Settings, Path], LampControl]
