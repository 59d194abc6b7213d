"""What a camera gathers against exposures summed row by row, and against closed forms."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from even_beam.camera.errors import CameraError
from even_beam.camera.shutter import (
    ROWS,
    FilmExposure,
    camera_sees,
    gathered,
    nearest_steady,
    steady_angles,
    steady_shutters,
    usual_exposures,
    verdict_of,
)
from even_beam.camera.waveform import Waveform

RATE = 40_000.0


def pulses(hz=137.0, duty=0.3, seconds=1.0) -> Waveform:
    t = np.arange(int(seconds * RATE)) / RATE
    return Waveform(((t * hz) % 1.0 < duty) * 1.0, RATE)


@given(st.floats(20.0, 60.0), st.floats(0.05, 1.0), st.floats(0.0, 0.016), st.floats(40.0, 900.0), st.floats(0.1, 0.9))
@settings(max_examples=12)
def test_against_exposures_summed_row_by_row(fps, open_share, readout, hz, duty):
    """Each row of each frame on a grid twenty times as fine as the samples."""
    wave = pulses(hz, duty, 0.4)
    exposure = FilmExposure(fps, open_share / fps, readout)
    rows = gathered(wave, exposure, 24)
    fine = np.repeat(wave.light, 20)
    step = 1.0 / (RATE * 20.0)
    for frame, row in ((0, 0), (len(rows) - 1, rows.shape[1] - 1), (len(rows) // 2, rows.shape[1] // 3)):
        begin = frame / fps + row * readout / rows.shape[1]
        first, last = round(begin / step), round((begin + exposure.shutter_s) / step)
        brute = fine[first:last].mean()
        assert rows[frame, row] == pytest.approx(brute, abs=0.002 + 2.0 * step / exposure.shutter_s)


@given(st.floats(90.0, 900.0), st.floats(0.1, 0.9), st.floats(23.0, 31.0))
@settings(max_examples=20)
def test_whole_cycles_show_nothing(hz, depth, fps):
    t = np.arange(int(0.5 * 200_000)) / 200_000.0
    wave = Waveform(1.0 + depth * np.sin(2.0 * np.pi * hz * t), 200_000.0)
    for shutter in steady_shutters(hz, fps)[:3]:
        seen = camera_sees(wave, FilmExposure(fps, float(shutter), 0.01), hz)
        assert seen.any_phase_pct < 0.3
        assert seen.verdict == "steady"


@given(st.floats(95.0, 400.0), st.floats(0.1, 0.9), st.floats(0.0005, 0.02))
@settings(max_examples=20)
def test_a_sine_is_averaged_by_its_exposure(hz, depth, shutter):
    """The greatest depth of a sine over an exposure T is m |sinc(f T)|: closed form."""
    t = np.arange(int(0.5 * 200_000)) / 200_000.0
    wave = Waveform(1.0 + depth * np.sin(2.0 * np.pi * hz * t), 200_000.0)
    seen = camera_sees(wave, FilmExposure(25.0, shutter, 0.03), hz)
    known = 100.0 * depth * abs(np.sinc(hz * shutter))
    assert seen.any_phase_pct == pytest.approx(known, abs=0.1)
    assert seen.band_depth_pct <= seen.any_phase_pct + 1e-9
    if hz * 0.03 > 1.05:  # more than a cycle lies within a frame: its bands show all of it
        missed = 1.0 - np.cos(np.pi * hz * 0.03 / ROWS)  # so far from the crest the nearest row may lie
        assert seen.band_depth_pct == pytest.approx(known, abs=0.15 + missed * known)


def test_cycles_alone_are_no_verdict():
    """3.1 cycles in an exposure: half duty gives 1.5 to 1.6 cycles' light, a tenth 0.3 to 0.4 (closed form)."""
    hz, t = 100.0, np.arange(200_000)
    for duty, least, most in ((0.5, 1.5, 1.6), (0.1, 0.3, 0.4)):
        wave = Waveform((t % 2000 < 2000 * duty) * 1.0, 200_000.0)
        seen = camera_sees(wave, FilmExposure(24.0, 0.031, 0.01), hz)
        assert seen.any_phase_pct == pytest.approx(100.0 * (most - least) / (most + least), abs=0.1)
        assert seen.verdict == "banding"


def test_steady_angles():
    """172.8 degrees at 24 frames a second for mains of 50 Hz, 144 for 60 Hz (the usual tables of shutter angles)."""
    assert 172.8 in [pytest.approx(a) for a in steady_angles(50.0, 24.0)]
    assert 144.0 in [pytest.approx(a) for a in steady_angles(60.0, 24.0)]
    assert steady_angles(60.0, 24.0)[0] == pytest.approx(360.0)
    assert nearest_steady(FilmExposure(24.0, 1 / 48), 100.0) == pytest.approx(0.02)
    assert nearest_steady(FilmExposure(24.0, 1 / 500), 100.0) == pytest.approx(0.01)
    assert nearest_steady(FilmExposure(120.0, 1 / 250), 100.0) is None


