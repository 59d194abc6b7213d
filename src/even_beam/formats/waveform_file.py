"""Waveforms in: tables of time and light, and WAV files of a photodiode on a sound card."""

import io
import re
import warnings
from pathlib import Path

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.camera.waveform import Waveform, waveform_of
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import decode, read_bytes
from even_beam.light import FloatArray

MOST_BYTES = 600 * 1024 * 1024
TABLE_SUFFIXES = frozenset({".csv", ".tsv", ".txt"})
WAVEFORM_SUFFIXES = TABLE_SUFFIXES | {".wav"}

_UNITS = {"ms": 1e-3, "us": 1e-6, "µs": 1e-6, "μs": 1e-6, "ns": 1e-9, "min": 60.0}
_HEAD = 65_536

STEADY_SHARE = 0.2
"""A sound file whose mean is so much of its swing has kept the steady part of the light."""


def read_waveform(path: Path, mean: float | None = None) -> Waveform:
    """A waveform. `mean` is the steady part in the file's units where a recording lost it. Raises `FormatError`."""
    suffix = path.suffix.lower()
    if suffix not in WAVEFORM_SUFFIXES:
        raise FormatError(f"{path.name}: a waveform is a table of time and light (CSV), or a WAV file")
    data = read_bytes(path, MOST_BYTES)
    try:
        return _of_wav(path.name, data, mean) if suffix == ".wav" else _of_table(path.name, data)
    except CameraError as error:
        raise FormatError(f"{path.name}: {error}") from error


def _of_wav(name: str, data: bytes, mean: float | None) -> Waveform:
    from scipy.io import wavfile  # takes a moment to import, and only sound files need it

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", wavfile.WavFileWarning)  # of chunks that hold no sound
            rate, sound = wavfile.read(io.BytesIO(data))
    except Exception as error:  # the reader meets torn files with errors of every kind, some of them its own slips
        raise FormatError(f"{name} cannot be read as a WAV file ({error})") from error
    if rate <= 0:
        raise FormatError(f"{name} says that it has {rate} samples a second: its times cannot be told")
    light = np.asarray(sound[:, 0] if sound.ndim == 2 else sound, np.float64)
    if sound.dtype == np.uint8:
        light = light - 128.0
    full = 1.0 if sound.dtype.kind == "f" else float(2 ** (8 * sound.dtype.itemsize - 1))
    light = light / full
    said = ("only the first channel was taken",) if sound.ndim == 2 and sound.shape[1] > 1 else ()
    if light.size and float(np.abs(light).max()) >= 0.999:
        said = (*said, "the recording is at the end of its range: it may be cut off")
    if mean is not None:
        return Waveform(light - light.mean() + mean, float(rate), True, name, said)
    kept = bool(light.size) and light.min() >= 0.0 and float(light.mean()) > STEADY_SHARE * float(np.ptp(light))
    if kept:
        said = (*said, "the recording has a steady part: taken as the whole light (DC coupled)")
    return Waveform(light, float(rate), kept, name, said)


def _of_table(name: str, data: bytes) -> Waveform:
    first, seconds, light = _columns(name, data)
    return waveform_of(seconds * _scale(first), light, name=name)


def read_levels(path: Path) -> tuple[FloatArray, FloatArray]:
    """Times in seconds and levels of a table whose first two columns they are. Raises `FormatError`."""
    first, seconds, level = _columns(path.name, read_bytes(path, MOST_BYTES))
    return seconds * _scale(first), level


def _columns(name: str, data: bytes) -> tuple[str, FloatArray, FloatArray]:
    """The heading of the first column, and the first two columns, shapes (n,)."""
    if not data[:4096].isascii() or data[:4].count(0):
        data = decode(data).encode()
    head = data[:_HEAD].decode("utf-8", errors="replace").lstrip("\ufeff").splitlines()
    start = next((i for i, line in enumerate(head) if len(_figures(line)) >= 2), None)
    if start is None:
        raise FormatError(f"{name}: no line with a time and a light was found")
    heading = next((line for line in reversed(head[:start]) if line.strip() and not line.startswith("#")), "")
    separator = _separator(head[start])
    body = data.split(b"\n", start)[start] if start else data
    columns = len(_figures(head[start]))
    values = _parsed(body, separator, columns)
    if values is None:
        raise FormatError(f"{name}, {_wrong_line(data, start, columns)}: not a number in each of {columns} columns")
    if not np.isfinite(values).all():
        row = int(np.flatnonzero(~np.isfinite(values).all(axis=1))[0])
        raise FormatError(f"{name}, line {start + row + 1}: a value is missing or no number")
    return re.split(r"[,;\t]", heading)[0], values[:, 0], values[:, 1]


def _separator(line: str) -> str:
    """What parts the figures of a line; a comma beside another separator is a decimal one."""
    return next((mark for mark in (";", "\t") if mark in line), "," if "," in line else " ")


def _figures(line: str) -> list[float]:
    separator = _separator(line)
    parts = line.split(separator) if separator != " " else line.split()
    decimal = "," if separator != "," else "."
    try:
        return [float(part.replace(decimal, ".")) for part in parts if part.strip()]
    except ValueError:
        return []


def _parsed(body: bytes, separator: str, columns: int) -> FloatArray | None:
    """All figures at once: a minute at 100 kHz has twelve million. None where one is none."""
    text = body.replace(b"\r", b"")
    if separator != ",":
        text = text.replace(b",", b".")
    if separator in ";,":
        text = text.replace(separator.encode(), b" ")
    with warnings.catch_warnings():
        warnings.simplefilter("error", DeprecationWarning)  # how the parser says that it stopped early
        try:
            values = np.fromstring(text, sep=" ")
        except (DeprecationWarning, ValueError):
            return None
    lines = text.count(b"\n") + (not text.endswith(b"\n"))
    if values.size % columns or values.size // columns > lines:
        return None
    found: FloatArray = values.reshape(-1, columns)
    return found


def _wrong_line(data: bytes, start: int, columns: int) -> str:
    for number, line in enumerate(decode(data).splitlines()[start:], start=start + 1):
        if line.strip() and len(_figures(line)) != columns:
            return f"line {number}"
    return f"line {start + 1}"


def _scale(heading: str) -> float:
    """Seconds in the unit that a heading names; it is seconds where it names none."""
    words = re.findall(r"[a-zµμ]+", heading.lower())
    return next((_UNITS[word] for word in words if word in _UNITS), 1.0)
