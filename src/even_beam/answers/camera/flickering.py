"""A waveform of light: its figures, what cameras make of it, what is said of it, and as plain values."""

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from even_beam.bench.exposure import shutter_of
from even_beam.bench.planning.cautions import FLASHING
from even_beam.camera.errors import CameraError
from even_beam.camera.flicker import Flicker, flicker_of
from even_beam.camera.shutter import (
    CameraSees,
    FilmExposure,
    camera_sees,
    nearest_steady,
    steady_angles,
    usual_exposures,
)
from even_beam.camera.waveform import Waveform
from even_beam.formats.waveform_file import read_waveform
from even_beam.words import notation

LEAST_SPREAD_HZ = 0.05
"""A frequency that is known better is said without its uncertainty."""

READOUT_S = 0.015
"""The read-out time that is assumed where nobody gives one (common practice, no source)."""

NOT_HEALTH = FLASHING.partition(": ")[2].partition(". ")[2]


@dataclass(frozen=True, eq=False, slots=True)
class Flickering:
    """A waveform, its figures, and what cameras make of it."""

    waveform: Waveform
    flicker: Flicker
    cameras: tuple[CameraSees, ...]

    @property
    def name(self) -> str:
        """What it is called."""
        return self.waveform.name

    @property
    def hz(self) -> float | None:
        """Its frequency."""
        return self.flicker.frequency.hz if self.flicker.frequency is not None else None


def flicker_file(path: Path, exposures: Sequence[FilmExposure], mean: float | None = None) -> Flickering:
    """The waveform of a file. Raises `FormatError` and `CameraError`."""
    return flickering(read_waveform(path, mean), exposures)


def flickering(waveform: Waveform, exposures: Sequence[FilmExposure] = ()) -> Flickering:
    """A waveform with what cameras make of it, the usual ones where none is named. Raises `CameraError` for a recording
    that is too short for one that is named."""
    flicker = flicker_of(waveform)
    if not waveform.steady_part:
        return Flickering(waveform, flicker, ())
    hz = flicker.frequency.hz if flicker.frequency is not None else None
    if exposures:
        return Flickering(waveform, flicker, tuple(camera_sees(waveform, e, hz) for e in exposures))
    cameras = []
    for exposure in usual_exposures(READOUT_S):
        try:
            cameras.append(camera_sees(waveform, exposure, hz))
        except CameraError:  # of the usual ones those that the recording is long enough for
            continue
    return Flickering(waveform, flicker, tuple(cameras))


def flicker_json(one: Flickering) -> dict[str, Any]:
    """A waveform as plain values (docs/file-format.md)."""
    frequency = one.flicker.frequency
    return {
        "file": one.name,
        "frequency_hz": one.hz,
        "frequency_uncertainty_hz": frequency.uncertainty_hz if frequency is not None else None,
        "percent_flicker": one.flicker.percent,
        "flicker_index": one.flicker.index,
        "svm": one.flicker.svm,
        "pst_lm": one.flicker.pst_lm,
        "noise_pct": None if one.flicker.noise_share is None else 100.0 * one.flicker.noise_share,
        "parts": [{"hz": hz, "amplitude": amplitude} for hz, amplitude in one.flicker.parts],
        "samples": int(one.waveform.light.size),
        "duration_s": one.waveform.seconds,
        "cameras": [_camera(c, one.hz) for c in one.cameras],
        "warnings": list(one.flicker.warnings),
    }


def _camera(one: CameraSees, hz: float | None) -> dict[str, Any]:
    exposure = one.exposure
    return {
        "fps": exposure.fps,
        "shutter_s": exposure.shutter_s,
        "readout_s": exposure.readout_s,
        "frame_to_frame_pct": one.frame_to_frame_pct,
        "band_depth_pct": one.band_depth_pct,
        "any_phase_pct": one.any_phase_pct,
        "bands": one.bands,
        "beat_pct": one.beat_pct,
        "verdict": one.verdict,
        "shows": one.shows,
        "nearest_steady_shutter_s": nearest_steady(exposure, hz) if hz is not None else None,
    }


