"""Light against time: its cycle, its frequency and the parts that it is made of."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.light import FloatArray

LEAST_SAMPLES = 64
SAME_STEP = 0.02
"""Samples whose distances in time differ by no more, as a share, stand evenly."""

CYCLE_POINTS, LEAST_POINTS = 1000, 48
"""So many points an averaged cycle has at the most, and at the least."""

CALM = 0.002
"""The noise over the mean that is wanted of a point of an averaged cycle."""


@dataclass(frozen=True, eq=False)
class Waveform:
    """Light, shape (n,), sampled `rate_hz` times a second. `steady_part` is false where the recording lost the mean of
    the light, as a sound card does: then only the changes are known. Raises `CameraError`."""

    light: FloatArray
    rate_hz: float
    steady_part: bool = True
    name: str = ""
    warnings: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if self.light.size < LEAST_SAMPLES:
            raise CameraError(f"{self.light.size} samples are too few: a waveform needs {LEAST_SAMPLES}")
        if not np.isfinite(self.light).all():
            raise CameraError("a waveform holds only numbers")
        if self.steady_part and float(self.light.mean()) <= 0.0:
            raise CameraError("the light of this waveform is zero or negative on the mean: was the sensor covered?")

    @property
    def seconds(self) -> float:
        """How long it lasts."""
        return float(self.light.size / self.rate_hz)

    @cached_property
    def noise(self) -> float:
        """The standard deviation of the noise of one sample, by its spectrum; found once."""
        return spectrum(self).noise


def waveform_of(seconds: FloatArray, light: FloatArray, *, name: str = "", warnings: tuple[str, ...] = ()) -> Waveform:
    """A waveform of samples with their times, both shape (n,). Uneven ones are brought to even steps, and it is said.

    Raises `CameraError` for times that do not go on.
    """
    steps = np.diff(seconds)
    if seconds.size < LEAST_SAMPLES:
        raise CameraError(f"{seconds.size} samples are too few: a waveform needs {LEAST_SAMPLES}")
    if not np.isfinite(seconds).all() or not (steps > 0.0).all():
        raise CameraError("the times of a waveform must go on from sample to sample")
    length = float(seconds[-1] - seconds[0])
    rate = (seconds.size - 1) / length
    even = seconds[0] + np.arange(seconds.size) / rate
    if float(np.abs(seconds - even).max()) * rate > SAME_STEP * 10.0:
        light = np.interp(even, seconds, light)
        warnings = (*warnings, "samples stood unevenly in time and were brought to even steps")
    return Waveform(light, rate, name=name, warnings=warnings)


@dataclass(frozen=True, eq=False, slots=True)
class Frequency:
    """The frequency of the strongest part in Hz, with its standard uncertainty; `periodic` where the light repeats
    itself at it."""

    hz: float
    uncertainty_hz: float
    periodic: bool


@dataclass(frozen=True, eq=False, slots=True)
class Lines:
    """Frequencies in Hz and the amplitude of a sine in each, both shape (m,), over the mean of the light (over one unit
    of the file where that is lost)."""

    hz: FloatArray
    amplitude: FloatArray

    @property
    def noise(self) -> float:
        """The standard deviation of the noise, in the unit of the amplitudes: by the median of all lines, which those
        of the light itself are too few to move. Of white noise in a Hann window the lines are Rayleigh distributed,
        their median 2.039 standard deviations over the root of the number of samples."""
        samples = 2.0 * self.amplitude.size - 2.0
        return float(np.median(self.amplitude[LOWEST:]) * np.sqrt(samples) / 2.039)


LOWEST = 3
"""The window spreads the mean of the light over the lines below."""


def spectrum(waveform: Waveform) -> Lines:
    """The parts of a waveform.

    A Hann window over all samples: a sine stands in four bins, and the root of the summed squares of these, divided by
    that of 1.5, is its amplitude, wherever it lies between them.
    """
    light = waveform.light
    mean = float(light.mean())
    window = 0.5 - 0.5 * np.cos(2.0 * np.pi * np.arange(light.size) / light.size)
    bins = np.abs(np.fft.rfft((light - mean) * window)) * (4.0 / light.size)
    hz = np.asarray(np.fft.rfftfreq(light.size, 1.0 / waveform.rate_hz), np.float64)
    return Lines(hz, bins / (mean if waveform.steady_part else 1.0))


def frequency_of(waveform: Waveform, lines: Lines) -> Frequency | None:
    """The strongest frequency; None where the light is as good as steady.

    The place between two bins by the ratio of the two strongest (exact for a sine in a Hann window); refined by the
    phase of the part over halves of the recording, whose scatter is the uncertainty.
    """
    amplitudes, step = lines.amplitude, float(lines.hz[1])
    peak = LOWEST + int(np.argmax(amplitudes[LOWEST:-1]))
    level = float(np.median(amplitudes[LOWEST:]))
    if amplitudes[peak] <= 0.0 or amplitudes[peak] < 12.0 * level or amplitudes[peak] < 1e-6 * _size(waveform):
        return None
    beside = peak + 1 if amplitudes[peak + 1] >= amplitudes[peak - 1] else peak - 1
    ratio = float(amplitudes[beside] / amplitudes[peak])
    rough = step * (peak + (beside - peak) * (2.0 * ratio - 1.0) / (1.0 + ratio))
    hz, uncertainty = _by_phase(waveform, rough)
    return Frequency(hz, uncertainty, _repeats(waveform, hz, lines.noise))


def _size(waveform: Waveform) -> float:
    return 1.0 if waveform.steady_part else float(np.abs(waveform.light).max())


PARTS = 8


def _by_phase(waveform: Waveform, hz: float) -> tuple[float, float]:
    """How the phase runs on over eight parts of the recording: its slope corrects the frequency."""
    size = waveform.light.size // PARTS
    if size * hz / waveform.rate_hz < 2.0:
        return hz, max(0.05 / waveform.seconds, 1e-9)
    window = 0.5 - 0.5 * np.cos(2.0 * np.pi * np.arange(size) / size)
    times = np.arange(waveform.light.size) / waveform.rate_hz
    light = waveform.light - waveform.light.mean()
    phases, middles = np.empty(PARTS), np.empty(PARTS)
    for k in range(PARTS):
        own = slice(k * size, (k + 1) * size)
        phases[k] = np.angle(np.sum(light[own] * window * np.exp(-2j * np.pi * hz * times[own])))
        middles[k] = times[own].mean()
    turns = np.unwrap(phases) / (2.0 * np.pi)
    (slope, _), covariance = np.polyfit(middles, turns, 1, cov=True)
    return hz + float(slope), max(float(np.sqrt(covariance[0, 0])), 1e-9 * hz)


REPEATING = 0.98


def _repeats(waveform: Waveform, hz: float, noise: float) -> bool:
    """Whether the light is as good as the same one cycle later: nearly all of its change is in the mean cycle."""
    cycle = folded(waveform, hz)
    if cycle is None:
        return False
    unit = float(waveform.light.mean()) if waveform.steady_part else 1.0
    change = float(np.var(waveform.light)) - (noise * unit) ** 2
    return bool(change > 0.0 and float(np.var(cycle)) > REPEATING * change)


def folded(waveform: Waveform, hz: float, noise_share: float = 0.0) -> FloatArray | None:
    """The mean cycle at a frequency, its points evenly over the cycle; None for fewer than two cycles, or fewer than
    four samples in one. The more noise (over the mean), the fewer points, each of which is the mean of more samples."""
    per_cycle = waveform.rate_hz / hz
    if waveform.seconds * hz < 2.0 or per_cycle < 4.0:
        return None
    place = (np.arange(waveform.light.size) * (hz / waveform.rate_hz)) % 1.0
    # samples of one cycle fall between those of another, unless a cycle is a whole number of them
    quiet = waveform.light.size // 16 if noise_share == 0.0 else waveform.light.size * (CALM / noise_share) ** 2
    for points in (int(np.clip(quiet, LEAST_POINTS, CYCLE_POINTS)), min(CYCLE_POINTS, round(per_cycle))):
        bins = np.minimum((place * points).astype(np.int64), points - 1)
        counts = np.bincount(bins, minlength=points)
        if points >= 4 and counts.min() >= 2:
            cycle: FloatArray = np.bincount(bins, weights=waveform.light, minlength=points) / counts
            return cycle
    return None


FINE_FROM = 200.0
"""With so many samples a cycle the crest is met well enough."""

BAND_SHARE, BAND_ENERGY, WHOLE, LONGEST, FINER = 0.6, 1e-6, 0.01, 4096, 32
"""Light is band-limited where what lies above this share of the band has less of its energy; cycles are whole where
they end so near to a sample; so many samples are taken at the most, and so many points set for each."""


def between_samples(waveform: Waveform, hz: float) -> FloatArray | None:
    """Whole cycles with the curve between their samples, where few samples met each cycle and nothing sharp is in it:
    the band-limited curve through them. None elsewhere: it would overshoot at edges."""
    per_cycle = waveform.rate_hz / hz
    if per_cycle >= FINE_FROM or per_cycle < 4.0:
        return None
    counts = np.arange(1, int(min(LONGEST, waveform.light.size) / per_cycle) + 1) * per_cycle
    whole = np.flatnonzero(np.abs(counts - np.round(counts)) < WHOLE)
    if not whole.size:
        return None
    size = int(np.round(counts[whole[-1]]))
    parts = np.fft.rfft(waveform.light[:size])
    energy = np.abs(parts[1:]) ** 2
    if energy[int(BAND_SHARE * energy.size) :].sum() > BAND_ENERGY * energy.sum():
        return None
    return np.asarray(np.fft.irfft(parts, size * FINER) * FINER, np.float64)


def whole_cycles(waveform: Waveform, hz: float) -> FloatArray:
    """The weight of each sample when only whole cycles count, shape (n,): the last one may count in part."""
    length = np.floor(waveform.seconds * hz + 1e-6) / hz * waveform.rate_hz
    if length <= 0.0:
        return np.ones(waveform.light.size)
    weights: FloatArray = np.clip(length - np.arange(waveform.light.size), 0.0, 1.0)
    return weights
