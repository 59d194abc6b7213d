"""Delimited text with spectra: the shapes in which instruments write them.

Comma, semicolon, tab or blanks; decimal comma; header and key-value lines before the numbers; spectra in columns
or in rows; nanometres or micrometres; W, mW or uW per m2 or cm2; ascending or descending. How a file is read is a
`Mapping`: guessed from the file, shown to the user, changed where the guess is wrong, and kept for files of one shape.
"""

import re
from collections.abc import Mapping as AnyMapping
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum, decode

MAX_LINES = 200_000
MIN_POINTS = 8

DELIMITERS = {",": "comma", ";": "semicolon", "\t": "tab", " ": "blanks"}
UNITS: dict[str, float | None] = {
    "relative": None, "W/m2": 1.0, "mW/m2": 1e-3, "uW/m2": 1e-6, "W/cm2": 1e4, "mW/cm2": 10.0, "uW/cm2": 1e-2,
}  # fmt: skip
"""Units of irradiance per nm or µm, with their factor to W m-2; relative values are no irradiance."""

_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?|nan|inf|-inf", re.IGNORECASE)
_IRRADIANCE = re.compile(
    r"(?<![A-Za-z])([mµuμ]?)W\s*(?:/|\s|·|\*)?\s*\(?\s*(c?)m\s*(?:\^|\*\*)?\s*-?(?:2|²)", re.IGNORECASE
)
_PER_MICROMETRE = re.compile(r"/\s*(?:µm|um|μm)\b")


@dataclass(frozen=True, slots=True)
class Mapping:
    """How a delimited text is read. `columns` are the value columns (rows when `in_rows`), counted from 1; none means
    all. Where it is `labelled`, a name stands before the numbers of each row.
    """

    delimiter: str = ","
    decimal: str = "."
    first_line: int = 0
    in_rows: bool = False
    columns: tuple[int, ...] = ()
    micrometres: bool = False
    unit: str = "relative"
    per_micrometre: bool = False
    labelled: bool = False

    @property
    def words(self) -> str:
        """How a person would say it."""
        parts = [f"separated by {DELIMITERS[self.delimiter]}"]
        if self.decimal == ",":
            parts.append("decimal comma")
        parts.append("spectra in rows" if self.in_rows else "spectra in columns")
        parts += ["a name before each"] if self.labelled else []
        parts.append("micrometres" if self.micrometres else "nanometres")
        per = "µm" if self.per_micrometre else "nm"
        parts.append("relative values" if self.unit == "relative" else f"{self.unit} per {per}")
        return ", ".join(parts)

    def as_content(self) -> dict[str, Any]:
        """Plain values to keep."""
        return {**asdict(self), "columns": list(self.columns)}

    @classmethod
    def from_content(cls, content: AnyMapping[str, Any]) -> "Mapping":
        """A kept mapping. Raises `FormatError` for content of another kind."""
        try:
            return cls(**{**content, "columns": tuple(content.get("columns", ()))})
        except TypeError as error:
            raise FormatError(f"the kept mapping is not understood: {error}") from error


_LAYOUTS = (("\t", "."), ("\t", ","), (";", "."), (";", ","), (",", "."), (" ", "."), (" ", ","))


def text_lines(data: bytes, name: str) -> list[str]:
    """The lines of a text of bearable length. Raises `FormatError`."""
    lines = decode(data).splitlines()
    if len(lines) > MAX_LINES:
        raise FormatError(f"{name}: {len(lines)} lines are too many for a file of spectra")
    return lines


def read(data: bytes, name: str, mapping: Mapping | None = None) -> list[NamedSpectrum]:
    """All spectra of a delimited text, by a mapping or by the best guess. Raises `FormatError`."""
    return read_lines(text_lines(data, name), name, mapping)


def read_lines(lines: list[str], name: str, mapping: Mapping | None = None) -> list[NamedSpectrum]:
    """All spectra of lines of text. Raises `FormatError`."""
    mapping = mapping or guess(lines, name)
    numbers = _numbers(lines, mapping)
    if mapping.in_rows:
        axis, values = numbers[0], numbers[1:]
    else:
        axis, values = numbers[:, 0], numbers[:, 1:].T
    if not _is_axis(axis):
        raise FormatError(f"{name}: the first column does not look like wavelengths (380, 385, 390 ...)")
    labels = _row_names(lines, mapping, len(values)) if mapping.in_rows else _labels(lines, mapping, numbers.shape[1])
    chosen = [c - 1 for c in mapping.columns if 0 < c <= len(values)] or list(range(len(values)))
    return [
        _spectrum(name, axis, values[c], _title(labels, c, len(values), labelled=mapping.labelled), mapping)
        for c in chosen
    ]


def guess(lines: list[str], name: str) -> Mapping:
    """The likeliest mapping: the layout with the largest table of numbers. Raises `FormatError` when there is none."""
    best: tuple[int, Mapping, NDArray[np.float64]] | None = None
    for labelled in (False, True):
        for delimiter, decimal in _LAYOUTS:
            start, numbers = _longest_block(lines, delimiter, decimal, labelled=labelled)
            if labelled and (numbers.size == 0 or not _is_axis(numbers[0])):
                continue
            if best is None or numbers.size > best[2].size:
                best = (start, Mapping(delimiter, decimal, start, labelled=labelled), numbers)
        if best is not None and max(best[2].shape) >= MIN_POINTS:
            break
    if best is None or max(best[2].shape) < MIN_POINTS:
        raise FormatError(
            f"{name}: no table of wavelengths and values was found; expected two or more columns of numbers, such as"
            " “380,0.0123”"
        )
    start, mapping, numbers = best
    in_rows = mapping.labelled or (not _is_axis(numbers[:, 0]) and numbers.shape[0] < MIN_POINTS)
    axis = numbers[0] if in_rows else numbers[:, 0]
    preamble = " ".join(lines[:start])
    return Mapping(
        delimiter=mapping.delimiter,
        decimal=mapping.decimal,
        first_line=start,
        in_rows=in_rows,
        columns=(),
        micrometres=_micrometres(axis),
        unit=_unit(preamble),
        per_micrometre=bool(_PER_MICROMETRE.search(preamble)),
        labelled=mapping.labelled,
    )


