"""What every reader of spectra returns, and how files are taken in with a bound on their size."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from even_beam.files import reading
from even_beam.files.reading import InputError
from even_beam.formats.errors import FormatError

MAX_BYTES = 32 * 1024 * 1024


@dataclass(frozen=True, eq=False, slots=True)
class NamedSpectrum:
    """One spectrum of a file. `values` are W m-2 nm-1 when `absolute`; `understood` says how the file was read."""

    name: str
    wavelength_nm: NDArray[np.float64]
    values: NDArray[np.float64]
    absolute: bool = False
    understood: str = ""


def read_bytes(path: Path, most: int = MAX_BYTES) -> bytes:
    """The content of a file of bearable size, at most `most` bytes. Raises `FormatError`."""
    try:
        data = reading.read(path, most)
    except InputError as error:
        raise FormatError(str(error)) from error
    if not data.strip():
        raise FormatError(f"{path.name} is empty")
    return data


def decode(data: bytes) -> str:
    """Text in UTF-8 or UTF-16 (told by its mark or its zeros), else Latin-1. Raises `FormatError` for binary files."""
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", errors="replace")
    head = data[:512]
    if head[1::2].count(0) > len(head) // 4:
        return data.decode("utf-16-le", errors="replace")
    if head.count(0):
        raise FormatError("this is not a text file")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")
