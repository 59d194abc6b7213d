import io
import wave

import numpy as np
import pytest

from even_beam.answers.bench.tone_samples import NOTES, RATE_HZ, Tone, wav_of


def heard(verdict: Tone) -> list[int]:
    """The pitch of each note, found in the spectrum of what the file holds."""
    with wave.open(io.BytesIO(wav_of(verdict))) as file:
        assert (file.getnchannels(), file.getsampwidth(), file.getframerate()) == (1, 2, RATE_HZ)
        samples = np.frombuffer(file.readframes(file.getnframes()), "<i2").astype(float)
    found, start = [], 0
    for _, seconds in NOTES[verdict]:
        note = samples[start : start + int(seconds * RATE_HZ)]
        start += note.size
        if np.abs(note).max() > 0:
            found.append(round(float(np.argmax(np.abs(np.fft.rfft(note, RATE_HZ)))), -1))
    assert np.abs(np.diff(samples)).max() < 1500  # nothing clicks
    return found


def test_three_tones_are_told_apart_by_pitch_and_number():
    fits, doubt, fault = (heard(v) for v in Tone)
    assert fits[0] < fits[1]
    assert len(doubt) == 3
    assert len(set(doubt)) == 1
    assert fault[0] > fault[1]
    assert max(fault) < min(doubt) < min(fits)


@pytest.mark.parametrize("verdict", list(Tone))
def test_none_lasts_long(verdict):
    assert sum(seconds for _, seconds in NOTES[verdict]) < 0.7
