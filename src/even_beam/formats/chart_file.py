"""Charts of one's own as JSON: where patches lie in their field, and what colours or reflectances they have."""

import json
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.camera.chart import ColourChart, Patch, labs_of_reflectances
from even_beam.camera.errors import CameraError
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import decode, read_bytes
from even_beam.light import SpectrumError
from even_beam.light.spectra import resample, validate

MOST_PATCHES = 400

LARGEST = 1e9
"""No place, size or colour of a chart is larger; what is no number is not smaller either."""


def read_chart_file(path: Path) -> ColourChart:
    """A chart of one's own. Raises `FormatError` naming the patch that is wrong.

    `{"name", "aspect", "columns", "rows", "patches": [{"name", "x", "y", "width", "height", "lab" or "wavelength_nm"
    with "reflectance", "grey", "skin"}]}`: places and sizes as shares of the field, from its upper left; `lab` on D65.
    """
    try:
        data = json.loads(decode(read_bytes(path)))
    except (ValueError, RecursionError) as error:
        raise FormatError(f"{path.name} is no JSON ({error})") from error
    if not isinstance(data, dict) or not isinstance(data.get("patches"), list) or not data["patches"]:
        raise FormatError(f"{path.name}: a chart is an object with a list of “patches”")
    if len(data["patches"]) > MOST_PATCHES:
        raise FormatError(f"{path.name}: a chart has at most {MOST_PATCHES} patches")
    patches = tuple(_patch(one, number, path.name) for number, one in enumerate(data["patches"], start=1))
    name = str(data.get("name") or path.stem)
    try:
        return ColourChart(
            name,
            _number(data, "aspect", path.name, 1.5),
            patches,
            int(_number(data, "columns", path.name, 0.0)),
            int(_number(data, "rows", path.name, 0.0)),
        )
    except CameraError as error:
        raise FormatError(f"{path.name}: {error}") from error


def _patch(one: Any, number: int, file: str) -> Patch:
    at = f"{file}, patch {number}"
    if not isinstance(one, dict):
        raise FormatError(f"{at}: a patch is an object")
    x, y, width, height = (_number(one, key, at) for key in ("x", "y", "width", "height"))
    if not (0.0 < width <= 1.0 and 0.0 < height <= 1.0 and 0.0 <= x <= 1.0 and 0.0 <= y <= 1.0):
        raise FormatError(f"{at}: places and sizes are shares of the field, from 0 to 1")
    return Patch(
        str(one.get("name") or f"patch {number}"), x, y, width, height, _lab(one, at), bool(one.get("grey")),
        bool(one.get("skin")),
    )  # fmt: skip


def _lab(one: dict[str, Any], at: str) -> tuple[float, float, float]:
    if "lab" in one:
        colour = _numbers(one, "lab", at)
        if len(colour) != 3 or not 0.0 <= colour[0] <= 110.0:
            raise FormatError(f"{at}: “lab” is L*, a*, b*")
    else:
        wavelength, reflectance = (
            np.array(_numbers(one, "wavelength_nm", at)),
            np.array(_numbers(one, "reflectance", at)),
        )
        if wavelength.shape != reflectance.shape:
            raise FormatError(f"{at}: “wavelength_nm” and “reflectance” are of different lengths")
        if reflectance.size and not (reflectance.min() >= 0.0 and reflectance.max() <= 1.2):
            raise FormatError(f"{at}: a reflectance lies between 0 and 1")
        try:
            validate(wavelength, reflectance)
        except SpectrumError as error:
            raise FormatError(f"{at}: {error}") from error
        colour = labs_of_reflectances(resample(wavelength, reflectance)[None])[0].tolist()
    return colour[0], colour[1], colour[2]


def _numbers(one: dict[str, Any], key: str, at: str) -> list[float]:
    values = one.get(key)
    if not isinstance(values, list) or not all(_is_number(v) for v in values):
        raise FormatError(f"{at}: “{key}” is a list of numbers")
    return [float(v) for v in values]


def _number(one: dict[str, Any], key: str, at: str, otherwise: float | None = None) -> float:
    value: Any = one.get(key, otherwise)
    if not _is_number(value):
        raise FormatError(f"{at}: “{key}” is a number")
    return float(value)


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) < LARGEST