@given(st.floats(20.0, 60.0), st.floats(0.05, 1.0), st.floats(0.0, 0.03), st.floats(0.1, 0.9))
@settings(max_examples=40)
def test_every_frame_that_lies_whole_in_the_recording_counts(fps, open_share, readout, seconds):
    """Counted one by one: the last row's exposure ends before the recording does."""
    wave = Waveform(np.ones(int(seconds * 4000)), 4000.0)
    exposure = FilmExposure(fps, open_share / fps, readout)
    frames = 0
    while frames / fps + readout + exposure.shutter_s <= wave.seconds + 1e-12:
        frames += 1
    if frames == 0:
        with pytest.raises(CameraError):
            gathered(wave, exposure)
    else:
        rows = gathered(wave, exposure)
        assert len(rows) == frames
        assert rows == pytest.approx(1.0)


def test_bands_are_counted_and_a_global_shutter_has_none():
    wave = Waveform((np.arange(40_000) % 80 < 32) * 1.0, RATE)
    rolling = camera_sees(wave, FilmExposure(25.0, 1 / 1000, 0.012), 500.0)
    assert rolling.bands == pytest.approx(6.0)
    assert rolling.verdict == "banding"
    still = camera_sees(wave, FilmExposure(25.0, 1 / 1000, 0.0), 500.0)
    assert (still.band_depth_pct, still.bands) == (0.0, 0.0)
    # 500 Hz and 25 frames keep step: no beat in the film, and it is not called safe for ever
    assert still.frame_to_frame_pct == pytest.approx(0.0, abs=1e-6)
    assert still.any_phase_pct > 90.0


def test_verdicts():
    assert [verdict_of(d) for d in (0.0, 0.99, 1.0, 2.9, 3.0, 100.0)] == [
        "steady", "steady", "marginal", "marginal", "banding", "banding",
    ]  # fmt: skip


@pytest.mark.parametrize(
    "wrong", [(0.0, 0.01, 0.0), (24.0, 0.0, 0.0), (24.0, 0.05, 0.0), (24.0, 0.01, -1.0), (24.0, float("nan"), 0.0)]
)
def test_exposures_that_cannot_be_are_refused(wrong):
    with pytest.raises(CameraError):
        FilmExposure(*wrong)


def test_a_recording_that_is_too_short_is_refused():
    with pytest.raises(CameraError, match="record longer"):
        camera_sees(pulses(seconds=0.01), FilmExposure(24.0, 1 / 48, 0.01), 137.0)


def test_the_usual_exposures_fit_within_their_frames():
    assert all(one.shutter_s * one.fps <= 1.0 + 1e-9 for one in usual_exposures(0.015))
    assert len(usual_exposures(0.015)) > 40


@pytest.mark.parametrize("seed", range(6))
def test_noise_alone_shows_nothing_and_makes_no_ripple_a_band(seed):
    """One per cent of noise on steady light, and on a ripple of 2.6 %, which most see nothing of."""
    rng, rate = np.random.default_rng(seed), 20_000.0
    seconds = np.arange(0.0, 1.0, 1.0 / rate)
    noise = rng.normal(0.0, 0.01, seconds.size)
    steady, ripple = Waveform(1.0 + noise, rate), Waveform(1.0 + 0.026 * np.sin(200.0 * np.pi * seconds) + noise, rate)
    for fps, shutter in ((24.0, 1 / 48), (25.0, 1 / 500), (120.0, 1 / 2000), (60.0, 1 / 1000)):
        exposure = FilmExposure(fps, shutter, 0.015 if fps < 60.0 else 0.008)
        assert camera_sees(steady, exposure, None).verdict == "steady"
        assert camera_sees(ripple, exposure, 100.0).verdict != "banding"
    clear = Waveform(1.0 + 0.06 * np.sin(200.0 * np.pi * seconds) + noise, rate)
    assert camera_sees(clear, FilmExposure(25.0, 1 / 500, 0.015), 100.0).verdict == "banding"


def test_a_beat_moves_whole_frames_and_bands_do_not():
    """Closed form: 100 Hz at 24 fps folds to 4 Hz; at once, all rows move together; read out over two cycles with a
    short shutter, rows differ while the frame's own mean hardly moves."""
    t = np.arange(0.0, 2.0, 1e-4)
    light = Waveform(1.0 + 0.5 * np.sin(2.0 * np.pi * 100.0 * t), 1e4)
    beat = camera_sees(light, FilmExposure(24.0, 1 / 500), 100.0)
    assert beat.shows == "beats" and beat.beat_pct == pytest.approx(beat.frame_to_frame_pct)
    bands = camera_sees(light, FilmExposure(24.0, 1 / 500, 0.02), 100.0)
    assert bands.shows == "bands" and bands.beat_pct < 1.0 < bands.frame_to_frame_pct
    slow = Waveform(1.0 + 0.1 * np.sin(2.0 * np.pi * 2.0 * t), 1e4)
    assert camera_sees(slow, FilmExposure(25.0, 1 / 50, 0.015), 2.0).shows == "beats"
    still = Waveform(np.ones(t.size), 1e4)
    assert camera_sees(still, FilmExposure(25.0, 1 / 50, 0.015), None).shows == "steady"
