"""Delimited text with spectra: the shapes in which instruments write them.

Comma, semicolon, tab or blanks; decimal comma; header and key-value lines before the numbers; spectra in columns
or in rows; nanometres or micrometres; W, mW or uW per m2 or cm2; ascending or descending.
"""

import re
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum, decode

MAX_LINES = 200_000
MIN_POINTS = 8

_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?|nan|inf|-inf", re.IGNORECASE)


class _Layout(NamedTuple):
    delimiter: str | None
    decimal: str

    @property
    def words(self) -> str:
        name = {",": "comma", ";": "semicolon", "\t": "tab", None: "blanks"}[self.delimiter]
        return f"separated by {name}" + (", decimal comma" if self.decimal == "," else "")


_LAYOUTS = (
    _Layout("\t", "."), _Layout("\t", ","), _Layout(";", "."), _Layout(";", ","), _Layout(",", "."),
    _Layout(None, "."), _Layout(None, ","),
)  # fmt: skip


class _Block(NamedTuple):
    layout: _Layout
    start: int
    numbers: NDArray[np.float64]


def read(data: bytes, name: str) -> list[NamedSpectrum]:
    """All spectra of a delimited text. Raises `FormatError`."""
    lines = decode(data).splitlines()
    if len(lines) > MAX_LINES:
        raise FormatError(f"{name}: {len(lines)} lines are too many for a file of spectra")
    block = max((_block(lines, layout) for layout in _LAYOUTS), key=lambda b: b.numbers.size)
    if block.numbers.shape[0] < MIN_POINTS and block.numbers.shape[1] < MIN_POINTS:
        raise FormatError(
            f"{name}: no table of wavelengths and values was found; expected two or more columns of numbers, such as “380,0.0123”"
        )
    if _is_axis(block.numbers[:, 0]) or block.numbers.shape[0] >= MIN_POINTS:
        axis, columns = block.numbers[:, 0], block.numbers[:, 1:].T
        labels = _labels(lines, block)
        layout_words = "in columns"
    else:
        axis, columns = block.numbers[0], block.numbers[1:]
        labels = ()
        layout_words = "in rows"
    if not _is_axis(axis):
        raise FormatError(f"{name}: the first column does not look like wavelengths (380, 385, 390 ...)")
    return _spectra(
        name, axis, columns, labels, f"{block.layout.words}, {layout_words}", " ".join(lines[: block.start])
    )


def _cells(line: str, layout: _Layout) -> list[str]:
    cells = line.split(layout.delimiter)
    stripped = [cell.strip().strip('"') for cell in cells]
    while stripped and not stripped[-1]:
        stripped.pop()
    return stripped


def _parse(cells: list[str], layout: _Layout) -> list[float] | None:
    if layout.decimal == ",":
        cells = [cell.replace(",", ".") if cell.count(",") == 1 and "." not in cell else cell for cell in cells]
    if len(cells) < 2 or not all(_NUMBER.fullmatch(cell) for cell in cells):
        return None
    return [float(cell) for cell in cells]


def _block(lines: list[str], layout: _Layout) -> _Block:
    """The longest run of lines with the same count of numbers."""
    best_start, best = 0, np.empty((0, 0))
    start, rows = 0, [[0.0]][:0]
    for index, line in enumerate([*lines, ""]):
        parsed = _parse(_cells(line, layout), layout) if line.strip() else None
        if parsed is not None and (not rows or len(parsed) == len(rows[0])):
            start = start if rows else index
            rows.append(parsed)
            continue
        if len(rows) * (len(rows[0]) if rows else 0) > best.size:
            best_start, best = start, np.array(rows)
        start, rows = index, [parsed] if parsed is not None else []
    return _Block(layout, best_start, best)


def _is_axis(values: NDArray[np.float64]) -> bool:
    """Wavelengths: monotonic and in the range of nanometres or micrometres."""
    steps = np.diff(values)
    monotonic = bool(np.all(steps > 0) or np.all(steps < 0))
    nanometres = 100.0 <= values.min() and values.max() <= 5000.0
    return values.size >= MIN_POINTS and monotonic and (nanometres or _micrometres(values))


def _micrometres(values: NDArray[np.float64]) -> bool:
    return bool(0.1 <= values.min() and values.max() <= 5.0)


def _labels(lines: list[str], block: _Block) -> tuple[str, ...]:
    """Column names from the line before the numbers, when it has as many cells."""
    if block.start == 0:
        return ()
    cells = _cells(lines[block.start - 1], block.layout)
    return tuple(cells[1:]) if len(cells) == block.numbers.shape[1] else ()


def _spectra(
    name: str, axis: NDArray[np.float64], columns: NDArray[np.float64], labels: tuple[str, ...], how: str, preamble: str
) -> list[NamedSpectrum]:
    order = slice(None) if axis[-1] > axis[0] else slice(None, None, -1)
    micrometres = _micrometres(axis)
    wavelength = axis[order] * (1000.0 if micrometres else 1.0)
    factor, unit = _irradiance_unit(preamble)
    per_nanometre = 1e-3 if factor is not None and re.search(r"/\s*(µm|um|μm)\b", preamble) else 1.0
    found = []
    for index, column in enumerate(columns):
        label = labels[index] if index < len(labels) else ""
        title = name if len(columns) == 1 else f"{name} {label or index + 1}"
        values = column[order] * ((factor or 1.0) * per_nanometre)
        understood = f"{how}, {'micrometres' if micrometres else 'nanometres'}, {unit}"
        found.append(
            NamedSpectrum(
                title, np.ascontiguousarray(wavelength), np.ascontiguousarray(values), factor is not None, understood
            )
        )
    return found


_IRRADIANCE = re.compile(
    r"(?<![A-Za-z])([mµuμ]?)W\s*(?:/|\s|·|\*)?\s*\(?\s*(c?)m\s*(?:\^|\*\*)?\s*-?(?:2|²)", re.IGNORECASE
)
_PREFIXES = {"": 1.0, "m": 1e-3, "µ": 1e-6, "u": 1e-6, "μ": 1e-6}


def _irradiance_unit(preamble: str) -> tuple[float | None, str]:
    """The factor to W m-2, None when no irradiance unit is named: then the values are relative."""
    match = _IRRADIANCE.search(preamble)
    if match is None:
        return None, "relative values"
    factor = _PREFIXES[match[1].lower()] * (1e4 if match[2] else 1.0)
    return factor, f"{match[1]}W/{match[2]}m² per nm"