def mains_words() -> str:
    """The shutter angles that show nothing of lamps on the mains, by calculation."""
    told = [
        f"{steady_angles(mains, fps)[-1]:.1f}° at {fps:g} fps ({mains:g} Hz)"
        for mains, fps in ((50.0, 24.0), (50.0, 25.0), (60.0, 24.0), (60.0, 30.0))
    ]
    return f"Lamps on the mains show nothing at whole half-waves, the multiples of {', '.join(told)}."


def shutter_words(seconds: float) -> str:
    """An exposure time as finely as electronic shutters are dialled: 1/47.7 s."""
    return f"1/{f'{1.0 / seconds:.1f}'.removesuffix('.0')} s"


def exposure_words(exposure: FilmExposure) -> str:
    """Frame rate and exposure time as people say them."""
    return f"{notation.plain(exposure.fps, 3)} fps, {shutter_words(exposure.shutter_s)}"


def sentences_of(one: Flickering) -> tuple[str, ...]:
    """What a waveform says: first whether cameras show it."""
    flicker = one.flicker
    found = cameras_sentences(one)
    if flicker.frequency is None:
        depth = f": {flicker.percent:.1f} % from end to end" if flicker.percent is not None else ""
        found += [f"No frequency stands out in {notation.plain(one.waveform.seconds, 2)} s{depth}."]
    else:
        found += [_figures(flicker)]
    if flicker.svm is not None:
        seen = "a mean observer sees it" if flicker.svm >= 1.0 else "below 1, so a mean observer does not see it"
        found.append(f"SVM {flicker.svm:.2f}: {seen} on moving things.")
    if flicker.pst_lm is not None:
        seen = "a mean observer sees" if flicker.pst_lm >= 1.0 else "below 1, so a mean observer does not see"
        found.append(f"PstLM {flicker.pst_lm:.2f}: {seen} slow flicker.")
    return tuple(found)


def _figures(flicker: Flicker) -> str:
    assert flicker.frequency is not None
    hz, spread = flicker.frequency.hz, flicker.frequency.uncertainty_hz
    decimals = 0 if hz >= 1000.0 and spread >= 0.05 else 1 if spread >= 0.005 or hz >= 100.0 else 2
    told = f"{notation.number(hz, decimals)} Hz"
    if 2.0 * spread >= LEAST_SPREAD_HZ:
        told = f"{notation.number(hz, decimals)} ±{notation.number(2.0 * spread, max(decimals, 1))} Hz"
    if flicker.percent is None:
        return f"{told}; how deep it dips is not known."
    index = f", flicker index {flicker.index:.3f}" if flicker.index is not None else ""
    return f"{told}, {flicker.percent:.1f} % flicker{index}."


def cameras_sentences(one: Flickering) -> list[str]:
    """What cameras make of it: which of the exposures show bands or beat, and what to dial instead."""
    if not one.cameras:
        return []
    bad = [c for c in one.cameras if c.verdict == "banding"]
    marginal = [c for c in one.cameras if c.verdict == "marginal"]
    if len(one.cameras) == 1:
        return [one_camera(one.cameras[0], one.hz), *_beat(one)]
    readout = notation.plain(1000.0 * one.cameras[0].exposure.readout_s, 1)
    if not bad and not marginal:
        return [f"None of {len(one.cameras)} exposures shows bands or beats (rows read out in {readout} ms)."]
    worst = max(one.cameras, key=lambda c: max(c.band_depth_pct, c.frame_to_frame_pct))
    told = [f"Of {len(one.cameras)} exposures {_counted(bad)}"] if bad else []
    if marginal:
        verb = "is" if len(marginal) == 1 else "are"
        told.append(f"{'' if bad else f'of {len(one.cameras)} exposures '}{len(marginal)} {verb} marginal")
    worst_pct = max(worst.band_depth_pct, worst.frame_to_frame_pct)
    counts = f"{notation.sentence(', '.join(told))} (rows read out in {readout} ms)"
    return [f"{counts}; most of all {exposure_words(worst.exposure)}: {worst_pct:.0f} %.", *_beat(one)]


