"""Moving pictures in: a folder of frames, or a film where a reader for it is installed, as light against time."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.camera.photo import linear_of_srgb, luminance
from even_beam.formats.errors import FormatError
from even_beam.formats.photo_file import read_photograph
from even_beam.light import FloatArray

FRAME_SUFFIXES = frozenset({".png", ".tif", ".tiff", ".jpg", ".jpeg"})
FILM_SUFFIXES = frozenset({".mp4", ".mov", ".mkv", ".avi", ".webm", ".mxf"})
MOST_FRAMES = 20_000
LEAST_FRAMES = 3

Area = tuple[float, float, float, float]
WHOLE: Area = (0.0, 0.0, 1.0, 1.0)


def rows_of(path: Path, area: Area = WHOLE) -> FloatArray:
    """The mean linear light of each row of each frame, shape (frames, rows).

    `area` is left, top, right and bottom as shares of the picture. Frames of a folder go by their names. Raises
    `FormatError`.
    """
    left, top, right, bottom = area
    if not (0.0 <= left < right <= 1.0 and 0.0 <= top < bottom <= 1.0):
        raise FormatError("an area is left, top, right and bottom as shares of the picture, from 0 to 1")
    found: list[FloatArray] = []
    for picture in _of_folder(path) if path.is_dir() else _of_film(path):
        height, width = picture.shape[:2]
        part = picture[int(top * height) : max(int(bottom * height), int(top * height) + 1)]
        part = part[:, int(left * width) : max(int(right * width), int(left * width) + 1)]
        found.append(part.mean(axis=1))
        if len(found) > MOST_FRAMES:
            raise FormatError(f"{path.name}: more than {MOST_FRAMES} frames; cut the film")
        if found[0].shape != found[-1].shape:
            raise FormatError(f"{path.name}: frame {len(found)} is of another size than the first")
    if len(found) < LEAST_FRAMES:
        raise FormatError(f"{path.name}: fewer than {LEAST_FRAMES} frames were found")
    return np.array(found)


def is_film(path: Path) -> bool:
    """Whether a path is a film, or a folder, whose frames are one."""
    return path.is_dir() or path.suffix.lower() in FILM_SUFFIXES


def rate_of(path: Path) -> float | None:
    """The frames a second that a film says itself; None for a folder, or where films are not read."""
    if path.is_dir():
        return None
    try:
        import av
    except ImportError:
        return None
    try:
        with av.open(str(path)) as film:
            rate = film.streams.video[0].average_rate if film.streams.video else None
            return float(rate) if rate else None
    except av.FFmpegError:
        return None


def _of_folder(path: Path) -> Iterator[FloatArray]:
    for file in sorted(p for p in path.iterdir() if p.suffix.lower() in FRAME_SUFFIXES):
        photo = read_photograph(file)
        yield luminance(photo.decode(photo.pixels))


def _of_film(path: Path) -> Iterator[FloatArray]:
    """By the luma of the film, taken as sRGB: films seldom say more."""
    if path.suffix.lower() not in FILM_SUFFIXES:
        raise FormatError(f"{path.name}: a film, or a folder of frames as PNG, TIFF or JPEG, is read")
    try:
        import av  # an extra: a folder of frames does without
    except ImportError:
        raise FormatError(
            f"{path.name}: films are read where PyAV is installed (pip install 'even-beam[video]'); or write its frames"
            " into a folder as PNG"
        ) from None
    try:
        with av.open(str(path)) as film:
            for frame in film.decode(video=0):
                yield linear_of_srgb(_luma(frame) / 255.0)
    except av.FFmpegError as error:
        raise FormatError(f"{path.name} cannot be read as a film ({error}). Nothing was kept") from error


def _luma(frame: Any) -> FloatArray:
    return np.asarray(frame.to_ndarray(format="gray"), np.float64)
