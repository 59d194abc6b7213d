"""What a camera makes of flickering light: the light that each row gathers, frame by frame."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import NormalDist

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.camera.waveform import Waveform
from even_beam.light import FloatArray

ROWS = 360
"""So many rows of a frame are looked at: a band of a twentieth of the height has eighteen."""

STEADY_PCT, MARGINAL_PCT = 1.0, 3.0
"""Below the first no eye sees it, from the second on most do, in a moving picture on a dim screen (common practice, no
source)."""


@dataclass(frozen=True, slots=True)
class FilmExposure:
    """Frames a second, exposure time and the time over which the rows of a frame are read out, both in seconds; 0 for
    all rows at once. Raises `CameraError`."""

    fps: float
    shutter_s: float
    readout_s: float = 0.0

    def __post_init__(self) -> None:
        if not (self.fps > 0.0 and self.shutter_s > 0.0 and self.readout_s >= 0.0):
            raise CameraError("frames a second and exposure time are above zero, the read-out time is not below")
        if not np.isfinite([self.fps, self.shutter_s, self.readout_s]).all():
            raise CameraError("frame rate, exposure time and read-out time are numbers")
        if self.shutter_s > 1.0 / self.fps * (1.0 + 1e-9):
            raise CameraError(f"at {self.fps:g} frames a second no exposure lasts longer than a frame")


@dataclass(frozen=True, eq=False, slots=True)
class CameraSees:
    """What a camera shows of a waveform.

    Both per cents are 100 (max - min)/(max + min) of the light that a row gathers: over the frames for the worst row,
    over the rows for the worst frame. `any_phase_pct` is the same over every moment at which an exposure could begin:
    more than that no film of this light can show. `beat_pct` is that of whole frames over all of them: a beat, where
    rows alone change as bands wander. `bands` dark bands stand in a frame. `rows` is the light over its
    mean, shape (frames, rows).
    """

    exposure: FilmExposure
    frame_to_frame_pct: float
    band_depth_pct: float
    beat_pct: float
    any_phase_pct: float
    bands: float
    verdict: str
    rows: FloatArray

    @property
    def shows(self) -> str:
        """What a film shows: `bands`, `beats`, both, or the verdict where it is neither."""
        return shows_of(self.beat_pct, self.band_depth_pct, self.verdict)


def gathered(waveform: Waveform, exposure: FilmExposure, rows: int = ROWS) -> FloatArray:
    """The mean light during each exposure that lies whole in the recording, shape (frames, rows).

    The integral of the waveform, each sample held until the next, between the beginning and the end of an exposure.
    Raises `CameraError` for a recording shorter than one frame.
    """
    count = int(np.floor((waveform.seconds - exposure.shutter_s - exposure.readout_s) * exposure.fps + 1e-9)) + 1
    if count < 1 or waveform.seconds < exposure.shutter_s + exposure.readout_s:
        raise CameraError(
            f"the recording of {waveform.seconds:g} s is shorter than one exposure with its read-out: record longer"
        )
    own = rows if exposure.readout_s > 0.0 else 1
    begin = np.arange(count)[:, None] / exposure.fps + np.arange(own) * (exposure.readout_s / own)
    return _between(waveform, begin, exposure.shutter_s)


def _between(waveform: Waveform, begin: FloatArray, length_s: float) -> FloatArray:
    total = np.concatenate([[0.0], np.cumsum(waveform.light)]) / waveform.rate_hz
    last = waveform.light.size

    def integral(seconds: FloatArray) -> FloatArray:
        place = np.clip(seconds * waveform.rate_hz, 0.0, last)
        whole = np.minimum(place.astype(np.int64), last - 1)
        found: FloatArray = total[whole] + (place - whole) * (waveform.light[whole] / waveform.rate_hz)
        return found

    return (integral(begin + length_s) - integral(begin)) / length_s


def depth_pct(light: FloatArray, axis: int | None = None) -> FloatArray:
    """100 (max - min)/(max + min) along an axis; 0 where there is no light, which noise alone makes negative."""
    high, low = np.maximum(light.max(axis=axis), 0.0), np.maximum(light.min(axis=axis), 0.0)
    return np.where(high + low > 0.0, 100.0 * (high - low) / np.where(high + low > 0.0, high + low, 1.0), 0.0)


def noise_depth_pct(waveform: Waveform, shutter_s: float, exposures: int) -> float:
    """The depth that noise alone gives a number of exposures that do not overlap: the range that so many draws of a
    normal distribution have on the mean (Blom's scores), each the mean of the samples of an exposure."""
    mean = float(waveform.light.mean())
    if exposures < 2 or mean <= 0.0:
        return 0.0
    of_one = waveform.noise / np.sqrt(max(1.0, shutter_s * waveform.rate_hz))
    reach = NormalDist().inv_cdf(1.0 - (1.0 - 0.375) / (exposures + 0.25))
    return 100.0 * reach * of_one / mean


def without_noise(depth: float, noise: float) -> float:
    """What of a depth surely stands above the noise: the farthest samples are those that the noise took farthest."""
    return max(0.0, depth - noise)


def camera_sees(waveform: Waveform, exposure: FilmExposure, frequency_hz: float | None) -> CameraSees:
    """What a camera shows; `frequency_hz` counts the bands. Raises `CameraError`."""
    rows = gathered(waveform, exposure)
    moments = _moments(waveform, exposure, frequency_hz)
    depths = (
        depth_pct(rows, 0).max(),
        depth_pct(rows, 1).max(),
        depth_pct(rows.mean(axis=1)),
        depth_pct(_between(waveform, moments, exposure.shutter_s)),
    )
    apart = min(rows.size, max(1, int(waveform.seconds / exposure.shutter_s)))
    over_frames, over_rows, of_frames, any_phase = (
        without_noise(float(depth), noise_depth_pct(waveform, exposure.shutter_s, apart)) for depth in depths
    )
    return CameraSees(
        exposure=exposure,
        frame_to_frame_pct=over_frames,
        band_depth_pct=over_rows,
        beat_pct=of_frames,
        any_phase_pct=max(any_phase, over_frames, over_rows),
        bands=exposure.readout_s * frequency_hz if frequency_hz is not None and over_rows >= STEADY_PCT else 0.0,
        verdict=verdict_of(max(over_frames, over_rows)),
        rows=rows / max(float(rows.mean()), 1e-300),
    )


MOMENTS = 4000


def _moments(waveform: Waveform, exposure: FilmExposure, frequency_hz: float | None) -> FloatArray:
    """Moments at which an exposure could begin: all over a few cycles, or over the recording where there are none."""
    room = waveform.seconds - exposure.shutter_s
    if room <= 0.0:
        return np.zeros(1)
    reach = min(room, 4.0 / frequency_hz) if frequency_hz else room
    return np.linspace(0.0, reach, MOMENTS)


def verdict_of(depth: float) -> str:
    """`steady`, `marginal` or `banding`, for pictures alone."""
    return "steady" if depth < STEADY_PCT else "marginal" if depth < MARGINAL_PCT else "banding"


def shows_of(beat: float, bands: float, verdict: str) -> str:
    """Bands stand or wander within a frame, a beat moves all of it: what of the two is plain in a film, else its
    verdict; bands that are seen in no one frame are told by what they do from frame to frame."""
    plain = [word for word, depth in (("bands", bands), ("beats", beat)) if depth >= MARGINAL_PCT]
    return " and ".join(plain) or ("bands" if verdict == "banding" else verdict)


def steady_shutters(frequency_hz: float, fps: float) -> FloatArray:
    """Exposure times in seconds that hold whole cycles of the light, the longest first, none longer than a frame."""
    most = int(np.floor(frequency_hz / fps * (1.0 + 1e-9)))
    times: FloatArray = np.arange(most, 0, -1) / frequency_hz
    return times


def nearest_steady(exposure: FilmExposure, frequency_hz: float) -> float | None:
    """The exposure time with whole cycles that is nearest in stops; None where a frame holds no cycle."""
    times = steady_shutters(frequency_hz, exposure.fps)
    if not times.size:
        return None
    return float(times[np.abs(np.log2(times / exposure.shutter_s)).argmin()])


def steady_angles(mains_hz: float, fps: float) -> FloatArray:
    """Shutter angles in degrees that hold whole half-waves of the mains, of which light has `mains_hz` times two a
    second: 172.8 degrees at 24 frames a second for 50 Hz."""
    angles: FloatArray = 360.0 * fps * steady_shutters(2.0 * mains_hz, fps)
    return angles


USUAL_FPS: Sequence[float] = (24.0, 25.0, 30.0, 50.0, 60.0, 120.0)
USUAL_SHUTTERS: Sequence[float] = tuple(1.0 / n for n in (24, 48, 50, 60, 100, 120, 250, 500, 1000, 2000))


def usual_exposures(readout_s: float) -> tuple[FilmExposure, ...]:
    """The usual frame rates with the usual exposure times that fit within a frame."""
    return tuple(
        FilmExposure(fps, shutter, readout_s)
        for fps in USUAL_FPS
        for shutter in USUAL_SHUTTERS
        if shutter * fps <= 1.0 + 1e-9
    )