def shape_of(lines: list[str], mapping: Mapping) -> str:
    """What files of one kind share: the number of columns and the words of their header, figures left out."""
    header = " ".join(re.sub(r"[\d.,:;/-]+", "#", line.strip()) for line in lines[: mapping.first_line])
    first = lines[mapping.first_line] if mapping.first_line < len(lines) else ""
    return f"{mapping.delimiter!r} {len(_cells(first, mapping.delimiter))} {header[:400]}"


def _cells(line: str, delimiter: str) -> list[str]:
    cells = [cell.strip().strip('"') for cell in (line.split() if delimiter == " " else line.split(delimiter))]
    while cells and not cells[-1]:
        cells.pop()
    return cells


def _parse(line: str, delimiter: str, decimal: str, *, labelled: bool = False) -> list[float] | None:
    cells = _cells(line, delimiter)[labelled:]
    if decimal == ",":
        cells = [cell.replace(",", ".") if cell.count(",") == 1 and "." not in cell else cell for cell in cells]
    if len(cells) < 2 or not all(_NUMBER.fullmatch(cell) for cell in cells):
        return None
    return [float(cell) for cell in cells]


def _longest_block(
    lines: list[str], delimiter: str, decimal: str, *, labelled: bool = False
) -> tuple[int, NDArray[np.float64]]:
    """The longest run of lines with the same count of numbers, and where it starts."""
    best_start, best = 0, np.empty((0, 0))
    start = 0
    rows: list[list[float]] = []
    for index, line in enumerate([*lines, ""]):
        parsed = _parse(line, delimiter, decimal, labelled=labelled) if line.strip() else None
        if parsed is not None and (not rows or len(parsed) == len(rows[0])):
            start = start if rows else index
            rows.append(parsed)
            continue
        if len(rows) * (len(rows[0]) if rows else 0) > best.size:
            best_start, best = start, np.array(rows)
        start, rows = index, [parsed] if parsed is not None else []
    return best_start, best


def _numbers(lines: list[str], mapping: Mapping) -> NDArray[np.float64]:
    """The table from the mapping's first line on, to the first line that does not belong to it."""
    rows: list[list[float]] = []
    for line in lines[mapping.first_line :]:
        parsed = _parse(line, mapping.delimiter, mapping.decimal, labelled=mapping.labelled)
        if parsed is None or (rows and len(parsed) != len(rows[0])):
            break
        rows.append(parsed)
    if not rows or max(len(rows), len(rows[0])) < MIN_POINTS:
        raise FormatError("read in this way there is no table of numbers here")
    return np.array(rows)


def _is_axis(values: NDArray[np.float64]) -> bool:
    """Wavelengths: monotonic and in the range of nanometres or micrometres."""
    steps = np.diff(values)
    monotonic = bool(np.all(steps > 0) or np.all(steps < 0))
    nanometres = 100.0 <= values.min() and values.max() <= 5000.0
    return values.size >= MIN_POINTS and monotonic and (nanometres or _micrometres(values))


def _micrometres(values: NDArray[np.float64]) -> bool:
    return bool(0.1 <= values.min() and values.max() <= 5.0)


def _unit(preamble: str) -> str:
    """The unit of irradiance named before the numbers, `relative` when there is none."""
    match = _IRRADIANCE.search(preamble)
    if match is None:
        return "relative"
    return f"{match[1].lower().replace('µ', 'u').replace('μ', 'u')}W/{match[2].lower()}m2"


def _row_names(lines: list[str], mapping: Mapping, count: int) -> tuple[str, ...]:
    """The names before the spectra of rows; the first row holds the wavelengths."""
    if not mapping.labelled:
        return ()
    rows = lines[mapping.first_line + 1 : mapping.first_line + 1 + count]
    return tuple(_cells(line, mapping.delimiter)[0] for line in rows)


def _labels(lines: list[str], mapping: Mapping, columns: int) -> tuple[str, ...]:
    """Column names from the line before the numbers, when it has as many cells."""
    if mapping.first_line == 0:
        return ()
    cells = _cells(lines[mapping.first_line - 1], mapping.delimiter)
    return tuple(cells[1:]) if len(cells) == columns else ()


def _title(labels: tuple[str, ...], index: int, count: int, *, labelled: bool) -> str:
    named = labels[index] if index < len(labels) else ""
    if count == 1:
        return named if labelled else ""
    return named or str(index + 1)


def _spectrum(
    name: str, axis: NDArray[np.float64], values: NDArray[np.float64], title: str, mapping: Mapping
) -> NamedSpectrum:
    order = slice(None) if axis[-1] > axis[0] else slice(None, None, -1)
    wavelength = axis[order] * (1000.0 if mapping.micrometres else 1.0)
    factor = UNITS.get(mapping.unit)
    scaled = values[order] * ((factor or 1.0) * (1e-3 if factor and mapping.per_micrometre else 1.0))
    return NamedSpectrum(
        f"{name} {title}".strip(),
        np.ascontiguousarray(wavelength),
        np.ascontiguousarray(scaled),
        factor is not None,
        mapping.words,
    )
