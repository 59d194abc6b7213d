"""How deep and how fast light flickers: per cent flicker, flicker index, and visibility as a stroboscopic effect."""

from dataclasses import dataclass

import numpy as np

from even_beam.camera.pst import pst_lm
from even_beam.camera.waveform import (
    Frequency,
    Lines,
    Waveform,
    between_samples,
    folded,
    frequency_of,
    spectrum,
    whole_cycles,
)
from even_beam.light import FloatArray

NOISY_SHARE = 0.001
"""From so much noise on (standard deviation over mean) the extremes of a cycle are taken from the mean cycle."""

LEAST_A_CYCLE = 8.0
"""With fewer samples a cycle the shape of the light is not known."""

SVM_LOW_HZ, SVM_HIGH_HZ, SVM_LEAST_S, SVM_POWER = 80.0, 2000.0, 1.0, 3.7
SVM_RISE_S, SVM_MIDDLE_HZ, SVM_SLOW, SVM_SLOW_HZ = 0.00518, 306.6, 20.0, 10.0


@dataclass(frozen=True, eq=False, slots=True)
class Flicker:
    """What a waveform shows; None where it cannot tell.

    `percent` is 100 (max - min)/(max + min), `index` the area above the mean over that below the curve, both of a cycle
    (IES lighting handbook); `svm` by IEC TR 63158; `pst_lm` by IEC TR 61547-1. `noise_share` is the noise over the
    mean. `parts` are the strongest parts as (Hz, amplitude over the mean).
    """

    frequency: Frequency | None
    percent: float | None
    index: float | None
    svm: float | None
    pst_lm: float | None
    noise_share: float | None
    parts: tuple[tuple[float, float], ...]
    warnings: tuple[str, ...] = ()


def flicker_of(waveform: Waveform) -> Flicker:
    """All figures of a waveform."""
    lines = spectrum(waveform)
    frequency = frequency_of(waveform, lines)
    said = list(waveform.warnings)
    parts = strongest(lines, steady_part=waveform.steady_part)
    if not waveform.steady_part:
        said.append(
            "the recording lost the steady part of the light (AC coupling): frequency is known; depth, index, SVM and"
            " what a camera shows are not. Give the mean in the file's units if it was measured beside it"
        )
        return Flicker(frequency, None, None, None, None, None, parts, tuple(said))
    noise = lines.noise
    if frequency is not None and waveform.rate_hz < LEAST_A_CYCLE * frequency.hz:
        few = waveform.rate_hz / frequency.hz
        said.append(f"only {few:.1f} samples a cycle: it may dip deeper than is read; record faster")
    periodic = frequency is not None and frequency.periodic
    cycle = folded(waveform, frequency.hz, noise) if frequency is not None and periodic else None
    source = waveform.light
    if noise > NOISY_SHARE:
        if cycle is not None:
            source = cycle
            said.append(f"noise of {100.0 * noise:.1f} % of the mean: depth and index are those of the mean cycle")
        else:
            alone = 100.0 * noise * float(np.sqrt(2.0 * np.log(waveform.light.size)))
            said.append(f"noise of {100.0 * noise:.1f} % of the mean: of it alone {alone:.1f} % flicker would be read")
    finer = between_samples(waveform, frequency.hz) if frequency is not None and source is waveform.light else None
    crests = source if finer is None else finer
    low, high = float(crests.min()), float(crests.max())
    if low < -0.02 * high:
        said.append("part of the waveform is negative: subtract the dark signal before")
    low = max(low, 0.0)
    percent = 100.0 * (high - low) / (high + low)
    weights = whole_cycles(waveform, frequency.hz) if frequency is not None and periodic else None
    return Flicker(
        frequency=frequency,
        percent=percent,
        index=index_of(source, weights if source is waveform.light else None),
        svm=_svm(waveform, lines, said),
        pst_lm=pst_lm(waveform, said),
        noise_share=noise,
        parts=parts,
        warnings=tuple(said),
    )


def index_of(light: FloatArray, weights: FloatArray | None = None) -> float:
    """The area above the mean over the whole area (IES lighting handbook), `weights` for whole cycles, shapes (n,)."""
    mean = float(np.average(light, weights=weights))
    return float(np.average(np.maximum(light - mean, 0.0), weights=weights)) / mean


def svm_threshold(frequency_hz: FloatArray) -> FloatArray:
    """The modulation of a sine that is just seen as a stroboscopic effect, shape as given.

    Source: IEC TR 63158:2018, equation of the sensitivity curve (from memory, no copy at hand).
    """
    rising = 1.0 / (1.0 + np.exp(-SVM_RISE_S * (frequency_hz - SVM_MIDDLE_HZ)))
    threshold: FloatArray = rising + SVM_SLOW * np.exp(-frequency_hz / SVM_SLOW_HZ)
    return threshold


def svm_of_parts(frequency_hz: FloatArray, amplitude: FloatArray) -> float:
    """The visibility of sines of given amplitudes over the mean, shapes (k,): Minkowski sum with the exponent 3.7.

    Source: IEC TR 63158:2018; parts from 80 to 2000 Hz.
    """
    within = (frequency_hz >= SVM_LOW_HZ) & (frequency_hz <= SVM_HIGH_HZ)
    if not within.any():
        return 0.0
    seen = amplitude[within] / svm_threshold(frequency_hz[within])
    return float(np.sum(seen**SVM_POWER) ** (1.0 / SVM_POWER))


def _svm(waveform: Waveform, lines: Lines, said: list[str]) -> float | None:
    if waveform.seconds < SVM_LEAST_S:
        said.append(f"SVM needs a recording of {SVM_LEAST_S:g} s or more")
        return None
    if waveform.rate_hz < 2.0 * SVM_HIGH_HZ:
        said.append(f"SVM needs {2.0 * SVM_HIGH_HZ:.0f} samples a second or more")
        return None
    hz, amplitude = peaks(lines)
    return svm_of_parts(hz, amplitude)


LEAST_AMPLITUDE = 1e-5


def peaks(lines: Lines) -> tuple[FloatArray, FloatArray]:
    """The sines that a waveform is made of: frequencies in Hz and amplitudes over the mean, shapes (k,)."""
    frequencies, amplitudes = lines.hz, lines.amplitude
    inner = amplitudes[2:-2]
    is_peak = (inner > amplitudes[1:-3]) & (inner >= amplitudes[3:-1])
    floor = max(6.0 * float(np.median(amplitudes)), LEAST_AMPLITUDE * float(amplitudes[3:].max(initial=0.0)))
    places = 2 + np.flatnonzero(is_peak & (inner > floor))
    places = places[places >= 3]
    if not places.size:
        return np.empty(0), np.empty(0)
    around = places[:, None] + np.arange(-2, 3)
    power = amplitudes[around.clip(0, amplitudes.size - 1)] ** 2
    # of a sine of amplitude 1 in a Hann window the squares of the bins sum to 1.5
    amplitude = np.sqrt(power.sum(axis=1) / 1.5)
    centre = (frequencies[around.clip(0, amplitudes.size - 1)] * power).sum(axis=1) / power.sum(axis=1)
    return centre, amplitude


def strongest(lines: Lines, most: int = 6, *, steady_part: bool = True) -> tuple[tuple[float, float], ...]:
    """The strongest parts in order of frequency; over the strongest of them where the mean of the light is lost."""
    hz, amplitude = peaks(lines)
    if not steady_part and amplitude.size:
        amplitude = amplitude / amplitude.max()
    places = np.sort(np.argsort(-amplitude)[:most])
    return tuple((float(hz[i]), float(amplitude[i])) for i in places)