def _counted(cameras: Sequence[CameraSees]) -> str:
    """How many of the exposures show what: `12 show bands, 3 beats`."""
    counts = Counter(one.shows for one in cameras)
    each = [
        f"{counts[what]} {'show ' * (not place)}{what}"
        for place, what in enumerate(sorted(counts, key=lambda w: -counts[w]))
    ]
    return ", ".join(each)


def one_camera(sees: CameraSees, hz: float | None) -> str:
    """What one exposure shows, and what to dial instead."""
    exposure = sees.exposure
    depth = f"{sees.frame_to_frame_pct:.1f} % from frame to frame, {sees.band_depth_pct:.1f} % within a frame"
    said = f"{exposure_words(exposure)}, read out in {notation.plain(1000.0 * exposure.readout_s, 1)} ms: {depth}"
    count = f", {notation.plain(sees.bands, 1)} in a frame" if sees.bands and "bands" in sees.shows else ""
    said += f": {sees.shows}{count}."
    if sees.verdict != "steady" and hz is not None and (steady := nearest_steady(exposure, hz)) is not None:
        said += f" Whole cycles: {shutter_words(steady)} ({360.0 * steady * exposure.fps:.1f} degrees)."
    return said


def _beat(one: Flickering) -> list[str]:
    """What a longer film would show and this recording does not."""
    hidden = [
        c for c in one.cameras
        if c.verdict == "steady" and c.any_phase_pct >= 1.0 and c.any_phase_pct > 1.5 * c.frame_to_frame_pct
    ]  # fmt: skip
    if not hidden:
        return []
    worst = max(hidden, key=lambda c: c.any_phase_pct)
    return [
        f"At {exposure_words(worst.exposure)} frames and light kept step for the"
        f" {notation.plain(one.waveform.seconds, 1)} s recorded; should they drift, up to {worst.any_phase_pct:.0f} %"
        " shows."
    ]


def exposure_of(fps: float, shutter: str = "", readout: str = "") -> FilmExposure:
    """A camera as people say it: a shutter of 1/48, 0.02 s or 172.8° (half a frame where none is said), a read-out of
    15ms. Raises `ExposureError` and `CameraError`."""
    words = shutter.strip()
    if words.endswith("°") or words.lower().endswith("deg"):
        words = f"{words} at {fps:g} fps"
    shutter_s = shutter_of(words) if words else 0.5 / fps if fps > 0.0 else 0.0
    return FilmExposure(fps, shutter_s, _readout(readout) if readout.strip() else READOUT_S)


_CAMERA = re.compile(
    r"(?P<fps>[0-9.]+)\s*fps[,\s]*(?P<shutter>1/[0-9.]+|[0-9.]+\s*(?:°|deg)|[0-9.]+\s*s\b)?[,\s]*(?P<readout>[0-9.]+\s*ms)?"
)


def exposures_in(text: str) -> tuple[FilmExposure, ...]:
    """Cameras as people say them, `24 fps 1/48 15ms; 25 fps 172.8°`. Raises `ExposureError` and `CameraError`."""
    found = []
    for part in filter(None, (one.strip() for one in text.split(";"))):
        said = _CAMERA.fullmatch(part.lower())
        if said is None:
            raise CameraError(f"“{part}” is no camera; write 24 fps 1/48 15ms")
        found.append(exposure_of(float(said["fps"]), said["shutter"] or "", said["readout"] or ""))
    return tuple(found)


def _readout(text: str) -> float:
    found = re.fullmatch(r"\s*([0-9.]+)\s*(ms|s)?\s*", text)
    try:
        value = float(found[1]) if found is not None else -1.0
    except ValueError:
        value = -1.0
    if found is None or value < 0.0:
        raise CameraError(f"“{text}” is no read-out time; write 15ms or 0.015 s")
    return value * (1e-3 if found[2] == "ms" else 1.0)
