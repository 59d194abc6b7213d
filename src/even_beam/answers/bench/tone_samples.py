"""Three short tones that are told apart without looking: it fits, it is in doubt, the meter or the disk failed."""

import io
import wave
from enum import StrEnum

import numpy as np

RATE_HZ = 44_100
_FADE_S = 0.012
_LOUDNESS = 0.25


class Tone(StrEnum):
    """What a tone says."""

    FITS = "fits"
    IN_DOUBT = "in doubt"
    FAULT = "fault"


NOTES: dict[Tone, tuple[tuple[float, float], ...]] = {
    Tone.FITS: ((659.3, 0.09), (880.0, 0.12)),
    Tone.IN_DOUBT: ((440.0, 0.11), (0.0, 0.06), (440.0, 0.11), (0.0, 0.06), (440.0, 0.11)),
    Tone.FAULT: ((330.0, 0.22), (220.0, 0.42)),
}
"""Frequency in hertz (0 is silence) and length in seconds: rising, three equal, falling and long."""


def wav_of(verdict: Tone) -> bytes:
    """The tone as a WAV file, mono, 16 bit."""
    samples = np.concatenate([_note(hertz, seconds) for hertz, seconds in NOTES[verdict]])
    data = io.BytesIO()
    with wave.open(data, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE_HZ)
        file.writeframes((samples * 32_767.0).astype("<i2").tobytes())
    return data.getvalue()


def _note(hertz: float, seconds: float) -> np.ndarray:
    """A sine that swells and dies away, so that nothing clicks."""
    time = np.arange(int(seconds * RATE_HZ)) / RATE_HZ
    envelope = np.minimum(1.0, np.minimum(time, time[-1] - time) / _FADE_S)
    return _LOUDNESS * envelope * np.sin(2.0 * np.pi * hertz * time)
