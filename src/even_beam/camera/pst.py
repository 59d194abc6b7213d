"""Short-term light modulation: what an eye sees of slow flicker, by the light flickermeter of IEC TR 61547-1."""

import numpy as np

from even_beam.camera.waveform import Waveform
from even_beam.light import FloatArray

LEAST_S = 180.0
"""A recording shorter than that says nothing of slow flicker (IEC TR 61547-1, from memory)."""

RATE_HZ = 2000.0
SETTLING_S = 20.0
HIGH_PASS_HZ, LOW_PASS_HZ, LOW_PASS_ORDER, SMOOTHING_S = 0.05, 35.0, 6, 0.3

WEIGHTING = (
    (0.041661, 44.758, 2715.6, 29839.0, 0.0),
    (1.0, 196.32, 11781.0, 534820.0, 3505380.0),
)
"""Eye and brain, without the lamp, as polynomials of s (IEC TR 61547-1, from memory; its denominator is that of IEC
61000-4-15, table 1, for 230 V)."""

LAMP = (3.57, 0.021198, 2.05e-5)
"""The lamp that IEC 61000-4-15 holds within its own filter: gain of light over voltage, and 1 + a s + b s² below; what
the two filters differ by."""

REFERENCE_HZ, REFERENCE_VOLTAGE = 8.8, 0.00125
"""At this frequency a sine of that amplitude over the voltage gives an instantaneous sensation of one (IEC 61000-4-15,
table 2: 0.25 % from peak to peak)."""


def pst_lm(waveform: Waveform, said: list[str]) -> float | None:
    """PstLM of a recording of three minutes or more; why there is none is said."""
    if waveform.seconds < LEAST_S:
        said.append(f"PstLM needs a recording of {LEAST_S / 60.0:.0f} minutes or more")
        return None
    if waveform.rate_hz < 4.0 * LOW_PASS_HZ:
        said.append("PstLM needs 140 samples a second or more")
        return None
    light, rate = slower(waveform)
    sensation = instantaneous(light / light.mean(), rate)
    return pst_of(sensation[int(SETTLING_S * rate) :])


def slower(waveform: Waveform) -> tuple[FloatArray, float]:
    """The light at about 2000 samples a second, each the mean of those it stands for."""
    few = max(1, int(waveform.rate_hz // RATE_HZ))
    whole = waveform.light.size // few * few
    return waveform.light[:whole].reshape(-1, few).mean(axis=1), waveform.rate_hz / few


def instantaneous(light: FloatArray, rate_hz: float) -> FloatArray:
    """The instantaneous sensation of light over its mean, shape (n,): one where it is just seen."""
    from scipy import signal  # takes a moment to import, and only long recordings need it

    high = signal.butter(1, HIGH_PASS_HZ, "highpass", fs=rate_hz, output="sos")
    low = signal.butter(LOW_PASS_ORDER, LOW_PASS_HZ, "lowpass", fs=rate_hz, output="sos")
    weighting = signal.tf2sos(*signal.bilinear(*WEIGHTING, fs=rate_hz))
    seen: FloatArray = light - 1.0
    for sections in (high, low, weighting):
        seen = np.asarray(signal.sosfilt(sections, seen), np.float64)
    smoothing = signal.bilinear([1.0], [SMOOTHING_S, 1.0], fs=rate_hz)
    return np.asarray(signal.lfilter(*smoothing, seen**2), np.float64) / _just_seen()


def _just_seen() -> float:
    """The greatest smoothed square that the reference gives: half the square of its amplitude, and the ripple that the
    smoothing leaves at twice its frequency."""
    s = 2j * np.pi * REFERENCE_HZ
    gain, a, b = LAMP
    amplitude = REFERENCE_VOLTAGE * abs(gain / (1.0 + a * s + b * s * s))
    amplitude *= float(abs(np.polyval(WEIGHTING[0], s) / np.polyval(WEIGHTING[1], s)))
    ripple = float(1.0 / abs(1.0 + SMOOTHING_S * 2.0 * s))
    return float(0.5 * amplitude**2 * (1.0 + ripple))


def pst_of(sensation: FloatArray) -> float:
    """The severity of a sensation over time (IEC 61000-4-15, 5.7.2: percentiles, each but the first smoothed)."""

    def exceeded(*shares: float) -> float:
        return float(np.mean(np.quantile(sensation, [1.0 - share / 100.0 for share in shares])))

    return float(
        np.sqrt(
            0.0314 * exceeded(0.1)
            + 0.0525 * exceeded(0.7, 1.0, 1.5)
            + 0.0657 * exceeded(2.2, 3.0, 4.0)
            + 0.28 * exceeded(6.0, 8.0, 10.0, 13.0, 17.0)
            + 0.08 * exceeded(30.0, 50.0, 80.0)
        )
    )
