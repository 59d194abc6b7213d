"""Fades: what is said of them, and as plain values."""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.bench import notation
from even_beam.bench.traces import Trace
from even_beam.camera.errors import CameraError
from even_beam.camera.fades import Fade, apart, fade_of
from even_beam.formats import FormatError, readings_table, trace_table
from even_beam.formats.waveform_file import read_levels, read_waveform
from even_beam.light import FloatArray

LEVELS = ("illuminance", "luminance")
POINTS_A_SECOND = 2000.0
"""A fast recording is brought to so many points a second: a fade has no need of more."""


@dataclass(frozen=True, eq=False, slots=True)
class Fading:
    """A fade of a file, with the time that was asked for and by how much the white moved along it, in mired."""

    name: str
    fade: Fade
    seconds: FloatArray
    level: FloatArray
    asked_s: float | None = None
    drift_mired: float | None = None


def fade_file(path: Path, asked_s: float | None = None) -> Fading:
    """The fade of a file: a waveform, or a log of level (and white) against time. Raises `FormatError` and
    `CameraError`."""
    seconds, level, white = _recorded(path)
    try:
        fade = fade_of(seconds, level)
    except CameraError as error:
        raise CameraError(f"{path.name}: {error}") from error
    drift = None
    if white is not None and white.size > 1 and float(white.min()) > 0.0:
        drift = float(1e6 / white.min() - 1e6 / white.max())
    return Fading(path.name, fade, seconds, level, asked_s, drift)


def _recorded(path: Path) -> tuple[FloatArray, FloatArray, FloatArray | None]:
    if path.suffix.lower() == ".wav":
        waveform = read_waveform(path)
        if not waveform.steady_part:
            raise FormatError(f"{path.name}: the recording lost the steady part of the light; a fade needs it")
        few = max(1, int(waveform.rate_hz // POINTS_A_SECOND))
        level = waveform.light[: waveform.light.size // few * few].reshape(-1, few).mean(axis=1)
        return (np.arange(level.size) * (few / waveform.rate_hz), level, None)
    if trace_table.is_trace(readings_table.headings_of(path)):
        traces = {one.quantity: one for one in trace_table.traces_of(readings_table.load(path))}
        level_trace: Trace | None = next((traces[name] for name in LEVELS if name in traces), None)
        if level_trace is not None:
            white = traces["cct"].values if "cct" in traces else None
            return level_trace.seconds, level_trace.values, white
    seconds, level = read_levels(path)
    return seconds - seconds[0], level, None


def fade_json(one: Fading) -> dict[str, Any]:
    """A fade as plain values (docs/file-format.md)."""
    fade = one.fade
    largest = fade.largest_step
    return {
        "file": one.name,
        "direction": "up" if fade.rising else "down",
        "asked_s": one.asked_s,
        "real_s": fade.real_s,
        "lag_s": fade.lag_s,
        "change_stops": fade.change_stops,
        "law": fade.law,
        "exponent": fade.exponent,
        "off_law_pct": 100.0 * fade.off_law,
        "steps": len(fade.steps) if fade.stepped else 0,
        "largest_step": None if largest is None or not fade.stepped else {
            "at_s": largest.at_s, "stops": largest.stops, "from_pct": 100.0 * largest.before,
            "to_pct": 100.0 * largest.after,
        },
        "longest_hold_s": fade.longest_hold_s,
        "falls_from_pct": None if fade.falls_from is None else 100.0 * fade.falls_from,
        "back_pct": 100.0 * fade.back,
        "drift_mired": one.drift_mired,
    }  # fmt: skip


BACK_SHARE, OFF_LAW_SHARE = 0.01, 0.05


def sentences_of(one: Fading) -> tuple[str, ...]:
    """What a fade says, the most important first."""
    fade = one.fade
    way = "up" if fade.rising else "down"
    took = f"{one.name}: {way} in {notation.plain(fade.real_s, 2)} s"
    if one.asked_s is not None:
        took += f", asked were {notation.plain(one.asked_s, 2)} s"
    found = [f"{took}, from {notation.plain(fade.lag_s, 2)} s into the recording on."]
    found.append(_law(fade))
    found.append(_stepping(fade))
    if fade.falls_from is not None:
        verb = "comes on at" if fade.rising else "goes out from"
        found.append(f"At the bottom it {verb} {100.0 * fade.falls_from:.1f} % at once.")
    if fade.back > BACK_SHARE:
        found.append(f"It went back by {100.0 * fade.back:.0f} % of the change on its way.")
    if one.drift_mired is not None:
        found.append(f"The white moved by {one.drift_mired:.0f} mired along it.")
    return tuple(found)


def _law(fade: Fade) -> str:
    if fade.off_law > OFF_LAW_SHARE:
        return f"It follows no plain law: {100.0 * fade.off_law:.0f} % of the change from the nearest."
    if fade.law == "power":
        if abs(fade.exponent - 1.0) < 0.06:
            return "Level goes with time: a linear fade."
        return f"Level goes with the power {fade.exponent:.1f} of time from the dark end."
    if fade.law == "even in stops":
        return "It is nearly even in stops: what an eye takes for steady."
    return "It starts and ends gently: an S-curve."


def _stepping(fade: Fade) -> str:
    if not fade.stepped:
        return "No steps are seen in it at the rate of this recording."
    said = f"It goes in {len(fade.steps)} steps"
    if (largest := fade.largest_step) is not None:
        low = 100.0 * min(largest.before, largest.after)
        said += f", the largest {largest.stops:.2f} stop, at {low:.1f} %"
    return f"{said}; the longest hold is {notation.plain(fade.longest_hold_s, 2)} s."


def seconds_in(text: str) -> float:
    """The time of a fade as it is typed: 5, 2.5 s. Raises `CameraError`."""
    try:
        seconds = float(text.lower().replace(",", ".").strip().removesuffix("s").strip())
    except ValueError:
        seconds = 0.0
    if not 0.0 < seconds < 1e5:
        raise CameraError(f"“{text.strip()}” is no time that a fade takes; write seconds, such as 5")
    return seconds


def pair_sentence(fadings: Sequence[Fading]) -> str:
    """How a fade up and one down differ; empty unless there is one of each."""
    ups, downs = [f for f in fadings if f.fade.rising], [f for f in fadings if not f.fade.rising]
    if len(ups) != 1 or len(downs) != 1:
        return ""
    off = 100.0 * apart(ups[0].fade, downs[0].fade)
    return f"Up and down lie up to {off:.0f} % of the change apart, one run backwards."
