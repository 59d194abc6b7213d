"""A simulated bench: the lamps that are lit, the room's own glow, and a spectrometer that reads what arrives."""

import time
from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Protocol

import numpy as np

from even_beam.bench.records import Spectrum, Terms
from even_beam.instruments.protocols import MeterReading
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import WAVELENGTH_NM, FloatArray, planckian
from even_beam.light.colorimetry import LUMINOUS_EFFICACY_LM_PER_W, cct_and_duv, illuminance, tristimulus, uv_1960, xy

Clock = Callable[[], datetime]


class Light(Protocol):
    """What a meter stands in."""

    def irradiance(self) -> FloatArray:
        """What arrives now, W m-2 nm-1 on the working grid."""
        ...


class SimulatedBench:
    """What stands in the dark room. It does as it is told, and nothing else: a step asked is not yet a lamp set."""

    def __init__(self, clock: Clock, ambient_lx: float = 0.4) -> None:
        self._clock = clock
        self._lit: list[tuple[str, Terms]] = []
        self._since: dict[str, datetime] = {}
        glow = planckian(3000.0)
        self._ambient: FloatArray = glow * ambient_lx / (LUMINOUS_EFFICACY_LM_PER_W * float(tristimulus(glow)[1]))

    def set(self, lit: Sequence[tuple[str, Terms]]) -> None:
        """Light exactly these simulated lamps at these terms; a lamp that was lit before stays warm."""
        now = self._clock()
        names = {name for name, _ in lit}
        self._since = {name: self._since.get(name, now) for name in names}
        self._lit = list(lit)

    def warm(self, name: str, since: datetime) -> None:
        """Say that a lamp has been lit since `since`."""
        self._since[name] = since

    def irradiance(self) -> FloatArray:
        """What arrives at the meter, W m-2 nm-1 on the working grid."""
        total = self._ambient.copy()
        now = self._clock()
        for name, terms in self._lit:
            minutes = (now - self._since[name]).total_seconds() / 60.0
            total += LAMPS[name].irradiance(terms, minutes)
        return total


class SimulatedSpectrometer:
    """A handheld spectrometer with the faults of its kind, the same for the same seed.

    `gain` and `wavelength_shift_nm` are its calibration error, common to all its readings; `repeatability` scatters
    each one. Its dark signal grows with the hours since the last dark calibration, and light beyond `ceiling_lx`
    saturates it.
    """

    def __init__(
        self,
        bench: "Light",
        clock: Clock,
        seed: int = 1,
        *,
        gain: float = 1.012,
        wavelength_shift_nm: float = 0.15,
        repeatability: float = 0.003,
        ceiling_lx: float = 200_000.0,
        delay_s: float = 0.0,
    ) -> None:
        self._bench = bench
        self._clock = clock
        self._random = np.random.default_rng(seed)
        self._gain = gain
        self._shift = wavelength_shift_nm
        self._repeatability = repeatability
        self._ceiling = ceiling_lx
        self._delay = delay_s
        self._dark_at = clock()

    quantities: tuple[str, ...] = ("illuminance", "cct", "duv")
    has_spectrum = True
    reads_at_once = True

    def connect(self) -> str:
        """It is always there."""
        return "a simulated spectrometer"

    def close(self) -> None:
        """Nothing is held."""

    def zero(self) -> None:
        """Take the present dark signal as zero."""
        self._wait()
        self._dark_at = self._clock()

    def read(self) -> MeterReading:
        """Measure what arrives now."""
        self._wait()
        light = self._bench.irradiance()
        arrived = float(illuminance(light))
        seen = np.interp(WAVELENGTH_NM - self._shift, WAVELENGTH_NM, _blurred(light))
        seen = seen * self._gain * (1.0 + self._repeatability * self._random.standard_normal())
        hours = max((self._clock() - self._dark_at).total_seconds() / 3600.0, 0.0)
        # a longer exposure for less light: the noise floor falls with the level, down to the sensor's own
        floor = 2.0e-7 + 2.0e-4 * float(seen.max())
        noise = floor * self._random.standard_normal(seen.size)
        dark = 4.0e-6 * min(hours, 8.0) * (1.0 + 0.3 * np.sin(WAVELENGTH_NM / 17.0))
        seen = seen + noise + dark
        saturated = arrived > self._ceiling
        if saturated:
            seen = np.minimum(seen, 0.6 * float(seen.max()))
        spectrum = Spectrum(WAVELENGTH_NM.copy(), seen)
        return MeterReading(_displayed(seen), spectrum, saturated, "continuous", _range(arrived))

    def _wait(self) -> None:
        if self._delay:
            time.sleep(self._delay)


def _range(illuminance_lx: float) -> str:
    """The exposure range that the instrument chooses by itself."""
    return "low" if illuminance_lx < 50.0 else "middle" if illuminance_lx < 5000.0 else "high"


_BLUR = np.exp(-0.5 * (np.arange(-12, 13) / 3.4) ** 2)
_BLUR /= _BLUR.sum()


def _blurred(light: FloatArray) -> FloatArray:
    """The instrument's bandwidth of 8 nm."""
    padded = np.pad(light, 12, mode="edge")
    return np.convolve(padded, _BLUR, mode="valid")


def _displayed(seen: FloatArray) -> dict[str, float]:
    """The figures on the meter's own display, rounded as it shows them."""
    light = np.maximum(seen, 0.0)
    figures = {"illuminance": float(f"{float(illuminance(light)):.4g}")}
    cct, duv = cct_and_duv(*uv_1960(*xy(tristimulus(light))))
    if np.isfinite(cct):
        figures["cct"] = float(np.round(cct))
        figures["duv"] = float(np.round(duv, 4))
    return figures
