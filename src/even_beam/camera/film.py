"""What a film itself shows: how the level beats from frame to frame, and bands that wander over the rows."""

from dataclasses import dataclass

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.camera.shutter import depth_pct, shows_of, verdict_of
from even_beam.light import FloatArray

LEAST_FRAMES, LEAST_FOR_BEAT = 3, 16


@dataclass(frozen=True, eq=False, slots=True)
class FilmSeen:
    """A film of a plain subject.

    `frame_to_frame_pct` and `band_depth_pct` as of a waveform (`shutter.CameraSees`), of frames over the mean frame, so
    that what is in the picture does not count: bands that stand still do not either. `beat_hz` is the strongest
    frequency of the level, None where none stands out; it may stand for a faster one (it is below half the frame rate).
    `levels` is the mean of each frame over that of all, shape (frames,).
    """

    fps: float
    levels: FloatArray
    frame_to_frame_pct: float
    band_depth_pct: float
    beat_hz: float | None
    verdict: str

    @property
    def shows(self) -> str:
        """`bands`, `beats`, both, or the verdict where it is neither."""
        return shows_of(self.frame_to_frame_pct, self.band_depth_pct, self.verdict)


def film_seen(rows: FloatArray, fps: float) -> FilmSeen:
    """A film by the mean light of each row of each frame, shape (frames, rows). Raises `CameraError`."""
    if len(rows) < LEAST_FRAMES:
        raise CameraError(f"{len(rows)} frames are too few: {LEAST_FRAMES} or more")
    mean_row = rows.mean(axis=0)
    lit = mean_row > 1e-4 * max(float(mean_row.max()), 1e-12)
    if not lit.any():
        raise CameraError("the film is black")
    levels = rows[:, lit].mean(axis=1) / float(mean_row[lit].mean())
    relative = rows[:, lit] / mean_row[lit]
    few = max(1, relative.shape[1] // 200)
    whole = relative.shape[1] // few * few
    smooth = relative[:, :whole].reshape(len(rows), -1, few).mean(axis=2)
    beat, bands = float(depth_pct(levels)), float(depth_pct(smooth, 1).max())
    return FilmSeen(fps, levels, beat, bands, _beat(levels, fps), verdict_of(max(beat, bands)))


def _beat(levels: FloatArray, fps: float) -> float | None:
    if levels.size < LEAST_FOR_BEAT:
        return None
    window = np.hanning(levels.size)
    power = np.abs(np.fft.rfft((levels - levels.mean()) * window))
    peak = 1 + int(np.argmax(power[1:]))
    if power[peak] < 6.0 * float(np.median(power[1:])) or power[peak] < 1e-6 * levels.size:
        return None
    return peak * fps / levels.size
