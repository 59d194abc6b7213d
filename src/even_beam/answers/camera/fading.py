"""Fades: what is said of them, and as plain values."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.bench.traces import Trace
from even_beam.camera.errors import CameraError
from even_beam.camera.fades import Fade, apart, fade_of
from even_beam.camera.turning import Turn, colour_turn, white_turn
from even_beam.formats import FormatError, readings_table, trace_table
from even_beam.formats.frames import is_film, rate_of, rows_of
from even_beam.formats.waveform_file import read_levels, read_waveform
from even_beam.light import FloatArray
from even_beam.words import notation

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
    turn: Turn | None = None


@dataclass(frozen=True, eq=False, slots=True)
class _Recorded:
    """Arrays of shape (n,) over one time, what was not recorded None; `way` are x and y."""

    seconds: FloatArray
    level: FloatArray | None
    white: FloatArray | None = None
    way: tuple[FloatArray, FloatArray] | None = None


def fade_file(path: Path, asked_s: float | None = None, fps: float | None = None) -> Fading:
    """The fade of a file: a waveform, a log of level, white or x and y against time, a film or a folder of frames at so
    many a second. Where the level stays and the white or the colour moves, it is a turn.

    Raises `FormatError` and `CameraError`.
    """
    recorded = _recorded(path, fps)
    seconds, level = recorded.seconds, recorded.level
    try:
        if level is None:
            return _turned(path.name, recorded, asked_s)
        fade = fade_of(seconds, level)
    except CameraError as error:
        try:
            return _turned(path.name, recorded, asked_s)
        except CameraError:
            raise CameraError(f"{path.name}: {error}") from error
    drift, white = None, recorded.white
    if white is not None and white.size > 1 and float(white.min()) > 0.0:
        drift = float(1e6 / white.min() - 1e6 / white.max())
    return Fading(path.name, fade, seconds, level, asked_s, drift)


def _turned(name: str, recorded: _Recorded, asked_s: float | None) -> Fading:
    """A turn of the white, or where there is none of the colour. Raises `CameraError`."""
    seconds, white = recorded.seconds, recorded.white
    if white is not None and float(white.min()) > 0.0:
        turn = white_turn(seconds, white, recorded.level)
        return Fading(name, turn.fade, seconds, 1e6 / white, asked_s, turn=turn)
    if recorded.way is None:
        raise CameraError("neither level nor white nor colour moves in it")
    turn = colour_turn(seconds, *recorded.way, recorded.level)
    # drawn as the share of the way that is behind it
    own = np.interp(seconds, seconds[0] + turn.fade.lag_s + turn.fade.moments * turn.fade.real_s, turn.fade.levels)
    return Fading(name, turn.fade, seconds, own, asked_s, turn=turn)


def _recorded(path: Path, fps: float | None) -> _Recorded:
    if is_film(path):
        fps = fps if fps is not None else rate_of(path)
        if fps is None:
            raise FormatError(f"{path.name}: how many frames a second? Say it, such as 25 fps")
        levels = rows_of(path).mean(axis=1)
        return _Recorded(np.arange(levels.size) / fps, levels)
    if path.suffix.lower() == ".wav":
        waveform = read_waveform(path)
        if not waveform.steady_part:
            raise FormatError(f"{path.name}: the recording lost the steady part of the light; a fade needs it")
        few = max(1, int(waveform.rate_hz // POINTS_A_SECOND))
        level = waveform.light[: waveform.light.size // few * few].reshape(-1, few).mean(axis=1)
        return _Recorded(np.arange(level.size) * (few / waveform.rate_hz), level)
    if trace_table.is_trace(readings_table.headings_of(path)):
        traces = {one.quantity: one for one in trace_table.traces_of(readings_table.load(path))}
        if any(name in traces for name in (*LEVELS, "cct", "x")):
            return _together(traces)
    seconds, level = read_levels(path)
    return _Recorded(seconds - seconds[0], level)


def _together(traces: Mapping[str, Trace]) -> _Recorded:
    """Level, white and colour at the times of the first of them; each may lack points."""
    first = next(traces[name] for name in (*LEVELS, "cct", "x") if name in traces)

    def at(name: str) -> FloatArray | None:
        one = traces.get(name)
        return None if one is None else np.interp(first.seconds, one.seconds, one.values)

    level = next((values for name in LEVELS if (values := at(name)) is not None), None)
    x, y = at("x"), at("y")
    return _Recorded(first.seconds, level, at("cct"), (x, y) if x is not None and y is not None else None)


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
        "turn": None if (turn := one.turn) is None else {
            "of": "white" if turn.of_white else "colour", "first": list(turn.first), "last": list(turn.last),
            "size": turn.size, "largest_step": turn.largest_step, "astray": turn.astray,
            "level_stops": turn.level_stops,
        },
    }  # fmt: skip


BACK_SHARE, OFF_LAW_SHARE, EVEN_EXPONENT = 0.01, 0.05, 0.06
ASTRAY_UV, LEVEL_STOPS = 0.01, 0.1
"""What is beside the way, or moves beside it, by less is not told (common practice, no source)."""


def sentences_of(one: Fading) -> tuple[str, ...]:
    """What a fade says, the most important first."""
    fade = one.fade
    if one.turn is not None:
        return _of_turn(one, one.turn)
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


def _of_turn(one: Fading, turn: Turn) -> tuple[str, ...]:
    fade = turn.fade
    if turn.of_white:
        ends = f"from {notation.kelvin(turn.first[0])} to {notation.kelvin(turn.last[0])} K"
        size, unit, digits = f"{turn.size:.0f} mired", "mired", 1
    else:
        ends = "from x {:.3f}, y {:.3f} to x {:.3f}, y {:.3f}".format(*turn.first, *turn.last)
        size, unit, digits = f"{turn.size:.3f} in u', v'", "in u', v'", 3
    took = f"{one.name}: {ends} in {notation.plain(fade.real_s, 2)} s"
    if one.asked_s is not None:
        took += f", asked were {notation.plain(one.asked_s, 2)} s"
    found = [f"{took}, {notation.plain(fade.lag_s, 2)} s into the recording; the whole way is {size}."]
    is_even = fade.law == "power" and abs(fade.exponent - 1.0) < EVEN_EXPONENT and fade.off_law <= OFF_LAW_SHARE
    found.append(
        "It goes evenly with time." if is_even else "It does not go evenly with time: faster here, slower there."
    )
    if fade.stepped and turn.largest_step is not None:
        found.append(f"It goes in {len(fade.steps)} steps, the largest {turn.largest_step:.{digits}f} {unit}.")
    else:
        found.append("No steps are seen in it at the rate of this recording.")
    if turn.astray > ASTRAY_UV:
        found.append(f"It leaves the straight way between the two colours by up to {turn.astray:.3f} in u', v'.")
    if turn.level_stops is not None and turn.level_stops > LEVEL_STOPS:
        found.append(f"The level moves by {turn.level_stops:.1f} stops on the way.")
    if fade.back > BACK_SHARE:
        found.append(f"It went back by {100.0 * fade.back:.0f} % of the way.")
    return tuple(found)


def _law(fade: Fade) -> str:
    if fade.off_law > OFF_LAW_SHARE:
        return f"It follows no plain law: {100.0 * fade.off_law:.0f} % of the change from the nearest."
    if fade.law == "power":
        if abs(fade.exponent - 1.0) < EVEN_EXPONENT:
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


def asked_in(text: str) -> tuple[float | None, float | None]:
    """What is typed of a fade: the seconds that were asked, and of a film its frames a second, `5 s; 25 fps`. Raises
    `CameraError`."""
    seconds, fps = None, None
    for part in (one.strip() for one in text.split(";") if one.strip()):
        if part.lower().endswith("fps"):
            fps = seconds_in(part[:-3])
        else:
            seconds = seconds_in(part)
    return seconds, fps


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
    levels = [f for f in fadings if f.turn is None]
    ups, downs = [f for f in levels if f.fade.rising], [f for f in levels if not f.fade.rising]
    if len(ups) != 1 or len(downs) != 1:
        return ""
    off = 100.0 * apart(ups[0].fade, downs[0].fade)
    return f"Up and down lie up to {off:.0f} % of the change apart, one run backwards."
