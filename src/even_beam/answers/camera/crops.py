"""Parts of photographs side by side: as a picture with names, and as plain values."""

import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from even_beam.camera.chart import ColourChart
from even_beam.camera.chart_comparison import ChartReading, read_chart
from even_beam.camera.crops import Box, Crop, apart, crop_of
from even_beam.camera.photo import Photograph
from even_beam.fonts import font_data
from even_beam.formats.errors import FormatError
from even_beam.formats.photo_file import read_photograph

HEIGHT_PX, GAP_PX, NAME_PX = 480, 12, 34


def box_in(text: str) -> Box:
    """A part as `x,y;x,y`, two opposite corners in pixels. Raises `FormatError`."""
    try:
        (a, b), (c, d) = ((round(float(part)) for part in point.split(",")) for point in text.split(";"))
    except (ValueError, OverflowError) as error:
        raise FormatError(f"“{text}” is no part of a picture; write x,y;x,y in pixels") from error
    return min(a, c), min(b, d), max(a, c), max(b, d)


def crops_of(photos: Sequence[Path], box: Box, chart: ColourChart, *, balanced: bool) -> list[Crop]:
    """The same part of photographs, the benchmark first. Raises `FormatError` and `CameraError`."""
    found = []
    for path in photos:
        photo = read_photograph(path)
        found.append(crop_of(photo, read_chart(photo, chart), box, balanced=balanced))
    return found


def crops_json(crops: Sequence[Crop]) -> list[dict[str, Any]]:
    """Them as plain values (docs/file-format.md)."""
    return [
        {"file": one.name, "lab": [float(v) for v in one.mean_lab], "delta_e": apart(one, crops[0])} for one in crops
    ]


@dataclass(frozen=True, eq=False, slots=True)
class ShownPart:
    """A part as it is shown, shape (h, w, 3), and how far its mean is from the benchmark's (CIEDE2000)."""

    name: str
    picture: NDArray[np.uint8]
    delta_e: float


def shown_parts(charted: Sequence[tuple[Photograph, ChartReading]], box: Box, *, balanced: bool) -> list[ShownPart]:
    """The same part of photographs whose charts were read, the benchmark first. Raises `CameraError`."""
    crops = [crop_of(photo, reading, box, balanced=balanced) for photo, reading in charted]
    return [ShownPart(one.name, _picture(one), apart(one, crops[0])) for one in crops]


def _picture(one: Crop) -> NDArray[np.uint8]:
    return np.round(255.0 * one.shown(HEIGHT_PX)).astype(np.uint8)


def strip_of(crops: Sequence[Crop]) -> bytes:
    """All of them in a row with their names, as a PNG."""
    from PIL import Image, ImageDraw, ImageFont  # only where a picture is written

    pictures = [_picture(one) for one in crops]
    width = sum(p.shape[1] for p in pictures) + GAP_PX * (len(pictures) - 1)
    strip = Image.new("RGB", (width, HEIGHT_PX + NAME_PX), (17, 17, 17))
    draw = ImageDraw.Draw(strip)
    font = ImageFont.truetype(io.BytesIO(font_data("B612-Regular.otf")), 18)
    x = 0
    for one, picture in zip(crops, pictures, strict=True):
        strip.paste(Image.fromarray(picture), (x, 0))
        off = apart(one, crops[0])
        said = one.name if one is crops[0] else f"{one.name} · {off:.1f}"
        draw.text((x + 2, HEIGHT_PX + 8), said, fill=(236, 236, 236), font=font)
        x += picture.shape[1] + GAP_PX
    made = io.BytesIO()
    strip.save(made, "PNG")
    return made.getvalue()
