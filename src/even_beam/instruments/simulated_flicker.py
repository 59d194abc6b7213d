"""Waveforms and fades of simulated lamps: pulses, rectified mains, ripples, steps. The numbers are invented."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from even_beam.camera.waveform import Waveform
from even_beam.light import FloatArray


@dataclass(frozen=True, slots=True)
class Driver:
    """How a lamp makes its levels: `light` takes time in seconds and the level (0 to 1) to light over its full."""

    words: str
    light: Callable[[FloatArray, float], FloatArray]


def _pulses(hz: float) -> Callable[[FloatArray, float], FloatArray]:
    return lambda t, level: ((t * hz) % 1.0 < level).astype(np.float64)


def _mains(depth: float) -> Callable[[FloatArray, float], FloatArray]:
    """Rectified mains of 50 Hz, smoothed: a ripple of 100 Hz."""
    return lambda t, level: level * (1.0 - depth + depth * np.abs(np.sin(2.0 * np.pi * 50.0 * t)) * np.pi / 2.0)


def _ripple(hz: float, share: float) -> Callable[[FloatArray, float], FloatArray]:
    return lambda t, level: level * (1.0 + share * np.sin(2.0 * np.pi * hz * t))


DRIVERS: Mapping[str, Driver] = {
    "tungsten": Driver("rectified mains, its heat smooths them", _mains(0.06)),
    "bicolour panel": Driver("pulses of 620 Hz below full", _pulses(620.0)),
    "budget panel": Driver("rectified mains, hardly smoothed", _mains(0.8)),
    "six emitters": Driver("a ripple of 25 kHz", _ripple(25_000.0, 0.04)),
    "point source": Driver("a ripple of 40 kHz", _ripple(40_000.0, 0.02)),
}


def waveform(driver: Driver, level: float, seconds: float, rate_hz: float, seed: int, noise: float = 0.002) -> Waveform:
    """A photodiode before a lamp at a level: each sample the mean of its time, with a little noise."""
    few = 8
    t = np.arange(int(seconds * rate_hz) * few) / (rate_hz * few)
    light = driver.light(t, level).reshape(-1, few).mean(axis=1)
    rng = np.random.default_rng(seed)
    return Waveform(light + rng.normal(0.0, noise * float(light.mean()), light.size), rate_hz, name=driver.words)


def fade(
    seconds: float,
    rate_hz: float,
    *,
    exponent: float = 1.0,
    levels: int = 0,
    lag_s: float = 0.15,
    floor: float = 0.0,
    up: bool = False,
    seed: int = 0,
) -> tuple[FloatArray, FloatArray]:
    """Times and light of a fade: by a power of time, in so many levels (0 for none), out at once below `floor`; half a
    second before and after."""
    t = np.arange(int((seconds + 1.0) * rate_hz)) / rate_hz
    done = np.clip((t - 0.5 - lag_s) / (seconds - lag_s), 0.0, 1.0)
    dial = done if up else 1.0 - done
    if levels:
        dial = np.round(dial * levels) / levels
    light = dial**exponent
    light = np.where(light < floor, 0.0, light)
    rng = np.random.default_rng(seed)
    return t, 1000.0 * light + rng.normal(0.0, 0.2, t.size)
