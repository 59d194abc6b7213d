"""Luminous intensity as ANSI/IES LM-63-2019, written and read: photometric type C, TILT=NONE.

The order of the fields is from memory of the standard and agrees with the reference library's reader (a test holds
it); so are the numbers of the file generation type.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import decode

FIRST_LINE = "IES:LM-63-2019"
UNACCREDITED, SIMULATED = 1.0, 1.0001
"""The file generation types used here: a test at a laboratory without accreditation, and a computer simulation."""
MOST_POINTS = 100_000
LONGEST_LINE = 256


@dataclass(frozen=True, eq=False, slots=True)
class Photometry:
    """Candela by vertical angle (v,), from 0 at the beam axis, and horizontal plane (h,): shape (h, v).

    `keywords` are the file's own words in order; `width_m`, `length_m` and `height_m` are the luminous opening.
    """

    vertical_deg: NDArray[np.float64]
    horizontal_deg: NDArray[np.float64]
    candela: NDArray[np.float64]
    keywords: Mapping[str, Sequence[str]] = field(default_factory=dict)
    width_m: float = 0.0
    length_m: float = 0.0
    height_m: float = 0.0
    watts: float = 0.0
    generation_type: float = UNACCREDITED


def write(photometry: Photometry) -> str:
    """The text of a file; every line within what the standard allows."""
    lines = [FIRST_LINE]
    for word, texts in photometry.keywords.items():
        for number, text in enumerate(texts):
            lines.append(f"[{word if number == 0 else 'MORE'}] {_ascii(text)}"[:LONGEST_LINE])
    lines += [
        "TILT=NONE",
        # lamps, lumens a lamp (-1: absolute photometry), multiplier, angles, planes, type C, metres, opening
        f"1 -1 1 {photometry.vertical_deg.size} {photometry.horizontal_deg.size} 1 2"
        f" {photometry.width_m:g} {photometry.length_m:g} {photometry.height_m:g}",
        f"1 {photometry.generation_type:.5f} {photometry.watts:g}",
        *_wrapped(photometry.vertical_deg),
        *_wrapped(photometry.horizontal_deg),
    ]
    for plane in photometry.candela:
        lines += _wrapped(plane)
    return "\r\n".join(lines) + "\r\n"


def _ascii(text: str) -> str:
    """The standard knows no other signs."""
    plain = text.replace("\u2212", "-").replace("\u202f", "").replace("·", ",").replace("°", " deg")
    return plain.encode("ascii", "replace").decode().replace("\n", " ")


def _wrapped(values: NDArray[np.float64]) -> list[str]:
    """Numbers in lines of at most ten."""
    texts = [f"{value:.6g}" for value in values]
    return [" ".join(texts[start : start + 10]) for start in range(0, len(texts), 10)]


def read(data: bytes, name: str) -> Photometry:
    """The intensities of a file of LM-63 of any year. Raises `FormatError`."""
    lines = decode(data).splitlines()
    if not lines or not lines[0].strip().upper().startswith("IES"):
        raise FormatError(f"{name}: it does not begin with “IES”, as files of LM-63 do")
    tilt = next((i for i, line in enumerate(lines) if line.strip().upper().startswith("TILT=")), None)
    if tilt is None or lines[tilt].strip().upper() != "TILT=NONE":
        raise FormatError(f"{name}: only TILT=NONE is understood")
    try:
        numbers = np.array([float(text) for line in lines[tilt + 1 :] for text in line.replace(",", " ").split()])
    except ValueError as error:
        raise FormatError(f"{name}: {error} where a number belongs") from error
    if numbers.size < 13 or not np.isfinite(numbers).all():
        raise FormatError(f"{name}: cut off, or a number in it is none")
    _, _, multiplier, verticals, planes, kind, units, width, length, height = numbers[:10]
    ballast, generation, watts = numbers[10:13]
    if kind != 1:
        raise FormatError(f"{name}: photometric type {kind:g}; only type C (1) is understood")
    v, h = int(verticals), int(planes)
    if not (v > 0 and h > 0 and v * h <= MOST_POINTS and numbers.size == 13 + v + h + v * h):
        raise FormatError(f"{name}: {v} angles in {h} planes, but {numbers.size - 13} numbers")
    metre = 1.0 if units == 2 else 0.3048
    rest = numbers[13:]
    return Photometry(
        vertical_deg=rest[:v],
        horizontal_deg=rest[v : v + h],
        candela=rest[v + h :].reshape(h, v) * multiplier * ballast,
        keywords=_keywords(lines[1:tilt]),
        width_m=width * metre,
        length_m=length * metre,
        height_m=height * metre,
        watts=watts,
        generation_type=generation,
    )


def _keywords(lines: Sequence[str]) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    last = ""
    for line in lines:
        word, sign, text = line.strip().removeprefix("[").partition("]")
        if sign:
            last = last if word == "MORE" else word
            found.setdefault(last, []).append(text.strip())
    return found
