"""Films and folders of frames: what is said of them, and as plain values."""

from pathlib import Path
from typing import Any

from even_beam.camera.film import FilmSeen, film_seen
from even_beam.formats.errors import FormatError
from even_beam.formats.frames import WHOLE, Area, rows_of
from even_beam.words import notation


def area_in(text: str) -> Area:
    """An area as `left,top,right,bottom`, shares of the picture. Raises `FormatError`."""
    if not text.strip():
        return WHOLE
    try:
        left, top, right, bottom = (float(part) for part in text.split(","))
    except ValueError as error:
        raise FormatError(
            f"“{text}” is no area; write left,top,right,bottom as shares, such as 0.4,0.4,0.6,0.6"
        ) from error
    return left, top, right, bottom


def film_file(path: Path, fps: float, area: Area = WHOLE) -> FilmSeen:
    """The film of a file or a folder. Raises `FormatError` and `CameraError`."""
    return film_seen(rows_of(path, area), fps)


def film_json(one: FilmSeen) -> dict[str, Any]:
    """A film as plain values (docs/file-format.md)."""
    return {
        "frames": int(one.levels.size),
        "fps": one.fps,
        "frame_to_frame_pct": one.frame_to_frame_pct,
        "band_depth_pct": one.band_depth_pct,
        "beat_hz": one.beat_hz,
        "verdict": one.verdict,
        "shows": one.shows,
        "levels": [float(v) for v in one.levels],
    }


def sentences_of(one: FilmSeen) -> tuple[str, ...]:
    """What a film says."""
    found = [
        f"{one.levels.size} frames: the level moves by {one.frame_to_frame_pct:.1f} % from frame to frame, rows within"
        f" a frame by {one.band_depth_pct:.1f} %: {one.shows}."
    ]
    if one.beat_hz is not None and one.verdict != "steady":
        found.append(f"It beats at {notation.plain(one.beat_hz, 2)} Hz in the film.")
    found.append("Bands that stand still cannot be told from what is in the picture.")
    return tuple(found)
